import { entryOf } from '../base/entryOf.ts'
import type { Inner } from './innerSchema.ts'
import type { Part } from './partSchema.ts'

/** Forward volts of a diode at its full current: fixed, or a fact of the value that an option has. */
export function forwardOf(
  part: Part,
  options: Readonly<Record<string, string | number>>,
  forward: Inner['forward'],
): number | undefined {
  if (typeof forward !== 'object') return forward
  const option = part.options.find((one) => one.id === forward.option)
  const value = option?.values.find((one) => one.value === entryOf(options, forward.option))
  return entryOf(value?.facts, forward.fact)
}
