import { invoke } from './attributes.ts'
import { type Named, none } from './builtins.ts'
import { compare } from './operators.ts'
import { asIndex, asNumber, isInt, isTrue, listed, shrunk, typeName } from './protocols.ts'
import { formatPy, reprOf } from './text.ts'
import { Float, type Py, PyBytes, PyDict, PyList, PyObject, PyRange, PySet, PyTuple, raise, Unknown } from './values.ts'

export function wholeOf(args: readonly Py[]): Py {
  const [value = 0, base] = args
  if (typeof value === 'string') {
    const bare = value.trim().replace(/_/g, '').toLowerCase()
    const radix = base === undefined ? 10 : asIndex(base)
    const digits = radix === 16 ? bare.replace(/^(-?)0x/, '$1') : radix === 2 ? bare.replace(/^(-?)0b/, '$1') : bare
    const valid = new RegExp(`^[-+]?[${'0123456789abcdefghijklmnopqrstuvwxyz'.slice(0, radix || 10)}]+$`)
    if (!valid.test(digits)) raise('ValueError', `invalid literal for int() with base ${radix}: ${reprOf(value)}`)
    return radix === 10 ? shrunk(BigInt(digits.replace(/^\+/, ''))) : Number.parseInt(digits, radix)
  }
  if (value instanceof PyBytes) return wholeOf([String.fromCharCode(...value.bytes), base])
  if (value instanceof Float) {
    if (!Number.isFinite(value.v))
      raise(
        Number.isNaN(value.v) ? 'ValueError' : 'OverflowError',
        `cannot convert float ${Number.isNaN(value.v) ? 'NaN' : 'infinity'} to integer`,
      )
    return shrunk(BigInt(Math.trunc(value.v)))
  }
  if (isInt(value)) return typeof value === 'boolean' ? Number(value) : value
  const own = value instanceof PyObject ? value.cls.find('__int__') : undefined
  return own
    ? own.call([value], none)
    : raise('TypeError', `int() argument must be a string or a number, not '${typeName(value)}'`)
}

export function lengthOf(value: Py): number {
  if (typeof value === 'string') return [...value].length
  if (value instanceof PyList || value instanceof PyTuple) return value.items.length
  if (value instanceof PyDict) return value.entries.size
  if (value instanceof PySet) return value.members.size
  if (value instanceof PyBytes) return value.bytes.length
  if (value instanceof PyRange) return value.length
  if (value instanceof PyObject && value.cls.find('__len__'))
    return asIndex(value.cls.find('__len__').call([value], none))
  if (value instanceof Unknown) return 0
  return raise('TypeError', `object of type '${typeName(value)}' has no len()`)
}

export function extreme(way: '<' | '>', args: readonly Py[], named: Named): Py {
  const all = args.length === 1 ? listed(args[0]) : args
  const key = named.get('key')
  const by = (one: Py): Py => (key === undefined || key === null ? one : invoke(key, [one]))
  if (all.length === 0)
    return named.has('default')
      ? named.get('default')
      : raise('ValueError', `${way === '<' ? 'min' : 'max'}() arg is an empty sequence`)
  let best = all[0]
  let at = by(best)
  for (const one of all.slice(1)) {
    const value = by(one)
    if (isTrue(compare(way, value, at))) {
      best = one
      at = value
    }
  }
  return best
}

/** Half-way goes to the even one. */
export function rounded(value: Py, digits: Py): Py {
  if (isInt(value)) {
    const whole = BigInt(value)
    if (digits === undefined || digits === null || asIndex(digits) >= 0) return shrunk(whole)
    // Half-way goes to the even one.
    const unit = 10n ** BigInt(-asIndex(digits))
    const rest = ((whole % unit) + unit) % unit
    const down = whole - rest
    return shrunk(rest * 2n > unit || (rest * 2n === unit && (down / unit) % 2n !== 0n) ? down + unit : down)
  }
  const number = asNumber(value)
  if (digits === undefined || digits === null) {
    const down = Math.floor(number)
    const rest = number - down
    return shrunk(BigInt(rest < 0.5 ? down : rest > 0.5 ? down + 1 : down % 2 === 0 ? down : down + 1))
  }
  const places = asIndex(digits)
  if (places >= 0) return new Float(Number(formatPy(value, `.${places}f`)))
  const unit = 10 ** -places
  const [down, rest] = [Math.floor(number / unit), number / unit - Math.floor(number / unit)]
  const even = rest > 0.5 || (rest === 0.5 && down % 2 !== 0) ? down + 1 : down
  return new Float(even === 0 && number < 0 ? -0 : even * unit)
}
