import { commonType, conversion, promoted } from '../cpp/arithmetic.ts'
import { bytesBehind, isPlain, setBytes } from '../cpp/bytes.ts'
import { Halt, type Machine } from '../cpp/machine.ts'
import type { NativeFunction } from '../cpp/program.ts'
import { numberOf, wholeOf } from '../cpp/textMethods.ts'
import { basicTypes, type StructType, sizeOf, type Type, typeWords, VOID, type Widths } from '../cpp/types.ts'
import { copied, Ptr, Struct, textAt, type Value } from '../cpp/values.ts'

/** Functions that remember something from call to call where no variable shows it. */
const REMEMBER: ReadonlySet<string> = new Set(['randomSeed', 'srand', 'rand', 'random', 'strtok'])

/**
 * Functions of the language's own library (ISO C17, clause 7) and the small helpers that the platforms add, after their
 * reference: arithmetic, texts, memory, random numbers.
 */
export function standardFunctions(widths: Widths, machine: Machine): Map<string, NativeFunction> {
  const types = basicTypes(widths)
  const t = (name: string): Type => types.get(name)!
  const [int, long, double, bool, char, size] = ['int', 'long', 'double', 'bool', 'char', 'size_t'].map(t) as [
    Type,
    Type,
    Type,
    Type,
    Type,
    Type,
  ]
  const bytes: Type = { is: 'pointer', to: char }
  const anything: Type = { is: 'pointer', to: VOID }
  const round = widths.double === 32 ? Math.fround : (value: number): number => value
  const found = new Map<string, NativeFunction>()
  const add = (
    name: string,
    params: readonly (Type | 'any')[],
    returns: NativeFunction['returns'],
    run: (args: readonly Value[], types: readonly Type[], at: number) => Value,
    least?: number,
  ): void => {
    found.set(name, {
      params,
      returns,
      run: (_, args, given, at) => run(args, given, at),
      reads: !REMEMBER.has(name),
      ...(least === undefined ? {} : { least }),
    })
  }

  for (const name of [
    'sqrt',
    'sin',
    'cos',
    'tan',
    'asin',
    'acos',
    'atan',
    'exp',
    'log',
    'log10',
    'log2',
    'floor',
    'ceil',
    'trunc',
    'cbrt',
    'sinh',
    'cosh',
    'tanh',
  ] as const) {
    add(name, [double], double, ([x]) => round(Math[name](x)))
    add(`${name}f`, [t('float')], t('float'), ([x]) => Math.fround(Math[name](x)))
  }
  add('pow', [double, double], double, ([x, y]) => round(x ** y))
  add('powf', [t('float'), t('float')], t('float'), ([x, y]) => Math.fround(x ** y))
  add('atan2', [double, double], double, ([y, x]) => round(Math.atan2(y, x)))
  add('fmod', [double, double], double, ([x, y]) => round(x % y))
  add('hypot', [double, double], double, ([x, y]) => round(Math.hypot(x, y)))
  add('fabs', [double], double, ([x]) => Math.abs(x))
  add('fmin', [double, double], double, ([x, y]) => Math.min(x, y))
  add('fmax', [double, double], double, ([x, y]) => Math.max(x, y))
  add('lround', [double], long, ([x]) => roundAway(x) | 0)
  add('isnan', [double], bool, ([x]) => (Number.isNaN(x) ? 1 : 0))
  add('isinf', [double], bool, ([x]) => (Math.abs(x) === Number.POSITIVE_INFINITY ? 1 : 0))
  add('labs', [long], long, ([x]) => Math.abs(x) | 0)
  add('map', [long, long, long, long, long], long, ([x, a, b, c, d], _, at) => {
    if (b === a) machine.dividedByZero(at)
    return b === a ? 0 : (Math.trunc((Math.imul(x - a, d - c) | 0) / (b - a)) + c) | 0
  })
  // Random numbers of the platforms' C library, so that a run with the same seed is the same run.
  let seed = 1
  const random = (): number => {
    const high = Math.trunc(seed / 127773)
    const low = seed % 127773
    let next = 16807 * low - 2836 * high
    if (next < 0) next += 0x7fffffff
    seed = next
    return next % 0x80000000
  }
  add('randomSeed', [t('unsigned long')], VOID, ([to]) => {
    if (to !== 0) seed = to % 0x7fffffff || 123459876
  })
  add('srand', [t('unsigned int')], VOID, ([to]) => {
    seed = to % 0x7fffffff || 123459876
  })
  add('rand', [], int, () => random() & (widths.int === 16 ? 0x7fff : 0x7fffffff))
  add(
    'random',
    [long, long],
    long,
    (args) => {
      const [from, to] = args.length === 1 ? [0, args[0]] : args.length === 0 ? [0, 0x7fffffff] : [args[0], args[1]]
      return to <= from ? from : (random() % (to - from)) + from
    },
    0,
  )

  add('strlen', [bytes], size, ([ptr]) => textAt(ptr).length)
  add('strcmp', [bytes, bytes], int, ([a, b]) => compared(textAt(a), textAt(b)))
  add('strncmp', [bytes, bytes, size], int, ([a, b, n]) => compared(textAt(a).slice(0, n), textAt(b).slice(0, n)))
  add('strcasecmp', [bytes, bytes], int, ([a, b]) => compared(textAt(a).toLowerCase(), textAt(b).toLowerCase()))
  const put = (to: Ptr, text: string, at: number, closes = true): Ptr => {
    for (let index = 0; index < text.length + (closes ? 1 : 0); index += 1) {
      if (to.at + index >= to.base.length) {
        machine.beyond(at, to.at + index, to.base.length)
        break
      }
      const code = index < text.length ? text.charCodeAt(index) : 0
      to.base[to.at + index] = widths.charSigned && code > 127 ? code - 256 : code
    }
    return to
  }
  add('strcpy', [bytes, bytes], bytes, ([to, from], _, at) => put(to, textAt(from), at))
  add('strncpy', [bytes, bytes, size], bytes, ([to, from, n], _, at) =>
    put(to, textAt(from).slice(0, n).padEnd(n, '\0'), at, false),
  )
  add('strcat', [bytes, bytes], bytes, ([to, from], _, at) => {
    put(new Ptr(to.base, to.at + textAt(to).length), textAt(from), at)
    return to
  })
  add('strncat', [bytes, bytes, size], bytes, ([to, from, n], _, at) => {
    put(new Ptr(to.base, to.at + textAt(to).length), textAt(from).slice(0, n), at)
    return to
  })
  const within = (ptr: Ptr, index: number): Ptr | null => (index < 0 ? null : new Ptr(ptr.base, ptr.at + index))
  add('strchr', [bytes, int], bytes, ([ptr, code]) =>
    within(ptr, code === 0 ? textAt(ptr).length : textAt(ptr).indexOf(String.fromCharCode(code & 255))),
  )
  add('strrchr', [bytes, int], bytes, ([ptr, code]) =>
    within(ptr, textAt(ptr).lastIndexOf(String.fromCharCode(code & 255))),
  )
  add('strstr', [bytes, bytes], bytes, ([ptr, part]) => within(ptr, textAt(ptr).indexOf(textAt(part))))
  let cutting: Ptr | null = null
  add('strtok', [bytes, bytes], bytes, ([ptr, signs]) => {
    const from: Ptr | null = ptr ?? cutting
    if (!from) return null
    const text = textAt(from)
    const ends = textAt(signs)
    let start = 0
    while (start < text.length && ends.includes(text[start]!)) start += 1
    if (start === text.length) {
      cutting = null
      return null
    }
    let end = start
    while (end < text.length && !ends.includes(text[end]!)) end += 1
    cutting = end < text.length ? new Ptr(from.base, from.at + end + 1) : null
    if (end < text.length) from.base[from.at + end] = 0
    return new Ptr(from.base, from.at + start)
  })
  add('atoi', [bytes], int, ([ptr]) => wholeOf(textAt(ptr)) | 0)
  add('atol', [bytes], long, ([ptr]) => wholeOf(textAt(ptr)) | 0)
  add('atof', [bytes], double, ([ptr]) => round(numberOf(textAt(ptr))))
  add('strtol', [bytes, 'any', int], long, ([ptr, end, base]) => {
    const text = textAt(ptr)
    const digits = base === 16 || base === 0 ? /^\s*[-+]?(?:0[xX])?[0-9a-fA-F]*/ : /^\s*[-+]?\w*/
    const of = base === 0 ? (/^\s*[-+]?0[xX]/.test(text) ? 16 : /^\s*[-+]?0/.test(text) ? 8 : 10) : base
    let taken = digits.exec(text)?.[0] ?? ''
    while (taken !== '' && !isWhole(taken, of)) taken = taken.slice(0, -1)
    if (end instanceof Ptr) end.base[end.at] = new Ptr(ptr.base, ptr.at + taken.length)
    return Number.parseInt(taken, of) | 0 || 0
  })
  for (const [name, type] of [
    ['itoa', int],
    ['ltoa', long],
    ['utoa', t('unsigned int')],
    ['ultoa', t('unsigned long')],
  ] as const)
    add(name, [type, bytes, int], bytes, ([value, to, base], _, at) =>
      put(to, (base === 10 ? value : value >>> 0).toString(base), at),
    )
  add('dtostrf', [double, int, int, bytes], bytes, ([value, wide, digits, to], _, at) => {
    const text = Number(value).toFixed(Math.max(0, digits))
    return put(to, wide < 0 ? text.padEnd(-wide) : text.padStart(wide), at)
  })
  /** What a pointer points at; of one that tells nothing, what lies there tells. */
  const pointed = (type: Type | undefined, ptr: Ptr): Type => {
    if (type?.is === 'pointer' && type.to.is !== 'void') return type.to
    const there: Value = ptr.base[ptr.at]
    return there instanceof Struct ? { is: 'struct', struct: there.type } : char
  }
  const copy = ([to, from, count]: readonly Value[], given: readonly Type[], at: number): Ptr => {
    const [one, other] = [pointed(given[0], to), pointed(given[1], from)]
    const isSame = typeWords(one) === typeWords(other)
    const byBytes = !isSame && isPlain(one) && isPlain(other)
    const [into, out] = byBytes
      ? [new Ptr(bytesBehind(to, one, widths, false), 0), new Ptr(bytesBehind(from, other, widths, false), 0)]
      : [to as Ptr, from as Ptr]
    const elements = byBytes ? Number(count) : Math.floor(Number(count) / sizeOf(other, widths))
    const values = Array.from({ length: elements }, (_, index) => copied(out.base[out.at + index]))
    values.forEach((value, index) => {
      if (into.at + index < into.base.length) into.base[into.at + index] = value
      else machine.beyond(at, into.at + index, into.base.length)
    })
    return to
  }
  add('memcpy', ['any', 'any', size], anything, copy)
  add('memmove', ['any', 'any', size], anything, copy)
  add('memset', ['any', int, size], anything, ([to, value, count], given, at) => {
    const of = pointed(given[0], to)
    if (isPlain(of)) {
      const beyond = setBytes(to, of, widths, value, Number(count))
      if (beyond >= 0) machine.beyond(at, beyond, to.base.length)
    } else if (of.is === 'struct' && value === 0) clear(to, of.struct)
    else throw new Halt(`memset over ${typeWords(of)} is not understood`, at)
    return to
  })
  add('memcmp', ['any', 'any', size], int, ([a, b, count], given) => {
    const [one, other] = [a, b].map((ptr, index) => {
      const of = pointed(given[index], ptr)
      return isPlain(of) ? bytesBehind(ptr, of, widths, false) : ptr.base.slice(ptr.at)
    }) as [Value[], Value[]]
    for (let index = 0; index < count; index += 1) {
      const by = (Number(one[index] ?? 0) & 255) - (Number(other[index] ?? 0) & 255)
      if (by !== 0) return by
    }
    return 0
  })
  add('free', ['any'], VOID, () => undefined)
  const letter = (name: string, test: RegExp, also: string): void => {
    const run = ([code]: readonly Value[]): number => (test.test(String.fromCharCode(code & 255)) ? 1 : 0)
    add(name, [int], int, run)
    add(also, [int], bool, run)
  }
  letter('isdigit', /[0-9]/, 'isDigit')
  letter('isalpha', /[A-Za-z]/, 'isAlpha')
  letter('isalnum', /[A-Za-z0-9]/, 'isAlphaNumeric')
  letter('isspace', /[ \t\n\v\f\r]/, 'isSpace')
  letter('isupper', /[A-Z]/, 'isUpperCase')
  letter('islower', /[a-z]/, 'isLowerCase')
  letter('isxdigit', /[0-9A-Fa-f]/, 'isHexadecimalDigit')
  letter('ispunct', /[!-/:-@[-`{-~]/, 'isPunct')
  letter('isprint', /[ -~]/, 'isPrintable')
  letter('isblank', /[ \t]/, 'isWhitespace')
  letter('isascii', /[^\x80-\xff]/, 'isAscii')
  letter('iscntrl', /[^ -~\x80-\xff]/, 'isControl')
  letter('isgraph', /[!-~]/, 'isGraph')
  add('toupper', [int], int, ([code]) => (code >= 97 && code <= 122 ? code - 32 : code))
  add('tolower', [int], int, ([code]) => (code >= 65 && code <= 90 ? code + 32 : code))
  for (const [name, type] of [
    ['highByte', 'word'],
    ['lowByte', 'word'],
  ] as const)
    add(name, [t(type)], t('byte'), ([value]) => (name === 'highByte' ? (value >> 8) & 255 : value & 255))
  add('bit', [int], t('unsigned long'), ([n]) => (1 << n) >>> 0)
  return found
}

/** A text that is a whole number of a base to its last letter. */
function isWhole(text: string, base: number): boolean {
  const [, digits = ''] = /^\s*[-+]?(?:0[xX](?=[0-9a-fA-F]))?(\w+)$/.exec(text) ?? []
  return digits !== '' && [...digits.toLowerCase()].every((one) => Number.parseInt(one, 36) < base)
}

/** An object of other things than numbers with everything in it nought. */
function clear({ base, at }: Ptr, struct: StructType): void {
  const object: Struct = base[at]
  struct.fields.forEach(({ type }, index) => {
    const old: Value = object.f[index]
    if (old instanceof Struct) clear(new Ptr(object.f, index), old.type)
    else if (Array.isArray(old)) old.fill(type.is === 'array' && type.of.is === 'pointer' ? null : 0)
    else object.f[index] = type.is === 'pointer' ? null : type.is === 'string' ? '' : 0
  })
}

/** Halves go away from nought. */
const roundAway = (value: number): number => (value < 0 ? -Math.round(-value) : Math.round(value))

const compared = (a: string, b: string): number => {
  for (let at = 0; at <= Math.max(a.length, b.length); at += 1) {
    const by = (a.charCodeAt(at) || 0) - (b.charCodeAt(at) || 0)
    if (by !== 0) return by < 0 ? -1 : 1
  }
  return 0
}

/** The same as functions, as all other platforms have them. */
export function largeFunctions(widths: Widths): Map<string, NativeFunction> {
  const long = basicTypes(widths).get('long')!
  const both = (types: readonly Type[]): Type => commonType(types[0]!, types[1]!, widths)
  const turned = (args: readonly Value[], types: readonly Type[]): Value[] => {
    const to = both(types)
    return args.map((value, at) => conversion(types[at]!, to)?.(value) ?? value)
  }
  return new Map<string, NativeFunction>([
    [
      'min',
      {
        params: ['any', 'any'],
        returns: both,
        reads: true,
        run: (_, args, types) => {
          const [a, b] = turned(args, types)
          return b < a ? b : a
        },
      },
    ],
    [
      'max',
      {
        params: ['any', 'any'],
        returns: both,
        reads: true,
        run: (_, args, types) => {
          const [a, b] = turned(args, types)
          return a < b ? b : a
        },
      },
    ],
    [
      'abs',
      {
        params: ['any'],
        returns: ([type]) => promoted(type!, widths),
        reads: true,
        run: (_, [value]) => (value < 0 ? -value : value),
      },
    ],
    ['round', { params: ['any'], returns: long, reads: true, run: (_, [value]) => roundAway(Number(value)) | 0 }],
  ])
}
