import { GO, RETURN } from '../cpp/program.ts'
import { callMember, isError } from './attributes.ts'
import { iterate } from './protocols.ts'
import type { PyScope } from './scope.ts'
import type { PyFunctionNode } from './syntax.ts'
import {
  newObject,
  type Py,
  PyClass,
  PyDict,
  PyFunction,
  PyIterator,
  PyObject,
  PyProperty,
  PyTuple,
  raise,
} from './values.ts'

export const none: ReadonlyMap<string, Py> = new Map()
export const nothingFirst = function* (): Generator<Py, void, Py> {}

/** A scope in which one more name is known, for what a statement keeps meanwhile. */
export function withSlot(scope: PyScope, name: string, slot: number): PyScope {
  const found = scope.find.bind(scope)
  return new Proxy(scope, {
    get: (target, key) => {
      if (key === 'find') return (asked: string) => (asked === name ? { is: 'local', depth: 0, slot } : found(asked))
      const value = Reflect.get(target, key, target)
      return typeof value === 'function' ? value.bind(target) : value
    },
  })
}

/** Gives on what another one gives, and takes its last value. */
export function* delegated(from: Py): Generator<Py, Py, Py> {
  const all =
    from instanceof PyIterator
      ? from
      : from instanceof PyObject && from.cls.find('__await__')
        ? callMember(from, '__await__', [], none)
        : from
  const iterator = all instanceof PyIterator ? all : iterate(all)
  let next = (iterator as PyIterator).next(null)
  while (!next.done) next = (iterator as PyIterator).next(yield next.value)
  return next.value ?? null
}

export function generatorOf(
  flow: Generator<Py, number, Py>,
  kind: 'generator' | 'coroutine',
  ret: () => Py,
): PyIterator {
  return new PyIterator(
    (sent) => {
      try {
        const next = flow.next(sent ?? null)
        return next.done
          ? { done: true, value: next.value === RETURN ? ret() : null }
          : { done: false, value: next.value }
      } catch (error) {
        if (isError(error, 'StopIteration')) raise('RuntimeError', 'generator raised StopIteration')
        throw error
      }
    },
    kind,
    () => void flow.return(GO),
  )
}

/** What a class builds on, asked as the class itself would be. */
export function superOf(home: PyClass | undefined, self: Py): Py {
  if (!home) return raise('RuntimeError', 'super(): no class')
  const own: PyClass = self instanceof PyClass ? self : self.cls
  const order = own.order
  const after = order.slice(order.indexOf(home) + 1)
  const cls = new PyClass('super', [])
  for (const one of [...after].reverse())
    for (const [name, value] of one.attrs) {
      if (value instanceof PyFunction && value.kind !== 'static') {
        const first = value.kind === 'class' ? own : self
        cls.attrs.set(
          name,
          new PyFunction(name, (args, named) => value.call([first, ...args], named), 'static', 0, 'reads'),
        )
      } else if (value instanceof PyProperty)
        cls.attrs.set(
          name,
          new PyProperty(new PyFunction(name, () => value.get.call([self], none), 'plain', 0, 'reads')),
        )
      else cls.attrs.set(name, value)
    }
  if (!cls.attrs.has('__init__'))
    cls.attrs.set(
      '__init__',
      new PyFunction(
        '__init__',
        (args) => {
          if (self instanceof PyObject && self.attrs.has('args')) self.attrs.set('args', new PyTuple([...args]))
          return null
        },
        'static',
        0,
        'reads',
      ),
    )
  if (!cls.attrs.has('__new__')) cls.attrs.set('__new__', newObject)
  return new PyObject(cls)
}

export function bind(
  name: string,
  params: PyFunctionNode['params'],
  defaults: readonly Py[],
  args: readonly Py[],
  named: ReadonlyMap<string, Py>,
  v: Py[],
): void {
  let next = 0
  const used = new Set<string>()
  params.forEach(({ name: param, kind }, at) => {
    if (kind === 'list') {
      v[at] = new PyTuple(args.slice(next))
      next = args.length
      return
    }
    if (kind === 'map') return
    if (kind === 'plain' && next < args.length) {
      v[at] = args[next]
      next += 1
      if (named.has(param)) raise('TypeError', `${name}() got multiple values for argument '${param}'`)
      return
    }
    if (named.has(param)) {
      v[at] = named.get(param)
      used.add(param)
      return
    }
    const otherwise = defaults[at]
    v[at] =
      otherwise !== undefined ? otherwise : raise('TypeError', `${name}() missing a required argument: '${param}'`)
  })
  if (next < args.length)
    raise(
      'TypeError',
      `${name}() takes ${params.filter(({ kind }) => kind === 'plain').length} positional arguments but ${args.length} were given`,
    )
  const rest = params.findIndex(({ kind }) => kind === 'map')
  if (rest >= 0) {
    const made = new PyDict()
    for (const [key, value] of named) if (!used.has(key)) made.set(key, value)
    v[rest] = made
  } else
    for (const key of named.keys())
      if (!used.has(key)) raise('TypeError', `${name}() got an unexpected keyword argument '${key}'`)
}
