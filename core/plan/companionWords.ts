import type { Companion, Part } from '../catalog/partSchema.ts'
import { formatOptionAmount } from '../electrical/quantity.ts'

/** A companion in a few words: `Capacitor 100 nF`. */
export function companionWords(facts: Companion, entry: Part | undefined): string {
  const amounts = Object.entries(facts.options).map(([id, value]) => {
    const option = entry?.options.find((one) => one.id === id)
    return typeof value === 'number' && option?.kind === 'amount'
      ? formatOptionAmount(value, option.unit)
      : (option?.values.find((one) => one.value === value)?.title ?? value)
  })
  return [entry?.title ?? facts.part, ...amounts].join(' ')
}
