import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { channelOf, edgeOf, timerOf } from './clashes.ts'
import { BESIDE, IN_ORDER, type Pair, pairsOf, RISING, type Spot, selectOf, spotOf } from './neatPairs.ts'
import type { Claim } from './searchProblem.ts'

/** Points that a change has to gain. */
export const LEAST_GAIN = 0.05

/** Signals that move, with the pins to which they do. */
export type Change = ReadonlyMap<SignalUse, Host>

/** An arrangement that is being made neater: what lies where, what it costs, and what a change would gain. */
export class State {
  readonly at: Map<SignalUse, Host>
  readonly lines: ReadonlyMap<SignalUse, Claim>
  readonly pairs: readonly Pair[]
  /** How many changes were carried out. */
  changes = 0
  readonly #pairsOf = new Map<SignalUse, Pair[]>()
  readonly #sorted = new Map<SignalUse, readonly Host[]>()
  /** Until something changes. */
  readonly #free = new Map<SignalUse, readonly Host[]>()
  #holders: ReadonlyMap<string, SignalUse> | undefined
  readonly #prices = new Map<SignalUse, ReadonlyMap<Host, number>>()
  readonly #selects = new Map<Host, number>()
  readonly #spots = new Map<Host, Spot | undefined>()
  readonly #worths = new Map<Pair, number>()
  readonly #held = new Map<SignalUse, Map<Host, readonly string[]>>()
  /** The use that stands for the others of its line. */
  readonly #leaders = new Map<SignalUse, SignalUse>()

  constructor(wiring: Wiring, at: Map<SignalUse, Host>, lines: ReadonlyMap<SignalUse, Claim>) {
    this.at = at
    this.lines = lines
    const moves = new Set([...lines.values()].flatMap(({ uses }) => uses))
    this.pairs = pairsOf(wiring, new Set(at.keys())).filter(({ a, b }) => moves.has(a) || moves.has(b))
    for (const pair of this.pairs)
      for (const use of [pair.a, pair.b]) this.#pairsOf.set(use, [...(this.#pairsOf.get(use) ?? []), pair])
    for (const [use, { choices, uses }] of lines) {
      this.#prices.set(use, new Map(choices.map(({ host, extra }) => [host, extra])))
      for (const other of uses.slice(1)) this.#leaders.set(other, use)
    }
  }

  /** What holds each pin; of several parts on the line of a bus the first. */
  holders(): ReadonlyMap<string, SignalUse> {
    this.#holders ??= new Map([...this.at].map(([use, host]) => [host.end, this.#leaders.get(use) ?? use]))
    return this.#holders
  }

  /** Pins of a signal that nothing holds, the cheapest first. */
  free(use: SignalUse): readonly Host[] {
    let hosts = this.#free.get(use)
    if (!hosts) {
      const holders = this.holders()
      hosts = this.#cheapest(use).filter(({ end }) => !holders.has(end))
      this.#free.set(use, hosts)
    }
    return hosts
  }

  /** A change with all the parts that are on the lines which move. */
  #whole(change: Change): Change {
    if (this.#leaders.size === 0) return change
    const whole = new Map(change)
    for (const [use, host] of change)
      for (const other of this.lines.get(use)?.uses.slice(1) ?? []) whole.set(other, host)
    return whole
  }

  pairsWith(use: SignalUse): readonly Pair[] {
    return this.#pairsOf.get(use) ?? []
  }

  priceOf(use: SignalUse, host: Host): number | undefined {
    return this.#prices.get(use)?.get(host)
  }

  /** Pins of a signal, the cheapest first. */
  #cheapest(use: SignalUse): readonly Host[] {
    let hosts = this.#sorted.get(use)
    if (!hosts) {
      hosts = [...(this.lines.get(use)?.choices ?? [])].sort((a, b) => a.extra - b.extra).map(({ host }) => host)
      this.#sorted.set(use, hosts)
    }
    return hosts
  }

  spot(host: Host): Spot | undefined {
    if (!this.#spots.has(host)) this.#spots.set(host, spotOf(host))
    return this.#spots.get(host)
  }

  #select(host: Host): number | undefined {
    let known = this.#selects.get(host)
    if (known === undefined) {
      known = selectOf(host) ?? -1
      this.#selects.set(host, known)
    }
    return known < 0 ? undefined : known
  }

  /** A signal that this one belongs to stands beside a pin. */
  isBesideOwn(use: SignalUse, host: Host): boolean {
    const spot = this.spot(host)
    return (
      spot !== undefined &&
      this.pairsWith(use).some(({ a, b }) => {
        const other = this.at.get(a === use ? b : a)
        const there = other && this.spot(other)
        return there?.row === spot.row && Math.abs(there.place - spot.place) === spot.step
      })
    )
  }

  /** What the pairs of some signals could still gain at the most. */
  potential(uses: readonly SignalUse[]): number {
    let points = 0
    for (const pair of new Set(uses.flatMap((use) => this.pairsWith(use))))
      points += (pair.isOrderOnly ? RISING : BESIDE + (pair.inOrder ? IN_ORDER + RISING : 0)) - this.#worthNow(pair)
    return points
  }

  price(): number {
    return [...this.lines.keys()].reduce((sum, use) => sum + (this.priceOf(use, this.at.get(use) as Host) ?? 0), 0)
  }

  neatness(): number {
    return this.pairs.reduce((sum, pair) => sum + this.#worthNow(pair), 0)
  }

  /** Carries out the best of some changes, if it is better than none. */
  improve(changes: Iterable<Change>): boolean {
    let best: Change | undefined
    let most = LEAST_GAIN
    for (const leading of changes) {
      const change = this.#whole(leading)
      const gain = this.#gain(change)
      if (gain <= most || !this.#isFree(leading, change)) continue
      most = gain
      best = change
    }
    if (!best) return false
    for (const [use, host] of best) this.at.set(use, host)
    this.changes += 1
    this.#worths.clear()
    this.#free.clear()
    this.#holders = undefined
    return true
  }

  /** What a pair is worth as it stands, until something changes. */
  #worthNow(pair: Pair): number {
    let worth = this.#worths.get(pair)
    if (worth === undefined) {
      worth = this.#worth(pair, this.at.get(pair.a), this.at.get(pair.b))
      this.#worths.set(pair, worth)
    }
    return worth
  }

  #worth({ inOrder, isOrderOnly }: Pair, a: Host | undefined, b: Host | undefined): number {
    if (!a || !b) return 0
    if (isOrderOnly) return this.#rises(a, b) ? RISING : 0
    const [one, two] = [this.spot(a), this.spot(b)]
    if (!one || !two || one.row !== two.row || Math.abs(one.place - two.place) !== one.step) return 0
    return BESIDE + (inOrder ? IN_ORDER + ((this.#rises(a, b) ?? one.number < two.number) ? RISING : 0) : 0)
  }

  /** Whether the selects of two pins are in order; undefined where one of them has no such number. */
  #rises(a: Host, b: Host): boolean | undefined {
    const [first, second] = [this.#select(a), this.#select(b)]
    return first !== undefined && second !== undefined ? first < second : undefined
  }

  #gain(change: Change): number {
    let gain = 0
    for (const [use, host] of change) {
      if (this.#leaders.has(use)) continue
      const prices = this.#prices.get(use)
      const [now, then] = [prices?.get(this.at.get(use) as Host), prices?.get(host)]
      if (now === undefined || then === undefined) return Number.NEGATIVE_INFINITY
      gain += now - then
    }
    for (const use of change.keys())
      for (const pair of this.pairsWith(use)) {
        // A pair of which both move counts once, with its first.
        if (pair.b === use && pair.a !== use && change.has(pair.a)) continue
        const [a, b] = [change.get(pair.a) ?? this.at.get(pair.a), change.get(pair.b) ?? this.at.get(pair.b)]
        gain += this.#worth(pair, a, b) - this.#worthNow(pair)
      }
    return gain
  }

  /** No two signals on one pin, and no timer, interrupt line or channel that would have to do two things. */
  #isFree(leading: Change, change: Change): boolean {
    const hosts = new Set([...leading.values()].map(({ end }) => end))
    if (hosts.size < leading.size) return false
    for (const [use, host] of this.at) if (!change.has(use) && hosts.has(host.end)) return false
    const asked = [...change].flatMap(([use, host]) => this.#heldBy(use, host).map((key) => [use, key] as const))
    if (asked.length === 0) return true
    const owners = new Map<string, string>()
    for (const [use, host] of [...this.at, ...change]) {
      if (change.has(use) && change.get(use) !== host) continue
      for (const key of this.#heldBy(use, host)) {
        const known = owners.get(key)
        const mine = key.startsWith('timer ') ? `${use.facts.hertz}` : use.end
        if (known !== undefined && known !== mine && asked.some(([, one]) => one === key)) return false
        owners.set(key, mine)
      }
    }
    return true
  }

  #heldBy(use: SignalUse, host: Host): readonly string[] {
    const known = this.#held.get(use) ?? new Map<Host, readonly string[]>()
    this.#held.set(use, known)
    let keys = known.get(host)
    if (!keys) {
      const timer = timerOf(use, host)
      const [edge, channel] = [edgeOf(use, host), channelOf(use, host)]
      keys = [
        ...(timer ? [`timer ${timer.key}`] : []),
        ...(edge === undefined ? [] : [`edge ${edge}`]),
        ...(channel === undefined ? [] : [`channel ${channel}`]),
      ]
      known.set(host, keys)
    }
    return keys
  }
}
