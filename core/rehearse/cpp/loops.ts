import { Idle } from '../idle.ts'
import type { Code } from './code.ts'
import { OwnCalls } from './ownCalls.ts'
import { BREAK, type Exec, GO, RETURN } from './program.ts'
import { valuesOf } from './reachable.ts'
import type { FunctionScope } from './scope.ts'
import type { Expr, Statement, TypeNode } from './syntax.ts'
import { BOOL, type Type } from './types.ts'
import { type Get, Ptr, type Value } from './values.ts'

/** Rounds from which a loop may be one that waits for something. */
const LONG = 64

/** Compiles what goes round: by a condition, by a counter, through an array, through a thing of a class. */
export abstract class Loops extends OwnCalls {
  protected abstract statement(node: Statement, scope: FunctionScope): Exec

  protected asked(node: Expr, scope: FunctionScope): Get {
    return this.coerce(this.expression(node, scope), BOOL, node.at, scope).get
  }

  protected loop(at: number, asked: Get | undefined, body: Exec, step: Get | undefined, bodyFirst: boolean): Exec {
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

  protected forLoop(node: Statement & { s: 'for' }, scope: FunctionScope): Exec {
    scope.enter()
    const before = node.before ? this.statement(node.before, scope) : undefined
    const asked = node.if ? this.asked(node.if, scope) : undefined
    const step = node.step ? this.expression(node.step, scope).get : undefined
    const body = this.statement(node.body, scope)
    scope.leave()
    const loop = this.loop(node.at, asked, body, step, false)
    return (f) => {
      before?.(f)
      return loop(f)
    }
  }

  protected eachLoop(node: Statement & { s: 'each' }, scope: FunctionScope): Exec {
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
    return this.forLoop(
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
}
