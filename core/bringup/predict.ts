import { analogSpan } from '../circuit/analog.ts'
import { drivesOf, readingsOf } from '../firmware/drives.ts'
import { linesOf } from '../firmware/lines.ts'
import { splitEnd } from '../plan/ends.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { sourcesOf } from '../wiring/supply.ts'
import { busEnds, glows, isFed, isHeldLow } from './alive.ts'
import { continuityTouches } from './continuity.ts'
import type { Build } from './fault.ts'
import { faultsOf } from './faults.ts'
import type { PlacedTouch } from './laid.ts'
import { metalOf } from './metal.ts'
import { conditionsOf, noticesOf } from './notices.ts'
import { fedAt } from './powerSteps.ts'
import { scanId } from './signalSteps.ts'

/** A measurement that can be made on a build, with its effort: touching two places 1, more where hands must work. */
export interface Measurement {
  readonly id: string
  readonly words: string
  readonly effort: number
  /** Chance that a person reads it wrongly. */
  readonly misread: number
}

/** Chance that ears and eyes err; a board hardly ever does. */
export const BY_PERSON = 0.03
const BY_BOARD = 0.01

/** Everything that can be measured on a build of a plan. */
export function measurementsOf(wiring: Wiring): Measurement[] {
  const touches = wiring.plan.wires.map(
    ([from, to]): Measurement => ({
      id: `wire:${from}-${to}`,
      words: `touch ${from} and ${to}: it must sound`,
      effort: 1,
      misread: BY_PERSON,
    }),
  )
  // What lies on the post beside is found by touching it.
  const beside = faultsOf(wiring).flatMap((fault): Measurement[] => {
    const [own, post] = fault.at
    return fault.kind === 'row-off' && own !== undefined && post !== undefined
      ? [
          {
            id: `apart:${own}-${post}`,
            words: `touch ${own} and ${post}: it must stay silent`,
            effort: 1,
            misread: BY_PERSON,
          },
        ]
      : []
  })
  const paths = continuityTouches(wiring, metalOf(wiring, undefined))
    .filter(({ hears, proves }) => hears === 'sounds' && proves.length > 1)
    .map(
      ({ id, a, b }): Measurement => ({
        id,
        words: `touch ${a.id} and ${b.id}: it must sound`,
        effort: 1,
        misread: BY_PERSON,
      }),
    )
  const fed = wiring.parts.flatMap((part) =>
    part.supplies
      .filter(({ source }) => source !== undefined)
      .map(
        ({ facts }): Measurement => ({
          id: `volts:${part.ref}.${facts.pins[0]}`,
          words: `measure the volts at ${part.ref}.${facts.pins[0]} against ground`,
          effort: 1,
          misread: BY_PERSON,
        }),
      ),
  )
  const board = (id: string, words: string): Measurement => ({ id, words, effort: 1, misread: BY_BOARD })
  const lines = linesOf(wiring).filter(({ host, bus }) => host.board && !bus)
  const drives = drivesOf(wiring)
  const own = lines.flatMap((line): Measurement[] => {
    const { end, facts } = line.use
    if (facts.needs === 'analog-in') return [board(`adc:${end}`, `let the board read ${end}`)]
    if (readingsOf(wiring).some(({ use, contact }) => use === line.use && contact))
      return [board(`in:${end}`, `let the board read ${end}, at rest and pressed`)]
    if (drives.some(({ when }) => when.some(({ host }) => host === line.host)))
      return [{ id: `out:${end}`, words: `let the board drive ${end} and look`, effort: 1, misread: BY_PERSON }]
    return []
  })
  const resistors = wiring.parts
    .filter(({ part }) => part.id === 'resistor')
    .map(
      ({ ref }): Measurement => ({
        id: `ohms:${ref}`,
        words: `lift one leg of ${ref} and measure its ohms, or read its rings`,
        effort: 2,
        misread: BY_PERSON,
      }),
    )
  const scans = wiring.buses.flatMap((bus): Measurement[] =>
    bus.kind === 'i2c' && bus.board && bus.controller !== undefined
      ? [board(scanId(wiring, bus.board.ref, bus.controller), `scan ${bus.controller} of ${bus.board.ref}`)]
      : [],
  )
  return [
    ...scans,
    ...own,
    ...fed,
    ...paths,
    ...touches,
    ...beside,
    ...looks(wiring),
    ...working(wiring),
    ...pressed(wiring),
    ...pinsAlone(wiring),
    ...resistors,
  ]
}

/** What can be seen to stand the wrong way round. */
const looks = (wiring: Wiring): Measurement[] =>
  faultsOf(wiring)
    .filter(({ kind }) => kind === 'turned' || kind === 'chip')
    .map(({ at: [ref = ''] }) => ({
      id: `look:${ref}`,
      words: `look which way round ${ref} stands: its notch, ring, long leg or the mark on its plug`,
      effort: 1,
      misread: BY_PERSON,
    }))

/** Wires that are moved or pressed on while the program runs: only a bad contact comes alive by it. */
const pressed = (wiring: Wiring): Measurement[] => [
  ...wiring.parts
    .filter(({ ref }) => wiring.plan.wires.some(([from, to]) => splitEnd(from).ref === ref || splitEnd(to).ref === ref))
    .map(({ ref }) => ({
      id: `wiggle:${ref}`,
      words: `move the wires of ${ref} gently while it runs, and look whether something comes alive`,
      effort: 1,
      misread: BY_PERSON,
    })),
  ...wiring.plan.wires.map(([from, to]) => ({
    id: `press:${from}-${to}`,
    words: `press on both ends of the wire ${from} to ${to} while it runs, and look whether something comes alive`,
    effort: 1,
    misread: BY_PERSON,
  })),
]

/** Whether a part does what it should while the maker's program runs. */
const working = (wiring: Wiring): Measurement[] =>
  noticesOf(wiring)
    .filter(({ id }, at, all) => all.findIndex((one) => one.id === id) === at)
    .map(({ id, ref }) => ({
      id,
      words: `let your program run, and look whether ${ref} does what it should`,
      effort: 1,
      misread: BY_PERSON,
    }))

/** A pin of a board by itself, with nothing on it. */
const pinsAlone = (wiring: Wiring): Measurement[] =>
  [...new Set(linesOf(wiring).flatMap(({ host }) => (host.board ? [host.end] : [])))].map((end) => ({
    id: `pin:${end}`,
    words: `take everything off ${end} and try the pin by itself: driven, a meter must follow; read, it must follow a wire to ground`,
    effort: 3,
    misread: BY_PERSON,
  }))

/**
 * What each measurement of a plan gives on a build that follows another wiring: a word that is the same exactly when the
 * same is seen, touches of the laid-out build among them. Pins and ends are those of the plan, since that is where the maker measures.
 */
export function outcomesOf(
  plan: Wiring,
  { metal, live: built, shows }: Build,
  placed: readonly PlacedTouch[] = [],
): Map<string, string> {
  const outcomes = new Map<string, string>()
  const touch = (a: string, b: string): string => (metal.netOf(a) === metal.netOf(b) ? 'sounds' : 'silent')
  for (const { id } of pressed(plan)) outcomes.set(id, 'no change')
  for (const { id } of pinsAlone(plan)) outcomes.set(id, 'follows')
  for (const [from, to] of plan.plan.wires) outcomes.set(`wire:${from}-${to}`, touch(from, to))
  for (const { kind, at } of faultsOf(plan))
    if (kind === 'row-off') outcomes.set(`apart:${at[0]}-${at[1]}`, touch(at[0] ?? '', at[1] ?? ''))
  for (const { id, a, b } of continuityTouches(plan, metalOf(plan, undefined))) outcomes.set(id, touch(a.id, b.id))
  for (const { id, a, b } of placed) outcomes.set(id, touch(a, b))
  for (const { id } of looks(plan)) outcomes.set(id, 'right')
  for (const { kind, edits, at } of faultsOf(plan))
    if (kind === 'turned' && edits.every((one) => one.do !== 'connect' || touch(one.from, one.to) === 'sounds'))
      outcomes.set(`look:${at[0]}`, 'turned')
  for (const part of plan.parts)
    for (const { facts, source } of part.supplies) {
      if (!source) continue
      const end = `${part.ref}.${facts.pins[0]}`
      const net = built.netOf(end)
      outcomes.set(`volts:${end}`, net.ground ? '0' : net.sources[0] ? String(net.sources[0].volts) : 'nothing')
    }
  for (const source of sourcesOf(plan)) {
    const net = built.netOf(fedAt(plan, source))
    outcomes.set(`volts:${source.end}`, net.ground ? '0' : net.sources[0] ? String(net.sources[0].volts) : 'nothing')
  }
  for (const part of plan.parts) {
    const same = built.parts.find(({ ref }) => ref === part.ref)
    if (part.part.id === 'resistor') outcomes.set(`ohms:${part.ref}`, String(same?.options.ohms))
  }
  const drives = drivesOf(built)
  const readings = readingsOf(built)
  for (const line of linesOf(plan)) {
    const { end } = line.use
    const host = line.host.end
    const seen = drives
      .filter(({ when }) => when.some((one) => one.host.end === host))
      .filter(({ part }) => glows(built, part.ref) !== 'dark')
      .map(({ part, does, when }) => {
        const level = when.find((one) => one.host.end === host)?.level
        return `${part.ref} ${does} ${level} ${glows(built, part.ref) === 'glaring' ? 'glaring' : ''}`
      })
      .filter((text) => isFed(built, text.split(' ')[0] ?? ''))
    outcomes.set(`out:${end}`, seen.sort().join('; '))
    const reading = readings.find((one) => one.host.end === host && one.contact)
    outcomes.set(`in:${end}`, reading?.contact ? `${reading.use.part.ref} ${reading.contact.high}` : 'stuck')
    outcomes.set(`adc:${end}`, analogAt(built, host))
  }
  for (const bus of plan.buses) {
    if (bus.kind !== 'i2c' || !bus.board || bus.controller === undefined) continue
    const pins = busEnds(bus)
    const answers = built.parts.filter((part) => answersOn(built, part, pins))
    const addresses = answers.flatMap((part) =>
      addressesOf(part)
        .filter(({ shared }) => !shared)
        .map(({ address }) => address),
    )
    // A line that is held low keeps everybody silent.
    outcomes.set(
      scanId(plan, bus.board.ref, bus.controller),
      isHeldLow(built, pins) ? 'hangs' : [...new Set(addresses)].sort((a, b) => a - b).join(' '),
    )
  }
  for (const [id, condition] of conditionsOf(plan, built)) outcomes.set(id, condition)
  for (const [id, outcome] of Object.entries(shows)) outcomes.set(id, outcome)
  return outcomes
}

function answersOn(built: Wiring, part: PartInstance, pins: ReadonlyMap<string, readonly string[]>): boolean {
  if (!part.mode?.i2c || !isFed(built, part.ref)) return false
  return ['sda', 'scl'].every((signal) => {
    const own = built.signals.find((use) => use.part === part && use.facts.needs === `i2c.${signal}`)
    return own?.hosts.some(({ host }) => pins.get(signal)?.includes(host.end)) === true
  })
}

/** What a pin that is read as analog sees: how far it goes, or that nothing or not enough is there. */
function analogAt(built: Wiring, host: string): string {
  const use = built.signals.find(
    (one) => one.facts.needs === 'analog-in' && one.hosts.some((two) => two.host.end === host),
  )
  if (!use || !isFed(built, use.part.ref)) {
    const net = built.netOf(host)
    return net.ground ? 'low' : net.sources.length > 0 ? 'high' : 'floats'
  }
  const span = analogSpan(built, use)
  const others = use.part.part.inner
    .filter((one) => one.kind === 'resistance' && one.between.includes(use.facts.pin))
    .flatMap(({ between }) => between.filter((pin) => pin !== use.facts.pin))
    .map((pin) => built.netOf(`${use.part.ref}.${pin}`))
  const ends = others.map((net) => (net.ground ? 'g' : net.sources[0] ? String(net.sources[0].volts) : '-')).sort()
  return `${use.part.ref} to ${span?.most ?? '?'} ${ends.join('')}`
}
