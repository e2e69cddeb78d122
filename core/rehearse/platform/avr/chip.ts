import type { BoardInstance } from '../../../wiring/model.ts'
import type { Register } from '../../cpp/code.ts'
import { Halt, type Machine } from '../../cpp/machine.ts'
import type { LivePins } from '../../stage/pins.ts'
import type { Hardware } from '../hardware.ts'

/** Calls a handler of the program by its vector; undefined while it has none of that name. */
export type Entry = (name: string) => (() => void) | undefined

/** A chip whose registers a program may use itself. */
export interface Chip {
  readonly registers: ReadonlyMap<string, Register>
  /** Numbers of bits, as the headers of the chip name them. */
  readonly bits: ReadonlyMap<string, number>
  /** The port of a pin, such as PB5. */
  readonly portOf: (pin: number) => string | undefined
  /** The program has been read: where its handlers are. */
  readonly attach: (entry: Entry) => void
  /** The program begins, or begins anew: what the core has set up before `setup`. */
  readonly begin: () => void
  /** How fast the core's clock of milliseconds runs: it counts rounds of a timer that programs may set. */
  readonly speed: () => number
  /** Pulses a second that a pin's timer makes, where the program has set that timer itself. */
  readonly hertzAt: (pin: number) => number | undefined
  /** `analogWrite` has given a pin a duty, or with undefined taken it away. */
  readonly pulsed: (pin: number, duty: number | undefined) => void
}

/** What the parts of a chip share: the board around it, its handlers, the registers that they add. */
export class ChipBoard {
  readonly registers = new Map<string, Register>()
  readonly bits = new Map<string, number>()
  readonly hardware: Hardware
  readonly machine: Machine
  readonly board: BoardInstance
  /** Clock of the chip in hertz. */
  readonly hertz: number
  readonly #pins: () => LivePins
  readonly #values = new Map<string, number>()
  #entry: Entry = () => undefined

  constructor(board: BoardInstance, pins: () => LivePins, hardware: Hardware, machine: Machine, hertz: number) {
    this.board = board
    this.#pins = pins
    this.hardware = hardware
    this.machine = machine
    this.hertz = hertz
  }

  attach(entry: Entry): void {
    this.#entry = entry
  }

  has(vector: string): boolean {
    return this.#entry(vector) !== undefined
  }

  /**
   * Calls the handler of an interrupt.
   * @throws Halt where the program has none: the chip jumps to its reset then.
   */
  call(vector: string, at: number): void {
    const handler = this.#entry(vector)
    if (!handler)
      throw new Halt(
        `the interrupt ${vector} comes, and no ISR(${vector}) takes it: the board starts anew again and again`,
        at,
      )
    handler()
  }

  /** Number by which programs name the pin at a port of the chip, such as PB5; undefined where it is not brought out. */
  numberAt(port: string): number | undefined {
    const pin = this.board.facts.pins.find((one) => one.kind === 'io' && one.port === port)
    return pin && this.#pins().byId(pin.net)?.number
  }

  /** The port of a pin by the number that programs give it. */
  portOf(number: number): string | undefined {
    return this.#pins().pin(number, 'pin')?.facts.port
  }

  /** Number of the pin that a board's fact names. */
  numberOf(id: string): number | undefined {
    return this.#pins().byId(this.board.facts.pin(id)?.net ?? id)?.number
  }

  value(name: string): number {
    return this.#values.get(name) ?? 0
  }

  set(name: string, value: number): void {
    this.#values.set(name, value)
  }

  forget(): void {
    this.#values.clear()
    this.#speed = 1
  }

  #speed = 1

  get speed(): number {
    return this.#speed
  }

  /** From now on the core's clock runs at another speed; what it has counted it keeps. */
  set speed(speed: number) {
    if (speed === this.#speed) return
    const { machine } = this
    machine.born = machine.now - ((machine.now - machine.born) * this.#speed) / speed
    this.#speed = speed
  }

  /** A register that keeps what is written; `written` is told afterwards. */
  keep(name: string, written: (value: number, at: number) => void = () => undefined, bits: 8 | 16 = 8): void {
    this.registers.set(name, {
      bits,
      read: () => this.value(name),
      write: (value, at) => {
        this.set(name, value)
        written(value, at)
      },
    })
  }

  /** Names bits of a register, from the lowest on; what is left out has no name. */
  name(...names: readonly (string | undefined)[]): void {
    for (const [at, name] of names.entries()) if (name !== undefined) this.bits.set(name, at)
  }
}
