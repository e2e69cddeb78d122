import { litDiodes } from '../circuit/lit.ts'
import { drivesOf, readingsOf } from '../firmware/drives.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { busEnds, glows, isFed, isHeldLow } from './alive.ts'

/**
 * How a thing does while the maker's program runs, as one sees it without measuring:
 * - `right`: as planned;
 * - `dead`: no supply, or nothing moves it: dark, still, silent;
 * - `deaf`: it has its supply, and what it is told, or what it tells, does not arrive;
 * - `always`: it is on whatever the program does;
 * - `odd`: it does something, and not what it should.
 */
export const conditions = ['right', 'dead', 'deaf', 'always', 'odd'] as const
export type Condition = (typeof conditions)[number]

/** Something that a maker notices without any step. */
export interface Notice {
  /** `works:REF`; what was noticed is an outcome of that. */
  readonly id: string
  readonly ref: string
  readonly words: string
  /** `wrong` where several conditions look alike. */
  readonly saw: 'wrong' | { readonly outcome: Condition }
}

/** What one may notice of each board and part of a plan, in plan order. */
export function noticesOf(wiring: Wiring): Notice[] {
  const of = (ref: string, words: string, condition?: Condition): Notice => ({
    id: worksId(ref),
    ref,
    words: `${ref} ${words}`,
    saw: condition ? { outcome: condition } : 'wrong',
  })
  const moved = new Set(drivesOf(wiring).map(({ part }) => part))
  const contacts = new Set(readingsOf(wiring).flatMap(({ use, contact }) => (contact ? [use.part] : [])))
  return [
    ...wiring.boards.map(({ ref }) => of(ref, 'does nothing at all, its power lamp is dark', 'dead')),
    ...wiring.parts.flatMap((part): Notice[] => {
      const { ref } = part
      if (part.part.category === 'display')
        return [
          of(ref, 'stays dark', 'dead'),
          of(ref, 'has power, but shows nothing or rubbish', 'deaf'),
          of(ref, 'does not show what it should'),
        ]
      if (moved.has(part))
        return part.part.category === 'light'
          ? [
              of(ref, 'stays dark', 'dead'),
              of(ref, 'is lit whatever the program does', 'always'),
              of(ref, 'lights at the wrong time, or glares', 'odd'),
            ]
          : [
              of(ref, 'does nothing', 'dead'),
              of(ref, 'is on whatever the program does', 'always'),
              of(ref, 'moves the wrong way, or at the wrong time', 'odd'),
            ]
      if (contacts.has(part))
        return [of(ref, 'is pressed or moved and nothing changes', 'deaf'), of(ref, 'reads the other way round', 'odd')]
      if (!wiring.signals.some((use) => use.part === part)) return []
      if (part.part.category === 'driver' || part.part.category === 'load')
        return [of(ref, 'has no power: it is limp, cold, dark', 'dead'), of(ref, 'does nothing, or not what it should')]
      return [of(ref, 'gives no answer, or values that cannot be')]
    }),
  ]
}

export const worksId = (ref: string): string => `works:${ref}`

/** The condition of each board and part of a plan on a build that follows another wiring. */
export function conditionsOf(plan: Wiring, built: Wiring): Map<string, Condition> {
  const found = new Map<string, Condition>()
  const dead = new Set<string>()
  for (const board of plan.boards) {
    const alive = isAlive(board, built)
    if (!alive) dead.add(board.ref)
    found.set(worksId(board.ref), alive ? 'right' : 'dead')
  }
  const shown = (wiring: Wiring, part: PartInstance): string =>
    drivesOf(wiring)
      .filter((drive) => drive.part.ref === part.ref && glows(wiring, part.ref) !== 'dark')
      .map(({ does, when }) => `${does} ${when.map(({ host, level }) => `${host.end} ${level}`).join(' ')}`)
      .sort()
      .join('; ')
  for (const part of plan.parts) {
    const same = built.parts.find(({ ref }) => ref === part.ref)
    found.set(
      worksId(part.ref),
      !same || (part.home && dead.has(part.home.ref)) ? 'dead' : conditionOf(plan, built, part, same, shown),
    )
  }
  return found
}

function conditionOf(
  plan: Wiring,
  built: Wiring,
  part: PartInstance,
  same: PartInstance,
  shown: (wiring: Wiring, part: PartInstance) => string,
): Condition {
  if (!isFed(built, part.ref) && isFed(plan, part.ref)) return 'dead'
  for (const [at, { source }] of part.supplies.entries())
    if (source && same.supplies[at]?.source?.volts !== source.volts) return 'dead'
  const planned = shown(plan, part)
  if (planned !== '') {
    const now = shown(built, part)
    if (now === planned) return glows(built, part.ref) === glows(plan, part.ref) ? 'right' : 'odd'
    if (now !== '') return /\S \S+ (high|low)/.test(now) ? 'odd' : 'always'
    return litDiodes(built).some((one) => one.part.ref === part.ref && glows(built, part.ref) !== 'dark')
      ? 'always'
      : 'dead'
  }
  const contact = (wiring: Wiring): string =>
    readingsOf(wiring)
      .filter((one) => one.use.part.ref === part.ref && one.contact)
      .map((one) => `${one.host.end} ${one.contact?.high}`)
      .sort()
      .join('; ')
  if (contact(plan) !== '' && contact(built) !== contact(plan))
    return contact(built) !== '' &&
      contact(built).replace(/open|closed/g, '') === contact(plan).replace(/open|closed/g, '')
      ? 'odd'
      : 'deaf'
  return hears(plan, built, part, same) ? 'right' : 'deaf'
}

/** True when every line of a part leads where it should, and nobody holds its bus. */
function hears(plan: Wiring, built: Wiring, part: PartInstance, same: PartInstance): boolean {
  const hosts = (wiring: Wiring, one: PartInstance): string =>
    wiring.signals
      .filter(({ part: own }) => own === one)
      .map(({ end, hosts: on }) => `${end} ${on.map(({ host }) => host.end).sort()}`)
      .sort()
      .join('; ')
  if (hosts(plan, part) !== hosts(built, same)) return false
  const addresses = (one: PartInstance): string =>
    addressesOf(one)
      .map(({ address }) => address)
      .join(' ')
  if (addresses(part) !== addresses(same)) return false
  return plan.buses
    .filter((bus) => bus.kind === 'i2c' && bus.parts.includes(part))
    .every((bus) => !isHeldLow(built, busEnds(bus)))
}

/** A board without its feed, or with a supply of its own on ground, does nothing. */
function isAlive(planned: BoardInstance, built: Wiring): boolean {
  const board = built.boards.find(({ ref }) => ref === planned.ref)
  if (!board || board.feed !== planned.feed) return false
  return board.board.rails.every(({ pins }) => pins.every((pin) => !built.netOf(`${board.ref}.${pin}`).ground))
}
