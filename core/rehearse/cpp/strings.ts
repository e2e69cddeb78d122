import type { Type } from './types.ts'
import { textAt, type Value } from './values.ts'

/**
 * A number with so many digits behind its point, as the platforms' `print` writes it: half of the last digit is added,
 * then the rest is cut off.
 */
export function floatText(value: number, digits: number): string {
  if (Number.isNaN(value)) return 'nan'
  if (!Number.isFinite(value)) return 'inf'
  if (Math.abs(value) > 4294967040) return 'ovf'
  let number = Math.abs(value)
  let rounding = 0.5
  for (let at = 0; at < digits; at += 1) rounding /= 10
  number += rounding
  const whole = Math.floor(number)
  let rest = number - whole
  let text = `${value < 0 ? '-' : ''}${whole}`
  if (digits > 0) text += '.'
  for (let at = 0; at < digits; at += 1) {
    rest *= 10
    const digit = Math.floor(rest)
    text += digit
    rest -= digit
  }
  return text
}

/** What `print` writes of a value of a type; `how` is the base of a whole number or the digits of a broken one. */
export function printedText(value: Value, type: Type, how: number | undefined): string {
  switch (type.is) {
    case 'bool':
      return String(value)
    case 'int': {
      if (type.char && how === undefined) return String.fromCharCode(value & 255)
      const base = how ?? 10
      if (base === 10 || base === 0) return String(value)
      const bits = BigInt(Math.max(32, type.bits))
      return BigInt.asUintN(Number(bits), BigInt(value)).toString(base).toUpperCase()
    }
    case 'float':
      return floatText(value, how ?? 2)
    case 'string':
      return value
    case 'array':
    case 'pointer':
      return textAt(value)
    default:
      return String(value)
  }
}

const FORM = /%([-+ 0#]*)(\*|\d+)?(?:\.(\*|\d+))?(hh|h|ll|l|z|j|t)?([diouxXcsfFeEgGp%])/g

/** `printf` (ISO C17, 7.21.6.1) on arguments that know their types. `floats` false: `%f` writes a question mark. */
export function formatted(form: string, args: readonly Value[], types: readonly Type[], floats: boolean): string {
  let next = 0
  return form.replace(FORM, (_, flags: string, width: string, precision: string, size: string, kind: string) => {
    if (kind === '%') return '%'
    const number = (): number => Number(args[next++] ?? 0)
    let wide = width === '*' ? number() : width === undefined ? 0 : Number(width)
    const left = flags.includes('-') || wide < 0
    wide = Math.abs(wide)
    const exact = precision === undefined ? undefined : precision === '*' ? number() : Number(precision)
    const type = types[next]
    const value = args[next++]
    const signed = (text: string, isNegative: boolean): string =>
      isNegative ? `-${text}` : flags.includes('+') ? `+${text}` : flags.includes(' ') ? ` ${text}` : text
    let text: string
    let isNumber = true
    switch (kind) {
      case 'd':
      case 'i': {
        const whole = wholeOf(value, type, size, true)
        text = signed(
          abs(whole)
            .toString()
            .padStart(exact ?? 1, '0'),
          whole < 0n,
        )
        break
      }
      case 'u':
      case 'o':
      case 'x':
      case 'X': {
        const base = kind === 'o' ? 8 : kind === 'u' ? 10 : 16
        const digits = wholeOf(value, type, size, false).toString(base)
        text = (kind === 'X' ? digits.toUpperCase() : digits).padStart(exact ?? 1, '0')
        if (flags.includes('#') && base === 16 && digits !== '0') text = `0${kind}${text}`
        else if (flags.includes('#') && base === 8) text = `0${text}`
        break
      }
      case 'c':
        text = String.fromCharCode(Number(value ?? 0) & 255)
        isNumber = false
        break
      case 's':
        text = type?.is === 'string' ? value : textAt(value ?? null)
        if (exact !== undefined) text = text.slice(0, exact)
        isNumber = false
        break
      case 'p':
        text = '0x0'
        break
      default: {
        if (!floats) return '?'
        const float = Number(value ?? 0)
        const digits = exact ?? 6
        const bare = Math.abs(float)
        const lower = kind.toLowerCase()
        const body = Number.isNaN(float)
          ? 'nan'
          : !Number.isFinite(bare)
            ? 'inf'
            : lower === 'f'
              ? fixedText(bare, digits)
              : lower === 'e'
                ? exponent(bare.toExponential(digits))
                : general(bare, digits === 0 ? 1 : digits)
        text = signed(kind === lower ? body : body.toUpperCase(), float < 0 || Object.is(float, -0))
      }
    }
    if (text.length >= wide) return text
    if (left) return text.padEnd(wide)
    if (flags.includes('0') && isNumber && (exact === undefined || /[fFeEgG]/.test(kind))) {
      const sign = /^[-+ ]/.exec(text)?.[0] ?? ''
      return sign + text.slice(sign.length).padStart(wide - sign.length, '0')
    }
    return text.padStart(wide)
  })
}

const abs = (value: bigint): bigint => (value < 0n ? -value : value)

/** An argument as `printf` reads it: as wide as its own type or as the letters say, whichever is less. */
function wholeOf(value: Value, type: Type | undefined, size: string | undefined, signed: boolean): bigint {
  const own = type?.is === 'int' ? Math.max(type.bits, 16) : 32
  const bits =
    size === 'hh' ? 8 : size === 'h' ? 16 : size === 'll' || size === 'j' ? 64 : Math.max(own, size === 'l' ? 32 : own)
  const whole = typeof value === 'bigint' ? value : BigInt(Math.trunc(Number(value ?? 0)) || 0)
  return signed ? BigInt.asIntN(bits, whole) : BigInt.asUintN(bits, whole)
}

/** So many digits behind the point; what lies half-way goes to the even digit (IEEE 754). */
function fixedText(value: number, digits: number): string {
  const text = value.toFixed(digits)
  if (digits > 50 || value >= 1e15) return text
  const whole = value.toFixed(digits + 40)
  const rest = whole.slice(whole.length - 40)
  if (!/^50*$/.test(rest)) return text
  const down = digits === 0 ? whole.slice(0, -41) : whole.slice(0, -40)
  return Number(down.at(-1)) % 2 === 0 ? down : text
}

/** An exponent has at least two digits. */
const exponent = (text: string): string => text.replace(/e([-+])(\d)$/, 'e$10$2')

function general(value: number, digits: number): string {
  if (value === 0) return '0'
  const power = Math.floor(Math.log10(Number(value.toPrecision(digits))))
  if (power < -4 || power >= digits) return exponent(value.toExponential(digits - 1).replace(/\.?0+e/, 'e'))
  const text = value.toFixed(Math.max(0, digits - 1 - power))
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}
