import { memo } from '../base/memo.ts'
import type { Part } from './partSchema.ts'

/** Lamps of one part on a leg that all of them share: a digit. */
export interface CommonLeg {
  /** The leg itself. */
  readonly leg: string
  /** The pins by which the lamps are lit one by one. */
  readonly lamps: readonly string[]
}

/** As many lamps on one leg make it worth while to give the lines of several such parts in turn. */
const LEAST_LAMPS = 5

/**
 * The leg that all lamps of a part share, where there are so many of them that several such parts are shown in turn over
 * the same lines: each line goes to all of them, and a switch in each common leg says whose turn it is.
 */
export const commonLegOf = memo(({ ties, inner, signals }: Part): CommonLeg | undefined => {
  const lit = new Set(signals.map(({ pin }) => pin))
  for (const { pin: leg } of ties) {
    const lamps = inner.flatMap((one) => {
      if (one.kind !== 'diode' || !one.between.includes(leg)) return []
      const [other] = one.between.filter((pin) => pin !== leg)
      return other !== undefined && lit.has(other) ? [other] : []
    })
    const each = [...new Set(lamps)]
    if (each.length >= LEAST_LAMPS) return { leg, lamps: each }
  }
  return undefined
})
