import { Halt, type Machine } from '../cpp/machine.ts'
import type { Wait } from '../cpp/program.ts'
import type { Type } from '../cpp/types.ts'
import { VOID } from '../cpp/types.ts'
import { copied, Ptr, type Value } from '../cpp/values.ts'

/** Microseconds of one tick of the system, and the number of ticks that means for ever. */
export const TICK = 1000
export const FOR_EVER = 0xffff_ffff
/** A row of things that tasks hand on; a semaphore is one of nothings. */
interface Queue {
  readonly most: number
  /** Bytes of one thing. */
  readonly size: number
  readonly items: Value[]
  /** Of a lock that its holder may take again: who that is, undefined for the main program, and how often. */
  holder: unknown
  depth: number
}

/** What the calls of queues are made with. */
interface Queues {
  readonly machine: Machine
  readonly int: Type
  readonly handle: Type
  readonly add: (
    name: string,
    returns: Type,
    count: readonly [number, number],
    run: (args: readonly Value[], at: number, types: readonly Type[]) => Value,
    waits?: (args: readonly Value[]) => Wait,
  ) => void
  /** Somebody may go on now. */
  readonly wake: () => void
  /** The task that runs; undefined while it is the main program. */
  readonly now: () => unknown
}

/** Queues, semaphores and locks: a semaphore is a queue of nothings. */
export function addQueues({ machine, int, handle, add, wake, now }: Queues): void {
  const made = (most: number, size: number, items: Value[] = []): Ptr =>
    new Ptr([{ most, size, items, holder: undefined, depth: 0 } satisfies Queue], 0)
  const queueOf = (value: Value, at: number): Queue => {
    if (value instanceof Ptr) return value.base[value.at] as Queue
    throw new Halt('a queue or semaphore is used before it has been made: the board starts anew here', at)
  }
  add('xQueueCreate', handle, [2, 2], ([most, size]) => made(Number(most), Number(size)))
  add('xSemaphoreCreateBinary', handle, [0, 0], () => made(1, 0))
  add('xSemaphoreCreateMutex', handle, [0, 0], () => made(1, 0, [0]))
  add('xSemaphoreCreateRecursiveMutex', handle, [0, 0], () => made(1, 0, [0]))
  add('xSemaphoreCreateCounting', handle, [2, 2], ([most, first]) =>
    made(
      Number(most),
      0,
      Array.from({ length: Number(first) }, () => 0),
    ),
  )
  const room =
    (timeAt: number) =>
    (args: readonly Value[]): Wait => {
      const queue = queueOf(args[0], machine.at)
      return { microseconds: microsecondsOf(args[timeAt]), ready: () => queue.items.length < queue.most }
    }
  const something =
    (timeAt: number) =>
    (args: readonly Value[]): Wait => {
      const queue = queueOf(args[0], machine.at)
      return { microseconds: microsecondsOf(args[timeAt]), ready: () => queue.items.length > 0 }
    }
  const put = (queue: Queue, item: Value, isFirst: boolean): number => {
    if (queue.items.length >= queue.most) return 0
    if (isFirst) queue.items.unshift(item)
    else queue.items.push(item)
    wake()
    return 1
  }
  for (const [name, isFirst] of [
    ['xQueueSend', false],
    ['xQueueSendToBack', false],
    ['xQueueSendToFront', true],
  ] as const)
    add(
      name,
      int,
      [3, 3],
      ([of, from], at, types) => {
        const queue = queueOf(of, at)
        return put(queue, taken(from, queue.size, types[1]), isFirst)
      },
      room(2),
    )
  for (const name of ['xQueueSendFromISR', 'xQueueSendToBackFromISR'])
    add(name, int, [3, 3], ([of, from], at, types) => {
      const queue = queueOf(of, at)
      return put(queue, taken(from, queue.size, types[1]), false)
    })
  add('xQueueOverwrite', int, [2, 2], ([of, from], at, types) => {
    const queue = queueOf(of, at)
    queue.items.length = 0
    return put(queue, taken(from, queue.size, types[1]), false)
  })
  for (const [name, keeps] of [
    ['xQueueReceive', false],
    ['xQueuePeek', true],
  ] as const)
    add(
      name,
      int,
      [3, 3],
      ([of, to], at) => {
        const { items } = queueOf(of, at)
        if (items.length === 0) return 0
        const item = keeps ? items[0] : items.shift()
        if (to instanceof Ptr) give(to, item)
        wake()
        return 1
      },
      something(2),
    )
  add('uxQueueMessagesWaiting', int, [1, 1], ([of], at) => queueOf(of, at).items.length)
  add('uxQueueSpacesAvailable', int, [1, 1], ([of], at) => queueOf(of, at).most - queueOf(of, at).items.length)
  add('xQueueReset', int, [1, 1], ([of], at) => {
    queueOf(of, at).items.length = 0
    return 1
  })
  add('xSemaphoreTake', int, [2, 2], ([of], at) => (queueOf(of, at).items.shift() === undefined ? 0 : 1), something(1))
  add('xSemaphoreGive', int, [1, 1], ([of], at) => put(queueOf(of, at), 0, false))
  const holds = (lock: Queue): boolean => lock.depth > 0 && lock.holder === now()
  add(
    'xSemaphoreTakeRecursive',
    int,
    [2, 2],
    ([of], at) => {
      const lock = queueOf(of, at)
      if (!holds(lock) && lock.items.shift() === undefined) return 0
      lock.holder = now()
      lock.depth += 1
      return 1
    },
    ([of, time]) => {
      const lock = queueOf(of, machine.at)
      const isOwn = holds(lock)
      return { microseconds: microsecondsOf(time), ready: () => isOwn || lock.items.length > 0 }
    },
  )
  add('xSemaphoreGiveRecursive', int, [1, 1], ([of], at) => {
    const lock = queueOf(of, at)
    if (!holds(lock)) return 0
    lock.depth -= 1
    return lock.depth > 0 ? 1 : put(lock, 0, false)
  })
  add('xSemaphoreGiveFromISR', int, [2, 2], ([of], at) => put(queueOf(of, at), 0, false))
  for (const name of ['vQueueDelete', 'vSemaphoreDelete']) add(name, VOID, [1, 1], () => undefined)
}

/** Microseconds of so many ticks. */
export const microsecondsOf = (ticks: Value): number => {
  const many = Number(ticks ?? 0)
  return many >= FOR_EVER ? Number.POSITIVE_INFINITY : many * TICK
}

/** What a pointer points at, as a queue keeps it: a copy; of bytes as many as one thing has. */
function taken(from: Value, size: number, type: Type | undefined): Value {
  if (!(from instanceof Ptr)) return from
  const isBytes = type?.is === 'pointer' && type.to.is === 'int' && type.to.bits === 8
  return isBytes && size > 1 ? from.base.slice(from.at, from.at + size) : copied(from.base[from.at])
}

/** Puts what a queue has kept where a pointer points. */
function give(to: Ptr, item: Value): void {
  if (Array.isArray(item) && !Array.isArray(to.base[to.at]))
    for (const [at, one] of item.entries()) to.base[to.at + at] = one
  else to.base[to.at] = copied(item)
}
