import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import type { RunKind } from './findings.ts'
import type { LivePin, LivePins } from './pins.ts'

interface Asking {
  readonly board: BoardInstance
  readonly pins: LivePins
  readonly language: Language
  say(kind: RunKind, at: number, ends: readonly string[], message: string, why: string): void
}

/** Pins that a program asks for, and what is wrong with its asking. */
export class AskedPins {
  readonly #stage: Asking
  /** Pins without a wire of which that was said. */
  readonly #bare = new Set<LivePin>()

  constructor(stage: Asking) {
    this.#stage = stage
  }

  /** The pin that a number of the program means; what is wrong with it is said. */
  pinOf(number: number, counts: 'pin' | 'analog' | 'interrupt', at: number, call: string): LivePin | undefined {
    if (this.#stage.pins.isInside(number)) return undefined
    // In Python a pin is always meant by its own name.
    const pin = this.#stage.pins.pin(number, this.#stage.language === 'cpp' ? counts : 'pin')
    if (!pin) {
      this.#stage.say(
        'no-such-pin',
        at,
        [this.#stage.board.ref],
        `${this.#words(call)} names ${number}, and ${this.#stage.board.title} has no such pin.`,
        'Nothing happens on the board, or something on a pin that is not brought out.',
      )
      return undefined
    }
    if (!pin.net.wired && !this.#bare.has(pin)) {
      this.#bare.add(pin)
      const isOnboard = pin.facts.cautions.some(({ id }) => id.startsWith('onboard'))
      if (!isOnboard && this.#stage.pins.names.get('LED_BUILTIN') !== pin.number)
        this.#stage.say(
          'nothing-there',
          at,
          [pin.host.end],
          `${this.#words(call)} uses ${pin.host.end}, to which the plan has wired nothing.`,
          'Either the program means another pin, or a wire is missing in the plan.',
        )
    }
    return pin
  }

  /** A call as the platform of the program names it; in Python they go by many names. */
  #words(call: string): string {
    return this.#stage.language === 'cpp' ? call : 'The program'
  }

  /** A pin that a program has written and the board has not. */
  sayNoPin(written: string, at: number): void {
    this.#stage.say(
      'no-such-pin',
      at,
      [this.#stage.board.ref],
      `The program names ${written}, and ${this.#stage.board.title} has no such pin.`,
      'The program ends here, with an error for an invalid pin.',
    )
  }

  able(pin: LivePin, what: string, at: number, call: string, words: string): boolean {
    if (pin.host.functions.has(what)) return true
    this.#stage.say(
      'not-able',
      at,
      [pin.host.end],
      `${this.#words(call)}: ${pin.host.end} ${words}.`,
      pin.facts.note ?? 'The catalogue lists what each pin can do; another pin of the board can.',
    )
    return false
  }
}
