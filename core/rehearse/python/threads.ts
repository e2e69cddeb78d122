import { invokeHeld, isError, Waiting } from './attributes.ts'
import { delegated } from './calling.ts'
import { fn, type Named, type nativeClass, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asNumber } from './protocols.ts'
import { Float, type Py, type PyClass, type PyFunction, PyIterator } from './values.ts'

/** Seconds between two looks at what a thread or a task waits for. */
const LOOK = 0.0005

/** What a call waits for, and what it comes to then. */
interface Wait {
  readonly is: () => boolean
  readonly makes: () => Py
}

export interface Thread {
  readonly from: PyIterator
  /** When the program began that has made it: after a restart it is gone. */
  readonly born: number
  isOver: boolean
}

/** A call that runs on where it waited, step by step. */
export function* stepsOf(run: Py, args: readonly Py[], named: Named): Generator<Py, Py, Py> {
  const made = invokeHeld(run, args, named)
  return made instanceof Waiting ? yield* delegated(made.from) : made
}

/** Steps as a coroutine of Python. */
export const coroutineOf = (steps: Generator<Py, Py, Py>): PyIterator =>
  new PyIterator((sent) => steps.next(sent), 'coroutine')

/** Waits until something is so, looking again and again; then gives what it makes. */
export const until = (is: () => boolean, makes: () => Py = () => null): PyIterator =>
  new PyIterator(() => (is() ? { done: true, value: makes() } : { done: false, value: new Float(LOOK) }), 'coroutine')

/** What every event does, of threads and of tasks, besides to wait. */
export const eventMethods: Parameters<typeof nativeClass>[2] = {
  set: (self) => {
    self.on = true
    return null
  },
  clear: (self) => {
    self.on = false
    return null
  },
  is_set: (self) => self.on,
}

/** Puts a method that waits into a class. */
export const addMethod = (cls: PyClass, made: PyFunction): void => void cls.attrs.set(made.name, made)

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
      return until(is, makes)
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
    const thread: Thread = {
      from: coroutineOf(stepsOf(run, args, named)),
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
