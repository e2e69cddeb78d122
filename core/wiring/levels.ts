import { entryOf } from '../base/entryOf.ts'
import type { Levels } from '../catalog/common.ts'
import type { SignalUse } from './model.ts'

/** Volts of a protection diode: below its supply and these no current flows into a pin, though no source allows the volts. */
export const PROTECTION_DIODE = 0.6

/** How far apart, in volts, two supplies may be to count as one: 3.0 and 3.3 V do, 3.3 and 5 V do not. */
const ALIKE_VOLTS = 0.35

/** Whether two supplies are one for all that hangs on them. */
export const areAlike = (volts: number, other: number): boolean => Math.abs(volts - other) <= ALIKE_VOLTS

/** One object for all signals of which no levels are known. */
const UNKNOWN: Levels = {}

/** Level set of a part's signal: by name, or by the value of an option. */
export function levelsOf(use: SignalUse): Levels {
  const { part, options } = use.part
  const named = use.facts.levels
  const name = typeof named === 'object' ? entryOf(named.sets, String(entryOf(options, named.option))) : named
  return entryOf(part.levels, name ?? '') ?? UNKNOWN
}
