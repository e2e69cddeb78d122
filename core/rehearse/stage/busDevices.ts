import type { Language } from '../../catalog/boardSchema.ts'
import type { Driver } from '../../catalog/driverSchema.ts'
import { hexAddress } from '../../electrical/hexAddress.ts'
import { addressesOf } from '../../wiring/i2c.ts'
import type { BoardInstance, PartInstance, Wiring } from '../../wiring/model.ts'
import type { TwoWire } from '../platform/hardware.ts'
import type { Said } from '../platform/standInSays.ts'
import type { StandInStage } from '../platform/standIns.ts'
import type { BoardBus, BusNets } from './boardBus.ts'
import type { BusBytes } from './busBytes.ts'
import type { RunKind } from './findings.ts'
import type { LiveCircuit } from './live.ts'
import type { LivePin, LivePins } from './pins.ts'

/** The board on whose buses they hang. */
interface BusStage {
  readonly wiring: Wiring
  readonly live: LiveCircuit
  readonly pins: LivePins
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
  readonly standIns: StandInStage
  readonly pinOf: (number: number, counts: 'pin', at: number, call: string) => LivePin | undefined
}

/** Parts that a program speaks to: by an address of a two-wire bus, or through a class by the pins that it names. */
export class BusDevices {
  /** Two-wire buses: devices answer whose lines hang on the bus's pins and that have their supply. */
  readonly bus: TwoWire
  readonly #stage: BusStage
  readonly #board: BoardInstance
  readonly #language: Language
  readonly #boards: BoardBus
  readonly #bytes: BusBytes

  constructor(stage: BusStage, board: BoardInstance, language: Language, boards: BoardBus, bytes: BusBytes) {
    this.#stage = stage
    this.#boards = boards
    this.#bytes = bytes
    this.#board = board
    this.#language = language
    this.bus = this.#twoWire()
  }

  #twoWire(): TwoWire {
    const { programs } = this.#board.board
    const begins = {
      ...programs.find((one) => one.as === 'cpp')?.begins,
      ...programs.find((one) => one.as === this.#language)?.begins,
    }
    const named = (name: string): string | undefined =>
      this.#board.facts.pins.find(
        (pin) => pin.kind === 'io' && pin.allNames.some((one) => one === name || one === `${name}1`),
      )?.net
    const pinsOf = new Map<string, (string | undefined)[]>()
    const lines = (bus: string): (string | undefined)[] => {
      let known = pinsOf.get(bus)
      if (!known) {
        const usual = begins[bus]
        known = usual ? [usual.sda, usual.scl] : bus === 'Wire' ? [named('SDA'), named('SCL')] : []
        pinsOf.set(bus, known)
      }
      return known
    }
    const answers = (bus: string, address: number): boolean => this.#answering(lines(bus), address).length > 0
    this.#linesOf = lines
    const asked = (bus: string, address: number, at: number): boolean => {
      if (answers(bus, address)) return true
      // A scan goes over all addresses, and silence is its answer.
      this.#silent.set(`${bus} ${address}`, (this.#silent.get(`${bus} ${address}`) ?? 0) + 1)
      const many = [...this.#silent.keys()].filter((key) => key.startsWith(`${bus} `)).length
      if (many <= 3) this.#nobody.set(`${bus} ${address}`, at)
      return false
    }
    return {
      begin: (bus, pins, at) => {
        const [sda, scl] = lines(bus)
        const [one, two] = pins.map((number) =>
          number === undefined ? undefined : this.#stage.pinOf(number, 'pin', at, 'Wire.begin')?.facts.id,
        )
        pinsOf.set(bus, [one ?? sda, two ?? scl])
      },
      write: (bus, address, bytes, at) =>
        this.#boards.write(this.#netsOf(lines(bus)), address, bytes) ||
        (asked(bus, address, at) && this.#told(this.#answering(lines(bus), address), bytes, at)),
      read: (bus, address, count, at) =>
        this.#boards.read(this.#netsOf(lines(bus)), address, count) ??
        (asked(bus, address, at) ? this.#bytes.read(this.#answering(lines(bus), address)[0], count, at) : []),
      listen: (bus, address) => this.#boards.listen(bus, this.#netsOf(lines(bus)), address),
      onReceive: (bus, run) => this.#boards.onReceive(bus, run),
      onRequest: (bus, run) => this.#boards.onRequest(bus, run),
    }
  }

  #told(parts: readonly PartInstance[], bytes: readonly number[], at: number): boolean {
    for (const part of parts) this.#bytes.write(part, bytes, at)
    return true
  }

  #netsOf(ids: readonly (string | undefined)[]): BusNets {
    const [sda, scl] = ids.map((id) =>
      id === undefined ? undefined : this.#stage.wiring.netOf(`${this.#board.ref}.${id}`).index,
    )
    return [sda, scl]
  }

  #linesOf: (bus: string) => readonly (string | undefined)[] = () => []

  /** Parts at an address whose lines hang on a bus's pins and that have their supply. */
  #answering(ids: readonly (string | undefined)[], address: number): PartInstance[] {
    const nets = this.#netsOf(ids)
    return this.#stage.wiring.parts.filter((part) => {
      if (!addressesOf(part).some((one) => one.address === address)) return false
      if (part.supplies.length > 0 && !part.supplies.some(({ source, ground }) => source && ground)) return false
      const own = (signal: string): number | undefined => {
        const use = this.#stage.wiring.signals.find((one) => one.part === part && one.facts.needs === `i2c.${signal}`)
        return use && this.#stage.wiring.netOf(use.end).index
      }
      return this.#hangs(nets[0], own('sda')) && this.#hangs(nets[1], own('scl'))
    })
  }

  #hangs(from: number | undefined, to: number | undefined): boolean {
    return from !== undefined && to !== undefined && (from === to || this.#stage.live.around(from).includes(to))
  }

  partFor(driver: Driver, { className, address, pins }: Said, at: number): PartInstance | undefined {
    const all = this.#stage.wiring.parts.filter(({ part }) => driver.parts.includes(part.id))
    if (all.length === 0) {
      this.#stage.say(
        'no-such-part',
        at,
        [this.#board.ref],
        `${className} drives a part that this plan does not have.`,
        'What it shows and senses is not seen here.',
      )
      return undefined
    }
    const named = Object.entries(pins)
    const bused = all.filter((part) => addressesOf(part).length > 0)
    // Where the program names pins, one that has no address is meant before one that has.
    if (bused.length > 0 && (named.length === 0 || bused.length === all.length)) {
      const wanted =
        address === undefined ? bused.flatMap((part) => addressesOf(part).map((one) => one.address)) : [address]
      const found = ['Wire', 'Wire1']
        .flatMap((bus) => wanted.flatMap((one) => this.#answering(this.#linesOf(bus), one)))
        .find((part) => bused.includes(part))
      if (!found) {
        const there = bused
          .flatMap((part) => addressesOf(part).map((one) => `${part.ref} ${hexAddress(one.address)}`))
          .join(', ')
        this.#stage.say(
          'nobody-answers',
          at,
          bused.map(({ ref }) => ref),
          `${className} asks ${address === undefined ? 'the bus' : hexAddress(address)}, and nobody answers.`,
          `On this plan there are ${there}; the address, the pins of the bus, or a supply may be another one.`,
        )
      }
      return found
    }
    const fits = (part: PartInstance): boolean =>
      named.every(([pin, number]) =>
        this.#hangs(
          this.#stage.pins.pin(number, 'pin')?.net.index,
          this.#stage.wiring.netOf(`${part.ref}.${pin}`).index,
        ),
      )
    const found = all.find(fits)
    if (!found) {
      const first = all.find((part) => !bused.includes(part)) ?? all[0]
      const wrong = named.find(
        ([pin, number]) =>
          !this.#hangs(
            this.#stage.pins.pin(number, 'pin')?.net.index,
            this.#stage.wiring.netOf(`${first!.ref}.${pin}`).index,
          ),
      )
      const [pin = '', number = 0] = wrong ?? []
      const own = this.#stage.wiring
        .netOf(`${first!.ref}.${pin}`)
        .ends.find((end) => this.#stage.wiring.terminal(end)?.boardPin)
      this.#stage.say(
        'other-pin',
        at,
        [first!.ref],
        `${className} is given ${this.#stage.pins.pin(number, 'pin')?.host.end ?? number} for ${first!.ref}.${pin}, and the plan has it ${own ? `on ${own}` : 'on no pin of the board'}.`,
        'Either the number in the program or the wire is another one.',
      )
    }
    const fed = found && (found.supplies.length === 0 || found.supplies.some(({ source, ground }) => source && ground))
    return fed ? found : undefined
  }

  readonly #silent = new Map<string, number>()
  readonly #nobody = new Map<string, number>()

  /** Addresses that were asked by themselves, not in a scan, and stayed silent. */
  sayNobody(): void {
    const byBus = new Map<string, number>()
    for (const key of this.#silent.keys()) byBus.set(key.split(' ')[0]!, (byBus.get(key.split(' ')[0]!) ?? 0) + 1)
    for (const [key, at] of this.#nobody) {
      const [bus = '', address = ''] = key.split(' ')
      if ((byBus.get(bus) ?? 0) > 20) continue
      const there = this.#stage.wiring.parts.flatMap((part) =>
        addressesOf(part).map((one) => `${part.ref} ${hexAddress(one.address)}`),
      )
      this.#stage.say(
        'nobody-answers',
        at,
        [this.#board.ref],
        `Nobody answers at ${hexAddress(Number(address))} on ${bus}.`,
        there.length > 0
          ? `On this plan there are ${there.join(', ')}; the address, the pins of the bus, or a supply may be another one.`
          : 'No part of this plan has an address.',
      )
    }
  }
}
