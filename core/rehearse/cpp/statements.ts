import { type Code, globalCode, localCode } from './code.ts'
import { Loops } from './loops.ts'
import { Halt } from './machine.ts'
import { AGAIN, BREAK, type Exec, type FunctionInfo, GO, RETURN } from './program.ts'
import type { FunctionScope, Local } from './scope.ts'
import type { CaseLabel, Expr, Item, Statement, Variable } from './syntax.ts'
import { SourceError } from './tokens.ts'
import { type Type, VOID } from './types.ts'
import { type Get, Ptr, type Value } from './values.ts'

/** Compiles statements. One that is not understood is said, and ends the run where it is reached. */
export abstract class Statements extends Loops {
  protected abstract localItem(item: Item, scope: FunctionScope): void

  protected override statement(node: Statement, scope: FunctionScope): Exec {
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
        const asked = this.asked(node.if, scope)
        const body = this.statement(node.body, scope)
        return this.loop(at, asked, body, undefined, false)
      }
      case 'do': {
        const body = this.statement(node.body, scope)
        return this.loop(at, this.asked(node.if, scope), body, undefined, true)
      }
      case 'for':
        return this.forLoop(node, scope)
      case 'each':
        return this.eachLoop(node, scope)
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
    const asked = this.asked(node.if, scope)
    const then = this.statement(node.then, scope)
    const other = node.else ? this.statement(node.else, scope) : undefined
    scope.leave()
    return (f) => {
      machine.step(at)
      before?.(f)
      return asked(f) ? then(f) : other ? other(f) : GO
    }
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
