import { entryOf } from '../base/entryOf.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { Net, PartInstance, Wiring } from './model.ts'
import { groundEnd, supplyEnd } from './supply.ts'

/** Devices that share one pair of I2C lines. */
export interface I2cSegment {
  readonly sda: Net
  readonly parts: readonly PartInstance[]
  /** Devices that hear the same traffic while the bus switch in front of this segment is set to it. */
  readonly upstream: readonly PartInstance[]
}

export function segmentsOf(wiring: Wiring): I2cSegment[] {
  const bySda = new Map<Net, PartInstance[]>()
  for (const use of wiring.signals) {
    if (use.facts.needs !== 'i2c.sda' || !use.part.mode?.i2c) continue
    const net = wiring.netOf(use.end)
    if (!net.wired) continue
    bySda.set(net, [...(bySda.get(net) ?? []), use.part])
  }
  const upstream = (sda: Net, depth: number): PartInstance[] => {
    const provider = sda.ends
      .map((end) => wiring.terminal(end)?.host?.provider)
      .find((part) =>
        part?.part.controllers.some(
          (one) => one.switched && one.kind === 'i2c' && wiring.netOf(`${part.ref}.${one.pins.sda}`) === sda,
        ),
      )
    const above = provider && [...bySda].find(([net, parts]) => net !== sda && parts.includes(provider))
    return above && depth < 8 ? [...above[1], ...upstream(above[0], depth + 1)] : []
  }
  return [...bySda].map(([sda, parts]) => ({ sda, parts, upstream: upstream(sda, 0) }))
}

/** A seven-bit address of a device, the option that sets it, and whether all of its kind answer to it together. */
export interface DeviceAddress {
  readonly address: number
  readonly option: string | undefined
  readonly shared: boolean
}

export function addressesOf(part: PartInstance): DeviceAddress[] {
  const addresses = part.mode?.i2c?.addresses
  if (!addresses) return []
  const chosen = addresses.option === undefined ? undefined : entryOf(part.options, addresses.option)
  return [
    ...addresses.fixed.map((address) => ({ address, option: undefined, shared: false })),
    ...(typeof chosen === 'number' ? [{ address: chosen, option: addresses.option, shared: false }] : []),
    ...addresses.shared.map((address) => ({ address, option: undefined, shared: true })),
  ]
}

/** Parts of the catalogue that can have an address, the usual ones first. */
export const partsAt = (catalog: Catalog, address: number): Part[] =>
  [...catalog.parts.values()]
    .filter((part) =>
      part.modes.some(({ i2c }) => {
        if (!i2c) return false
        const option = part.options.find((one) => one.id === i2c.addresses.option)
        return i2c.addresses.fixed.includes(address) || option?.values.some(({ value }) => value === address) === true
      }),
    )
    .sort((a, b) => Number(b.usual) - Number(a.usual))

/** Two devices cannot both have an address: unless it is one to which all of their kind answer together. */
export const excludes = (one: PartInstance, two: PartInstance, address: number): boolean =>
  one.part.id !== two.part.id ||
  ![one, two].every((part) => addressesOf(part).some((each) => each.address === address && each.shared))

/** Moves a device from a clashing address to each free one of its straps, straps rewired. */
export function addressFixes(wiring: Wiring, segment: I2cSegment, part: PartInstance, clashing: number): Fix[] {
  const option = addressesOf(part).find((one) => one.address === clashing)?.option
  const facts = part.part.options.find((one) => one.id === option)
  if (option === undefined || !facts) return []
  const taken = new Set(
    [...segment.parts, ...segment.upstream].flatMap((one) => addressesOf(one).map((two) => two.address)),
  )
  return facts.values
    .filter(
      (value) =>
        typeof value.value === 'number' && !taken.has(value.value) && value.value >= 0x08 && value.value <= 0x77,
    )
    .slice(0, 2)
    .flatMap((value): Fix[] => {
      const strap = strapEdits(wiring, part, option, String(value.value))
      const entry = entryOf(wiring.plan.parts, part.ref)
      if (!strap || !entry) return []
      const change: Edit = {
        do: 'change-part',
        ref: part.ref,
        entry: { options: { ...entry.options, [option]: value.value } },
      }
      return [
        {
          title: `Move ${part.ref} to ${hexAddress(Number(value.value))}${value.title ? ` (${value.title})` : ''}`,
          edits: [change, ...strap],
        },
      ]
    })
}

/** Edits that bring the straps of an option to a new value; undefined when a locked wire stands in the way. */
export function strapEdits(wiring: Wiring, part: PartInstance, option: string, value: string): Edit[] | undefined {
  const edits: Edit[] = []
  for (const tie of wiring.ties) {
    const to = tie.facts.to
    if (tie.part !== part || typeof to === 'string' || to.option !== option) continue
    const wanted = entryOf(to.values, value)
    if (wanted === undefined || wanted === tie.to) continue
    const wires = wiring.plan.wires.filter((wire) => wire[0] === tie.end || wire[1] === tie.end)
    if (wires.length === 0) continue
    if (wires.some((wire) => wire[2]?.locked)) return undefined
    const target =
      wanted === 'ground'
        ? groundEnd(wiring, part)
        : wanted === 'supply'
          ? supplyEnd(wiring, part)
          : `${part.ref}.${wanted}`
    if (target === undefined) return undefined
    edits.push(...wires.map((wire): Edit => ({ do: 'disconnect', from: wire[0], to: wire[1] })), {
      do: 'connect',
      from: tie.end,
      to: target,
    })
  }
  return edits
}
