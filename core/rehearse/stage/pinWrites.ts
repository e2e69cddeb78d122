import type { Language } from '../../catalog/boardSchema.ts'
import type { PinSetting } from '../platform/hardware.ts'
import type { AskedPins } from './askedPins.ts'
import type { RunKind } from './findings.ts'
import type { LiveCircuit } from './live.ts'
import type { LivePin, LivePins } from './pins.ts'

/** What moving a pin asks of its board. */
interface Board {
  readonly pins: LivePins
  readonly live: LiveCircuit
  readonly language: Language
  /** On eight-bit boards the pull of an input is switched by writing to it. */
  readonly pullsByWriting: boolean
  readonly pinOf: (...asked: Parameters<AskedPins['pinOf']>) => LivePin | undefined
  readonly able: (...asked: Parameters<AskedPins['able']>) => boolean
  /** Puts a pin onto its line, and looks at what comes of it. */
  readonly apply: (pin: LivePin, at: number) => void
  readonly changed: (at: number, by: LivePin) => void
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

/** What a program, or a controller of the board for it, does to pins: directions, levels and volts. */
export class PinWrites {
  readonly #board: Board

  constructor(board: Board) {
    this.#board = board
  }

  setting(number: number, how: PinSetting, at: number): void {
    const { pinOf, able, apply, pullsByWriting } = this.#board
    const pin = pinOf(number, 'pin', at, 'pinMode')
    if (!pin) return
    if (how === 'out') pin.everOutput[0] = true
    if (how === 'out' && !able(pin, 'digital-out', at, 'pinMode', 'is no output')) return
    if (how === 'pull-up') able(pin, 'pull-up', at, 'pinMode', 'has no pull-up inside')
    if (how === 'pull-down') able(pin, 'pull-down', at, 'pinMode', 'has no pull-down inside')
    pin.setting = how
    pin.pulse = undefined
    if (pullsByWriting && how === 'in') pin.high = false
    apply(pin, at)
  }

  write(number: number, high: boolean, at: number): void {
    const pin = this.#board.pinOf(number, 'pin', at, 'digitalWrite')
    if (!pin) return
    // It stays as it is: nothing on its lines changes.
    if (pin.setting === 'out' && pin.high === high && !pin.pulse) return
    pin.high = high
    pin.pulse = undefined
    if (pin.setting !== 'out' && pin.setting !== 'open-drain') {
      pin.writtenAt ??= at
      if (this.#board.pullsByWriting) pin.setting = high ? 'pull-up' : 'in'
    }
    this.#board.apply(pin, at)
  }

  /** A controller of the board moves a pin, or listens at it. */
  drive(pin: LivePin, high: boolean | undefined, at: number): void {
    const setting: PinSetting = high === undefined ? 'in' : 'out'
    if (pin.setting === setting && (high === undefined || pin.high === high) && !pin.pulse) return
    if (high !== undefined) pin.everOutput[0] = true
    pin.setting = setting
    pin.high = high ?? pin.high
    pin.pulse = undefined
    this.#board.apply(pin, at)
  }

  analog(number: number, share: number, at: number): void {
    const { pinOf, able, live, changed } = this.#board
    const pin = pinOf(number, 'pin', at, 'dacWrite')
    if (!pin || !able(pin, 'analog-out', at, 'dacWrite', 'puts out no voltages')) return
    live.drive(pin.host.end, pin.net.index, { volts: share * (pin.host.logicVolts ?? 3.3), ohms: 1000 })
    changed(at, pin)
  }

  /** At the end of a run: pins that were written and never made an output. */
  sayNeverOutput(): void {
    const { pins, language, say } = this.#board
    for (const pin of pins.all)
      if (pin.writtenAt !== undefined && pin.everOutput.length === 0)
        say(
          'never-output',
          pin.writtenAt,
          [pin.host.end],
          `${pin.host.end} is written and was never set as an output.`,
          language === 'cpp'
            ? 'Without pinMode(…, OUTPUT) the pin stays an input: on small boards writing only switches its weak pull-up, on others nothing happens.'
            : 'It stays an input, and nothing happens.',
        )
  }
}
