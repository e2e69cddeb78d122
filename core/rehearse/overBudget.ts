import { type Budget, budgets } from '../circuit/budget.ts'
import { listWords } from '../rules/shared.ts'
import type { Wiring } from '../wiring/model.ts'
import type { RunFinding, RunFindings } from './stage/findings.ts'

/** What a part shows, from a moment on, in microseconds. */
export interface Shown {
  readonly at: number
  readonly words: string
  /** Of the most that it can take, where what it was told says so: the colours of a strip. */
  readonly share?: number
}

/** Microseconds for which what starts takes what it takes at its peak; starts within it meet. */
const START = 300_000

const rests = (words: string): boolean => words === 'off' || words === 'rests'

/** Times at which a part began to do something, or to do something else. */
const startsOf = (shown: readonly Shown[]): number[] =>
  shown.flatMap(({ at, words }, index) => (rests(words) || (index === 0 && at === 0) ? [] : [at]))

/**
 * Sources that must give more than they can at some moment of a run. What is fed all the time takes its usual current;
 * what can be seen to rest takes none; loads that have to be set moving take their peak for a while after they start or
 * turn round. Strips of lights take what their colours ask for. The peak of displays and radios tells nothing about when
 * they start. A plan whose peaks add up to too much may be all right, as long as its program lets one start after
 * the other.
 */
export function overBudget(
  wiring: Wiring,
  shown: ReadonlyMap<string, readonly Shown[]>,
  where: (at: number) => Pick<RunFinding, 'file' | 'line'>,
  findings: RunFindings,
): void {
  const surges = new Map(
    [...shown].filter(([ref]) => wiring.parts.some((one) => one.ref === ref && one.part.category === 'load')),
  )
  for (const budget of budgets(wiring)) {
    const limit = budget.source.limitMilliamps
    // What is too much as a rule is said of the plan itself.
    if (limit === undefined || limit === 0 || budget.typicalMilliamps > limit || budget.peakMilliamps <= limit) continue
    const moments = [
      ...new Set(
        budget.items.flatMap(({ title }) => [
          ...startsOf(surges.get(title) ?? []),
          ...brightensOf(shown.get(title) ?? []),
        ]),
      ),
    ].sort((a, b) => a - b)
    for (const at of moments) {
      const { milliamps, starting, lights } = takenAt(budget, shown, surges, at)
      if (milliamps <= limit || starting.length + lights.length === 0) continue
      const { end } = budget.source
      findings.add(
        {
          kind: 'over-budget',
          message: `${end} gives ${limit} mA at most, and ${doingWords(starting, lights)} while it takes ${Math.round(milliamps)} mA in all.`,
          why:
            starting.length > 0
              ? 'Its volts break down for that moment: the board may begin anew, and what starts may not. Let one start after the other, or take a stronger source.'
              : 'Its volts break down: the lights turn red or flicker, and the board may begin anew. Show fewer or darker colours, or take a stronger source.',
          seconds: at / 1e6,
          at: [end, ...starting, ...lights],
          ...where(at),
        },
        `over-budget ${end}`,
      )
    }
  }
}

/** Times at which a strip shows more light than before. */
const brightensOf = (shown: readonly Shown[]): number[] =>
  shown.flatMap(({ at, share }, index) => ((share ?? 0) > (shown[index - 1]?.share ?? 0) ? [at] : []))

const doingWords = (starting: readonly string[], lights: readonly string[]): string =>
  [
    ...(starting.length > 0 ? [`${listWords(starting)} start${starting.length === 1 ? 's' : ''}`] : []),
    ...(lights.length > 0 ? [`${listWords(lights)} shine${lights.length === 1 ? 's' : ''}`] : []),
  ].join(' and ')

/** What a source gives at a moment, and the parts that have just started. */
function takenAt(
  { items }: Budget,
  shown: ReadonlyMap<string, readonly Shown[]>,
  surges: ReadonlyMap<string, readonly Shown[]>,
  at: number,
): { readonly milliamps: number; readonly starting: readonly string[]; readonly lights: readonly string[] } {
  let milliamps = 0
  const starting: string[] = []
  const lights: string[] = []
  for (const { title, typicalMilliamps, peakMilliamps } of items) {
    const own = shown.get(title) ?? []
    const now = own.findLast((one) => one.at <= at)
    const isStarting = startsOf(surges.get(title) ?? []).some((start) => start <= at && at < start + START)
    if (isStarting) {
      milliamps += peakMilliamps
      if (peakMilliamps > typicalMilliamps) starting.push(title)
    } else if (now?.share !== undefined) {
      milliamps += peakMilliamps * now.share
      if (peakMilliamps * now.share > typicalMilliamps) lights.push(title)
    } else if (own.length === 0 || (now && !rests(now.words))) milliamps += typicalMilliamps
  }
  return { milliamps, starting, lights }
}
