import { fn, Native, nativeClass, none, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asNumber, Float, type Py, PyFunction, PyIterator, PyList, type PyObject } from './values.ts'

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
    new PyIterator(
      () => (task.done ? { done: true, value: task.value } : { done: false, value: new Float(0.0005) }),
      'coroutine',
    )
  const TaskClass = nativeClass('Task', () => undefined, { cancel: () => null, done: () => false })
  const taskObject = (task: Task): PyObject => {
    const made = new Native(TaskClass)
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
    ['create_task', fn('create_task', ([from]) => taskObject(start(from)))],
    [
      'gather',
      fn('gather', (all) => {
        const own = all.map((one) => (one instanceof PyIterator ? start(one) : undefined))
        return new PyIterator(
          () =>
            own.every((one) => !one || one.done)
              ? { done: true, value: new PyList(own.map((one) => one?.value ?? null)) }
              : { done: false, value: new Float(0.0005) },
          'coroutine',
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
