import { type GivenModule, module, nativeClass } from './native.ts'
import { asNumber, isTrue } from './protocols.ts'
import { addMethod, type Threads } from './threads.ts'
import { errorClasses, errorOf, type Py, PyClass, PyError, type PyObject } from './values.ts'

/** `queue`: what one thread hands on to another. */
export function queueModule(threads: Threads): GivenModule {
  const items = new WeakMap<PyObject, { all: Py[]; most: number }>()
  const queueOf = (self: PyObject): { all: Py[]; most: number } => items.get(self)!
  const [Empty, Full] = ['Empty', 'Full'].map((name) => new PyClass(name, [errorClasses.get('Exception')!])) as [
    PyClass,
    PyClass,
  ]
  const fail = (kind: PyClass): never => {
    throw new PyError(errorOf(kind, []))
  }
  const queueClass = (name: string, takes: (all: Py[]) => Py): PyClass => {
    const cls = nativeClass(
      name,
      (self, [most], named) => {
        const limit = asNumber(named.get('maxsize') ?? most ?? 0)
        items.set(self, { all: [], most: limit > 0 ? limit : Number.POSITIVE_INFINITY })
      },
      {
        empty: (self) => queueOf(self).all.length === 0,
        full: (self) => queueOf(self).all.length >= queueOf(self).most,
        qsize: (self) => queueOf(self).all.length,
        get_nowait: (self) => (queueOf(self).all.length > 0 ? takes(queueOf(self).all) : fail(Empty)),
        put_nowait: (self, [item]) => {
          if (queueOf(self).all.length >= queueOf(self).most) return fail(Full)
          queueOf(self).all.push(item)
          return null
        },
        task_done: () => null,
      },
    )
    addMethod(
      cls,
      threads.waiting('get', ([self, block = true, timeout], named) => {
        const isOver = threads.limit(named.get('timeout') ?? timeout)
        const waits = isTrue(named.get('block') ?? block)
        const has = (): boolean => queueOf(self).all.length > 0
        return { is: () => has() || !waits || isOver(), makes: () => (has() ? takes(queueOf(self).all) : fail(Empty)) }
      }),
    )
    addMethod(
      cls,
      threads.waiting('put', ([self, item, block = true, timeout], named) => {
        const isOver = threads.limit(named.get('timeout') ?? timeout)
        const waits = isTrue(named.get('block') ?? block)
        const has = (): boolean => queueOf(self).all.length < queueOf(self).most
        return {
          is: () => has() || !waits || isOver(),
          makes: () => {
            if (!has()) return fail(Full)
            queueOf(self).all.push(item)
            return null
          },
        }
      }),
    )
    addMethod(
      cls,
      threads.waiting('join', ([self]) => ({ is: () => queueOf(self).all.length === 0, makes: () => null })),
    )
    return cls
  }
  return module('queue', [
    ['Queue', queueClass('Queue', (all) => all.shift())],
    ['SimpleQueue', queueClass('SimpleQueue', (all) => all.shift())],
    ['LifoQueue', queueClass('LifoQueue', (all) => all.pop())],
    ['Empty', Empty],
    ['Full', Full],
  ])
}
