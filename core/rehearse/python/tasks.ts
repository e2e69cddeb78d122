import { fn, Native, nativeClass, none, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asNumber } from './protocols.ts'
import { eventMethods, until } from './threads.ts'
import { errorClasses, Float, type Py, PyFunction, PyIterator, PyList, type PyObject, raise } from './values.ts'

/** `asyncio`: tasks that take turns, each until the moment that it has asked for. */
export function taskModule(board: PythonBoard, { wait }: PinCalls): [string, Py][] {
  const { machine } = board
  interface Task {
    readonly from: PyIterator
    due: number
    done: boolean
    value: Py
  }
  const tasks: Task[] = []
  const sleeping = (seconds: number): PyIterator => {
    let said = false
    return new PyIterator(() => {
      if (said) return { done: true, value: null }
      said = true
      return { done: false, value: new Float(seconds) }
    }, 'coroutine')
  }
  const start = (from: Py): Task => {
    const task: Task = { from, due: machine.now, done: false, value: null }
    tasks.push(task)
    return task
  }
  const runUntil = (ends: () => boolean): void => {
    while (!ends()) {
      const next = tasks.filter(({ done }) => !done).sort((a, b) => a.due - b.due)[0]
      if (!next) return
      if (next.due > machine.now) wait(next.due - machine.now)
      const step = next.from.next(null)
      if (step.done) {
        next.done = true
        next.value = step.value
      } else next.due = machine.now + Math.max(1, asNumber(step.value) * 1e6)
    }
  }
  const awaiting = (task: Task): PyIterator =>
    until(
      () => task.done,
      () => task.value,
    )
  const cancel = (task: Task): void => {
    task.done = true
    task.from.close()
  }
  const taskOf = new Map<Native, Task>()
  const TaskClass = nativeClass('Task', () => undefined, {
    cancel: (self) => {
      const task = taskOf.get(self)
      if (!task || task.done) return false
      cancel(task)
      return true
    },
    done: (self) => taskOf.get(self)?.done ?? false,
    result: (self) => taskOf.get(self)?.value ?? null,
  })
  const Event = nativeClass('Event', () => undefined, {
    ...eventMethods,
    wait: (self) =>
      until(
        () => self.on,
        () => true,
      ),
  })
  const taking = (self: Native): PyIterator =>
    until(
      () => !self.on,
      () => {
        self.on = true
        return self
      },
    )
  const letGo = (self: Native): null => {
    if (!self.on) return raise('RuntimeError', 'Lock not acquired')
    self.on = false
    return null
  }
  const Lock = nativeClass('Lock', () => undefined, {
    acquire: taking,
    release: letGo,
    locked: (self) => self.on,
    __aenter__: taking,
    __aexit__: (self) =>
      until(
        () => true,
        () => letGo(self),
      ),
  })
  const itemsOf = (self: Native): Py[] => self.attrs.get('_items')
  const mostOf = (self: Native): number => self.attrs.get('_most')
  const Queue = nativeClass(
    'Queue',
    (self, [most]) => {
      self.attrs
        .set('_items', [])
        .set('_most', most === undefined || most === 0 ? Number.POSITIVE_INFINITY : Number(most))
    },
    {
      put: (self, [item]) =>
        until(
          () => itemsOf(self).length < mostOf(self),
          () => {
            itemsOf(self).push(item)
            return null
          },
        ),
      get: (self) =>
        until(
          () => itemsOf(self).length > 0,
          () => itemsOf(self).shift(),
        ),
      put_nowait: (self, [item]) => {
        itemsOf(self).push(item)
        return null
      },
      get_nowait: (self) => (itemsOf(self).length > 0 ? itemsOf(self).shift() : raise('IndexError', 'empty')),
      empty: (self) => itemsOf(self).length === 0,
      full: (self) => itemsOf(self).length >= mostOf(self),
      qsize: (self) => itemsOf(self).length,
    },
  )
  /** Waits for something, but no longer than so many microseconds. */
  const waitFor = (from: Py, microseconds: number): PyIterator => {
    const task = from instanceof Native ? taskOf.get(from) : start(from)
    const end = machine.now + microseconds
    return until(
      () => !task || task.done || machine.now >= end,
      () => {
        if (task && !task.done) {
          cancel(task)
          return raise('TimeoutError')
        }
        return task?.value ?? null
      },
    )
  }
  const taskObject = (task: Task): PyObject => {
    const made = new Native(TaskClass)
    taskOf.set(made, task)
    made.attrs.set(
      '__await__',
      fn('__await__', () => awaiting(task)),
    )
    return made
  }
  TaskClass.attrs.set(
    '__await__',
    new PyFunction('__await__', ([self]) => (self as Native).attrs.get('__await__').call([], none)),
  )
  return [
    ['sleep', fn('sleep', ([s]) => sleeping(asNumber(s)))],
    ['sleep_ms', fn('sleep_ms', ([ms]) => sleeping(asNumber(ms) / 1000))],
    [
      'run',
      fn('run', ([main]) => {
        const task = start(main)
        runUntil(() => task.done)
        return task.value
      }),
    ],
    ['Event', Event],
    ['ThreadSafeFlag', Event],
    ['Lock', Lock],
    ['Queue', Queue],
    ['TimeoutError', errorClasses.get('TimeoutError')],
    ['CancelledError', errorClasses.get('CancelledError')],
    ['wait_for', fn('wait_for', ([from, seconds]) => waitFor(from, asNumber(seconds) * 1e6))],
    ['wait_for_ms', fn('wait_for_ms', ([from, ms]) => waitFor(from, asNumber(ms) * 1000))],
    ['create_task', fn('create_task', ([from]) => taskObject(start(from)))],
    [
      'gather',
      fn('gather', (all) => {
        const own = all.map((one) => (one instanceof PyIterator ? start(one) : undefined))
        return until(
          () => own.every((one) => !one || one.done),
          () => new PyList(own.map((one) => one?.value ?? null)),
        )
      }),
    ],
    [
      'get_event_loop',
      fn('get_event_loop', () => {
        const made = new Native(nativeClass('Loop', () => undefined, {}))
        made.attrs.set(
          'create_task',
          fn('create_task', ([from]) => taskObject(start(from))),
        )
        made.attrs.set(
          'run_until_complete',
          fn('run_until_complete', ([main]) => {
            const task = start(main)
            runUntil(() => task.done)
            return task.value
          }),
        )
        made.attrs.set(
          'run_forever',
          fn('run_forever', () => {
            runUntil(() => false)
            return null
          }),
        )
        return made
      }),
    ],
  ]
}
