import { attribute, invoke } from './attributes.ts'
import { delegated } from './calling.ts'
import { fn, type GivenModule, module, type Named, Native, nativeClass, none } from './native.ts'
import { isTrue, listed } from './protocols.ts'
import { queueModule } from './queueModule.ts'
import { addMethod, coroutineOf, eventMethods, stepsOf, type Thread, type Threads } from './threads.ts'
import { type Py, type PyClass, PyDict, type PyFunction, type PyObject, raise } from './values.ts'

const argsOf = (given: Py): Py[] => (given === undefined || given === null ? [] : listed(given))
const namedOf = (given: Py): Named =>
  given instanceof PyDict ? new Map([...given.entries.values()].map(([key, value]) => [String(key), value])) : none

/** What a thread or a timer is to call, as its steps. */
const targetOf = (self: PyObject): Generator<Py, Py, Py> =>
  stepsOf(self.attrs.get('_target'), argsOf(self.attrs.get('_args')), namedOf(self.attrs.get('_kwargs')))

/** `_thread`, `threading` and `queue`. */
export function threadModules(threads: Threads): GivenModule[] {
  const lockClass = (name: string, again: boolean): PyClass => {
    const owners = new WeakMap<PyObject, { by: unknown; count: number }>()
    const free = (self: PyObject): boolean => {
      const held = owners.get(self)
      return !held || held.count === 0 || (again && held.by === threads.now)
    }
    const take = (self: PyObject): true => {
      owners.set(self, { by: threads.now, count: (owners.get(self)?.count ?? 0) + 1 })
      return true
    }
    const release = (self: PyObject): null => {
      const held = owners.get(self)
      if (!held || held.count === 0) return raise('RuntimeError', 'release unlocked lock')
      held.count -= 1
      return null
    }
    const cls = nativeClass(name, () => undefined, {
      release,
      locked: (self) => (owners.get(self)?.count ?? 0) > 0,
      __exit__: release,
    })
    const acquire = (called: string): PyFunction =>
      threads.waiting(called, ([self, blocking = true, timeout], named) => {
        const isOver = threads.limit(named.get('timeout') ?? timeout)
        const waits = isTrue(named.get('blocking') ?? blocking)
        return { is: () => free(self) || !waits || isOver(), makes: () => free(self) && take(self) }
      })
    addMethod(cls, acquire('acquire'))
    addMethod(cls, acquire('__enter__'))
    return cls
  }
  const Lock = lockClass('lock', false)
  const RLock = lockClass('RLock', true)

  const started = new WeakMap<PyObject, Thread>()
  const ThreadClass = nativeClass(
    'Thread',
    (self, [, target, name], named) => {
      self.attrs
        .set('_target', named.get('target') ?? target ?? null)
        .set('_args', named.get('args') ?? null)
        .set('_kwargs', named.get('kwargs') ?? null)
        .set('name', named.get('name') ?? name ?? `Thread-${threads.number + 1}`)
        .set('daemon', named.get('daemon') ?? false)
    },
    {
      start: (self) => {
        if (started.has(self)) return raise('RuntimeError', 'threads can only be started once')
        started.set(self, threads.start(attribute(self, 'run'), [], none))
        return null
      },
      is_alive: (self) => started.get(self)?.isOver === false,
      __init__: (self, _args, named) => {
        // What a class of the program hands on to the one that it builds on.
        for (const key of ['target', 'args', 'kwargs'] as const)
          if (named.has(key)) self.attrs.set(`_${key}`, named.get(key))
        for (const key of ['name', 'daemon'] as const) if (named.has(key)) self.attrs.set(key, named.get(key))
        return null
      },
    },
  )
  const run = fn('run', ([self]) =>
    self.attrs.get('_target') === null
      ? null
      : invoke(self.attrs.get('_target'), argsOf(self.attrs.get('_args')), namedOf(self.attrs.get('_kwargs'))),
  )
  run.held = ([self]) => {
    const steps = function* (): Generator<Py, Py, Py> {
      return self.attrs.get('_target') === null ? null : yield* targetOf(self)
    }
    return coroutineOf(steps())
  }
  addMethod(ThreadClass, run)
  addMethod(
    ThreadClass,
    threads.waiting('join', ([self, timeout], named) => {
      const isOver = threads.limit(named.get('timeout') ?? timeout)
      return { is: () => started.get(self)?.isOver !== false || isOver(), makes: () => null }
    }),
  )

  const Event = nativeClass('Event', () => undefined, eventMethods)
  addMethod(
    Event,
    threads.waiting('wait', ([self, timeout], named) => {
      const isOver = threads.limit(named.get('timeout') ?? timeout)
      return { is: () => self.on || isOver(), makes: () => self.on }
    }),
  )

  const Timer = nativeClass(
    'Timer',
    (self, [seconds, target, args, kwargs], named) => {
      self.attrs
        .set('_seconds', named.get('interval') ?? seconds)
        .set('_target', named.get('function') ?? target)
        .set('_args', named.get('args') ?? args ?? null)
        .set('_kwargs', named.get('kwargs') ?? kwargs ?? null)
    },
    {
      start: (self) => {
        const isOver = threads.limit(self.attrs.get('_seconds'))
        const due = threads.waiting('due', () => ({ is: () => isOver() || self.on, makes: () => null }))
        const steps = fn('timer', () => null)
        steps.held = () => {
          const all = function* (): Generator<Py, Py, Py> {
            yield* delegated(due.held!([], none))
            return self.on ? null : yield* targetOf(self)
          }
          return coroutineOf(all())
        }
        started.set(self, threads.start(steps, [], none))
        return null
      },
      cancel: (self) => {
        self.on = true
        return null
      },
      is_alive: (self) => started.get(self)?.isOver === false,
    },
  )

  const current = (): Py => {
    const made = new Native(ThreadClass)
    made.attrs.set('name', threads.now ? 'Thread' : 'MainThread')
    return made
  }
  return [
    module('_thread', [
      [
        'start_new_thread',
        fn('start_new_thread', ([run, args, kwargs]) => {
          threads.start(run, argsOf(args), namedOf(kwargs))
          return threads.number
        }),
      ],
      ['allocate_lock', fn('allocate_lock', () => invoke(Lock, []))],
      ['LockType', Lock],
      ['get_ident', fn('get_ident', () => (threads.now ? 2 : 1))],
      ['exit', fn('exit', () => raise('SystemExit'))],
      ['stack_size', fn('stack_size', () => 0)],
    ]),
    module('threading', [
      ['Thread', ThreadClass],
      ['Lock', Lock],
      ['RLock', RLock],
      ['Event', Event],
      ['Timer', Timer],
      ['current_thread', fn('current_thread', current)],
      ['main_thread', fn('main_thread', current)],
      ['get_ident', fn('get_ident', () => (threads.now ? 2 : 1))],
    ]),
    queueModule(threads),
  ]
}
