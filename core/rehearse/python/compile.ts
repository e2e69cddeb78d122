import { Halt, type Machine } from '../cpp/machine.ts'
import { AGAIN, BREAK, GO, RETURN, type Refusal } from '../cpp/program.ts'
import { SourceError } from '../cpp/tokens.ts'
import { attribute, callMember, getAttribute, invoke, isError, setAttribute } from './attributes.ts'
import { binary, compare, dropElement, element, putElement, unary } from './operators.ts'
import { parsePython } from './parser.ts'
import { type PyFrame, PyScope, type Where } from './scope.ts'
import type { PyEach, PyExpr, PyFunctionNode, PyStmt } from './syntax.ts'
import { formatPy, reprOf, strOf } from './text.ts'
import {
  errorClasses,
  errorOf,
  Float,
  isTrue,
  iterate,
  listed,
  newObject,
  objectClass,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyError,
  PyFunction,
  PyIterator,
  PyList,
  PyModule,
  PyObject,
  PyProperty,
  PySet,
  PySlice,
  PyTuple,
  raise,
  shrunk,
  Unknown,
} from './values.ts'

type Get = (f: PyFrame) => Py
type Put = (f: PyFrame, value: Py) => void
type Exec = (f: PyFrame) => number
/** A statement that may stop in its middle, and go on with what is sent. */
type Flow = (f: PyFrame) => Generator<Py, number, Py>

/** What a program finds without making it itself. */
export interface PyLibrary {
  readonly builtins: ReadonlyMap<string, Py>
  /** Modules by name, made when they are first asked for. */
  readonly modules: ReadonlyMap<string, () => PyModule>
}

export interface PyCompiled {
  readonly refusals: readonly Refusal[]
  /** Runs the program from its first line. */
  readonly begin: () => void
  readonly headers: readonly { readonly name: string; readonly at: number }[]
}

/**
 * Compiles a Python program of one or more files to closures; `main.py`, `code.py` or the first is run, the others can be imported.
 * @throws SourceError for a text whose syntax cannot be read.
 */
export function compilePython(
  files: readonly { readonly name: string; readonly text: string }[],
  library: PyLibrary,
  machine: Machine,
): PyCompiled {
  const nameOf = (file: { readonly name: string }): string => file.name.replace(/^.*\//, '').replace(/\.py$/, '')
  // The file that firmware starts with, or the first one.
  const start = Math.max(
    0,
    files.findIndex((file) => nameOf(file) === 'main' || nameOf(file) === 'code'),
  )
  // What is described here stands in for a file of the same name, as what is built into a firmware goes before files.
  const own = new Map(
    files.flatMap((file, index) =>
      index !== start && library.modules.has(nameOf(file)) ? [] : [[nameOf(file), index]],
    ),
  )
  const refusals: Refusal[] = []
  const made = new Map<string, PyModule>()
  const unknown: { name: string; at: number }[] = []
  const load = (name: string, at: number): PyModule => {
    const known = made.get(name)
    if (known) return known
    const index = own.get(name)
    if (index !== undefined) return run(index, name)
    const given = library.modules.get(name)
    if (!given) {
      if (!unknown.some((one) => one.name === name)) unknown.push({ name, at })
      return new PyModule(name, new Undescribed())
    }
    const { attrs } = given()
    const tell = (attr: string): void => {
      const whole = `${name}.${attr}`
      if (!unknown.some((one) => one.name === whole)) unknown.push({ name: whole, at: machine.at })
    }
    // Names of pins are all known; of other modules the rest is not described.
    const module = new PyModule(
      name,
      attrs instanceof Map && attrs.constructor === Map ? new Partly(attrs, tell) : attrs,
    )
    made.set(name, module)
    return module
  }
  const compiled = new Map<number, { exec: Exec; size: () => number; attrs: Map<string, Py> }>()
  const prepare = (index: number, name: string): void => {
    const attrs = new Map<string, Py>([['__name__', name]])
    const compiler = new PythonCompiler(machine, library, attrs, load, refusals)
    const scope = new PyScope('module')
    const exec = compiler.block(parsePython(files[index]!.text, index), scope)
    compiled.set(index, { exec, size: () => scope.size, attrs })
  }
  for (const [name, index] of own) prepare(index, index === start ? '__main__' : name)
  const run = (index: number, name: string): PyModule => {
    const { exec, size, attrs } = compiled.get(index)!
    const module = new PyModule(name, attrs)
    made.set(name, module)
    exec({ v: new Array(size()), up: null })
    return module
  }
  return { refusals, begin: () => void run(start, '__main__'), headers: unknown }
}

/** Names of a module that nobody has described: whatever it is asked for. */
class Undescribed extends Map<string, Py> {
  override get(name: string): Py {
    return super.get(name) ?? new Unknown()
  }
}

/** Names of a module that is described in part: what is not is told of, and gives nought. */
class Partly extends Map<string, Py> {
  readonly #tell: (name: string) => void

  constructor(known: ReadonlyMap<string, Py>, tell: (name: string) => void) {
    super(known)
    this.#tell = tell
  }

  override get(name: string): Py {
    if (super.has(name) || name.startsWith('__')) return super.get(name)
    this.#tell?.(name)
    return new Unknown()
  }
}

class PythonCompiler {
  readonly #machine: Machine
  readonly #library: PyLibrary
  readonly #globals: Map<string, Py>
  readonly #load: (name: string, at: number) => PyModule
  readonly #refusals: Refusal[]
  #ret: Py = null
  /** Exceptions that are being handled, for a bare `raise`. */
  readonly #handled: PyError[] = []

  constructor(
    machine: Machine,
    library: PyLibrary,
    globals: Map<string, Py>,
    load: (name: string, at: number) => PyModule,
    refusals: Refusal[],
  ) {
    this.#machine = machine
    this.#library = library
    this.#globals = globals
    this.#load = load
    this.#refusals = refusals
  }

  block(body: readonly PyStmt[], scope: PyScope): Exec {
    const all = body.map((one) => this.#guarded(one, scope))
    if (all.length === 1) return all[0]!
    return (f) => {
      for (let at = 0; at < all.length; at += 1) {
        const end = all[at]!(f)
        if (end !== GO) return end
      }
      return GO
    }
  }

  /** A statement that is not understood is said, and ends the run where it is reached. */
  #guarded(node: PyStmt, scope: PyScope): Exec {
    try {
      return this.#statement(node, scope)
    } catch (error) {
      if (!(error instanceof SourceError)) throw error
      this.#refusals.push({ at: error.at, message: error.message })
      return () => {
        throw new Halt(`the program comes to what is not understood: ${error.message}`, error.at)
      }
    }
  }

  #statement(node: PyStmt, scope: PyScope): Exec {
    const machine = this.#machine
    const { at } = node
    switch (node.s) {
      case 'pass':
        return () => GO
      case 'break':
        return () => BREAK
      case 'continue':
        return () => AGAIN
      case 'expression': {
        const get = this.get(node.value, scope)
        return (f) => {
          machine.step(at)
          get(f)
          return GO
        }
      }
      case 'assign': {
        const get = this.get(node.value, scope)
        const puts = node.targets.map((target) => this.#put(target, scope))
        return (f) => {
          machine.step(at)
          const value = get(f)
          for (const put of puts) put(f, value)
          return GO
        }
      }
      case 'change':
        return this.#change(node, scope)
      case 'if': {
        const asked = this.get(node.if, scope)
        const yes = this.block(node.yes, scope)
        const no = this.block(node.else, scope)
        return (f) => {
          machine.step(at)
          return isTrue(asked(f)) ? yes(f) : no(f)
        }
      }
      case 'while': {
        const asked = this.get(node.if, scope)
        const body = this.block(node.body, scope)
        const other = this.block(node.else, scope)
        return (f) => {
          for (;;) {
            machine.step(at)
            if (!isTrue(asked(f))) return other(f)
            const end = body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
          }
        }
      }
      case 'for': {
        const over = this.get(node.over, scope)
        const put = this.#put(node.target, scope)
        const body = this.block(node.body, scope)
        const other = this.block(node.else, scope)
        return (f) => {
          machine.step(at)
          const from = iterate(over(f))
          for (let next = from.next(); !next.done; next = from.next()) {
            machine.step(at)
            put(f, next.value)
            const end = body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
          }
          return other(f)
        }
      }
      case 'return': {
        const get = node.value ? this.get(node.value, scope) : () => null
        return (f) => {
          machine.step(at)
          this.#ret = get(f)
          return RETURN
        }
      }
      case 'def': {
        const make = this.#function(node.function, scope)
        const marks = node.marks.map((mark) => this.#mark(mark, scope))
        const put = this.#put({ e: 'name', name: node.function.name, at }, scope)
        return (f) => {
          machine.step(at)
          put(
            f,
            marks.reduceRight<Py>((value, mark) => mark(f, value), make(f)),
          )
          return GO
        }
      }
      case 'class':
        return this.#class(node, scope)
      case 'raise':
        return this.#raise(node.value, scope, at)
      case 'try':
        return this.#try(node, scope)
      case 'with':
        return this.#with(node, scope)
      case 'import': {
        const put = this.#put({ e: 'name', name: node.as, at }, scope)
        return (f) => {
          machine.step(at)
          const whole = this.#load(
            node.name.includes('.') && node.as !== node.name.split('.')[0] ? node.name : node.name.split('.')[0]!,
            at,
          )
          put(f, whole)
          return GO
        }
      }
      case 'from':
        return this.#from(node, scope)
      case 'global':
      case 'nonlocal':
        for (const name of node.names) node.s === 'global' ? scope.global(name) : scope.nonlocal(name)
        return () => GO
      case 'del': {
        const drops = node.targets.map((target) => this.#drop(target, scope))
        return (f) => {
          machine.step(at)
          for (const drop of drops) drop(f)
          return GO
        }
      }
      case 'assert': {
        const test = this.get(node.test, scope)
        const message = node.message && this.get(node.message, scope)
        return (f) => {
          machine.step(at)
          if (!isTrue(test(f))) raise('AssertionError', ...(message ? [message(f)] : []))
          return GO
        }
      }
    }
  }

  #from(node: PyStmt & { s: 'from' }, scope: PyScope): Exec {
    const machine = this.#machine
    const puts = node.names.map(({ name, as }) => ({
      name,
      put: name === '*' ? undefined : this.#put({ e: 'name', name: as, at: node.at }, scope),
    }))
    return (f) => {
      machine.step(node.at)
      const module = this.#load(node.module, node.at)
      for (const { name, put } of puts) {
        if (!put) {
          for (const [key, value] of module.attrs) if (!key.startsWith('_')) this.#globals.set(key, value)
          continue
        }
        put(f, module.attrs.get(name) ?? raise('ImportError', `cannot import name '${name}' from '${node.module}'`))
      }
      return GO
    }
  }

  #change(node: PyStmt & { s: 'change' }, scope: PyScope): Exec {
    const machine = this.#machine
    const { at, op, target } = node
    const value = this.get(node.value, scope)
    const changed = (old: Py, by: Py): Py => {
      // Lists and sets are changed where they are.
      if (old instanceof PyList && op === '+') {
        old.items.push(...listed(by))
        return old
      }
      if (old instanceof PyObject) {
        const own = old.cls.find(`__i${{ '+': 'add', '-': 'sub', '*': 'mul', '/': 'truediv' }[op] ?? ''}__`)
        if (own) return own.call([old, by], new Map())
      }
      return binary(op, old, by)
    }
    if (target.e === 'index') {
      const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
      return (f) => {
        machine.step(at)
        const [object, index] = [of(f), by(f)]
        putElement(object, index, changed(element(object, index), value(f)))
        return GO
      }
    }
    if (target.e === 'member') {
      const of = this.get(target.of, scope)
      return (f) => {
        machine.step(at)
        const object = of(f)
        setAttribute(object, target.name, changed(getAttribute(object, target.name), value(f)))
        return GO
      }
    }
    const [get, put] = [this.get(target, scope), this.#put(target, scope)]
    return (f) => {
      machine.step(at)
      put(f, changed(get(f), value(f)))
      return GO
    }
  }

  #raise(value: PyExpr | undefined, scope: PyScope, at: number): Exec {
    const machine = this.#machine
    const get = value && this.get(value, scope)
    return (f) => {
      machine.step(at)
      if (!get) {
        const last = this.#handled.at(-1)
        throw last ?? new PyError(errorOf(errorClasses.get('RuntimeError')!, ['No active exception to reraise']))
      }
      let made = get(f)
      if (made instanceof PyClass) made = invoke(made, [])
      if (!(made instanceof PyObject)) raise('TypeError', 'exceptions must derive from BaseException')
      throw new PyError(made)
    }
  }

  #matches(error: PyError, types: Py): boolean {
    if (types instanceof PyTuple) return types.items.some((one) => this.#matches(error, one))
    return types instanceof PyClass && error.value.cls.isA(types)
  }

  #try(node: PyStmt & { s: 'try' }, scope: PyScope): Exec {
    const machine = this.#machine
    const body = this.block(node.body, scope)
    const excepts = node.excepts.map(({ types, name, body: handler }) => ({
      types: types && this.get(types, scope),
      put: name === undefined ? undefined : this.#put({ e: 'name', name, at: node.at }, scope),
      body: this.block(handler, scope),
    }))
    const other = this.block(node.else, scope)
    const last = node.finally.length > 0 ? this.block(node.finally, scope) : undefined
    const guarded: Exec = (f) => {
      const depth = machine.depth
      try {
        const end = body(f)
        if (end !== GO) return end
      } catch (error) {
        if (!(error instanceof PyError)) throw error
        machine.depth = depth
        for (const one of excepts) {
          if (one.types && !this.#matches(error, one.types(f))) continue
          one.put?.(f, error.value)
          this.#handled.push(error)
          try {
            return one.body(f)
          } finally {
            this.#handled.pop()
          }
        }
        throw error
      }
      return other(f)
    }
    if (!last) return guarded
    return (f) => {
      let end: number
      try {
        end = guarded(f)
      } catch (error) {
        if (!(error instanceof PyError)) throw error
        const kept = this.#ret
        const ends = last(f)
        if (ends !== GO) return ends
        this.#ret = kept
        throw error
      }
      const kept = this.#ret
      const ends = last(f)
      if (ends !== GO) return ends
      this.#ret = kept
      return end
    }
  }

  #with(node: PyStmt & { s: 'with' }, scope: PyScope): Exec {
    const machine = this.#machine
    const items = node.items.map(({ value, target }) => ({
      get: this.get(value, scope),
      put: target && this.#put(target, scope),
    }))
    const body = this.block(node.body, scope)
    const run = (f: PyFrame, from: number): number => {
      const item = items[from]
      if (!item) return body(f)
      const manager = item.get(f)
      const entered = callMember(manager, '__enter__', [], none)
      item.put?.(f, entered)
      let end: number
      try {
        end = run(f, from + 1)
      } catch (error) {
        if (
          error instanceof PyError &&
          isTrue(callMember(manager, '__exit__', [error.value.cls, error.value, null], none))
        )
          return GO
        throw error
      }
      const kept = this.#ret
      callMember(manager, '__exit__', [null, null, null], none)
      this.#ret = kept
      return end
    }
    return (f) => {
      machine.step(node.at)
      return run(f, 0)
    }
  }

  #class(node: PyStmt & { s: 'class' }, scope: PyScope): Exec {
    const machine = this.#machine
    const bases = node.bases.map((base) => this.get(base, scope))
    const home = { cls: undefined as PyClass | undefined }
    const inner = new PyScope('class', scope, home)
    const body = this.block(node.body, inner)
    const marks = node.marks.map((mark) => this.#mark(mark, scope))
    const put = this.#put({ e: 'name', name: node.name, at: node.at }, scope)
    const inClass = scope.kind === 'class'
    return (f) => {
      machine.step(node.at)
      const all = bases.map((base) => base(f)).filter((base) => !(base instanceof Unknown))
      for (const base of all) if (!(base instanceof PyClass)) raise('TypeError', 'a class can only build on classes')
      const attrs = new Map<string, Py>()
      body({ v: new Array(inner.size), up: inClass ? f.up : f, attrs })
      const made = new PyClass(node.name, all.length > 0 ? all : [objectClass])
      for (const [name, value] of attrs) made.attrs.set(name, value)
      home.cls = made
      put(
        f,
        marks.reduceRight<Py>((value, mark) => mark(f, value), made),
      )
      return GO
    }
  }

  /** `@property` and its kind, or any function that is given one. */
  #mark(mark: PyExpr, scope: PyScope): (f: PyFrame, value: Py) => Py {
    if (mark.e === 'name' && mark.name === 'staticmethod')
      return (_, value) => new PyFunction(value.name, value.call, 'static', value.wants)
    if (mark.e === 'name' && mark.name === 'classmethod')
      return (_, value) => new PyFunction(value.name, value.call, 'class', value.wants)
    if (mark.e === 'name' && mark.name === 'property') return (_, value) => new PyProperty(value)
    if (mark.e === 'member' && mark.name === 'setter') {
      const get = this.get(mark.of, scope)
      return (f, value) => new PyProperty((get(f) as PyProperty).get, value)
    }
    // What speeds a function up on a board is nothing here.
    if (mark.e === 'member' && mark.of.e === 'name' && mark.of.name === 'micropython') return (_, value) => value
    const get = this.get(mark, scope)
    return (f, value) => invoke(get(f), [value])
  }

  /** Makes a function where its definition is reached. */
  #function(node: PyFunctionNode, scope: PyScope): Get {
    const machine = this.#machine
    const inner = new PyScope('function', scope, scope.kind === 'class' ? scope.home : undefined)
    for (const { name } of node.params) inner.declare(name)
    for (const one of node.body) declareNames(one, inner)
    const stops = node.isAsync || node.body.some(hasYield)
    const { params, name } = node
    const defaults = params.map(({ otherwise }) => otherwise && this.get(otherwise, scope))
    const body = stops ? undefined : this.block(node.body, inner)
    const flow = stops ? this.#flowBlock(node.body, inner) : undefined
    const inClass = scope.kind === 'class'
    const wants = params.filter(({ kind, otherwise }) => kind === 'plain' && !otherwise).length
    return (f) => {
      const outer = inClass ? f.up : f
      const kept = defaults.map((one) => one?.(f))
      return new PyFunction(
        name,
        (args, named) => {
          const v: Py[] = new Array(inner.size)
          bind(name, params, kept, args, named, v)
          const frame: PyFrame = { v, up: outer }
          if (flow) return generatorOf(flow(frame), node.isAsync ? 'coroutine' : 'generator', () => this.#ret)
          machine.enter(machine.at, name)
          this.#ret = null
          const end = body!(frame)
          machine.depth -= 1
          const value = end === RETURN ? this.#ret : null
          this.#ret = null
          return value
        },
        'plain',
        wants,
      )
    }
  }

  #flowBlock(body: readonly PyStmt[], scope: PyScope): Flow {
    const all = body.map((one) => (hasYield(one) ? this.#flow(one, scope) : this.#guarded(one, scope)))
    const isFlow = body.map(hasYield)
    return function* (f) {
      for (let at = 0; at < all.length; at += 1) {
        const end: number = isFlow[at] ? yield* (all[at] as Flow)(f) : (all[at] as Exec)(f)
        if (end !== GO) return end
      }
      return GO
    }
  }

  /** A statement in whose middle something is given out or waited for. */
  #flow(node: PyStmt, scope: PyScope): Flow {
    const machine = this.#machine
    const { at } = node
    const lifted = (value: PyExpr): { first: (f: PyFrame) => Generator<Py, void, Py>; get: Get } =>
      this.#lifted(value, scope)
    const self = this
    switch (node.s) {
      case 'expression': {
        const { first, get } = lifted(node.value)
        return function* (f) {
          machine.step(at)
          yield* first(f)
          get(f)
          return GO
        }
      }
      case 'assign': {
        const { first, get } = lifted(node.value)
        const puts = node.targets.map((target) => this.#put(target, scope))
        return function* (f) {
          machine.step(at)
          yield* first(f)
          const value = get(f)
          for (const put of puts) put(f, value)
          return GO
        }
      }
      case 'change': {
        const slot = scope.slot()
        const { first, get } = lifted(node.value)
        const change = this.#change(
          { ...node, value: { e: 'name', name: ` ${slot}`, at } },
          withSlot(scope, ` ${slot}`, slot),
        )
        return function* (f) {
          yield* first(f)
          f.v[slot] = get(f)
          return change(f)
        }
      }
      case 'return': {
        const { first, get } = node.value ? lifted(node.value) : { first: nothingFirst, get: () => null }
        return function* (f) {
          machine.step(at)
          yield* first(f)
          self.#ret = get(f)
          return RETURN
        }
      }
      case 'if': {
        const { first, get } = lifted(node.if)
        const [yes, no] = [this.#flowBlock(node.yes, scope), this.#flowBlock(node.else, scope)]
        return function* (f) {
          machine.step(at)
          yield* first(f)
          return isTrue(get(f)) ? yield* yes(f) : yield* no(f)
        }
      }
      case 'while': {
        const { first, get } = lifted(node.if)
        const [body, other] = [this.#flowBlock(node.body, scope), this.#flowBlock(node.else, scope)]
        return function* (f) {
          for (;;) {
            machine.step(at)
            yield* first(f)
            if (!isTrue(get(f))) return yield* other(f)
            const end = yield* body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
          }
        }
      }
      case 'for': {
        const { first, get } = lifted(node.over)
        const put = this.#put(node.target, scope)
        const [body, other] = [this.#flowBlock(node.body, scope), this.#flowBlock(node.else, scope)]
        return function* (f) {
          machine.step(at)
          yield* first(f)
          const from = iterate(get(f))
          for (let next = from.next(); !next.done; next = from.next()) {
            machine.step(at)
            put(f, next.value)
            const end = yield* body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
          }
          return yield* other(f)
        }
      }
      case 'try':
        return this.#flowTry(node, scope)
      case 'with': {
        const [item] = node.items
        if (node.items.length !== 1 || !item)
          throw new SourceError('with over several things is not understood where something is waited for', at)
        const { first, get } = lifted(item.value)
        const put = item.target && this.#put(item.target, scope)
        const body = this.#flowBlock(node.body, scope)
        return function* (f) {
          machine.step(at)
          yield* first(f)
          const manager = get(f)
          const enter = attribute(manager, '__aenter__') ?? getAttribute(manager, '__enter__')
          const entered = invoke(enter, [])
          put?.(f, entered instanceof PyIterator ? yield* delegated(entered) : entered)
          try {
            return yield* body(f)
          } finally {
            const left = invoke(attribute(manager, '__aexit__') ?? getAttribute(manager, '__exit__'), [
              null,
              null,
              null,
            ])
            if (left instanceof PyIterator) yield* delegated(left)
          }
        }
      }
      default:
        throw new SourceError('nothing can be waited for here', at)
    }
  }

  #flowTry(node: PyStmt & { s: 'try' }, scope: PyScope): Flow {
    const self = this
    const body = this.#flowBlock(node.body, scope)
    const excepts = node.excepts.map(({ types, name, body: handler }) => ({
      types: types && this.get(types, scope),
      put: name === undefined ? undefined : this.#put({ e: 'name', name, at: node.at }, scope),
      body: this.#flowBlock(handler, scope),
    }))
    const [other, last] = [this.#flowBlock(node.else, scope), this.#flowBlock(node.finally, scope)]
    return function* (f) {
      try {
        try {
          const end = yield* body(f)
          if (end !== GO) return end
        } catch (error) {
          if (!(error instanceof PyError)) throw error
          for (const one of excepts) {
            if (one.types && !self.#matches(error, one.types(f))) continue
            one.put?.(f, error.value)
            return yield* one.body(f)
          }
          throw error
        }
        return yield* other(f)
      } finally {
        yield* last(f)
      }
    }
  }

  /** A value in which something is given out or waited for: that is done first, the rest of it after. */
  #lifted(value: PyExpr, scope: PyScope): { first: (f: PyFrame) => Generator<Py, void, Py>; get: Get } {
    const steps: ((f: PyFrame) => Generator<Py, void, Py>)[] = []
    const lift = <T>(node: T): T => {
      if (Array.isArray(node)) return node.map(lift) as T
      if (typeof node !== 'object' || node === null) return node
      const expr = node as unknown as PyExpr
      if (expr.e === 'lambda') return node
      if (expr.e === 'yield' || expr.e === 'await') {
        const inner = expr.e === 'await' ? lift(expr.of) : expr.value && lift(expr.value)
        const get = inner ? this.get(inner as PyExpr, scope) : () => null
        const slot = scope.slot()
        const delegates = expr.e === 'await' || expr.from
        steps.push(function* (f) {
          const given = get(f)
          f.v[slot] = delegates ? yield* delegated(given) : yield given
        })
        return { e: 'name', name: ` ${slot}`, at: expr.at, slot } as T
      }
      return Object.fromEntries(Object.entries(node).map(([key, one]) => [key, lift(one)])) as T
    }
    const rest = lift(value)
    return {
      first: function* (f) {
        for (const step of steps) yield* step(f)
      },
      get: this.get(rest, scope),
    }
  }

  get(node: PyExpr, scope: PyScope): Get {
    const { at } = node
    switch (node.e) {
      case 'number': {
        const value = numberOf(node.text)
        return () => value
      }
      case 'text':
        return () => node.text
      case 'bytes': {
        const bytes = [...node.text].map((letter) => letter.charCodeAt(0) & 255)
        return () => new PyBytes(bytes, false)
      }
      case 'constant':
        return () => node.value
      case 'form': {
        const parts = node.parts.map((part) =>
          typeof part === 'string'
            ? part
            : { get: this.get(part.value, scope), turn: part.turn, spec: part.spec && this.get(part.spec, scope) },
        )
        return (f) =>
          parts
            .map((part) => {
              if (typeof part === 'string') return part
              const value = part.get(f)
              const turned = part.turn === 'r' ? reprOf(value) : part.turn === 's' ? strOf(value) : value
              return formatPy(turned, part.spec ? part.spec(f) : '')
            })
            .join('')
      }
      case 'name': {
        const own = (node as unknown as { slot?: number }).slot
        if (own !== undefined) return (f) => f.v[own]
        return this.#read(node.name, scope)
      }
      case 'unary': {
        const of = this.get(node.of, scope)
        if (node.op === 'not') return (f) => !isTrue(of(f))
        return (f) => unary(node.op, of(f))
      }
      case 'binary': {
        const [a, b] = [this.get(node.a, scope), this.get(node.b, scope)]
        const { op } = node
        return (f) => binary(op, a(f), b(f))
      }
      case 'compare':
        return this.#compare(node, scope)
      case 'logic': {
        const [a, b] = [this.get(node.a, scope), this.get(node.b, scope)]
        if (node.op === 'and')
          return (f) => {
            const left = a(f)
            return isTrue(left) ? b(f) : left
          }
        return (f) => {
          const left = a(f)
          return isTrue(left) ? left : b(f)
        }
      }
      case 'choose': {
        const [asked, yes, no] = [this.get(node.if, scope), this.get(node.yes, scope), this.get(node.else, scope)]
        return (f) => (isTrue(asked(f)) ? yes(f) : no(f))
      }
      case 'call':
        return this.#call(node, scope)
      case 'member': {
        const of = this.get(node.of, scope)
        return (f) => getAttribute(of(f), node.name)
      }
      case 'index': {
        const [of, by] = [this.get(node.of, scope), this.get(node.by, scope)]
        return (f) => element(of(f), by(f))
      }
      case 'slice': {
        const [from, to, step] = [node.from, node.to, node.step].map((one) =>
          one ? this.get(one, scope) : () => null,
        ) as [Get, Get, Get]
        return (f) => new PySlice(from(f), to(f), step(f))
      }
      case 'list':
      case 'tuple':
      case 'set': {
        const items = node.items.map((item) => ({
          get: this.get(item.e === 'star' ? item.of : item, scope),
          isStar: item.e === 'star',
        }))
        const all = (f: PyFrame): Py[] => items.flatMap(({ get, isStar }) => (isStar ? listed(get(f)) : [get(f)]))
        if (node.e === 'list') return (f) => new PyList(all(f))
        return node.e === 'tuple' ? (f) => new PyTuple(all(f)) : (f) => new PySet(all(f))
      }
      case 'dict': {
        const items = node.items.map(({ key, value }) => ({
          key: key && this.get(key, scope),
          value: this.get(value, scope),
        }))
        return (f) => {
          const made = new PyDict()
          for (const { key, value } of items)
            if (key) made.set(key(f), value(f))
            else for (const [name, one] of (value(f) as PyDict).entries.values()) made.set(name, one)
          return made
        }
      }
      case 'each':
        return this.#each(node, scope)
      case 'lambda':
        return this.#function(node.function, scope)
      case 'named': {
        const get = this.get(node.value, scope)
        const put = this.#put({ e: 'name', name: node.name, at }, scope)
        return (f) => {
          const value = get(f)
          put(f, value)
          return value
        }
      }
      case 'star':
        throw new SourceError('a star stands where nothing is spread', at)
      case 'yield':
      case 'await':
        throw new SourceError(`${node.e} stands outside of a function`, at)
    }
  }

  #read(name: string, scope: PyScope): Get {
    const where = scope.find(name)
    if (where.is === 'class') {
      const outer = this.#readAt(name, scope.around(name), 1)
      return (f) => f.attrs!.get(name) ?? outer(f)
    }
    return this.#readAt(name, where, 0)
  }

  #readAt(name: string, where: Where, less: number): Get {
    if (where.is === 'local') {
      const { depth, slot } = where
      const steps = depth
      void less
      const missing = (): never => raise('NameError', `name '${name}' is not defined`)
      if (steps === 0) return (f) => f.v[slot] ?? (f.v[slot] === null ? null : missing())
      if (steps === 1) return (f) => f.up!.v[slot] ?? (f.up!.v[slot] === null ? null : missing())
      return (f) => {
        let frame = f
        for (let at = 0; at < steps; at += 1) frame = frame.up!
        return frame.v[slot] ?? (frame.v[slot] === null ? null : missing())
      }
    }
    const globals = this.#globals
    const builtins = this.#library.builtins
    return () => {
      const found = globals.get(name)
      if (found !== undefined) return found
      const given = builtins.get(name)
      return given !== undefined ? given : raise('NameError', `name '${name}' is not defined`)
    }
  }

  #put(target: PyExpr, scope: PyScope): Put {
    switch (target.e) {
      case 'name': {
        const { name } = target
        const where = scope.find(name)
        if (where.is === 'class') return (f, value) => void f.attrs!.set(name, value)
        if (where.is === 'global') {
          const globals = this.#globals
          return (_, value) => void globals.set(name, value)
        }
        const { depth, slot } = where
        if (depth === 0)
          return (f, value) => {
            f.v[slot] = value
          }
        return (f, value) => {
          let frame = f
          for (let at = 0; at < depth; at += 1) frame = frame.up!
          frame.v[slot] = value
        }
      }
      case 'member': {
        const of = this.get(target.of, scope)
        return (f, value) => setAttribute(of(f), target.name, value)
      }
      case 'index': {
        const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
        return (f, value) => putElement(of(f), by(f), value)
      }
      case 'tuple':
      case 'list': {
        const star = target.items.findIndex((item) => item.e === 'star')
        const puts = target.items.map((item) => this.#put(item.e === 'star' ? item.of : item, scope))
        return (f, value) => {
          const values = listed(value)
          if (star < 0) {
            if (values.length !== puts.length)
              raise(
                'ValueError',
                values.length > puts.length
                  ? `too many values to unpack (expected ${puts.length})`
                  : `not enough values to unpack (expected ${puts.length}, got ${values.length})`,
              )
            for (const [at, put] of puts.entries()) put(f, values[at])
            return
          }
          const after = puts.length - star - 1
          if (values.length < puts.length - 1)
            raise(
              'ValueError',
              `not enough values to unpack (expected at least ${puts.length - 1}, got ${values.length})`,
            )
          puts.forEach((put, at) => {
            if (at < star) put(f, values[at])
            else if (at === star) put(f, new PyList(values.slice(star, values.length - after)))
            else put(f, values[values.length - (puts.length - at)])
          })
        }
      }
      default:
        throw new SourceError('only what lies somewhere can be given a value', target.at)
    }
  }

  #drop(target: PyExpr, scope: PyScope): (f: PyFrame) => void {
    if (target.e === 'index') {
      const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
      return (f) => dropElement(of(f), by(f))
    }
    if (target.e === 'member') {
      const of = this.get(target.of, scope)
      return (f) => void of(f).attrs?.delete(target.name)
    }
    if (target.e !== 'name') throw new SourceError('this cannot be taken away', target.at)
    const where = scope.find(target.name)
    if (where.is === 'local')
      return (f) => {
        f.v[where.slot] = undefined
      }
    return (f) => void (f.attrs ?? this.#globals).delete(target.name)
  }

  #compare(node: PyExpr & { e: 'compare' }, scope: PyScope): Get {
    const first = this.get(node.first, scope)
    const rest = node.rest.map(({ op, value }) => ({ op, get: this.get(value, scope) }))
    const [only] = rest
    if (rest.length === 1 && only) return (f) => compare(only.op, first(f), only.get(f))
    return (f) => {
      let left = first(f)
      let result: Py = true
      for (const { op, get } of rest) {
        const right = get(f)
        result = compare(op, left, right)
        if (!isTrue(result)) return result
        left = right
      }
      return result
    }
  }

  #call(node: PyExpr & { e: 'call' }, scope: PyScope): Get {
    const machine = this.#machine
    const { at, of } = node
    const plain = node.args.every(({ name, star }) => name === undefined && star === 0)
    const gets = node.args.map(({ value }) => this.get(value, scope))
    const positional = node.args.flatMap(({ name, star }, index) =>
      name === undefined && star < 2 ? [{ get: gets[index]!, star }] : [],
    )
    const named = node.args.flatMap(({ name, star }, index) =>
      name !== undefined || star === 2 ? [{ name, get: gets[index]! }] : [],
    )
    const argsOf = plain
      ? (f: PyFrame): Py[] => gets.map((get) => get(f))
      : (f: PyFrame): Py[] => positional.flatMap(({ get, star }) => (star === 1 ? listed(get(f)) : [get(f)]))
    const namedOf = (f: PyFrame): ReadonlyMap<string, Py> => {
      if (named.length === 0) return none
      const made = new Map<string, Py>()
      for (const { name, get } of named)
        if (name !== undefined) made.set(name, get(f))
        else for (const [key, value] of (get(f) as PyDict).entries.values()) made.set(key, value)
      return made
    }
    if (of.e === 'name' && of.name === 'super' && node.args.length === 0) {
      const { home } = scope
      return (f) => superOf(home?.cls, f.v[0])
    }
    if (of.e === 'member') {
      const owner = this.get(of.of, scope)
      return (f) => {
        const object = owner(f)
        const [args, names] = [argsOf(f), namedOf(f)]
        machine.at = at
        return callMember(object, of.name, args, names)
      }
    }
    const callee = this.get(of, scope)
    return (f) => {
      const called = callee(f)
      const [args, names] = [argsOf(f), namedOf(f)]
      machine.at = at
      return invoke(called, args, names)
    }
  }

  /** `[x * 2 for x in all if x]`: its names are its own. */
  #each(node: PyExpr & { e: 'each' }, scope: PyScope): Get {
    scope.enter()
    const rounds = node.each.map((one: PyEach) => {
      const over = this.get(one.over, scope)
      declareInner(one.target, scope)
      return { over, put: this.#put(one.target, scope), tests: one.tests.map((test) => this.get(test, scope)) }
    })
    const value = this.get(node.value, scope)
    const key = node.key && this.get(node.key, scope)
    scope.leave()
    const machine = this.#machine
    function* run(f: PyFrame, at: number): Generator<Py, void, Py> {
      const round = rounds[at]
      if (!round) {
        yield key ? [key(f), value(f)] : value(f)
        return
      }
      const from = iterate(round.over(f))
      for (let next = from.next(); !next.done; next = from.next()) {
        machine.step(node.at)
        round.put(f, next.value)
        if (round.tests.every((test) => isTrue(test(f)))) yield* run(f, at + 1)
      }
    }
    switch (node.kind) {
      case 'list':
        return (f) => new PyList([...run(f, 0)])
      case 'set':
        return (f) => new PySet(run(f, 0))
      case 'dict':
        return (f) => {
          const made = new PyDict()
          for (const [name, one] of run(f, 0)) made.set(name, one)
          return made
        }
      default:
        return (f) => {
          const from = run(f, 0)
          return new PyIterator(() => from.next(null) as IteratorResult<Py, Py>, 'generator')
        }
    }
  }
}

const none: ReadonlyMap<string, Py> = new Map()
const nothingFirst = function* (): Generator<Py, void, Py> {}

/** A scope in which one more name is known, for what a statement keeps meanwhile. */
function withSlot(scope: PyScope, name: string, slot: number): PyScope {
  const found = scope.find.bind(scope)
  return new Proxy(scope, {
    get: (target, key) => {
      if (key === 'find') return (asked: string) => (asked === name ? { is: 'local', depth: 0, slot } : found(asked))
      const value = Reflect.get(target, key, target)
      return typeof value === 'function' ? value.bind(target) : value
    },
  })
}

/** Gives on what another one gives, and takes its last value. */
function* delegated(from: Py): Generator<Py, Py, Py> {
  const all =
    from instanceof PyIterator
      ? from
      : from instanceof PyObject && from.cls.find('__await__')
        ? callMember(from, '__await__', [], none)
        : from
  const iterator = all instanceof PyIterator ? all : iterate(all)
  let next = (iterator as PyIterator).next(null)
  while (!next.done) next = (iterator as PyIterator).next(yield next.value)
  return next.value ?? null
}

function generatorOf(flow: Generator<Py, number, Py>, kind: 'generator' | 'coroutine', ret: () => Py): PyIterator {
  return new PyIterator(
    (sent) => {
      try {
        const next = flow.next(sent ?? null)
        return next.done
          ? { done: true, value: next.value === RETURN ? ret() : null }
          : { done: false, value: next.value }
      } catch (error) {
        if (isError(error, 'StopIteration')) raise('RuntimeError', 'generator raised StopIteration')
        throw error
      }
    },
    kind,
    () => void flow.return(GO),
  )
}

/** What a class builds on, asked as the class itself would be. */
function superOf(home: PyClass | undefined, self: Py): Py {
  if (!home) return raise('RuntimeError', 'super(): no class')
  const own: PyClass = self instanceof PyClass ? self : self.cls
  const order = own.order
  const after = order.slice(order.indexOf(home) + 1)
  const cls = new PyClass('super', [])
  for (const one of [...after].reverse())
    for (const [name, value] of one.attrs) {
      if (value instanceof PyFunction && value.kind !== 'static') {
        const first = value.kind === 'class' ? own : self
        cls.attrs.set(name, new PyFunction(name, (args, named) => value.call([first, ...args], named), 'static'))
      } else if (value instanceof PyProperty)
        cls.attrs.set(name, new PyProperty(new PyFunction(name, () => value.get.call([self], none))))
      else cls.attrs.set(name, value)
    }
  if (!cls.attrs.has('__init__'))
    cls.attrs.set(
      '__init__',
      new PyFunction(
        '__init__',
        (args) => {
          if (self instanceof PyObject && self.attrs.has('args')) self.attrs.set('args', new PyTuple([...args]))
          return null
        },
        'static',
      ),
    )
  if (!cls.attrs.has('__new__')) cls.attrs.set('__new__', newObject)
  return new PyObject(cls)
}

function bind(
  name: string,
  params: PyFunctionNode['params'],
  defaults: readonly Py[],
  args: readonly Py[],
  named: ReadonlyMap<string, Py>,
  v: Py[],
): void {
  let next = 0
  const used = new Set<string>()
  params.forEach(({ name: param, kind }, at) => {
    if (kind === 'list') {
      v[at] = new PyTuple(args.slice(next))
      next = args.length
      return
    }
    if (kind === 'map') return
    if (kind === 'plain' && next < args.length) {
      v[at] = args[next]
      next += 1
      if (named.has(param)) raise('TypeError', `${name}() got multiple values for argument '${param}'`)
      return
    }
    if (named.has(param)) {
      v[at] = named.get(param)
      used.add(param)
      return
    }
    const otherwise = defaults[at]
    v[at] =
      otherwise !== undefined ? otherwise : raise('TypeError', `${name}() missing a required argument: '${param}'`)
  })
  if (next < args.length)
    raise(
      'TypeError',
      `${name}() takes ${params.filter(({ kind }) => kind === 'plain').length} positional arguments but ${args.length} were given`,
    )
  const rest = params.findIndex(({ kind }) => kind === 'map')
  if (rest >= 0) {
    const made = new PyDict()
    for (const [key, value] of named) if (!used.has(key)) made.set(key, value)
    v[rest] = made
  } else
    for (const key of named.keys())
      if (!used.has(key)) raise('TypeError', `${name}() got an unexpected keyword argument '${key}'`)
}

/** Names that a statement of a function gives values to: they are its own. */
function declareNames(node: PyStmt, scope: PyScope): void {
  const target = (one: PyExpr): void => {
    if (one.e === 'name') {
      if (!scope.isElsewhere(one.name)) scope.declare(one.name)
    } else if (one.e === 'tuple' || one.e === 'list') one.items.forEach(target)
    else if (one.e === 'star') target(one.of)
  }
  const name = (one: string): void => target({ e: 'name', name: one, at: node.at })
  const all = (body: readonly PyStmt[]): void => {
    for (const one of body) declareNames(one, scope)
  }
  const walrus = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return
    const expr = value as PyExpr
    if (expr.e === 'named') name(expr.name)
    if (expr.e !== 'lambda') for (const one of Object.values(value)) walrus(one)
  }
  switch (node.s) {
    case 'global':
      for (const one of node.names) scope.global(one)
      break
    case 'nonlocal':
      for (const one of node.names) scope.nonlocal(one)
      break
    case 'assign':
      node.targets.forEach(target)
      walrus(node.value)
      break
    case 'change':
      target(node.target)
      break
    case 'expression':
      walrus(node.value)
      break
    case 'if':
      walrus(node.if)
      all(node.yes)
      all(node.else)
      break
    case 'while':
      walrus(node.if)
      all(node.body)
      all(node.else)
      break
    case 'for':
      target(node.target)
      all(node.body)
      all(node.else)
      break
    case 'try':
      all(node.body)
      for (const { name: as, body } of node.excepts) {
        if (as !== undefined) name(as)
        all(body)
      }
      all(node.else)
      all(node.finally)
      break
    case 'with':
      for (const { target: as } of node.items) if (as) target(as)
      all(node.body)
      break
    case 'def':
      name(node.function.name)
      break
    case 'class':
      name(node.name)
      break
    case 'import':
      name(node.as)
      break
    case 'from':
      for (const { as } of node.names) if (as !== '*') name(as)
      break
  }
}

function declareInner(target: PyExpr, scope: PyScope): void {
  if (target.e === 'name') scope.declareInner(target.name)
  else if (target.e === 'tuple' || target.e === 'list') for (const one of target.items) declareInner(one, scope)
}

/** Something is given out or waited for in it, functions inside left out. */
function hasYield(node: unknown): boolean {
  if (typeof node !== 'object' || node === null) return false
  if (Array.isArray(node)) return node.some(hasYield)
  const { e, s } = node as { e?: string; s?: string }
  if (e === 'yield' || e === 'await') return true
  if (e === 'lambda' || s === 'def' || s === 'class') return false
  return Object.values(node).some(hasYield)
}

function numberOf(text: string): Py {
  const bare = text.replace(/_/g, '')
  if (/^0[xob]/i.test(bare)) return shrunk(BigInt(bare))
  return /[.eE]/.test(bare) ? new Float(Number(bare)) : shrunk(BigInt(bare))
}
