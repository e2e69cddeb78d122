import { arithmetic } from './arithmetic.ts'
import type { Argument, At, Expr, Param, SourceLanguage, Stmt } from './ir.ts'
import {
  type Call,
  type ClassValue,
  type Declared,
  type FunctionValue,
  type GivenValue,
  type Made,
  Scope,
  type Value,
} from './values.ts'

/** What following a program through gives: its calls in the order in which they were met, and what it names. */
export interface Followed {
  readonly calls: readonly Call[]
  readonly declared: readonly Declared[]
  /** Places that the parser could not read. */
  readonly unread: readonly At[]
  /** True when the program was too large to be followed to its end. */
  readonly cut: boolean
}

/** A file of a program, read. */
export interface ReadFile {
  /** Name without folder and ending: what `import` calls it. */
  readonly module: string
  readonly body: readonly Stmt[]
}

/** Most turns of a counted loop that are followed one by one. */
const MOST_TURNS = 128
/** Deepest nesting of calls. */
const MOST_DEPTH = 12
/** Most steps in all: far above any sketch, and a few tenths of a second. */
const MOST_STEPS = 200_000
/** Most values that one expression may have by branches. */
const MOST_OPTIONS = 12

/** Functions of Python that make lists and numbers of others. */
const pythonOwn = new Set('range enumerate zip len list tuple reversed sorted int super const'.split(' '))

const unknown = (why: string): Value => ({ is: 'unknown', why, via: [] })

/** Follows a program: no running, no guessing. What cannot be followed becomes an unknown value with its reason. */
export function followProgram(files: readonly ReadFile[], language: SourceLanguage): Followed {
  const follower = new Follower(files, language)
  follower.run()
  return {
    calls: follower.calls,
    declared: follower.declared,
    unread: follower.unread,
    cut: follower.steps > MOST_STEPS,
  }
}

class Return {
  readonly value: Value
  constructor(value: Value) {
    this.value = value
  }
}

class Follower {
  readonly calls: Call[] = []
  readonly declared: Declared[] = []
  readonly unread: At[] = []
  steps = 0
  readonly #files: readonly ReadFile[]
  readonly #isPython: boolean
  readonly #modules = new Map<string, Scope>()
  readonly #ran = new Set<ReadFile>()
  readonly #done = new Set<FunctionValue['body']>()
  readonly #making = new Set<ClassValue>()
  readonly #classes: ClassValue[] = []
  readonly #functions: FunctionValue[] = []
  #depth = 0
  readonly #within: Made[] = []

  constructor(files: readonly ReadFile[], language: SourceLanguage) {
    this.#files = files
    this.#isPython = language === 'python'
  }

  run(): void {
    // Files of a sketch are one program with one set of names; those of Python each have their own.
    const shared = new Scope()
    const scopes = this.#files.map(({ module, body }) => {
      const scope = this.#isPython ? new Scope() : shared
      this.#modules.set(module, scope)
      return { scope, body }
    })
    for (const { scope, body } of scopes) this.#hoist(body, scope)
    for (const { module } of this.#files) this.#runFile(module)
    for (const { scope } of scopes) {
      const setup = scope.get('setup')
      if (setup?.is === 'function' && !this.#done.has(setup.made.body)) this.#call(setup.made, undefined, [])
    }
    // What functions other than the set-up change is not known in them: they run again and again.
    for (const { scope } of scopes) this.#forget(scope)
    for (const one of this.#functions) if (!this.#done.has(one.body)) this.#alone(one)
    for (const one of [...this.#classes]) if (!this.#making.has(one)) this.#aloneClass(one)
  }

  /** A file runs once, before what imports from it goes on. */
  #runFile(module: string): void {
    const scope = this.#modules.get(module)
    const file = this.#files.find((one) => one.module === module)
    if (!scope || !file || this.#ran.has(file)) return
    this.#ran.add(file)
    this.#all(file.body, scope)
  }

  /** A function that nobody calls here: a handler, or what the platform calls. */
  #alone(one: FunctionValue, self?: Made): void {
    const args = one.params.map(
      ({ name }): GivenValue => ({
        name: undefined,
        value: unknown(`${name} is given by whoever calls ${one.name}`),
        at: one.at,
      }),
    )
    this.#call(one, self, args)
  }

  #aloneClass(one: ClassValue): void {
    const made = this.#emptyObject(one, [], { file: 0, from: 0, to: 0 })
    this.#making.add(one)
    for (const stmt of one.body) if (stmt.kind === 'function') this.#alone(this.#functionOf(stmt, one.scope), made)
  }

  /** Functions and classes are known before anything runs, wherever they stand. */
  #hoist(body: readonly Stmt[], scope: Scope): void {
    const methods: (Stmt & { kind: 'function' })[] = []
    for (const stmt of body) {
      if (stmt.kind === 'function' && stmt.of !== undefined) methods.push(stmt)
      else if (stmt.kind === 'function') {
        const made = this.#functionOf(stmt, scope)
        scope.declare(stmt.name, { is: 'function', made, self: undefined, via: [] })
        this.#functions.push(made)
      } else if (stmt.kind === 'class') this.#declareClass(stmt, scope)
    }
    for (const stmt of methods) {
      const owner = scope.get(stmt.of as string)
      if (owner?.is === 'class') (owner.made.body as Stmt[]).push({ ...stmt, of: undefined })
      else this.#functions.push(this.#functionOf(stmt, scope))
    }
  }

  #functionOf(stmt: Stmt & { kind: 'function' }, scope: Scope): FunctionValue {
    return { name: stmt.name, params: stmt.params, body: stmt.body, at: stmt.at, scope }
  }

  #declareClass(stmt: Stmt & { kind: 'class' }, scope: Scope): void {
    const known = scope.names().get(stmt.name)
    if (known?.is === 'class' && known.made.body.length >= stmt.body.length) return
    const made: ClassValue = {
      name: stmt.name,
      bases: stmt.bases,
      body: [...stmt.body],
      scope,
      statics: new Map(),
    }
    this.#classes.push(made)
    scope.declare(stmt.name, { is: 'class', made, via: [] })
    for (const inner of stmt.body) if (inner.kind === 'class') this.#declareClass(inner, scope)
  }

  #forget(scope: Scope): void {
    const changed = new Set<string>()
    for (const one of this.#functions) if (one.name !== 'setup') collectChanged(one.body, changed)
    for (const one of this.#classes) collectChanged(one.body, changed)
    for (const [name, value] of scope.names())
      if (changed.has(name) && value.is !== 'object' && value.is !== 'function' && value.is !== 'class')
        scope.declare(name, unknown(`${name} changes while the program runs`))
  }

  #all(body: readonly Stmt[], scope: Scope): Return | undefined {
    for (const stmt of body) {
      const left = this.#statement(stmt, scope)
      if (left) return left
    }
    return undefined
  }

  #statement(stmt: Stmt, scope: Scope): Return | undefined {
    this.steps += 1
    if (this.steps > MOST_STEPS) return undefined
    switch (stmt.kind) {
      case 'declare':
        this.#declare(stmt, scope)
        return undefined
      case 'expression':
        this.#value(stmt.value, scope)
        return undefined
      case 'block':
        return this.#all(stmt.body, this.#isPython ? scope : new Scope(scope))
      case 'return':
        return new Return(stmt.value ? this.#value(stmt.value, scope) : unknown('nothing is returned'))
      case 'for':
        return this.#for(stmt, scope)
      case 'for-each':
        return this.#forEach(stmt, scope)
      case 'maybe':
        return this.#maybe(stmt, scope)
      case 'import':
        this.#import(stmt, scope)
        return undefined
      case 'macro': {
        const params = stmt.params.map((name): Param => ({ name, usual: undefined }))
        const body: Stmt[] = [{ kind: 'return', value: stmt.value, at: stmt.at }]
        const made: FunctionValue = { name: stmt.name, params, body, at: stmt.at, scope }
        scope.declare(stmt.name, { is: 'function', made, self: undefined, via: [] })
        return undefined
      }
      case 'function':
        // Inside a function or a class body; those of a file are known already.
        if (stmt.of === undefined && scope !== scope.file)
          scope.declare(stmt.name, { is: 'function', made: this.#functionOf(stmt, scope), self: undefined, via: [] })
        return undefined
      case 'class': {
        if (scope !== scope.file) this.#declareClass(stmt, scope)
        const known = scope.get(stmt.name)
        if (known?.is === 'class') this.#statics(known.made)
        return undefined
      }
      case 'global':
        for (const name of stmt.names) scope.global(name)
        return undefined
      case 'unread':
        this.unread.push(stmt.at)
        return undefined
    }
  }

  #statics(one: ClassValue): void {
    const scope = new Scope(one.scope)
    for (const stmt of one.body)
      if (stmt.kind === 'declare' && (this.#isPython || stmt.fixed) && stmt.value) {
        const value = named(this.#value(stmt.value, scope), `${one.name}.${stmt.name}`)
        scope.declare(stmt.name, value)
        one.statics.set(stmt.name, value)
        this.declared.push({ name: stmt.name, value, at: stmt.at })
      }
  }

  #declare(stmt: Stmt & { kind: 'declare' }, scope: Scope): void {
    const value = stmt.value ? this.#typed(this.#value(stmt.value, scope), stmt.type, scope, stmt.at) : undefined
    const known = value ? named(value, stmt.name) : unknown(`${stmt.name} has no value yet`)
    scope.declare(stmt.name, known)
    if (scope === scope.file && value) this.declared.push({ name: stmt.name, value: known, at: stmt.at })
    else if (stmt.fixed && value) this.declared.push({ name: stmt.name, value: known, at: stmt.at })
  }

  /** Braces that are given to an array of structures become structures. */
  #typed(value: Value, type: string | undefined, scope: Scope, at: At): Value {
    const owner = type === undefined ? undefined : scope.get(type)
    if (owner?.is !== 'class' || value.is !== 'list') return value
    const items = value.items.map((item) => {
      if (item.is !== 'list') return item
      const args = item.items.map((one): GivenValue => ({ name: undefined, value: one, at }))
      return this.#make(owner.made, args, at)
    })
    return { ...value, items }
  }

  #for(stmt: Stmt & { kind: 'for' }, outer: Scope): Return | undefined {
    const scope = new Scope(outer)
    this.#all(stmt.first, scope)
    for (let turn = 0; ; turn += 1) {
      const test = stmt.test ? this.#value(stmt.test, scope) : unknown('no end')
      const goes = test.is === 'number' ? test.number !== 0 : undefined
      if (goes === false) return undefined
      if (goes === undefined || turn >= MOST_TURNS) {
        this.#loosen(stmt.body, scope, stmt.step)
        this.#all(stmt.body, new Scope(scope))
        return undefined
      }
      const left = this.#all(stmt.body, new Scope(scope))
      if (left) return left
      if (stmt.step) this.#value(stmt.step, scope)
      if (this.steps > MOST_STEPS) return undefined
    }
  }

  #forEach(stmt: Stmt & { kind: 'for-each' }, outer: Scope): Return | undefined {
    const scope = this.#isPython ? outer : new Scope(outer)
    const items = this.#items(this.#value(stmt.over, scope))
    if (!items) this.#loosen(stmt.body, scope)
    for (const item of items ?? [unknown('items of a list that cannot be followed')]) {
      this.#bind(stmt.names, item, scope)
      const left = this.#all(stmt.body, scope)
      if (left) return left
      if (this.steps > MOST_STEPS) return undefined
    }
    return undefined
  }

  #bind(names: readonly string[], item: Value, scope: Scope): void {
    names.forEach((name, index) => {
      const one = names.length === 1 ? item : (this.#items(item)?.[index] ?? unknown(`${name} cannot be followed`))
      scope.declare(name, named(one, name))
    })
  }

  /** Items of a list that is known; undefined for what is none. */
  #items(value: Value): readonly Value[] | undefined {
    if (value.is === 'list') return value.items.slice(0, MOST_TURNS)
    if (value.is === 'map') return [...value.entries.keys()].map((key): Value => ({ is: 'text', text: key, via: [] }))
    return undefined
  }

  /** Values that a body changes are not known while it runs again and again. */
  #loosen(body: readonly Stmt[], scope: Scope, step?: Expr): void {
    const changed = new Set<string>()
    collectChanged(body, changed)
    if (step) collectInExpr(step, changed)
    for (const name of changed) {
      const value = scope.get(name)
      if (value && value.is !== 'object' && value.is !== 'function')
        scope.set(name, unknown(`${name} changes from turn to turn`))
    }
  }

  #maybe(stmt: Stmt & { kind: 'maybe' }, scope: Scope): Return | undefined {
    const tests = stmt.tests.map((test) => this.#value(test, scope))
    const [test] = tests
    const returned: Value[] = []
    // A test that is a plain number decides: `if (DEBUG)`, `while (true)`.
    const sure =
      tests.length === 1 && test?.is === 'number' && stmt.tests[0]?.kind !== 'operation' ? test.number : undefined
    const bodies = sure === undefined || stmt.bodies.length > 2 ? stmt.bodies : [stmt.bodies[sure === 0 ? 1 : 0] ?? []]
    const changed = new Set<string>()
    for (const body of bodies) collectChanged(body, changed)
    const before = new Map(
      [...changed].flatMap((name) => {
        const value = scope.get(name)
        return value ? [[name, value] as const] : []
      }),
    )
    const after: Map<string, Value>[] = []
    let open = false
    for (const body of bodies) {
      for (const [name, value] of before) scope.set(name, value)
      const left = this.#all(body, this.#isPython ? scope : new Scope(scope))
      if (left) returned.push(left.value)
      else open = true
      after.push(
        new Map(
          [...changed].flatMap((name) => {
            const value = scope.get(name)
            return value ? [[name, value] as const] : []
          }),
        ),
      )
    }
    for (const name of changed) {
      const values = after.flatMap((one) => one.get(name) ?? [])
      if (values.length > 0) scope.set(name, either(values))
    }
    return !open && returned.length > 0 ? new Return(either(returned)) : undefined
  }

  #import({ module, name, as }: Stmt & { kind: 'import' }, scope: Scope): void {
    const last = module.split('.').at(-1) ?? module
    const own = this.#modules.get(last)
    this.#runFile(last)
    if (!own) {
      if (name !== '*')
        scope.declare(as, { is: 'symbol', path: name === undefined ? module : `${module}.${name}`, via: [] })
      else scope.declare(`* ${module}`, { is: 'symbol', path: module, via: [] })
      return
    }
    if (name === '*') for (const [one, value] of own.names()) scope.declare(one, value)
    else if (name !== undefined) scope.declare(as, own.get(name) ?? unknown(`${module} has no ${name}`))
    else {
      const fields = new Map(own.names())
      const made: Made = { of: module, args: [], at: { file: 0, from: 0, to: 0 }, fields, own: undefined, name: as }
      scope.declare(as, { is: 'object', made, via: [] })
    }
  }

  #value(expr: Expr, scope: Scope): Value {
    this.steps += 1
    if (this.steps > MOST_STEPS) return unknown('the program is too large to be followed')
    switch (expr.kind) {
      case 'number':
        return { is: 'number', number: expr.number, hex: expr.hex, via: [] }
      case 'text':
        return { is: 'text', text: expr.text, via: [] }
      case 'name':
        return this.#name(expr.name, scope)
      case 'member':
        return this.#member(this.#value(expr.of, scope), expr.name)
      case 'index':
        return this.#index(expr, scope)
      case 'list':
        return { is: 'list', items: expr.items.map((one) => this.#value(one.value, scope)), via: [] }
      case 'map': {
        const entries = new Map<string, Value>()
        for (const [key, value] of expr.entries) {
          const at = this.#value(key, scope)
          const text = at.is === 'text' ? at.text : at.is === 'number' ? String(at.number) : undefined
          const item = this.#value(value, scope)
          if (text !== undefined) entries.set(text, named(item, text))
        }
        return { is: 'map', entries, via: [] }
      }
      case 'choice': {
        const test = this.#value(expr.test, scope)
        if (test.is === 'number') return this.#value(test.number !== 0 ? expr.yes : expr.no, scope)
        return either([this.#value(expr.yes, scope), this.#value(expr.no, scope)])
      }
      case 'operation':
        return arithmetic(
          expr.operator,
          expr.parts.map((one) => this.#value(one, scope)),
        )
      case 'each': {
        const items = this.#items(this.#value(expr.over, scope))
        const inner = new Scope(scope)
        const made = (items ?? [unknown('items of a list that cannot be followed')]).map((item) => {
          this.#bind(expr.names, item, inner)
          return this.#value(expr.value, inner)
        })
        return items ? { is: 'list', items: made, via: [] } : unknown('a list that cannot be followed')
      }
      case 'assign':
        return this.#assign(expr, scope)
      case 'function': {
        const made: FunctionValue = { name: 'a handler', params: expr.params, body: expr.body, at: expr.at, scope }
        this.#functions.push(made)
        return { is: 'function', made, self: undefined, via: [] }
      }
      case 'call':
        return this.#callExpr(expr, scope)
      case 'unknown':
        for (const part of expr.parts) this.#value(part, scope)
        return unknown('an expression that is not followed')
    }
  }

  #name(name: string, scope: Scope): Value {
    if (name === 'this' || (name === 'self' && scope.self && !scope.get('self'))) {
      const { self } = scope
      if (self) return { is: 'object', made: self, via: [] }
    }
    const value = scope.get(name)
    if (value) return value
    if (this.#isPython && (name === 'True' || name === 'False'))
      return { is: 'number', number: name === 'True' ? 1 : 0, hex: false, via: [] }
    if (name === 'true' || name === 'false')
      return { is: 'number', number: name === 'true' ? 1 : 0, hex: false, via: [] }
    // A name that came in with everything of a module of the platform.
    const star = this.#isPython ? [...scope.file.names().keys()].find((one) => one.startsWith('* ')) : undefined
    return { is: 'symbol', path: star === undefined ? name : `${star.slice(2)}.${name}`, via: [] }
  }

  #member(of: Value, name: string): Value {
    switch (of.is) {
      case 'object': {
        const field = of.made.fields.get(name)
        if (field?.is === 'function') return { ...field, self: of.made }
        if (field) return of.made.name === undefined ? field : named(field, `${of.made.name}.${name}`)
        const method = of.made.own && this.#method(of.made.own, name)
        if (method) return { is: 'function', made: method, self: of.made, via: [] }
        const fixed = of.made.own?.statics.get(name)
        if (fixed) return fixed
        return of.made.own
          ? unknown(`${name} has no value yet`)
          : { is: 'symbol', path: `${of.made.of}.${name}`, via: [] }
      }
      case 'class':
        return (
          of.made.statics.get(name) ?? of.made.scope.get(name) ?? unknown(`${of.made.name}.${name} cannot be followed`)
        )
      case 'symbol':
        return { is: 'symbol', path: `${of.path}.${name}`, via: of.via }
      case 'either':
        return either(
          of.options.map((one) => (one.is === 'object' ? (one.made.fields.get(name) ?? unknown(name)) : unknown(name))),
        )
      default:
        return unknown(`${name} of a value that cannot be followed`)
    }
  }

  #method(one: ClassValue, name: string, depth = 0): FunctionValue | undefined {
    for (const stmt of one.body)
      if (stmt.kind === 'function' && stmt.name === name) return this.#functionOf(stmt, one.scope)
    if (depth > 5) return undefined
    for (const base of one.bases) {
      const known = one.scope.get(base)
      const found = known?.is === 'class' ? this.#method(known.made, name, depth + 1) : undefined
      if (found) return found
    }
    return undefined
  }

  #index(expr: Expr & { kind: 'index' }, scope: Scope): Value {
    const of = this.#value(expr.of, scope)
    const index = this.#value(expr.index, scope)
    const key = index.is === 'number' ? String(index.number) : index.is === 'text' ? index.text : undefined
    if (of.is === 'list') {
      if (index.is === 'number') {
        const item = of.items.at(index.number)
        return item ?? unknown(`the list has no item ${index.number}`)
      }
      return of.items.length > 0 && of.items.length <= MOST_OPTIONS
        ? either(of.items)
        : unknown('an item whose number cannot be followed')
    }
    if (of.is === 'map') {
      const found = key === undefined ? undefined : of.entries.get(key)
      return (
        found ??
        (of.entries.size <= MOST_OPTIONS && key === undefined
          ? either([...of.entries.values()])
          : unknown('an entry that cannot be followed'))
      )
    }
    return unknown('an item of something that cannot be followed')
  }

  #assign(expr: Expr & { kind: 'assign' }, scope: Scope): Value {
    const given = this.#value(expr.value, scope)
    const { target } = expr
    const value =
      expr.operator === '=' || expr.operator === ':='
        ? given
        : arithmetic(expr.operator.slice(0, -1), [this.#value(target, scope), given])
    if (target.kind === 'name') scope.set(target.name, named(value, target.name))
    else if (target.kind === 'member') {
      const of = this.#value(target.of, scope)
      if (of.is === 'object') this.#setField(of.made, target.name, value, expr.at)
      else if (of.is === 'symbol')
        this.#emit(`${of.path}.${target.name}=`, undefined, [{ name: undefined, value, at: expr.at }], expr.at)
    } else if (target.kind === 'index') {
      const of = this.#value(target.of, scope)
      const index = this.#value(target.index, scope)
      if (of.is === 'list' && target.of.kind === 'name') {
        const items = of.items.map((item, at) =>
          index.is !== 'number' ? unknown('an item that changes') : at === index.number ? value : item,
        )
        scope.set(target.of.name, { ...of, items })
      } else if (of.is === 'map' && target.of.kind === 'name' && (index.is === 'text' || index.is === 'number')) {
        const key = index.is === 'text' ? index.text : String(index.number)
        scope.set(target.of.name, { ...of, entries: new Map([...of.entries, [key, named(value, key)]]) })
      }
    }
    return value
  }

  #setField(made: Made, name: string, value: Value, at: At): void {
    // `A(p)` before a constructor's body, where A is the class that this one is made from.
    const base = made.own?.scope.get(name)
    if (base?.is === 'class' && made.own?.bases.includes(name)) {
      const args = value.is === 'list' ? value.items : [value]
      this.#construct(
        base.made,
        made,
        args.map((one): GivenValue => ({ name: undefined, value: one, at })),
      )
      return
    }
    if (!made.own && !made.fields.has(name)) {
      // A property of an object of the platform: `pin.direction = …`.
      this.#emit(`${made.of}.${name}=`, made, [{ name: undefined, value, at }], at)
      return
    }
    made.fields.set(name, named(value, name))
  }

  #callExpr(expr: Expr & { kind: 'call' }, scope: Scope): Value {
    const { callee } = expr
    const of = callee.kind === 'member' ? this.#value(callee.of, scope) : undefined
    const given = expr.args.map((one) => this.#given(one, scope))
    const known =
      callee.kind === 'member' && of
        ? this.#listMethod(callee, of, given, scope)
        : this.#isPython && callee.kind === 'name'
          ? this.#builtIn(callee.name, given, scope)
          : undefined
    if (known) return known
    const target = callee.kind === 'member' && of ? this.#member(of, callee.name) : this.#value(callee, scope)
    switch (target.is) {
      case 'function':
        return this.#call(target.made, target.self, given)
      case 'class':
        return this.#make(target.made, given, expr.at)
      case 'symbol': {
        const owner = of?.is === 'object' ? of.made : undefined
        return this.#emit(target.path, owner, given, expr.at, expr.made)
      }
      case 'either': {
        for (const one of target.options) if (one.is === 'function') this.#call(one.made, one.self, given)
        return unknown('one of several functions')
      }
      case 'object':
        // An object that is called: `pin()` or `pin(1)`.
        return this.#emit(`${target.made.of}.()`, target.made, given, expr.at)
      default: {
        if (of?.is === 'either' && callee.kind === 'member')
          for (const one of of.options)
            if (one.is === 'object') {
              const method = one.made.own && this.#method(one.made.own, callee.name)
              if (method) this.#call(method, one.made, given)
              else this.#emit(`${one.made.of}.${callee.name}`, one.made, given, expr.at)
            }
        return unknown('the result of a call that cannot be followed')
      }
    }
  }

  #given(one: Argument, scope: Scope): GivenValue {
    return { name: one.name, value: this.#value(one.value, scope), at: one.value.at }
  }

  /** What Python brings for lists and numbers. */
  #builtIn(name: string, args: readonly GivenValue[], scope: Scope): Value | undefined {
    if (scope.get(name) || !pythonOwn.has(name)) return undefined
    if (name === 'super') {
      const { self } = scope
      return self ? { is: 'object', made: self, via: [] } : unknown('super')
    }
    const values = args.map((one) => one.value)
    const [first] = values
    const numbers = values.map((one) => (one.is === 'number' ? one.number : undefined))
    if (name === 'range') {
      if (numbers.some((one) => one === undefined) || numbers.length === 0) return unknown('a range without known ends')
      const [a, b, step = 1] = numbers as number[]
      const [from, to] = b === undefined ? [0, a as number] : [a as number, b]
      const items: Value[] = []
      for (let at = from; step > 0 ? at < to : at > to; at += step || 1) {
        items.push({ is: 'number', number: at, hex: false, via: [] })
        if (items.length > MOST_TURNS || step === 0) break
      }
      return { is: 'list', items, via: [] }
    }
    if (name === 'int' || name === 'const') return first ?? unknown(name)
    const lists = values.map((one) => this.#items(one))
    if (lists.some((one) => one === undefined) || !first) return unknown(`${name} of what cannot be followed`)
    const [one = []] = lists as (readonly Value[])[]
    if (name === 'len') return { is: 'number', number: one.length, hex: false, via: [] }
    if (name === 'enumerate')
      return {
        is: 'list',
        items: one.map(
          (item, at): Value => ({
            is: 'list',
            items: [{ is: 'number', number: at, hex: false, via: [] }, item],
            via: [],
          }),
        ),
        via: [],
      }
    if (name === 'zip')
      return {
        is: 'list',
        items: one.map(
          (_, at): Value => ({
            is: 'list',
            items: (lists as (readonly Value[])[]).map((list) => list[at] ?? unknown('a shorter list')),
            via: [],
          }),
        ),
        via: [],
      }
    return { is: 'list', items: name === 'reversed' ? [...one].reverse() : one, via: [] }
  }

  /** Methods of lists and maps. */
  #listMethod(
    callee: Expr & { kind: 'member' },
    of: Value,
    args: readonly GivenValue[],
    scope: Scope,
  ): Value | undefined {
    if (of.is === 'map' && ['items', 'values', 'keys', 'get'].includes(callee.name)) {
      const entries = [...of.entries]
      if (callee.name === 'get') {
        const [key] = args
        return (key?.value.is === 'text' ? of.entries.get(key.value.text) : undefined) ?? unknown('an entry')
      }
      const text = (key: string): Value => ({ is: 'text', text: key, via: [] })
      return {
        is: 'list',
        items: entries.map(
          ([key, value]): Value =>
            callee.name === 'values'
              ? value
              : callee.name === 'keys'
                ? text(key)
                : { is: 'list', items: [text(key), value], via: [] },
        ),
        via: [],
      }
    }
    if (of.is === 'list') {
      if (callee.name === 'size' || callee.name === 'length')
        return { is: 'number', number: of.items.length, hex: false, via: [] }
      if ((callee.name === 'append' || callee.name === 'push_back') && callee.of.kind === 'name') {
        const [item] = args
        if (item) scope.set(callee.of.name, { ...of, items: [...of.items, item.value] })
        return unknown('nothing')
      }
      if (callee.name === 'append' && callee.of.kind === 'member') {
        const [item] = args
        const owner = this.#value(callee.of.of, scope)
        if (item && owner.is === 'object')
          owner.made.fields.set(callee.of.name, { ...of, items: [...of.items, item.value] })
        return unknown('nothing')
      }
    }
    return undefined
  }

  #emit(path: string, of: Made | undefined, args: readonly GivenValue[], at: At, makes = false): Value {
    // A handler that is given away is called by somebody.
    for (const { value } of args)
      if (value.is === 'function' && !this.#done.has(value.made.body)) this.#alone(value.made, value.self)
    const last = path.split('.').at(-1) ?? ''
    const isObject = makes || /^[A-Z]/.test(last)
    const made: Made | undefined = isObject
      ? { of: path, args, at, fields: new Map(), own: undefined, name: undefined }
      : undefined
    this.calls.push({ path, of, args, at, within: [...this.#within], made })
    if (made) return { is: 'object', made, via: [] }
    // What turns a pin into its interrupt is still that pin.
    if (path === 'digitalPinToInterrupt' && args[0]) return args[0].value
    return unknown(`what ${last} gives`)
  }

  #make(one: ClassValue, args: readonly GivenValue[], at: At): Value {
    const made = this.#emptyObject(one, args, at)
    this.#construct(one, made, args)
    return { is: 'object', made, via: [] }
  }

  #emptyObject(one: ClassValue, args: readonly GivenValue[], at: At): Made {
    return { of: one.name, args, at, fields: new Map(), own: one, name: undefined }
  }

  #construct(one: ClassValue, made: Made, args: readonly GivenValue[]): void {
    if (this.#depth > MOST_DEPTH) return
    this.#making.add(one)
    for (const base of one.bases) {
      const known = one.scope.get(base)
      if (known?.is === 'class' && !this.#isPython) this.#fields(known.made, made)
    }
    let given = args
    const templates = one.body.filter((stmt) => stmt.kind === 'declare' && stmt.type === 'template')
    for (const stmt of templates) {
      const [first, ...rest] = given
      if (stmt.kind === 'declare' && first) {
        made.fields.set(stmt.name, named(first.value, stmt.name))
        given = rest
      }
    }
    this.#fields(one, made)
    const name = this.#isPython ? '__init__' : one.name
    const makers = one.body.filter(
      (stmt): stmt is Stmt & { kind: 'function' } => stmt.kind === 'function' && stmt.name === name,
    )
    const maker = makers.find((stmt) => stmt.params.length - (this.#isPython ? 1 : 0) === given.length) ?? makers.at(-1)
    if (maker) {
      this.#call(this.#functionOf(maker, one.scope), made, given)
      return
    }
    if (this.#isPython) {
      for (const base of one.bases) {
        const known = one.scope.get(base)
        if (known?.is === 'class') this.#construct(known.made, made, given)
      }
      return
    }
    // A plain structure: its fields in their order, or by name.
    const fields = one.body.filter((stmt) => stmt.kind === 'declare' && stmt.type !== 'template' && !stmt.fixed)
    given.forEach((arg, index) => {
      const stmt = fields[index]
      const field = arg.name ?? (stmt?.kind === 'declare' ? stmt.name : undefined)
      if (field !== undefined) made.fields.set(field, named(arg.value, field))
    })
  }

  #fields(one: ClassValue, made: Made): void {
    const scope = new Scope(one.scope, made)
    for (const stmt of one.body) {
      if (stmt.kind !== 'declare' || made.fields.has(stmt.name)) continue
      if (this.#isPython && one.statics.has(stmt.name)) continue
      const value = stmt.value ? this.#value(stmt.value, scope) : unknown(`${stmt.name} has no value yet`)
      made.fields.set(stmt.name, named(value, stmt.name))
    }
  }

  #call(one: FunctionValue, self: Made | undefined, args: readonly GivenValue[]): Value {
    this.#done.add(one.body)
    if (this.#depth > MOST_DEPTH || this.steps > MOST_STEPS) return unknown('calls that go too deep')
    const scope = new Scope(one.scope, this.#isPython ? undefined : self)
    let params = one.params
    if (this.#isPython && self && params[0]?.name === 'self') {
      scope.declare('self', { is: 'object', made: self, via: [] })
      params = params.slice(1)
    }
    const byPlace = args.filter((arg) => arg.name === undefined)
    params.forEach((param, index) => {
      const arg = args.find((two) => two.name === param.name) ?? byPlace[index]
      const value =
        arg?.value ?? (param.usual ? this.#value(param.usual, scope) : unknown(`${param.name} is not given`))
      scope.declare(param.name, named(value, param.name))
    })
    this.#depth += 1
    if (self) this.#within.push(self)
    const left = this.#all(one.body, scope)
    if (self) this.#within.pop()
    this.#depth -= 1
    return left?.value ?? unknown(`what ${one.name} gives`)
  }
}

/** A value that got one more name; an object keeps the first that it got, items of a list are told by their number. */
function named(value: Value, name: string): Value {
  if (value.is === 'object') {
    value.made.name ??= name
    return value
  }
  if (value.is === 'list')
    return {
      ...value,
      items: value.items.map((item, at) => (item.is === 'list' ? item : named(item, `${name}[${at}]`))),
    }
  if (value.is === 'either') return { ...value, options: value.options.map((one) => named(one, name)) }
  return value.via.includes(name) ? value : ({ ...value, via: [...value.via, name] } as Value)
}

/** One of several values: the value itself where all are the same. */
function either(values: readonly Value[]): Value {
  const flat = values.flatMap((one) => (one.is === 'either' ? one.options : [one]))
  const seen = new Map<string, Value>()
  for (const one of flat) {
    const key =
      one.is === 'number'
        ? `n${one.number}`
        : one.is === 'symbol'
          ? `s${one.path}`
          : one.is === 'text'
            ? `t${one.text}`
            : one.is === 'unknown'
              ? 'unknown'
              : `o${seen.size} ${one.is}`
    if (!seen.has(key)) seen.set(key, one)
  }
  const options = [...seen.values()]
  const [only] = options
  if (options.length === 1 && only) return only
  if (options.length === 0 || options.length > MOST_OPTIONS) return unknown('a value with many ways')
  return { is: 'either', options, via: [] }
}

/** Names to which statements give values. */
function collectChanged(body: readonly Stmt[], changed: Set<string>): void {
  for (const stmt of body)
    switch (stmt.kind) {
      case 'expression':
        collectInExpr(stmt.value, changed)
        break
      case 'for':
        collectChanged(stmt.body, changed)
        collectChanged(stmt.first, changed)
        if (stmt.step) collectInExpr(stmt.step, changed)
        break
      case 'for-each':
      case 'block':
      case 'function':
      case 'class':
        collectChanged(stmt.body, changed)
        break
      case 'maybe':
        for (const one of stmt.bodies) collectChanged(one, changed)
        break
      case 'declare':
        if (stmt.value) collectInExpr(stmt.value, changed)
        // In Python every assignment reads like this.
        if (stmt.type === undefined && !stmt.fixed) changed.add(stmt.name)
        break
    }
}

function collectInExpr(expr: Expr, changed: Set<string>): void {
  if (expr.kind === 'assign') {
    if (expr.target.kind === 'name') changed.add(expr.target.name)
    collectInExpr(expr.value, changed)
  } else if (expr.kind === 'function') collectChanged(expr.body, changed)
  else if (expr.kind === 'call') for (const { value } of expr.args) collectInExpr(value, changed)
  else if (expr.kind === 'operation' || expr.kind === 'unknown')
    for (const part of expr.parts) collectInExpr(part, changed)
}
