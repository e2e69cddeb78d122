import { behaviourOutputs } from '../../catalog/behaviourSchema.ts'
import type { Language } from '../../catalog/boardSchema.ts'
import { volts } from '../../catalog/common.ts'
import type { Wiring } from '../../wiring/model.ts'
import type { RunKind } from './findings.ts'
import type { Handle } from './handles.ts'
import type { LiveCircuit } from './live.ts'
import { type LivePin, voltsWords } from './pins.ts'

/** What a judge of pins looks at, and to whom it says what it finds. */
export interface Judged {
  readonly wiring: Wiring
  readonly live: LiveCircuit
  readonly handles: ReadonlyMap<string, Handle>
  readonly language: Language
  /** Whether edges of a pin wake a handler. */
  readonly listens: (pin: LivePin) => boolean
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

/** Judges what is on the line of a pin: who works against it, what it carries and bears, whether anything holds it. */
export class PinJudge {
  readonly #wiring: Wiring
  readonly #live: LiveCircuit
  readonly #handles: ReadonlyMap<string, Handle>
  readonly #language: Language
  readonly #listens: Judged['listens']
  readonly #say: Judged['say']

  constructor({ wiring, live, handles, language, listens, say }: Judged) {
    this.#wiring = wiring
    this.#live = live
    this.#handles = handles
    this.#language = language
    this.#listens = listens
    this.#say = say
  }

  /** Whether a pin works against something, carries too much, or its line brings too many volts to another one. */
  pin(pin: LivePin, at: number): void {
    const { end, logicVolts, current } = pin.host
    this.tooHigh(pin, at)
    if (pin.setting === 'out' || pin.pulse) {
      const rail = pin.net.ground ? 0 : pin.net.sources[0]?.volts
      if (rail !== undefined && Math.abs(rail - (pin.high ? (logicVolts ?? 3.3) : 0)) > 0.5) {
        this.#say(
          'pin-fight',
          at,
          [end],
          `${end} drives ${pin.high ? 'high' : 'low'} against ${pin.net.ground ? 'ground' : `the ${voltsWords(rail)} of ${pin.net.sources[0]?.end}`}.`,
          'Nothing limits the current: pin or supply gives up first. Set it as an input, or take the wire away.',
        )
        return
      }
      const milliamps = Math.abs(this.#live.milliamps(end))
      const seen = this.#live.volts(pin.net.index)
      const wanted = pin.high ? (logicVolts ?? 3.3) : 0
      const others = this.#othersOn(pin)
      if (
        seen !== undefined &&
        milliamps > 20 &&
        Math.abs(seen - wanted) > 0.3 * (logicVolts ?? 3.3) &&
        others.length > 0 &&
        !pin.pulse
      ) {
        this.#say(
          'pin-fight',
          at,
          [end, ...others],
          `${end} drives ${pin.high ? 'high' : 'low'} against ${others.join(' and ')}: ${Math.round(milliamps)} mA flow between them.`,
          'Two outputs on one line must never drive different levels. One of them has to be an input, or let go.',
        )
        return
      }
      const most = current?.absolute
      if (most !== undefined && milliamps > most * 1.02)
        this.#say(
          'pin-current',
          at,
          [end],
          `${end} ${pin.high ? 'gives' : 'takes'} ${Math.round(milliamps)} mA; it bears ${most} mA.`,
          'A resistor in series limits the current; a load of its own needs a transistor.',
        )
    }
  }

  tooHigh(pin: LivePin, at: number): void {
    const seen = this.#live.volts(pin.net.index)
    const most = volts(pin.host.levels.most, pin.host.logicVolts)
    if (seen !== undefined && most !== undefined && pin.setting !== 'out' && seen > most + 0.05)
      this.#say(
        'too-many-volts',
        at,
        [pin.host.end],
        `${pin.host.end} gets ${voltsWords(seen)}; it bears ${voltsWords(most)}.`,
        'Two resistors as a divider, or a level shifter, bring the level down.',
      )
  }

  /** Ends of other things that drive the line of a pin. */
  #othersOn(pin: LivePin): string[] {
    const nets = new Set(this.#live.around(pin.net.index))
    const boards = this.#live
      .drivenBy(nets)
      .filter((end) => end !== pin.host.end && this.#wiring.terminal(end)?.boardPin !== undefined)
    const handles = [...this.#handles.values()]
      .filter(({ ends }) => ends.some((end) => nets.has(this.#wiring.netOf(end).index)))
      .map(({ name }) => name)
    return [...boards, ...handles]
  }

  floating(pin: LivePin, at: number): void {
    const contact = [...this.#handles.values()].find(
      ({ kind, ends }) => kind === 'contact' && ends.some((end) => this.#wiring.netOf(end) === pin.net),
    )
    const what = contact ? `${contact.name} is open, and nothing else holds the line` : 'nothing holds its line'
    this.#say(
      'read-floating',
      at,
      [pin.host.end, ...(contact ? [contact.name] : [])],
      `${pin.host.end} is ${this.#listens(pin) ? 'listened to' : 'read'} while ${what}.`,
      contact && pin.host.functions.has('pull-up')
        ? `It reads whatever the air brings. ${this.#language === 'cpp' ? 'INPUT_PULLUP instead of INPUT' : 'A pull-up, set together with the input,'} holds the line high while the contact is open; or a resistor does.`
        : 'It reads whatever the air brings. A resistor to the supply or to ground holds the line.',
    )
  }

  /** A part drives this line in a way that is not simulated. */
  isUnknown(pin: LivePin): boolean {
    const nets = this.#live.around(pin.net.index)
    return this.#wiring.signals.some(
      (use) =>
        use.facts.direction !== 'in' &&
        use.facts.direction !== 'passive' &&
        !behaviourOutputs(use.part.part.behaves).includes(use.facts.pin) &&
        nets.includes(this.#wiring.netOf(use.end).index) &&
        ![...this.#handles.values()].some(({ ends }) => ends.includes(use.end)),
    )
  }
}
