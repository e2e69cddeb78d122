import type { Bytes, Check } from '../../catalog/driverSchema.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { StandInStage } from '../platform/standIns.ts'
import { CharacterDisplay } from './characterDisplay.ts'
import { ClockBytes } from './clockBytes.ts'
import { type Air, compensatedByte, oldCompensatedByte } from './compensation.ts'
import type { RunKind } from './findings.ts'
import { checkByte, type Held, heldBytes, lengthOf, packedBytes } from './heldBytes.ts'

interface BytesStage {
  /** Microseconds from power-on. */
  readonly now: number
  readonly wiring: Wiring
  readonly standIns: StandInStage
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

/** A part as it stands after what it was told: where it is read next, and what was written to it. */
interface Told {
  pointer: number
  readonly written: Map<number, number>
}

/** Register in which sensors of pressure say which they are. */
const CHIP_ID = 0xd0
const chipIds = { bmp180: 0x55, bmp280: 0x58, bme280: 0x60 } as const

/** A wide register holds two bytes; places of those that hold one are bytes. */
const WIDE = 2

/** Bits. */
export const BYTE = 8

/** Bits of bytes, the highest first. */
export const bitsOf = (all: readonly number[]): boolean[] =>
  all.flatMap((byte) => Array.from({ length: BYTE }, (_, at) => ((byte >> (BYTE - 1 - at)) & 1) === 1))

/** Parts that programs speak to byte by byte, as the files of drivers describe their bytes. */
export class BusBytes {
  readonly #stage: BytesStage
  readonly #told = new Map<string, Told>()
  readonly #clocks = new Map<string, ClockBytes>()
  readonly #displays = new Map<string, CharacterDisplay>()

  constructor(stage: BytesStage) {
    this.#stage = stage
  }

  write(part: PartInstance, bytes: readonly number[], at: number): void {
    const how = this.howOf(part)
    const told = this.#toldOf(part)
    if (!how || bytes.length === 0) return
    if (how.as === 'letters-behind-port') {
      for (const byte of bytes) this.#letters(part, told, byte)
      return
    }
    if (how.as === 'ports') {
      for (const [index, byte] of bytes.entries()) this.#put(part, index % ports(part), byte, at)
      return
    }
    const places = how.as === 'memory' ? 2 : 1
    const [named = 0, second = 0, ...rest] = bytes
    const first = how.as === 'registers' ? named & how.place : named
    told.pointer = (how.as === 'memory' ? first * 256 + second : first) * (isWide(how) ? WIDE : 1)
    const values = places === 2 ? rest : bytes.slice(1)
    if (how.as === 'clock') this.#setClock(part, how, told.pointer, values)
    for (const value of values) {
      told.written.set(told.pointer, value)
      if (how.as === 'port-registers') this.#move(part, how, told.pointer, at)
      told.pointer = next(how, told.pointer)
    }
    if (isWide(how)) told.pointer = first * WIDE
  }

  /** A byte at the port before a display of letters: select, read, enable, light, then four data lines. */
  #letters({ ref }: PartInstance, told: Told, byte: number): void {
    const display =
      this.#displays.get(ref) ?? new CharacterDisplay((words) => this.#stage.standIns.shows(ref, words), undefined)
    this.#displays.set(ref, display)
    const before = told.written.get(0) ?? 0
    told.written.set(0, byte)
    display.light = (byte & 8) !== 0
    if (before & 4 && !(byte & 4) && !(byte & 2)) display.take((byte & 1) !== 0, byte & 0xf0)
  }

  /** Bytes that are read from a part. */
  read(part: PartInstance | undefined, count: number, at: number): number[] {
    const how = part && this.howOf(part)
    if (!part || !how) {
      if (part) this.sayUnknown(part, at)
      return new Array(count).fill(0)
    }
    const told = this.#toldOf(part)
    if (how.as === 'reply' || how.as === 'commands') {
      const all = this.reply(part, at)
      return Array.from({ length: count }, (_, index) => all[index] ?? 0)
    }
    if (how.as === 'letters-behind-port') return new Array(count).fill(told.written.get(0) ?? 255)
    if (how.as === 'ports') return Array.from({ length: count }, (_, index) => this.#get(part, index % ports(part), at))
    return Array.from({ length: count }, () => {
      const value = this.#register(part, how, told, at)
      told.pointer = next(how, told.pointer)
      return value
    })
  }

  /** What a part says once it is asked, whatever it was told. */
  reply(part: PartInstance, at: number): number[] {
    const how = this.howOf(part)
    if (how?.as === 'reply') return this.#saying(part, how, how.holds, how.packed, how.check)
    if (how?.as === 'commands') {
      const told = this.#toldOf(part).pointer
      const answer = how.answers.find(({ to }) => to.includes(told)) ?? how.answers[0]
      return this.#saying(part, how, answer?.holds ?? [], false, how.check)
    }
    this.sayUnknown(part, at)
    return []
  }

  /** What a converter makes of the volts at an input, or between two that lie side by side, as a share of its supply. */
  sample({ ref }: PartInstance, channel: number, single: boolean, bits: number, at: number): number {
    const { channels } = this.#stage.standIns
    const share = channels.share(ref, channel, at) - (single ? 0 : channels.share(ref, channel ^ 1, at))
    return Math.min(2 ** bits - 1, Math.max(0, Math.floor(share * 2 ** bits)))
  }

  sayUnknown({ ref }: PartInstance, at: number): void {
    this.#stage.say(
      'unknown-bytes',
      at,
      [ref],
      `What ${ref} says byte by byte is not described; noughts are read.`,
      'A class that is known for the part speaks to it; or describe its bytes in a file of drivers.',
    )
  }

  howOf({ part: { id } }: PartInstance): Bytes | undefined {
    return this.#stage.wiring.catalog.drivers.flatMap(({ bytes }) => bytes).find(({ parts }) => parts.includes(id))
  }

  #toldOf({ ref }: PartInstance): Told {
    const known = this.#told.get(ref) ?? { pointer: 0, written: new Map() }
    this.#told.set(ref, known)
    return known
  }

  #register(part: PartInstance, how: Bytes, told: Told, at: number): number {
    const { pointer, written } = told
    if (how.as === 'port-registers') {
      const port = how.port.indexOf(pointer)
      if (port >= 0) return this.#get(part, port, at)
      return written.get(pointer) ?? (how.direction.includes(pointer) ? 255 : 0)
    }
    if (how.as === 'memory') return written.get(pointer % how.size) ?? 255
    if (how.as === 'converter') return this.#converted(part, how, told, at)
    if (how.as === 'clock') {
      const field = how.order[pointer - how.from]
      if (field) return this.#clock(part, how).read(field, this.#stage.now / 1e6)
    }
    if (how.as === 'compensated') {
      const air = this.#air(part)
      const byte =
        how.kind === 'bmp180'
          ? oldCompensatedByte(pointer, air, written)
          : compensatedByte(pointer, air, written, how.kind === 'bme280')
      return byte ?? (pointer === CHIP_ID ? chipIds[how.kind] : (written.get(pointer) ?? 0))
    }
    if (how.as !== 'registers' && how.as !== 'clock') return 0
    for (const register of how.holds) {
      const offset = pointer - register.at * (isWide(how) ? WIDE : 1)
      const length = lengthOf(register)
      if (offset < 0 || offset >= length) continue
      if (register.is && written.has(pointer)) break
      return this.#bytesOf(part, how, told, register)[offset] ?? 0
    }
    return written.get(pointer) ?? 0
  }

  /** The clock of a part, at the hour that its handle says. */
  #clock({ ref }: PartInstance, { sunday, senses }: Extract<Bytes, { as: 'clock' }>): ClockBytes {
    const clock = this.#clocks.get(ref) ?? new ClockBytes(sunday)
    this.#clocks.set(ref, clock)
    clock.look(this.#stage.standIns.sensed(ref, senses) ?? 0, this.#stage.now / 1e6)
    return clock
  }

  #setClock(part: PartInstance, how: Extract<Bytes, { as: 'clock' }>, from: number, values: readonly number[]): void {
    const written = values.flatMap((value, index) => {
      const field = how.order[from + index - how.from]
      return field ? [[field, value] as const] : []
    })
    if (written.length > 0) this.#clock(part, how).write(new Map(written), this.#stage.now / 1e6)
  }

  /** A byte of what a converter has converted, or of how it is set. */
  #converted(
    { ref }: PartInstance,
    how: Extract<Bytes, { as: 'converter' }>,
    { pointer, written }: Told,
    at: number,
  ): number {
    const setting = ((written.get(WIDE) ?? how.usual >> 8) << 8) | (written.get(WIDE + 1) ?? how.usual & 255)
    const isLow = pointer % WIDE === 1
    const byteOf = (word: number): number => (isLow ? word : word >> 8) & 255
    if (pointer >= WIDE) return byteOf(setting)
    const [plus = 0, minus] = how.choices[(setting >> 12) & 7] ?? []
    const { channels } = this.#stage.standIns
    const volts = channels.volts(ref, plus, at) - (minus === undefined ? 0 : channels.volts(ref, minus, at))
    const full = 2 ** (how.bits - 1)
    const counts = Math.floor((volts / (how.scales[(setting >> 9) & 7] ?? 1)) * full)
    return byteOf((Math.min(full - 1, Math.max(-full, counts)) << (16 - how.bits)) & 0xffff)
  }

  /** What a register holds. */
  #bytesOf({ ref }: PartInstance, how: Bytes, { written }: Told, register: Held): number[] {
    const asleep = how.as === 'registers' ? how.asleep : undefined
    const awake = how.as === 'registers' ? how.awake : undefined
    const isAsleep =
      (asleep !== undefined && ((written.get(asleep.at) ?? asleep.mask) & asleep.mask) !== 0) ||
      (awake !== undefined && ((written.get(awake.at) ?? 0) & awake.mask) === 0)
    const sensed =
      isAsleep || register.senses === undefined ? undefined : this.#stage.standIns.sensed(ref, register.senses)
    return heldBytes(register, isAsleep ? undefined : (sensed ?? 0), written)
  }

  /** Several of them at once, with their check bytes. */
  #saying(part: PartInstance, how: Bytes, holds: readonly Held[], packed: boolean, check: Check | undefined): number[] {
    const told = this.#toldOf(part)
    const words = packed
      ? [
          packedBytes(holds, ({ senses }) =>
            senses === undefined ? 0 : (this.#stage.standIns.sensed(part.ref, senses) ?? 0),
          ),
        ]
      : holds.map((one) => this.#bytesOf(part, how, told, one))
    if (!check) return words.flat()
    return (check.after === 'each' ? words : [words.flat()]).flatMap((word) => [...word, checkByte(word, check.start)])
  }

  #air({ ref }: PartInstance): Air {
    const of = (what: string): number => this.#stage.standIns.sensed(ref, what) ?? 0
    return { temperature: of('temperature'), pressure: of('pressure'), humidity: of('humidity') }
  }

  /** What a write to a register does at the pins. */
  #move(part: PartInstance, how: Extract<Bytes, { as: 'port-registers' }>, place: number, at: number): void {
    const written = this.#toldOf(part).written
    const port = [how.direction, how.pull, how.port, how.latch]
      .map((list) => list.indexOf(place))
      .find((one) => one >= 0)
    if (port === undefined) return
    // A write to the port goes to the latch.
    if (how.port.includes(place)) written.set(how.latch[port] as number, written.get(place) ?? 0)
    const of = (list: readonly number[], usual: number): number => written.get(list[port] as number) ?? usual
    for (let bit = 0; bit < 8; bit += 1) {
      const number = port * 8 + bit
      const isSet = (value: number): boolean => ((value >> bit) & 1) === 1
      const isIn = isSet(of(how.direction, 255))
      const { channels } = this.#stage.standIns
      if (!isIn) channels.write(part.ref, number, isSet(of(how.latch, 0)), at)
      channels.setting(part.ref, number, isIn ? (isSet(of(how.pull, 0)) ? 'pull-up' : 'in') : 'out', at)
    }
  }

  #put({ ref }: PartInstance, port: number, byte: number, at: number): void {
    for (let bit = 0; bit < 8; bit += 1)
      this.#stage.standIns.channels.write(ref, port * 8 + bit, ((byte >> bit) & 1) === 1, at)
  }

  #get(part: PartInstance, port: number, at: number): number {
    const { wiring, standIns } = this.#stage
    let value = 0
    for (let bit = 0; bit < 8; bit += 1) {
      const id = part.part.counts[port * 8 + bit]
      // Of pins to which nothing is wired nobody asks.
      if (
        id !== undefined &&
        wiring.netOf(`${part.ref}.${id}`).wired &&
        standIns.channels.read(part.ref, port * 8 + bit, at)
      )
        value |= 1 << bit
    }
    return value
  }
}

const ports = ({ part }: PartInstance): number => Math.max(1, Math.ceil(part.counts.length / 8))

const isWide = (how: Bytes): boolean => how.as === 'converter' || (how.as === 'registers' && how.wide)

/** The place that follows: a wide register begins anew. */
const next = (how: Bytes, place: number): number => {
  if (how.as === 'memory') return (place + 1) % how.size
  if (isWide(how)) return place % WIDE === 0 ? place + 1 : place - 1
  return (place + 1) & 255
}
