import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { StandInStage } from '../platform/standIns.ts'

/** Where a line of thermometers lies. */
interface LineStage {
  readonly wiring: Wiring
  /** Microseconds from power-on. */
  readonly now: () => number
  /** Two nets hang together, over resistors or not at all. */
  readonly hangs: (one: number, two: number) => boolean
  readonly standIns: StandInStage
  /** Place of the program that asks. */
  readonly at: () => number
}

/** A thermometer on the line, as its scratchpad stands. */
interface Device {
  readonly ref: string
  readonly rom: readonly number[]
  celsius: number
  /** The three bytes that a program may write: alarms, and how finely it measures. */
  written: readonly number[]
  /** When what it measures is there; undefined while it rests. */
  due: number | undefined
  asked: number
}

/**
 * Commands and figures of the data sheet of the DS18B20: functions, memory, 750 ms for twelve bits and half of it for each
 * one less, 85 °C at power-on.
 */
const SKIP = 0xcc
const MATCH = 0x55
const READ_ROM = 0x33
const CONVERT = 0x44
const READ_PAD = 0xbe
const WRITE_PAD = 0x4e
const AT_FIRST = [0x4b, 0x46, 0x7f]
const FAMILY = 0x28
const ROM_BYTES = 8
const CONVERSION = 750_000
const AT_POWER_ON = 85
const NOBODY = 0xff

/** Check byte of the 1-Wire line (polynomial x⁸ + x⁵ + x⁴ + 1, the lowest bit first). */
export function checkOf(bytes: readonly number[]): number {
  let crc = 0
  for (const byte of bytes)
    for (let bit = 0; bit < 8; bit += 1) {
      const mix = (crc ^ (byte >> bit)) & 1
      crc = (crc >> 1) ^ (mix ? 0x8c : 0)
    }
  return crc
}

const withCheck = (bytes: readonly number[]): number[] => [...bytes, checkOf(bytes)]

/** Thermometers on one 1-Wire line, asked byte by byte. */
export class OneWireLine {
  readonly #stage: LineStage
  readonly #devices: readonly Device[]
  #state: 'idle' | 'rom' | 'match' | 'function' | 'pad' = 'idle'
  #matched: number[] = []
  #written: number[] = []
  #chosen: readonly Device[] = []
  #answer: number[] = []

  /** `net` is that of the board's pin; `parts` are the kinds that speak on such a line. */
  constructor(stage: LineStage, net: number | undefined, parts: readonly string[]) {
    this.#stage = stage
    const isFed = ({ supplies }: PartInstance): boolean => supplies.some(({ source, ground }) => source && ground)
    const kin = stage.wiring.parts.filter(({ part }) => parts.includes(part.id))
    this.#devices = kin.flatMap((part, at): Device[] =>
      net !== undefined && isFed(part) && stage.hangs(net, stage.wiring.netOf(`${part.ref}.DQ`).index)
        ? [
            {
              ref: part.ref,
              // Whatever stands in the chip: here the place in the plan.
              rom: withCheck([FAMILY, at + 1, 0, 0, 0, 0, 0]),
              celsius: AT_POWER_ON,
              written: AT_FIRST,
              due: undefined,
              asked: 0,
            },
          ]
        : [],
    )
  }

  /** Numbers of what is on the line. */
  get roms(): readonly (readonly number[])[] {
    return this.#devices.map(({ rom }) => rom)
  }

  /** True when anybody is there. */
  reset(): boolean {
    this.#state = 'rom'
    this.#chosen = []
    this.#matched = []
    this.#answer = []
    return this.#devices.length > 0
  }

  write(byte: number): void {
    switch (this.#state) {
      case 'rom':
        this.#state = byte === MATCH ? 'match' : 'function'
        this.#chosen = byte === SKIP ? this.#devices : []
        if (byte === READ_ROM) this.#answer = together(this.#devices.map(({ rom }) => rom))
        return
      case 'match':
        this.#matched.push(byte)
        if (this.#matched.length < ROM_BYTES) return
        this.#state = 'function'
        this.#chosen = this.#devices.filter(({ rom }) => rom.every((one, at) => one === this.#matched[at]))
        return
      case 'function':
        if (byte === CONVERT)
          for (const device of this.#chosen) {
            device.asked = this.#stage.now()
            device.due = device.asked + timeOf(device)
          }
        if (byte === WRITE_PAD) {
          this.#state = 'pad'
          this.#written = []
        }
        if (byte === READ_PAD) this.#answer = together(this.#chosen.map((one) => this.#padOf(one)))
        return
      case 'pad':
        this.#written.push(byte)
        if (this.#written.length < AT_FIRST.length) return
        this.#state = 'function'
        for (const device of this.#chosen) device.written = this.#written
        return
      case 'idle':
    }
  }

  /** The next byte; while something is measured noughts, and nobody's line is all ones. */
  read(): number {
    const next = this.#answer.shift()
    if (next !== undefined) return next
    return this.#chosen.some(({ due }) => due !== undefined && due > this.#stage.now()) ? 0 : NOBODY
  }

  #padOf(device: Device): number[] {
    const now = this.#stage.now()
    if (device.due !== undefined && now < device.due)
      this.#stage.standIns.tooSoon(device.ref, 'OneWire', now - device.asked, timeOf(device), this.#stage.at())
    else if (device.due !== undefined) {
      device.due = undefined
      device.celsius = this.#stage.standIns.sensed(device.ref, 'temperature') ?? AT_POWER_ON
    }
    const raw = (Math.round(device.celsius * 16) >> coarseness(device)) << coarseness(device)
    return withCheck([raw & 255, (raw >> 8) & 255, ...device.written, 0xff, 0x0c, 0x10])
  }
}

/** Bits less than twelve with which it measures. */
const coarseness = ({ written }: Device): number => 3 - (((written[2] ?? 0x7f) >> 5) & 3)

/** Microseconds of a measurement. */
const timeOf = (device: Device): number => CONVERSION / 2 ** coarseness(device)

/** Several that speak at once pull the line low together. */
const together = (all: readonly (readonly number[])[]): number[] =>
  (all[0] ?? []).map((_, at) => all.reduce((sum, one) => sum & (one[at] ?? NOBODY), NOBODY))

/** The line at a pin of a board. Said where the plan has its thermometers elsewhere, or none. */
export function oneWireAt(
  board: {
    readonly wiring: Wiring
    readonly live: { around(net: number): readonly number[] }
    readonly pins: { pin(number: number, counts: 'pin'): { readonly net: { readonly index: number } } | undefined }
    readonly standIns: StandInStage
  },
  machine: { readonly now: number; readonly at: number },
  number: number,
): OneWireLine {
  const driver = board.wiring.catalog.drivers.find(({ defines }) => defines.includes('OneWire'))
  if (driver)
    board.standIns.partFor(driver, { className: 'OneWire', address: undefined, pins: { DQ: number } }, machine.at)
  const stage: LineStage = {
    wiring: board.wiring,
    now: () => machine.now,
    hangs: (one, two) => one === two || board.live.around(one).includes(two),
    standIns: board.standIns,
    at: () => machine.at,
  }
  return new OneWireLine(stage, board.pins.pin(number, 'pin')?.net.index, driver?.parts ?? [])
}
