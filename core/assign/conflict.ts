import { busNeed } from '../wiring/buses.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import type { AssignResult } from './assign.ts'
import { NONE } from './matching.ts'
import { PinTable } from './pinTable.ts'
import { openSignals, prepare } from './preparing.ts'
import { fitsAll } from './search.ts'
import { SearchProblem } from './searchProblem.ts'

/** A smallest set of needs that cannot all be met: without any one of them the rest can. */
export interface Conflict {
  /** Signal ends. */
  readonly needs: readonly string[]
  /** Pins that would do for some of them, as host ends. */
  readonly pins: readonly string[]
  readonly text: string
  readonly parts: readonly PartInstance[]
}

/** What is placed as one: a single signal, or the bus lines of one part. */
type Unit = readonly SignalUse[]

/** True when all of these can be placed beside what is wired already. */
export const fits = (wiring: Wiring, open: readonly SignalUse[]): boolean => fitsAll(new SearchProblem(wiring, open))

/**
 * What stands in the way of the signals that an answer left without a pin: a minimal conflict of needs, supplies and
 * ties decided; or, where all others fit, levels that no pin takes. Undefined when it is neither.
 */
export function conflictIn(wiring: Wiring, unplaced: AssignResult['unplaced']): Conflict | undefined {
  const fed = prepare(wiring).wiring
  const open = openSignals(fed)
  const levels = new Set(unplaced.flatMap(({ end, level }) => (level ? [end] : [])))
  const stuck = unitsOf(open).filter((unit) => unit.some(({ end }) => levels.has(end)))
  const others = open.filter((use) => !stuck.some((unit) => unit.includes(use)))
  const conflict = conflictOf(fed, others)
  if (conflict || stuck.length === 0) return conflict
  const uses = stuck.flat()
  const lines = uses.flatMap(({ end }) => (levels.has(end) ? [end] : []))
  return {
    needs: uses.map(({ end }) => end),
    pins: [],
    text: `No pin takes ${lines.join(', ')} at the level that ${lines.length === 1 ? 'it has' : 'they have'}: lines of different levels need something between them.`,
    parts: [...new Set(uses.map(({ part }) => part))],
  }
}

/**
 * A minimal conflict among the open signals, by dividing and testing (QuickXplain, Junker 2004): a unit is kept only
 * when the rest fits without it. Of several, one with a part that the caller prefers. Undefined when everything fits.
 */
export function conflictOf(
  wiring: Wiring,
  open: readonly SignalUse[],
  prefers: (part: PartInstance) => boolean = () => false,
): Conflict | undefined {
  const units = unitsOf(open)
  const solves = (some: readonly Unit[]): boolean => fits(wiring, some.flat())
  if (solves(units)) return undefined
  const explain = (background: readonly Unit[], added: boolean, rest: readonly Unit[]): readonly Unit[] => {
    if (added && !solves(background)) return []
    if (rest.length <= 1) return rest
    const half = Math.floor(rest.length / 2)
    const [first, second] = [rest.slice(0, half), rest.slice(half)]
    const right = explain([...background, ...first], first.length > 0, second)
    const left = explain([...background, ...right], right.length > 0, first)
    return [...left, ...right]
  }
  const tied = tiedSingles(wiring, open, prefers)
  const within = tied
    ? units.filter((unit) => tied.has(unit[0] as SignalUse))
    : oneKind(units, (some) => !solves(some), prefers)
  const core = explain([], false, within ?? units)
  const uses = core.flat()
  const problem = new SearchProblem(wiring, uses)
  const pins = new Set<string>()
  for (const line of problem.singles) for (const { host } of line.choices) pins.add(host.end)
  for (const task of problem.tasks)
    for (const lane of problem.lanesFor(task))
      for (const use of task.uses) for (const { host } of problem.choicesOn(lane, use)) pins.add(host.end)
  return {
    needs: uses.map((use) => use.end),
    pins: [...pins],
    text: textOf(problem, core, pins.size),
    parts: [...new Set(uses.map((use) => use.part))],
  }
}

/**
 * Single signals that together have too few pins, buses aside, if possible with a part that is preferred; undefined where
 * those alone all fit.
 */
function tiedSingles(
  wiring: Wiring,
  open: readonly SignalUse[],
  prefers: (part: PartInstance) => boolean,
): ReadonlySet<SignalUse> | undefined {
  const problem = new SearchProblem(wiring, open)
  const { matching, lines } = new PinTable(problem).match([])
  const without = matching.columns().flatMap((column, row) => (column === NONE ? [row] : []))
  const groups = without.map((row) => new Set(matching.tiedTo(row).flatMap((one) => lines[one]?.uses ?? [])))
  return groups.find((group) => [...group].some(({ part }) => prefers(part))) ?? groups[0]
}

/**
 * Parts that compete for the controllers of one kind on one board and collide by themselves, if possible with one that is
 * preferred: a far smaller problem than all that is open.
 */
function oneKind(
  units: readonly Unit[],
  collide: (some: readonly Unit[]) => boolean,
  prefers: (part: PartInstance) => boolean,
): readonly Unit[] | undefined {
  const kinds = new Map<string, Unit[]>()
  for (const unit of units) {
    const [use] = unit
    const need = use && busNeed(use.facts.needs)
    if (!need || need.signal === 'cs') continue
    const key = `${use.part.home?.ref} ${need.kind}`
    kinds.set(key, [...(kinds.get(key) ?? []), unit])
  }
  const hasPreferred = (some: readonly Unit[]): boolean => some.some(([use]) => use !== undefined && prefers(use.part))
  const all = [...kinds.values()]
  return [...all.filter(hasPreferred), ...all.filter((some) => !hasPreferred(some))].find(collide)
}

function unitsOf(open: readonly SignalUse[]): Unit[] {
  const units = new Map<string, SignalUse[]>()
  for (const use of open) {
    const need = busNeed(use.facts.needs)
    const key = need && need.signal !== 'cs' ? `${use.part.ref} ${need.kind}` : use.end
    units.set(key, [...(units.get(key) ?? []), use])
  }
  return [...units.values()]
}

function textOf(problem: SearchProblem, core: readonly Unit[], pins: number): string {
  const said: string[] = []
  const kinds = new Map<string, PartInstance[]>()
  for (const task of problem.tasks) kinds.set(task.kind, [...(kinds.get(task.kind) ?? []), task.part])
  for (const [kind, parts] of kinds) {
    const board = parts[0]?.home
    const lanes = problem.lanes.filter((lane) => lane.controller.kind === kind && lane.board === board)
    const free = lanes.filter((lane) => (kind !== 'uart' && kind !== 'can') || lane.parts.length === 0).length
    const names = parts.map((part) => part.ref).join(', ')
    said.push(
      `${names} ${parts.length === 1 ? 'needs' : 'need'} ${kind === 'uart' ? (parts.length === 1 ? 'a UART' : 'a UART each') : `an ${kind.toUpperCase()} bus`}, and ${board?.ref ?? 'the plan'} has ${free} ${kind.toUpperCase()} ${free === 1 ? 'controller' : 'controllers'} left`,
    )
  }
  const byNeed = new Map<string, SignalUse[]>()
  for (const line of problem.singles)
    for (const use of line.uses) byNeed.set(use.facts.needs, [...(byNeed.get(use.facts.needs) ?? []), use])
  for (const [need, uses] of byNeed)
    said.push(
      `${uses.map((use) => use.end).join(', ')} ${uses.length === 1 ? 'needs' : 'need'} ${needWords(need)}${uses.length === 1 ? '' : ' each'}`,
    )
  const last = core.flat().length
  return `${said.join('; ')}. ${pins === 0 ? 'No free pin suits' : `${pins} free ${pins === 1 ? 'pin suits' : 'pins suit'}`} ${last === 1 ? 'it' : 'any of them'}.`
}
