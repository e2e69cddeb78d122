import type { Callable } from '../cpp/values.ts'
import type { Edge } from '../platform/hardware.ts'
import type { LivePin } from './pins.ts'

/** What calls a program from outside: edges that its handlers wait for, and clocks. */
export class Handlers {
  readonly #listening = new Map<LivePin, { readonly edge: Edge; readonly handler: Callable }>()
  readonly #waiting: LivePin[] = []
  readonly #calls: (() => void)[] = []
  #masked = false
  /** A handler runs now. */
  isRunning = false
  /** Handlers called so far. */
  served = 0

  /** Handlers wait while this is true. */
  get masked(): boolean {
    return this.#masked
  }

  set masked(to: boolean) {
    this.#masked = to
    if (!to) this.serve()
  }

  listens(pin: LivePin): boolean {
    return this.#listening.has(pin)
  }

  listen(pin: LivePin, edge: Edge, handler: Callable): void {
    this.#listening.set(pin, { edge, handler })
  }

  forget(pin: LivePin): void {
    this.#listening.delete(pin)
  }

  /** The program begins anew. */
  clear(): void {
    this.#listening.clear()
    this.#waiting.length = 0
    this.#calls.length = 0
    this.#masked = false
  }

  /** Sees whether the level of a pin has changed to what somebody waits for. */
  watch(pin: LivePin, now: boolean | undefined): void {
    const before = pin.seen
    if (now === before) return
    pin.seen = now
    const listens = this.#listening.get(pin)
    if (!listens || now === undefined) return
    const { edge } = listens
    if (before === undefined) return
    if (edge === 'change' || edge === (now ? 'rising' : 'falling') || edge === (now ? 'high' : 'low')) {
      pin.reads += 1
      this.#waiting.push(pin)
    }
  }

  /** Something calls the program from outside. */
  readonly interrupt = (run: () => void): void => {
    this.#calls.push(run)
    this.serve()
  }

  /** Runs handlers of calls and edges that have come, unless they are held back. */
  serve(): void {
    if (this.#masked || this.isRunning) return
    this.isRunning = true
    try {
      for (let run = this.#calls.shift(); run; run = this.#calls.shift()) {
        this.served += 1
        run()
      }
      for (let pin = this.#waiting.shift(); pin; pin = this.#waiting.shift()) {
        this.served += 1
        this.#listening.get(pin)?.handler.call([])
      }
    } finally {
      this.isRunning = false
    }
  }
}
