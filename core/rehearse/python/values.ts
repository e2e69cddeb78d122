import { SourceError } from '../cpp/tokens.ts'
import { typeName } from './protocols.ts'
import type { PyFrame } from './scope.ts'

// biome-ignore lint/suspicious/noExplicitAny: a value of a program has the type that the program gives it
export type Py = any

/** A number with a point; whole numbers are numbers as they are, or bigints where they are large. */
export class Float {
  readonly v: number
  constructor(v: number) {
    this.v = v
  }
}

/** What a module gives that nobody has described: nought as a number, and itself for whatever it is asked. */
export class Unknown extends Float {
  constructor() {
    super(0)
  }
}

export class PyList {
  readonly items: Py[]
  constructor(items: Py[]) {
    this.items = items
  }
}

export class PyTuple {
  readonly items: readonly Py[]
  readonly names: readonly string[] | undefined
  constructor(items: readonly Py[], names?: readonly string[]) {
    this.items = items
    this.names = names
  }
}

export class PyBytes {
  readonly bytes: number[]
  readonly mutable: boolean
  constructor(bytes: number[], mutable: boolean) {
    this.bytes = bytes
    this.mutable = mutable
  }
}

export class PyRange {
  readonly from: number
  readonly to: number
  readonly step: number
  constructor(from: number, to: number, step: number) {
    this.from = from
    this.to = to
    this.step = step
  }
  get length(): number {
    return Math.max(0, Math.ceil((this.to - this.from) / this.step))
  }
}

export class PySlice {
  readonly from: Py
  readonly to: Py
  readonly step: Py
  constructor(from: Py, to: Py, step: Py) {
    this.from = from
    this.to = to
    this.step = step
  }
}

/** A map in the order in which keys came; keys that are equal are one (1, 1.0 and True). */
export class PyDict {
  readonly entries = new Map<unknown, [Py, Py]>()
  get(key: Py): Py | undefined {
    return this.entries.get(keyOf(key))?.[1]
  }
  set(key: Py, value: Py): void {
    const at = keyOf(key)
    const known = this.entries.get(at)
    if (known) known[1] = value
    else this.entries.set(at, [key, value])
  }
  has(key: Py): boolean {
    return this.entries.has(keyOf(key))
  }
  delete(key: Py): boolean {
    return this.entries.delete(keyOf(key))
  }
}

/** A map that makes what it is asked for and does not have. */
export class DefaultDict extends PyDict {
  readonly make: () => Py
  /** What is made stays in it; a count of nothing does not. */
  readonly keeps: boolean
  constructor(make: () => Py, keeps = true) {
    super()
    this.make = make
    this.keeps = keeps
  }
}

export class PySet {
  readonly members = new Map<unknown, Py>()
  constructor(items: Iterable<Py> = []) {
    for (const item of items) this.members.set(keyOf(item), item)
  }
}

/** What a key is in a map: values that are equal have the same. */
export function keyOf(key: Py): unknown {
  if (typeof key === 'boolean') return key ? 1 : 0
  if (key instanceof Float) return Number.isInteger(key.v) ? key.v : `f${key.v}`
  if (typeof key === 'string') return `s${key}`
  // Objects that say when they are equal say by what they are found.
  const hash = key instanceof PyObject && key.cls.find('__eq__') ? key.cls.find('__hash__') : undefined
  if (hash instanceof PyFunction) return `h${String(hash.call([key], new Map()))}`
  if (key instanceof PyTuple) return `t${key.items.map((one) => `${typeof keyOf(one)}${String(keyOf(one))}`).join(',')}`
  if (key instanceof PyBytes && !key.mutable) return `b${key.bytes.join(',')}`
  if (key instanceof PyList || key instanceof PyDict || key instanceof PySet || key instanceof PyBytes)
    raise('TypeError', `unhashable type: '${typeName(key)}'`)
  return key
}

export class PyClass {
  readonly name: string
  readonly bases: readonly PyClass[]
  readonly attrs = new Map<string, Py>()
  /** Names that its text says the kind of, in their order. */
  noted: readonly string[] = []
  /** Itself, then what it builds on, in the order in which they are asked. */
  readonly order: readonly PyClass[]
  /** Makes one that the platform gives. */
  readonly make: ((args: readonly Py[], named: ReadonlyMap<string, Py>) => Py) | undefined

  constructor(name: string, bases: readonly PyClass[], make?: PyClass['make'], does: 'acts' | 'reads' = 'acts') {
    this.name = name
    this.bases = bases
    this.order = [this, ...new Set(bases.flatMap((base) => base.order).reverse())].filter(
      (one, at, all) => all.indexOf(one) === at,
    )
    const rest = this.order.slice(1).reverse()
    this.order = [this, ...mergeOrder(bases, rest)]
    const given = make && (does === 'reads' ? make : counted(make))
    this.make = given ?? bases.find((base) => base.make)?.make
  }
  find(name: string): Py | undefined {
    for (const one of this.order) {
      const found = one.attrs.get(name)
      if (found !== undefined) return found
    }
    return undefined
  }
  isA(other: PyClass): boolean {
    return this.order.includes(other)
  }
}

/** Depth first, what several share last (close to the order of C3 for what programs of this kind write). */
function mergeOrder(bases: readonly PyClass[], _rest: readonly PyClass[]): PyClass[] {
  const all = bases.flatMap((base) => base.order)
  return all.filter((one, at) => all.lastIndexOf(one) === at)
}

export class PyObject {
  readonly cls: PyClass
  readonly attrs = new Map<string, Py>()
  constructor(cls: PyClass) {
    this.cls = cls
  }
}

export type Call = (args: readonly Py[], named: ReadonlyMap<string, Py>) => Py

/**
 * Grows with each call that does more than read what a program can see itself: of modules, drivers, files. Only how it grows
 * within one run says anything.
 */
export const doings = { count: 0 }

/** A call that may do something. */
const counted =
  (call: Call): Call =>
  (args, named) => {
    doings.count += 1
    return call(args, named)
  }
export class PyFunction {
  readonly name: string
  readonly call: Call
  /** Of a function of the program, or one made of such: what it can reach besides its arguments. */
  home:
    | { readonly globals: ReadonlyMap<string, Py>; readonly frame: PyFrame | null; readonly kept: readonly Py[] }
    | undefined
  /** Called on a class it gets none of the object. */
  readonly kind: 'plain' | 'static' | 'class'
  /** Arguments without which it cannot be called, the object it is bound to left out. */
  readonly wants: number
  /** Called from a thread: gives what it waits for, and its value at the end. */
  held: ((...given: Parameters<Call>) => PyIterator) | undefined
  /** What is said to read alone changes nothing but values of the program. */
  constructor(
    name: string,
    call: Call,
    kind: PyFunction['kind'] = 'plain',
    wants = 0,
    does: 'acts' | 'reads' = 'acts',
  ) {
    this.name = name
    this.call = does === 'reads' ? call : counted(call)
    this.kind = kind
    this.wants = wants
  }
}

export class PyProperty {
  readonly get: PyFunction
  readonly set: PyFunction | undefined
  constructor(get: PyFunction, set?: PyFunction) {
    this.get = get
    this.set = set
  }
}

export class PyModule {
  readonly name: string
  readonly attrs: Map<string, Py>
  constructor(name: string, attrs: Map<string, Py>) {
    this.name = name
    this.attrs = attrs
  }
}

/** Something that gives one value after the other; `send` hands one in where it stands. */
export class PyIterator {
  readonly next: (sent?: Py) => IteratorResult<Py, Py>
  readonly kind: 'iterator' | 'generator' | 'coroutine'
  readonly close: () => void
  constructor(
    next: (sent?: Py) => IteratorResult<Py, Py>,
    kind: PyIterator['kind'] = 'iterator',
    close: () => void = () => undefined,
  ) {
    this.next = next
    this.kind = kind
    this.close = close
  }
}

/** An exception of the program on its way. */
export class PyError extends Error {
  override name = 'PyError'
  readonly value: PyObject
  at = 0
  constructor(value: PyObject) {
    super(value.cls.name)
    this.value = value
  }
}

export const objectClass = new PyClass('object', [])

/** What `super().__new__(cls)` of a class of the program makes. */
export const newObject = new PyFunction('__new__', ([cls]) => new PyObject(cls as PyClass), 'static', 0, 'reads')
const builtinErrors: readonly (readonly [string, string])[] = [
  ['BaseException', 'object'],
  ['Exception', 'BaseException'],
  ['SystemExit', 'BaseException'],
  ['KeyboardInterrupt', 'BaseException'],
  ['GeneratorExit', 'BaseException'],
  ['ArithmeticError', 'Exception'],
  ['ZeroDivisionError', 'ArithmeticError'],
  ['OverflowError', 'ArithmeticError'],
  ['AssertionError', 'Exception'],
  ['AttributeError', 'Exception'],
  ['ImportError', 'Exception'],
  ['LookupError', 'Exception'],
  ['IndexError', 'LookupError'],
  ['KeyError', 'LookupError'],
  ['MemoryError', 'Exception'],
  ['NameError', 'Exception'],
  ['UnboundLocalError', 'NameError'],
  ['NotImplementedError', 'Exception'],
  ['OSError', 'Exception'],
  ['RuntimeError', 'Exception'],
  ['StopIteration', 'Exception'],
  ['StopAsyncIteration', 'Exception'],
  ['TypeError', 'Exception'],
  ['ValueError', 'Exception'],
  ['UnicodeError', 'ValueError'],
  ['EOFError', 'Exception'],
  ['TimeoutError', 'OSError'],
  ['FileNotFoundError', 'OSError'],
  ['CancelledError', 'BaseException'],
]
export const errorClasses = new Map<string, PyClass>([['object', objectClass]])
for (const [name, base] of builtinErrors) errorClasses.set(name, new PyClass(name, [errorClasses.get(base)!]))

export function errorOf(cls: PyClass, args: readonly Py[]): PyObject {
  const made = new PyObject(cls)
  made.attrs.set('args', new PyTuple(args))
  return made
}

export function raise(kind: string, ...args: readonly Py[]): never {
  throw new PyError(errorOf(errorClasses.get(kind) ?? errorClasses.get('Exception')!, args))
}

export const refuse = (message: string, at: number): never => {
  throw new SourceError(message, at)
}
