import { memo } from '../base/memo.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { cut, type Fault, isWired, lay } from './fault.ts'
import { chipsTurned, coldJoints, countedWrong, deadPins } from './handFaults.ts'

/** Everything that may have gone wrong once in a build of this plan, in a fixed order. */
export const faultsOf = memo((wiring: Wiring): readonly Fault[] => [
  ...missing(wiring),
  ...coldJoints(wiring),
  ...exchanged(wiring),
  ...rowOff(wiring),
  ...turned(wiring),
  ...chipsTurned(wiring),
  ...countedWrong(wiring),
  ...deadPins(wiring),
  ...wrongSupply(wiring),
  ...straps(wiring),
  ...decades(wiring),
])

const missing = (wiring: Wiring): Fault[] =>
  wiring.plan.wires.map((wire) => ({
    id: `missing:${wire[0]}-${wire[1]}`,
    kind: 'missing',
    words: `the wire ${wire[0]} to ${wire[1]} is missing or loose`,
    edits: [cut(wire)],
    at: [wire[0], wire[1]],
  }))

/** Wires of one part that lead to different posts: each where the other belongs. */
function exchanged(wiring: Wiring): Fault[] {
  const byPart = new Map<string, { own: string; far: string; wire: PlanWire }[]>()
  for (const wire of wiring.plan.wires)
    for (const [own, far] of [
      [wire[0], wire[1]],
      [wire[1], wire[0]],
    ] as const) {
      const { ref } = splitEnd(own)
      if (wiring.terminal(own)?.owner.kind !== 'part') continue
      byPart.set(ref, [...(byPart.get(ref) ?? []), { own, far, wire }])
    }
  const found: Fault[] = []
  for (const ends of byPart.values())
    for (const [at, one] of ends.entries()) {
      const two = ends[at + 1]
      // People exchange what lies side by side.
      if (!two || one.own === two.own || wiring.netOf(one.far) === wiring.netOf(two.far)) continue
      if (isWired(wiring, one.own, two.far) || isWired(wiring, two.own, one.far)) continue
      found.push({
        id: `exchanged:${one.own}-${two.own}`,
        kind: 'exchanged',
        words: `${one.own} and ${two.own} are exchanged`,
        edits: [cut(one.wire), cut(two.wire), lay(one.own, two.far), lay(two.own, one.far)],
        at: [one.own, two.own],
      })
    }
  return found
}

/** A wire on the post beside the one where it belongs. */
function rowOff(wiring: Wiring): Fault[] {
  return wiring.plan.wires.flatMap((wire) =>
    ([0, 1] as const).flatMap((side): Fault[] => {
      const [post, own] = side === 0 ? [wire[0], wire[1]] : [wire[1], wire[0]]
      const terminal = wiring.terminal(post)
      const pin = terminal?.boardPin
      if (!pin || terminal?.owner.kind !== 'board') return []
      const by = pin.header.columns === 2 ? 2 : 1
      return [-by, by].flatMap((step): Fault[] => {
        const next =
          terminal.owner.kind === 'board'
            ? terminal.owner.facts.pins.find((one) => one.header === pin.header && one.position === pin.position + step)
            : undefined
        const end = next && `${terminal.ref}.${next.id}`
        if (end === undefined || isWired(wiring, own, end) || wiring.netOf(end) === wiring.netOf(post)) return []
        return [
          {
            id: `row-off:${own}-${end}`,
            kind: 'row-off',
            words: `${own} is on ${end} instead of ${post}`,
            edits: [cut(wire), lay(own, end)],
            at: [own, end],
          },
        ]
      })
    }),
  )
}

/** A part of two legs with each leg where the other belongs. */
function turned(wiring: Wiring): Fault[] {
  return wiring.parts.flatMap((part): Fault[] => {
    if (!part.part.polarised || part.part.pins.length !== 2) return []
    const [a, b] = part.part.pins.map(({ id }) => `${part.ref}.${id}`) as [string, string]
    const wires = wiring.plan.wires.filter(([from, to]) => [from, to].some((end) => end === a || end === b))
    const other = (end: string): string => (end === a ? b : end === b ? a : end)
    if (wires.length === 0) return []
    return [
      {
        id: `turned:${part.ref}`,
        kind: 'turned',
        words: `${part.ref} is turned round`,
        edits: [...wires.map(cut), ...wires.map(([from, to]) => lay(other(from), other(to)))],
        at: [part.ref],
      },
    ]
  })
}

/** A part fed from another supply of the same board. */
function wrongSupply(wiring: Wiring): Fault[] {
  return wiring.parts.flatMap((part) =>
    part.supplies.flatMap((use): Fault[] => {
      const pin = `${part.ref}.${use.facts.pins[0]}`
      const wire = wiring.plan.wires.find(([from, to]) => from === pin || to === pin)
      const board = part.home
      if (!wire || !use.source || !board) return []
      const far = wire[0] === pin ? wire[1] : wire[0]
      const rail = board.board.rails.find(({ pins }) => !pins.includes(splitEnd(far).pin))
      const end = rail && `${board.ref}.${rail.pins[0]}`
      if (end === undefined || wiring.netOf(end) === wiring.netOf(far) || isWired(wiring, pin, end)) return []
      return [
        {
          id: `supply:${pin}`,
          kind: 'supply',
          words: `${pin} is on ${end} instead of ${far}`,
          edits: [cut(wire), lay(pin, end)],
          at: [pin, end],
        },
      ]
    }),
  )
}

/** A device that has another address than the plan says. */
function straps(wiring: Wiring): Fault[] {
  return wiring.parts.flatMap((part: PartInstance): Fault[] => {
    const own = addressesOf(part).find(({ option }) => option !== undefined)
    const option = part.part.options.find((one) => one.id === own?.option)
    if (!own || !option) return []
    return option.values.slice(0, 4).flatMap(({ value }): Fault[] =>
      typeof value !== 'number' || value === own.address
        ? []
        : [
            {
              id: `strap:${part.ref}-${hexAddress(value)}`,
              kind: 'strap',
              words: `${part.ref} is strapped to ${hexAddress(value)} instead of ${hexAddress(own.address)}`,
              edits: [
                {
                  do: 'change-part',
                  ref: part.ref,
                  entry: { options: { ...wiring.plan.parts[part.ref]?.options, [option.id]: value } },
                },
              ],
              at: [part.ref],
            },
          ],
    )
  })
}

function decades(wiring: Wiring): Fault[] {
  return wiring.parts.flatMap((part): Fault[] => {
    const { ohms } = part.options
    if (part.part.id !== 'resistor' || typeof ohms !== 'number') return []
    return [100, 0.1].map(
      (times): Fault => ({
        id: `decade:${part.ref}-${times}`,
        kind: 'decade',
        words: `${part.ref} is ${formatQuantity(ohms * times, 'Ω')} instead of ${formatQuantity(ohms, 'Ω')}`,
        edits: [
          {
            do: 'change-part',
            ref: part.ref,
            entry: { options: { ...wiring.plan.parts[part.ref]?.options, ohms: ohms * times } },
          },
        ],
        at: [part.ref],
      }),
    )
  })
}
