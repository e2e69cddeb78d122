import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { isLoad } from '../catalog/common.ts'
import type { Companion } from '../catalog/partSchema.ts'
import { formatOptionAmount } from '../electrical/quantity.ts'
import { type Edit, toBuy } from '../plan/edit.ts'
import { isBetweenParts } from '../wiring/between.ts'
import type { Host, Net, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { takesKick } from '../wiring/windings.ts'
import { fitBases, fitLamps } from './bases.ts'
import { blockWords } from './blocks.ts'
import { type Candidate, candidates, judge } from './candidates.ts'
import { chainRegisters } from './chains.ts'
import {
  addCompanions,
  after,
  connect,
  type Decision,
  feed,
  feedConverters,
  type Progress,
  type Refusal,
  tieUp,
  waits,
} from './feedAndTie.ts'
import {
  clampWindings,
  holdAtStart,
  idleDrivers,
  idleLanes,
  idleSources,
  isAcrossNothing,
  unfinishedDrivers,
} from './finish.ts'
import { throughFusesAndMeters } from './inPath.ts'
import type { Lane } from './lanes.ts'
import { divisionOf, leadOver } from './leadOver.ts'
import { type Neat, neaten } from './neatness.ts'
import { isSpareInput } from './openEnds.ts'
import { addPullUps, finishPulls } from './pullUps.ts'
import { placeReservoirs } from './reservoirs.ts'
import { scarcityOf } from './scarcity.ts'
import { type Arrangement, search } from './search.ts'
import { NO_PIN, SearchProblem } from './searchProblem.ts'
import { bySoftware } from './software.ts'
import { switchByTransistors, switchHighSide } from './switched.ts'

export interface AssignOptions {
  /** Only these signal ends; supplies, grounds and ties are then left as they are. */
  readonly only?: ReadonlySet<string>
  /** Only these parts, with their supplies, grounds and ties. */
  readonly refs?: ReadonlySet<string>
  /** Optional signals that look for a pin as well. */
  readonly also?: ReadonlySet<string>
  /** Only how much is placed, and at what cost, is asked: neither neatness nor reasons are worked out. */
  readonly draft?: boolean
  /** Called now and then with the number of bus arrangements tried; true stops with the best so far. */
  readonly shouldStop?: (tried: number) => boolean
}

/** A part that was added, with its value where it has one, and what for. */
export interface Added {
  readonly ref: string
  /** Id in the catalogue. */
  readonly part: string
  /** `Resistor 4.7 kΩ`. */
  readonly what: string
  readonly why: string
}

/** The answer of a search. The clock is the caller's: milliseconds are added where results are written. */
export interface AssignResult {
  readonly status: 'placed' | 'partial' | 'impossible'
  readonly optimal: boolean
  /** Points of the signals placed, and the least that any answer could have. */
  readonly cost: number
  readonly bound: number
  readonly edits: readonly Edit[]
  readonly placed: readonly { readonly from: string; readonly to: string; readonly why: string }[]
  readonly unplaced: readonly Refusal[]
  /** Modes and addresses that were left open and taken other than usual. */
  readonly choices: readonly { readonly ref: string; readonly title: string }[]
  /** Parts that the kit did not have: to buy, or to look for in the box. */
  readonly added: readonly Added[]
  /**
   * Points for signals that belong together standing side by side, before and after the pins were made neat, and what
   * was paid for it in points of placement, on top of `cost`.
   */
  readonly neatness: { readonly before: number; readonly after: number; readonly paid: number }
}

/**
 * Wires everything that is open and required: supplies, grounds, straps, companions in series, then signals. Wires
 * that are there stay, locked or not. The arrangement of signals costs least, and is said to be optimal only when that
 * was proven. Same input, same answer.
 */
export function assign(wiring: Wiring, options: AssignOptions = {}): AssignResult {
  let result = assignAll(wiring, options)
  if (options.only) return result
  // What no load, nothing to feed and no line came to stays in the box, with what it would have needed; a cell beside the
  // charger that feeds nothing stays there only then.
  const idle = new Set<string>()
  for (;;) {
    const more = [idleDrivers, idleSources, idleLanes]
      .flatMap((find) => [...find(wiring, result.edits)])
      .filter((ref) => !idle.has(ref))
    if (more.length === 0) return result
    for (const ref of more) idle.add(ref)
    const left = wiring.parts.map(({ ref }) => ref).filter((ref) => !idle.has(ref) && (options.refs?.has(ref) ?? true))
    result = assignAll(wiring, { ...options, refs: new Set(left) })
  }
}

/** As {@link assign}, with all drivers. */
function assignAll(wiring: Wiring, options: AssignOptions): AssignResult {
  const decisions: Decision[] = []
  const refused: Refusal[] = []
  let now = wiring
  if (!options.only) {
    const { refs } = options
    const fed = refs ? preparing(now, (ref) => refs.has(ref)) : prepare(now)
    decisions.push(...fed.decisions)
    refused.push(...fed.refused)
    now = fed.wiring
  }
  const open = options.only
    ? now.signals.filter((use) => isOpen(use) && options.only?.has(use.end))
    : [...openSignals(now), ...now.signals.filter((use) => isAlso(use, options))].filter(
        (use) => options.refs?.has(use.part.ref) ?? true,
      )
  const wanted = (ref: string): boolean => options.refs?.has(ref) ?? true
  const { first, followers } = oneLine(now, open)
  const loads = placeLoads(now, first, options)
  decisions.push(...loads.decisions)
  now = loads.wiring
  const unfinished = options.only ? [] : unfinishedDrivers(now, wanted).signals
  // What moves only outputs on which nothing hangs stays open.
  const useful = options.only ? loads.others : loads.others.filter((use) => !isSpareInput(loads.wiring, use))
  const problem = new SearchProblem(now, [...new Set([...useful, ...unfinished])])
  const found = search(problem, options.shouldStop)
  const neat = options.draft ? asFound(found.best) : neaten(problem, found.best)
  decisions.push(...placing(problem, neat.arrangement, options.draft))
  for (const { use, leader } of followers) {
    const host = leader.hosts[0]?.host ?? neat.arrangement.placed.find((one) => one.use.end === leader.end)?.host
    if (host) decisions.push(connect(use.tail, host.end, `on the 1-Wire line of ${leader.part.ref}`))
  }
  const left = [...loads.left, ...found.best.left]
  let built: { readonly count: number; readonly wiring: Wiring } | undefined
  /** The wiring with all decisions so far, made anew only when some came. */
  const soFar = (): Wiring => {
    if (built?.count !== decisions.length) built = { count: decisions.length, wiring: after(wiring, decisions) }
    return built.wiring
  }
  const soft = options.only || left.length === 0 ? undefined : bySoftware(soFar(), left)
  const isSoft = (use: SignalUse): boolean => soft?.decisions.some(({ from }) => from === use.tail) ?? false
  decisions.push(...(soft?.decisions ?? []))
  if (!options.only) decisions.push(...unfinishedDrivers(soFar(), wanted).wires)
  // What only matters for a pin in use is known to matter now: the far side of a switch, the enable of a buffer.
  if (!options.only && soFar().ties.some(({ state }) => state === 'open')) {
    const tied = tieUp(soFar(), wanted)
    decisions.push(...tied.decisions)
    refused.push(...tied.refused.filter((one) => !refused.some(({ end }) => end === one.end)))
  }
  if (!options.only) {
    for (const suit of [fitBases, fitLamps]) {
      const fitted = suit(wiring, decisions, soFar())
      if (!fitted) continue
      decisions.splice(0, decisions.length, ...fitted)
      built = undefined
    }
    decisions.push(...holdAtStart(soFar(), wanted))
    decisions.push(...clampWindings(soFar(), wanted))
    decisions.push(...finishPulls(soFar(), wanted))
    decisions.push(...addPullUps(soFar(), wanted))
    decisions.push(...placeReservoirs(soFar(), wanted))
  }
  for (const use of left.filter((one) => !isSoft(one)))
    refused.push({
      end: use.end,
      needs: needWords(use.facts.needs),
      reasons: options.draft
        ? []
        : [
            ...(problem.isBus(use) ? problem.refusals(use, found.best.placed) : refusals(now, use)),
            ...(soft?.refusals.has(use.end) ? [soft.refusals.get(use.end)!] : []),
          ],
      // A serial line that no controller is left for would go by software, were it not for its level.
      level:
        !options.draft &&
        (candidates(now, use).some(({ blocked }) => blocked?.kind === 'level') ||
          divisionOf(use) !== undefined ||
          problem.isPulledTooHigh(use, found.best.placed)),
    })
  const sound = decisions.filter((one) => !isAcrossNothing(one, refused))
  const fused = options.only || options.draft ? sound : throughFusesAndMeters(wiring, soFar(), sound, wanted)
  decisions.splice(0, decisions.length, ...fused)
  const base = (found.best.placed.length + loads.placed) * 100 - found.best.left.length * NO_PIN + loads.extra
  const cost = tenths(found.best.extra + base)
  return {
    status: refused.length === 0 ? 'placed' : decisions.length > 0 ? 'partial' : 'impossible',
    optimal: found.proven && loads.proven,
    cost,
    bound: found.proven ? cost : tenths(Math.min(found.best.extra, found.bound) + base),
    edits: toBuy(decisions.flatMap((one) => one.edits)),
    placed: decisions.map(({ from, to, why }) => ({ from, to, why })),
    unplaced: refused,
    choices: [],
    added: addedBy(wiring, decisions),
    neatness: {
      before: tenths(neat.before + loads.neat.before),
      after: tenths(neat.after + loads.neat.after),
      paid: tenths(neat.paid + loads.neat.paid),
    },
  }
}

/**
 * Devices with a number of their own share one line: the one that has a pin leads, else the first of a board, which looks
 * for one; the others follow it.
 */
function oneLine(
  { signals }: Wiring,
  open: readonly SignalUse[],
): {
  readonly first: readonly SignalUse[]
  readonly followers: readonly { readonly use: SignalUse; readonly leader: SignalUse }[]
} {
  const keyOf = ({ part }: SignalUse): string => `${part.home?.ref} ${part.logicVolts}`
  const leaders = new Map<string, SignalUse>()
  for (const use of signals)
    if (use.facts.numbered && use.hosts.length > 0 && !leaders.has(keyOf(use))) leaders.set(keyOf(use), use)
  const followers: { use: SignalUse; leader: SignalUse }[] = []
  const first = open.filter((use) => {
    if (!use.facts.numbered) return true
    const leader = leaders.get(keyOf(use))
    if (leader) followers.push({ use, leader })
    else leaders.set(keyOf(use), use)
    return !leader
  })
  return { first, followers }
}

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
const asFound = (arrangement: Arrangement): Neat => ({ arrangement, before: 0, after: 0, paid: 0 })

/** The decisions of an arrangement, with the reason for each pin; lines that are one wire already get one between them. */
const placing = (problem: SearchProblem, arrangement: Arrangement, draft = false): Decision[] =>
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

const tenths = (points: number): number => Math.round(points * 10) / 10

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

/**
 * Loads first: they go to outputs of drivers, for which nothing else asks, and only then it is known which inputs of
 * those drivers need a pin.
 */
function placeLoads(wiring: Wiring, open: readonly SignalUse[], { draft, shouldStop }: AssignOptions): LoadsPlaced {
  const loads = open.filter((use) => isLoad(use.facts.needs))
  if (loads.length === 0) {
    const neat = { before: 0, after: 0, paid: 0 }
    return { wiring, decisions: [], others: open, left: [], placed: 0, extra: 0, proven: true, neat }
  }
  const problem = new SearchProblem(wiring, loads)
  const { best, proven } = search(problem, shouldStop)
  const found = whole(best)
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

function addedBy(wiring: Wiring, decisions: readonly Decision[]): Added[] {
  return decisions.flatMap(({ edits, why }) =>
    edits.flatMap((edit): Added[] => {
      const facts = edit.do === 'add-part' ? wiring.catalog.parts.get(edit.entry.part) : undefined
      if (edit.do !== 'add-part' || !facts) return []
      const values = facts.options.flatMap((option) => {
        const value = entryOf(edit.entry.options ?? {}, option.id)
        return typeof value === 'number' && option.kind === 'amount' ? [formatOptionAmount(value, option.unit)] : []
      })
      return [{ ref: edit.ref, part: facts.id, what: [facts.title, ...values].join(' '), why }]
    }),
  )
}

/** What comes before the search, of all parts: what looks for a conflict or a way out starts from the same. */
export const prepare = memo((wiring: Wiring): Progress => preparing(wiring, () => true))

/** Companions, supplies, grounds, ties and converters of the wanted parts. */
function preparing(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  // A knob that serves another part must be known as such before it is fed like one of its own.
  const isFed = ({ part }: Companion): boolean => (wiring.catalog.parts.get(part)?.supplies.length ?? 0) > 0
  // What is wired to its end already gets nothing beside it.
  const waiting = new Set(wiring.parts.flatMap((part) => (waits(wiring, part) ? [part.ref] : [])))
  const isWaiting = (ref: string): boolean => wanted(ref) && waiting.has(ref)
  const stages: readonly ((now: Wiring) => Progress)[] = [
    (now) => addCompanions(now, isWaiting, isFed),
    (now) => chainRegisters(now, wanted),
    (now) => feedConverters(now, wanted),
    (now) => switchHighSide(now, wanted),
    (now) => switchByTransistors(now, wanted),
    (now) => feed(now, wanted),
    // A divider takes two loose resistors; what is then lacking before a lamp is easily had.
    (now) => leadOver(now, wanted),
    (now) => addCompanions(now, isWaiting, (one) => !takesKick(now.catalog, one)),
    (now) => tieUp(now, wanted),
  ]
  return stages.reduce<Progress>(
    (sofar, stage) => {
      const next = stage(sofar.wiring)
      return {
        wiring: next.wiring,
        decisions: [...sofar.decisions, ...next.decisions],
        refused: [...sofar.refused, ...next.refused],
      }
    },
    { wiring, decisions: [], refused: [] },
  )
}

/** Signals that need a pin and have none; one that could stay open does so unless its resistor is there. */
export const openSignals = (wiring: Wiring): SignalUse[] =>
  wiring.signals.filter(
    (use) => isOpen(use) && (use.facts.required || use.tail !== use.end) && !isBetweenParts(wiring, use),
  )

const isAlso = (use: SignalUse, { also }: AssignOptions): boolean =>
  also?.has(use.end) === true && use.state === 'open' && !use.facts.required

/** Waits for a host, also when it is already joined to some other part that waits with it. */
const isOpen = (use: SignalUse): boolean =>
  use.state === 'open' || (use.state === 'joined' && use.hosts.length === 0 && use.facts.required)

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
function refusals(wiring: Wiring, use: SignalUse): string[] {
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
