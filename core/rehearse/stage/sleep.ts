import type { Sleep, StartCause, WakePins } from '../platform/hardware.ts'
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
  /** Does something at a moment. */
  at(moment: number, run: () => void): void
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
  say(kind: RunKind, ends: readonly string[], message: string, why: string): void
}

/** Pins of the board that wake it. */
interface Waking {
  readonly pins: readonly LivePin[]
  readonly how: WakePins
}

/** Sleeping, waking, and beginning anew. */
export class BoardSleep implements Sleep {
  cause: StartCause = 'power'
  wokenAs: number | undefined
  readonly #board: Sleeper
  #after: number | undefined
  #pins: WakePins[] = []
  /** Microseconds that the watchdog waits, and the moment at which it bites; neither while it is off. */
  #guard: number | undefined
  #bites = Number.POSITIVE_INFINITY

  constructor(board: Sleeper) {
    this.#board = board
  }

  after(microseconds: number | undefined): void {
    this.#after = microseconds
  }

  onPins(pins: WakePins | undefined): void {
    if (pins) this.#pins.push(pins)
    else this.#pins = []
  }

  light(at: number, how: { readonly stands?: boolean; readonly served?: boolean } = {}): void {
    const from = this.#board.now()
    this.#until(this.#waking(at), how.served === true)
    if (how.stands) this.#board.stands(this.#board.now() - from)
  }

  deep(at: number, own = true): never {
    const waking = this.#waking(at)
    const open = own && this.#after !== undefined ? this.#board.unjoined() : undefined
    if (open)
      this.#board.say(
        'sleeps-on',
        open,
        `The board sleeps here and does not wake: ${open.join(' and ')} are not joined.`,
        'Its clock wakes it by pulling its own reset low, over a wire from one post to the other. Join them, and take the wire out while a program is loaded: some boards take none with it.',
      )
    else if (this.#after === undefined && waking.length === 0 && own)
      this.#board.say(
        'sleeps-on',
        [],
        'The board sleeps here, and nothing is set to wake it.',
        'Only its reset button, or new power, starts it again. Set a time or a pin that wakes it before it sleeps.',
      )
    this.guard(undefined)
    this.#board.release(new Set(waking.flatMap(({ pins }) => pins)))
    if (open) this.#after = undefined
    throw new Restart(this.#until(waking, false))
  }

  restart(cause: StartCause): never {
    throw new Restart(cause)
  }

  guard(microseconds: number | undefined): void {
    const wasOff = this.#guard === undefined
    this.#guard = microseconds
    this.feed()
    if (wasOff && microseconds !== undefined) this.#watch()
  }

  feed(): void {
    this.#bites = this.#guard === undefined ? Number.POSITIVE_INFINITY : this.#board.now() + this.#guard
  }

  /** Looks at the moment at which the watchdog is to bite, whatever the program does then; it may have been fed. */
  #watch(): void {
    this.#board.at(this.#bites, () => {
      if (this.#guard === undefined) return
      if (this.#board.now() < this.#bites) {
        this.#watch()
        return
      }
      this.#board.say(
        'bitten',
        [],
        'The watchdog starts the program anew: nothing has fed it in time.',
        'What the program knew is forgotten, and its pins are let go. Feed it more often, or give it more time.',
      )
      throw new Restart('watchdog')
    })
  }

  /** The program begins anew: what was set is forgotten. */
  begin(cause: StartCause): void {
    this.cause = cause
    this.#after = undefined
    this.#pins = []
    this.guard(undefined)
  }

  #waking(at: number): Waking[] {
    return this.#pins.map((how) => ({
      how,
      pins: how.numbers.flatMap((number) => {
        const pin = this.#board.pinOf(number, at, 'waking')
        if (pin) pin.reads += 1
        return pin ?? []
      }),
    }))
  }

  /** Sleeps until something wakes, and says what; for ever where nothing does. */
  #until(waking: readonly Waking[], served: boolean): StartCause {
    const board = this.#board
    const until = this.#after === undefined ? Number.POSITIVE_INFINITY : board.now() + this.#after
    const before = board.served()
    this.wokenAs = undefined
    for (const { pins, how } of waking)
      for (const pin of pins)
        if (board.isHigh(pin) === undefined && pin.net.wired)
          board.say(
            'read-floating',
            [pin.host.end],
            `${pin.host.end} is to wake the board, and nothing holds its line.`,
            `It wakes by itself whenever the line drifts ${how.high ? 'high' : 'low'}. A resistor holds it at the resting level, also while the pulls inside are asleep.`,
          )
    for (;;) {
      const by = waking.find(({ pins, how }) => {
        const is = (pin: LivePin): boolean => board.isHigh(pin) === how.high
        return how.all ? pins.length > 0 && pins.every(is) : pins.some(is)
      })
      if (by) this.wokenAs = by.how.as
      if (by || (served && board.served() > before)) return 'pin'
      if (board.now() >= until) return 'time'
      board.reach(Math.min(until, Math.max(board.now() + 1, board.due())))
    }
  }
}
