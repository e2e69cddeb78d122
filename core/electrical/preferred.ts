/** Preferred numbers of the E12 series within one decade (IEC 60063). */
const e12 = [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2] as const

/** Nearest E12 value that is not below (`up`) or not above (`down`) the given one, in the same unit. */
export function preferredValue(value: number, way: 'up' | 'down'): number {
  const decade = 10 ** Math.floor(Math.log10(value))
  const series = [...e12.map((one) => one * decade), decade * 10]
  const slack = 1e-9 * value
  const fits =
    way === 'up' ? series.find((one) => one >= value - slack) : series.findLast((one) => one <= value + slack)
  return Number((fits ?? value).toPrecision(2))
}
