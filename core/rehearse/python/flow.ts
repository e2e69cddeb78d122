import { BREAK, GO, RETURN } from '../cpp/program.ts'
import { SourceError } from '../cpp/tokens.ts'
import { attribute, getAttribute, invoke, invokeHeld, Waiting } from './attributes.ts'
import { bind, delegated, generatorOf, none, nothingFirst, withSlot } from './calling.ts'
import type { Exec, Flow, Get } from './expressions.ts'
import { declareNames, hasYield, mayWait } from './names.ts'
import { isTrue, iterate } from './protocols.ts'
import { type PyFrame, PyScope } from './scope.ts'
import { PyStatements } from './statements.ts'
import type { PyExpr, PyFunctionNode, PyStmt } from './syntax.ts'
import { type Py, PyError, PyFunction, PyIterator } from './values.ts'

/** Functions, and statements that may stop in their middle: those of generators and tasks. */
export class PythonCompiler extends PyStatements {
  /** What is compiled now runs in a thread: wherever it calls something it may wait. */
  #isHeld = false

  /** Makes a function where its definition is reached. */
  protected override functionOf(node: PyFunctionNode, scope: PyScope): Get {
    const machine = this.machine
    const inner = new PyScope('function', scope, scope.kind === 'class' ? scope.home : undefined)
    for (const { name } of node.params) inner.declare(name)
    for (const one of node.body) declareNames(one, inner)
    const stops = node.isAsync || node.body.some(hasYield)
    const { params, name } = node
    const defaults = params.map(({ otherwise }) => otherwise && this.get(otherwise, scope))
    const wasHeld = this.#isHeld
    this.#isHeld = false
    const body = stops ? undefined : this.block(node.body, inner)
    const flow = stops ? this.flowBlock(node.body, inner) : undefined
    this.#isHeld = wasHeld
    const inClass = scope.kind === 'class'
    const held = stops ? undefined : this.#heldOf(node, inner)
    const wants = params.filter(({ kind, otherwise }) => kind === 'plain' && !otherwise).length
    return (f) => {
      const outer = inClass ? f.up : f
      const kept = defaults.map((one) => one?.(f))
      const made = new PyFunction(
        name,
        (args, named) => {
          const v: Py[] = new Array(inner.size)
          bind(name, params, kept, args, named, v)
          const frame: PyFrame = { v, up: outer }
          if (flow) return generatorOf(flow(frame), node.isAsync ? 'coroutine' : 'generator', () => this.ret)
          machine.enter(machine.at, name)
          this.ret = null
          const end = body!(frame)
          machine.depth -= 1
          const value = end === RETURN ? this.ret : null
          this.ret = null
          return value
        },
        'plain',
        wants,
        'reads',
      )
      made.home = { globals: this.globals, frame: outer, kept }
      if (held)
        made.held = (args, named) => {
          const flow = held()
          const v: Py[] = new Array(inner.size)
          bind(name, params, kept, args, named, v)
          return generatorOf(flow({ v, up: outer }), 'coroutine', () => this.ret)
        }
      return made
    }
  }

  /** A function as a thread runs it, compiled when a thread first comes there. */
  #heldOf(node: PyFunctionNode, inner: PyScope): () => Flow {
    let flow: Flow | undefined
    return () => {
      if (flow) return flow
      this.#isHeld = true
      try {
        flow = this.flowBlock(node.body, inner)
      } finally {
        this.#isHeld = false
      }
      return flow
    }
  }

  protected flowBlock(body: readonly PyStmt[], scope: PyScope): Flow {
    const isFlow = body.map((one) => hasYield(one) || (this.#isHeld && mayWait(one)))
    const all = body.map((one, at) => (isFlow[at] ? this.flowOf(one, scope) : this.guarded(one, scope)))
    return function* (f) {
      for (let at = 0; at < all.length; at += 1) {
        const end: number = isFlow[at] ? yield* (all[at] as Flow)(f) : (all[at] as Exec)(f)
        if (end !== GO) return end
      }
      return GO
    }
  }

  /** A statement in whose middle something is given out or waited for. */
  protected flowOf(node: PyStmt, scope: PyScope): Flow {
    const machine = this.machine
    const { at } = node
    const lifted = (value: PyExpr): { first: (f: PyFrame) => Generator<Py, void, Py>; get: Get } =>
      this.lifted(value, scope)
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
        const puts = node.targets.map((target) => this.putOf(target, scope))
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
        const change = this.changeOf(
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
          self.ret = get(f)
          return RETURN
        }
      }
      case 'if': {
        const { first, get } = lifted(node.if)
        const [yes, no] = [this.flowBlock(node.yes, scope), this.flowBlock(node.else, scope)]
        return function* (f) {
          machine.step(at)
          yield* first(f)
          return isTrue(get(f)) ? yield* yes(f) : yield* no(f)
        }
      }
      case 'while': {
        const { first, get } = lifted(node.if)
        const [body, other] = [this.flowBlock(node.body, scope), this.flowBlock(node.else, scope)]
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
        const put = this.putOf(node.target, scope)
        const [body, other] = [this.flowBlock(node.body, scope), this.flowBlock(node.else, scope)]
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
      case 'match': {
        const { first, get } = lifted(node.of)
        const cases = this.casesOf(node, scope).map((one, index) => ({
          ...one,
          body: this.flowBlock(node.cases[index]!.body, scope),
        }))
        return function* (f) {
          machine.step(at)
          yield* first(f)
          const value = get(f)
          const found = cases.find(({ is, test }) => is(f, value) && (test === undefined || isTrue(test(f))))
          return found ? yield* found.body(f) : GO
        }
      }
      case 'try':
        return this.flowTry(node, scope)
      case 'with': {
        const [item, ...others] = node.items as [(typeof node.items)[number], ...typeof node.items]
        if (others.length > 0) return this.flowOf({ ...node, items: [item], body: [{ ...node, items: others }] }, scope)
        const { first, get } = lifted(item.value)
        const put = item.target && this.putOf(item.target, scope)
        const body = this.flowBlock(node.body, scope)
        const isHeld = this.#isHeld
        return function* (f) {
          machine.step(at)
          yield* first(f)
          const manager = get(f)
          const enter = attribute(manager, '__aenter__') ?? getAttribute(manager, '__enter__')
          const entered = isHeld ? unwrapped(invokeHeld(enter, [], none)) : invoke(enter, [])
          // What is entered is waited for, whether its value is named or not.
          const named = entered instanceof PyIterator ? yield* delegated(entered) : entered
          put?.(f, named)
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

  protected flowTry(node: PyStmt & { s: 'try' }, scope: PyScope): Flow {
    const self = this
    const body = this.flowBlock(node.body, scope)
    const excepts = node.excepts.map(({ types, name, body: handler }) => ({
      types: types && this.get(types, scope),
      put: name === undefined ? undefined : this.putOf({ e: 'name', name, at: node.at }, scope),
      body: this.flowBlock(handler, scope),
    }))
    const [other, last] = [this.flowBlock(node.else, scope), this.flowBlock(node.finally, scope)]
    return function* (f) {
      try {
        try {
          const end = yield* body(f)
          if (end !== GO) return end
        } catch (error) {
          if (!(error instanceof PyError)) throw error
          for (const one of excepts) {
            if (one.types && !self.matches(error, one.types(f))) continue
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
  protected lifted(value: PyExpr, scope: PyScope): { first: (f: PyFrame) => Generator<Py, void, Py>; get: Get } {
    const steps: ((f: PyFrame) => Generator<Py, void, Py>)[] = []
    const isHeld = this.#isHeld
    const lift = <T>(node: T): T => {
      if (Array.isArray(node)) return node.map(lift) as T
      if (typeof node !== 'object' || node === null) return node
      const expr = node as unknown as PyExpr
      if (expr.e === 'lambda') return node
      if (isHeld) {
        // What is called only now and then is left where it stands.
        if (expr.e === 'each') return node
        if (expr.e === 'logic') return { ...expr, a: lift(expr.a) } as T
        if (expr.e === 'choose') return { ...expr, if: lift(expr.if) } as T
        if (expr.e === 'call') {
          const get = this.callOf({ ...expr, of: lift(expr.of), args: lift(expr.args) }, scope, true)
          const slot = scope.slot()
          steps.push(function* (f) {
            const made = get(f)
            f.v[slot] = made instanceof Waiting ? yield* delegated(made.from) : made
          })
          return { e: 'name', name: ` ${slot}`, at: expr.at, slot } as T
        }
      }
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
}

/** What something waits for, bare; anything else as it is. */
const unwrapped = (value: Py): Py => (value instanceof Waiting ? value.from : value)
