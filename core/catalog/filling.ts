import { entryOf } from '../base/entryOf.ts'
import type { Companion, Part } from './partSchema.ts'

/**
 * Capacitors, in farads, that sensors of some kilohms to a megohm fill in a time which a program can count: by
 * t = R · C from a tenth of a millisecond on, and within a second or so.
 */
const COUNTED = { least: 1e-8, most: 1e-5 }

/** A capacitor by which a plain pin can read a resistance: emptied by the pin, it fills the slower the more that resists. */
export function countsFilling(id: string, options: Readonly<Record<string, string | number>> | undefined): boolean {
  const farads = entryOf(options, 'farads')
  return id === 'capacitor' && typeof farads === 'number' && farads >= COUNTED.least && farads <= COUNTED.most
}

/** The resistor that makes a divider of a resistance, of which a capacitor takes the place where no pin measures volts. */
export const makesDivider = ({ signals }: Part, { across }: Companion): boolean =>
  signals.some(
    ({ pin, needs, direction }) => needs === 'analog-in' && direction === 'passive' && across?.includes(pin) === true,
  )
