import { takesInGroup } from '../catalog/boardFacts.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse } from '../wiring/model.ts'
import { Coming, type Outlook, Prices } from './bounds.ts'
import { Clashes } from './clashes.ts'
import { profiles, twins, waysOf } from './divisions.ts'
import { type Filling, Fillings } from './fillings.ts'
import type { Choice } from './judged.ts'
import type { Lane, Task } from './lanes.ts'
import { NONE } from './matching.ts'
import { type Matched, PinTable } from './pinTable.ts'
import { type Claim, NO_PIN, type SearchProblem } from './searchProblem.ts'

/** A complete arrangement: every line on a pin, or without one. */
export interface Arrangement {
  /** Points beyond the hundred of each placed signal, and those of signals left over. */
  readonly extra: number
  readonly placed: readonly { readonly use: SignalUse; readonly host: Host; readonly lane: Lane | undefined }[]
  readonly left: readonly SignalUse[]
}

export interface Found {
  readonly best: Arrangement
  /** No arrangement can cost less than this many extra points. */
  readonly bound: number
  /** True when the whole of the search was gone through. */
  readonly proven: boolean
  readonly steps: number
}

/** A division matched, and two price lists that prove it. */
class Priced {
  readonly division: readonly Filling[]
  readonly matched: Matched
  readonly low: Prices
  readonly #pins: PinTable
  #high: Prices | undefined

  /** With the one before it, where it is that one with one more filling. */
  constructor(division: readonly Filling[], pins: PinTable, before?: Priced) {
    this.division = division
    const last = division.at(-1)
    const isOneMore =
      before?.division.length === division.length - 1 && before.division.every((one, at) => one === division[at])
    this.matched =
      before && last && isOneMore
        ? pins.matchMore(before.matched, last.lines)
        : pins.match(division.flatMap((one) => one.lines))
    this.low = new Prices(this.matched.matching.prices(), pins)
    this.#pins = pins
  }

  get high(): Prices {
    this.#high ??= new Prices(this.matched.matching.highPrices(), this.#pins)
    return this.#high
  }
}

/** Steps after which the search gives up proving. */
const MOST_STEPS = 60_000
/** Price lists that are kept for bounds, the latest ones. */
const MOST_PRICES = 8
/** Steps in which an answer that leaves something out is looked for as well, for the prices that it gives. */
const STEPS_TO_PRICES = 500
/** Points that count as nothing: sums of prices are not exact. */
const SLACK = 1e-6

/**
 * Finds the cheapest arrangement. Parts with bus lines are divided among the controllers by depth-first search; equal
 * lanes are tried once. For a division the lines of all lanes and the single signals together are matched to pins at
 * least cost, which is exact; controllers whose pins move in groups, timers that hold one frequency and shared interrupt
 * lines are branched on. A division is left when no way of going on can beat the best, by prices of pins (see
 * {@link Prices}). The same problem gives the same answer.
 */
export const search = (problem: SearchProblem, shouldStop?: (steps: number) => boolean): Found =>
  searchOn(problem, new PinTable(problem), shouldStop)

/** Whether a problem can be solved without leaving anything out. */
export interface Fit {
  readonly isWhole: boolean
  /** What some arrangement leaves out that places all else, where one was looked for. */
  readonly left?: readonly SignalUse[]
}

/** Looks for an arrangement that leaves nothing out; the first one found answers. */
export function fitAll(problem: SearchProblem): Fit {
  if (problem.singles.some(({ choices }) => choices.length === 0)) return { isWhole: false }
  if (problem.tasks.some((task) => problem.lanesFor(task).length === 0)) return { isWhole: false }
  const pins = new PinTable(problem)
  if (pins.match([]).matching.columns().includes(NONE)) return { isWhole: false }
  // One signal left out would cost that much by itself.
  const { left } = searchOn(problem, pins, undefined, NO_PIN / 2).best
  return { isWhole: left.length === 0, left }
}

/** With `enough`, the first arrangement of less points is taken, and none looked for once there is proof that none is. */
function searchOn(
  problem: SearchProblem,
  pins: PinTable,
  shouldStop?: (steps: number) => boolean,
  enough?: number,
): Found {
  const { tasks } = problem
  const fillings = new Fillings(problem, pins)
  const coming = new Coming(problem, fillings)
  const clashes = new Clashes(problem, pins)
  const priced = new Map<string, Priced>()
  let best: Arrangement | undefined
  let steps = 0
  let stopped = false

  /** Prices of pins with single signals and the lines of a division matched together; the same for equal shapes. */
  const pricesOf = (division: readonly Filling[], before?: Priced): Priced => {
    const key = division
      .map((one) => one.shape)
      .sort()
      .join(', ')
    const known = priced.get(key) ?? new Priced(division, pins, before)
    priced.set(key, known)
    return known
  }
  const first = pricesOf([])
  const priceLists = [first.low, first.high]
  const limit = (): number => {
    const known = best?.extra ?? Number.POSITIVE_INFINITY
    return (enough === undefined || steps < STEPS_TO_PRICES ? known : Math.min(known, enough)) - SLACK
  }
  const boundBy = (prices: Prices, outlook: Outlook, division: readonly Filling[]): number =>
    division.reduce((sum, one) => sum + prices.of(one), prices.base) + coming.least(prices, outlook)

  const sameAsBefore = twins(problem, fillings)
  const profile = profiles(problem, fillings)
  const visited = new Map<string, number>()
  const traces = new Map<Filling, string[]>()
  const traceOf = (one: Filling, depth: number): string => {
    const known = traces.get(one) ?? []
    traces.set(one, known)
    known[depth] ??= problem.traceOf([...one.lane.parts, ...one.tasks.map((task) => task.part)], depth)
    return known[depth] as string
  }

  const descend = (depth: number, division: readonly Filling[], dropped: readonly Task[], above: Priced): void => {
    if (stopped) return
    steps += 1
    if (steps > MOST_STEPS || (steps % 32 === 0 && shouldStop?.(steps) === true)) {
      stopped = true
      return
    }
    const lost = dropped.reduce((sum, task) => sum + task.uses.length * NO_PIN, 0)
    const most = limit()
    const outlook = coming.outlook(depth, division)
    for (const [at, prices] of priceLists.entries())
      if (boundBy(prices, outlook, division) + lost >= most) {
        // What proved this much is likely to prove what comes next.
        priceLists.splice(at, 1)
        priceLists.unshift(prices)
        return
      }
    // What is ahead depends on shapes and on what can still clash, not on which part lies where.
    const state = `${depth} ${division
      .map((one) => `${one.index} ${one.shape} ${traceOf(one, depth)}`)
      .sort()
      .join(' | ')}`
    if ((visited.get(state) ?? Number.POSITIVE_INFINITY) <= lost) return
    visited.set(state, lost)
    const matched = pricesOf(division, above)
    if (boundBy(matched.low, outlook, division) + lost >= most) return
    if (boundBy(matched.high, outlook, division) + lost >= most) return
    const task = tasks[depth]
    if (!task) {
      // Of equal shape is not the same: the lines are those of other parts.
      const own = matched.division === division ? matched : new Priced(division, pins)
      const answer = settle(problem, pins, clashes, division, dropped, own.matched, most)
      if (!answer) return
      best = answer
      priceLists.unshift(matched.low, matched.high)
      // Pins for which parts that were left out would have competed have their price as well.
      if (dropped.length > 0) {
        const crowded = pins.matchMore(own.matched, lackedBy(problem, dropped, division)).matching
        priceLists.unshift(new Prices(crowded.prices(), pins), new Prices(crowded.highPrices(), pins))
      }
      priceLists.splice(MOST_PRICES)
      stopped ||= enough !== undefined && (answer.extra < enough || floorOf() >= enough)
      return
    }
    // Of parts that are alike the earlier ones are placed first, on the earlier lanes.
    const before = sameAsBefore[depth] ? (tasks[depth - 1] as Task) : undefined
    if (before && dropped.includes(before)) {
      descend(depth + 1, division, [...dropped, task], matched)
      return
    }
    const least = before ? (division.find((one) => one.tasks.includes(before))?.index ?? 0) : 0
    for (const next of waysOf(problem, fillings, matched.low, profile, task, division))
      if ((next.at(-1) as Filling).index >= least) descend(depth + 1, next, dropped, matched)
    descend(depth + 1, division, [...dropped, task], matched)
  }
  const all = coming.outlook(0, [])
  /** No arrangement costs less, as far as the price lists tell. */
  const floorOf = (): number => Math.max(...priceLists.map((one) => boundBy(one, all, [])))
  const floor = floorOf()
  descend(0, [], [], first)
  const answer = best ?? nothingOf(problem)
  const proven = !stopped && !clashes.gaveUp
  const bound = proven ? answer.extra : Math.min(answer.extra, Math.max(floorOf(), floor))
  return { best: answer, bound, proven, steps }
}

/** Lines of parts that were left out, each with the pins that lanes on which nothing lies could give it. */
function lackedBy(problem: SearchProblem, dropped: readonly Task[], division: readonly Filling[]): Claim[] {
  const taken = new Set(division.map(({ lane }) => lane))
  return dropped.flatMap((task) =>
    task.uses.map((use): Claim => {
      const cheapest = new Map<Host, Choice>()
      for (const lane of problem.lanesFor(task)) {
        if (taken.has(lane)) continue
        for (const choice of problem.choicesOn(lane, use))
          if (choice.extra < (cheapest.get(choice.host)?.extra ?? Number.POSITIVE_INFINITY))
            cheapest.set(choice.host, choice)
      }
      return { name: use.end, uses: [use], choices: [...cheapest.values()], none: NO_PIN }
    }),
  )
}

/** The arrangement that leaves everything open. */
const nothingOf = (problem: SearchProblem): Arrangement => {
  const left = [...problem.singles, ...problem.tasks].flatMap((one) => [...one.uses])
  return { extra: left.length * NO_PIN, placed: [], left }
}

/** Pins for one division: groups are chosen lane by lane, then all lines are matched together. */
function settle(
  problem: SearchProblem,
  pins: PinTable,
  clashes: Clashes,
  division: readonly Filling[],
  dropped: readonly Task[],
  matched: Matched,
  limit: number,
): Arrangement | undefined {
  const more =
    division.reduce((sum, one) => sum + one.rank, 0) + dropped.reduce((sum, task) => sum + task.uses.length * NO_PIN, 0)
  let best: Arrangement | undefined
  const most = (): number => Math.min(limit, best?.extra ?? Number.POSITIVE_INFINITY) - more
  const moving = division.filter((one) => one.lane.controller.groups)
  const choose = (at: number, now: Matched): void => {
    if (now.matching.total() >= most()) return
    const one = moving[at]
    if (!one) {
      const settled = clashes.settle(now, most())
      if (settled) best = arrange(problem, division, dropped, pins, settled, more)
      return
    }
    const { controller, board, given } = one.lane
    for (const group of controller.groups ?? []) {
      const takes = (signal: string, end: string): boolean =>
        takesInGroup(controller, group, signal, end.slice(board.ref.length + 1))
      if ([...given].some(([signal, end]) => !takes(signal, end))) continue
      const fixed = new Map(
        one.lines.map((line): [Claim, Claim] => {
          const signal = line.name.slice(line.name.lastIndexOf(' ') + 1)
          return [line, { ...line, choices: line.choices.filter(({ host }) => takes(signal, host.end)) }]
        }),
      )
      if ([...fixed.values()].every((line) => line.choices.length > 0))
        choose(at + 1, pins.matchAll(now.lines.map((line) => fixed.get(line) ?? line)))
    }
  }
  choose(0, matched)
  return best
}

function arrange(
  problem: SearchProblem,
  division: readonly Filling[],
  dropped: readonly Task[],
  pins: PinTable,
  matched: Matched,
  more: number,
): Arrangement {
  const picks = pins.picks(matched)
  const placed: { use: SignalUse; host: Host; lane: Lane | undefined }[] = []
  const left = dropped.flatMap((task) => task.uses)
  const hostOf = new Map(picks.map(({ line, host }) => [line.name, host]))
  for (const { lane, tasks } of division)
    for (const task of tasks)
      for (const use of task.uses) {
        const signal = busNeed(use.facts.needs)!.signal
        const given = lane.given.get(signal)
        const host = given === undefined ? hostOf.get(`${lane.key} ${signal}`) : problem.wiring.hosts.get(given)
        if (host) placed.push({ use, host, lane })
        else left.push(use)
      }
  for (const { line, host } of picks) {
    if (line.name !== line.uses[0]?.end) continue
    for (const use of line.uses)
      if (host) placed.push({ use, host, lane: undefined })
      else left.push(use)
  }
  return { extra: matched.matching.total() + more, placed, left }
}
