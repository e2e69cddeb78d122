import { collectChanged, collectInExpr } from './changes.ts'
import { Evaluator } from './evaluate.ts'
import type { At, Expr, Param, SourceLanguage, Stmt } from './ir.ts'
import { Return } from './objects.ts'
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
import { either, MOST_STEPS, MOST_TURNS, named, unknown } from './valueTools.ts'

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

class Follower extends Evaluator {
  protected readonly files: readonly ReadFile[]
  protected readonly modules = new Map<string, Scope>()
  protected readonly ran = new Set<ReadFile>()

  constructor(files: readonly ReadFile[], language: SourceLanguage) {
    super(language === 'python')
    this.files = files
  }

  run(): void {
    // Files of a sketch are one program with one set of names; those of Python each have their own.
    const shared = new Scope()
    const scopes = this.files.map(({ module, body }) => {
      const scope = this.isPython ? new Scope() : shared
      this.modules.set(module, scope)
      return { scope, body }
    })
    for (const { scope, body } of scopes) this.hoist(body, scope)
    for (const { module } of this.files) this.runFile(module)
    for (const { scope } of scopes) {
      const setup = scope.get('setup')
      if (setup?.is === 'function' && !this.done.has(setup.made.body)) this.call(setup.made, undefined, [])
    }
    // What functions other than the set-up change is not known in them: they run again and again.
    for (const { scope } of scopes) this.forget(scope)
    // What takes nothing is called by the platform; the others mostly by these.
    for (const one of this.functions) if (one.params.length === 0 && !this.done.has(one.body)) this.alone(one)
    for (const one of this.functions) if (!this.done.has(one.body)) this.alone(one)
    for (const one of [...this.classes]) if (!this.making.has(one)) this.aloneClass(one)
  }

  /** A file runs once, before what imports from it goes on. */
  protected runFile(module: string): void {
    const scope = this.modules.get(module)
    const file = this.files.find((one) => one.module === module)
    if (!scope || !file || this.ran.has(file)) return
    this.ran.add(file)
    this.all(file.body, scope)
  }

  protected aloneClass(one: ClassValue): void {
    const made = this.emptyObject(one, [], { file: 0, from: 0, to: 0 })
    this.making.add(one)
    for (const stmt of one.body) if (stmt.kind === 'function') this.alone(this.functionOf(stmt, one.scope), made)
  }

  /** Functions and classes are known before anything runs, wherever they stand. */
  protected hoist(body: readonly Stmt[], scope: Scope): void {
    const methods: (Stmt & { kind: 'function' })[] = []
    for (const stmt of body) {
      if (stmt.kind === 'function' && stmt.of !== undefined) methods.push(stmt)
      else if (stmt.kind === 'function') {
        const made = this.functionOf(stmt, scope)
        scope.declare(stmt.name, { is: 'function', made, self: undefined, via: [] })
        this.functions.push(made)
      } else if (stmt.kind === 'class') this.declareClass(stmt, scope)
    }
    for (const stmt of methods) {
      const owner = scope.get(stmt.of as string)
      if (owner?.is === 'class') (owner.made.body as Stmt[]).push({ ...stmt, of: undefined })
      else this.functions.push(this.functionOf(stmt, scope))
    }
  }

  protected declareClass(stmt: Stmt & { kind: 'class' }, scope: Scope): void {
    const known = scope.names().get(stmt.name)
    if (known?.is === 'class' && known.made.body.length >= stmt.body.length) return
    const made: ClassValue = {
      name: stmt.name,
      bases: stmt.bases,
      body: [...stmt.body],
      scope,
      statics: new Map(),
    }
    this.classes.push(made)
    scope.declare(stmt.name, { is: 'class', made, via: [] })
    for (const inner of stmt.body) if (inner.kind === 'class') this.declareClass(inner, scope)
  }

  protected forget(scope: Scope): void {
    const changed = new Set<string>()
    for (const one of this.functions) if (one.name !== 'setup') collectChanged(one.body, changed)
    for (const one of this.classes) collectChanged(one.body, changed)
    for (const [name, value] of scope.names())
      if (changed.has(name) && value.is !== 'object' && value.is !== 'function' && value.is !== 'class')
        scope.declare(name, unknown(`${name} changes while the program runs`))
  }

  protected all(body: readonly Stmt[], scope: Scope): Return | undefined {
    for (const stmt of body) {
      const left = this.statement(stmt, scope)
      if (left) return left
    }
    return undefined
  }

  protected statement(stmt: Stmt, scope: Scope): Return | undefined {
    this.steps += 1
    if (this.steps > MOST_STEPS) return undefined
    switch (stmt.kind) {
      case 'declare':
        this.declare(stmt, scope)
        return undefined
      case 'expression':
        this.value(stmt.value, scope)
        return undefined
      case 'block':
        return this.all(stmt.body, this.isPython ? scope : new Scope(scope))
      case 'return':
        return new Return(stmt.value ? this.value(stmt.value, scope) : unknown('nothing is returned'))
      case 'for':
        return this.for(stmt, scope)
      case 'for-each':
        return this.forEach(stmt, scope)
      case 'maybe':
        return this.maybe(stmt, scope)
      case 'import':
        this.import(stmt, scope)
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
          scope.declare(stmt.name, { is: 'function', made: this.functionOf(stmt, scope), self: undefined, via: [] })
        return undefined
      case 'class': {
        if (scope !== scope.file) this.declareClass(stmt, scope)
        const known = scope.get(stmt.name)
        if (known?.is === 'class') this.statics(known.made)
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

  protected statics(one: ClassValue): void {
    const scope = new Scope(one.scope)
    for (const stmt of one.body)
      if (stmt.kind === 'declare' && (this.isPython || stmt.fixed) && stmt.value) {
        const value = named(this.value(stmt.value, scope), `${one.name}.${stmt.name}`)
        scope.declare(stmt.name, value)
        one.statics.set(stmt.name, value)
        this.declared.push({ name: stmt.name, value, at: stmt.at })
      }
  }

  protected declare(stmt: Stmt & { kind: 'declare' }, scope: Scope): void {
    const value = stmt.value ? this.typed(this.value(stmt.value, scope), stmt.type, scope, stmt.at) : undefined
    const known = value ? named(value, stmt.name) : unknown(`${stmt.name} has no value yet`)
    scope.declare(stmt.name, known)
    if (scope === scope.file && value) this.declared.push({ name: stmt.name, value: known, at: stmt.at })
    else if (stmt.fixed && value) this.declared.push({ name: stmt.name, value: known, at: stmt.at })
  }

  /** Braces that are given to an array of structures become structures. */
  protected typed(value: Value, type: string | undefined, scope: Scope, at: At): Value {
    const owner = type === undefined ? undefined : scope.get(type)
    if (owner?.is !== 'class' || value.is !== 'list') return value
    const items = value.items.map((item) => {
      if (item.is !== 'list') return item
      const args = item.items.map((one): GivenValue => ({ name: undefined, value: one, at }))
      return this.make(owner.made, args, at)
    })
    return { ...value, items }
  }

  protected for(stmt: Stmt & { kind: 'for' }, outer: Scope): Return | undefined {
    const scope = new Scope(outer)
    this.all(stmt.first, scope)
    for (let turn = 0; ; turn += 1) {
      const test = stmt.test ? this.value(stmt.test, scope) : unknown('no end')
      const goes = test.is === 'number' ? test.number !== 0 : undefined
      if (goes === false) return undefined
      if (goes === undefined || turn >= MOST_TURNS) {
        this.loosen(stmt.body, scope, stmt.step)
        this.all(stmt.body, new Scope(scope))
        return undefined
      }
      const left = this.all(stmt.body, new Scope(scope))
      if (left) return left
      if (stmt.step) this.value(stmt.step, scope)
      if (this.steps > MOST_STEPS) return undefined
    }
  }

  protected forEach(stmt: Stmt & { kind: 'for-each' }, outer: Scope): Return | undefined {
    const scope = this.isPython ? outer : new Scope(outer)
    const items = this.items(this.value(stmt.over, scope))
    if (!items) this.loosen(stmt.body, scope)
    for (const item of items ?? [unknown('items of a list that cannot be followed')]) {
      this.bind(stmt.names, item, scope)
      const left = this.all(stmt.body, scope)
      if (left) return left
      if (this.steps > MOST_STEPS) return undefined
    }
    return undefined
  }

  /** Values that a body changes are not known while it runs again and again. */
  protected loosen(body: readonly Stmt[], scope: Scope, step?: Expr): void {
    const changed = new Set<string>()
    collectChanged(body, changed)
    if (step) collectInExpr(step, changed)
    for (const name of changed) {
      const value = scope.get(name)
      if (value && value.is !== 'object' && value.is !== 'function')
        scope.set(name, unknown(`${name} changes from turn to turn`))
    }
  }

  protected maybe(stmt: Stmt & { kind: 'maybe' }, scope: Scope): Return | undefined {
    const tests = stmt.tests.map((test) => this.value(test, scope))
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
      const left = this.all(body, this.isPython ? scope : new Scope(scope))
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

  protected import({ module, name, as }: Stmt & { kind: 'import' }, scope: Scope): void {
    const last = module.split('.').at(-1) ?? module
    const own = this.modules.get(last)
    this.runFile(last)
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
}
