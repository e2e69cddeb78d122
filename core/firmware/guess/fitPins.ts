import { memoIn } from '../../base/memo.ts'
import type { Part } from '../../catalog/partSchema.ts'
import { holds } from '../../catalog/when.ts'
import { emptyPlan } from '../../plan/planSchema.ts'
import { busNeed } from '../../wiring/buses.ts'
import type { PartInstance, SignalUse } from '../../wiring/model.ts'
import { resolve } from '../../wiring/resolve.ts'
import { contradiction } from '../source/contradiction.ts'
import { wordsOf } from '../source/nameMatch.ts'
import type { Gathered } from './gather.ts'
import type { GivenPin } from './given.ts'

/** Reference of a part that is tried. */
const TRIED = 'X'

/** What a part wants of a program: signals of its own, and lines of a bus. */
export interface Wants {
  readonly part: PartInstance
  readonly plain: readonly SignalUse[]
  /** Kind of its bus, and its lines by their signal. */
  readonly bus: { readonly kind: string; readonly lines: ReadonlyMap<string, SignalUse> } | undefined
  /** Orders in which libraries take its pins: pin ids. */
  readonly orders: readonly (readonly string[])[]
}

/** What a part wants of the program of a board, in a mode; its usual one when none is said. */
export const wantsOf = (gathered: Gathered, part: Part, mode = part.modes[0]?.id): Wants =>
  wantsIn(memoKey(gathered, part), mode)

interface Tried {
  readonly gathered: Gathered
  readonly part: Part
}
const memoKey = memoIn((gathered: Gathered, part: Part): Tried => ({ gathered, part }))

const wantsIn = memoIn(({ gathered, part }: Tried, mode: string | undefined): Wants => {
  const { board } = gathered
  const plan = {
    ...emptyPlan('a part'),
    boards: { [board.ref]: { board: board.board.id } },
    parts: { [TRIED]: { part: part.id, ...(mode === undefined ? {} : { mode }) } },
  }
  const wiring = resolve(plan, gathered.catalog)
  const plain: SignalUse[] = []
  const lines = new Map<string, SignalUse>()
  let kind: string | undefined
  for (const use of wiring.signals) {
    const need = busNeed(use.facts.needs)
    if (!need || need.signal === 'cs' || need.kind === 'onewire') plain.push(use)
    else {
      kind ??= need.kind
      if (need.kind === kind && !lines.has(need.signal)) lines.set(need.signal, use)
    }
  }
  const instance = wiring.parts[0] as PartInstance
  const asked = part.asks.flatMap((ask) => (ask.pins && holds(ask.when, instance.options) ? [ask.pins] : []))
  const required = new Set(plain.filter(({ facts }) => facts.required).map(({ facts }) => facts.pin))
  const together = [...new Set(asked.flat())]
  return {
    part: instance,
    plain,
    bus: kind === undefined ? undefined : { kind, lines },
    orders: [...asked, together].flatMap((order) => [order, order.filter((pin) => required.has(pin))]),
  }
})

/** Pins of a program on the signals of a part. */
export interface Fit {
  /** Board pins by the id of the part's pin. */
  readonly pins: ReadonlyMap<string, GivenPin>
  /** Pins of the program that find no signal, and required signals that get no pin. */
  readonly left: readonly GivenPin[]
  readonly lacks: readonly string[]
  /** Greater is better; below 0 the part is no answer. */
  readonly score: number
  /** Signals whose pin says by its name that it is theirs. */
  readonly named: number
}

/** Words of a signal's pin, each way in which it is called: `TRIG` and `T`. */
const calledAs = (use: SignalUse): string[][] => {
  const pin = use.part.part.pins.find(({ id }) => id === use.facts.pin)
  return [use.facts.pin, ...(pin?.aliases ?? [])].map(wordsOf).filter((words) => words.length > 0)
}

/** How plainly a name says that a pin is for a signal: 0 for not at all, 2 where every word of the signal is in it. */
export function namedFor(use: SignalUse, names: readonly string[]): number {
  const words = new Set(names.flatMap(wordsOf))
  const best = Math.max(
    0,
    ...calledAs(use).map((called) =>
      called.every((word) => words.has(word)) && called.some((word) => word.length > 1) ? 1 + called.length : 0,
    ),
  )
  return Math.min(2, best)
}

/** A pin may be for a signal, by what the program does with it. */
export function mayBe(use: SignalUse, { uses, pin }: GivenPin): boolean {
  if (contradiction({ use, bus: undefined }, uses)) return false
  const read = uses.some(({ doing }) => doing === 'analog-in')
  const { needs } = use.facts
  if (read && needs !== 'analog-in' && needs !== 'touch') return false
  if (needs === 'analog-in' && !read && uses.some(({ doing, sure }) => sure && doing !== 'given')) return false
  return needs !== 'analog-in' || pin.functions.has('analog-in')
}

/** The best division of pins among the signals of a part, found one pair after the other, the plainest first. */
export function fitPins(wants: Wants, pins: readonly GivenPin[]): Fit {
  const order = wants.orders.find((one) => one.length === pins.length && pins.every(({ place }) => place !== undefined))
  const pairs = wants.plain.flatMap((use, at) =>
    pins.flatMap((pin, place) => {
      if (!mayBe(use, pin)) return []
      const named = namedFor(use, pin.names)
      const placed = order ? (order[pin.place ?? place] === use.facts.pin ? 1.5 : -0.5) : 0
      const must = use.facts.required ? 0.3 : 0
      return [{ use, pin, named, points: 1 + named + placed + must - 0.01 * Math.abs(at - place) }]
    }),
  )
  pairs.sort((a, b) => b.points - a.points)
  const found = new Map<string, GivenPin>()
  const taken = new Set<GivenPin>()
  let score = 0
  let named = 0
  for (const pair of pairs) {
    if (found.has(pair.use.facts.pin) || taken.has(pair.pin)) continue
    found.set(pair.use.facts.pin, pair.pin)
    taken.add(pair.pin)
    score += pair.points
    if (pair.named > 0) named += 1
  }
  const left = pins.filter((pin) => !taken.has(pin))
  const lacks = wants.plain.filter(({ facts }) => facts.required && !found.has(facts.pin)).map(({ facts }) => facts.pin)
  const lost = left.reduce((sum, pin) => sum + (pin.uses.some(({ sure }) => sure) ? 2 : 0.4), 0)
  const rank = wants.plain.map(({ facts }) => facts.pin)
  const pinsInOrder = new Map([...found].sort(([a], [b]) => rank.indexOf(a) - rank.indexOf(b)))
  return { pins: pinsInOrder, left, lacks, score: score - lost - 0.8 * lacks.length, named }
}
