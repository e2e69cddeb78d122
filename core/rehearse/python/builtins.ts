import { advance, attribute, callMember, getAttribute, invoke, isError, setAttribute } from './attributes.ts'
import { extreme, lengthOf, rounded, wholeOf } from './builtinWork.ts'
import { element } from './elements.ts'
import { sorted } from './methods.ts'
import { binary, compare } from './operators.ts'
import { asIndex, asNumber, isInt, isTrue, iterate, listed, shrunk, typeName } from './protocols.ts'
import { formatPy, reprOf, strOf } from './text.ts'
import {
  errorClasses,
  Float,
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
} from './values.ts'

export type Named = ReadonlyMap<string, Py>
export const none: Named = new Map()

/** Classes of what the language brings along, so that `isinstance` and `type` know them. */
const types = new Map<string, PyClass>([['object', objectClass]])
const type = (name: string, make: (args: readonly Py[], named: Named) => Py, base = objectClass): PyClass => {
  const made = new PyClass(name, [base], make, 'reads')
  types.set(name, made)
  return made
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
