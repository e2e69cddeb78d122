import type { Callable } from '../cpp/values.ts'

/** How a pin is set, as programs say it. */
export type PinSetting = 'in' | 'pull-up' | 'pull-down' | 'out' | 'open-drain'
export type Edge = 'rising' | 'falling' | 'change' | 'low' | 'high'

/** What a program has made of a pin: `pulse` while a timer moves it. */
export interface PinState {
  readonly setting: PinSetting | undefined
  readonly high: boolean
  readonly pulse?: object | undefined
}

/** A line over which bytes come and go. */
export interface SerialLine {
  readonly name: string
  /** Bits a second, and pins where the program says others than the usual ones. */
  begin(baud: number, at: number, pins?: { readonly rx?: number | undefined; readonly tx?: number | undefined }): void
  write(bytes: string, at: number): void
  /** Bytes that have come and wait. */
  readonly waiting: number[]
}

/** Why a program begins: power, a clock or a pin that woke the board, its own wish, a watchdog. */
export type StartCause = 'power' | 'time' | 'pin' | 'restart' | 'watchdog'

/** Pins that wake the board at a level: any of them, or only all together. */
export interface WakePins {
  readonly numbers: readonly number[]
  readonly high: boolean
  readonly all?: boolean
  /** The platform's own number for a board that was woken so. */
  readonly as?: number
}

/** Sleeping, and beginning anew. */
export interface Sleep {
  /** Why the program has begun. */
  readonly cause: StartCause
  /** The platform's own number for the pins that woke the board, where they have one. */
  readonly wokenAs: number | undefined
  /** The clock wakes after so many microseconds; not at all where undefined. */
  after(microseconds: number | undefined): void
  /** Pins wake as well; undefined forgets all of them. */
  onPins(pins: WakePins | undefined): void
  /**
   * Sleeps and goes on with the next line: woken by what was set, and where `served` by any handler; the board's clock
   * of milliseconds stands meanwhile where it `stands`.
   */
  light(at: number, how?: { readonly stands?: boolean; readonly served?: boolean }): void
  /** Sleeps with all pins let go; the program begins anew. `own` is false where something else may wake it. */
  deep(at: number, own?: boolean): never
  restart(cause: StartCause): never
  /** A watchdog starts the program anew unless it is fed within so many microseconds; undefined switches it off. */
  guard(microseconds: number | undefined): void
  feed(): void
}

/** What a program does with its board. Pins are as the program writes them; `at` is the place that does it. */
export interface Hardware {
  setting(pin: number, how: PinSetting, at: number): void
  write(pin: number, high: boolean, at: number): void
  read(pin: number, at: number): boolean
  /** The level of a pin as its port sees it, whether anybody meant to read it or not. */
  level(pin: number): boolean
  /** What the program has made of a pin. */
  state(pin: number): PinState
  /** Counts of the converter; with a full scale for this reading alone where given. */
  readAnalog(pin: number, at: number, reference?: number | 'outside' | 'supply'): number
  /** Whether a finger is on what hangs on a pin; `then` is called from now on when one comes. */
  touched(pin: number, at: number, then?: () => void): boolean
  /** What the converter takes for full scale from now on: volts inside the chip, its reference pin, or its supply. */
  reference(volts: number | 'outside' | undefined): void
  /**
   * Duty from 0 to 1; with a frequency in hertz where the program says one. The pin's own timer makes it, or a library by
   * a timer of the board, on any output.
   */
  pulse(pin: number, duty: number, hertz: number | undefined, at: number, maker?: 'timer' | 'library'): void
  /** A library takes the timers of a feature of the board: what they made at pins they make no more. */
  takesTimers(feature: 'servo-library' | 'tone-library', at: number): void
  /** A level of the converter from numbers to volts, from 0 to 1. */
  writeAnalog(pin: number, share: number, at: number): void
  tone(pin: number, hertz: number, milliseconds: number | undefined, at: number): void
  noTone(pin: number, at: number): void
  /** Microseconds that a pin stays at a level, the next time that it comes there; 0 when it does not in time. */
  pulseIn(pin: number, high: boolean, timeout: number, at: number): number
  /** An edge calls a handler: by a call of the platform, or by the registers of a port, which see more pins. */
  onEdge(pin: number, edge: Edge | undefined, handler: Callable | undefined, at: number, by?: 'call' | 'port'): void
  /** The program waits for something that cannot come. */
  neverComes(at: number, message: string, why: string): void
  /** Lets time pass, in microseconds: what is due in it happens. */
  wait(microseconds: number, at: number): void
  /** Calls the program from outside so many microseconds from now, as soon as it lets itself be interrupted. */
  later(microseconds: number, run: () => void): void
  /** Runs something beside the program so many microseconds from now; it may be interrupted as the program may. */
  aside(microseconds: number, run: () => void): void
  /** Handlers wait while this is true. */
  masked: boolean
  serial(name: string): SerialLine
  readonly bus: TwoWire
  readonly spi: Spi
  readonly sleep: Sleep
  /** What somebody has set as the answer of a call that nobody has described; nought until then. */
  answer(name: string): () => number
  /** Bytes that outlast a reset. */
  readonly kept: Uint8Array
}

export interface TwoWire {
  begin(bus: string, pins: readonly (number | undefined)[], at: number): void
  /** Sends bytes; true when somebody answers at the address. */
  write(bus: string, address: number, bytes: readonly number[], at: number): boolean
  read(bus: string, address: number, count: number, at: number): readonly number[]
  /** The board itself answers at an address from now on, as a device of another one's bus. */
  listen(bus: string, address: number): void
  onReceive(bus: string, run: (bytes: readonly number[]) => void): void
  onRequest(bus: string, run: () => readonly number[]): void
}

export interface SpiSettings {
  readonly lowestFirst?: boolean
  readonly mode?: number
  readonly hertz?: number
}

export interface Spi {
  begin(bus: string, pins: readonly (number | undefined)[], at: number): void
  /** What is left out stays as it was; the clock in hertz. */
  settings(bus: string, settings: SpiSettings, at: number): void
  transfer(bus: string, byte: number, at: number): number
  /** Moves one of the selects that the controller has itself, counted from 0. */
  select(bus: string, device: number, on: boolean, at: number): void
}
