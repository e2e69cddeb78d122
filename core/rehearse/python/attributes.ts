import { methodsOf } from './methods.ts'
import { isInt, typeName } from './protocols.ts'
import {
  type Call,
  errorOf,
  Float,
  type Py,
  PyClass,
  PyError,
  PyFunction,
  PyIterator,
  PyModule,
  PyObject,
  PyProperty,
  PyTuple,
  raise,
  Unknown,
} from './values.ts'

const none: ReadonlyMap<string, Py> = new Map()

/** Calls whatever can be called. */
export function invoke(callee: Py, args: readonly Py[], named: ReadonlyMap<string, Py> = none): Py {
  if (callee instanceof PyFunction) return callee.call(args, named)
  if (callee instanceof PyClass) return instantiate(callee, args, named)
  if (callee instanceof PyObject) {
    const own = callee.cls.find('__call__')
    if (own) return own.call([callee, ...args], named)
  }
  if (callee instanceof Unknown) return callee
  return raise('TypeError', `'${typeName(callee)}' object is not callable`)
}

/** What a call from a thread comes to, where it may wait. */
export class Waiting {
  readonly from: PyIterator
  constructor(from: PyIterator) {
    this.from = from
  }
}

/** Calls something from a thread: what waits is handed on instead of being waited for. */
export const invokeHeld = (callee: Py, args: readonly Py[], named: ReadonlyMap<string, Py>): Py =>
  callee instanceof PyFunction && callee.held ? new Waiting(callee.held(args, named)) : invoke(callee, args, named)

function instantiate(cls: PyClass, args: readonly Py[], named: ReadonlyMap<string, Py>): Py {
  if (cls.order.some(({ name }) => name === 'BaseException')) {
    const made = errorOf(cls, args)
    cls.find('__init__')?.call([made, ...args], named)
    return made
  }
  if (cls.make) {
    const made = cls.make(args, named)
    if (made instanceof PyObject && made.cls !== cls && cls.isA(made.cls)) {
      // A class of the program that builds on one of the platform.
      const own = new PyObject(cls)
      for (const [name, value] of made.attrs) own.attrs.set(name, value)
      cls.find('__init__')?.call([own, ...args], named)
      return own
    }
    return made
  }
  const maker = cls.find('__new__')
  const made = maker instanceof PyFunction ? maker.call([cls, ...args], named) : new PyObject(cls)
  // What it makes that is of another kind is left as it is.
  if (!(made instanceof PyObject && made.cls.isA(cls))) return made
  const init = cls.find('__init__')
  if (init) init.call([made, ...args], named)
  else if (args.length > 0 && !maker) raise('TypeError', `${cls.name}() takes no arguments`)
  return made
}

/** A function of a class, bound to what it was asked of. */
function bound(found: Py, of: Py, cls: PyClass): Py {
  if (found instanceof PyProperty) return found.get.call([of], none)
  if (!(found instanceof PyFunction) || found.kind === 'static') return found
  const first = found.kind === 'class' ? cls : of
  const { held } = found
  const made = new PyFunction(
    found.name,
    (args, named) => found.call([first, ...args], named),
    'static',
    found.wants - 1,
    'reads',
  )
  made.home = { globals: none, frame: null, kept: [first, found] }
  if (held) made.held = (args, named) => held([first, ...args], named)
  return made
}

/** `of.name`; undefined where there is none. */
export function attribute(of: Py, name: string): Py | undefined {
  if (of instanceof PyObject) {
    const found = of.cls.find(name)
    if (found instanceof PyProperty) return found.get.call([of], none)
    const own = of.attrs.get(name)
    if (own !== undefined) return own
    if (found !== undefined) return bound(found, of, of.cls)
    if (name === '__class__') return of.cls
    // What an exception carries.
    if ((name === 'value' || name === 'errno') && own === undefined && of.attrs.get('args') instanceof PyTuple)
      return of.attrs.get('args').items[0] ?? null
    if (name === '__dict__') return undefined
    const fallback = of.cls.find('__getattr__')
    return fallback?.call([of, name], none)
  }
  if (of instanceof Unknown) return of
  if (of instanceof PyClass) {
    const found = of.find(name)
    if (found instanceof PyFunction && found.kind === 'class') return bound(found, undefined, of)
    // `None` is an answer.
    return found === undefined && name === '__name__' ? of.name : found
  }
  if (of instanceof PyModule) return of.attrs.has(name) || name !== '__name__' ? of.attrs.get(name) : of.name
  if (of instanceof PyFunction && name === '__name__') return of.name
  if (of instanceof PyTuple && of.names?.includes(name)) return of.items[of.names.indexOf(name)]
  if (of instanceof PyIterator) {
    if (name === 'send') return new PyFunction('send', ([value]) => advance(of, value))
    if (name === 'close')
      return new PyFunction('close', () => {
        of.close()
        return null
      })
    if (name === '__next__') return new PyFunction('__next__', () => advance(of, null))
  }
  if (isInt(of) || of instanceof Float) {
    if (name === 'real') return of
    if (name === 'imag') return 0
  }
  const method = methodsOf(of)?.[name]
  return method && new PyFunction(name, (args, named) => method(of, args, named), 'static', 0, 'reads')
}

export function advance(of: PyIterator, sent: Py): Py {
  const next = of.next(sent)
  return next.done
    ? raise('StopIteration', ...(next.value === undefined || next.value === null ? [] : [next.value]))
    : next.value
}

export const getAttribute = (of: Py, name: string): Py => {
  const found = attribute(of, name)
  if (found !== undefined) return found
  if (of instanceof PyModule) return raise('AttributeError', `module '${of.name}' has no attribute '${name}'`)
  if (of instanceof PyClass) return raise('AttributeError', `type object '${of.name}' has no attribute '${name}'`)
  return raise('AttributeError', `'${typeName(of)}' object has no attribute '${name}'`)
}

export function setAttribute(of: Py, name: string, value: Py): void {
  if (of instanceof PyObject) {
    const found = of.cls.find(name)
    if (found instanceof PyProperty) {
      if (!found.set) raise('AttributeError', `can't set attribute '${name}'`)
      found.set!.call([of, value], none)
      return
    }
    const own = of.cls.find('__setattr__')
    if (own) own.call([of, name, value], none)
    else of.attrs.set(name, value)
    return
  }
  if (of instanceof PyClass || of instanceof PyModule) {
    of.attrs.set(name, value)
    return
  }
  if (of instanceof Unknown) return
  raise('AttributeError', `'${typeName(of)}' object has no attribute '${name}'`)
}

/** Calls a member of something without making a bound function of it first. */
export function callMember(of: Py, name: string, args: readonly Py[], named: ReadonlyMap<string, Py>): Py {
  if (of instanceof PyObject && !of.attrs.has(name)) {
    const found = of.cls.find(name)
    if (found instanceof PyFunction && found.kind === 'plain') return found.call([of, ...args], named)
  } else if (!(of instanceof PyClass) && !(of instanceof PyModule) && !(of instanceof PyIterator)) {
    const method = methodsOf(of)?.[name]
    if (method) return method(of, args, named)
  }
  return invoke(getAttribute(of, name), args, named)
}

export const isError = (error: unknown, kind: string): error is PyError =>
  error instanceof PyError && error.value.cls.order.some(({ name }) => name === kind)
export type { Call }
