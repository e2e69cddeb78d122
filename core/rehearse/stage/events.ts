import type { Machine } from '../cpp/machine.ts'
import { Halt } from '../cpp/machine.ts'

/** What happens at a time of its own, whatever the program does. */
export class Events {
  readonly #machine: Machine
  readonly #due: { readonly at: number; readonly run: () => void }[] = []
  #until = Number.POSITIVE_INFINITY
  /** Asked now and then while the program runs, so that it can be held or ended from outside. */
  onSlice: (() => void) | undefined
  #slice = Number.POSITIVE_INFINITY
  static readonly SLICE = 10_000

  constructor(machine: Machine) {
    this.#machine = machine
    machine.onDue = () => this.reach(machine.now)
  }

  /** Ends the run at a time, in microseconds. */
  endAt(until: number): void {
    this.#until = until
    this.#slice = this.onSlice ? this.#machine.now + Events.SLICE : Number.POSITIVE_INFINITY
    this.#arm()
  }

  at(at: number, run: () => void): void {
    let place = this.#due.length
    while (place > 0 && this.#due[place - 1]!.at > at) place -= 1
    this.#due.splice(place, 0, { at, run })
    this.#arm()
  }

  #arm(): void {
    this.#machine.due = Math.min(this.#due[0]?.at ?? Number.POSITIVE_INFINITY, this.#until, this.#slice)
  }

  /** Lets time pass up to a moment; what is due happens at its own time. */
  reach(to: number): void {
    const machine = this.#machine
    if (to < machine.due) {
      if (to > machine.now) machine.now = to
      return
    }
    const end = Math.min(to, this.#until)
    while (this.#due.length > 0 && this.#due[0]!.at <= end) {
      const next = this.#due.shift()!
      this.#arm()
      machine.now = Math.max(machine.now, next.at)
      machine.acts += 1
      next.run()
    }
    machine.now = Math.max(machine.now, end)
    if (machine.now >= this.#slice) {
      this.#slice = machine.now + Events.SLICE
      this.onSlice?.()
    }
    this.#arm()
    if (to >= this.#until) throw new Halt('', machine.at)
  }
}
