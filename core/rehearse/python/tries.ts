import { GO } from '../cpp/program.ts'
import { callMember, invoke } from './attributes.ts'
import { none } from './calling.ts'
import type { Exec } from './expressions.ts'
import { isTrue } from './protocols.ts'
import type { PyFrame, PyScope } from './scope.ts'
import type { PyExpr, PyStmt } from './syntax.ts'
import { PyTargets } from './targets.ts'
import { errorClasses, errorOf, type Py, PyClass, PyError, PyObject, PyTuple, raise } from './values.ts'

/** What goes wrong, what takes it, and what is done in any case. */
export abstract class PyTries extends PyTargets {
  abstract block(body: readonly PyStmt[], scope: PyScope): Exec

  protected raiseOf(value: PyExpr | undefined, scope: PyScope, at: number): Exec {
    const machine = this.machine
    const get = value && this.get(value, scope)
    return (f) => {
      machine.step(at)
      if (!get) {
        const last = this.handled.at(-1)
        throw last ?? new PyError(errorOf(errorClasses.get('RuntimeError')!, ['No active exception to reraise']))
      }
      let made = get(f)
      if (made instanceof PyClass) made = invoke(made, [])
      if (!(made instanceof PyObject)) raise('TypeError', 'exceptions must derive from BaseException')
      throw new PyError(made)
    }
  }

  protected matches(error: PyError, types: Py): boolean {
    if (types instanceof PyTuple) return types.items.some((one) => this.matches(error, one))
    return types instanceof PyClass && error.value.cls.isA(types)
  }

  protected tryOf(node: PyStmt & { s: 'try' }, scope: PyScope): Exec {
    const machine = this.machine
    const body = this.block(node.body, scope)
    const excepts = node.excepts.map(({ types, name, body: handler }) => ({
      types: types && this.get(types, scope),
      put: name === undefined ? undefined : this.putOf({ e: 'name', name, at: node.at }, scope),
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
          if (one.types && !this.matches(error, one.types(f))) continue
          one.put?.(f, error.value)
          this.handled.push(error)
          try {
            return one.body(f)
          } finally {
            this.handled.pop()
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
        const kept = this.ret
        const ends = last(f)
        if (ends !== GO) return ends
        this.ret = kept
        throw error
      }
      const kept = this.ret
      const ends = last(f)
      if (ends !== GO) return ends
      this.ret = kept
      return end
    }
  }

  protected withOf(node: PyStmt & { s: 'with' }, scope: PyScope): Exec {
    const machine = this.machine
    const items = node.items.map(({ value, target }) => ({
      get: this.get(value, scope),
      put: target && this.putOf(target, scope),
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
      const kept = this.ret
      callMember(manager, '__exit__', [null, null, null], none)
      this.ret = kept
      return end
    }
    return (f) => {
      machine.step(node.at)
      return run(f, 0)
    }
  }
}
