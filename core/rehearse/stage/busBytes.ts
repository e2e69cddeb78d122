import type { Bytes, Register } from '../../catalog/driverSchema.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { StandInStage } from '../platform/standIns.ts'
import { ClockBytes } from './clockBytes.ts'
import type { RunKind } from './findings.ts'

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

/** A wide register holds two bytes; places of those that hold one are bytes. */
const WIDE = 2

/** Parts that programs speak to byte by byte, as the files of drivers describe their bytes. */
export class BusBytes {
  readonly #stage: BytesStage
  readonly #told = new Map<string, Told>()
  readonly #clocks = new Map<string, ClockBytes>()

  constructor(stage: BytesStage) {
    this.#stage = stage
  }

  write(part: PartInstance, bytes: readonly number[], at: number): void {
    const how = this.howOf(part)
    const told = this.#toldOf(part)
    if (!how || bytes.length === 0) return
    if (how.as === 'ports') {
      for (const [index, byte] of bytes.entries()) this.#put(part, index % ports(part), byte, at)
      return
    }
    const places = how.as === 'memory' ? 2 : 1
    const [first = 0, second = 0, ...rest] = bytes
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

  /** Bytes that are read from a part. */
  read(part: PartInstance | undefined, count: number, at: number): number[] {
    const how = part && this.howOf(part)
    if (!part || !how) {
      if (part) this.sayUnknown(part, at)
      return new Array(count).fill(0)
    }
    const told = this.#toldOf(part)
    if (how.as === 'reply') {
      const all = this.reply(part, at)
      return Array.from({ length: count }, (_, index) => all[index] ?? 0)
    }
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
    if (how?.as === 'reply')
      return how.holds.flatMap((one) => this.#bytesOf(part, how, this.#toldOf(part), { ...one, at: 0 }))
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
    if (how.as !== 'registers' && how.as !== 'clock') return 0
    for (const register of how.holds) {
      const offset = pointer - register.at * (isWide(how) ? WIDE : 1)
      const length = register.is?.length ?? Math.ceil((register.bits + register.left) / 8)
      if (offset < 0 || offset >= length) continue
      if (register.is && written.has(pointer)) break
      return this.#bytesOf(part, how, told, register)[offset] ?? 0
    }
    const kept = written.get(pointer)
    if (kept === undefined && how.as === 'registers' && how.partly) this.sayUnknown(part, at)
    return kept ?? 0
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

  /** What a register holds, highest byte first. */
  #bytesOf({ ref }: PartInstance, how: Bytes, { written }: Told, register: Register): number[] {
    const { is, senses, per, plus, bits, unsigned, left, range } = register
    if (is) return [...is]
    const asleep = how.as === 'registers' ? how.asleep : undefined
    const isAsleep = asleep !== undefined && ((written.get(asleep.at) ?? asleep.mask) & asleep.mask) !== 0
    const sensed = isAsleep || senses === undefined ? 0 : (this.#stage.standIns.sensed(ref, senses) ?? 0)
    const halved = range ? ((written.get(range.at) ?? 0) >> range.left) & range.mask : 0
    const counts = isAsleep ? 0 : Math.round((sensed * per) / 2 ** halved + plus)
    const [least, most] = unsigned ? [0, 2 ** bits - 1] : [-(2 ** (bits - 1)), 2 ** (bits - 1) - 1]
    const held = (Math.min(most, Math.max(least, counts)) & (2 ** bits - 1)) << left
    const length = Math.ceil((bits + left) / 8)
    return Array.from({ length }, (_, index) => (held >> (8 * (length - 1 - index))) & 255)
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
