import { entryOf } from '../base/entryOf.ts'
import type { PartInstance } from './model.ts'

/** The half of an I2S frame in which a part speaks; `both` where it has no choice, undefined for one that only listens. */
export function slotOf({ part, options, mode }: PartInstance): string | undefined {
  const speaks = [...part.signals, ...(mode?.signals ?? [])].some(({ needs }) => needs === 'i2s.din')
  if (!speaks) return undefined
  const option = part.options.find(({ id }) => id === 'channel')
  return option ? String(entryOf(options, 'channel') ?? option.usual) : 'both'
}

/** Two that would speak at the same time on one data line. */
export function speakAtOnce(one: PartInstance, other: PartInstance): boolean {
  const [a, b] = [slotOf(one), slotOf(other)]
  return a !== undefined && b !== undefined && (a === b || a === 'both' || b === 'both')
}
