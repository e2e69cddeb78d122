import { asNumber, isInt, isNumeric, isTrue, iterate, shrunk, typeName } from './protocols.ts'
import { percentPy } from './text.ts'
import { Float, keyOf, type Py, PyBytes, PyDict, PyList, PyObject, PyRange, PySet, PyTuple, raise } from './values.ts'

const METHODS: Readonly<Record<string, string>> = {
  '+': 'add',
  '-': 'sub',
  '*': 'mul',
  '/': 'truediv',
  '//': 'floordiv',
  '%': 'mod',
  '**': 'pow',
  '&': 'and',
  '|': 'or',
  '^': 'xor',
  '<<': 'lshift',
  '>>': 'rshift',
  '@': 'matmul',
}

/** Two values and a sign between them (Python reference, 6.5 to 6.9). */
export function binary(op: string, a: Py, b: Py): Py {
  if (typeof a === 'number' && typeof b === 'number') {
    switch (op) {
      case '+': {
        const sum = a + b
        return Number.isSafeInteger(sum) ? sum : shrunk(BigInt(a) + BigInt(b))
      }
      case '-': {
        const rest = a - b
        return Number.isSafeInteger(rest) ? rest : shrunk(BigInt(a) - BigInt(b))
      }
      case '*': {
        const product = a * b
        return Number.isSafeInteger(product) ? product + 0 : shrunk(BigInt(a) * BigInt(b))
      }
    }
  }
  if (isNumeric(a) && isNumeric(b))
    return isInt(a) && isInt(b) ? whole(op, a, b) : real(op, asFloat(a), asFloat(b), a, b)
  const own = method(a, `__${METHODS[op]}__`, b)
  if (own !== undefined) return own
  const other = method(b, `__r${METHODS[op]}__`, a)
  if (other !== undefined) return other
  if (typeof a === 'string') {
    if (op === '+' && typeof b === 'string') return a + b
    if (op === '%') return percentPy(a, b)
    if (op === '*' && isInt(b)) return a.repeat(Math.max(0, Number(b)))
  }
  if (typeof b === 'string' && op === '*' && isInt(a)) return b.repeat(Math.max(0, Number(a)))
  if (a instanceof PyList) {
    if (op === '+' && b instanceof PyList) return new PyList([...a.items, ...b.items])
    if (op === '*' && isInt(b)) return new PyList(repeated(a.items, Number(b)))
  }
  if (b instanceof PyList && op === '*' && isInt(a)) return new PyList(repeated(b.items, Number(a)))
  if (a instanceof PyTuple) {
    if (op === '+' && b instanceof PyTuple) return new PyTuple([...a.items, ...b.items])
    if (op === '*' && isInt(b)) return new PyTuple(repeated(a.items, Number(b)))
  }
  if (a instanceof PyBytes) {
    if (op === '+' && b instanceof PyBytes) return new PyBytes([...a.bytes, ...b.bytes], a.mutable)
    if (op === '*' && isInt(b)) return new PyBytes(repeated(a.bytes, Number(b)), a.mutable)
  }
  if (a instanceof PySet && b instanceof PySet) {
    const [one, two] = [[...a.members], b.members]
    if (op === '&') return new PySet(one.filter(([key]) => two.has(key)).map(([, value]) => value))
    if (op === '-') return new PySet(one.filter(([key]) => !two.has(key)).map(([, value]) => value))
    if (op === '|') return new PySet([...a.members.values(), ...two.values()])
    if (op === '^')
      return new PySet(
        [...one.filter(([key]) => !two.has(key)), ...[...two].filter(([key]) => !a.members.has(key))].map(
          ([, value]) => value,
        ),
      )
  }
  if (a instanceof PyDict && b instanceof PyDict && op === '|') {
    const made = new PyDict()
    for (const from of [a, b]) for (const [key, value] of from.entries.values()) made.set(key, value)
    return made
  }
  return raise('TypeError', `unsupported operand type(s) for ${op}: '${typeName(a)}' and '${typeName(b)}'`)
}

function method(of: Py, name: string, ...args: readonly Py[]): Py | undefined {
  if (!(of instanceof PyObject)) return undefined
  return of.cls.find(name)?.call([of, ...args], new Map())
}

const repeated = <T>(items: readonly T[], count: number): T[] =>
  Array.from({ length: Math.max(0, count) }, () => items).flat()

/** A number as a float. @throws PyError for a whole number that is too large for one. */
function asFloat(value: Py): number {
  const made = asNumber(value)
  return typeof value === 'bigint' && !Number.isFinite(made)
    ? raise('OverflowError', 'int too large to convert to float')
    : made
}

/** The float that is nearest to a quotient of whole numbers of any size. */
function quotient(p: bigint, q: bigint): number {
  const size = (of: bigint): bigint => (of < 0n ? -of : of)
  const bits = (of: bigint): number => size(of).toString(2).length
  // 66 bits of the quotient, and a last one that tells whether anything is left over: rounded once, at the end.
  const shift = Math.max(0, 66 - bits(p) + bits(q))
  const top = size(p) << BigInt(shift)
  const found = top / size(q)
  const made = Number(top % size(q) === 0n ? found : found | 1n) / 2 ** shift
  if (!Number.isFinite(made)) raise('OverflowError', 'integer division result too large for a float')
  return p < 0n !== q < 0n ? -made : made
}

function whole(op: string, a: number | bigint | boolean, b: number | bigint | boolean): Py {
  if (typeof a === 'boolean' && typeof b === 'boolean' && '&|^'.includes(op))
    return op === '&' ? a && b : op === '|' ? a || b : a !== b
  if (op === '/') {
    if (Number(b) === 0) raise('ZeroDivisionError', 'division by zero')
    return new Float(
      typeof a === 'bigint' || typeof b === 'bigint' ? quotient(BigInt(a), BigInt(b)) : Number(a) / Number(b),
    )
  }
  const [x, y] = [Number(a), Number(b)]
  const small = typeof a !== 'bigint' && typeof b !== 'bigint'
  if (op === '//' || op === '%') {
    if (y === 0)
      raise('ZeroDivisionError', op === '//' ? 'integer division or modulo by zero' : 'integer modulo by zero')
    if (small) {
      const rest = x % y
      const moved = rest !== 0 && rest < 0 !== y < 0 ? rest + y : rest
      return op === '%' ? moved + 0 : (x - moved) / y + 0
    }
    const [p, q] = [BigInt(a), BigInt(b)]
    const rest = p % q
    const moved = rest !== 0n && rest < 0n !== q < 0n ? rest + q : rest
    return shrunk(op === '%' ? moved : (p - moved) / q)
  }
  if (small && Math.abs(x) < 2 ** 31 && Math.abs(y) < 2 ** 31) {
    if (op === '&') return x & y
    if (op === '|') return x | y
    if (op === '^') return x ^ y
    if (op === '>>' && y >= 0) return y > 31 ? (x < 0 ? -1 : 0) : x >> y
  }
  const [p, q] = [BigInt(a), BigInt(b)]
  switch (op) {
    case '+':
      return shrunk(p + q)
    case '-':
      return shrunk(p - q)
    case '*':
      return shrunk(p * q)
    case '&':
      return shrunk(p & q)
    case '|':
      return shrunk(p | q)
    case '^':
      return shrunk(p ^ q)
    case '<<':
    case '>>':
      if (q < 0n) raise('ValueError', 'negative shift count')
      if (op === '<<' && q > 100_000n) raise('OverflowError', 'too many digits in integer')
      return shrunk(op === '<<' ? p << q : p >> q)
    case '**':
      if (q < 0n && p === 0n) raise('ZeroDivisionError', '0.0 cannot be raised to a negative power')
      if (q < 0n) return new Float(Number(p) ** Number(q))
      if (q > 100_000n) raise('OverflowError', 'too many digits in integer')
      return shrunk(p ** q)
  }
  return raise('TypeError', `unsupported operand type(s) for ${op}: 'int' and 'int'`)
}

function real(op: string, x: number, y: number, a: Py, b: Py): Float {
  switch (op) {
    case '+':
      return new Float(x + y)
    case '-':
      return new Float(x - y)
    case '*':
      return new Float(x * y)
    case '**':
      return new Float(x ** y)
    case '/':
      if (y === 0) raise('ZeroDivisionError', 'float division by zero')
      return new Float(x / y)
    case '//':
    case '%': {
      if (y === 0) raise('ZeroDivisionError', op === '%' ? 'float modulo' : 'float floor division by zero')
      let rest = x % y
      let exact = (x - rest) / y
      if (rest !== 0 && rest < 0 !== y < 0) {
        rest += y
        exact -= 1
      }
      // Nought has the sign of the divisor, and as a quotient that of the exact one.
      if (op === '%') return new Float(rest === 0 ? (y < 0 ? -0 : 0) : rest)
      const quotient = exact - Math.floor(exact) > 0.5 ? Math.floor(exact) + 1 : Math.floor(exact)
      return new Float(quotient === 0 ? (x / y < 0 || Object.is(x / y, -0) ? -0 : 0) : quotient)
    }
  }
  return raise('TypeError', `unsupported operand type(s) for ${op}: '${typeName(a)}' and '${typeName(b)}'`)
}

export function unary(op: string, value: Py): Py {
  if (op === 'not') return !isTrue(value)
  if (isInt(value)) {
    if (op === '~') return shrunk(~BigInt(value))
    const number = typeof value === 'boolean' ? Number(value) : value
    return op === '-' ? (typeof number === 'bigint' ? shrunk(-number) : 0 - number) : number
  }
  if (value instanceof Float && op !== '~') return op === '-' ? new Float(-value.v) : value
  const own = method(value, op === '-' ? '__neg__' : op === '~' ? '__invert__' : '__pos__')
  return own ?? raise('TypeError', `bad operand type for unary ${op}: '${typeName(value)}'`)
}

/** `==`. */
export function equal(a: Py, b: Py): boolean {
  if (a === b) return !(a instanceof Float) || !Number.isNaN(a.v)
  if (isNumeric(a) && isNumeric(b)) {
    if (typeof a === 'bigint' || typeof b === 'bigint')
      return isInt(a) && isInt(b) ? BigInt(a) === BigInt(b) : asNumber(a) === asNumber(b)
    return asNumber(a) === asNumber(b)
  }
  if ((a instanceof PyList && b instanceof PyList) || (a instanceof PyTuple && b instanceof PyTuple))
    return a.items.length === b.items.length && a.items.every((one: Py, at: number) => equal(one, b.items[at]))
  if (a instanceof PyDict && b instanceof PyDict)
    return (
      a.entries.size === b.entries.size &&
      [...a.entries.values()].every(([key, value]) => b.has(key) && equal(value, b.get(key)))
    )
  if (a instanceof PySet && b instanceof PySet)
    return a.members.size === b.members.size && [...a.members.keys()].every((key) => b.members.has(key))
  if (a instanceof PyBytes && b instanceof PyBytes)
    return a.bytes.length === b.bytes.length && a.bytes.every((one, at) => one === b.bytes[at])
  if (a instanceof PyRange && b instanceof PyRange) return a.from === b.from && a.to === b.to && a.step === b.step
  const own = method(a, '__eq__', b) ?? method(b, '__eq__', a)
  return own !== undefined && isTrue(own)
}

export function compare(op: string, a: Py, b: Py): Py {
  switch (op) {
    case '==':
      return equal(a, b)
    case '!=': {
      const own = method(a, '__ne__', b)
      return own ?? !equal(a, b)
    }
    case 'is':
      return same(a, b)
    case 'is not':
      return !same(a, b)
    case 'in':
      return contains(b, a)
    case 'not in':
      return !contains(b, a)
  }
  if (typeof a === 'number' && typeof b === 'number') return ordered(op, a - b)
  if (isNumeric(a) && isNumeric(b)) {
    if (isInt(a) && isInt(b)) {
      const [x, y] = [BigInt(a), BigInt(b)]
      return ordered(op, x < y ? -1 : x > y ? 1 : 0)
    }
    return ordered(op, asNumber(a) - asNumber(b))
  }
  if (typeof a === 'string' && typeof b === 'string') return ordered(op, a < b ? -1 : a > b ? 1 : 0)
  if ((a instanceof PyList && b instanceof PyList) || (a instanceof PyTuple && b instanceof PyTuple)) {
    for (let at = 0; at < Math.min(a.items.length, b.items.length); at += 1)
      if (!equal(a.items[at], b.items[at])) return compare(op, a.items[at], b.items[at])
    return ordered(op, a.items.length - b.items.length)
  }
  if (a instanceof PyBytes && b instanceof PyBytes) {
    const at = a.bytes.findIndex((one, index) => one !== b.bytes[index])
    return ordered(op, at < 0 ? a.bytes.length - b.bytes.length : (a.bytes[at] ?? -1) - (b.bytes[at] ?? -1))
  }
  if (a instanceof PySet && b instanceof PySet) {
    const within = (x: PySet, y: PySet): boolean => [...x.members.keys()].every((key) => y.members.has(key))
    if (op === '<=') return within(a, b)
    if (op === '>=') return within(b, a)
    return op === '<'
      ? within(a, b) && a.members.size < b.members.size
      : within(b, a) && b.members.size < a.members.size
  }
  const names: Readonly<Record<string, readonly [string, string]>> = {
    '<': ['__lt__', '__gt__'],
    '>': ['__gt__', '__lt__'],
    '<=': ['__le__', '__ge__'],
    '>=': ['__ge__', '__le__'],
  }
  const [own, other] = names[op]!
  return (
    method(a, own, b) ??
    method(b, other, a) ??
    raise('TypeError', `'${op}' not supported between instances of '${typeName(a)}' and '${typeName(b)}'`)
  )
}

const same = (a: Py, b: Py): boolean =>
  a === b || (a === undefined && b === null) || (a instanceof Float && b instanceof Float && a.v === b.v)

function ordered(op: string, by: number): boolean {
  switch (op) {
    case '<':
      return by < 0
    case '>':
      return by > 0
    case '<=':
      return by <= 0
    default:
      return by >= 0
  }
}

function contains(all: Py, one: Py): boolean {
  if (typeof all === 'string')
    return typeof one === 'string'
      ? all.includes(one)
      : raise('TypeError', `'in <string>' requires string as left operand, not ${typeName(one)}`)
  if (all instanceof PyDict) return all.has(one)
  if (all instanceof PySet) return all.members.has(keyOf(one))
  if (all instanceof PyObject && all.cls.find('__contains__')) return isTrue(method(all, '__contains__', one))
  if (all instanceof PyRange) {
    const at = (asNumber(one) - all.from) / all.step
    return isNumeric(one) && Number.isInteger(at) && at >= 0 && at < all.length
  }
  const from = iterate(all)
  for (let next = from.next(); !next.done; next = from.next()) if (equal(next.value, one)) return true
  return false
}
