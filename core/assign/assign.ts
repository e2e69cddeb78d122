import { applyEdits, type Edit, toBuy } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { resolve } from '../wiring/resolve.ts'
import { type Added, addedBy, valuesSet } from './added.ts'
import { candidates } from './candidates.ts'
import {
  clampWindings,
  holdAtStart,
  idleDrivers,
  idleLanes,
  idleSources,
  isAcrossNothing,
  unfinishedDrivers,
} from './finish.ts'
import { fitBases, fitLamps, fitPulls } from './fitValues.ts'
import { isMainSwitch, rateFuses, throughWhatLiesInTheWay } from './inPath.ts'
import { divisionOf, isConverter } from './leadOver.ts'
import { type Left, leftInBox } from './left.ts'
import { type Neat, neaten } from './neatness.ts'
import { isSpareInput } from './openEnds.ts'
import { overPosts } from './overPosts.ts'
import { asFound, placeLoads, placing, refusals } from './placing.ts'
import { isAlso, isOpen, openSignals, prepare, preparing } from './preparing.ts'
import { connect, type Decision, type Refusal } from './progress.ts'
import { addPullUps, finishPulls, sparePulls } from './pullUps.ts'
import { placeReservoirs } from './reservoirs.ts'
import { search } from './search.ts'
import { NO_PIN, SearchProblem } from './searchProblem.ts'
import { sharedOutputs, sideBySide } from './sideBySide.ts'
import { bySoftware } from './software.ts'
import { tieUp } from './tying.ts'
import { Work } from './work.ts'

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
  /** Parts that the kit did not have, to buy or to look for in the box; also such of before that need another value. */
  readonly added: readonly Added[]
  /** Batteries, sockets and converters of the kit that feed nothing, with the reason. */
  readonly left: readonly Left[]
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
  const result = withoutIdle(wiring, options)
  if (options.only || options.draft) return result
  return { ...result, left: leftInBox(wiring, resolve(applyEdits(wiring.plan, result.edits), wiring.catalog)) }
}

/** As {@link assign}, without drivers, converters and sources that would come to nothing. */
function withoutIdle(wiring: Wiring, options: AssignOptions): AssignResult {
  let result = assignAll(wiring, options)
  if (options.only) return result
  // What no load, nothing to feed and no line came to stays in the box, with what it would have needed. That may leave
  // others with nothing: the cell of a charger that feeds nothing.
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
function assignAll(wiring: Wiring, given: AssignOptions): AssignResult {
  const options = withoutMainSwitches(wiring, given)
  const wanted = (ref: string): boolean => options.refs?.has(ref) ?? true
  const work = new Work(wiring)
  const fed = options.only ? wiring : fedBy(work, options)
  const signals = placeSignals(work, fed, options, wanted)
  const soft = bySoftwareAtLast(work, signals, options)
  const beside = options.only ? [] : sideBySide(work.now, signals.left)
  work.add(beside)
  if (!options.only) work.add(sharedOutputs(work.now, wiring))
  if (!options.only) finish(work, wanted)
  const isPlaced = (use: SignalUse): boolean =>
    [...(soft?.decisions ?? []), ...beside].some(({ from }) => from === use.tail)
  work.refuse(
    signals.left.flatMap((use) =>
      isPlaced(use) ? [] : [refusalOf(use, signals, soft?.refusals.get(use.end), options)],
    ),
  )
  const lone = selectsAlone(signals)
  work.refuse(
    [...lone].map(([end, line]) => ({
      end,
      needs: needWords('spi.cs'),
      reasons: [`goes with ${line}, without a pin`],
    })),
  )
  const sound = work.decisions.filter(
    (one) => !isAcrossNothing(one, work.refused) && !isOverConverter(one, wiring, work.refused) && !lone.has(one.from),
  )
  const decisions =
    options.only || options.draft
      ? sound
      : rateFuses(
          wiring,
          throughWhatLiesInTheWay(wiring, work.now, overPosts(work.now, sound), (ref) => given.refs?.has(ref) ?? true),
        )
  return resultOf(wiring, decisions, work.refused, signals)
}

/** Select lines that found a pin where their bus found none, with a line of that bus. */
function selectsAlone({ neat, left }: SignalsPlaced): ReadonlyMap<string, string> {
  return new Map(
    neat.arrangement.placed.flatMap(({ use }): [string, string][] => {
      if (busNeed(use.facts.needs)?.signal !== 'cs') return []
      const line = left.find(({ part, facts }) => part === use.part && busNeed(facts.needs)?.kind === 'spi')
      return line && line !== use ? [[use.end, line.end]] : []
    }),
  )
}

/** A line led to a converter from which it found no way on. */
const isOverConverter = ({ from, to }: Decision, { parts }: Wiring, refused: readonly Refusal[]): boolean =>
  refused.some(({ end }) => end === from) &&
  parts.some(({ ref, part }) => to.startsWith(`${ref}.`) && part.inner.some(isConverter))

/** Companions, supplies, grounds and ties; the wiring with them. */
function fedBy(work: Work, { refs }: AssignOptions): Wiring {
  const fed = refs ? preparing(work.now, (ref) => refs.has(ref)) : prepare(work.now)
  work.add(fed.decisions, fed.wiring)
  work.refuse(fed.refused)
  return fed.wiring
}

/** What came of the signals: loads first, then all others in one search. */
interface SignalsPlaced {
  readonly wiring: Wiring
  readonly loads: ReturnType<typeof placeLoads>
  readonly problem: SearchProblem
  readonly found: ReturnType<typeof search>
  readonly neat: Neat
  readonly left: readonly SignalUse[]
}

function placeSignals(
  work: Work,
  fed: Wiring,
  options: AssignOptions,
  wanted: (ref: string) => boolean,
): SignalsPlaced {
  const open = options.only
    ? fed.signals.filter((use) => isOpen(use) && options.only?.has(use.end))
    : [...openSignals(fed), ...fed.signals.filter((use) => isAlso(use, options))].filter(({ part }) => wanted(part.ref))
  const { first, followers } = oneLine(fed, open)
  const loads = placeLoads(fed, first, options)
  const { wiring } = loads
  work.add(loads.decisions, wiring)
  const unfinished = options.only ? [] : unfinishedDrivers(wiring, wanted).signals
  // What moves only outputs on which nothing hangs stays open.
  const useful = options.only ? loads.others : loads.others.filter((use) => !isSpareInput(wiring, use))
  const problem = new SearchProblem(wiring, [...new Set([...useful, ...unfinished])])
  const found = search(problem, options.shouldStop)
  const neat = options.draft ? asFound(found.best) : neaten(problem, found.best)
  work.add(placing(problem, neat.arrangement, options.draft))
  work.add(
    followers.flatMap(({ use, leader }) => {
      const host = leader.hosts[0]?.host ?? neat.arrangement.placed.find((one) => one.use.end === leader.end)?.host
      return host ? [connect(use.tail, host.end, `on the 1-Wire line of ${leader.part.ref}`)] : []
    }),
  )
  return { wiring, loads, problem, found, neat, left: [...loads.left, ...found.best.left] }
}

/** Serial lines for which no controller is left. */
function bySoftwareAtLast(
  work: Work,
  { left }: SignalsPlaced,
  { only }: AssignOptions,
): ReturnType<typeof bySoftware> | undefined {
  if (only || left.length === 0) return undefined
  const soft = bySoftware(work.now, left)
  work.add(soft.decisions)
  return soft
}

/** What is known to be needed only when all pins are chosen. */
function finish(work: Work, wanted: (ref: string) => boolean): void {
  work.add(unfinishedDrivers(work.now, wanted).wires)
  // What only matters for a pin in use is known to matter now: the far side of a switch, the enable of a buffer.
  if (work.now.ties.some(({ state }) => state === 'open')) {
    const tied = tieUp(work.now, wanted)
    work.add(tied.decisions)
    work.refuse(tied.refused)
  }
  for (const suit of [fitBases, fitLamps]) {
    const fitted = suit(work.start, work.decisions, work.now)
    if (fitted) work.replace(fitted)
  }
  for (const lacking of [holdAtStart, clampWindings, finishPulls, addPullUps, placeReservoirs])
    work.add(lacking(work.now, wanted))
  const pulls = fitPulls(work.start, work.decisions, work.now)
  if (pulls) work.replace(pulls)
  work.add(sparePulls(work.now, work.start, wanted))
}

/** Why a signal finds no pin. */
function refusalOf(
  use: SignalUse,
  { wiring, problem, found }: SignalsPlaced,
  bySoftware: string | undefined,
  { draft }: AssignOptions,
): Refusal {
  const asked = { end: use.end, needs: needWords(use.facts.needs) }
  if (draft) return { ...asked, reasons: [], level: false }
  const reasons = problem.isBus(use) ? problem.refusals(use, found.best.placed) : refusals(wiring, use)
  // A serial line that no controller is left for would go by software, were it not for its level.
  const level =
    candidates(wiring, use).some(({ blocked }) => blocked?.kind === 'level') ||
    divisionOf(use) !== undefined ||
    problem.isPulledTooHigh(use, found.best.placed)
  return { ...asked, reasons: [...reasons, ...(bySoftware === undefined ? [] : [bySoftware])], level }
}

function resultOf(
  wiring: Wiring,
  decisions: readonly Decision[],
  unplaced: readonly Refusal[],
  { loads, found, neat }: SignalsPlaced,
): AssignResult {
  const base = (found.best.placed.length + loads.placed) * 100 - found.best.left.length * NO_PIN + loads.extra
  const cost = tenths(found.best.extra + base)
  return {
    status: unplaced.length === 0 ? 'placed' : decisions.length > 0 ? 'partial' : 'impossible',
    optimal: found.proven && loads.proven,
    cost,
    bound: found.proven ? cost : tenths(Math.min(found.best.extra, found.bound) + base),
    edits: toBuy(decisions.flatMap((one) => one.edits)),
    // What only gets another value leads nowhere.
    placed: decisions.flatMap(({ from, to, why }) => (from === to ? [] : [{ from, to, why }])),
    unplaced,
    choices: valuesSet(wiring, decisions),
    added: addedBy(wiring, decisions),
    left: [],
    neatness: {
      before: tenths(neat.before + loads.neat.before),
      after: tenths(neat.after + loads.neat.after),
      paid: tenths(neat.paid + loads.neat.paid),
    },
  }
}

/** A switch that is there for the supply asks for no pin: it is put into the way of the current at the end. */
function withoutMainSwitches(wiring: Wiring, options: AssignOptions): AssignOptions {
  const main = wiring.parts.filter((part) => isMainSwitch(wiring, part))
  if (main.length === 0) return options
  const others = wiring.parts.filter((part) => !main.includes(part) && (options.refs?.has(part.ref) ?? true))
  return { ...options, refs: new Set(others.map(({ ref }) => ref)) }
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

const tenths = (points: number): number => Math.round(points * 10) / 10
