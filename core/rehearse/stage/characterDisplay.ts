/**
 * The controller of character displays, told by bytes or half bytes. Source: data sheet of the HD44780U: instructions,
 * set-up of four data lines, memory of the display.
 */

const LINE = 0x28
const SECOND_LINE = 0x40
const MEMORY = 0x80
/** Letters of its own set that are not those of ASCII. */
const LETTERS: Readonly<Record<number, string>> = {
  92: '¥',
  126: '→',
  127: '←',
  165: '·',
  176: '-',
  223: '°',
  224: 'α',
  228: 'µ',
  244: 'Ω',
  255: '█',
}
/** A form that the program has drawn, or one that has no letter here. */
const FORM = '▯'

const letterOf = (code: number): string =>
  LETTERS[code] ?? (code >= 0x20 && code < 0x7e ? String.fromCharCode(code) : FORM)

export class CharacterDisplay {
  readonly #shows: (words: string) => void
  readonly #size: { readonly columns: number; readonly rows: number } | undefined
  readonly #cells = new Array<number>(MEMORY).fill(0x20)
  #isWide = true
  #high: number | undefined
  #at = 0
  #step: 1 | -1 = 1
  #isOn = false
  #isDrawing = false
  #twoLines = false
  #shift = 0
  /** Furthest place of a line that was written. */
  #furthest = 0
  #light = true

  /** Without a size it is as large as what is written on it asks. */
  constructor(shows: (words: string) => void, size: { readonly columns: number; readonly rows: number } | undefined) {
    this.#shows = shows
    this.#size = size
  }

  /** What stands at its data lines when the enable falls; of four lines the upper half counts. */
  take(isData: boolean, lines: number): void {
    if (!this.#isWide && this.#high === undefined) {
      this.#high = lines & 0xf0
      return
    }
    const byte = this.#isWide ? lines : (this.#high ?? 0) | (lines >> 4)
    this.#high = undefined
    this.#do(isData, byte)
  }

  set light(on: boolean) {
    if (on === this.#light) return
    this.#light = on
    this.#tell()
  }

  #do(isData: boolean, byte: number): void {
    if (isData) this.#write(byte)
    else this.#obey(byte)
    this.#tell()
  }

  #write(byte: number): void {
    if (this.#isDrawing) return
    this.#cells[this.#at] = byte
    this.#furthest = Math.max(this.#furthest, this.#at % SECOND_LINE)
    this.#move(this.#step)
  }

  /** To the next place of its memory: of two lines the second follows the first. */
  #move(step: 1 | -1): void {
    const line = this.#twoLines ? LINE : 2 * LINE
    const at = this.#at + step
    const base = this.#twoLines && this.#at >= SECOND_LINE ? SECOND_LINE : 0
    const other = this.#twoLines ? SECOND_LINE - base : 0
    if (at >= base + line) this.#at = other
    else this.#at = at < base ? other + line - 1 : at
  }

  #obey(byte: number): void {
    if (byte >= 0x80) {
      this.#at = byte & 0x7f
      this.#isDrawing = false
    } else if (byte >= 0x40) this.#isDrawing = true
    else if (byte >= 0x20) {
      this.#isWide = (byte & 0x10) !== 0
      this.#twoLines = (byte & 0x08) !== 0
      this.#high = undefined
    } else if (byte >= 0x10) {
      const step = byte & 0x04 ? 1 : -1
      if (byte & 0x08) this.#shift = (this.#shift - step + LINE) % LINE
      else this.#move(step)
    } else if (byte >= 0x08) this.#isOn = (byte & 0x04) !== 0
    else if (byte >= 0x04) this.#step = byte & 0x02 ? 1 : -1
    else if (byte > 0) {
      if (byte === 1) {
        this.#cells.fill(0x20)
        this.#furthest = 0
        this.#step = 1
      }
      this.#at = 0
      this.#shift = 0
      this.#isDrawing = false
    }
  }

  #tell(): void {
    if (!this.#isOn) {
      this.#shows('off')
      return
    }
    const columns = this.#size?.columns ?? (this.#furthest > 0x0f ? 20 : 16)
    const rows = this.#size?.rows ?? (this.#furthest > 0x13 ? 4 : 2)
    const lines = Array.from({ length: rows }, (_, row) => {
      const [base, from] = [row % 2 === 0 ? 0 : SECOND_LINE, row < 2 ? 0 : columns]
      return Array.from({ length: columns }, (_, column) =>
        letterOf(this.#cells[base + ((from + column + this.#shift) % LINE)] ?? 0x20),
      ).join('')
    })
    const text = lines
      .map((line) => line.trimEnd())
      .join(' ⏎ ')
      .replace(/( ⏎ )+$/, '')
    this.#shows(`${this.#light ? '' : 'dark: '}"${text}"`)
  }
}
