import type { LiveCircuit } from './live.ts'
import type { BusTalk, Sent } from './outside.ts'

/** Nets of the data and the clock line of a two-wire bus. */
export type BusNets = readonly [sda: number | undefined, scl: number | undefined]

/** The board on whose two-wire buses others may hang, or which hangs on theirs. */
interface BusSide {
  readonly live: LiveCircuit
  readonly ref: string
  /** Microseconds from power-on. */
  readonly now: () => number
  /** Runs a handler of the program as soon as it lets itself be interrupted. */
  readonly interrupt: (run: () => void) => void
}

/** What a program does when it is called as a device of a bus. */
interface Device {
  nets: BusNets
  address: number
  receive: ((bytes: readonly number[]) => void) | undefined
  request: (() => readonly number[]) | undefined
}

/** What is read from a line on which nobody drives: it is held high. */
const HELD_HIGH = 0xff

/**
 * Boards that are devices on each other's two-wire buses. What one asks is heard by the other in its next run, and the
 * answer by the first one in the run after that: the answers are counted, so that the third of them belongs to the third
 * question, whenever that comes.
 */
export class BoardBus {
  readonly #side: BusSide
  readonly #devices = new Map<string, Device>()
  readonly #others: Extract<BusTalk, { is: 'device' }>[] = []
  readonly #answers = new Map<string, (readonly number[])[]>()
  readonly #asked = new Map<string, number>()
  #send: ((talk: BusTalk) => void) | undefined
  #offset = 0

  constructor(side: BusSide) {
    this.#side = side
  }

  /** What others have said in their last run: who is there and what was answered is known, calls come at their time. */
  meets(sent: readonly Sent[], offset: number, send: (talk: BusTalk) => void): void {
    this.#send = send
    this.#offset = offset
    for (const one of sent)
      if (one.is === 'device') this.#others.push(one)
      else if (one.is === 'answer' && one.to === this.#side.ref) {
        const key = `${one.from} ${one.address}`
        this.#answers.set(key, [...(this.#answers.get(key) ?? []), one.bytes])
      }
  }

  /** A call of another board comes in. */
  hears(talk: Extract<BusTalk, { is: 'call' | 'ask' }>): void {
    const device = [...this.#devices.values()].find(
      ({ nets, address }) => address === talk.address && this.#meet(nets, [talk.sda, talk.scl]),
    )
    if (!device) return
    this.#side.interrupt(() => {
      if (talk.is === 'call') device.receive?.(talk.bytes)
      else {
        const given = device.request?.() ?? []
        const bytes = Array.from({ length: talk.count }, (_, index) => given[index] ?? HELD_HIGH)
        this.#say({ is: 'answer', address: talk.address, to: talk.from, bytes })
      }
    })
  }

  /** From now on the program answers at an address of the bus with these lines. */
  listen(bus: string, nets: BusNets, address: number): void {
    this.#device(bus).nets = nets
    this.#device(bus).address = address
    const [sda, scl] = nets
    if (sda !== undefined && scl !== undefined) this.#say({ is: 'device', sda, scl, address })
  }

  onReceive(bus: string, run: (bytes: readonly number[]) => void): void {
    this.#device(bus).receive = run
  }

  onRequest(bus: string, run: () => readonly number[]): void {
    this.#device(bus).request = run
  }

  /** Bytes that this board sends; true when another board answers at the address. */
  write(nets: BusNets, address: number, bytes: readonly number[]): boolean {
    const other = this.#other(nets, address)
    if (other) this.#say({ is: 'call', sda: other.sda, scl: other.scl, address, bytes })
    return other !== undefined
  }

  /** Bytes that this board reads from another one; undefined when none answers at the address. */
  read(nets: BusNets, address: number, count: number): readonly number[] | undefined {
    const other = this.#other(nets, address)
    if (!other) return undefined
    this.#say({ is: 'ask', sda: other.sda, scl: other.scl, address, count })
    const key = `${other.from} ${address}`
    const number = this.#asked.get(key) ?? 0
    this.#asked.set(key, number + 1)
    const known = this.#answers.get(key)?.[number]
    return Array.from({ length: count }, (_, index) => known?.[index] ?? HELD_HIGH)
  }

  #device(bus: string): Device {
    const known = this.#devices.get(bus)
    if (known) return known
    const device: Device = { nets: [undefined, undefined], address: -1, receive: undefined, request: undefined }
    this.#devices.set(bus, device)
    return device
  }

  #other(nets: BusNets, address: number): Extract<BusTalk, { is: 'device' }> | undefined {
    const now = this.#side.now() - this.#offset
    return this.#others.find((one) => one.address === address && one.at <= now && this.#meet(nets, [one.sda, one.scl]))
  }

  #meet(mine: BusNets, theirs: BusNets): boolean {
    return mine.every((net, index) => {
      const other = theirs[index]
      return net !== undefined && other !== undefined && (net === other || this.#side.live.around(net).includes(other))
    })
  }

  #say(talk: Said): void {
    this.#send?.({ ...talk, at: this.#side.now() - this.#offset, from: this.#side.ref } as BusTalk)
  }
}

/** Something said on a bus, before moment and sender are put to it. */
type Said = BusTalk extends infer One ? (One extends BusTalk ? Omit<One, 'at' | 'from'> : never) : never
