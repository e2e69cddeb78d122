import { attribute, invoke, invokeHeld, isError, Waiting } from './attributes.ts'
import { delegated } from './calling.ts'
import { fn, type GivenModule, module, type Named, Native, nativeClass, none, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import {
  asNumber,
  errorClasses,
  errorOf,
  Float,
  isTrue,
  listed,
  type Py,
  PyClass,
  PyDict,
  PyError,
  type PyFunction,
  PyIterator,
  type PyObject,
  raise,
} from './values.ts'

/** Seconds between two looks at what a thread waits for. */
const LOOK = 0.0005

/** What a call waits for, and what it comes to then. */
interface Wait {
  readonly is: () => boolean
  readonly makes: () => Py
}

interface Thread {
  readonly from: PyIterator
  /** When the program began that has made it: after a restart it is gone. */
  readonly born: number
  isOver: boolean
}

/** Threads of Python: each runs to its next wait, then the others do; on two cores as well. */
export class Threads {
  readonly #board: PythonBoard
  readonly #calls: PinCalls
  #now: Thread | undefined
  #count = 0

  constructor(board: PythonBoard, calls: PinCalls) {
    this.#board = board
    this.#calls = calls
  }

  /** A function that waits for so many seconds. */
  sleep(name: string, seconds: (given: number) => number): PyFunction {
    const made = fn(name, ([given]) => this.#calls.wait(seconds(asNumber(given)) * 1e6))
    made.held = ([given]) => {
      const until = this.#board.machine.now + seconds(asNumber(given)) * 1e6
      let said = false
      return new PyIterator(() => {
        if (said) return { done: true, value: null }
        said = true
        return { done: false, value: new Float(Math.max(0, until - this.#board.machine.now) / 1e6) }
      }, 'coroutine')
    }
    return made
  }

  /** A function that waits until something is so: the main program where it stands, a thread without holding it up. */
  waiting(name: string, of: (args: readonly Py[], named: Named) => Wait): PyFunction {
    const made = fn(name, (args, named) => {
      const { is, makes } = of(args, named)
      while (!is()) this.#calls.wait(LOOK * 1e6)
      return makes()
    })
    made.held = (args, named) => {
      const { is, makes } = of(args, named)
      return new PyIterator(
        () => (is() ? { done: true, value: makes() } : { done: false, value: new Float(LOOK) }),
        'coroutine',
      )
    }
    return made
  }

  /** A time limit, as a test of whether it is over; none for nothing and for less than nothing. */
  limit(seconds: Py): () => boolean {
    if (seconds === undefined || seconds === null || asNumber(seconds) < 0) return () => false
    const end = this.#board.machine.now + asNumber(seconds) * 1e6
    return () => this.#board.machine.now >= end
  }

  start(run: Py, args: readonly Py[], named: Named): Thread {
    const first = function* (): Generator<Py, Py, Py> {
      const made = invokeHeld(run, args, named)
      return made instanceof Waiting ? yield* delegated(made.from) : made
    }
    const steps = first()
    const thread: Thread = {
      from: new PyIterator((sent) => steps.next(sent), 'coroutine'),
      born: this.#board.machine.born,
      isOver: false,
    }
    this.#count += 1
    this.#board.hardware.aside(0, () => this.#goOn(thread))
    return thread
  }

  get number(): number {
    return this.#count
  }

  get now(): Thread | undefined {
    return this.#now
  }

  #goOn(thread: Thread): void {
    const { machine, hardware } = this.#board
    if (thread.isOver || thread.born !== machine.born) return
    const before = this.#now
    this.#now = thread
    try {
      const { done, value } = thread.from.next(null)
      if (done) thread.isOver = true
      else hardware.aside(Math.max(1, asNumber(value) * 1e6), () => this.#goOn(thread))
    } catch (error) {
      thread.isOver = true
      // A thread that ends itself is over, and nothing else.
      if (!isError(error, 'SystemExit')) throw error
    } finally {
      this.#now = before
    }
  }
}

const argsOf = (given: Py): Py[] => (given === undefined || given === null ? [] : listed(given))
const namedOf = (given: Py): Named =>
  given instanceof PyDict ? new Map([...given.entries.values()].map(([key, value]) => [String(key), value])) : none

/** A method that waits, put into a class. */
const method = (cls: PyClass, made: PyFunction): void => void cls.attrs.set(made.name, made)

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
    method(cls, acquire('acquire'))
    method(cls, acquire('__enter__'))
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
      __init__: (self, args, named) => {
        // What a class of the program hands on to the one that it builds on.
        for (const key of ['target', 'args', 'kwargs'] as const)
          if (named.has(key)) self.attrs.set(`_${key}`, named.get(key))
        for (const key of ['name', 'daemon'] as const) if (named.has(key)) self.attrs.set(key, named.get(key))
        void args
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
    const steps = (function* (): Generator<Py, Py, Py> {
      const target = self.attrs.get('_target')
      if (target === null) return null
      const made = invokeHeld(target, argsOf(self.attrs.get('_args')), namedOf(self.attrs.get('_kwargs')))
      return made instanceof Waiting ? yield* delegated(made.from) : made
    })()
    return new PyIterator((sent) => steps.next(sent), 'coroutine')
  }
  method(ThreadClass, run)
  method(
    ThreadClass,
    threads.waiting('join', ([self, timeout], named) => {
      const isOver = threads.limit(named.get('timeout') ?? timeout)
      return { is: () => started.get(self)?.isOver !== false || isOver(), makes: () => null }
    }),
  )

  const Event = nativeClass('Event', () => undefined, {
    set: (self) => {
      self.on = true
      return null
    },
    clear: (self) => {
      self.on = false
      return null
    },
    is_set: (self) => self.on,
  })
  method(
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
          const all = (function* (): Generator<Py, Py, Py> {
            yield* delegated(due.held!([], none))
            if (self.on) return null
            const made = invokeHeld(
              self.attrs.get('_target'),
              argsOf(self.attrs.get('_args')),
              namedOf(self.attrs.get('_kwargs')),
            )
            return made instanceof Waiting ? yield* delegated(made.from) : made
          })()
          return new PyIterator((sent) => all.next(sent), 'coroutine')
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
    method(
      cls,
      threads.waiting('get', ([self, block = true, timeout], named) => {
        const isOver = threads.limit(named.get('timeout') ?? timeout)
        const waits = isTrue(named.get('block') ?? block)
        const has = (): boolean => queueOf(self).all.length > 0
        return { is: () => has() || !waits || isOver(), makes: () => (has() ? takes(queueOf(self).all) : fail(Empty)) }
      }),
    )
    method(
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
    method(
      cls,
      threads.waiting('join', ([self]) => ({ is: () => queueOf(self).all.length === 0, makes: () => null })),
    )
    return cls
  }
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
    module('queue', [
      ['Queue', queueClass('Queue', (all) => all.shift())],
      ['SimpleQueue', queueClass('SimpleQueue', (all) => all.shift())],
      ['LifoQueue', queueClass('LifoQueue', (all) => all.pop())],
      ['Empty', Empty],
      ['Full', Full],
    ]),
  ]
}
