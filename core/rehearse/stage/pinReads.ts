import type { AskedPins } from './askedPins.ts'
import type { RunKind } from './findings.ts'
import type { LiveCircuit } from './live.ts'
import type { PinJudge } from './pinJudge.ts'
import { type LivePin, type LivePins, voltsWords } from './pins.ts'
import type { Reference } from './reference.ts'

/** What reading a pin asks of its board. */
interface Board {
  readonly pins: LivePins
  readonly live: LiveCircuit
  readonly judge: PinJudge
  readonly reference: Reference
  /** Bits of what a program reads of the converter. */
  readonly readBits: number
  readonly pinOf: (...asked: Parameters<AskedPins['pinOf']>) => LivePin | undefined
  readonly able: (...asked: Parameters<AskedPins['able']>) => boolean
  /** The last level that was surely one, where the line is at none. */
  readonly isHigh: (pin: LivePin) => boolean | undefined
  /** Told when what is read is not the same each time. */
  readonly byChance: () => void
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

/** What a program reads at its pins: levels and volts, and something by chance where nothing holds the line. */
export class PinReads {
  readonly #board: Board
  #noise = 12345

  constructor(board: Board) {
    this.#board = board
  }

  read(number: number, at: number): boolean {
    const { pins, judge, pinOf, able, say } = this.#board
    const pin = pinOf(number, 'pin', at, 'digitalRead')
    if (!pin) return false
    pin.reads += 1
    if (!able(pin, 'digital-in', at, 'digitalRead', 'reads no levels')) return false
    const { is, volts: seen } = pins.level(pin)
    judge.tooHigh(pin, at)
    if (is === 'floating') {
      this.floats(pin, at)
      return this.#chance() > 0.5
    }
    if (is === 'between') {
      say(
        'weak-level',
        at,
        [pin.host.end],
        `${pin.host.end} is read while its line is at ${voltsWords(seen)}, which is neither surely high nor surely low.`,
        'What is read may be either, and change with warmth. The line needs a stronger pull, or a shifter.',
      )
      return (seen ?? 0) > (pin.host.logicVolts ?? 3.3) / 2
    }
    return is === 'high'
  }

  /** A level as a register has it: nothing is said of it. */
  level(number: number): boolean {
    const { pins, isHigh } = this.#board
    const pin = pins.pin(number, 'pin')
    if (!pin) return false
    pin.reads += 1
    return isHigh(pin) ?? this.#chance() > 0.5
  }

  analog(number: number, at: number, taken: number | 'outside' | 'supply' | undefined): number {
    const { live, judge, reference, readBits, pinOf, able } = this.#board
    const pin = pinOf(number, 'analog', at, 'analogRead')
    if (!pin) return 0
    pin.reads += 1
    if (!able(pin, 'analog-in', at, 'analogRead', 'has no converter')) return 0
    const full = 2 ** readBits - 1
    const seen = live.volts(pin.net.index)
    judge.tooHigh(pin, at)
    if (seen === undefined) {
      this.floats(pin, at)
      return Math.round(full * (0.2 + 0.3 * this.#chance()))
    }
    const scale = reference.fullScale(at, taken)
    if (scale === undefined) return Math.round(full * this.#chance())
    return Math.max(0, Math.min(full, Math.round((seen / scale) * full)))
  }

  /** Said of a pin with a wire at which nothing holds a level. */
  floats(pin: LivePin, at: number): void {
    const { judge } = this.#board
    if (pin.net.wired && !judge.isUnknown(pin)) judge.floating(pin, at)
  }

  #chance(): number {
    this.#board.byChance()
    this.#noise = (this.#noise * 16807) % 0x7fffffff
    return this.#noise / 0x7fffffff
  }
}
