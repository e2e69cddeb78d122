import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { Language } from '../../catalog/boardSchema.ts'
import { volts } from '../../catalog/common.ts'
import { formatVolts } from '../../electrical/quantity.ts'
import { programPin } from '../../firmware/pinNames.ts'
import { PinFinder } from '../../firmware/source/boardPin.ts'
import type { BoardInstance, Host, Net, Wiring } from '../../wiring/model.ts'
import type { PinSetting } from '../platform/hardware.ts'
import { driveOf, type LiveCircuit } from './live.ts'
import type { Drive } from './liveGroups.ts'
import type { Trace } from './trace.ts'

/** A pin of the board while a program runs. */
export interface LivePin {
  readonly number: number
  readonly facts: PinFacts
  readonly host: Host
  readonly net: Net
  setting: PinSetting | undefined
  high: boolean
  /** Level that it was last seen at by whoever waits for an edge. */
  seen: boolean | undefined
  /** Place in the program where it was first written without being an output. */
  writtenAt: number | undefined
  pulse: { readonly duty: number; readonly hertz: number | undefined } | undefined
  readonly everOutput: boolean[]
  reads: number
}

/** Numbers from which pins are counted that programs name otherwise. */
const NAMED = 200
/** The number of all that serves the board itself and is not brought out. */
export const INSIDE = 199

/** Ohms of a pull inside a pin where no source gives them. */
const PULL_OHMS = 40_000

/** Pins of one board as programs number them, each with its host and net. */
export class LivePins {
  readonly names = new Map<string, number>()
  readonly #byNumber = new Map<number, LivePin>()
  readonly #finder: PinFinder
  readonly #wiring: Wiring
  readonly #board: BoardInstance
  readonly #live: LiveCircuit
  readonly #byId = new Map<string, LivePin>()

  constructor(wiring: Wiring, board: BoardInstance, live: LiveCircuit, language: Language = 'cpp') {
    this.#wiring = wiring
    this.#board = board
    this.#live = live
    this.#finder = new PinFinder(board, language, 'gpio')
    const program = board.board.programs.find((one) => one.as === language)
    let next = NAMED
    for (const pin of board.facts.pins) {
      if (pin.net !== pin.id || pin.kind !== 'io') continue
      const text = programPin(board.board, pin, language) ?? (language === 'cpp' ? undefined : pin.id)
      if (text === undefined) continue
      const analog = /^A(\d+)$/.exec(text)
      const number =
        /^\d+$/.test(text) && !this.#byNumber.has(Number(text))
          ? Number(text)
          : analog && program?.analogFrom !== undefined
            ? program.analogFrom + Number(analog[1])
            : next++
      if (!/^\d+$/.test(text)) this.names.set(text, number)
      this.#make(number, pin)
    }
    for (const pin of board.facts.pins) {
      if (pin.kind !== 'io') continue
      const own = this.#byId.get(pin.net)
      if (!own) continue
      for (const name of [pin.id, pin.label, pin.analog, ...pin.allNames])
        if (
          name !== undefined &&
          /^(A|D|GP|PA|PB|PC|P[A-K])\d+$|^(SDA|SCL|MOSI|MISO|SCK|SS|TX|RX|LED_BUILTIN)$/.test(name) &&
          !this.names.has(name)
        )
          this.names.set(name, own.number)
      if (pin.cautions.some(({ id }) => id === 'onboard-led') && !this.names.has('LED_BUILTIN'))
        this.names.set('LED_BUILTIN', own.number)
    }
    for (const [name, id] of Object.entries(program?.also ?? {})) {
      const pin = this.#byId.get(board.facts.pin(id)?.net ?? '')
      if (pin) this.names.set(name, pin.number)
    }
    for (const name of program?.inside ?? [])
      if (!/^\d+$/.test(name) && !this.names.has(name)) this.names.set(name, INSIDE)
    if (!this.names.has('LED_BUILTIN') && this.#byNumber.has(13)) this.names.set('LED_BUILTIN', 13)
  }

  #make(number: number, facts: PinFacts): LivePin | undefined {
    const host = this.#wiring.hosts.get(`${this.#board.ref}.${facts.id}`)
    if (!host) return undefined
    const known = this.#byId.get(facts.net)
    if (known) return known
    const pin: LivePin = {
      number,
      facts,
      host,
      net: this.#wiring.netOf(host.end),
      setting: undefined,
      high: false,
      seen: undefined,
      writtenAt: undefined,
      pulse: undefined,
      everOutput: [],
      reads: 0,
    }
    this.#byNumber.set(number, pin)
    this.#byId.set(facts.net, pin)
    return pin
  }

  get all(): Iterable<LivePin> {
    return this.#byNumber.values()
  }

  /** The pin that a number means to a call; undefined when the board has none. */
  pin(number: number, counts: 'pin' | 'analog' | 'interrupt'): LivePin | undefined {
    const exact = counts === 'pin' ? this.#byNumber.get(number) : undefined
    if (exact) return exact
    const meant = this.#finder.meant({ is: 'number', number, hex: false, via: [] as never }, counts)
    if (meant.is === 'pin') {
      const known = this.#byId.get(meant.pin.net)
      if (known) return known
    }
    return this.#byNumber.get(number)
  }

  /** A number means what serves the board itself and is not brought out. */
  isInside(number: number): boolean {
    // A pin that is brought out is none of these; each call of a program asks.
    let known = this.#inside.get(number)
    if (known === undefined) {
      known = number === INSIDE || this.#finder.isInside(String(number))
      this.#inside.set(number, known)
    }
    return known
  }

  readonly #inside = new Map<number, boolean>()

  /** Number of the pin that a value of a Python program means: a number, a name, a word of `board`. */
  meant(value: number | string, isSymbol: boolean): number | undefined {
    const last = String(value).split('.').at(-1) ?? ''
    // By its place on the header, for the boards that have one.
    const place = /^#(\d+)$/.exec(String(value))?.[1]
    if (place !== undefined) {
      const at = this.#board.facts.pins.find(({ position, kind }) => kind === 'io' && position === Number(place))
      return at && this.#byId.get(at.net)?.number
    }
    if (this.#finder.isInside(last)) return INSIDE
    const meant = this.#finder.meant(
      typeof value === 'number'
        ? { is: 'number', number: value, hex: false, via: [] as never }
        : isSymbol
          ? { is: 'symbol', path: value, via: [] as never }
          : { is: 'text', text: value, via: [] as never },
      'pin',
    )
    if (meant.is === 'pin') return this.#byId.get(meant.pin.net)?.number
    return /^LED(_BUILTIN)?$/.test(last) ? this.names.get('LED_BUILTIN') : undefined
  }

  byId(id: string): LivePin | undefined {
    return this.#byId.get(id)
  }

  /** Puts a pin's state onto its net. */
  apply(pin: LivePin): void {
    const { setting, high, pulse, host, net } = pin
    const live = this.#live
    const drive = (level: boolean): Drive => driveOf(this.#wiring, host, level)
    const now = pulse
      ? drive(true)
      : setting === 'out'
        ? drive(high)
        : setting === 'open-drain'
          ? high
            ? undefined
            : drive(false)
          : setting === 'pull-up'
            ? { volts: host.logicVolts ?? 3.3, ohms: this.#pullOhms('up') }
            : setting === 'pull-down'
              ? { volts: 0, ohms: this.#pullOhms('down') }
              : undefined
    const low = pulse ? drive(false) : undefined
    live.drive(host.end, net.index, now, pulse && low ? { low, pulse } : undefined)
    this.onDrive?.(pin, now, low)
  }

  /** Told what each pin does to its line, where others see it. */
  onDrive: ((pin: LivePin, drive: Drive | undefined, low: Drive | undefined) => void) | undefined

  #pullOhms(way: 'up' | 'down'): number {
    const { pulls } = this.#board.board
    const [least, most] = way === 'up' ? [pulls?.upLeast, pulls?.upMost] : [pulls?.downLeast, pulls?.downMost]
    return least !== undefined && most !== undefined ? Math.sqrt(least * most) : PULL_OHMS
  }

  /** What a pin sees: a level, between both, or nothing that holds it. */
  level(pin: LivePin): { readonly is: 'high' | 'low' | 'between' | 'floating'; readonly volts: number | undefined } {
    const at = this.#live.volts(pin.net.index)
    if (at === undefined) return { is: 'floating', volts: undefined }
    const { levels, logicVolts } = pin.host
    const high = volts(levels.vih, logicVolts) ?? 0.6 * (logicVolts ?? 3.3)
    const low = volts(levels.vil, logicVolts) ?? 0.3 * (logicVolts ?? 3.3)
    return { is: at >= high - 1e-6 ? 'high' : at <= low + 1e-6 ? 'low' : 'between', volts: at }
  }

  /** What of a pin is drawn over time. */
  note(pin: LivePin, trace: Trace, now: number): void {
    if (!pin.net.wired) return
    const pulse = this.#live.pulseAt(pin.net.index)
    if (pulse) {
      trace.put(pin.host.end, now, pulse)
      return
    }
    const at = this.#live.volts(pin.net.index)
    trace.put(pin.host.end, now, at === undefined ? 'z' : at > (pin.host.logicVolts ?? 3.3) / 2 ? '1' : '0')
  }
}

/** A voltage in words; nothing where there is none. */
export const voltsWords = (at: number | undefined): string => (at === undefined ? 'nothing' : formatVolts(at))
