/** Preferred numbers of the E12 series within one decade (IEC 60063). */
const e12 = [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2] as const

/** The E24 series has a further value between each two. */
const e24 = [
  1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1,
] as const

/** Nearest value of a series that is not below (`up`) or not above (`down`) the given one, in the same unit. */
export function preferredValue(value: number, way: 'up' | 'down', name: 'E12' | 'E24' = 'E12'): number {
  const decade = 10 ** Math.floor(Math.log10(value))
  const series = [...(name === 'E12' ? e12 : e24).map((one) => one * decade), decade * 10]
  const slack = 1e-9 * value
  const fits =
    way === 'up' ? series.find((one) => one >= value - slack) : series.findLast((one) => one <= value + slack)
  return Number((fits ?? value).toPrecision(2))
}
