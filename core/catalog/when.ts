import { entryOf } from '../base/entryOf.ts'
import type { When } from './signalSchema.ts'

/** True when a condition on an option holds, or there is none. */
export function holds(when: When | undefined, options: Readonly<Record<string, string | number>>): boolean {
  if (!when) return true
  const value = entryOf(options, when.option)
  if (value === undefined) return false
  if (when.is && !when.is.some((one) => String(one) === String(value))) return false
  return when.least === undefined || Number(value) >= when.least
}
