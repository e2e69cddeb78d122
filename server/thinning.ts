/** Spans of age, in milliseconds, and of how far apart what is kept of that age may lie. */
const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR
const SPANS: readonly { readonly until: number; readonly apart: number }[] = [
  { until: HOUR, apart: 0 },
  { until: DAY, apart: 10 * MINUTE },
  { until: 7 * DAY, apart: HOUR },
  { until: 60 * DAY, apart: DAY },
  { until: Number.POSITIVE_INFINITY, apart: 7 * DAY },
]

/**
 * What of many dated things may go: of each stretch of time the newest stays, stretches the longer the older they are.
 * The newest of all always stays.
 * @param dated moments in milliseconds since 1970, in any order
 * @returns those that may go, in the order given
 */
export function thinned<T>(dated: readonly T[], momentOf: (one: T) => number, now: number): T[] {
  const newest = dated.reduce<T | undefined>(
    (best, one) => (best === undefined || momentOf(one) > momentOf(best) ? one : best),
    undefined,
  )
  const kept = new Map<string, T>()
  for (const one of dated) {
    const at = momentOf(one)
    const span = SPANS.findIndex(({ until }) => now - at < until)
    const { apart } = SPANS[Math.max(0, span)]!
    const stretch = apart === 0 ? `one ${at} ${kept.size}` : `${span} ${Math.floor(at / apart)}`
    const other = kept.get(stretch)
    if (!other || momentOf(other) < at) kept.set(stretch, one)
  }
  const stays = new Set([...kept.values(), newest])
  return dated.filter((one) => !stays.has(one))
}
