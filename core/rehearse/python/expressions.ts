import type { Machine } from '../cpp/machine.ts'
import type { Refusal } from '../cpp/program.ts'
import { SourceError } from '../cpp/tokens.ts'
import { callMember, getAttribute, invoke, invokeHeld } from './attributes.ts'
import { none, superOf } from './calling.ts'
import { element } from './elements.ts'
import { declareInner } from './names.ts'
import { binary, compare, unary } from './operators.ts'
import { isTrue, iterate, listed, shrunk } from './protocols.ts'
import type { PyFrame, PyScope, Where } from './scope.ts'
import type { PyEach, PyExpr, PyFunctionNode } from './syntax.ts'
import { formatPy, reprOf, strOf } from './text.ts'
import {
  Float,
  type Py,
  PyBytes,
  PyDict,
  type PyError,
  PyIterator,
  PyList,
  type PyModule,
  PySet,
  PySlice,
  PyTuple,
  raise,
} from './values.ts'

export type Get = (f: PyFrame) => Py
export type Put = (f: PyFrame, value: Py) => void
export type Exec = (f: PyFrame) => number
/** A statement that may stop in its middle, and go on with what is sent. */
export type Flow = (f: PyFrame) => Generator<Py, number, Py>

/** What a program finds without making it itself. */
export interface PyLibrary {
  readonly builtins: ReadonlyMap<string, Py>
  /** Modules by name, made when they are first asked for. */
  readonly modules: ReadonlyMap<string, () => PyModule>
}

/** Values of a program in Python, compiled to closures. */
export abstract class PyExpressions {
  protected readonly machine: Machine
  protected readonly library: PyLibrary
  protected readonly globals: Map<string, Py>
  protected readonly load: (name: string, at: number) => PyModule
  protected readonly refusals: Refusal[]
  protected ret: Py = null
  /** Exceptions that are being handled, for a bare `raise`. */
  protected readonly handled: PyError[] = []

  constructor(
    machine: Machine,
    library: PyLibrary,
    globals: Map<string, Py>,
    load: (name: string, at: number) => PyModule,
    refusals: Refusal[],
  ) {
    this.machine = machine
    this.library = library
    this.globals = globals
    this.load = load
    this.refusals = refusals
  }

  /** A function as a value, with what stands around it. */
  protected abstract functionOf(node: PyFunctionNode, scope: PyScope): Get

  /** What puts a value into a name, an element or a member. */
  protected abstract putOf(target: PyExpr, scope: PyScope): Put

  get(node: PyExpr, scope: PyScope): Get {
    const { at } = node
    switch (node.e) {
      case 'number': {
        const value = numberOf(node.text)
        return () => value
      }
      case 'text':
        return () => node.text
      case 'bytes': {
        const bytes = [...node.text].map((letter) => letter.charCodeAt(0) & 255)
        return () => new PyBytes(bytes, false)
      }
      case 'constant':
        return () => node.value
      case 'form': {
        const parts = node.parts.map((part) =>
          typeof part === 'string'
            ? part
            : { get: this.get(part.value, scope), turn: part.turn, spec: part.spec && this.get(part.spec, scope) },
        )
        return (f) =>
          parts
            .map((part) => {
              if (typeof part === 'string') return part
              const value = part.get(f)
              const turned = part.turn === 'r' ? reprOf(value) : part.turn === 's' ? strOf(value) : value
              return formatPy(turned, part.spec ? part.spec(f) : '')
            })
            .join('')
      }
      case 'name': {
        const own = (node as unknown as { slot?: number }).slot
        if (own !== undefined) return (f) => f.v[own]
        return this.readOf(node.name, scope)
      }
      case 'unary': {
        const of = this.get(node.of, scope)
        if (node.op === 'not') return (f) => !isTrue(of(f))
        return (f) => unary(node.op, of(f))
      }
      case 'binary': {
        const [a, b] = [this.get(node.a, scope), this.get(node.b, scope)]
        const { op } = node
        return (f) => binary(op, a(f), b(f))
      }
      case 'compare':
        return this.compareOf(node, scope)
      case 'logic': {
        const [a, b] = [this.get(node.a, scope), this.get(node.b, scope)]
        if (node.op === 'and')
          return (f) => {
            const left = a(f)
            return isTrue(left) ? b(f) : left
          }
        return (f) => {
          const left = a(f)
          return isTrue(left) ? left : b(f)
        }
      }
      case 'choose': {
        const [asked, yes, no] = [this.get(node.if, scope), this.get(node.yes, scope), this.get(node.else, scope)]
        return (f) => (isTrue(asked(f)) ? yes(f) : no(f))
      }
      case 'call':
        return this.callOf(node, scope)
      case 'member': {
        const of = this.get(node.of, scope)
        return (f) => getAttribute(of(f), node.name)
      }
      case 'index': {
        const [of, by] = [this.get(node.of, scope), this.get(node.by, scope)]
        return (f) => element(of(f), by(f))
      }
      case 'slice': {
        const [from, to, step] = [node.from, node.to, node.step].map((one) =>
          one ? this.get(one, scope) : () => null,
        ) as [Get, Get, Get]
        return (f) => new PySlice(from(f), to(f), step(f))
      }
      case 'list':
      case 'tuple':
      case 'set': {
        const items = node.items.map((item) => ({
          get: this.get(item.e === 'star' ? item.of : item, scope),
          isStar: item.e === 'star',
        }))
        const all = (f: PyFrame): Py[] => items.flatMap(({ get, isStar }) => (isStar ? listed(get(f)) : [get(f)]))
        if (node.e === 'list') return (f) => new PyList(all(f))
        return node.e === 'tuple' ? (f) => new PyTuple(all(f)) : (f) => new PySet(all(f))
      }
      case 'dict': {
        const items = node.items.map(({ key, value }) => ({
          key: key && this.get(key, scope),
          value: this.get(value, scope),
        }))
        return (f) => {
          const made = new PyDict()
          for (const { key, value } of items)
            if (key) made.set(key(f), value(f))
            else for (const [name, one] of (value(f) as PyDict).entries.values()) made.set(name, one)
          return made
        }
      }
      case 'each':
        return this.eachOf(node, scope)
      case 'lambda':
        return this.functionOf(node.function, scope)
      case 'named': {
        const get = this.get(node.value, scope)
        const put = this.putOf({ e: 'name', name: node.name, at }, scope)
        return (f) => {
          const value = get(f)
          put(f, value)
          return value
        }
      }
      case 'star':
        throw new SourceError('a star stands where nothing is spread', at)
      case 'yield':
      case 'await':
        throw new SourceError(`${node.e} stands outside of a function`, at)
    }
  }

  protected readOf(name: string, scope: PyScope): Get {
    const where = scope.find(name)
    if (where.is === 'class') {
      const outer = this.readAt(name, scope.around(name), 1)
      return (f) => f.attrs!.get(name) ?? outer(f)
    }
    return this.readAt(name, where, 0)
  }

  protected readAt(name: string, where: Where, less: number): Get {
    if (where.is === 'local') {
      const { depth, slot } = where
      const steps = depth
      void less
      const missing = (): never => raise('NameError', `name '${name}' is not defined`)
      if (steps === 0) return (f) => f.v[slot] ?? (f.v[slot] === null ? null : missing())
      if (steps === 1) return (f) => f.up!.v[slot] ?? (f.up!.v[slot] === null ? null : missing())
      return (f) => {
        let frame = f
        for (let at = 0; at < steps; at += 1) frame = frame.up!
        return frame.v[slot] ?? (frame.v[slot] === null ? null : missing())
      }
    }
    const globals = this.globals
    const builtins = this.library.builtins
    return () => {
      const found = globals.get(name)
      if (found !== undefined) return found
      const given = builtins.get(name)
      return given !== undefined ? given : raise('NameError', `name '${name}' is not defined`)
    }
  }

  protected compareOf(node: PyExpr & { e: 'compare' }, scope: PyScope): Get {
    const first = this.get(node.first, scope)
    const rest = node.rest.map(({ op, value }) => ({ op, get: this.get(value, scope) }))
    const [only] = rest
    if (rest.length === 1 && only) return (f) => compare(only.op, first(f), only.get(f))
    return (f) => {
      let left = first(f)
      let result: Py = true
      for (const { op, get } of rest) {
        const right = get(f)
        result = compare(op, left, right)
        if (!isTrue(result)) return result
        left = right
      }
      return result
    }
  }

  protected callOf(node: PyExpr & { e: 'call' }, scope: PyScope, isHeld = false): Get {
    const machine = this.machine
    const { at, of } = node
    const plain = node.args.every(({ name, star }) => name === undefined && star === 0)
    const gets = node.args.map(({ value }) => this.get(value, scope))
    const positional = node.args.flatMap(({ name, star }, index) =>
      name === undefined && star < 2 ? [{ get: gets[index]!, star }] : [],
    )
    const named = node.args.flatMap(({ name, star }, index) =>
      name !== undefined || star === 2 ? [{ name, get: gets[index]! }] : [],
    )
    const argsOf = plain
      ? (f: PyFrame): Py[] => gets.map((get) => get(f))
      : (f: PyFrame): Py[] => positional.flatMap(({ get, star }) => (star === 1 ? listed(get(f)) : [get(f)]))
    const namedOf = (f: PyFrame): ReadonlyMap<string, Py> => {
      if (named.length === 0) return none
      const made = new Map<string, Py>()
      for (const { name, get } of named)
        if (name !== undefined) made.set(name, get(f))
        else for (const [key, value] of (get(f) as PyDict).entries.values()) made.set(key, value)
      return made
    }
    if (of.e === 'name' && of.name === 'super' && node.args.length === 0) {
      const { home } = scope
      return (f) => superOf(home?.cls, f.v[0])
    }
    if (of.e === 'member') {
      const owner = this.get(of.of, scope)
      return (f) => {
        const object = owner(f)
        const [args, names] = [argsOf(f), namedOf(f)]
        machine.at = at
        if (isHeld) return invokeHeld(getAttribute(object, of.name), args, names)
        return callMember(object, of.name, args, names)
      }
    }
    const callee = this.get(of, scope)
    return (f) => {
      const called = callee(f)
      const [args, names] = [argsOf(f), namedOf(f)]
      machine.at = at
      return isHeld ? invokeHeld(called, args, names) : invoke(called, args, names)
    }
  }

  /** `[x * 2 for x in all if x]`: its names are its own. */
  protected eachOf(node: PyExpr & { e: 'each' }, scope: PyScope): Get {
    scope.enter()
    const rounds = node.each.map((one: PyEach) => {
      const over = this.get(one.over, scope)
      declareInner(one.target, scope)
      return { over, put: this.putOf(one.target, scope), tests: one.tests.map((test) => this.get(test, scope)) }
    })
    const value = this.get(node.value, scope)
    const key = node.key && this.get(node.key, scope)
    scope.leave()
    const machine = this.machine
    function* run(f: PyFrame, at: number): Generator<Py, void, Py> {
      const round = rounds[at]
      if (!round) {
        yield key ? [key(f), value(f)] : value(f)
        return
      }
      const from = iterate(round.over(f))
      for (let next = from.next(); !next.done; next = from.next()) {
        machine.step(node.at)
        round.put(f, next.value)
        if (round.tests.every((test) => isTrue(test(f)))) yield* run(f, at + 1)
      }
    }
    switch (node.kind) {
      case 'list':
        return (f) => new PyList([...run(f, 0)])
      case 'set':
        return (f) => new PySet(run(f, 0))
      case 'dict':
        return (f) => {
          const made = new PyDict()
          for (const [name, one] of run(f, 0)) made.set(name, one)
          return made
        }
      default:
        return (f) => {
          const from = run(f, 0)
          return new PyIterator(() => from.next(null) as IteratorResult<Py, Py>, 'generator')
        }
    }
  }
}

function numberOf(text: string): Py {
  const bare = text.replace(/_/g, '')
  if (/^0[xob]/i.test(bare)) return shrunk(BigInt(bare))
  return /[.eE]/.test(bare) ? new Float(Number(bare)) : shrunk(BigInt(bare))
}
