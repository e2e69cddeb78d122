import type { PartInstance } from '../wiring/model.ts'
import type { Prices } from './bounds.ts'
import type { Filling, Fillings } from './fillings.ts'
import type { Lane, Task } from './lanes.ts'
import type { SearchProblem } from './searchProblem.ts'

/** Bus switches one behind the other that are looked through. */
const MOST_SWITCHES = 8

/** By task: true when nothing tells it from the one before it. */
export function twins(problem: SearchProblem, fillings: Fillings): boolean[] {
  const likeness = (task: Task): string => {
    const lanes = problem.lanesFor(task).map((lane) => `${lane.key} ${fillings.open(lane, task)?.shape}`)
    return [task.kind, task.part.part.id, problem.traceOf([task.part], 0, true), task.uses.length, ...lanes].join('; ')
  }
  return problem.tasks.map((task, at) => {
    const before = problem.tasks[at - 1]
    return before?.part.part.id === task.part.part.id && likeness(before) === likeness(task)
  })
}

/** What a lane that carries nothing yet offers to every task: the same for lanes that are one and the same. */
export function profiles(problem: SearchProblem, fillings: Fillings): ReadonlyMap<Lane, string> {
  return new Map(
    problem.lanes.map((lane, index) => {
      const offers = problem.tasks.map((task) =>
        problem.lanesFor(task).includes(lane) ? fillings.open(lane, task)?.shape : undefined,
      )
      const own = lane.given.size > 0 || lane.parts.length > 0 || lane.provider || lane.controller.groups
      return [lane, own ? `${index}` : `${lane.controller.rank}: ${offers.join('; ')}`]
    }),
  )
}

/**
 * Divisions with one more part, the filling that changed last: on a lane that carries others, then on each kind of
 * unused lane, cheapest first.
 */
export function waysOf(
  problem: SearchProblem,
  fillings: Fillings,
  prices: Prices,
  profile: ReadonlyMap<Lane, string>,
  task: Task,
  division: readonly Filling[],
): Filling[][] {
  const seen = new Set<string>()
  const ways: { next: Filling[]; least: number }[] = []
  const joined = division.find(({ tasks }) => tasks.some((one) => isJoined(problem, one, task)))
  for (const lane of problem.lanesFor(task)) {
    if (joined && joined.lane !== lane) continue
    const before = division.find((one) => one.lane === lane)
    if (!before) {
      const alike = profile.get(lane) as string
      if (seen.has(alike)) continue
      seen.add(alike)
    }
    if (problem.clash(task, heardBy(problem, task, lane, division)) !== undefined) continue
    const filling = before ? fillings.with(before, task) : fillings.open(lane, task)
    if (!filling) continue
    const rest = division.filter((each) => each !== before)
    ways.push({ next: [...rest, filling], least: prices.of(filling) - (before ? prices.of(before) : 0) })
  }
  return ways.sort((a, b) => a.least - b.least).map((one) => one.next)
}

/** True for parts whose lines are one wire already, behind a converter or from part to part: they go to one controller. */
const isJoined = ({ wiring }: SearchProblem, a: Task, b: Task): boolean =>
  a.uses.some((one) => b.uses.some(({ tail }) => wiring.netOf(tail) === wiring.netOf(one.tail)))

/**
 * Parts that hear the same traffic as a task on a lane: those on the lane, those before the bus switch whose channel it
 * is, and before that one's; and those behind the switches on the lane. Channels of one switch do not hear each other.
 */
function heardBy(problem: SearchProblem, task: Task, lane: Lane, division: readonly Filling[]): PartInstance[] {
  const on = (one: Lane): PartInstance[] => [
    ...one.parts,
    ...(division.find((each) => each.lane === one)?.tasks.map((each) => each.part) ?? []),
  ]
  if (task.kind !== 'i2c') return on(lane)
  const switched = problem.lanes.filter(({ provider }) => provider !== undefined)
  if (switched.length === 0) return on(lane)
  const before = (provider: PartInstance | undefined, depth: number): PartInstance[] => {
    const above =
      provider && depth < MOST_SWITCHES ? problem.lanes.find((one) => on(one).includes(provider)) : undefined
    return above ? [...on(above), ...before(above.provider, depth + 1)] : []
  }
  const behind = (parts: readonly PartInstance[], depth: number): PartInstance[] =>
    depth >= MOST_SWITCHES
      ? []
      : switched
          .filter(({ provider }) => provider && parts.includes(provider))
          .flatMap((one) => [...on(one), ...behind(on(one), depth + 1)])
  return [...on(lane), ...before(lane.provider, 0), ...behind([...on(lane), task.part], 0)]
}
