import { entryOf } from '../base/entryOf.ts'
import type { Part } from './partSchema.ts'
import type { When } from './signalSchema.ts'

/** True when a condition on an option holds, or there is none. */
export function holds(when: When | undefined, options: Readonly<Record<string, string | number>>): boolean {
  if (!when) return true
  const value = entryOf(options, when.option)
  if (value === undefined) return false
  if (when.is && !when.is.some((one) => String(one) === String(value))) return false
  return when.least === undefined || Number(value) >= when.least
}

/** The options of a part as a plan gives them, and what is usual of the others. */
export function withUsual(
  { options }: Pick<Part, 'options'>,
  given: Readonly<Record<string, string | number>> | undefined,
): Record<string, string | number> {
  const all = { ...Object.fromEntries(options.map(({ id, usual }) => [id, usual])), ...given }
  for (const { id, usualWhen } of options)
    if (usualWhen && entryOf(given, id) === undefined && holds(usualWhen.when, all)) all[id] = usualWhen.usual
  return all
}
