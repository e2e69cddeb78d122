import type { Companion, Part } from '../../../core/catalog/partSchema.ts'
import { formatQuantity } from '../../../core/electrical/quantity.ts'

const marks: Readonly<Record<string, string>> = { ohm: 'Ω', farad: 'F' }

/** A companion in a few words: `Capacitor 100 nF`. */
export function companionWords(facts: Companion, entry: Part | undefined): string {
  const amounts = Object.entries(facts.options).map(([id, value]) => {
    const unit = entry?.options.find((one) => one.id === id)?.unit
    return typeof value === 'number' && unit !== undefined && marks[unit] ? formatQuantity(value, marks[unit]) : value
  })
  return [entry?.title ?? facts.part, ...amounts].join(' ')
}
