import type { BusKind } from '../../catalog/common.ts'
import type { At } from './ir.ts'
import type { Made, Value } from './values.ts'

/** What a program does with a pin. */
export type Doing = 'output' | 'input' | 'analog-in' | 'analog-out' | 'pwm' | 'interrupt' | 'touch' | 'bus' | 'given'

/** A pin as a program means it, before it is known which pin of the board that is. */
export interface PinUse {
  readonly pin: Value
  readonly doing: Doing
  readonly pull: 'up' | 'down' | undefined
  /** Bus object that takes it and the line that it is: `Wire`, `sda`. */
  readonly bus: { readonly object: string; readonly kind: BusKind; readonly signal: string } | undefined
  /** Names that the number itself was given, the first at first. */
  readonly own: readonly string[]
  /** Those, and names of what it is given to. */
  readonly names: readonly string[]
  /** Which argument of a library it is, from 0. */
  readonly place: number | undefined
  /** The pin object that a call makes. */
  readonly made: Made | undefined
  /** The object that the pin is given to, or of which a method takes it. */
  readonly owner: Made | undefined
  /** The call as it is named: `pinMode`, `Servo.attach`. */
  readonly call: string
  /** False where a library is given a number that may be something else than a pin. */
  readonly sure: boolean
  /** The number is a channel of the converter, or a number of an interrupt, where the platform counts those apart. */
  readonly counts: 'pin' | 'analog' | 'interrupt'
  readonly at: At
}

/** A bus that is begun without pins: it takes those of the platform. */
export interface BusBegin {
  readonly object: string
  readonly kind: BusKind
  readonly at: At
}

export interface AddressUse {
  readonly address: number
  /** True where a call of the bus itself says so; a number given to a library may be something else. */
  readonly sure: boolean
  readonly names: readonly string[]
  readonly at: At
}

export interface BaudUse {
  /** Serial object, as the program calls it. */
  readonly object: string
  readonly baud: number
  readonly at: At
}

/** How a Python program counts: by GPIO numbers or by positions of the header. */
export type Counting = 'gpio' | 'position'

export interface Uses {
  readonly pins: readonly PinUse[]
  readonly begins: readonly BusBegin[]
  readonly addresses: readonly AddressUse[]
  readonly bauds: readonly BaudUse[]
  readonly counting: Counting
  /** Pin calls whose pin cannot be followed, and why. */
  readonly lost: readonly { readonly why: string; readonly call: string; readonly at: At }[]
}
