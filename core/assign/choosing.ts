import { applyEdits } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { type AssignOptions, type AssignResult, assign } from './assign.ts'
import {
  type Choice,
  convertersSet,
  countUp,
  jumpersSet,
  lackingSupplies,
  MOST_CHOICES,
  mendingChoices,
} from './choices.ts'
import { withRows } from './rows.ts'

/** Plans tried, after which the rest is not looked at. */
const MOST_TRIED = 30

/**
 * As {@link assign}, and where not everything can be placed, with other modes and addresses for parts whose plan leaves
 * them open: as few as will do, and of equally few the cheapest. Only a part of a conflict can mend it, so others keep
 * what is usual. What the plan names, and parts that have wires on the pins in question, stay as they are.
 */
export function assignChoosing(wiring: Wiring, options: AssignOptions = {}): AssignResult {
  const counted = countUp(wiring, options, 'of a kind')
  if (counted.length === 0) return choose(wiring, options)
  const edits = counted.flatMap((one) => one.edits)
  const result = choose(resolve(applyEdits(wiring.plan, edits), wiring.catalog), options)
  return {
    ...result,
    edits: [...edits, ...result.edits],
    choices: [...counted.map(({ ref, title }) => ({ ref, title })), ...result.choices],
  }
}

function choose(wiring: Wiring, options: AssignOptions): AssignResult {
  const usual = assign(wiring, options)
  if (usual.unplaced.length === 0) return withRows(wiring, usual, options)
  const off = offLines(wiring, usual, options)
  if (off.length > 0) {
    const apart = choose(wiring, { ...options, also: new Set([...(options.also ?? []), ...off]) })
    if (waiting(apart) < waiting(usual)) return apart
  }
  let best = usual
  // How many choices it took.
  let bestCount = 0
  let stopped = false
  const counted = countUp(wiring, options, 'all')
  const whole = counted.length > 0 ? carriedOut(wiring, counted, options) : undefined
  // Counting up changes as many as clash; with fewer it may go over a second bus.
  const most = whole?.unplaced.length === 0 ? Math.min(MOST_CHOICES, counted.length - 1) : MOST_CHOICES
  const tried = new Set<string>()
  let level: { wiring: Wiring; chosen: readonly Choice[]; unplaced: AssignResult['unplaced'] }[] = [
    { wiring, chosen: [], unplaced: usual.unplaced },
  ]
  for (let count = 1; count <= most && level.length > 0 && !stopped; count += 1) {
    const next: typeof level = []
    for (const { wiring: now, chosen, unplaced } of level) {
      stopped ||= options.shouldStop?.(tried.size) === true
      if (stopped) break
      const alike = new Set<string>()
      // A jumper changed lets the supply at hand do; a converter set for it would have to give all of the current.
      const jumpers = jumpersSet(now, options, unplaced)
      const set = jumpers.length > 0 ? jumpers : convertersSet(now, options, unplaced)
      for (const choice of [...set, ...mendingChoices(now, options)]) {
        if (chosen.some((one) => one.ref === choice.ref)) continue
        // Of parts that nothing tells apart one is as good as the other.
        if (alike.has(choice.likeness)) continue
        alike.add(choice.likeness)
        const all = [...chosen, choice]
        const key = all
          .map((one) => `${one.ref} ${one.title}`)
          .sort()
          .join(', ')
        if (tried.has(key)) continue
        stopped ||= tried.size >= MOST_TRIED
        if (stopped) break
        tried.add(key)
        const after = resolve(applyEdits(now.plan, choice.edits), wiring.catalog)
        const draft = assign(after, { ...options, draft: true })
        next.push({ wiring: after, chosen: all, unplaced: draft.unplaced })
        // A part of which fewer pins wait is no further than one of which all do.
        const isBetter = (one: AssignResult): boolean =>
          backlog(one, wiring) < backlog(best, wiring) ||
          (backlog(one, wiring) === backlog(best, wiring) && bestCount === all.length && one.cost < best.cost)
        if (!isBetter(draft)) continue
        const result = assign(after, options)
        if (!isBetter(result)) continue
        best = withChoices(after, all, result, options)
        bestCount = all.length
      }
    }
    if (best.unplaced.length === 0) return { ...best, optimal: best.optimal && !stopped }
    level = next
  }
  if (whole && waiting(whole) < waiting(best)) best = whole
  // What finds no pin keeps nothing else from being wired as a rule.
  if (best === usual && !stopped) best = withRows(wiring, usual, options)
  // Without a complete answer nothing is known of choices that were not tried; when all were, they do not help.
  return { ...best, optimal: best.optimal && !stopped && level.length === 0 }
}

/**
 * Lines that keep parts of one kind off their bus, where these have one address for all and not each finds a bus: with a
 * pin for each the program gives them addresses one after the other.
 */
function offLines(wiring: Wiring, { unplaced }: AssignResult, { also, only, refs }: AssignOptions): string[] {
  if (only) return []
  const left = new Set(unplaced.map(({ end }) => end))
  const lacking = wiring.signals.filter(({ end, facts }) => left.has(end) && busNeed(facts.needs)?.kind === 'i2c')
  const addresses = new Set(lacking.flatMap(({ part }) => addressesOf(part).map(({ address }) => address)))
  const clashes = (part: PartInstance): boolean => addressesOf(part).some(({ address }) => addresses.has(address))
  const isAlone = (one: PartInstance): boolean =>
    !wiring.parts.some(({ part, ref, home }) => ref !== one.ref && part === one.part && home === one.home)
  return wiring.signals.flatMap(({ end, facts, part, state }) =>
    clashes(part) &&
    !isAlone(part) &&
    part.mode?.i2c?.off === facts.pin &&
    part.mode.i2c.addresses.option === undefined &&
    state === 'open' &&
    !also?.has(end) &&
    refs?.has(part.ref) !== false
      ? [end]
      : [],
  )
}

/** The answer with choices carried out before. */
function carriedOut(wiring: Wiring, chosen: readonly Choice[], options: AssignOptions): AssignResult {
  const edits = chosen.flatMap((one) => one.edits)
  const after = resolve(applyEdits(wiring.plan, edits), wiring.catalog)
  return withChoices(after, chosen, assign(after, options), options)
}

function withChoices(
  after: Wiring,
  chosen: readonly Choice[],
  result: AssignResult,
  options: AssignOptions,
): AssignResult {
  const whole = result.unplaced.length === 0 ? withRows(after, result, options) : result
  return {
    ...whole,
    edits: [...chosen.flatMap((one) => one.edits), ...whole.edits],
    choices: [...chosen.map(({ ref, title }) => ({ ref, title })), ...whole.choices],
  }
}

/** What is left undone: parts of which something finds no pin first, then pins that find no supply. */
const backlog = (result: AssignResult, wiring: Wiring): number =>
  1000 * waiting(result) + lackingSupplies(wiring, result.unplaced).length

/** Parts of which something finds no pin. */
const waiting = ({ unplaced }: AssignResult): number =>
  new Set(unplaced.map(({ end }) => end.slice(0, end.indexOf('.')))).size
