import { entryOf } from '../base/entryOf.ts'
import type { Levels } from '../catalog/common.ts'
import type { SignalUse } from './model.ts'

/** Volts of a protection diode: below its supply and these no current flows into a pin, though no source allows the volts. */
export const PROTECTION_DIODE = 0.6

/** Level set of a part's signal: by name, or by the value of an option. */
export function levelsOf(use: SignalUse): Levels {
  const { part, options } = use.part
  const named = use.facts.levels
  const name = typeof named === 'object' ? entryOf(named.sets, String(entryOf(options, named.option))) : named
  return entryOf(part.levels, name ?? '') ?? {}
}
