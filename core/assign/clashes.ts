import { libraryFor } from '../wiring/libraryPulses.ts'
import type { BoardInstance, Host, SignalUse } from '../wiring/model.ts'
import type { Matched, Pick, PinTable } from './pinTable.ts'
import type { Claim, SearchProblem } from './searchProblem.ts'

/** One way to settle a clash: these lines keep off these pins. */
interface Way {
  readonly lines: ReadonlySet<Claim>
  readonly hosts: ReadonlySet<Host>
}

/** Matchings of branched timers and interrupt lines, after which the search gives up proving. */
const MOST_BRANCHES = 400

/**
 * Minds what a matching does not: a timer holds one frequency, an interrupt line one edge, a PWM channel one pulse. Where
 * two signals clash, one frequency or one signal keeps the timer, the line or the channel, and the others leave it
 * altogether; every choice is tried.
 */
export class Clashes {
  readonly #problem: SearchProblem
  readonly #pins: PinTable
  #branches = 0

  constructor(problem: SearchProblem, pins: PinTable) {
    this.#problem = problem
    this.#pins = pins
  }

  /** True when there were too many choices to try all. */
  get gaveUp(): boolean {
    return this.#branches >= MOST_BRANCHES
  }

  /** The cheapest matching without a clash below a limit; undefined when there is none. */
  settle(matched: Matched, limit: number): Matched | undefined {
    if (matched.matching.total() >= limit) return undefined
    const ways = this.#firstClash(this.#pins.picks(matched))
    if (!ways) return matched
    const after = ways.map(({ lines, hosts }) => {
      this.#branches += 1
      return this.#pins.matchAll(
        matched.lines.map((line) =>
          lines.has(line) ? { ...line, choices: line.choices.filter(({ host }) => !hosts.has(host)) } : line,
        ),
      )
    })
    after.sort((a, b) => a.matching.total() - b.matching.total())
    let best: Matched | undefined
    // When the branches are used up, the cheapest way is taken and nothing is proven any more.
    for (const one of this.gaveUp ? after.slice(0, 1) : after)
      best = this.settle(one, best?.matching.total() ?? limit) ?? best
    return best
  }

  #firstClash(picks: readonly Pick[]): readonly Way[] | undefined {
    const timers = new Map<string, number>()
    const owners = new Map<string, Claim | undefined>()
    const look = (use: SignalUse, host: Host, line: Claim | undefined): readonly Way[] | undefined => {
      const timer = timerOf(use, host)
      if (timer) {
        const known = timers.get(timer.key)
        if (known !== undefined && known !== use.facts.hertz && line)
          return this.#byFrequency(picks, timer.key, this.#heldFrequency(timer.key))
        if (known === undefined) timers.set(timer.key, use.facts.hertz as number)
      }
      for (const takes of [edgeOf, channelOf]) {
        const key = takes(use, host)
        if (key === undefined) continue
        if (owners.has(key) && line) return this.#byOwner(picks, takes, key, owners.get(key))
        owners.set(key, line)
      }
      return undefined
    }
    for (const use of this.#problem.timed) for (const { host } of use.hosts) look(use, host, undefined)
    for (const { line, host } of picks) {
      const use = line.uses[0]
      const ways = host && use && look(use, host, line)
      if (ways) return ways
    }
    return undefined
  }

  /** Frequency at which a timer runs already. */
  #heldFrequency(key: string): number | undefined {
    const holder = this.#problem.timed.find((use) => use.hosts.some(({ host }) => timerOf(use, host)?.key === key))
    return holder?.facts.hertz
  }

  /** One frequency stays on the timer. */
  #byFrequency(picks: readonly Pick[], key: string, held: number | undefined): Way[] {
    const { lines, hosts } = reaching(picks, (use, host) => timerOf(use, host)?.key === key)
    const hertzOf = (line: Claim): number | undefined => line.uses[0]?.facts.hertz
    const frequencies = held === undefined ? [...new Set(lines.map(hertzOf))] : [held]
    return frequencies.map((hertz) => ({ lines: new Set(lines.filter((line) => hertzOf(line) !== hertz)), hosts }))
  }

  /** One signal keeps the interrupt line or the PWM channel; of those that are alike the one that has it. */
  #byOwner(picks: readonly Pick[], takes: typeof edgeOf, key: string, first: Claim | undefined): Way[] {
    const { lines, hosts } = reaching(picks, (use, host) => takes(use, host) === key)
    if (!first) return [{ lines: new Set(lines), hosts }]
    const on = new Set(picks.filter(({ host }) => host && hosts.has(host)).map(({ line }) => line))
    const owners = new Map<number, Claim>()
    for (const line of [...lines].sort((a, b) => Number(on.has(b)) - Number(on.has(a)))) {
      const shape = this.#pins.shapeOf(line)
      if (!owners.has(shape)) owners.set(shape, line)
    }
    return [...owners.values()].map((owner) => ({ lines: new Set(lines.filter((line) => line !== owner)), hosts }))
  }
}

/** Lines that could take a resource, and the pins by which they would. */
function reaching(
  picks: readonly Pick[],
  takes: (use: SignalUse, host: Host) => boolean,
): { lines: Claim[]; hosts: Set<Host> } {
  const hosts = new Set<Host>()
  const lines: Claim[] = []
  for (const { line } of picks) {
    const [use] = line.uses
    const mine = use ? line.choices.filter(({ host }) => takes(use, host)) : []
    if (mine.length === 0) continue
    lines.push(line)
    for (const { host } of mine) hosts.add(host)
  }
  return { lines, hosts }
}

/** Timer that a signal with a frequency of its own would take; a pin on several is left to the check. */
export function timerOf(use: SignalUse, host: Host): { key: string } | undefined {
  const { facts } = use
  // A library makes its pulses on any pin, by a timer of its own.
  if (libraryFor(host.board, use)) return undefined
  if (facts.needs !== 'pwm' || facts.hertz === undefined || !host.board || !host.functions.has('pwm')) return undefined
  const own = timersAt(host.board, host.pin)
  return own.length === 1 ? { key: `${host.ref} ${own[0]}` } : undefined
}

const timersAt = ({ board }: BoardInstance, pin: string): string[] =>
  board.timers.filter((one) => Object.values(one.channels).some((pins) => pins.includes(pin))).map((one) => one.id)

/** Interrupt line that a signal waiting for an edge would take, where pins share them. */
export function edgeOf({ facts }: SignalUse, host: Host): string | undefined {
  if (facts.needs !== 'interrupt' || !host.board) return undefined
  const shared = host.board.board.interruptLines.find((one) => one.pins.includes(host.pin))
  return shared && `${host.ref} ${shared.id}`
}

/** PWM channel that a pulse would take, where it reaches several pins and all of them get the same. */
export function channelOf({ facts }: SignalUse, host: Host): string | undefined {
  if (facts.needs !== 'pwm' || !host.board || !host.functions.has('pwm')) return undefined
  const pin = host.pin
  const shared = host.board.board.timers.flatMap(({ id, channels }) =>
    Object.entries(channels).flatMap(([name, pins]) =>
      pins.includes(pin) ? [{ key: `${host.ref} ${id} ${name}`, pins: pins.length }] : [],
    ),
  )
  const [only] = shared
  return shared.length === 1 && only && only.pins > 1 ? only.key : undefined
}
