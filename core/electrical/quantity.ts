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

/** Base units (ohms, farads, volts …), or undefined when the text is no amount. */
export function parseQuantity(text: string): number | undefined {
  const bare = text
    .trim()
    .replace(/\s+/g, '')
    .replace(/(?:ohms?|Ω|F|V|A|Hz|W)$/i, '')
  const infix = /^(\d+)([pnuµμmRrkKMG])(\d+)$/.exec(bare)
  if (infix) return round(Number(`${infix[1]}.${infix[3]}`) * (prefixes[infix[2] as string] as number))
  const plain = /^(\d+(?:[.,]\d+)?)([pnuµμmRrkKMG]?)$/.exec(bare)
  if (!plain) return undefined
  return round(Number((plain[1] as string).replace(',', '.')) * (plain[2] ? (prefixes[plain[2]] as number) : 1))
}

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
  if (value === 0) return `0 ${unit}`
  const [factor, prefix] =
    steps.find(([step]) => Math.abs(value) >= step * 0.9999999) ?? (steps.at(-1) as [number, string])
  return `${Number((value / factor).toPrecision(digits))} ${prefix}${unit}`
}

/** Volts with one decimal, two where the second is not 0: `3.3 V`, `2.64 V`. */
export function formatVolts(value: number): string {
  const rounded = Math.round(value * 100) / 100
  return `${Number.isInteger(rounded * 10) ? rounded.toFixed(1) : rounded.toFixed(2)} V`
}
