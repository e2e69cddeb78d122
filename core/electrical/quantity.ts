/**
 * Amounts as makers write them: `330`, `4k7`, `10u`, `100 nF`, `2.2M`. The letter is an SI prefix (IEC 80000-1) and
 * may stand in place of the decimal point (IEC 60062).
 */
const prefixes: Record<string, number> = {
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  µ: 1e-6,
  μ: 1e-6,
  m: 1e-3,
  R: 1,
  r: 1,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
}

/** Units of free values in the catalogue. Currents stand there in milliamperes, all else in its base unit. */
export type UnitName = 'ohm' | 'farad' | 'hertz' | 'volt' | 'milliamp' | 'count' | 'metre' | 'watt'

const symbols: Readonly<Record<UnitName, string>> = {
  ohm: 'Ω',
  farad: 'F',
  hertz: 'Hz',
  volt: 'V',
  milliamp: 'A',
  count: '',
  metre: 'm',
  watt: 'W',
}

/** What may stand for a unit beside its own symbol. */
const otherNames: Readonly<Record<string, RegExp>> = {
  Ω: /^(?:ohms?|Ω|Ω|R)$/i,
  Hz: /^hz$/i,
  s: /^(?:s|sec)$/,
  m: /^m$/,
  Ah: /^ah$/i,
}
const centi = 0.01

/**
 * An amount in a field of a unit, in that unit: `4k7`, `1.2 ms`, `-10`; with the symbol `m` for metres `2 m` are two of
 * them and `2 mm` are 0.002. Undefined when the text is no amount, or one of another unit.
 */
export function parseAmount(text: string, symbol: string): number | undefined {
  const bare = text.trim().replace(/\s+/g, '').replace('−', '-')
  const infix = /^(-?\d+)([pnuµμmRrkKMG])(\d+)$/.exec(bare)
  if (infix && !(infix[2] === 'm' && symbol === 'm'))
    return round(Number(`${infix[1]}.${infix[3]}`) * (prefixes[infix[2] as string] as number))
  const [, figure, rest = ''] = /^(-?\d+(?:[.,]\d+)?)(.*)$/.exec(bare) ?? []
  if (figure === undefined) return undefined
  const value = Number(figure.replace(',', '.'))
  const isUnit = (mark: string): boolean =>
    symbol !== '' && (mark === symbol || (otherNames[symbol] ?? new RegExp(`^${symbol}$`, 'i')).test(mark))
  if (rest === '' || isUnit(rest)) return round(value)
  if (symbol === 'm' && rest === 'cm') return round(value * centi)
  const factor = prefixes[rest[0] as string]
  if (factor === undefined || (rest.length > 1 && !isUnit(rest.slice(1)))) return undefined
  return round(value * factor)
}

/** A free value of an option as it is typed: a bare number counts in the unit of the catalogue, `20 mA` as 20. */
export function parseOptionAmount(text: string, unit: UnitName | undefined): number | undefined {
  if (unit !== 'milliamp') return parseAmount(text, symbols[unit ?? 'count'])
  if (/^\s*-?\d+(?:[.,]\d+)?\s*$/.test(text)) return parseAmount(text, '')
  const amperes = parseAmount(text, 'A')
  return amperes === undefined ? undefined : round(amperes * 1000)
}

/** A free value of an option with its unit: `4.7 kΩ`, `20 mA`, `8`. */
export const formatOptionAmount = (value: number, unit: UnitName | undefined, digits = 3): string =>
  unit === undefined || unit === 'count'
    ? `${value}`
    : formatQuantity(unit === 'milliamp' ? value / 1000 : value, symbols[unit], digits)

const examples: Readonly<Record<string, string>> = {
  Ω: '330, 4k7 or 1M',
  F: '100n or 4u7',
  Hz: '400k or 50',
  V: '3.3 or 500m',
  A: '20m or 1.5',
  Ah: '2.2 or 800m',
  W: '0.25 or 250m',
  s: '1.5m or 20u',
  m: '2 or 35 cm',
}

/** What a field of a unit takes, for a message: `a number such as 330, 4k7 or 1M`. */
export const expectedAmount = (symbol: string): string => `a number such as ${examples[symbol] ?? '5 or 12.5'}`

export const expectedOptionAmount = (unit: UnitName | undefined): string =>
  unit === 'milliamp' ? 'a number such as 20 or 1.2 A' : expectedAmount(symbols[unit ?? 'count'])

const round = (value: number): number => Number(value.toPrecision(12))

const steps: readonly [number, string][] = [
  [1e9, 'G'],
  [1e6, 'M'],
  [1e3, 'k'],
  [1, ''],
  [1e-3, 'm'],
  [1e-6, 'µ'],
  [1e-9, 'n'],
  [1e-12, 'p'],
]

/** Engineering form with up to three digits, or as many as asked: `4.7 kΩ`, `100 nF`. */
export function formatQuantity(value: number, unit: string, digits = 3): string {
  if (value === 0) return `0 ${unit}`.trimEnd()
  const [factor, prefix] =
    steps.find(
      // Capacitors are never marked in millifarads.
      ([step, called]) => Math.abs(value) >= step * 0.9999999 && !(unit === 'F' && called === 'm'),
    ) ?? (steps.at(-1) as [number, string])
  return `${Number((value / factor).toPrecision(digits))} ${prefix}${unit}`.trimEnd()
}

/** Volts with one decimal, two where the second is not 0: `3.3 V`, `2.64 V`. */
export function formatVolts(value: number): string {
  const rounded = Math.round(value * 100) / 100
  return `${Number.isInteger(rounded * 10) ? rounded.toFixed(1) : rounded.toFixed(2)} V`
}
