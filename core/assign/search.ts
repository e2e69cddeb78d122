import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, Host, PartInstance, SignalUse } from '../wiring/model.ts'
import { Matching } from './matching.ts'
import { type Lane, type Line, type Problem, type Task, UNPLACED } from './problem.ts'

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

/** Steps, and matchings of branched timers and interrupt lines, after which the search gives up proving. */
const MOST_STEPS = 60_000
const MOST_BRANCHES = 200

interface Filled {
  readonly lane: Lane
  readonly tasks: readonly Task[]
}

/**
 * Finds the cheapest arrangement. Parts with bus lines are divided among the controllers by depth-first search, open
 * lanes first; equal lanes are tried once. For a division the lines of all lanes and the single signals together are
 * matched to pins at least cost, which is exact; controllers whose pins move in groups, timers that hold one frequency
 * and shared interrupt lines are branched on. A division is left when the matching of what it has so far cannot beat
 * the best. The same problem gives the same answer.
 */
export function search(problem: Problem, shouldStop?: (steps: number) => boolean): Found {
  const { tasks } = problem
  const pins = new PinMatcher(problem)
  const lanes = new Map<string, FilledLines | undefined>()
  const bounds = new Map<string, number>()
  let best: Arrangement | undefined
  let steps = 0
  let stopped = false

  /** Lines of a filled lane, worked out once for each filling. */
  const filled = (one: Filled): FilledLines | undefined => {
    const key = `${one.lane.key}: ${one.tasks.map((task) => task.part.ref).join(' ')}`
    if (!lanes.has(key)) {
      const lines = problem.laneLines(one.lane, one.tasks)
      const rank = problem.rankExtra(one.lane)
      lanes.set(
        key,
        lines && {
          lines,
          rank,
          least: rank + lines.reduce((sum, line) => sum + (line.choices[0]?.extra ?? UNPLACED), 0),
          shape: `${rank} ${lines.map((line) => pins.shapeOf(line)).join(' ')}`,
        },
      )
    }
    return lanes.get(key)
  }
  /** Least extra points of a division so far: its lines matched together with the single signals. */
  const boundOf = (division: readonly Filled[]): number => {
    const all = division.map((one) => filled(one) as FilledLines)
    const key = all
      .map((one) => one.shape)
      .sort()
      .join(', ')
    let known = bounds.get(key)
    if (known === undefined) {
      known = pins.match(all.flatMap((one) => one.lines)).extra + all.reduce((sum, one) => sum + one.rank, 0)
      bounds.set(key, known)
    }
    return known
  }
  // Least that a part pays for a lane of its own, by lane; and parts that no search need tell apart.
  const opening = tasks.map(
    (task) =>
      new Map(problem.lanesFor(task).map((lane) => [lane, filled({ lane, tasks: [task] })?.least ?? UNPLACED * 500])),
  )
  const twins = tasks.map((task, at) => {
    const likeness = (index: number): string => {
      const one = tasks[index] as Task
      const lanesOf = problem.lanesFor(one).map((lane) => `${lane.key} ${filled({ lane, tasks: [one] })?.shape}`)
      return [one.kind, one.part.part.id, problem.traceOf([one.part], 0, true), one.uses.length, ...lanesOf].join('; ')
    }
    return at > 0 && tasks[at - 1]?.part.part.id === task.part.part.id && likeness(at) === likeness(at - 1)
  })
  /** Least that the parts from a depth on must pay beside the division: lanes of their own, or the first of a bus. */
  const ahead = (depth: number, division: readonly Filled[]): number => {
    const used = new Set(division.map((one) => one.lane))
    const open = new Set(division.map((one) => `${one.lane.board.ref} ${one.lane.controller.kind}`))
    const apart = new Map<string, number[]>()
    let sum = 0
    for (let at = depth; at < tasks.length; at += 1) {
      const task = tasks[at] as Task
      const key = `${task.part.home?.ref} ${task.kind}`
      if (task.kind === 'i2c' || task.kind === 'spi') {
        if (open.has(key)) continue
        open.add(key)
        sum += Math.min(task.uses.length * UNPLACED, ...(opening[at]?.values() ?? []))
      } else apart.set(key, [...(apart.get(key) ?? []), at])
    }
    // Each of these takes a lane of its own: the cheapest lanes left, and then none.
    for (const list of apart.values()) {
      const free = new Map<Lane, number>()
      for (const at of list)
        for (const [lane, least] of opening[at] ?? [])
          if (!used.has(lane) && lane.parts.every((part) => part === tasks[at]?.part))
            free.set(lane, Math.min(least, free.get(lane) ?? least))
      const prices = [...free.values()].sort((one, two) => one - two).slice(0, list.length)
      const losses = list.map((at) => (tasks[at]?.uses.length ?? 1) * UNPLACED).sort((one, two) => one - two)
      for (let index = 0; index < list.length; index += 1)
        sum += Math.min(
          prices[index] ?? Number.POSITIVE_INFINITY,
          losses[Math.max(0, index - prices.length)] ?? UNPLACED,
        )
    }
    return sum
  }
  const floor = boundOf([])
  const limit = (): number => best?.extra ?? Number.POSITIVE_INFINITY

  const visited = new Map<string, number>()
  const traceOf = (one: Filled, depth: number): string =>
    problem.traceOf([...one.lane.parts, ...one.tasks.map((task) => task.part)], depth)

  const descend = (depth: number, division: readonly Filled[], dropped: readonly Task[]): void => {
    if (stopped) return
    steps += 1
    if (steps > MOST_STEPS || (steps % 32 === 0 && shouldStop?.(steps) === true)) {
      stopped = true
      return
    }
    const lost = dropped.reduce((sum, task) => sum + task.uses.length * UNPLACED, 0)
    const coming = ahead(depth, division) + lost
    // The lanes by themselves are a quick bound; lanes and single signals matched together a close one.
    const quick = division.reduce((sum, one) => sum + (filled(one)?.least ?? 0), floor)
    if (quick + coming >= limit() - 1e-9 || boundOf(division) + coming >= limit() - 1e-9) return
    // What is ahead depends on shapes and on what can still clash, not on which part lies where.
    const state = `${depth} ${division
      .map((one) => `${one.lane.key} ${filled(one)?.shape} ${traceOf(one, depth)}`)
      .sort()
      .join(' | ')}`
    if ((visited.get(state) ?? Number.POSITIVE_INFINITY) <= lost) return
    visited.set(state, lost)
    const task = tasks[depth]
    if (!task) {
      const answer = settle(problem, pins, division, dropped, filled, limit())
      if (answer && answer.extra < limit()) best = answer
      return
    }
    // Of parts that are alike the earlier ones are placed first, on the earlier lanes.
    const before = twins[depth] ? (tasks[depth - 1] as Task) : undefined
    if (before && dropped.includes(before)) {
      descend(depth + 1, division, [...dropped, task])
      return
    }
    const least = before ? problem.lanes.indexOf(laneOf(division, before) as Lane) : 0
    for (const next of waysOf(problem, task, division, filled))
      if (problem.lanes.indexOf(laneOf(next, task) as Lane) >= least) descend(depth + 1, next, dropped)
    descend(depth + 1, division, [...dropped, task])
  }
  descend(0, [], [])
  const answer = best ?? nothingOf(problem)
  stopped ||= pins.branches >= MOST_BRANCHES
  return { best: answer, bound: stopped ? Math.min(answer.extra, floor) : answer.extra, proven: !stopped, steps }
}

const laneOf = (division: readonly Filled[], task: Task): Lane | undefined =>
  division.find((one) => one.tasks.includes(task))?.lane

/** The arrangement that leaves everything open. */
const nothingOf = (problem: Problem): Arrangement => {
  const left = [...problem.singles, ...problem.tasks].flatMap((one) => [...one.uses])
  return { extra: left.length * UNPLACED, placed: [], left }
}

interface FilledLines {
  readonly lines: readonly Line[]
  /** Points of the controller, and the least of all lines by themselves. */
  readonly rank: number
  readonly least: number
  /** The same for fillings that the matching cannot tell apart. */
  readonly shape: string
}

/** Matches lines to pins; the single signals are matched once, and lanes go on from there. */
class PinMatcher {
  readonly #columns = new Map<string, number>()
  readonly #width: number
  readonly #base: Matching
  readonly #singles: readonly Line[]
  readonly #shapes = new Map<string, string>()
  readonly #rows = new Map<Line, Float64Array>()
  /** Matchings made for branches so far. */
  branches = 0

  constructor(problem: Problem) {
    this.#singles = problem.singles
    const add = ({ host }: { host: Host }): void => {
      if (!this.#columns.has(host.end)) this.#columns.set(host.end, this.#columns.size)
    }
    for (const line of problem.singles) line.choices.forEach(add)
    for (const lane of problem.lanes)
      for (const task of problem.tasks)
        if (task.kind === lane.controller.kind && task.part.home === lane.board)
          for (const use of task.uses) problem.choicesOn(lane, use).forEach(add)
    const lines = problem.singles.length + problem.tasks.reduce((sum, task) => sum + task.uses.length, 0)
    this.#width = this.#columns.size + lines
    this.#base = Matching.empty(this.#width)
    problem.singles.forEach((line, row) => {
      this.#base.add(this.#row(line, row))
    })
  }

  /** Costs of a line in every column; its own last column stands for no pin. */
  #row(line: Line, row: number): Float64Array {
    const known = this.#rows.get(line)
    if (known) return known
    const costs = new Float64Array(this.#width).fill(UNPLACED * 1000)
    // A bus with half its lines is none: its parts are dropped instead.
    costs[this.#columns.size + row] = row < this.#singles.length ? UNPLACED : UNPLACED * 500
    for (const { host, extra } of line.choices) costs[this.#columns.get(host.end) as number] = extra
    if (row < this.#singles.length) this.#rows.set(line, costs)
    return costs
  }

  shapeOf(line: Line): string {
    const text = `${line.choices.map((one) => `${one.host.end} ${one.extra}`).join(', ')}`
    const known = this.#shapes.get(text) ?? String(this.#shapes.size)
    this.#shapes.set(text, known)
    return known
  }

  /** Pins for the single signals and these lines together. */
  match(lines: readonly Line[]): Matched {
    const matching = this.#base.copy()
    lines.forEach((line, index) => {
      matching.add(this.#row(line, this.#singles.length + index))
    })
    return this.#read(matching, [...this.#singles, ...lines])
  }

  /** The same for changed single signals. */
  matchAll(all: readonly Line[]): Matched {
    this.branches += 1
    const matching = Matching.empty(this.#width)
    all.forEach((line, row) => {
      const costs = new Float64Array(this.#width).fill(UNPLACED * 1000)
      costs[this.#columns.size + row] = line.name === line.uses[0]?.end ? UNPLACED : UNPLACED * 500
      for (const { host, extra } of line.choices) costs[this.#columns.get(host.end) as number] = extra
      matching.add(costs)
    })
    return this.#read(matching, all)
  }

  #read(matching: Matching, lines: readonly Line[]): Matched {
    const columns = matching.columns()
    return {
      extra: matching.total(),
      picks: lines.map((line, row) => ({
        line,
        host: line.choices.find(({ host }) => this.#columns.get(host.end) === columns[row])?.host,
      })),
    }
  }
}

/** Divisions with one more part: on a lane that carries others, then on each kind of unused lane, cheapest first. */
function waysOf(
  problem: Problem,
  task: Task,
  division: readonly Filled[],
  filled: (one: Filled) => FilledLines | undefined,
): Filled[][] {
  const seen = new Set<string>()
  const ways: { next: Filled[]; least: number }[] = []
  for (const lane of problem.lanesFor(task)) {
    const before = division.find((one) => one.lane === lane)
    const others = heardBy(problem, task, lane, division)
    if (problem.clash(task, others) !== undefined) continue
    const after: Filled = { lane, tasks: [...(before?.tasks ?? []), task] }
    const one = filled(after)
    if (!one) continue
    if (!before && lane.given.size === 0) {
      // Unused lanes with the same pins at the same price are one and the same.
      const alike = JSON.stringify([
        lane.controller.groups ?? null,
        lane.controller.rank,
        one.lines.map((line) => line.choices.map((choice) => [choice.host.end, choice.extra])),
      ])
      if (seen.has(alike)) continue
      seen.add(alike)
    }
    const rest = division.filter((each) => each.lane !== lane)
    ways.push({ next: [...rest, after], least: one.least - (before ? (filled(before)?.least ?? 0) : 0) })
  }
  return ways.sort((a, b) => a.least - b.least).map((one) => one.next)
}

/**
 * Parts that hear the same traffic as a task on a lane: those on the lane, and where a bus switch joins two lanes,
 * those on the other side of it.
 */
function heardBy(problem: Problem, task: Task, lane: Lane, division: readonly Filled[]): PartInstance[] {
  const on = (one: Lane): PartInstance[] => [
    ...one.parts,
    ...(division.find((each) => each.lane === one)?.tasks.map((each) => each.part) ?? []),
  ]
  const own = on(lane)
  if (task.kind !== 'i2c') return own
  const joined = problem.lanes.filter(
    (one) =>
      one !== lane &&
      ((one.provider && [...own, task.part].includes(one.provider)) ||
        (lane.provider && on(one).includes(lane.provider))),
  )
  return [...own, ...joined.flatMap(on)]
}

/** Pins for one division: groups are chosen lane by lane, then all lines are matched together. */
function settle(
  problem: Problem,
  pins: PinMatcher,
  division: readonly Filled[],
  dropped: readonly Task[],
  filled: (one: Filled) => FilledLines | undefined,
  limit: number,
): Arrangement | undefined {
  const rank = division.reduce((sum, one) => sum + problem.rankExtra(one.lane), 0)
  const lost = dropped.reduce((sum, task) => sum + task.uses.length * UNPLACED, 0)
  let best: Arrangement | undefined
  const choose = (at: number, lines: readonly Line[]): void => {
    const one = division[at]
    if (!one) {
      const most = Math.min(limit, best?.extra ?? Number.POSITIVE_INFINITY) - rank - lost
      const matched = within(problem, pins, pins.match(lines), most)
      if (!matched) return
      best = arrange(problem, division, dropped, matched, rank + lost)
      return
    }
    const own = filled(one)?.lines ?? []
    const { groups } = one.lane.controller
    if (!groups) {
      choose(at + 1, [...lines, ...own])
      return
    }
    for (const group of groups) {
      if ([...one.lane.given].some(([signal, end]) => `${one.lane.board.ref}.${group[signal]}` !== end)) continue
      const fixed = own.map((line) => {
        const signal = line.name.slice(line.name.lastIndexOf(' ') + 1)
        return {
          ...line,
          choices: line.choices.filter(({ host }) => host.end === `${one.lane.board.ref}.${group[signal]}`),
        }
      })
      if (fixed.every((line) => line.choices.length > 0)) choose(at + 1, [...lines, ...fixed])
    }
  }
  choose(0, [])
  return best
}

interface Matched {
  readonly extra: number
  readonly picks: readonly { readonly line: Line; readonly host: Host | undefined }[]
}

function arrange(
  problem: Problem,
  division: readonly Filled[],
  dropped: readonly Task[],
  matched: Matched,
  more: number,
): Arrangement {
  const placed: { use: SignalUse; host: Host; lane: Lane | undefined }[] = []
  const left = dropped.flatMap((task) => task.uses)
  const hostOf = new Map(matched.picks.map(({ line, host }) => [line.name, host]))
  for (const { lane, tasks } of division)
    for (const task of tasks)
      for (const use of task.uses) {
        const signal = busNeed(use.facts.needs)!.signal
        const given = lane.given.get(signal)
        const host = given === undefined ? hostOf.get(`${lane.key} ${signal}`) : problem.wiring.hosts.get(given)
        if (host) placed.push({ use, host, lane })
        else left.push(use)
      }
  for (const { line, host } of matched.picks) {
    const [use] = line.uses
    if (!use || line.name !== use.end) continue
    if (host) placed.push({ use, host, lane: undefined })
    else left.push(use)
  }
  return { extra: matched.extra + more, placed, left }
}

/**
 * A matching with timers and interrupt lines minded: of two signals that clash one must leave the timer or the line
 * altogether, and both ways are tried; only one when the two are alike.
 */
function within(problem: Problem, pins: PinMatcher, matched: Matched, limit: number): Matched | undefined {
  if (matched.extra >= limit) return undefined
  const clash = firstClash(problem, matched)
  if (!clash) return matched
  let best: Matched | undefined
  const seen = new Set<string>()
  // When the branches are used up, the later of the two leaves and nothing is proven any more.
  for (const { line, hosts } of pins.branches >= MOST_BRANCHES ? clash.slice(-1) : clash) {
    const shape = pins.shapeOf(line)
    if (seen.has(shape)) continue
    seen.add(shape)
    const without = matched.picks.map((one) =>
      one.line === line ? { ...line, choices: line.choices.filter(({ host }) => !hosts.has(host.end)) } : one.line,
    )
    const answer = within(problem, pins, pins.matchAll(without), best?.extra ?? limit)
    if (answer) best = answer
  }
  return best
}

/** A line and the pins that it would have to leave. */
interface Leaving {
  readonly line: Line
  readonly hosts: ReadonlySet<string>
}

/**
 * Picks of which one must go: two on one timer with different frequencies, or two edges on one interrupt line; only
 * one when the other side is wired already.
 */
function firstClash(problem: Problem, { picks }: Matched): readonly Leaving[] | undefined {
  const timers = new Map<string, { hertz: number; line: Line | undefined }>()
  const edges = new Map<string, Line | undefined>()
  const leaving = (board: BoardInstance, pins: readonly string[], lines: readonly (Line | undefined)[]): Leaving[] => {
    const hosts = new Set(pins.map((pin) => `${board.ref}.${pin}`))
    return lines.flatMap((line) => (line ? [{ line, hosts }] : []))
  }
  const look = (use: SignalUse, host: Host, line: Line | undefined): readonly Leaving[] | undefined => {
    const { board } = host
    if (!board) return undefined
    const pin = host.end.slice(host.ref.length + 1)
    if (use.facts.needs === 'pwm' && use.facts.hertz !== undefined && host.functions.has('pwm')) {
      const own = board.board.timers.filter((one) => Object.values(one.channels).some((pins) => pins.includes(pin)))
      // A pin on several timers is left to the check; pins on one are the rule.
      const key = own.length === 1 ? `${host.ref} ${own[0]?.id}` : undefined
      const known = key === undefined ? undefined : timers.get(key)
      if (known && known.hertz !== use.facts.hertz && line)
        return leaving(board, Object.values(own[0]?.channels ?? {}).flat(), [known.line, line])
      if (key !== undefined && !known) timers.set(key, { hertz: use.facts.hertz, line })
    }
    if (use.facts.needs === 'interrupt') {
      const shared = board.board.interruptLines.find((one) => one.pins.includes(pin))
      const key = shared && `${host.ref} ${shared.id}`
      if (shared && key !== undefined && edges.has(key) && line)
        return leaving(board, shared.pins, [edges.get(key), line])
      if (key !== undefined) edges.set(key, line)
    }
    return undefined
  }
  for (const use of problem.timed) for (const { host } of use.hosts) look(use, host, undefined)
  for (const { line, host } of picks) {
    const use = line.uses[0]
    const clash = host && use && look(use, host, line)
    if (clash) return clash
  }
  return undefined
}
