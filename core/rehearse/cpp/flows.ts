import { Objects } from './objects.ts'
import { BREAK, type Exec, type Flow, type FunctionInfo, GO, RETURN, type Wait } from './program.ts'
import { FunctionScope } from './scope.ts'
import type { Expr, Statement } from './syntax.ts'
import { BOOL } from './types.ts'
import type { Callable, Frame, Get } from './values.ts'

type Asks = (frame: Frame) => Generator<Wait, boolean, void>

/** A function compiled so that it can be held, and the places that a call of it takes. */
interface Held {
  size: number
  run: Flow
}

/**
 * Compiles functions that run as tasks: where one waits, straight or in a function that it calls as a statement, it hands
 * over to the others and goes on later. What waits deeper inside of a value waits as it does elsewhere, and holds the
 * program up meanwhile.
 */
export abstract class Flows extends Objects {
  readonly #held = new Map<FunctionInfo, Held>()
  readonly #waiting = new Map<FunctionInfo, boolean>()

  protected override canBeHeld(info: FunctionInfo, value: Callable): void {
    if (!info.node.body || !this.library.waited) return
    value.begin = (args) => {
      const held = this.#heldOf(info)
      const frame: Frame = new Array(held.size)
      for (let index = 0; index < info.params.length; index += 1) frame[index + 1] = args[index]
      return held.run(frame)
    }
  }

  #heldOf(info: FunctionInfo): Held {
    const known = this.#held.get(info)
    if (known) return known
    const held: Held = {
      size: 0,
      run: plain(() => GO),
    }
    this.#held.set(info, held)
    const scope = new FunctionScope(undefined)
    if (info.returns) scope.returns = { type: info.returns, byReference: info.returnsReference }
    for (const param of info.params) scope.declare(param.name || ' ', param.type, param.byReference)
    held.run = this.#flow(info.node.body!, scope)
    held.size = scope.size
    return held
  }

  #flow(node: Statement, scope: FunctionScope): Flow {
    if (!this.#waitsIn(node)) return plain(this.statement(node, scope))
    const { machine } = this
    const { at } = node
    switch (node.s) {
      case 'block':
      case 'group': {
        if (node.s === 'block') scope.enter()
        const all = node.body.map((one) => this.#flow(one, scope))
        if (node.s === 'block') scope.leave()
        return function* (f) {
          for (const one of all) {
            const end = yield* one(f)
            if (end !== GO) return end
          }
          return GO
        }
      }
      case 'expression':
        return (
          this.#called(node.value, scope) ?? this.#after(this.#waitsOf(node.value, scope), this.statement(node, scope))
        )
      case 'variables': {
        const values = node.variables.flatMap(({ value, args = [] }) => [...(value ? [value] : []), ...args])
        return this.#after(
          values.flatMap((one) => this.#waitsOf(one, scope)),
          this.statement(node, scope),
        )
      }
      case 'return':
        return this.#after(node.value ? this.#waitsOf(node.value, scope) : [], this.statement(node, scope))
      case 'if': {
        scope.enter()
        const before = node.before ? this.#flow(node.before, scope) : undefined
        const asked = this.#asks(node.if, scope)
        const then = this.#flow(node.then, scope)
        const other = node.else ? this.#flow(node.else, scope) : undefined
        scope.leave()
        return function* (f) {
          machine.step(at)
          if (before) yield* before(f)
          if (yield* asked(f)) return yield* then(f)
          return other ? yield* other(f) : GO
        }
      }
      case 'while':
      case 'do':
        return this.#round(at, this.#asks(node.if, scope), this.#flow(node.body, scope), undefined, node.s === 'do')
      case 'for': {
        scope.enter()
        const before = node.before ? this.#flow(node.before, scope) : undefined
        const asked = node.if ? this.#asks(node.if, scope) : undefined
        const step = node.step ? this.expression(node.step, scope).get : undefined
        const loop = this.#round(at, asked, this.#flow(node.body, scope), step, false)
        scope.leave()
        return function* (f) {
          if (before) yield* before(f)
          return yield* loop(f)
        }
      }
      default:
        return plain(this.statement(node, scope))
    }
  }

  #round(at: number, asked: Asks | undefined, body: Flow, step: Get | undefined, bodyFirst: boolean): Flow {
    const { machine } = this
    return function* (f) {
      let isFirst = bodyFirst
      for (;;) {
        machine.step(at)
        if (!isFirst && asked && !(yield* asked(f))) return GO
        isFirst = false
        const end = yield* body(f)
        if (end === BREAK) return GO
        if (end === RETURN) return RETURN
        if (step) step(f)
      }
    }
  }

  /** A condition, after what it waits for. */
  #asks(node: Expr, scope: FunctionScope): Asks {
    const waits = this.#waitsOf(node, scope)
    const { get } = this.coerce(this.expression(node, scope), BOOL, node.at, scope)
    const { waited } = this.library
    return function* (f) {
      for (const wait of waits) yield wait(f)
      waited?.(waits.length)
      const truth = Boolean(get(f))
      waited?.(0)
      return truth
    }
  }

  /** A statement, after what its values wait for. */
  #after(waits: readonly ((f: Frame) => Wait)[], run: Exec): Flow {
    const { waited } = this.library
    return function* (f) {
      for (const wait of waits) yield wait(f)
      waited?.(waits.length)
      const end = run(f)
      waited?.(0)
      return end
    }
  }

  /** A call of a function of the program that waits itself, as a statement of its own. */
  #called(node: Expr, scope: FunctionScope): Flow | undefined {
    if (node.e !== 'call' || node.of.e !== 'name') return undefined
    const info = this.#ownOf(node.of.name)
    if (!info || !this.#waitsInside(info)) return undefined
    const codes = node.args.map((one) => this.expression(one, scope))
    const gets = this.argumentsFor(info.params, node.args, codes, scope, node.at)
    const held = this.#heldOf(info)
    const { machine } = this
    return function* (f) {
      machine.step(node.at)
      const frame: Frame = new Array(held.size)
      for (let index = 0; index < gets.length; index += 1) frame[index + 1] = gets[index]!(f)
      yield* held.run(frame)
      return GO
    }
  }

  #ownOf(name: string): FunctionInfo | undefined {
    const all = this.functions.get(name) ?? []
    return all.length === 1 ? all[0] : undefined
  }

  /** What the calls in a value wait for, in the order in which they are written. */
  #waitsOf(node: Expr, scope: FunctionScope): ((f: Frame) => Wait)[] {
    return callsIn(node).flatMap((call) => {
      const waits =
        call.of.e === 'name' && !this.functions.has(call.of.name)
          ? this.library.functions.get(call.of.name)?.waits
          : undefined
      if (!waits) return []
      const gets = call.args.map((one) => this.expression(one, scope).get)
      return [(f: Frame): Wait => waits(gets.map((get) => get(f)))]
    })
  }

  #waitsIn(node: Statement | Expr): boolean {
    return callsIn(node).some(({ of }) => {
      if (of.e !== 'name') return false
      const own = this.#ownOf(of.name)
      return own ? this.#waitsInside(own) : this.library.functions.get(of.name)?.waits !== undefined
    })
  }

  #waitsInside(info: FunctionInfo): boolean {
    const known = this.#waiting.get(info)
    if (known !== undefined) return known
    // Of functions that call each other the first answer is that of the rest.
    this.#waiting.set(info, false)
    const waits = info.node.body !== undefined && this.#waitsIn(info.node.body)
    this.#waiting.set(info, waits)
    return waits
  }
}

const plain = (run: Exec): Flow =>
  // biome-ignore lint/correctness/useYield: it is one of those that are held, and never is itself
  function* (f) {
    return run(f)
  }

type Call = Expr & { e: 'call' }

/** Calls inside of a piece of a program, but for those in functions that it only names; the arguments before the call. */
function callsIn(node: unknown): Call[] {
  if (Array.isArray(node)) return node.flatMap(callsIn)
  if (typeof node !== 'object' || node === null || ('e' in node && node.e === 'lambda')) return []
  const inside = Object.values(node).flatMap(callsIn)
  return 'e' in node && node.e === 'call' ? [...inside, node as Call] : inside
}
