import type { At, Expr, Stmt } from './ir.ts'
import type { Call, ClassValue, Declared, FunctionValue, GivenValue, Made, Value, Via } from './values.ts'
import { Scope } from './values.ts'
import { either, MOST_STEPS, named, unknown } from './valueTools.ts'

/** Functions of modules that make objects, though their names are small. */
const makers = new Set(['pigpio.pi'])

/** Deepest nesting of calls. */
const MOST_DEPTH = 12

/** What `return` leaves a body with. */
export class Return {
  readonly value: Value
  constructor(value: Value) {
    this.value = value
  }
}

/** Objects, classes and calls of a program that is followed. */
export abstract class Objects {
  readonly calls: Call[] = []
  readonly declared: Declared[] = []
  readonly unread: At[] = []
  steps = 0
  protected readonly isPython: boolean
  protected readonly done = new Set<FunctionValue['body']>()
  protected readonly making = new Set<ClassValue>()
  protected readonly classes: ClassValue[] = []
  protected readonly functions: FunctionValue[] = []
  protected depth = 0
  protected readonly within: Made[] = []

  constructor(isPython: boolean) {
    this.isPython = isPython
  }

  /** Follows statements one after the other. */
  protected abstract all(body: readonly Stmt[], scope: Scope): Return | undefined

  /** What an expression comes to. */
  protected abstract value(expr: Expr, scope: Scope): Value

  protected functionOf(stmt: Stmt & { kind: 'function' }, scope: Scope): FunctionValue {
    return { name: stmt.name, params: stmt.params, body: stmt.body, at: stmt.at, scope }
  }

  protected method(one: ClassValue, name: string, depth = 0): FunctionValue | undefined {
    for (const stmt of one.body)
      if (stmt.kind === 'function' && stmt.name === name) return this.functionOf(stmt, one.scope)
    if (depth > 5) return undefined
    for (const base of one.bases) {
      const known = one.scope.get(base)
      const found = known?.is === 'class' ? this.method(known.made, name, depth + 1) : undefined
      if (found) return found
    }
    return undefined
  }

  protected member(of: Value, name: string): Value {
    switch (of.is) {
      case 'object': {
        const field = of.made.fields.get(name)
        if (field?.is === 'function') return { ...field, self: of.made }
        if (field) return of.made.name === undefined ? field : named(field, `${of.made.name}.${name}`)
        const method = of.made.own && this.method(of.made.own, name)
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

  protected make(one: ClassValue, args: readonly GivenValue[], at: At): Value {
    const made = this.emptyObject(one, args, at)
    this.construct(one, made, args)
    return { is: 'object', made, via: [] }
  }

  protected emptyObject(one: ClassValue, args: readonly GivenValue[], at: At): Made {
    return { of: one.name, args, at, fields: new Map(), own: one, name: undefined }
  }

  protected construct(one: ClassValue, made: Made, args: readonly GivenValue[]): void {
    if (this.depth > MOST_DEPTH) return
    this.making.add(one)
    for (const base of one.bases) {
      const known = one.scope.get(base)
      if (known?.is === 'class' && !this.isPython) this.fields(known.made, made)
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
    this.fields(one, made)
    const name = this.isPython ? '__init__' : one.name
    const makers = one.body.filter(
      (stmt): stmt is Stmt & { kind: 'function' } => stmt.kind === 'function' && stmt.name === name,
    )
    const maker = makers.find((stmt) => stmt.params.length - (this.isPython ? 1 : 0) === given.length) ?? makers.at(-1)
    if (maker) {
      this.call(this.functionOf(maker, one.scope), made, given)
      return
    }
    if (this.isPython) {
      for (const base of one.bases) {
        const known = one.scope.get(base)
        if (known?.is === 'class') this.construct(known.made, made, given)
      }
      return
    }
    // A plain structure: its fields in their order, or by name.
    const fields = one.body.filter(
      (stmt) => stmt.kind === 'declare' && stmt.type !== 'template' && !(stmt.fixed && stmt.value),
    )
    given.forEach((arg, index) => {
      const stmt = fields[index]
      const field = arg.name ?? (stmt?.kind === 'declare' ? stmt.name : undefined)
      if (field !== undefined) made.fields.set(field, named(arg.value, field))
    })
  }

  protected fields(one: ClassValue, made: Made): void {
    const scope = new Scope(one.scope, made)
    for (const stmt of one.body) {
      if (stmt.kind !== 'declare' || made.fields.has(stmt.name)) continue
      if (this.isPython && one.statics.has(stmt.name)) continue
      const value = stmt.value ? this.value(stmt.value, scope) : unknown(`${stmt.name} has no value yet`)
      made.fields.set(stmt.name, named(value, stmt.name))
    }
  }

  protected setField(made: Made, name: string, value: Value, at: At): void {
    // `A(p)` before a constructor's body, where A is the class that this one is made from.
    const base = made.own?.scope.get(name)
    if (base?.is === 'class' && made.own?.bases.includes(name)) {
      const args = value.is === 'list' ? value.items : [value]
      this.construct(
        base.made,
        made,
        args.map((one): GivenValue => ({ name: undefined, value: one, at })),
      )
      return
    }
    if (!made.own && !made.fields.has(name)) {
      // A property of an object of the platform: `pin.direction = …`.
      this.emit(`${made.of}.${name}=`, made, [{ name: undefined, value, at }], at)
      return
    }
    made.fields.set(name, named(value, name))
  }

  protected call(one: FunctionValue, self: Made | undefined, args: readonly GivenValue[]): Value {
    this.done.add(one.body)
    if (this.depth > MOST_DEPTH || this.steps > MOST_STEPS) return unknown('calls that go too deep')
    const scope = new Scope(one.scope, this.isPython ? undefined : self)
    let params = one.params
    if (this.isPython && self && params[0]?.name === 'self') {
      scope.declare('self', { is: 'object', made: self, via: [] })
      params = params.slice(1)
    }
    const byPlace = args.filter((arg) => arg.name === undefined)
    params.forEach((param, index) => {
      const arg = args.find((two) => two.name === param.name) ?? byPlace[index]
      const value = arg?.value ?? (param.usual ? this.value(param.usual, scope) : unknown(`${param.name} is not given`))
      scope.declare(param.name, named(value, param.name))
    })
    this.depth += 1
    if (self) this.within.push(self)
    const left = this.all(one.body, scope)
    if (self) this.within.pop()
    this.depth -= 1
    // What a function made and named for itself is called as its caller calls it.
    const given = left?.value
    if (given?.is === 'object' && given.made.name !== undefined) {
      const local = scope.names().get(given.made.name)
      const isParam = one.params.some(({ name }) => name === given.made.name)
      if (local?.is === 'object' && local.made === given.made && !isParam) given.made.name = undefined
    }
    return left?.value ?? unknown(`what ${one.name} gives`)
  }

  protected emit(
    path: string,
    of: Made | undefined,
    args: readonly GivenValue[],
    at: At,
    { makes = false, via = [] }: { readonly makes?: boolean; readonly via?: Via } = {},
  ): Value {
    // A handler that is given away is called by somebody.
    for (const { value } of args)
      if (value.is === 'function' && !this.done.has(value.made.body)) this.alone(value.made, value.self)
    const last = path.split('.').at(-1) ?? ''
    const isObject = makes || /^[A-Z]/.test(last) || makers.has(path)
    const made: Made | undefined = isObject
      ? { of: path, args, at, fields: new Map(), own: undefined, name: undefined }
      : undefined
    this.calls.push({ path, of, via, args, at, within: [...this.within], made })
    if (made) return { is: 'object', made, via: [] }
    // What turns a pin into its interrupt is still that pin.
    if (path === 'digitalPinToInterrupt' && args[0]) return args[0].value
    return unknown(`what ${last} gives`)
  }

  /** A function that nobody calls here: a handler, or what the platform calls. */
  protected alone(one: FunctionValue, self?: Made): void {
    const args = one.params.map(
      ({ name }): GivenValue => ({
        name: undefined,
        value: unknown(`${name} is given by whoever calls ${one.name}`),
        at: one.at,
      }),
    )
    this.call(one, self, args)
  }
}
