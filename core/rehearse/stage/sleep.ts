import type { Sleep, StartCause, WakePin } from '../platform/hardware.ts'
import type { RunKind } from './findings.ts'
import type { LivePin } from './pins.ts'

/** The program of a board begins anew. */
export class Restart extends Error {
  override name = 'Restart'
  readonly by: StartCause

  constructor(by: StartCause) {
    super(`begins anew: ${by}`)
    this.by = by
  }
}

/** What sleeping asks of the board that sleeps. */
interface Sleeper {
  now(): number
  /** Lets time pass up to a moment, and no further than to what is due before. */
  reach(until: number): void
  /** When something is due next. */
  due(): number
  /** How many handlers have been called so far. */
  served(): number
  pinOf(number: number, at: number, call: string): LivePin | undefined
  /** Level of a pin; undefined for one that nothing holds. */
  isHigh(pin: LivePin): boolean | undefined
  /** Time that the board's own clock does not count. */
  stands(microseconds: number): void
  /** Pins are let go, handlers and clocks of the program forgotten. */
  release(kept: ReadonlySet<LivePin>): void
  /** Posts that the board needs joined to be woken by its own clock, and are not. */
  unjoined(): readonly string[] | undefined
  say(kind: RunKind, at: number, ends: readonly string[], message: string, why: string): void
}

/** Sleeping, waking, and beginning anew. */
export class BoardSleep implements Sleep {
  cause: StartCause = 'power'
  readonly #board: Sleeper
  #after: number | undefined
  #pins: WakePin[] = []
  /** The watchdog: what it waits for, and the moment at which it bites. */
  #guard: { readonly microseconds: number } | undefined
  #bites = Number.POSITIVE_INFINITY

  constructor(board: Sleeper) {
    this.#board = board
  }

  after(microseconds: number | undefined): void {
    this.#after = microseconds
  }

  onPin(pin: WakePin | undefined): void {
    if (pin) this.#pins.push(pin)
    else this.#pins = []
  }

  light(at: number, how: { readonly stands?: boolean; readonly served?: boolean } = {}): void {
    const from = this.#board.now()
    this.#until(at, how.served === true)
    if (how.stands) this.#board.stands(this.#board.now() - from)
  }

  deep(at: number, own = true): never {
    const pins = this.#awake(at)
    const open = own && this.#after !== undefined ? this.#board.unjoined() : undefined
    if (open)
      this.#board.say(
        'sleeps-on',
        at,
        open,
        `The board sleeps here and does not wake: ${open.join(' and ')} are not joined.`,
        'Its clock wakes it by a short low on its own reset, over a wire from one post to the other. The wire is put in when the program is loaded: with it no program can be loaded on some boards.',
      )
    else if (this.#after === undefined && pins.length === 0 && own)
      this.#board.say(
        'sleeps-on',
        at,
        [],
        'The board sleeps here, and nothing is set to wake it.',
        'Only its reset button, or new power, starts it again. A time or a pin that wakes it is set before it sleeps.',
      )
    this.#board.release(new Set(pins.map(({ pin }) => pin)))
    if (open) this.#after = undefined
    throw new Restart(this.#until(at, false))
  }

  restart(cause: StartCause): never {
    throw new Restart(cause)
  }

  guard(microseconds: number | undefined): void {
    this.#guard = microseconds === undefined ? undefined : { microseconds }
    this.feed()
  }

  feed(): void {
    this.#bites = this.#guard ? this.#board.now() + this.#guard.microseconds : Number.POSITIVE_INFINITY
  }

  /** When the watchdog bites; infinite while it is off. */
  get bites(): number {
    return this.#bites
  }

  /** The program begins anew: what was set is forgotten. */
  begin(cause: StartCause): void {
    this.cause = cause
    this.#after = undefined
    this.#pins = []
    this.guard(undefined)
  }

  #awake(at: number): { readonly pin: LivePin; readonly high: boolean }[] {
    return this.#pins.flatMap(({ number, high }) => {
      const pin = this.#board.pinOf(number, at, 'waking')
      if (pin) pin.reads += 1
      return pin ? [{ pin, high }] : []
    })
  }

  /** Sleeps until something wakes, and says what; for ever where nothing does. */
  #until(at: number, served: boolean): StartCause {
    const board = this.#board
    const until = this.#after === undefined ? Number.POSITIVE_INFINITY : board.now() + this.#after
    const pins = this.#awake(at)
    const before = board.served()
    for (const { pin, high } of pins)
      if (board.isHigh(pin) === undefined && pin.net.wired)
        board.say(
          'read-floating',
          at,
          [pin.host.end],
          `${pin.host.end} is to wake the board, and nothing holds its line.`,
          `It wakes by itself whenever the line drifts ${high ? 'high' : 'low'}. A resistor holds it at the resting level, also while the pulls inside are asleep.`,
        )
    for (;;) {
      if (pins.some(({ pin, high }) => board.isHigh(pin) === high)) return 'pin'
      if (served && board.served() > before) return 'pin'
      if (board.now() >= until) return 'time'
      board.reach(Math.min(until, Math.max(board.now() + 1, board.due())))
    }
  }
}
