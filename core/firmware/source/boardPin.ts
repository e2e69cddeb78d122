import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { Language, Program } from '../../catalog/boardSchema.ts'
import { normaliseName } from '../../catalog/names.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import { programPin } from '../pinNames.ts'
import type { Counting, PinUse } from './uses.ts'
import type { Value } from './values.ts'

/** What a value of a program means as a pin of a board. */
export type Meant =
  | { readonly is: 'pin'; readonly pin: PinFacts }
  /** Written like a pin, and the board has none of that name. */
  | { readonly is: 'none'; readonly written: string }
  /** On the board and not brought out, or no pin at all: `LED_BUILTIN`, a text, a word of a library. */
  | { readonly is: 'other'; readonly written: string }

/** Ways to count pins that are mistaken for one another. */
export const countings = {
  position: 'position on the header',
  label: 'number printed on the board',
  gpio: 'GPIO number',
  port: 'number of the chip’s port',
  analog: 'analog channel',
} as const
export type WayOfCounting = keyof typeof countings

/** Finds pins of one board as programs of one language write them. */
export class PinFinder {
  readonly #board: BoardInstance
  readonly #language: Language
  readonly #program: Program | undefined
  readonly #byText = new Map<string, PinFacts>()
  readonly #counting: Counting
  /** Positions are counted through all headers, so that one number means one pin and people count by it. */
  readonly #positionsTell: boolean

  constructor(board: BoardInstance, language: Language, counting: Counting) {
    this.#board = board
    this.#language = language
    this.#counting = counting
    const positions = board.facts.pins.map(({ position }) => position)
    this.#positionsTell = new Set(positions).size === positions.length
    this.#program = board.board.programs.find((one) => one.as === language)
    for (const pin of board.facts.pins) {
      if (pin.net !== pin.id) continue
      const text = programPin(board.board, pin, language)
      if (text !== undefined && !this.#byText.has(text)) this.#byText.set(text, pin)
    }
  }

  /** The pin that a value means in a call that counts as it does. */
  meant(value: Value, counts: PinUse['counts']): Meant {
    const written =
      value.is === 'number'
        ? String(value.number)
        : value.is === 'symbol'
          ? value.path
          : value.is === 'text'
            ? value.text
            : ''
    if (this.isInside(written)) return { is: 'other', written }
    switch (value.is) {
      case 'number':
        return this.#number(value.number, counts)
      case 'symbol':
        return this.#symbol(value.path)
      case 'text':
        return this.#named(value.text)
      default:
        return { is: 'other', written: value.is }
    }
  }

  /** Written for what serves the board itself and is not brought out. */
  isInside(written: string): boolean {
    return this.#program?.inside.includes(written.split('.').at(-1) ?? '') ?? false
  }

  #number(number: number, counts: PinUse['counts']): Meant {
    const written = String(number)
    const program = this.#program
    if (counts === 'interrupt' && program && program.interrupts.length > 0) {
      const pin = this.#board.facts.pin(program.interrupts[number] ?? '')
      if (pin) return { is: 'pin', pin }
    }
    if (counts === 'analog' && program?.analogFrom !== undefined && this.#board.board.family === 'avr') {
      const pin = this.#board.facts.pin(`A${number < program.analogFrom ? number : number - program.analogFrom}`)
      if (pin) return { is: 'pin', pin }
    }
    if (this.#counting === 'position') {
      const pin = this.#board.facts.pins.find(
        (one) => one.position === number && one.header === this.#board.board.headers[0],
      )
      return pin ? { is: 'pin', pin: this.#first(pin) } : { is: 'none', written }
    }
    const known = this.#byText.get(written)
    if (known) return { is: 'pin', pin: known }
    if (program?.analogFrom !== undefined && number >= program.analogFrom) {
      const pin = this.#board.facts.pin(`A${number - program.analogFrom}`)
      if (pin) return { is: 'pin', pin: this.#first(pin) }
    }
    return { is: 'none', written }
  }

  #first(pin: PinFacts): PinFacts {
    return this.#board.facts.pin(pin.net) ?? pin
  }

  #symbol(path: string): Meant {
    const last = path.split('.').at(-1) ?? path
    const exact = this.#byText.get(path) ?? this.#byText.get(last)
    if (exact) return { is: 'pin', pin: exact }
    const also = this.#program?.also[last] ?? this.#lineOfBus(last)
    const known = also === undefined ? undefined : this.#board.facts.pin(also)
    if (known) return { is: 'pin', pin: this.#first(known) }
    const gpio = /^GPIO_NUM_(\d+)$/.exec(last)
    if (gpio) return this.#number(Number(gpio[1]), 'pin')
    if (/^LED(_BUILTIN)?$/.test(last)) return { is: 'other', written: last }
    const isPinName =
      /^(board|microcontroller\.pin|machine\.Pin\.(board|cpu))\./.test(path) ||
      /^(?:A|D|GP|IO|GPIO|P|P[A-K])\d+$/.test(last)
    return this.#named(last, isPinName)
  }

  /** `SDA`, `MOSI`, `SS` …: the pins that the platform's own bus takes. */
  #lineOfBus(name: string): string | undefined {
    const begins = this.#program?.begins ?? {}
    const line = { SDA: 'sda', SCL: 'scl', SCK: 'sck', MOSI: 'mosi', MISO: 'miso', SS: 'cs' }[name]
    if (line === undefined) return undefined
    return begins.Wire?.[line] ?? begins.SPI?.[line]
  }

  #named(text: string, sure = true): Meant {
    const bare = text.replace(/^(?:BCM|GPIO)(?=\d+$)/, '')
    const position = /^(?:BOARD|J8:)(\d+)$/.exec(text)
    if (position) {
      const pin = this.#board.facts.pins.find((one) => one.position === Number(position[1]))
      return pin ? { is: 'pin', pin: this.#first(pin) } : { is: 'none', written: text }
    }
    const exact = this.#byText.get(`'${text}'`) ?? (bare === text ? undefined : this.#byText.get(bare))
    if (exact) return { is: 'pin', pin: exact }
    const names = this.#board.facts.pins.filter(
      (pin) => pin.kind === 'io' && pin.allNames.some((name) => normaliseName(name) === normaliseName(text)),
    )
    const nets = new Set(names.map((pin) => pin.net))
    const [only] = names
    if (only && nets.size === 1) return { is: 'pin', pin: this.#first(only) }
    const number = /^(?:IO|GP|D)(\d+)$/.exec(text)
    if (number && sure) {
      const pin = this.#byText.get(number[1] as string)
      if (pin && this.#language !== 'cpp') return { is: 'pin', pin }
    }
    return sure ? { is: 'none', written: text } : { is: 'other', written: text }
  }

  /** Pins that a number means when it is counted otherwise than this program counts. */
  otherwise(number: number): { readonly way: WayOfCounting; readonly pin: PinFacts }[] {
    const found: { way: WayOfCounting; pin: PinFacts }[] = []
    for (const pin of this.#board.facts.pins) {
      if (pin.kind !== 'io') continue
      const first = this.#first(pin)
      const add = (way: WayOfCounting): void => {
        if (!found.some((one) => one.way === way && one.pin === first)) found.push({ way, pin: first })
      }
      if (pin.position === number && this.#positionsTell) add('position')
      if (digitsOf(pin.label) === number) add('label')
      if (digitsOf(pin.firmware) === number) add('gpio')
      if (pin.port !== undefined && digitsOf(pin.port) === number) add('port')
      if (pin.analog !== undefined && digitsOf(pin.analog) === number) add('analog')
    }
    return found
  }
}

const digitsOf = (text: string | undefined): number | undefined => {
  const found = text === undefined ? undefined : /(\d+)$/.exec(text)
  return found ? Number(found[1]) : undefined
}
