import { volts } from '../../catalog/common.ts'
import { circuitOf } from '../../circuit/circuit.ts'
import { outputOhms } from '../../circuit/elementOhms.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { PinSetting } from '../platform/hardware.ts'
import type { ChannelStage } from '../platform/standIns.ts'
import type { RunKind } from './findings.ts'
import { type LiveCircuit, OUTPUT_OHMS } from './live.ts'

/** Ohms of a pull inside an expander of which no source says them. */
const PULL_OHMS = 100_000
/** An output that gives less than so many milliamperes is a pull. */
const WEAK = 1

interface Channel {
  setting: PinSetting
  high: boolean
}

/** Where channels of parts meet the circuit. */
export interface ChannelWorld {
  readonly wiring: Wiring
  readonly live: LiveCircuit
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
  /** Something on the lines has changed. */
  readonly moved: (at: number) => void
}

/** Pins that a part gives and programs count, driven and read over its bus. */
export class Channels implements ChannelStage {
  readonly #world: ChannelWorld
  readonly #channels = new Map<string, Channel>()

  constructor(world: ChannelWorld) {
    this.#world = world
  }

  setting(ref: string, number: number, how: PinSetting, at: number): void {
    this.#put(ref, number, at, (channel) => {
      channel.setting = how
    })
  }

  write(ref: string, number: number, high: boolean, at: number): void {
    this.#put(ref, number, at, (channel) => {
      channel.high = high
      // Where a pin is either a weak high or low, there is nothing to be set.
      if (this.#weakOhms(ref, number) !== undefined) channel.setting = 'out'
    })
  }

  read(ref: string, number: number, at: number): boolean {
    const pin = this.#pin(ref, number, at)
    if (!pin) return false
    const { end, part } = pin
    const seen = this.#world.live.volts(this.#world.wiring.netOf(end).index)
    if (seen === undefined) {
      this.#floating(end, at)
      return false
    }
    return seen > (volts(this.#levels(pin)?.vih, part.logicVolts) ?? (part.logicVolts ?? 3.3) / 2) - 1e-6
  }

  volts(ref: string, number: number, at: number): number {
    const pin = this.#pin(ref, number, at)
    if (!pin) return 0
    const seen = this.#world.live.volts(this.#world.wiring.netOf(pin.end).index)
    if (seen === undefined) this.#floating(pin.end, at)
    return seen ?? (pin.part.logicVolts ?? 3.3) / 3
  }

  share(ref: string, number: number, at: number): number {
    const supply = this.#pin(ref, number, at)?.part.logicVolts
    return supply === undefined ? 0 : this.volts(ref, number, at) / supply
  }

  pulse(ref: string, number: number, duty: number, hertz: number, at: number): void {
    const pin = this.#pin(ref, number, at)
    if (!pin) return
    const { live, wiring } = this.#world
    const net = wiring.netOf(pin.end).index
    const [high, low] = [this.#drive(pin, true), this.#drive(pin, false)]
    if (duty <= 0 || duty >= 1) live.drive(pin.end, net, duty >= 1 ? high : low)
    else live.drive(pin.end, net, high, { low, pulse: { duty, hertz } })
    this.#world.moved(at)
  }

  #put(ref: string, number: number, at: number, change: (channel: Channel) => void): void {
    const pin = this.#pin(ref, number, at)
    if (!pin) return
    const { end, part } = pin
    const channel = this.#channels.get(end) ?? { setting: 'in', high: false }
    const { setting, high } = channel
    change(channel)
    this.#channels.set(end, channel)
    if (channel.setting === setting && channel.high === high) return
    const { live, wiring } = this.#world
    const net = wiring.netOf(end).index
    if (channel.setting === 'out') live.drive(end, net, this.#drive(pin, channel.high))
    else if (channel.setting === 'pull-up') live.drive(end, net, { volts: part.logicVolts ?? 3.3, ohms: PULL_OHMS })
    else live.drive(end, net, undefined)
    this.#world.moved(at)
  }

  #drive({ end, part }: { readonly end: string; readonly part: PartInstance }, high: boolean) {
    const port = circuitOf(this.#world.wiring).ports.get(end)
    const ohms = port ? outputOhms(port) : 0
    const weak = high ? this.#weakOhms(part.ref, part.part.counts.indexOf(end.slice(part.ref.length + 1))) : undefined
    return {
      volts: high ? (port?.high ?? part.logicVolts ?? 3.3) : 0,
      ohms: weak ?? (ohms < 1 ? OUTPUT_OHMS : ohms),
    }
  }

  /** Ohms of a high level that is no more than a pull; undefined for one that drives. */
  #weakOhms(ref: string, number: number): number | undefined {
    const part = this.#world.wiring.parts.find((one) => one.ref === ref)
    const id = part?.part.counts[number]
    const source = part?.part.provides.find(({ pins }) => id !== undefined && pins.includes(id))?.current?.source
    return source !== undefined && source < WEAK ? ((part?.logicVolts ?? 3.3) / source) * 1000 : undefined
  }

  #levels({ end, part }: { readonly end: string; readonly part: PartInstance }) {
    const id = end.slice(part.ref.length + 1)
    const given = part.part.provides.find(({ pins }) => pins.includes(id))
    return typeof given?.levels === 'string' ? part.part.levels[given.levels] : undefined
  }

  #pin(ref: string, number: number, at: number): { readonly end: string; readonly part: PartInstance } | undefined {
    const part = this.#world.wiring.parts.find((one) => one.ref === ref)
    const id = part?.part.counts[number]
    if (!part) return undefined
    if (id === undefined) {
      this.#world.say(
        'no-such-pin',
        at,
        [ref],
        `The program names pin ${number} of ${ref}, which has ${part.part.counts.length}, counted from 0.`,
        'Nothing happens, or something at another pin.',
      )
      return undefined
    }
    return { end: `${ref}.${id}`, part }
  }

  #floating(end: string, at: number): void {
    if (!this.#world.wiring.netOf(end).wired) {
      this.#world.say(
        'nothing-there',
        at,
        [end],
        `The program uses ${end}, to which the plan has wired nothing.`,
        'Either the program means another pin, or a wire is missing in the plan.',
      )
      return
    }
    this.#world.say(
      'read-floating',
      at,
      [end],
      `${end} is read while nothing holds its line.`,
      'It reads whatever the air brings. A pull-up inside the part where it has one, or a resistor, holds the line.',
    )
  }
}
