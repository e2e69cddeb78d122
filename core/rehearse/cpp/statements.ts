import { Idle } from '../idle.ts'
import { Calls } from './calls.ts'
import { type Code, globalCode, localCode } from './code.ts'
import { Halt } from './machine.ts'
import { AGAIN, BREAK, type Exec, type FunctionInfo, GO, RETURN } from './program.ts'
import { valuesOf } from './reachable.ts'
import type { FunctionScope, Local } from './scope.ts'
import type { CaseLabel, Expr, Item, Statement, TypeNode, Variable } from './syntax.ts'
import { SourceError } from './tokens.ts'
import { BOOL, type Type, VOID } from './types.ts'
import { type Get, Ptr, type Value } from './values.ts'

/** Rounds from which a loop may be one that waits for something. */
const LONG = 64

/** Compiles statements. One that is not understood is said, and ends the run where it is reached. */
export abstract class Statements extends Calls {
  protected abstract localItem(item: Item, scope: FunctionScope): void

  protected statement(node: Statement, scope: FunctionScope): Exec {
    try {
      return this.#statement(node, scope)
    } catch (error) {
      if (!(error instanceof SourceError)) throw error
      this.refusals.push({ at: error.at, message: error.message })
      return () => {
        throw new Halt(`the program comes to what is not understood: ${error.message}`, error.at)
      }
    }
  }

  #statement(node: Statement, scope: FunctionScope): Exec {
    const { machine } = this
    const { at } = node
    switch (node.s) {
      case 'empty':
        return () => GO
      case 'block': {
        scope.enter()
        const block = this.#inOrder(node.body, scope)
        scope.leave()
        return block
      }
      case 'group':
        return this.#inOrder(node.body, scope)
      case 'expression': {
        this.alone = node.value
        const { get } = this.expression(node.value, scope)
        return (f) => {
          machine.step(at)
          get(f)
          return GO
        }
      }
      case 'variables': {
        const all = node.variables.map((one) => this.#variable(one, scope))
        const [only] = all
        if (all.length === 1 && only) return only
        return (f) => {
          for (const one of all) one(f)
          return GO
        }
      }
      case 'type':
        this.localItem(node.item, scope)
        return () => GO
      case 'if':
        return this.#if(node, scope)
      case 'while': {
        const asked = this.#asked(node.if, scope)
        const body = this.statement(node.body, scope)
        return this.#loop(at, asked, body, undefined, false)
      }
      case 'do': {
        const body = this.statement(node.body, scope)
        return this.#loop(at, this.#asked(node.if, scope), body, undefined, true)
      }
      case 'for':
        return this.#for(node, scope)
      case 'each':
        return this.#each(node, scope)
      case 'switch':
        return this.#switch(node, scope)
      case 'break':
        return () => BREAK
      case 'continue':
        return () => AGAIN
      case 'return':
        return this.#return(node.value, scope, at)
    }
  }

  #inOrder(body: readonly Statement[], scope: FunctionScope): Exec {
    const all = body.map((one) => this.statement(one, scope))
    const [first, second] = all
    if (!first) return () => GO
    if (!second) return first
    return (f) => {
      for (let at = 0; at < all.length; at += 1) {
        const end = all[at]!(f)
        if (end !== GO) return end
      }
      return GO
    }
  }

  #asked(node: Expr, scope: FunctionScope): Get {
    return this.coerce(this.expression(node, scope), BOOL, node.at, scope).get
  }

  #variable(node: Variable, scope: FunctionScope): Exec {
    const { at, name } = node
    const { machine } = this
    if (node.isStatic) return this.#static(node, scope)
    if (node.isExtern) return () => GO
    const { type: written, byReference } = this.typeOf(node, scope)
    if (byReference) {
      const value = node.value ?? node.args?.[0]
      const code = value
        ? this.expression(value, scope)
        : this.fail(`${name} stands for something else and does not say for what`, at)
      const { slot } = scope.declare(name, code.type, true)
      const ptr = code.place?.ptr
      const made = this.kept(code)
      const get: Get = ptr ?? ((f) => new Ptr([made(f)], 0))
      return (f) => {
        machine.step(at)
        f[slot] = get(f)
        return GO
      }
    }
    const { type, get, known } = this.beginning(written, node, scope, at)
    const isKnown =
      node.isConst && known !== undefined && (type.is === 'int' || type.is === 'bool' || type.is === 'float')
    const { slot } = scope.declare(name, type, false, isKnown ? known : undefined)
    return (f) => {
      machine.step(at)
      f[slot] = get(f)
      return GO
    }
  }

  /** The type of a variable; that of `auto` is the type of what it begins with. */
  protected typeOf(
    node: Pick<Variable, 'type' | 'value' | 'args' | 'name' | 'at'>,
    scope: FunctionScope,
  ): { type: Type; byReference: boolean } {
    const isAuto = (one: Variable['type']): boolean =>
      one.t === 'auto' || ((one.t === 'pointer' || one.t === 'reference') && isAuto(one.to))
    if (!isAuto(node.type)) return this.resolve(node.type, scope, node.at)
    const value = node.value ?? node.args?.[0] ?? this.fail(`${node.name} is auto and begins with nothing`, node.at)
    const { type } = this.expression(value, scope)
    const byReference = node.type.t === 'reference'
    return { type: type.is === 'array' && !byReference ? { is: 'pointer', to: type.of } : type, byReference }
  }

  /** A variable that keeps its value from call to call; it begins when it is first reached. */
  #static(node: Variable, scope: FunctionScope): Exec {
    const { type: written } = this.typeOf(node, scope)
    const { type, get } = this.beginning(written, node, scope, node.at)
    const { globals } = this.machine
    const slot = globals.length
    globals.push(undefined)
    const local: Local = { where: 'global', slot, type, isReference: false }
    scope.name(node.name, local)
    return (f) => {
      if (globals[slot] === undefined) globals[slot] = get(f)
      return GO
    }
  }

  #if(node: Statement & { s: 'if' }, scope: FunctionScope): Exec {
    const { machine } = this
    const { at } = node
    scope.enter()
    const before = node.before ? this.statement(node.before, scope) : undefined
    const asked = this.#asked(node.if, scope)
    const then = this.statement(node.then, scope)
    const other = node.else ? this.statement(node.else, scope) : undefined
    scope.leave()
    return (f) => {
      machine.step(at)
      before?.(f)
      return asked(f) ? then(f) : other ? other(f) : GO
    }
  }

  #loop(at: number, asked: Get | undefined, body: Exec, step: Get | undefined, bodyFirst: boolean): Exec {
    const { machine } = this
    return (f) => {
      let isFirst = bodyFirst
      let rounds = 0
      let idle: Idle | undefined
      for (;;) {
        machine.step(at)
        if (!isFirst && asked && !asked(f)) return GO
        isFirst = false
        const end = body(f)
        if (end === BREAK) return GO
        if (end === RETURN) return RETURN
        if (step) step(f)
        rounds += 1
        if (rounds < LONG) continue
        idle ??= new Idle(machine, () => valuesOf([machine.globals, f]))
        idle.round()
      }
    }
  }

  #for(node: Statement & { s: 'for' }, scope: FunctionScope): Exec {
    scope.enter()
    const before = node.before ? this.statement(node.before, scope) : undefined
    const asked = node.if ? this.#asked(node.if, scope) : undefined
    const step = node.step ? this.expression(node.step, scope).get : undefined
    const body = this.statement(node.body, scope)
    scope.leave()
    const loop = this.#loop(node.at, asked, body, step, false)
    return (f) => {
      before?.(f)
      return loop(f)
    }
  }

  #each(node: Statement & { s: 'each' }, scope: FunctionScope): Exec {
    const { machine } = this
    const { at } = node
    scope.enter()
    const of = node.of.e === 'list' ? this.#listOf(node.of, scope) : this.expression(node.of, scope)
    if (of.type.is === 'struct') {
      scope.leave()
      return this.#walk(node, scope)
    }
    const isReference = node.type.t === 'reference'
    let element: Type
    let array: Get
    if (of.type.is === 'array') {
      element = of.type.of
      array = of.get
    } else if (of.type.is === 'string') {
      element = this.basic.get('char')!
      array = (f) => [...(of.get(f) as string)].map((letter) => letter.charCodeAt(0))
    } else return this.fail('expected an array to go through', at)
    const named = node.type.t === 'reference' ? node.type.to : node.type
    const type = named.t === 'auto' ? element : this.type(named, scope, at)
    const { slot } = scope.declare(node.name, isReference ? element : type, isReference)
    const turned = this.coerce({ type: element, get: (f) => f[slot], isShared: true }, type, at, scope)
    const own = this.kept(turned)
    const body = this.statement(node.body, scope)
    scope.leave()
    return (f) => {
      const values: Value[] = array(f)
      for (let index = 0; index < values.length; index += 1) {
        machine.step(at)
        if (isReference) f[slot] = new Ptr(values, index)
        else {
          f[slot] = values[index]
          f[slot] = own(f)
        }
        const end = body(f)
        if (end === BREAK) break
        if (end === RETURN) return RETURN
      }
      return GO
    }
  }

  /** Through a thing of a class: from its `begin()` to its `end()` (ISO C++17, 9.5.4). */
  #walk({ name, type, of, body, at }: Statement & { s: 'each' }, scope: FunctionScope): Exec {
    const place = `${name}<${at}>`
    const call = (method: string): Expr => ({
      e: 'call',
      of: { e: 'member', of, name: method, arrow: false, owner: undefined, at },
      args: [],
      at,
    })
    const here: Expr = { e: 'name', name: place, at }
    const variable = (named: string, as: TypeNode, value: Expr): Statement => ({
      s: 'variables',
      variables: [
        { name: named, type: as, isStatic: false, isConst: false, isExtern: false, value, args: undefined, at },
      ],
      at,
    })
    return this.#for(
      {
        s: 'for',
        before: variable(place, { t: 'auto' }, call('begin')),
        if: { e: 'binary', op: '!=', a: here, b: call('end'), at },
        step: { e: 'step', op: '++', before: true, of: here, at },
        body: { s: 'block', body: [variable(name, type, { e: 'unary', op: '*', of: here, at }), body], at },
        at,
      },
      scope,
    )
  }

  #listOf(list: Expr & { e: 'list' }, scope: FunctionScope): Code {
    const [first] = list.items
    if (!first) return this.fail('an empty list has no type', list.at)
    const { type } = this.expression(first, scope)
    return this.beginning(
      { is: 'array', of: type.is === 'array' ? { is: 'pointer', to: type.of } : type, length: -1 },
      { value: list, args: undefined },
      scope,
      list.at,
    )
  }

  #switch(node: Statement & { s: 'switch' }, scope: FunctionScope): Exec {
    const { machine } = this
    const { at } = node
    scope.enter()
    const of = this.expression(node.of, scope)
    if (of.type.is !== 'int' && of.type.is !== 'bool') this.fail('switch wants a whole number', at)
    const places = new Map<Value, number>()
    let otherwise = -1
    const all: Exec[] = []
    const isLabel = (one: Statement | CaseLabel): one is CaseLabel => one.s === 'case'
    for (const one of node.body) {
      if (!isLabel(one)) all.push(this.statement(one, scope))
      else if (one.value === undefined) otherwise = all.length
      else {
        const { known } = this.coerce(this.expression(one.value, scope), of.type, one.at, scope)
        if (known === undefined) this.fail('expected a number that is known before the program runs after case', one.at)
        if (places.has(known)) this.fail(`case ${known} stands here twice`, one.at)
        places.set(known, all.length)
      }
    }
    scope.leave()
    const { get } = of
    return (f) => {
      machine.step(at)
      const from = places.get(get(f)) ?? otherwise
      if (from < 0) return GO
      for (let index = from; index < all.length; index += 1) {
        const end = all[index]!(f)
        if (end === BREAK) return GO
        if (end !== GO) return end
      }
      return GO
    }
  }

  #return(value: Expr | undefined, scope: FunctionScope, at: number): Exec {
    const { machine } = this
    if (!value)
      return () => {
        machine.step(at)
        machine.ret = undefined
        return RETURN
      }
    const { returns } = scope
    if (returns?.byReference) {
      const { place } = this.expression(value, scope)
      const ptr = place?.ptr ?? this.fail('expected something that lies somewhere', at)
      return (f) => {
        machine.step(at)
        machine.ret = ptr(f)
        return RETURN
      }
    }
    let get: Get
    if (returns && returns.type.is !== 'void')
      get = this.beginning(returns.type, { value, args: undefined }, scope, at).get
    else {
      const code = this.expression(value, scope)
      if (!returns)
        scope.returns = {
          type: code.type.is === 'array' ? { is: 'pointer', to: code.type.of } : code.type,
          byReference: false,
        }
      get = this.kept(code)
    }
    return (f) => {
      machine.step(at)
      const now = get(f)
      machine.ret = now
      return RETURN
    }
  }

  protected override compileBody(info: FunctionInfo, scope: FunctionScope): void {
    const { node, params } = info
    if (info.returns) scope.returns = { type: info.returns, byReference: info.returnsReference }
    for (const param of params)
      scope.declare(param.name === '' ? ` ${param.name}` : param.name, param.type, param.byReference)
    const first = this.firsts(info, scope)
    const body = node.body ? this.statement(node.body, scope) : undefined
    info.returns ??= scope.returns?.type ?? VOID
    info.size = scope.size
    info.run = body
      ? first
        ? (f) => {
            first(f)
            return body(f)
          }
        : body
      : () => GO
  }

  /** What a constructor does before its body. */
  protected abstract firsts(info: FunctionInfo, scope: FunctionScope): ((f: Value[]) => void) | undefined

  protected globalCodeOf(local: Local): Code {
    return globalCode(local.type, this.machine.globals, local.slot)
  }

  protected localCodeOf(local: Local): Code {
    return localCode(local.type, local.slot)
  }
}
