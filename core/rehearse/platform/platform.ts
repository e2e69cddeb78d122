import type { Machine } from '../cpp/machine.ts'
import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import type { Type, Widths } from '../cpp/types.ts'
import type { Chip } from './avr/chip.ts'
import type { Hardware } from './hardware.ts'
import type { Printing } from './sketchBuses.ts'
import type { TouchCounts } from './touch.ts'

/** Microseconds that calls take. */
export interface Costs {
  readonly digital: number
  readonly analog: number
  readonly clock: number
  readonly serialByte: number
  readonly busByte: number
  /** One statement of the program. */
  readonly statement: number
  /** From the end of one round of `loop` to the beginning of the next. */
  readonly loop: number
}

type Ledc = Readonly<
  Record<
    'ledcSetup' | 'ledcAttachPin' | 'ledcWrite' | 'ledcAttach',
    (args: readonly number[], hardware: Hardware, at: number) => number
  >
>

/** What of a board and its firmware platform a program can tell. */
export interface Platform {
  readonly widths: Widths
  readonly macros: Readonly<Record<string, string>>
  readonly costs: Costs
  /** `micros()` goes up by so many. */
  readonly microStep: number
  /** Pulses a second of `analogWrite`. */
  readonly pulseHertz: number
  /** Bits of what `analogRead` gives; a program may say others. */
  readBits: number
  /** Pins by the names that programs give them, as numbers. */
  readonly pinNames: ReadonlyMap<string, number>
  readonly interruptOf: (pin: number) => number
  readonly pinOfInterrupt: (number: number) => number
  readonly ledc: Ledc | undefined
  /** Numbers behind words of drivers. */
  readonly constants: ReadonlyMap<string, number>
  /** Volts of the converter's references inside the chip, by the number that programs give. */
  readonly references: ReadonlyMap<number, number>
  /** Bytes that outlast a reset; undefined where the program says how many it wants. */
  readonly keeps: number | undefined
  /** What its touch pins give; undefined of a chip that has none. */
  readonly touch: TouchCounts | undefined
  /** The chip by its registers, where programs may use these. */
  readonly chip: (hardware: Hardware, machine: Machine) => Chip | undefined
  /** Classes of drivers. */
  readonly classes: (
    hardware: Hardware,
    machine: Machine,
    given: {
      readonly types: ReadonlyMap<string, Type>
      readonly printing: Printing
      readonly reading: Record<string, NativeFunction<never>>
    },
  ) => readonly [string, NativeClass][]
}
