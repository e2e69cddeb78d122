/** Arithmetic of I2C lines after UM10204. */

/** Least pull-up in ohms: (V − 0.4 V) / 3 mA, standard and fast mode (UM10204, 7.1). */
export const leastPullUp = (volts: number): number => (volts - 0.4) / 0.003

/** Longest rise time in nanoseconds at a clock in hertz (UM10204, table 11). */
export const riseLimit = (hertz: number): number => (hertz <= 100_000 ? 1000 : hertz <= 400_000 ? 300 : 120)

/** Rise from 30 to 70 % of the supply in nanoseconds: t = 0.8473 · R · C, ohms and farads. */
export const riseNanoseconds = (ohms: number, farads: number): number => 0.8473 * ohms * farads * 1e9

/** Largest pull-up in ohms with which a line of `farads` rises in time at `hertz`. */
export const mostPullUp = (hertz: number, farads: number): number => (riseLimit(hertz) * 1e-9) / (0.8473 * farads)

/** Fastest of the usual clocks, in hertz, at which a line rises in time; undefined when even 100 kHz is too fast. */
export function fastestClock(ohms: number, farads: number): number | undefined {
  return [1_000_000, 400_000, 100_000].find((hertz) => riseNanoseconds(ohms, farads) <= riseLimit(hertz))
}
