import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import type { Spi, SpiSettings } from '../platform/hardware.ts'
import type { RunKind } from './findings.ts'
import type { LivePin } from './pins.ts'
import { usualLines } from './usualLines.ts'

/** The pins of the board on which a bus of four wires runs. */
interface SpiStage {
  readonly pinOf: (number: number, counts: 'pin', at: number, call: string) => LivePin | undefined
  /** The pin of that id in the catalogue. */
  readonly pinNamed: (id: string) => LivePin | undefined
  /** Drives a pin, or lets it listen where the level is undefined. */
  readonly put: (pin: LivePin, high: boolean | undefined, at: number) => void
  readonly isHigh: (pin: LivePin) => boolean
  /** Lets time pass, in microseconds. */
  readonly pass: (microseconds: number, at: number) => void
  /** Somebody listens to the clock on this net. */
  readonly isHeard: (net: number) => boolean
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

interface Lines {
  sck: LivePin | undefined
  miso: LivePin | undefined
  mosi: LivePin | undefined
  readonly selects: readonly (LivePin | undefined)[]
  begun: boolean
  lowestFirst: boolean
  mode: number
  hertz: number
}

const BITS = 8
/** Clock that sketches have unless they ask for another, in hertz. */
const USUAL_HERTZ = 4_000_000

const restsHigh = (mode: number): boolean => mode >= 2

/**
 * A board that speaks over SPI: bit by bit at its pins, so that whatever hangs on the lines follows, whether it knows
 * the bus or is a plain register. Modes as everybody counts them: 2 and 3 rest high, 1 and 3 take bits at the second edge.
 */
export class SpiMaster implements Spi {
  readonly #stage: SpiStage
  readonly #board: BoardInstance
  readonly #language: Language
  readonly #lines = new Map<string, Lines>()

  constructor(stage: SpiStage, board: BoardInstance, language: Language) {
    this.#stage = stage
    this.#board = board
    this.#language = language
  }

  /** Pins in the order clock, data in, data out; those left out are the usual ones of the platform. */
  begin(bus: string, pins: readonly (number | undefined)[], at: number): void {
    const lines = this.#of(bus)
    const named = pins.map((number) =>
      number === undefined || number < 0 ? undefined : this.#stage.pinOf(number, 'pin', at, `${bus}.begin`),
    )
    lines.sck = named[0] ?? lines.sck
    lines.miso = named[1] ?? lines.miso
    lines.mosi = named[2] ?? lines.mosi
    lines.begun = true
    this.#rest(lines, at)
    if (lines.mosi) this.#stage.put(lines.mosi, false, at)
    if (lines.miso) this.#stage.put(lines.miso, undefined, at)
  }

  settings(bus: string, { lowestFirst, mode, hertz }: SpiSettings, at: number): void {
    const lines = this.#of(bus)
    lines.lowestFirst = lowestFirst ?? lines.lowestFirst
    lines.mode = mode ?? lines.mode
    lines.hertz = hertz !== undefined && hertz > 0 ? hertz : lines.hertz
    if (lines.begun) this.#rest(lines, at)
  }

  /** Sends a byte and takes one in the same eight clocks. */
  transfer(bus: string, byte: number, at: number): number {
    const lines = this.#of(bus)
    const { sck, miso, mosi, mode, hertz } = lines
    const half = 5e5 / hertz
    if (!lines.begun) {
      this.#stage.say(
        'bus-asleep',
        at,
        [this.#board.ref],
        `The program sends over ${bus} before ${bus}.begin().`,
        'Until it is begun the bus has no pins: nothing comes out, and on some boards the program waits for ever.',
      )
      return 0
    }
    if (!sck || !this.#stage.isHeard(sck.net.index)) {
      this.#stage.pass(2 * BITS * half, at)
      return 0
    }
    const rests = restsHigh(mode)
    const late = mode % 2 === 1
    let taken = 0
    for (let bit = 0; bit < BITS; bit += 1) {
      const shift = lines.lowestFirst ? bit : BITS - 1 - bit
      const give = (): void => {
        if (mosi) this.#stage.put(mosi, ((byte >> shift) & 1) === 1, at)
      }
      if (!late) give()
      this.#stage.pass(half, at)
      this.#stage.put(sck, !rests, at)
      if (late) {
        give()
        this.#stage.pass(half, at)
        this.#stage.put(sck, rests, at)
      }
      if (miso && this.#stage.isHigh(miso)) taken |= 1 << shift
      if (late) continue
      this.#stage.pass(half, at)
      this.#stage.put(sck, rests, at)
    }
    return taken
  }

  select(bus: string, device: number, on: boolean, at: number): void {
    const pin = this.#of(bus).selects[device]
    if (pin) this.#stage.put(pin, !on, at)
  }

  #rest({ sck, mode }: Lines, at: number): void {
    if (sck) this.#stage.put(sck, restsHigh(mode), at)
  }

  #of(bus: string): Lines {
    const known = this.#lines.get(bus)
    if (known) return known
    const usual = usualLines(this.#board.board, this.#language, bus, 'spi', Number(bus.slice('SPI'.length)))
    const pin = (signal: string): LivePin | undefined => {
      const id = usual.of(signal)
      return id === undefined ? undefined : this.#stage.pinNamed(id)
    }
    const made = {
      sck: pin('sck'),
      miso: pin('miso'),
      mosi: pin('mosi'),
      selects: usual.all('cs').map((id) => this.#stage.pinNamed(id)),
      begun: false,
      lowestFirst: false,
      mode: 0,
      hertz: USUAL_HERTZ,
    }
    this.#lines.set(bus, made)
    return made
  }
}
