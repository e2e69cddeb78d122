import { preferredValue } from './preferred.ts'

/** What a series resistor makes of an LED; volts, milliamperes, ohms, watts. */
export interface LedPoint {
  /** Resistance that makes the wanted current: (V − Vf) / I. */
  readonly exact: number
  /** Next value of the series that is not below it. */
  readonly taken: number
  /** Current with that value as printed, and in the worst case: least Vf, resistor at the low end of its tolerance. */
  readonly milliamps: number
  readonly mostMilliamps: number
  /** Power in the resistor in the worst case: I² · R. */
  readonly watts: number
}

export interface LedQuestion {
  readonly volts: number
  readonly forward: number
  /** Least forward voltage of the spread. */
  readonly forwardLeast: number
  readonly milliamps: number
  /** Tolerance of the resistor in percent. */
  readonly tolerance: number
  readonly series: 'E12' | 'E24'
  /** Takes this resistor instead of the next of the series. */
  readonly ohms?: number
}

/** Undefined when the supply does not reach the forward voltage. */
export function ledResistor(question: LedQuestion): LedPoint | undefined {
  const { volts, forward, forwardLeast, milliamps, tolerance, series } = question
  if (volts <= forward || milliamps <= 0) return undefined
  const exact = ((volts - forward) / milliamps) * 1000
  const taken = question.ohms ?? preferredValue(exact, 'up', series)
  const low = taken * (1 - tolerance / 100)
  const most = ((volts - Math.min(forward, forwardLeast)) / low) * 1000
  return {
    exact,
    taken,
    milliamps: ((volts - forward) / taken) * 1000,
    mostMilliamps: most,
    watts: (most / 1000) ** 2 * low,
  }
}
