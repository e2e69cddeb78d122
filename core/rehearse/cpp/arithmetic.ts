import type { IntType, Type, Widths } from './types.ts'
import { BOOL, intType } from './types.ts'
import type { Get, Value } from './values.ts'

/** What an operation says of itself while it runs. */
export interface Watch {
  /** A number with a sign grew beyond its type: on the board it would come out as something else. */
  readonly overflowed: (at: number, type: IntType, exact: number) => void
  readonly dividedByZero: (at: number) => void
  readonly shiftedTooFar: (at: number, by: number, type: IntType) => void
}

/** Brings a whole number into the range of a type, as its bits would hold it. */
export function wrapping(type: IntType): (value: number) => number {
  const { bits, signed } = type
  if (bits === 32) return signed ? (value) => value | 0 : (value) => value >>> 0
  const shift = 32 - bits
  return signed ? (value) => (value << shift) >> shift : (value) => (value << shift) >>> shift
}

/** Turns a value of one type into another one (ISO C++17, 7.8 to 7.11); undefined where nothing changes. */
export function conversion(from: Type, to: Type): ((value: Value) => Value) | undefined {
  const kind = (type: Type): string => (type.is === 'int' ? (type.bits > 32 ? 'wide' : 'int') : type.is)
  const [a, b] = [kind(from), kind(to)]
  if (b === 'bool') {
    if (a === 'bool') return undefined
    if (a === 'wide') return (value) => (value === 0n ? 0 : 1)
    return (value) => (value ? 1 : 0)
  }
  if (b === 'int') {
    const target = to as IntType
    if (a === 'bool') return undefined
    if (a === 'int') {
      const source = from as IntType
      const fits =
        source.signed === target.signed
          ? source.bits <= target.bits
          : !source.signed && target.signed && source.bits < target.bits
      return fits ? undefined : wrapping(target)
    }
    if (a === 'wide') {
      const { bits, signed } = target
      return (value) => Number(signed ? BigInt.asIntN(bits, value) : BigInt.asUintN(bits, value))
    }
    const wrap = wrapping(target)
    // What does not fit has no defined value; boards mostly give the nearest, or the low bits.
    return (value) => {
      const whole = Math.trunc(value)
      return Number.isFinite(whole) ? (Math.abs(whole) < 2 ** 53 ? wrap(whole % 2 ** 32) : 0) : 0
    }
  }
  if (b === 'wide') {
    const { signed } = to as IntType
    const wrap = (value: bigint): bigint => (signed ? BigInt.asIntN(64, value) : BigInt.asUintN(64, value))
    if (a === 'wide') return (from as IntType).signed === signed ? undefined : wrap
    if (a === 'float') return (value) => (Number.isFinite(value) ? wrap(BigInt(Math.trunc(value))) : 0n)
    return (value) => wrap(BigInt(value))
  }
  if (b === 'float') {
    const narrow = (to as { bits: number }).bits === 32
    if (a === 'wide') return narrow ? (value) => Math.fround(Number(value)) : (value) => Number(value)
    if (a === 'float') return narrow && (from as { bits: number }).bits === 64 ? Math.fround : undefined
    const exact = a === 'bool' || (from as IntType).bits <= 24
    return narrow && !exact ? Math.fround : undefined
  }
  return undefined
}

/** Small whole numbers are calculated as `int` (integral promotion, ISO C++17, 7.6). */
export function promoted(type: Type, { int }: Widths): Type {
  if (type.is === 'bool') return intType(int, true)
  if (type.is !== 'int') return type
  if (type.bits < int || (type.bits === int && type.signed)) return intType(int, true)
  return intType(type.bits, type.signed)
}

/** The type in which two numbers are calculated with (usual arithmetic conversions, ISO C++17, 8.0). */
export function commonType(a: Type, b: Type, widths: Widths): Type {
  if (a.is === 'float' || b.is === 'float') {
    const bits = Math.max(a.is === 'float' ? a.bits : 0, b.is === 'float' ? b.bits : 0)
    return { is: 'float', bits: bits === 64 ? 64 : 32 }
  }
  const [one, two] = [promoted(a, widths), promoted(b, widths)] as [IntType, IntType]
  if (one.signed === two.signed) return one.bits >= two.bits ? one : two
  const [unsigned, signed] = one.signed ? [two, one] : [one, two]
  return unsigned.bits >= signed.bits ? unsigned : signed
}

const compare: Readonly<Record<string, (a: Get, b: Get) => Get>> = {
  '==': (a, b) => (f) => (a(f) === b(f) ? 1 : 0),
  '!=': (a, b) => (f) => (a(f) !== b(f) ? 1 : 0),
  '<': (a, b) => (f) => (a(f) < b(f) ? 1 : 0),
  '>': (a, b) => (f) => (a(f) > b(f) ? 1 : 0),
  '<=': (a, b) => (f) => (a(f) <= b(f) ? 1 : 0),
  '>=': (a, b) => (f) => (a(f) >= b(f) ? 1 : 0),
}

/** Compares two numbers of one type. */
export const comparing = (op: string, a: Get, b: Get): Get | undefined => compare[op]?.(a, b)

/** An operation between two numbers of one type, of which the result has the same; undefined for one that it has not. */
export function calculating(op: string, type: Type, a: Get, b: Get, at: number, watch: Watch): Get | undefined {
  if (type.is === 'float') return type.bits === 32 ? narrow(op, a, b) : wide(op, a, b)
  if (type.is !== 'int') return undefined
  return type.bits > 32 ? big(op, type, a, b, at, watch) : whole(op, type, a, b, at, watch)
}

function wide(op: string, a: Get, b: Get): Get | undefined {
  switch (op) {
    case '+':
      return (f) => a(f) + b(f)
    case '-':
      return (f) => a(f) - b(f)
    case '*':
      return (f) => a(f) * b(f)
    case '/':
      return (f) => a(f) / b(f)
  }
  return undefined
}

function narrow(op: string, a: Get, b: Get): Get | undefined {
  switch (op) {
    case '+':
      return (f) => Math.fround(a(f) + b(f))
    case '-':
      return (f) => Math.fround(a(f) - b(f))
    case '*':
      return (f) => Math.fround(a(f) * b(f))
    case '/':
      return (f) => Math.fround(a(f) / b(f))
  }
  return undefined
}

function big(op: string, type: IntType, left: Get, right: Get, at: number, watch: Watch): Get | undefined {
  const a: (frame: Value[]) => bigint = left
  const b: (frame: Value[]) => bigint = right
  const wrap = (value: bigint): bigint => (type.signed ? BigInt.asIntN(64, value) : BigInt.asUintN(64, value))
  const zero = (divide: (a: bigint, b: bigint) => bigint): Get => {
    return (f) => {
      const [x, y] = [a(f), b(f)]
      if (y !== 0n) return wrap(divide(x, y))
      watch.dividedByZero(at)
      return 0n
    }
  }
  switch (op) {
    case '+':
      return (f) => wrap(a(f) + b(f))
    case '-':
      return (f) => wrap(a(f) - b(f))
    case '*':
      return (f) => wrap(a(f) * b(f))
    case '/':
      return zero((x, y) => x / y)
    case '%':
      return zero((x, y) => x % y)
    case '&':
      return (f) => wrap(a(f) & b(f))
    case '|':
      return (f) => wrap(a(f) | b(f))
    case '^':
      return (f) => wrap(a(f) ^ b(f))
    case '<<':
      return (f) => wrap(a(f) << BigInt(b(f)))
    case '>>':
      return (f) => wrap(a(f) >> BigInt(b(f)))
  }
  return undefined
}

function whole(op: string, type: IntType, a: Get, b: Get, at: number, watch: Watch): Get | undefined {
  const wrap = wrapping(type)
  /** Beyond its range a number without a sign begins again, which is defined; one with a sign does not. */
  const watched = (exact: (x: number, y: number) => number, bits: (x: number, y: number) => number): Get => {
    if (!type.signed) return (f) => wrap(bits(a(f), b(f)))
    return (f) => {
      const [x, y] = [a(f), b(f)]
      const value = wrap(bits(x, y))
      const meant = exact(x, y)
      if (value !== meant) watch.overflowed(at, type, meant)
      return value
    }
  }
  switch (op) {
    case '+':
      return watched(
        (x, y) => x + y,
        (x, y) => x + y,
      )
    case '-':
      return watched(
        (x, y) => x - y,
        (x, y) => x - y,
      )
    case '*':
      return watched((x, y) => x * y, Math.imul)
    case '/':
    case '%': {
      const isRest = op === '%'
      return (f) => {
        const [x, y] = [a(f), b(f)]
        if (y === 0) {
          watch.dividedByZero(at)
          return 0
        }
        return wrap(isRest ? x % y : Math.trunc(x / y))
      }
    }
    case '&':
      return type.signed ? (f) => a(f) & b(f) : (f) => (a(f) & b(f)) >>> 0
    case '|':
      return type.signed ? (f) => a(f) | b(f) : (f) => (a(f) | b(f)) >>> 0
    case '^':
      return type.signed ? (f) => a(f) ^ b(f) : (f) => (a(f) ^ b(f)) >>> 0
    case '<<':
    case '>>': {
      const { bits, signed } = type
      const left = op === '<<'
      return (f) => {
        const [x, by] = [a(f), Number(b(f))]
        if (by < 0 || by >= bits) {
          watch.shiftedTooFar(at, by, type)
          return left || x >= 0 ? 0 : -1
        }
        return left ? wrap(x << by) : signed ? x >> by : x >>> by
      }
    }
  }
  return undefined
}

/** All bits of a whole number the other way round. */
export function inverted(type: IntType, get: Get): Get {
  if (type.bits > 32) {
    const wide: (frame: Value[]) => bigint = get
    return type.signed ? (f) => ~wide(f) : (f) => BigInt.asUintN(64, ~wide(f))
  }
  const wrap = wrapping(type)
  return (f) => wrap(~get(f))
}

/** A number as it is written: `0x1F`, `1'000UL`, `2.5f`; undefined for none. */
export function literal(text: string, widths: Widths): { type: Type; value: Value } | undefined {
  const bare = text.replace(/'/g, '')
  const isHex = /^0x/i.test(bare)
  if (!isHex && !/^0b/i.test(bare) && /[.eE]|^\d+f$/i.test(bare)) {
    const isFloat = /f$/i.test(bare)
    const value = Number(bare.replace(/[fFlL]$/, ''))
    const bits = isFloat ? 32 : widths.double
    return { type: { is: 'float', bits }, value: bits === 32 ? Math.fround(value) : value }
  }
  const digits = bare.replace(/[uUlL]+$/, '')
  const suffix = bare.slice(digits.length).toLowerCase()
  const isOctal = /^0[0-7]+$/.test(digits)
  const value = BigInt(isOctal ? `0o${digits.slice(1)}` : digits)
  const isDecimal = !isHex && !isOctal && !/^0b/i.test(bare)
  const longs = suffix.replace(/u/g, '').length
  const ranks = [widths.int, 32, 64].slice(Math.min(longs, 2))
  for (const bits of ranks) {
    const fits = (signed: boolean): boolean => value < 1n << BigInt(signed ? bits - 1 : bits)
    const signs = suffix.includes('u') ? [false] : isDecimal ? [true] : [true, false]
    const signed = signs.find(fits)
    if (signed !== undefined) return { type: intType(bits, signed), value: bits > 32 ? value : Number(value) }
  }
  return { type: intType(64, false), value: BigInt.asUintN(64, value) }
}

export const isNumber = (type: Type): boolean => type.is === 'int' || type.is === 'float' || type.is === 'bool'
export const truth = (type: Type, get: Get): Get => {
  const turn = conversion(type, BOOL)
  return turn ? (f) => turn(get(f)) : get
}
