import type { Machine } from './cpp/machine.ts'

/** Values of a program beyond which it is not compared: it would take longer than to run it. */
export const MOST_VALUES = 4096
/** Rounds between two looks at a loop that does something each time. */
const MOST_REST = 1024

/**
 * Passes over the rounds of a loop in which nothing happens. A round that called nothing but what reads, and after which all
 * variables are as before, comes out the same until something happens outside or a clock that it read goes on: so many rounds
 * are counted, and their time passes, without being run. The run is the same, only sooner.
 */
export class Idle {
  readonly #machine: Machine
  /** All that the program can reach of its variables, in the order in which it is found; undefined where that is much. */
  readonly #values: () => readonly unknown[] | undefined
  /** Rounds until it is looked at again, and how many the next rest has. */
  #rest = 1
  #next = 1
  #state: 'rests' | 'looks' | 'compares' = 'rests'
  #before: readonly unknown[] = []
  #from = 0
  #acts = 0
  #count = 0

  constructor(machine: Machine, values: () => readonly unknown[] | undefined) {
    this.#machine = machine
    this.#values = values
  }

  /**
   * A round is over.
   * @returns how many more like it have passed
   */
  round(): number {
    if (this.#state === 'rests') {
      this.#rest -= 1
      if (this.#rest > 0) return 0
      this.#look('looks')
      return 0
    }
    const machine = this.#machine
    if (machine.acts !== this.#acts || machine.idle !== this) return this.#restLonger()
    if (this.#state === 'looks') {
      const before = this.#values()
      if (!before) return this.#restLonger()
      this.#before = before
      this.#look('compares')
      return 0
    }
    const after = this.#values()
    if (!after || after.length !== this.#before.length) return this.#restLonger()
    for (let at = 0; at < after.length; at += 1) if (!Object.is(after[at], this.#before[at])) return this.#restLonger()
    const took = machine.now - this.#from
    // Each must end before what is due, and read the same of each clock.
    const free = Math.min(machine.due - machine.now, machine.passesUntil - machine.now, machine.slack)
    const more = took > 0 ? Math.ceil(free / took) - 1 : 0
    if (more > 0 && Number.isFinite(more)) {
      machine.now += more * took
      machine.passed += more * (machine.count - this.#count)
    }
    this.#next = 1
    this.#look('compares')
    return Math.max(0, more)
  }

  #look(state: 'looks' | 'compares'): void {
    const machine = this.#machine
    this.#state = state
    this.#from = machine.now
    this.#acts = machine.acts
    this.#count = machine.count
    machine.slack = Number.POSITIVE_INFINITY
    machine.idle = this
  }

  #restLonger(): 0 {
    this.#state = 'rests'
    this.#rest = this.#next
    this.#next = Math.min(MOST_REST, this.#next * 2)
    return 0
  }
}
