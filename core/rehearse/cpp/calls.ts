import type { Code } from './code.ts'
import { NativeCalls } from './nativeCalls.ts'
import { fittest, isExact, methodsOf } from './overloads.ts'
import type { FunctionInfo } from './program.ts'
import type { FunctionScope } from './scope.ts'
import type { Expr, TypeNode } from './syntax.ts'
import { type Parameter, type StructType, sameType, type Type, typeWords, VOID } from './types.ts'
import { Callable, type Frame, type Get, Ptr, type Struct, type Value } from './values.ts'

/** Compiles calls: of functions, methods, lambdas, of what the platform gives. */
export abstract class Calls extends NativeCalls {
  protected abstract compileBody(info: FunctionInfo, scope: FunctionScope): void
  protected abstract fromTemplate(
    name: string,
    given: readonly (Type | number)[],
    args: readonly Code[],
    self?: StructType,
  ): FunctionInfo | undefined

  protected override call(node: Expr & { e: 'call' }, scope: FunctionScope): Code {
    const { of, at } = node
    if (of.e === 'member') return this.#method(of, node.args, scope)
    if (of.e === 'name') {
      const named = this.#named(of, node.args, scope, at)
      if (named) return named
    }
    const code = this.expression(of, scope)
    if (code.type.is === 'function') return this.#callable(code, node.args, scope, at)
    if (code.type.is === 'struct') {
      const args = node.args.map((one) => this.expression(one, scope))
      const own = this.methodOf(code.type.struct, 'operator()', args)
      if (own) return this.invoke(own, code.get, node.args, args, scope, at)
    }
    return this.fail(`${typeWords(code.type)} cannot be called`, at)
  }

  #named(of: Expr & { e: 'name' }, args: readonly Expr[], scope: FunctionScope, at: number): Code | undefined {
    const { name } = of
    if (scope.find(name)) return undefined
    const codes = args.map((one) => this.expression(one, scope))
    const { self } = scope
    if (self) {
      const own = this.methodOf(self, name, codes, this.#given(of.args, scope, at))
      if (own) return this.invoke(own, own.isStatic ? undefined : (f) => f[0], args, codes, scope, at)
      if (self.fields.some((field) => field.name === name)) return undefined
    }
    // `Base::go()`, `Lamp::count()`.
    const cut = name.lastIndexOf('::')
    if (cut > 0) {
      const type = this.typeNamed(name.slice(0, cut), scope)
      if (type?.is === 'struct') {
        const own = this.methodOf(type.struct, name.slice(cut + 2), codes)
        if (own)
          return this.invoke(
            { ...own, isVirtual: false },
            own.isStatic ? undefined : (f) => f[0],
            args,
            codes,
            scope,
            at,
            own,
          )
      }
      if (type?.is === 'native')
        return this.nativeCall(
          this.library.classes.get(type.name)?.methods[name.slice(cut + 2)],
          undefined,
          name,
          args,
          codes,
          scope,
          at,
        )
    }
    if (this.globals.has(name)) return undefined
    const bare = name.replace(/^std::|^::/, '')
    const known = this.spaced(name, bare, scope).flatMap((one) => this.functions.get(one) ?? [])
    const chosen = fittest(known, codes, this.library.widths.int)
    if (chosen && (isExact(chosen, codes, this.library.widths.int) || !this.templates.has(name)))
      return this.invoke(chosen, undefined, args, codes, scope, at)
    const given = this.#given(of.args, scope, at)
    const made =
      this.fromTemplate(name, given, codes) ??
      // Of a namespace a template is known by its last name, as a type is.
      (name.includes('::') ? this.fromTemplate(name.slice(name.lastIndexOf('::') + 2), given, codes) : undefined)
    if (made) return this.invoke(made, undefined, args, codes, scope, at)
    if (chosen) return this.invoke(chosen, undefined, args, codes, scope, at)
    if (known.length > 0) return this.fail(`${name} is not made for ${wordsOf(codes)}`, at)
    const native = this.library.functions.get(name) ?? this.library.functions.get(bare)
    if (native) return this.nativeCall(native, undefined, name, args, codes, scope, at)
    if (bare === 'sprintf' || bare === 'snprintf') return this.printedInto(bare, codes, at)
    if (this.typeNamed(name, scope) || this.library.classes.has(name) || this.unknown.has(name))
      return this.expression({ e: 'make', type: { t: 'name', name }, args, at }, scope)
    return this.fail(`nothing that is called ${name} is known here`, at)
  }

  #method(of: Expr & { e: 'member' }, args: readonly Expr[], scope: FunctionScope): Code {
    const { at, name } = of
    const owner = this.expression(of.of, scope)
    const codes = args.map((one) => this.expression(one, scope))
    const object = this.objectOf(owner, at)
    if (object) {
      const asked = of.owner === undefined ? undefined : this.typeNamed(of.owner, scope)
      const given = this.#given(of.args, scope, at)
      const own = this.methodOf(asked?.is === 'struct' ? asked.struct : object.struct, name, codes, given)
      if (own) {
        // Named with its class it is that one, whatever the object really is.
        const known = of.owner === undefined ? own : { ...own, isVirtual: false }
        return this.invoke(known, own.isStatic ? undefined : object.get, args, codes, scope, at, own)
      }
      const field = object.struct.fields.findIndex((one) => one.name === name)
      if (field >= 0) return this.#callable(this.fieldOf(object.struct, field, object.get, at), args, scope, at)
      const isThere = methodsOf(object.struct, name).length > 0
      return this.fail(
        isThere
          ? `${name} of ${object.struct.name} is not made for ${wordsOf(codes)}`
          : `${object.struct.name} has no ${name}`,
        at,
      )
    }
    if (owner.type.is === 'string') return this.textMethod(owner, name, codes, at)
    const { type } = owner
    const native =
      type.is === 'native' ? type.name : type.is === 'pointer' && type.to.is === 'native' ? type.to.name : undefined
    if (native !== undefined) {
      const get: Get = type.is === 'pointer' ? (f) => deref(owner.get(f)) : owner.get
      const known = this.library.classes.get(native)
      const method = known?.methods[name]
      if (known && !method) return this.fail(`${native} has no ${name} that is known here`, at)
      return this.nativeCall(method, get, `${native}.${name}`, args, codes, scope, at)
    }
    if (type.is === 'array' && ARRAY_METHODS.has(name)) return this.arrayMethod(owner, name, codes, at)
    return this.fail(`${typeWords(type)} has no ${name}`, at)
  }

  /** What stands between the angle brackets of a call. */
  #given(args: readonly (TypeNode | Expr)[] | undefined, scope: FunctionScope, at: number): (Type | number)[] {
    return (args ?? []).map((one) => ('e' in one ? this.number(one, scope) : this.type(one, scope, at)))
  }

  protected methodOf(
    struct: StructType,
    name: string,
    args: readonly Code[],
    given: readonly (Type | number)[] = [],
  ): FunctionInfo | undefined {
    const chosen = given.length > 0 ? undefined : fittest(methodsOf(struct, name), args, this.library.widths.int)
    if (chosen && isExact(chosen, args, this.library.widths.int)) return chosen
    // What leaves its types open fits better than what has to turn an argument into another type.
    return this.fromTemplate(name, given, args, struct) ?? chosen
  }

  /** Arguments as a function wants them, those that are left out by what it says. */
  protected argumentsFor(
    params: readonly Parameter[],
    args: readonly Expr[],
    codes: readonly Code[],
    scope: FunctionScope,
    at: number,
  ): Get[] {
    return params.map((param, index) => {
      const node = args[index] ?? param.otherwise
      if (!node) return this.fail(`argument ${index + 1} is missing`, at)
      if (node.e === 'list' && !param.byReference)
        return this.beginning(param.type, { value: node, args: undefined }, scope, at).get
      const code = codes[index] ?? this.expression(node, this.outside)
      if (param.byReference) {
        const { place } = code
        if (place && sameType(code.type, param.type)) return place.ptr
        if (place && code.type.is === 'struct') return place.ptr
        const made =
          node.e === 'list'
            ? this.beginning(param.type, { value: node, args: undefined }, scope, at).get
            : this.coerce(code, param.type, at, scope).get
        return (f) => new Ptr([made(f)], 0)
      }
      return this.kept(this.coerce(code, param.type, at, scope))
    })
  }

  protected invoke(
    info: FunctionInfo,
    self: Get | undefined,
    args: readonly Expr[],
    codes: readonly Code[],
    scope: FunctionScope,
    at: number,
    really = info,
  ): Code {
    const gets = this.argumentsFor(info.params, args, codes, scope, at)
    const { machine } = this
    const count = gets.length
    const isVirtual = info.isVirtual && self !== undefined
    const name = info.name
    const get: Get = (f) => {
      const frame: Frame = new Array(really.size)
      let called = really
      if (self) {
        const object: Struct = self(f)
        frame[0] = object
        if (isVirtual) called = this.virtualOf(object.type, name, info)
      }
      for (let index = 0; index < count; index += 1) frame[index + 1] = gets[index]!(f)
      machine.enter(at, name)
      machine.ret = undefined
      called.run(frame)
      machine.depth -= 1
      return machine.ret
    }
    const returns = info.returns ?? really.returns ?? VOID
    if (!info.returnsReference) return { type: returns, get }
    return {
      type: returns,
      get: (f) => {
        const ptr: Ptr = get(f)
        return ptr.base[ptr.at]
      },
      place: {
        ptr: get,
        set: (f, value) => {
          const ptr: Ptr = get(f)
          ptr.base[ptr.at] = value
        },
      },
      isShared: true,
    }
  }

  readonly #virtuals = new Map<string, FunctionInfo>()

  /** The method of what an object really is. */
  protected virtualOf(type: StructType, name: string, like: FunctionInfo): FunctionInfo {
    const key = `${type.name} ${name} ${like.params.map((one) => typeWords(one.type)).join()}`
    let found = this.#virtuals.get(key)
    if (!found) {
      found =
        methodsOf(type, name).find(
          (one) =>
            one.params.length === like.params.length &&
            one.params.every((param, at) => sameType(param.type, like.params[at]!.type)),
        ) ?? like
      this.#virtuals.set(key, found)
    }
    return found
  }

  #callable(code: Code, args: readonly Expr[], scope: FunctionScope, at: number): Code {
    if (code.type.is !== 'function') return this.fail(`${typeWords(code.type)} cannot be called`, at)
    const { returns, params } = code.type
    const codes = args.map((one) => this.expression(one, scope))
    if (args.length > params.length)
      this.fail(`${args.length} arguments for a function that takes ${params.length}`, at)
    const gets = this.argumentsFor(params, args, codes, scope, at)
    const { machine } = this
    return {
      type: returns,
      get: (f) => {
        const called: Callable | null = code.get(f)
        if (!called) return machine.nothing(at)
        return called.call(gets.map((get) => get(f)))
      },
    }
  }

  protected override functionValue(info: FunctionInfo, at: number): Code {
    const type: Type = { is: 'function', returns: info.returns ?? VOID, params: info.params }
    if (!info.value) {
      info.value = new Callable(info.name, (args) => this.run(info, undefined, args, at))
      this.canBeHeld(info, info.value)
    }
    const { value } = info
    return { type, get: () => value }
  }

  /** Lets a function that waits be begun as a task. */
  protected abstract canBeHeld(info: FunctionInfo, value: Callable): void

  /** Calls a function from outside. */
  run(info: FunctionInfo, self: Struct | undefined, args: readonly Value[], at = info.node.at): Value {
    const frame: Frame = new Array(info.size)
    frame[0] = self
    for (let index = 0; index < info.params.length; index += 1) frame[index + 1] = args[index]
    this.machine.enter(at, info.name)
    this.machine.ret = undefined
    info.run(frame)
    this.machine.depth -= 1
    return this.machine.ret
  }
}

const ARRAY_METHODS: ReadonlySet<string> = new Set(['size', 'fill', 'begin', 'end', '__add', '__keep'])

export const deref = (ptr: Ptr | null): Value => (ptr instanceof Ptr ? ptr.base[ptr.at] : ptr)

export const wordsOf = (codes: readonly Code[]): string =>
  codes.length === 0 ? 'no arguments' : codes.map(({ type }) => typeWords(type)).join(', ')
