import { advance, attribute, callMember, getAttribute, invoke, isError, setAttribute } from './attributes.ts'
import { sorted } from './methods.ts'
import { binary, compare, element } from './operators.ts'
import { formatPy, reprOf, strOf } from './text.ts'
import {
  asIndex,
  asNumber,
  errorClasses,
  Float,
  isInt,
  isTrue,
  iterate,
  listed,
  objectClass,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyFunction,
  PyIterator,
  PyList,
  PyObject,
  PyProperty,
  PyRange,
  PySet,
  PySlice,
  PyTuple,
  raise,
  shrunk,
  typeName,
  Unknown,
} from './values.ts'

type Named = ReadonlyMap<string, Py>
const none: Named = new Map()

/** Classes of what the language brings along, so that `isinstance` and `type` know them. */
const types = new Map<string, PyClass>([['object', objectClass]])
const type = (name: string, make: (args: readonly Py[], named: Named) => Py, base = objectClass): PyClass => {
  const made = new PyClass(name, [base], make, 'reads')
  types.set(name, made)
  return made
}

function wholeOf(args: readonly Py[]): Py {
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

const intType = type('int', wholeOf)
intType.attrs.set(
  'from_bytes',
  new PyFunction(
    'from_bytes',
    ([all, order], named) => {
      const bytes = listed(all).map((one) => BigInt(asIndex(one)))
      const ordered = (order ?? named.get('byteorder') ?? 'big') === 'big' ? bytes : bytes.reverse()
      const value = ordered.reduce((sum, byte) => (sum << 8n) | byte, 0n)
      return shrunk(named.get('signed') ? BigInt.asIntN(8 * bytes.length, value) : value)
    },
    'static',
  ),
)
const floatType = type('float', ([value = new Float(0)]) => {
  if (typeof value === 'string') {
    const text = value.trim().toLowerCase().replace(/_/g, '')
    const known: Readonly<Record<string, number>> = {
      inf: Number.POSITIVE_INFINITY,
      '-inf': Number.NEGATIVE_INFINITY,
      nan: Number.NaN,
    }
    const number = Object.hasOwn(known, text) ? known[text]! : Number(text)
    if (text === '' || (Number.isNaN(number) && text !== 'nan'))
      raise('ValueError', `could not convert string to float: ${reprOf(value)}`)
    return new Float(number)
  }
  if (value instanceof PyObject)
    return (
      value.cls.find('__float__')?.call([value], none) ??
      raise('TypeError', 'float() argument must be a string or a number')
    )
  return new Float(asNumber(value))
})
type('bool', ([value]) => isTrue(value), intType)
const strType = type('str', (args) => {
  const [value] = args
  if (value instanceof PyBytes && args.length > 1) return new TextDecoder().decode(Uint8Array.from(value.bytes))
  return args.length === 0 ? '' : strOf(value)
})
type('list', ([all]) => new PyList(all === undefined ? [] : listed(all)))
type('tuple', ([all]) => (all instanceof PyTuple ? all : new PyTuple(all === undefined ? [] : listed(all))))
const dictType = type('dict', ([from], named) => {
  const made = new PyDict()
  if (from instanceof PyDict) for (const [key, value] of from.entries.values()) made.set(key, value)
  else if (from !== undefined) for (const pair of listed(from)) made.set(element(pair, 0), element(pair, 1))
  for (const [key, value] of named) made.set(key, value)
  return made
})
type('set', ([all]) => new PySet(all === undefined ? [] : listed(all)))
type('frozenset', ([all]) => new PySet(all === undefined ? [] : listed(all)))
const bytesOf =
  (mutable: boolean) =>
  ([from]: readonly Py[]): PyBytes => {
    if (from === undefined) return new PyBytes([], mutable)
    if (isInt(from)) return new PyBytes(new Array(Number(from)).fill(0), mutable)
    if (typeof from === 'string') return new PyBytes([...new TextEncoder().encode(from)], mutable)
    return new PyBytes(
      listed(from).map((one) => {
        const byte = asIndex(one)
        return byte < 0 || byte > 255 ? raise('ValueError', 'bytes must be in range(0, 256)') : byte
      }),
      mutable,
    )
  }
type('bytes', bytesOf(false))
type('bytearray', bytesOf(true))
type('range', (args) => {
  const [a, b, c] = args.map(asIndex)
  if (c === 0) raise('ValueError', 'range() arg 3 must not be zero')
  return args.length === 1 ? new PyRange(0, a!, 1) : new PyRange(a!, b!, c ?? 1)
})
type('slice', (args) =>
  args.length === 1 ? new PySlice(null, args[0], null) : new PySlice(args[0] ?? null, args[1] ?? null, args[2] ?? null),
)
type('property', ([get]) => new PyProperty(get))
type('staticmethod', ([one]) => new PyFunction(one.name, one.call, 'static'))
type('classmethod', ([one]) => new PyFunction(one.name, one.call, 'class'))
const typeType = type('type', ([of]) => classOf(of))

/** The class of a value. */
export function classOf(value: Py): PyClass {
  if (value instanceof PyObject) return value.cls
  if (value instanceof PyClass) return typeType
  return types.get(typeName(value)) ?? new PyClass(typeName(value), [objectClass])
}

export function isInstance(value: Py, of: Py): boolean {
  if (of instanceof PyTuple) return of.items.some((one) => isInstance(value, one))
  return of instanceof PyClass && classOf(value).isA(of)
}

function lengthOf(value: Py): number {
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

function extreme(way: '<' | '>', args: readonly Py[], named: Named): Py {
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
function rounded(value: Py, digits: Py): Py {
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

/** What every program finds (Python library reference, "Built-in Functions"); `print` writes with this. */
export function builtinNames(write: (text: string) => void): Map<string, Py> {
  const names = new Map<string, Py>([...types, ...errorClasses])
  const add = (name: string, call: (args: readonly Py[], named: Named) => Py): void => {
    names.set(name, new PyFunction(name, call, 'plain', 0, 'reads'))
  }
  const lazily = (next: () => IteratorResult<Py, Py>): PyIterator => new PyIterator(next)
  /** Goes through several things at once, to the end of the shortest. */
  const together = (things: readonly Py[], made: (items: Py[]) => Py): PyIterator => {
    const all = things.map(iterate)
    return lazily(() => {
      const items: Py[] = []
      for (const one of all) {
        const next = one.next()
        if (next.done) return { done: true, value: null }
        items.push(next.value)
      }
      return all.length === 0 ? { done: true, value: null } : { done: false, value: made(items) }
    })
  }
  names.set(
    'print',
    new PyFunction('print', (args, named) => {
      write(args.map(strOf).join(named.get('sep') ?? ' ') + (named.get('end') ?? '\n'))
      return null
    }),
  )
  add('len', ([value]) => lengthOf(value))
  add('abs', ([value]) =>
    value instanceof Float
      ? new Float(Math.abs(value.v))
      : value instanceof PyObject
        ? callMember(value, '__abs__', [], none)
        : isTrue(compare('<', value, 0))
          ? binary('-', 0, value)
          : Number(value) === value
            ? value
            : wholeOf([value]),
  )
  add('min', (args, named) => extreme('<', args, named))
  add('max', (args, named) => extreme('>', args, named))
  add('sum', ([all, start = 0]) => listed(all).reduce((sum, one) => binary('+', sum, one), start))
  add('round', ([value, digits]) => rounded(value, digits))
  add('sorted', ([all], named) => new PyList(sorted(listed(all), named)))
  add('reversed', ([all]) => new PyIterator(bound(iterate(new PyList(listed(all).reverse())))))
  add('enumerate', (args, named) => {
    const from = iterate(args[0])
    let at = asIndex(args[1] ?? named.get('start') ?? 0)
    return lazily(() => {
      const next = from.next()
      return next.done ? next : { done: false, value: new PyTuple([at++, next.value]) }
    })
  })
  add('zip', (args) => {
    return together(args, (items) => new PyTuple(items))
  })
  add('map', ([by, ...rest]) => {
    return together(rest, (items) => invoke(by, items))
  })
  add('filter', ([by, all]) => {
    const from = iterate(all)
    return lazily(() => {
      for (;;) {
        const next = from.next()
        if (next.done) return next
        if (isTrue(by === null ? next.value : invoke(by, [next.value]))) return next
      }
    })
  })
  add('any', ([all]) => listed(all).some(isTrue))
  add('all', ([all]) => listed(all).every(isTrue))
  add('isinstance', ([value, of]) => isInstance(value, of))
  add('issubclass', ([cls, of]) =>
    of instanceof PyTuple ? of.items.some((one: PyClass) => cls.isA(one)) : cls.isA(of),
  )
  add('hasattr', ([of, name]) => {
    try {
      return attribute(of, name) !== undefined
    } catch (error) {
      if (isError(error, 'AttributeError')) return false
      throw error
    }
  })
  add('getattr', (args) => attribute(args[0], args[1]) ?? (args.length > 2 ? args[2] : getAttribute(args[0], args[1])))
  add('setattr', ([of, name, value]) => {
    setAttribute(of, name, value)
    return null
  })
  add(
    'callable',
    ([of]) =>
      of instanceof PyFunction ||
      of instanceof PyClass ||
      (of instanceof PyObject && of.cls.find('__call__') !== undefined),
  )
  add('id', ([of]) => (isInt(of) ? Number(of) : 1))
  add('hash', ([of]) => (isInt(of) ? Number(of) : 1))
  add('ord', ([letter]) => (letter instanceof PyBytes ? letter.bytes[0] : letter.codePointAt(0)))
  add('chr', ([code]) => String.fromCodePoint(asIndex(code)))
  const based =
    (base: number, mark: string) =>
    ([value]: readonly Py[]): string => {
      const whole = BigInt(value)
      return `${whole < 0n ? '-' : ''}${mark}${(whole < 0n ? -whole : whole).toString(base)}`
    }
  add('hex', based(16, '0x'))
  add('bin', based(2, '0b'))
  add('oct', based(8, '0o'))
  add('divmod', ([a, b]) => new PyTuple([binary('//', a, b), binary('%', a, b)]))
  add('pow', ([a, b, by]) => (by === undefined ? binary('**', a, b) : binary('%', binary('**', a, b), by)))
  add('repr', ([value]) => reprOf(value))
  add('format', ([value, spec = '']) => formatPy(value, spec))
  add('iter', ([of]) =>
    of instanceof PyIterator
      ? of
      : of instanceof PyObject && of.cls.find('__iter__')
        ? callMember(of, '__iter__', [], none)
        : new PyIterator(bound(iterate(of))),
  )
  add('next', (args) => {
    const [of] = args
    try {
      return of instanceof PyIterator ? advance(of, null) : callMember(of, '__next__', [], none)
    } catch (error) {
      if (args.length > 1 && isError(error, 'StopIteration')) return args[1]
      throw error
    }
  })
  add('memoryview', ([of]) => of)
  add('globals', () => new PyDict())
  add('const', ([value]) => value)
  names.set('NotImplemented', new PyObject(new PyClass('NotImplementedType', [objectClass])))
  names.set('__name__', '__main__')
  return names
}

const bound = (from: Iterator<Py, Py>) => (): IteratorResult<Py, Py> => from.next()

export { dictType, floatType, strType }
