import type { Host, SignalUse } from '../wiring/model.ts'
import { usualPins } from './boardPins.ts'
import { orderOf } from './neatPairs.ts'
import { type Change, LEAST_GAIN, State } from './neatState.ts'
import type { Arrangement } from './search.ts'
import type { Claim, SearchProblem } from './searchProblem.ts'

/** Passes over all signals, after which the improvement stops. */
const MOST_PASSES = 8

export interface Neat {
  readonly arrangement: Arrangement
  /** Points for signals side by side, before and after. */
  readonly before: number
  readonly after: number
  /** Points of placement given for it; never more than what is gained. */
  readonly paid: number
}

/**
 * Makes an arrangement neater: signals and lines of buses move to free pins, change places, or go as a whole part to neighbouring
 * pins, as long as what is gained is more than what it costs. Local search; what it gains and what is paid are reported,
 * and held against the exhaustive answer on small kits by its test. No timer, interrupt line or PWM channel comes to be
 * asked for two things. Same input, same answer.
 */
export function neaten(problem: SearchProblem, found: Arrangement): Neat {
  const { wiring } = problem
  const at = new Map<SignalUse, Host>()
  for (const use of wiring.signals) if (use.hosts[0]) at.set(use, use.hosts[0].host)
  for (const { use, host } of found.placed) at.set(use, host)
  const lines = new Map<SignalUse, Claim>()
  for (const line of [...problem.singles, ...busLines(problem, found)]) {
    const [use] = line.uses
    if (use && found.placed.some((one) => one.use === use)) lines.set(use, line)
  }
  const state = new State(wiring, at, lines)
  const before = state.neatness()
  const price = state.price()
  const groups = groupsOf(state)
  // What brought nothing brings nothing again until something has changed.
  const tried = new Map<SignalUse | SignalUse[], number>()
  const isNew = (one: SignalUse | SignalUse[]): boolean => tried.get(one) !== state.changes
  const attempt = (one: SignalUse | SignalUse[], changes: () => Iterable<Change>): boolean => {
    tried.set(one, state.changes)
    return state.improve(changes())
  }
  for (let pass = 0, gained = true; gained && pass < MOST_PASSES; pass += 1) {
    gained = false
    for (const use of lines.keys())
      if (isNew(use) && state.potential([use]) > 0) gained = attempt(use, () => movesOf(use, state)) || gained
    for (const group of groups) if (isNew(group)) gained = attempt(group, () => blocksOf(group, state)) || gained
  }
  const placed = found.placed.map((one) => ({ ...one, host: at.get(one.use) ?? one.host }))
  const paid = state.price() - price
  const tenths = (points: number): number => Math.round(points * 10) / 10
  return {
    arrangement: { ...found, extra: found.extra + paid, placed },
    before: tenths(before),
    after: tenths(state.neatness()),
    paid: tenths(paid),
  }
}

/**
 * The lines of the controllers that were chosen, one for all parts on it. Where all lie on the pins that programs take
 * unless told otherwise they stay, and so do pins that move in groups.
 */
function busLines(problem: SearchProblem, { placed }: Arrangement): Claim[] {
  const lanes = new Set(placed.flatMap(({ lane }) => (lane && !lane.controller.groups && !lane.provider ? [lane] : [])))
  return [...lanes].flatMap((lane) => {
    const mine = placed.filter((one) => one.lane === lane)
    const usual = usualPins(lane.board.board, lane.controller)
    if (usual && mine.every(({ host }) => Object.values(usual).includes(host.pin))) return []
    const on = new Set(mine.map(({ use }) => use.part))
    const tasks = problem.tasks.filter(({ part, kind }) => kind === lane.controller.kind && on.has(part))
    return problem.laneLines(lane, tasks) ?? []
  })
}

/**
 * A signal to the pins where it could gain: beside one that it belongs to, or cheaper; there is room, or the signal there
 * takes its place. Also to the pin of one that would stand better on the pin that it leaves.
 */
function* movesOf(use: SignalUse, state: State): Iterable<Change> {
  const here = state.at.get(use) as Host
  const now = state.priceOf(use, here) ?? 0
  const own = new Set(state.pairsWith(use).flatMap(({ a, b }) => [a, b]))
  const holders = state.holders()
  for (const { host, extra } of state.lines.get(use)?.choices ?? []) {
    const holder = holders.get(host.end)
    if (holder === use) continue
    const gains = extra < now - LEAST_GAIN || state.isBesideOwn(use, host)
    const others = holder !== undefined && (own.has(holder) || state.isBesideOwn(holder, here))
    if (!gains && !others) continue
    if (holder === undefined) yield new Map([[use, host]])
    else if (state.priceOf(holder, here) !== undefined)
      yield new Map([
        [use, host],
        [holder, here],
      ])
  }
}

/** Signals that pairs hold together, in the order in which they should stand. */
function groupsOf(state: State): SignalUse[][] {
  const next = new Map<SignalUse, SignalUse[]>()
  for (const { a, b } of state.pairs)
    if (state.lines.has(a) && state.lines.has(b)) {
      next.set(a, [...(next.get(a) ?? []), b])
      next.set(b, [...(next.get(b) ?? []), a])
    }
  const seen = new Set<SignalUse>()
  const groups: SignalUse[][] = []
  for (const first of next.keys()) {
    if (seen.has(first)) continue
    const group = [first]
    seen.add(first)
    for (const one of group)
      for (const other of next.get(one) ?? [])
        if (!seen.has(other)) {
          seen.add(other)
          group.push(other)
        }
    groups.push(group.sort((x, y) => (x.part === y.part ? orderOf(x) - orderOf(y) : 0)))
  }
  return groups
}

/** A group, and the first and last part of it, on every run of neighbouring pins; who was there takes what it left. */
function* blocksOf(group: readonly SignalUse[], state: State): Iterable<Change> {
  const rows = new Map<string, Map<number, Host>>()
  for (const use of group)
    for (const { host } of state.lines.get(use)?.choices ?? []) {
      const spot = state.spot(host)
      if (!spot) continue
      const row = rows.get(spot.row) ?? new Map<number, Host>()
      rows.set(spot.row, row.set(spot.place, host))
    }
  const holders = state.holders()
  for (const part of sectionsOf(group)) {
    const potential = state.potential(part)
    if (potential <= LEAST_GAIN) continue
    // What cannot pay for itself is seen before anything is made.
    const most = part.reduce((sum, use) => sum + (state.priceOf(use, state.at.get(use) as Host) ?? 0), potential)
    for (const row of rows.values())
      for (const [place, host] of row) {
        const step = state.spot(host)?.step ?? 1
        for (const way of [step, -step]) {
          const hosts = hostsAt(part, state, row, place, way, most)
          const change = hosts && blockAt(part, state, holders, hosts)
          if (change) yield change
        }
      }
  }
}

/** The whole group, of long ones also each half, and any three in a row, which can turn where no two of them exchange. */
const sectionsOf = (group: readonly SignalUse[]): (readonly SignalUse[])[] =>
  group.length < 4
    ? [group]
    : [
        group,
        group.slice(0, Math.ceil(group.length / 2)),
        group.slice(Math.floor(group.length / 2)),
        ...group.slice(2).map((_, at) => group.slice(at, at + 3)),
      ]

/** Pins in a row for a group, where all of them can be had for less than so much. */
function hostsAt(
  group: readonly SignalUse[],
  state: State,
  row: ReadonlyMap<number, Host>,
  place: number,
  way: number,
  most: number,
): Host[] | undefined {
  const hosts: Host[] = []
  let price = 0
  for (const use of group) {
    const host = row.get(place + hosts.length * way)
    const own = host && state.priceOf(use, host)
    if (!host || own === undefined) return undefined
    price += own
    hosts.push(host)
  }
  return price < most ? hosts : undefined
}

/** A group on some pins; who was there takes what it left, or another that is free. */
function blockAt(
  group: readonly SignalUse[],
  state: State,
  holders: ReadonlyMap<string, SignalUse>,
  hosts: readonly Host[],
): Change | undefined {
  const change = new Map<SignalUse, Host>()
  const displaced: SignalUse[] = []
  for (const [index, use] of group.entries()) {
    const host = hosts[index] as Host
    const holder = holders.get(host.end)
    if (holder && !group.includes(holder)) {
      if (!state.lines.has(holder)) return undefined
      displaced.push(holder)
    }
    change.set(use, host)
  }
  const targets = new Set([...change.values()].map(({ end }) => end))
  if (displaced.length === 0) return change
  const vacated = group.map((use) => state.at.get(use) as Host)
  for (const use of displaced) {
    let free = state.free(use).find(({ end }) => !targets.has(end))
    let least = free ? (state.priceOf(use, free) as number) : Number.POSITIVE_INFINITY
    // Of equally good ones it takes what the group leaves, the first of them.
    for (const host of [...vacated].reverse()) {
      const price = targets.has(host.end) ? undefined : state.priceOf(use, host)
      if (price === undefined || price > least) continue
      free = host
      least = price
    }
    if (!free) return undefined
    change.set(use, free)
    targets.add(free.end)
  }
  return change
}
