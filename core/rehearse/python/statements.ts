import { Halt } from '../cpp/machine.ts'
import { AGAIN, BREAK, GO, RETURN } from '../cpp/program.ts'
import { SourceError } from '../cpp/tokens.ts'
import { Idle } from '../idle.ts'
import { getAttribute, invoke, setAttribute } from './attributes.ts'
import { none } from './calling.ts'
import { element, putElement } from './elements.ts'
import type { Exec, Get } from './expressions.ts'
import { binary } from './operators.ts'
import { type Matches, matcher } from './patterns.ts'
import { isTrue, iterate, listed } from './protocols.ts'
import { valuesOf } from './reachable.ts'
import { type PyFrame, PyScope } from './scope.ts'
import type { PyExpr, PyStmt } from './syntax.ts'
import { PyTries } from './tries.ts'
import { objectClass, type Py, PyClass, PyFunction, PyList, PyObject, PyProperty, raise, Unknown } from './values.ts'

/** Rounds after which it is looked at whether anything happens in them. */
const LONG = 64

/** A function of the program under another kind. */
function again(of: PyFunction, kind: PyFunction['kind']): PyFunction {
  const made = new PyFunction(of.name, of.call, kind, of.wants, 'reads')
  made.home = of.home
  return made
}

/** Statements of a program in Python, compiled to closures that tell how they end. */
export abstract class PyStatements extends PyTries {
  override block(body: readonly PyStmt[], scope: PyScope): Exec {
    const all = body.map((one) => this.guarded(one, scope))
    if (all.length === 1) return all[0]!
    return (f) => {
      for (let at = 0; at < all.length; at += 1) {
        const end = all[at]!(f)
        if (end !== GO) return end
      }
      return GO
    }
  }

  /** A statement that is not understood is said, and ends the run where it is reached. */
  protected guarded(node: PyStmt, scope: PyScope): Exec {
    try {
      return this.statementOf(node, scope)
    } catch (error) {
      if (!(error instanceof SourceError)) throw error
      this.refusals.push({ at: error.at, message: error.message })
      return () => {
        throw new Halt(`the program comes to what is not understood: ${error.message}`, error.at)
      }
    }
  }

  protected statementOf(node: PyStmt, scope: PyScope): Exec {
    const machine = this.machine
    const { at } = node
    switch (node.s) {
      case 'pass':
        return () => GO
      case 'break':
        return () => BREAK
      case 'continue':
        return () => AGAIN
      case 'expression': {
        const get = this.get(node.value, scope)
        return (f) => {
          machine.step(at)
          get(f)
          return GO
        }
      }
      case 'assign': {
        const get = this.get(node.value, scope)
        const puts = node.targets.map((target) => this.putOf(target, scope))
        return (f) => {
          machine.step(at)
          const value = get(f)
          for (const put of puts) put(f, value)
          return GO
        }
      }
      case 'change':
        return this.changeOf(node, scope)
      case 'if': {
        const asked = this.get(node.if, scope)
        const yes = this.block(node.yes, scope)
        const no = this.block(node.else, scope)
        return (f) => {
          machine.step(at)
          return isTrue(asked(f)) ? yes(f) : no(f)
        }
      }
      case 'while': {
        const asked = this.get(node.if, scope)
        const body = this.block(node.body, scope)
        const other = this.block(node.else, scope)
        return (f) => {
          let rounds = 0
          let idle: Idle | undefined
          for (;;) {
            machine.step(at)
            if (!isTrue(asked(f))) return other(f)
            const end = body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
            rounds += 1
            if (rounds < LONG) continue
            idle ??= new Idle(machine, () => valuesOf(this.globals, f))
            idle.round()
          }
        }
      }
      case 'for': {
        const over = this.get(node.over, scope)
        const put = this.putOf(node.target, scope)
        const body = this.block(node.body, scope)
        const other = this.block(node.else, scope)
        return (f) => {
          machine.step(at)
          const from = iterate(over(f))
          for (let next = from.next(); !next.done; next = from.next()) {
            machine.step(at)
            put(f, next.value)
            const end = body(f)
            if (end === BREAK) return GO
            if (end === RETURN) return RETURN
          }
          return other(f)
        }
      }
      case 'return': {
        const get = node.value ? this.get(node.value, scope) : () => null
        return (f) => {
          machine.step(at)
          this.ret = get(f)
          return RETURN
        }
      }
      case 'def': {
        const make = this.functionOf(node.function, scope)
        const marks = node.marks.map((mark) => this.markOf(mark, scope))
        const put = this.putOf({ e: 'name', name: node.function.name, at }, scope)
        return (f) => {
          machine.step(at)
          put(
            f,
            marks.reduceRight<Py>((value, mark) => mark(f, value), make(f)),
          )
          return GO
        }
      }
      case 'class':
        return this.classOf(node, scope)
      case 'match':
        return this.matchOf(node, scope)
      case 'raise':
        return this.raiseOf(node.value, scope, at)
      case 'try':
        return this.tryOf(node, scope)
      case 'with':
        return this.withOf(node, scope)
      case 'import': {
        const put = this.putOf({ e: 'name', name: node.as, at }, scope)
        return (f) => {
          machine.step(at)
          const whole = this.load(
            node.name.includes('.') && node.as !== node.name.split('.')[0] ? node.name : node.name.split('.')[0]!,
            at,
          )
          put(f, whole)
          return GO
        }
      }
      case 'from':
        return this.fromOf(node, scope)
      case 'global':
      case 'nonlocal':
        for (const name of node.names) node.s === 'global' ? scope.global(name) : scope.nonlocal(name)
        return () => GO
      case 'del': {
        const drops = node.targets.map((target) => this.dropOf(target, scope))
        return (f) => {
          machine.step(at)
          for (const drop of drops) drop(f)
          return GO
        }
      }
      case 'assert': {
        const test = this.get(node.test, scope)
        const message = node.message && this.get(node.message, scope)
        return (f) => {
          machine.step(at)
          if (!isTrue(test(f))) raise('AssertionError', ...(message ? [message(f)] : []))
          return GO
        }
      }
    }
  }

  protected fromOf(node: PyStmt & { s: 'from' }, scope: PyScope): Exec {
    const machine = this.machine
    const puts = node.names.map(({ name, as }) => ({
      name,
      put: name === '*' ? undefined : this.putOf({ e: 'name', name: as, at: node.at }, scope),
    }))
    return (f) => {
      machine.step(node.at)
      const module = this.load(node.module, node.at)
      for (const { name, put } of puts) {
        if (!put) {
          for (const [key, value] of module.attrs) if (!key.startsWith('_')) this.globals.set(key, value)
          continue
        }
        put(f, module.attrs.get(name) ?? raise('ImportError', `cannot import name '${name}' from '${node.module}'`))
      }
      return GO
    }
  }

  protected changeOf(node: PyStmt & { s: 'change' }, scope: PyScope): Exec {
    const machine = this.machine
    const { at, op, target } = node
    const value = this.get(node.value, scope)
    const changed = (old: Py, by: Py): Py => {
      // Lists and sets are changed where they are.
      if (old instanceof PyList && op === '+') {
        old.items.push(...listed(by))
        return old
      }
      if (old instanceof PyObject) {
        const own = old.cls.find(`__i${{ '+': 'add', '-': 'sub', '*': 'mul', '/': 'truediv' }[op] ?? ''}__`)
        if (own) return own.call([old, by], new Map())
      }
      return binary(op, old, by)
    }
    if (target.e === 'index') {
      const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
      return (f) => {
        machine.step(at)
        const [object, index] = [of(f), by(f)]
        putElement(object, index, changed(element(object, index), value(f)))
        return GO
      }
    }
    if (target.e === 'member') {
      const of = this.get(target.of, scope)
      return (f) => {
        machine.step(at)
        const object = of(f)
        setAttribute(object, target.name, changed(getAttribute(object, target.name), value(f)))
        return GO
      }
    }
    const [get, put] = [this.get(target, scope), this.putOf(target, scope)]
    return (f) => {
      machine.step(at)
      put(f, changed(get(f), value(f)))
      return GO
    }
  }

  protected matchOf(node: PyStmt & { s: 'match' }, scope: PyScope): Exec {
    const { machine } = this
    const of = this.get(node.of, scope)
    const cases = this.casesOf(node, scope).map((one, at) => ({
      ...one,
      body: this.block(node.cases[at]!.body, scope),
    }))
    return (f) => {
      machine.step(node.at)
      const value = of(f)
      const found = cases.find(({ is, test }) => is(f, value) && (test === undefined || isTrue(test(f))))
      return found ? found.body(f) : GO
    }
  }

  protected casesOf(node: PyStmt & { s: 'match' }, scope: PyScope): { is: Matches; test: Get | undefined }[] {
    const by = {
      get: (one: PyExpr, within: PyScope) => this.get(one, within),
      putOf: (one: PyExpr, within: PyScope) => this.putOf(one, within),
    }
    return node.cases.map(({ pattern, test }) => ({
      is: matcher(pattern, scope, node.at, by),
      test: test && this.get(test, scope),
    }))
  }

  protected classOf(node: PyStmt & { s: 'class' }, scope: PyScope): Exec {
    const machine = this.machine
    const bases = node.bases.map((base) => this.get(base, scope))
    const home = { cls: undefined as PyClass | undefined }
    const inner = new PyScope('class', scope, home)
    const body = this.block(node.body, inner)
    const noted = node.body.flatMap((one) => ('notes' in one && one.notes !== undefined ? [one.notes] : []))
    const marks = node.marks.map((mark) => this.markOf(mark, scope))
    const put = this.putOf({ e: 'name', name: node.name, at: node.at }, scope)
    const inClass = scope.kind === 'class'
    return (f) => {
      machine.step(node.at)
      const all = bases.map((base) => base(f)).filter((base) => !(base instanceof Unknown))
      for (const base of all) if (!(base instanceof PyClass)) raise('TypeError', 'a class can only build on classes')
      const attrs = new Map<string, Py>()
      body({ v: new Array(inner.size), up: inClass ? f.up : f, attrs })
      const made = new PyClass(node.name, all.length > 0 ? all : [objectClass])
      for (const [name, value] of attrs) made.attrs.set(name, value)
      made.noted = noted
      home.cls = made
      // What a class does with those that build on it.
      for (const base of all) base.find('__init_subclass__')?.call([made], none)
      put(
        f,
        marks.reduceRight<Py>((value, mark) => mark(f, value), made),
      )
      return GO
    }
  }

  /** `@property` and its kind, or any function that is given one. */
  protected markOf(mark: PyExpr, scope: PyScope): (f: PyFrame, value: Py) => Py {
    if (mark.e === 'name' && mark.name === 'staticmethod') return (_, value) => again(value, 'static')
    if (mark.e === 'name' && mark.name === 'classmethod') return (_, value) => again(value, 'class')
    if (mark.e === 'name' && mark.name === 'property') return (_, value) => new PyProperty(value)
    if (mark.e === 'member' && mark.name === 'setter') {
      const get = this.get(mark.of, scope)
      return (f, value) => new PyProperty((get(f) as PyProperty).get, value)
    }
    // What speeds a function up on a board is nothing here.
    if (mark.e === 'member' && mark.of.e === 'name' && mark.of.name === 'micropython') return (_, value) => value
    const get = this.get(mark, scope)
    return (f, value) => invoke(get(f), [value])
  }
}
