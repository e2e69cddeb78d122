import { busNeed } from '../wiring/buses.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import type { AssignResult } from './assign.ts'
import { NONE } from './matching.ts'
import { PinTable } from './pinTable.ts'
import { openSignals, prepare } from './preparing.ts'
import { fitAll, search } from './search.ts'
import { keepsOff, SearchProblem } from './searchProblem.ts'

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
export const fits = (wiring: Wiring, open: readonly SignalUse[]): boolean =>
  fitAll(new SearchProblem(wiring, open)).isWhole

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
 * A minimal conflict among the open signals: a unit is kept only when the rest fits without it. Undefined when everything
 * fits.
 */
export function conflictOf(wiring: Wiring, open: readonly SignalUse[]): Conflict | undefined {
  const units = unitsOf(open)
  const solves = solver(wiring)
  if (solves(units)) return undefined
  const tied = tiedSingles(wiring, open)
  const within = tied
    ? units.filter((unit) => tied.has(unit[0] as SignalUse))
    : byController(units).find((some) => !solves(some))
  const core = explain(solves, [], within ?? units)
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
 * Parts that could change of which one must, so that they all can be placed beside what cannot change: a minimal set of
 * them, where it can be among those that compete for the controllers of one kind. Of what cannot change as much as can be
 * placed counts. Empty when all of them fit beside it as they are.
 */
export function hingesOf(
  wiring: Wiring,
  open: readonly SignalUse[],
  canChange: (part: PartInstance) => boolean,
): readonly PartInstance[] {
  const units = unitsOf(open)
  const canBe = (unit: Unit): boolean => unit.some(({ part }) => canChange(part))
  const solves = solver(wiring)
  for (const some of [...byController(units), units]) {
    const changing = some.filter(canBe)
    if (changing.length === 0) continue
    const fixed = some.filter((unit) => !canBe(unit))
    const lacking = new Set(solves(fixed) ? [] : search(new SearchProblem(wiring, fixed.flat())).best.left)
    const placed = fixed.filter((unit) => !unit.some((use) => lacking.has(use)))
    if (solves([...placed, ...changing])) continue
    return [...new Set(explain(solves, placed, changing).map(([use]) => (use as SignalUse).part))]
  }
  return []
}

/**
 * A minimal set of these that, with what stands, cannot be solved, by dividing and testing (QuickXplain, Junker 2004);
 * all of them with what stands cannot, and what stands by itself can.
 */
function explain(
  solves: (units: readonly Unit[]) => boolean,
  standing: readonly Unit[],
  all: readonly Unit[],
): readonly Unit[] {
  const within = (background: readonly Unit[], added: boolean, rest: readonly Unit[]): readonly Unit[] => {
    if (added && !solves(background)) return []
    if (rest.length <= 1) return rest
    const half = Math.floor(rest.length / 2)
    const [first, second] = [rest.slice(0, half), rest.slice(half)]
    const right = within([...background, ...first], first.length > 0, second)
    const left = within([...background, ...right], right.length > 0, first)
    return [...left, ...right]
  }
  return within(standing, false, all)
}

/**
 * Tells of units whether all can be placed beside what is wired already. What an answer places beside what it leaves out
 * can be placed, and so can any part of it: that is not looked for again.
 */
function solver(wiring: Wiring): (units: readonly Unit[]) => boolean {
  const placeable: ReadonlySet<Unit>[] = []
  return (units) => {
    if (placeable.some((all) => units.every((unit) => all.has(unit)))) return true
    const { isWhole, left } = fitAll(new SearchProblem(wiring, units.flat()))
    const lacking = new Set(left)
    // A part is kept off its bus by a line of its own only where that line finds a pin.
    if (left && !left.some(keepsOff))
      placeable.push(new Set(units.filter((unit) => !unit.some((use) => lacking.has(use)))))
    return isWhole
  }
}

/** Single signals that together have too few pins, buses aside; undefined where those alone all fit. */
function tiedSingles(wiring: Wiring, open: readonly SignalUse[]): ReadonlySet<SignalUse> | undefined {
  const problem = new SearchProblem(wiring, open)
  const { matching, lines } = new PinTable(problem).match([])
  const row = matching.columns().indexOf(NONE)
  return row < 0 ? undefined : new Set(matching.tiedTo(row).flatMap((one) => lines[one]?.uses ?? []))
}

/** Parts that compete for the controllers of one kind on one board: a far smaller problem than all that is open. */
function byController(units: readonly Unit[]): (readonly Unit[])[] {
  const kinds = new Map<string, Unit[]>()
  for (const unit of units) {
    const [use] = unit
    const need = use && busNeed(use.facts.needs)
    if (!need || need.signal === 'cs') continue
    const key = `${use.part.home?.ref} ${need.kind}`
    kinds.set(key, [...(kinds.get(key) ?? []), unit])
  }
  return [...kinds.values()]
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
