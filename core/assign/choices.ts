import { entryOf } from '../base/entryOf.ts'
import { isLoad } from '../catalog/common.ts'
import type { Mode } from '../catalog/signalSchema.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Edit } from '../plan/edit.ts'
import { splitEnd } from '../plan/ends.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { PartInstance, SignalUse, SupplyUse, Wiring } from '../wiring/model.ts'
import type { AssignOptions, AssignResult } from './assign.ts'
import { hingesOf } from './conflict.ts'
import { lanesOf } from './lanes.ts'
import { openSignals, prepare } from './preparing.ts'

/** A mode or an address that the maker left open, taken other than usual. */
export interface Choice {
  readonly ref: string
  /** `SPI`, `address 0x77`. */
  readonly title: string
  readonly address?: number
  /** Set by a jumper or a pad on the module itself, not by a wire. */
  readonly isSoldered?: boolean
  /** The same for the same choice of parts of a kind that stand alike. */
  readonly likeness: string
  readonly edits: readonly Edit[]
}

/** Choices taken together, after which the rest is not looked at. */
export const MOST_CHOICES = 3

/** Other modes and addresses that a part may take: those that its plan does not name, and no wire holds yet. */
function openChoices(wiring: Wiring, part: PartInstance, options: AssignOptions): Choice[] {
  const entry = entryOf(wiring.plan.parts, part.ref)
  if (!entry || options.refs?.has(part.ref) === false) return []
  const wired = (pins: readonly string[]): boolean => pins.some((pin) => wiring.netOf(`${part.ref}.${pin}`).wired)
  const modes =
    entry.mode === undefined && !wired(part.part.pins.filter((pin) => pin.role === 'signal').map((pin) => pin.id))
      ? waysToJoin(part).filter((mode) => mode !== part.mode)
      : []
  const option = part.part.options.find((one) => one.id === part.mode?.i2c?.addresses.option)
  const straps = wiring.ties.filter(
    ({ part: owner, facts }) => owner === part && typeof facts.to !== 'string' && facts.to.option === option?.id,
  )
  const values =
    option && entryOf(entry.options, option.id) === undefined && !wired(straps.map(({ facts }) => facts.pin))
      ? option.values.filter(({ value }) => value !== entryOf(part.options, option.id))
      : []
  const likeness = JSON.stringify([part.part.id, part.home?.ref, part.mode?.id, part.options, isFree(wiring, part)])
  return [
    ...modes.map(
      (mode): Choice => ({
        ref: part.ref,
        title: mode.title,
        likeness: `${likeness} ${mode.id}`,
        edits: [{ do: 'change-part', ref: part.ref, entry: { mode: mode.id } }],
      }),
    ),
    ...values.flatMap(({ value }): Choice[] =>
      option && typeof value === 'number'
        ? [
            {
              ref: part.ref,
              title: `address ${hexAddress(value)}`,
              likeness: `${likeness} ${value}`,
              address: value,
              isSoldered: straps.length === 0,
              edits: [
                { do: 'change-part', ref: part.ref, entry: { options: { ...entry.options, [option.id]: value } } },
              ],
            },
          ]
        : [],
    ),
  ]
}

/** Without any wire, one of a kind is like the other; with wires each is its own. */
const isFree = (wiring: Wiring, part: PartInstance): string =>
  part.part.pins.some(({ id }) => wiring.netOf(`${part.ref}.${id}`).wired) ? part.ref : ''

/**
 * Modes of a part that differ in how it is joined, not in what it does: by the bus over which it is talked to, or by the
 * outputs that drive it.
 */
export function waysToJoin({ part, mode }: PartInstance): readonly Mode[] {
  const talks = (one: Mode): boolean => (one.i2c ?? one.spi ?? one.uart) !== undefined
  const isDriven = (one: Mode): boolean => one.signals.length > 0 && one.signals.every(({ needs }) => isLoad(needs))
  if (!mode) return []
  return talks(mode) ? part.modes.filter(talks) : isDriven(mode) ? part.modes.filter(isDriven) : []
}

/** Choices of parts of which one must change before they all find pins. */
export function mendingChoices(wiring: Wiring, options: AssignOptions): Choice[] {
  const fed = prepare(wiring).wiring
  const known = new Map<PartInstance, Choice[]>()
  const choicesOf = (part: PartInstance): Choice[] => {
    const choices = known.get(part) ?? openChoices(wiring, part, options)
    known.set(part, choices)
    return choices
  }
  const canChange = (part: PartInstance): boolean => choicesOf(part).length > 0
  const isMoving = (part: PartInstance): boolean => choicesOf(part).some(({ address }) => address === undefined)
  // What stays without a pin whatever is chosen says nothing of others that a choice helps.
  const open = openSignals(fed)
  for (const lost = new Set<PartInstance>(); ; ) {
    const left = open.filter(({ part }) => !lost.has(part))
    const hinges = hingesOf(fed, left, canChange)
    const stuck = hinges.find((one) => !isMoving(one) && isOneTooMany(fed, one, left))
    if (!stuck) return hinges.flatMap(choicesOf)
    lost.add(stuck)
  }
}

/** True for a part with an address that nothing moves, and that as many others have as there are buses. */
function isOneTooMany(wiring: Wiring, one: PartInstance, open: readonly SignalUse[]): boolean {
  const fixed = (part: PartInstance): number[] =>
    addressesOf(part).flatMap(({ address, option, shared }) => (option === undefined && !shared ? [address] : []))
  if (one.mode?.i2c?.off !== undefined) return false
  const buses = lanesOf(wiring).filter(
    ({ board, controller }) => board === one.home && controller.kind === 'i2c',
  ).length
  const others = new Set(open.flatMap(({ part }) => (part !== one && part.home === one.home ? [part] : [])))
  return fixed(one).some((address) => [...others].filter((part) => fixed(part).includes(address)).length >= buses)
}

/**
 * Jumpers of parts for which a source of the kit gives too much, which the plan leaves open, set another way. Where there is
 * only the board to feed it a motor would hang on that.
 */
export const jumpersSet = (wiring: Wiring, { refs }: AssignOptions, unplaced: AssignResult['unplaced']): Choice[] => {
  const boards = new Set(wiring.boards.map(({ ref }) => ref))
  const given = wiring.nets.flatMap(({ sources }) =>
    sources.flatMap(({ ref, volts }) => (boards.has(ref) ? [] : volts)),
  )
  const tooMuch = lackingSupplies(wiring, unplaced).filter(({ facts }) => given.some((volts) => volts > facts.most))
  const lacking = new Set(tooMuch.flatMap(({ pins }) => pins.map((end) => splitEnd(end).ref)))
  return wiring.parts.flatMap(({ ref, part }) => {
    const entry = entryOf(wiring.plan.parts, ref)
    if (!entry || !lacking.has(ref) || refs?.has(ref) === false) return []
    return part.options.flatMap(({ id, title, isJumper, usual, values }) =>
      isJumper && entryOf(entry.options, id) === undefined
        ? values.flatMap(({ value }): Choice[] =>
            value === usual
              ? []
              : [
                  {
                    ref,
                    title: `${title}: ${value}`,
                    likeness: `${part.id} ${value}`,
                    edits: [{ do: 'change-part', ref, entry: { options: { ...entry.options, [id]: value } } }],
                  },
                ],
          )
        : [],
    )
  })
}

/**
 * Converters whose output nobody has set yet, set to the volts of what finds no supply: those that it is usually given, or
 * the middle of its range.
 */
export function convertersSet(wiring: Wiring, { refs }: AssignOptions, unplaced: AssignResult['unplaced']): Choice[] {
  const wanted = lackingSupplies(wiring, unplaced).map(
    ({ facts: { usual, least, most } }) => usual ?? Math.round(5 * (least + most)) / 10,
  )
  return wiring.parts.flatMap(({ ref, part }) => {
    const [rail, ...more] = part.rails
    const entry = entryOf(wiring.plan.parts, ref)
    if (!entry || refs?.has(ref) === false || rail?.from === undefined || more.length > 0) return []
    const id = typeof rail.volts === 'object' ? rail.volts.option : undefined
    const option = part.options.find((one) => one.id === id)
    if (option?.kind !== 'amount' || entryOf(entry.options, option.id) !== undefined) return []
    if (wiring.netOf(`${ref}.${rail.pin}`).wired) return []
    return [...new Set(wanted)]
      .filter((volts) => volts !== option.usual && volts >= (option.least ?? 0) && volts <= (option.most ?? volts))
      .map(
        (volts): Choice => ({
          ref,
          title: `set to ${formatVolts(volts)}`,
          likeness: `${part.id} ${volts}`,
          edits: [{ do: 'change-part', ref, entry: { options: { ...entry.options, [option.id]: volts } } }],
        }),
      )
  })
}

/**
 * Addresses that the plan leaves open, counted up in the order of the kit: the first part keeps what is usual, the next
 * takes the next one that it can be set to. Parts `of a kind` are told apart from the start, by their straps, and those
 * that give more pins by their jumpers as well; `all` of a board, by whatever sets them, where not everything finds its
 * place otherwise.
 */
export function countUp(wiring: Wiring, options: AssignOptions, among: 'of a kind' | 'all'): Choice[] {
  const taken = new Map<string, Set<number>>()
  const at = ({ home, part }: PartInstance): Set<number> => {
    const key = among === 'all' ? `${home?.ref}` : `${home?.ref} ${part.id}`
    const known = taken.get(key) ?? new Set<number>()
    taken.set(key, known)
    return known
  }
  const open = new Map(
    wiring.parts.map((part) => [
      part,
      openChoices(wiring, part, options).filter(
        ({ address, isSoldered }) =>
          address !== undefined && (!isSoldered || among === 'all' || part.part.provides.length > 0),
      ),
    ]),
  )
  for (const [part, choices] of open)
    if (choices.length === 0) for (const { address, shared } of addressesOf(part)) if (!shared) at(part).add(address)
  return [...open].flatMap(([part, choices]): Choice[] => {
    if (choices.length === 0) return []
    const mine = addressesOf(part).flatMap(({ address, shared }) => (shared ? [] : [address]))
    const used = at(part)
    const choice = mine.some((one) => used.has(one))
      ? choices.find((one) => !used.has(one.address as number))
      : undefined
    if (choice) used.add(choice.address as number)
    else for (const one of mine) used.add(one)
    return choice ? [choice] : []
  })
}

/** Supplies that find no source, with the part. */
export const lackingSupplies = (wiring: Wiring, unplaced: AssignResult['unplaced']): SupplyUse[] => {
  const left = new Set(unplaced.map(({ end }) => end))
  return wiring.parts.flatMap(({ supplies }) => supplies.filter(({ pins }) => pins.some((end) => left.has(end))))
}
