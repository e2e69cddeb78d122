import { isLoad } from '../catalog/common.ts'
import type { Host, Net, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import type { AssignOptions } from './assign.ts'
import { blockWords } from './block.ts'
import { type Candidate, candidates, judge } from './candidates.ts'
import type { Lane } from './lanes.ts'
import { type Neat, neaten } from './neatness.ts'
import { after, type Decision } from './progress.ts'
import { scarcityOf } from './scarcity.ts'
import { type Arrangement, search } from './search.ts'
import { NO_PIN, SearchProblem } from './searchProblem.ts'

/** A load of which some windings find no output gets none: one coil of a motor on a transistor moves nothing. */
function whole(found: Arrangement): Arrangement {
  const isSwitched = (use: SignalUse): boolean => isLoad(use.facts.needs)
  const torn = new Set(found.left.filter(isSwitched).map((use) => use.part))
  if (torn.size === 0) return found
  const goes = (use: SignalUse): boolean => isSwitched(use) && torn.has(use.part)
  return {
    ...found,
    placed: found.placed.filter(({ use }) => !goes(use)),
    left: [...found.left, ...found.placed.filter(({ use }) => goes(use)).map(({ use }) => use)],
  }
}

/** An arrangement as the search left it. */
export const asFound = (arrangement: Arrangement): Neat => ({ arrangement, before: 0, after: 0, paid: 0 })

/** The decisions of an arrangement, with the reason for each pin; lines that are one wire already get one between them. */
export const placing = (problem: SearchProblem, arrangement: Arrangement, draft = false): Decision[] =>
  distinct(problem.wiring, arrangement.placed).map(({ use, host, lane }) => ({
    edits: [{ do: 'connect', from: use.tail, to: host.end }],
    from: use.tail,
    to: host.end,
    why: draft ? '' : whyHere(problem, arrangement, use, host, lane),
  }))

const distinct = <T extends { readonly use: SignalUse }>(wiring: Wiring, placed: readonly T[]): T[] => {
  const nets = new Set<Net>()
  return placed.filter(({ use }) => {
    const net = wiring.netOf(use.tail)
    const isNew = !nets.has(net)
    nets.add(net)
    return isNew
  })
}

/** What came of the leads of loads, and the signals that are not such, as they stand in the wiring after it. */
interface LoadsPlaced {
  readonly wiring: Wiring
  readonly decisions: readonly Decision[]
  readonly others: readonly SignalUse[]
  readonly left: readonly SignalUse[]
  /** How many were placed, and their points beyond the hundred of each. */
  readonly placed: number
  readonly extra: number
  readonly proven: boolean
  readonly neat: Pick<Neat, 'before' | 'after' | 'paid'>
}

/** Loads on outputs, as found and without those that got only some of theirs. */
interface LoadsFound {
  readonly problem: SearchProblem
  readonly best: Arrangement
  readonly proven: boolean
  readonly found: Arrangement
}

/**
 * The search counts leads. Where a motor lost some of its own to another load, it looks once more without each of the
 * others: one lamp less may be four leads more that are of use.
 */
function mostWhole(wiring: Wiring, loads: readonly SignalUse[], shouldStop: AssignOptions['shouldStop']): LoadsFound {
  const without = (part?: PartInstance): LoadsFound => {
    const problem = new SearchProblem(
      wiring,
      loads.filter((use) => use.part !== part),
    )
    const { best, proven } = search(problem, shouldStop)
    const { left, ...found } = whole(best)
    return { problem, best, proven, found: { ...found, left: [...left, ...loads.filter((use) => use.part === part)] } }
  }
  const usual = without()
  const isTorn = usual.found.placed.length < usual.best.placed.length
  const others = isTorn ? new Set(usual.found.placed.map(({ use }) => use.part)) : []
  return [...others].reduce((sofar, part) => {
    const other = without(part)
    return other.found.placed.length > sofar.found.placed.length ? other : sofar
  }, usual)
}

/**
 * Loads first: they go to outputs of drivers, for which nothing else asks, and only then it is known which inputs of
 * those drivers need a pin.
 */
export function placeLoads(
  wiring: Wiring,
  open: readonly SignalUse[],
  { draft, shouldStop }: AssignOptions,
): LoadsPlaced {
  const loads = open.filter((use) => isLoad(use.facts.needs))
  if (loads.length === 0) {
    const neat = { before: 0, after: 0, paid: 0 }
    return { wiring, decisions: [], others: open, left: [], placed: 0, extra: 0, proven: true, neat }
  }
  const { problem, best, proven, found } = mostWhole(wiring, loads, shouldStop)
  const neat = draft ? asFound(found) : neaten(problem, found)
  const decisions = placing(problem, neat.arrangement, draft)
  const then = after(wiring, decisions)
  const now = (use: SignalUse): SignalUse => then.signal(use.end) as SignalUse
  return {
    wiring: then,
    decisions,
    others: open.filter((use) => !loads.includes(use)).map(now),
    left: found.left.map(now),
    placed: best.placed.length,
    extra: best.extra - best.left.length * NO_PIN,
    proven,
    neat,
  }
}

/** What spoke for a pin; and of better ones, up to two that others have. */
function whyHere(
  problem: SearchProblem,
  best: Arrangement,
  use: SignalUse,
  host: Host,
  lane: Lane | undefined,
): string {
  if (lane) {
    const before = best.placed.find((one) => one.lane === lane && one.host === host)
    if (lane.given.size > 0 || (before && before.use !== use)) return `shares ${lane.controller.title}`
    const judged = problem.judged(use, host, lane.controller.id)
    return reasons(judged) === 'fits' ? lane.controller.title : reasons(judged)
  }
  const line = problem.singles.find((one) => one.name === use.end)
  const judged = judge(problem.wiring, use, host, scarcityOf(problem.wiring, use))
  const mine = line?.choices.find((one) => one.host === host)?.extra ?? 0
  const better = (line?.choices ?? []).flatMap((one) => {
    const holder = one.extra < mine - 0.05 ? best.placed.find((other) => other.host === one.host) : undefined
    return holder ? [`${one.host.end} would be better, but ${holder.use.end} has it`] : []
  })
  return [reasons(judged), ...better.slice(0, 2)].join('; ')
}

/** What spoke for a pin, and what had to be swallowed. */
export function reasons(candidate: Pick<Candidate, 'for' | 'against'>): string {
  const good = candidate.for.join(', ')
  const bad = candidate.against.join(', ')
  return (
    [good, bad === '' ? '' : `though it ${candidate.against.length > 1 ? 'costs' : 'has'}: ${bad}`]
      .filter((text) => text !== '')
      .join('; ') || 'fits'
  )
}

/** Why no pin is left: reasons with the number of pins, the commonest first. */
export function refusals(wiring: Wiring, use: SignalUse): string[] {
  const tally = new Map<string, number>()
  let free = 0
  for (const one of candidates(wiring, use)) {
    if (one.blocked === undefined) free += 1
    else {
      const reason = one.blocked.kind === 'taken' ? 'taken' : blockWords(one.blocked)
      tally.set(reason, (tally.get(reason) ?? 0) + 1)
    }
  }
  if (free > 0) tally.set('needed by other signals', free)
  if (tally.size === 0) return ['nothing in the kit can do that']
  return [...tally]
    .sort((a, b) => b[1] - a[1])
    .map(([reason, pins]) => `${pins} ${pins === 1 ? 'pin' : 'pins'}: ${reason}`)
}
