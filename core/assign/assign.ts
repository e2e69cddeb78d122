import { applyEdits, type Edit } from '../plan/edit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { resolve } from '../wiring/resolve.ts'
import { BusSearch } from './busSearch.ts'
import { type Candidate, candidates } from './candidates.ts'
import { addSeriesCompanions, type Decision, feedAndTie, type Refusal } from './feedAndTie.ts'
import { leastCostMatching } from './matching.ts'
import { addPullUps } from './pullUps.ts'

export interface AssignOptions {
  /** Only these signal ends; supplies, grounds and ties are then left as they are. */
  readonly only?: ReadonlySet<string>
  /** Only these parts, with their supplies, grounds and ties. */
  readonly refs?: ReadonlySet<string>
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
}

/** Points for a signal left without a pin: more than any plan could otherwise cost. */
const UNPLACED = 100_000

/**
 * Wires everything that is open and required: supplies, grounds, straps, companions in series, then signals. Wires
 * that are there stay, locked or not. Bus arrangements are searched with backtracking; for each, the single signals
 * are matched to the pins that remain at least cost. Same input, same answer.
 */
export function assign(wiring: Wiring, options: AssignOptions = {}): AssignResult {
  const decisions: Decision[] = []
  const refused: Refusal[] = []
  let now = wiring
  if (!options.only) {
    const wanted = (ref: string): boolean => options.refs?.has(ref) ?? true
    const companions = addSeriesCompanions(now, wanted)
    const fed = feedAndTie(companions.wiring, wanted)
    decisions.push(...companions.decisions, ...fed.decisions)
    refused.push(...fed.refused)
    now = fed.wiring
  }
  const open = now.signals.filter(
    (use) =>
      isOpen(use) &&
      (options.only ? options.only.has(use.end) : use.facts.required && (options.refs?.has(use.part.ref) ?? true)),
  )
  const search = new BusSearch(now, open)
  const singles = open.filter((use) => !search.carries(use))
  const choices = singles.map((use) => candidates(now, use).filter((one) => one.blocked === undefined))
  const relaxed = matchSingles(choices, new Set()).cost

  let best: { cost: number; placed: Placement[] } | undefined
  let tried = 0
  const finished = search.each(
    (arrangement) => {
      tried += 1
      if (!best || arrangement.cost + relaxed < best.cost) {
        const matched = matchSingles(choices, arrangement.taken)
        const cost = arrangement.cost + matched.cost
        if (!best || cost < best.cost)
          best = {
            cost,
            placed: [
              ...arrangement.placed,
              ...matched.picks.flatMap((pick, index): Placement[] =>
                pick ? [{ use: singles[index]!, to: pick.host.end, why: reasons(pick) }] : [],
              ),
            ],
          }
      }
      return options.shouldStop?.(tried) !== true
    },
    () => (best ? best.cost - relaxed : Number.POSITIVE_INFINITY),
  )

  const placed = best?.placed ?? []
  for (const { use, to, why } of placed)
    decisions.push({ edits: [{ do: 'connect', from: use.tail, to }], from: use.tail, to, why })
  if (!options.only) {
    const wired = resolve(
      applyEdits(
        wiring.plan,
        decisions.flatMap((one) => one.edits),
      ),
      wiring.catalog,
    )
    decisions.push(...addPullUps(wired, (ref) => options.refs?.has(ref) ?? true))
  }
  const done = new Set(placed.map(({ use }) => use.end))
  for (const use of open)
    if (!done.has(use.end))
      refused.push({
        end: use.end,
        needs: needWords(use.facts.needs),
        reasons: search.carries(use) ? search.refusals(use) : refusals(now, use),
      })
  const missing = open.length - done.size
  const cost = Math.round(((best?.cost ?? 0) - missing * UNPLACED) * 10) / 10
  return {
    status: refused.length === 0 ? 'placed' : decisions.length > 0 ? 'partial' : 'impossible',
    optimal: finished && !search.truncated,
    cost,
    bound: finished && !search.truncated ? cost : Math.round(Math.min(cost, relaxed + search.leastCost) * 10) / 10,
    edits: decisions.flatMap((one) => one.edits),
    placed: decisions.map(({ from, to, why }) => ({ from, to, why })),
    unplaced: refused,
  }
}

interface Placement {
  readonly use: SignalUse
  readonly to: string
  readonly why: string
}

/** Waits for a host, also when it is already joined to some other part that waits with it. */
const isOpen = (use: SignalUse): boolean =>
  use.state === 'open' || (use.state === 'joined' && use.hosts.length === 0 && use.facts.required)

/** Matches signals to hosts that are not taken, leaving as few as possible without one. */
function matchSingles(
  choices: readonly (readonly Candidate[])[],
  taken: ReadonlySet<string>,
): { cost: number; picks: (Candidate | undefined)[] } {
  const columns = new Map<string, number>()
  for (const list of choices)
    for (const { host } of list) if (!taken.has(host.end) && !columns.has(host.end)) columns.set(host.end, columns.size)
  const width = columns.size + choices.length
  const matrix = choices.map((list, row) => {
    const costs = new Array<number>(width).fill(UNPLACED * 10)
    costs[columns.size + row] = UNPLACED
    for (const one of list) {
      const column = columns.get(one.host.end)
      if (column !== undefined) costs[column] = one.cost
    }
    return costs
  })
  if (matrix.length === 0) return { cost: 0, picks: [] }
  const answer = leastCostMatching(matrix)
  const byColumn = new Map([...columns].map(([end, column]) => [column, end]))
  let cost = 0
  const picks = answer.map((column, row) => {
    cost += matrix[row]![column]!
    const end = byColumn.get(column)
    return choices[row]!.find((one) => one.host.end === end)
  })
  return { cost, picks }
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

/** `REF.PIN`: the pin is blocked by that signal. */
const isEnd = (reason: string): boolean => /^[A-Za-z][\w-]*\.\S+$/.test(reason)

/** Why no pin is left: reasons with the number of pins, the commonest first. */
function refusals(wiring: Wiring, use: SignalUse): string[] {
  const tally = new Map<string, number>()
  let free = 0
  for (const one of candidates(wiring, use)) {
    if (one.blocked === undefined) free += 1
    else {
      const reason = isEnd(one.blocked) ? 'taken' : one.blocked
      tally.set(reason, (tally.get(reason) ?? 0) + 1)
    }
  }
  if (free > 0) tally.set('needed by other signals', free)
  return [...tally]
    .sort((a, b) => b[1] - a[1])
    .map(([reason, pins]) => `${pins} ${pins === 1 ? 'pin' : 'pins'}: ${reason}`)
}
