import type { Machine } from '../cpp/machine.ts'
import { advance, attribute, callMember, getAttribute, invoke, isError, setAttribute } from './attributes.ts'
import { sorted } from './methods.ts'
import { binary, compare, element } from './operators.ts'
import { floatRepr, formatPy, reprOf, strOf } from './text.ts'
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
  PyModule,
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
  const made = new PyClass(name, [base], make)
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
type('dict', ([from], named) => {
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

function isInstance(value: Py, of: Py): boolean {
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
export function builtinNames(machine: Machine, write: (text: string) => void): Map<string, Py> {
  const names = new Map<string, Py>([...types, ...errorClasses])
  const add = (name: string, call: (args: readonly Py[], named: Named) => Py): void => {
    names.set(name, new PyFunction(name, call))
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
  add('print', (args, named) => {
    write(args.map(strOf).join(named.get('sep') ?? ' ') + (named.get('end') ?? '\n'))
    return null
  })
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
  // Nothing is kept on the disk of a rehearsal.
  add('open', () => new Unknown())
  names.set('NotImplemented', new PyObject(new PyClass('NotImplementedType', [objectClass])))
  names.set('__name__', '__main__')
  void machine
  return names
}

const bound = (from: Iterator<Py, Py>) => (): IteratorResult<Py, Py> => from.next()

const func = (name: string, call: (args: readonly Py[], named: Named) => Py): [string, Py] => [
  name,
  new PyFunction(name, call),
]
const real = (name: string, by: (x: number) => number): [string, Py] =>
  func(name, ([value]) => {
    const made = by(asNumber(value))
    return Number.isNaN(made) && !Number.isNaN(asNumber(value))
      ? raise('ValueError', 'math domain error')
      : new Float(made)
  })

/** Modules of the language that stand for themselves on a board. */
export function plainModules(): Map<string, () => PyModule> {
  const module = (name: string, attrs: readonly [string, Py][]): [string, () => PyModule] => [
    name,
    () => new PyModule(name, new Map(attrs)),
  ]
  const math: [string, Py][] = [
    ...(
      ['sqrt', 'sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'exp', 'log2', 'log10', 'sinh', 'cosh', 'tanh'] as const
    ).map((name) => real(name, Math[name])),
    func('log', ([x, base]) => {
      if (asNumber(x) <= 0) raise('ValueError', 'math domain error')
      return new Float(base === undefined ? Math.log(asNumber(x)) : Math.log(asNumber(x)) / Math.log(asNumber(base)))
    }),
    func('floor', ([x]) => shrunk(BigInt(Math.floor(asNumber(x))))),
    func('ceil', ([x]) => shrunk(BigInt(Math.ceil(asNumber(x))))),
    func('trunc', ([x]) => shrunk(BigInt(Math.trunc(asNumber(x))))),
    real('fabs', Math.abs),
    func('pow', ([x, y]) => new Float(asNumber(x) ** asNumber(y))),
    func('atan2', ([y, x]) => new Float(Math.atan2(asNumber(y), asNumber(x)))),
    func('hypot', ([x, y]) => new Float(Math.hypot(asNumber(x), asNumber(y)))),
    func('fmod', ([x, y]) => new Float(asNumber(x) % asNumber(y))),
    real('radians', (x) => (x * Math.PI) / 180),
    real('degrees', (x) => (x * 180) / Math.PI),
    func('isnan', ([x]) => Number.isNaN(asNumber(x))),
    func('isinf', ([x]) => Math.abs(asNumber(x)) === Number.POSITIVE_INFINITY),
    func('gcd', ([a, b]) => {
      let [x, y] = [Math.abs(Number(a)), Math.abs(Number(b))]
      while (y) [x, y] = [y, x % y]
      return x
    }),
    ['pi', new Float(Math.PI)],
    ['e', new Float(Math.E)],
    ['inf', new Float(Number.POSITIVE_INFINITY)],
    ['nan', new Float(Number.NaN)],
  ]
  let seed = 12345
  const chance = (): number => {
    seed = (seed * 16807) % 0x7fffffff
    return seed / 0x7fffffff
  }
  const between = (a: number, b: number): number => a + Math.floor(chance() * (b - a + 1))
  const random: [string, Py][] = [
    func('seed', ([to]) => {
      seed = Math.abs(Number(to ?? 1)) % 0x7fffffff || 1
      return null
    }),
    func('random', () => new Float(chance())),
    func('uniform', ([a, b]) => new Float(asNumber(a) + chance() * (asNumber(b) - asNumber(a)))),
    func('randint', ([a, b]) => between(asIndex(a), asIndex(b))),
    func('randrange', (args) =>
      args.length === 1 ? between(0, asIndex(args[0]) - 1) : between(asIndex(args[0]), asIndex(args[1]) - 1),
    ),
    func('getrandbits', ([bits]) => Math.floor(chance() * 2 ** asIndex(bits))),
    func('choice', ([all]) => listed(all)[between(0, listed(all).length - 1)]),
  ]
  const nothing = func('collect', () => 0)
  return new Map([
    module('math', math),
    module('random', random),
    module('urandom', random),
    module('micropython', [
      func('const', ([value]) => value),
      ['native', new PyFunction('native', ([one]) => one)],
      ['viper', new PyFunction('viper', ([one]) => one)],
    ]),
    module('gc', [nothing, func('mem_free', () => 100_000), func('enable', () => null), func('disable', () => null)]),
    module('sys', [
      ['platform', 'rehearsal'],
      ['version', '3'],
      ['argv', new PyList([])],
      func('exit', () => raise('SystemExit')),
      func('print_exception', () => null),
    ]),
    module('os', [func('listdir', () => new PyList([])), func('uname', () => new PyTuple([]))]),
    module('json', [func('dumps', ([value]) => jsonOf(value)), func('loads', ([text]) => fromJson(JSON.parse(text)))]),
    module('ujson', [func('dumps', ([value]) => jsonOf(value)), func('loads', ([text]) => fromJson(JSON.parse(text)))]),
    module('collections', [
      func('namedtuple', ([name, fields]) => {
        const names = typeof fields === 'string' ? fields.split(/[\s,]+/) : listed(fields)
        return new PyClass(
          name,
          [objectClass],
          (args, named) =>
            new PyTuple(
              names.map((one: string, at: number) => named.get(one) ?? args[at]),
              names,
            ),
        )
      }),
      func('OrderedDict', ([from]) =>
        (types.get('dict')!.make as NonNullable<PyClass['make']>)(from === undefined ? [] : [from], none),
      ),
    ]),
    module('struct', [func('pack', packed), func('unpack', unpacked), func('calcsize', ([how]) => layout(how).size)]),
    module('ustruct', [func('pack', packed), func('unpack', unpacked), func('calcsize', ([how]) => layout(how).size)]),
    module('array', [func('array', ([, items]) => new PyList(items === undefined ? [] : [...listed(items)]))]),
    module('functools', [
      func(
        'partial',
        ([by, ...first], kept) =>
          new PyFunction('partial', (rest, named) => invoke(by, [...first, ...rest], new Map([...kept, ...named]))),
      ),
    ]),
  ])
}

const widths: Readonly<Record<string, number>> = {
  x: 1,
  b: 1,
  B: 1,
  '?': 1,
  h: 2,
  H: 2,
  i: 4,
  I: 4,
  l: 4,
  L: 4,
  f: 4,
  q: 8,
  Q: 8,
  d: 8,
}

/** Places of a layout of bytes as `struct` writes it, without the gaps of a machine. */
function layout(how: string): { readonly size: number; readonly little: boolean; readonly fields: readonly string[] } {
  const fields: string[] = []
  for (const [, count, kind = ''] of how.matchAll(/(\d*)([xbB?hHiIlLqQfd])/g))
    for (let at = 0; at < (count === '' ? 1 : Number(count)); at += 1) fields.push(kind)
  return { size: fields.reduce((sum, kind) => sum + widths[kind]!, 0), little: !/^[>!]/.test(how), fields }
}

function packed([how, ...values]: readonly Py[]): Py {
  const { size, little, fields } = layout(how)
  const view = new DataView(new ArrayBuffer(size))
  let at = 0
  let next = 0
  for (const kind of fields) {
    if (kind === 'f') view.setFloat32(at, asNumber(values[next++]), little)
    else if (kind === 'd') view.setFloat64(at, asNumber(values[next++]), little)
    else if (kind !== 'x') {
      const bits = BigInt.asUintN(8 * widths[kind]!, BigInt(Number(values[next++])))
      for (let byte = 0; byte < widths[kind]!; byte += 1)
        view.setUint8(at + (little ? byte : widths[kind]! - 1 - byte), Number((bits >> BigInt(8 * byte)) & 255n))
    }
    at += widths[kind]!
  }
  return new PyBytes([...new Uint8Array(view.buffer)], false)
}

function unpacked([how, from]: readonly Py[]): Py {
  const { size, little, fields } = layout(how)
  const bytes: readonly number[] = from.bytes
  if (bytes.length !== size) raise('ValueError', `unpack requires a buffer of ${size} bytes`)
  const view = new DataView(Uint8Array.from(bytes).buffer)
  const found: Py[] = []
  let at = 0
  for (const kind of fields) {
    const width = widths[kind]!
    if (kind === 'f') found.push(new Float(view.getFloat32(at, little)))
    else if (kind === 'd') found.push(new Float(view.getFloat64(at, little)))
    else if (kind !== 'x') {
      let bits = 0n
      for (let byte = 0; byte < width; byte += 1)
        bits |= BigInt(view.getUint8(at + (little ? byte : width - 1 - byte))) << BigInt(8 * byte)
      found.push(kind === '?' ? bits !== 0n : shrunk(/[bhilq]/.test(kind) ? BigInt.asIntN(8 * width, bits) : bits))
    }
    at += width
  }
  return new PyTuple(found)
}

function jsonOf(value: Py): string {
  if (value === null) return 'null'
  if (typeof value === 'boolean' || isInt(value)) return String(value)
  if (value instanceof Float) return floatRepr(value.v)
  if (typeof value === 'string') return JSON.stringify(value)
  if (value instanceof PyList || value instanceof PyTuple) return `[${value.items.map(jsonOf).join(', ')}]`
  if (value instanceof PyDict)
    return `{${[...value.entries.values()].map(([key, one]) => `${JSON.stringify(strOf(key))}: ${jsonOf(one)}`).join(', ')}}`
  return raise('TypeError', `Object of type ${typeName(value)} is not JSON serializable`)
}

function fromJson(value: unknown): Py {
  if (typeof value === 'number') return Number.isInteger(value) ? value : new Float(value)
  if (Array.isArray(value)) return new PyList(value.map(fromJson))
  if (typeof value !== 'object' || value === null) return value
  const made = new PyDict()
  for (const [key, one] of Object.entries(value)) made.set(key, fromJson(one))
  return made
}

export { floatType, strType }
