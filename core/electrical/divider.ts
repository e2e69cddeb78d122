import { preferredValue } from './preferred.ts'

/** Current through a divider in milliamperes: enough to ignore the input's leakage, little enough for any output. */
const DIVIDER_MILLIAMPS = 1.5

/**
 * E12 resistors that divide `from` volts to about `to`, never above `most` (all in volts).
 * V = from · bottom / (top + bottom). Undefined when there is nothing to divide.
 */
export function dividerFor(
  from: number,
  to: number,
  most: number,
): { top: number; bottom: number; volts: number } | undefined {
  if (from <= to || to <= 0) return undefined
  const bottom = preferredValue((to / DIVIDER_MILLIAMPS) * 1000, 'up')
  let top = preferredValue((bottom * (from - to)) / to, 'down')
  const at = (one: number): number => (from * bottom) / (one + bottom)
  while (at(top) > Math.min(most, to * 1.04)) top = preferredValue(top * 1.05, 'up')
  return { top, bottom, volts: at(top) }
}
