import { entryOf } from '../base/entryOf.ts'
import type { Inner } from './innerSchema.ts'
import type { Part } from './partSchema.ts'

/** A number of what lies between two pins, such as the forward volts of a diode: fixed, or a fact of the value that an option has. */
export function innerFact(
  part: Part,
  options: Readonly<Record<string, string | number>>,
  fact: Inner['forward'],
): number | undefined {
  if (typeof fact !== 'object') return fact
  const option = part.options.find((one) => one.id === fact.option)
  const value = option?.values.find((one) => one.value === entryOf(options, fact.option))
  return entryOf(value?.facts, fact.fact)
}
