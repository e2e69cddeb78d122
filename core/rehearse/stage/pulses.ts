import type { BoardInstance } from '../../wiring/model.ts'
import type { Machine } from '../cpp/machine.ts'
import type { RunKind } from './findings.ts'
import type { LivePin } from './pins.ts'

interface Pulsing {
  readonly board: BoardInstance
  readonly machine: Machine
  /** Pulses a second where a program says nothing. */
  readonly pulseHertz: number
  pin(number: number): LivePin | undefined
  pinOf(number: number, counts: 'pin', at: number, call: string): LivePin | undefined
  able(pin: LivePin, what: string, at: number, call: string, words: string): boolean
  apply(pin: LivePin, at: number): void
  isHigh(pin: LivePin): boolean | undefined
  tooHigh(pin: LivePin, at: number): void
  reach(until: number): void
  afterwards(microseconds: number, run: () => void): void
  say(kind: RunKind, at: number, ends: readonly string[], message: string, why: string): void
}

/** Pulses and tones at pins, the timers that make them, and the measuring of pulses. */
export class Pulses {
  readonly #stage: Pulsing

  constructor(stage: Pulsing) {
    this.#stage = stage
  }

  /** The program begins anew. */
  clear(): void {
    this.#timed.clear()
    this.#taken.clear()
  }

  pulse(
    number: number,
    duty: number,
    hertz: number | undefined,
    at: number,
    maker: 'timer' | 'library' = 'timer',
  ): void {
    const pin = this.#stage.pinOf(number, 'pin', at, maker === 'timer' ? 'analogWrite' : 'attach')
    if (!pin) return
    pin.everOutput[0] = true
    const able =
      maker === 'timer'
        ? this.#stage.able(pin, 'pwm', at, 'analogWrite', 'makes no pulses: it is only high or low')
        : this.#stage.able(pin, 'digital-out', at, 'attach', 'is no output')
    pin.setting = 'out'
    pin.pulse = able && duty > 0 && duty < 1 ? { duty, hertz: hertz ?? this.#stage.pulseHertz } : undefined
    pin.high = able ? duty >= 1 : duty >= 0.5
    if (maker === 'timer') {
      if (pin.pulse) this.#timed.set(pin, at)
      else this.#timed.delete(pin)
      this.#sayTaken(pin, at)
    }
    this.#stage.apply(pin, at)
  }

  takesTimers(id: 'servo-library' | 'tone-library', at: number): void {
    const feature = this.#stage.board.board.features.find((one) => one.id === id)
    if (!feature || feature.timers.every((timer) => this.#taken.has(timer))) return
    for (const timer of feature.timers) this.#taken.set(timer, feature.title)
    for (const [pin] of this.#timed) this.#sayTaken(pin, at)
  }

  /** Pins at which a timer makes pulses, and timers that libraries have taken. */
  readonly #timed = new Map<LivePin, number>()
  readonly #taken = new Map<string, string>()

  #sayTaken(pin: LivePin, at: number): void {
    if (!this.#timed.has(pin)) return
    const timer = this.#stage.board.board.timers.find(({ channels }) =>
      Object.values(channels).some((pins) => pins.some((id) => this.#stage.board.facts.pin(id)?.net === pin.facts.net)),
    )
    const taker = timer && this.#taken.get(timer.id)
    if (timer && taker)
      this.#stage.say(
        'timer-taken',
        at,
        [pin.host.end],
        `${pin.host.end} gets its pulses from ${timer.id}, and the ${taker.toLowerCase()} has taken it.`,
        'The pin makes no pulses any more, or the library stumbles. Another pin with pulses, on another timer, works.',
      )
  }

  tone(number: number, hertz: number, milliseconds: number | undefined, at: number): void {
    const pin = this.#stage.pinOf(number, 'pin', at, 'tone')
    if (!pin) return
    if (!this.#stage.able(pin, 'digital-out', at, 'tone', 'is no output')) return
    this.takesTimers('tone-library', at)
    pin.setting = 'out'
    pin.everOutput[0] = true
    pin.pulse = { duty: 0.5, hertz }
    this.#stage.apply(pin, at)
    const { pulse } = pin
    if (milliseconds)
      this.#stage.afterwards(milliseconds * 1000, () => {
        if (pin.pulse === pulse) this.noTone(number, at)
      })
  }

  noTone(number: number, at: number): void {
    const pin = this.#stage.pin(number)
    if (!pin) return
    pin.pulse = undefined
    pin.high = false
    this.#stage.apply(pin, at)
  }

  pulseIn(number: number, high: boolean, timeout: number, at: number): number {
    const pin = this.#stage.pinOf(number, 'pin', at, 'pulseIn')
    if (!pin) return 0
    pin.reads += 1
    const machine = this.#stage.machine
    const until = machine.now + timeout
    this.#stage.tooHigh(pin, at)
    const reach = (wanted: boolean): boolean => {
      while (machine.now < until) {
        if (this.#stage.isHigh(pin) === wanted) return true
        this.#stage.reach(Math.min(until, this.#nextChange(until)))
      }
      return this.#stage.isHigh(pin) === wanted
    }
    if (!reach(!high) || !reach(high)) return 0
    const from = machine.now
    if (!reach(!high)) return 0
    pin.reads += 1
    this.#stage.tooHigh(pin, at)
    return Math.round(machine.now - from)
  }

  #nextChange(until: number): number {
    const { due } = this.#stage.machine
    return Number.isFinite(due) ? Math.min(until, Math.max(this.#stage.machine.now + 1, due)) : until
  }
}
