import type { ChipBoard } from './chip.ts'

type Letter = 'A' | 'B' | 'C'
type Source = Letter | 'OVF'

/** How a timer counts: up and over, up to a top and over, or up and down. */
interface Mode {
  readonly counts: 'normal' | 'clear' | 'fast' | 'phase'
  readonly top: number
}

const NONE: Mode = { counts: 'normal', top: 0 }
/** Speed of the core's clock while its timer stands still: as good as none. */
const STANDS = 1e-9
/** Microseconds after which a program has set all registers that it means to. */
const SETTLED = 50_000
/** Dividers by the three lowest bits of TCCRnB; nought stands, undefined counts an outside clock. */
const DIVIDERS = [0, 1, 8, 64, 256, 1024] as const
const DIVIDERS_2 = [0, 1, 8, 32, 64, 128, 256, 1024] as const
const SOURCES = ['OVF', 'A', 'B', 'C'] as const

/**
 * One timer of an eight-bit chip: it counts, calls handlers where it meets what it is compared with and where it starts
 * again, and makes pulses. Sources: ATmega328P datasheet 15, 16, 18; ATmega2560 datasheet 17.
 */
export class Timer {
  readonly #chip: ChipBoard
  readonly #number: number
  readonly #bits: 8 | 16
  readonly #letters: readonly Letter[]
  readonly #pins: ReadonlyMap<Letter, readonly number[]>
  /** Count at a time in microseconds. */
  #count = 0
  #since = 0
  #round = 0
  /** Up to when each flag has been looked at, in microseconds. */
  readonly #cleared = new Map<Source, number>()
  /** Duties that `analogWrite` has given to pins. */
  readonly #given = new Map<number, number>()
  readonly #driven = new Set<number>()
  /** The program has set the timer itself. */
  #isOwn = false

  constructor(chip: ChipBoard, number: number, bits: 8 | 16, channels: ReadonlyMap<Letter, readonly string[]>) {
    this.#chip = chip
    this.#number = number
    this.#bits = bits
    this.#letters = [...channels.keys()]
    this.#pins = new Map(
      [...channels].map(([letter, ids]) => [letter, ids.flatMap((id) => chip.numberOf(id) ?? [])] as const),
    )
    this.#addRegisters()
  }

  #name = (before: string, after = ''): string => `${before}${this.#number}${after}`
  #value = (before: string, after = ''): number => this.#chip.value(this.#name(before, after))

  #addRegisters(): void {
    const { registers } = this.#chip
    const n = this.#number
    const own = (value: string): void =>
      this.#chip.keep(
        value,
        (_, at) => {
          this.#isOwn = true
          this.refresh(at)
        },
        value.startsWith('OCR') || value.startsWith('ICR') ? this.#bits : 8,
      )
    // What is written counts from now on: the time before still ran with what was set then.
    const before = (name: string): void => {
      const plain = registers.get(name)!
      registers.set(name, {
        ...plain,
        write: (value, at) => {
          this.#rebase()
          plain.write(value, at)
        },
      })
    }
    const kept = [
      this.#name('TCCR', 'A'),
      this.#name('TCCR', 'B'),
      ...(this.#bits === 16 ? [this.#name('ICR')] : []),
      ...this.#letters.map((letter) => this.#name('OCR', letter)),
    ]
    for (const name of kept) {
      own(name)
      before(name)
    }
    if (this.#bits === 16) this.#chip.keep(this.#name('TCCR', 'C'))
    this.#chip.keep(this.#name('TIMSK'), (_, at) => this.refresh(at))
    registers.set(this.#name('TCNT'), {
      bits: this.#bits,
      read: () => this.#countAt(this.#chip.machine.now),
      write: (value, at) => {
        this.#count = value
        this.#since = this.#chip.machine.now
        this.refresh(at)
      },
    })
    registers.set(this.#name('TIFR'), {
      bits: 8,
      read: () => SOURCES.reduce((sum, source, bit) => sum | (this.#hasCome(source) ? 1 << bit : 0), 0),
      // A one clears its flag.
      write: (value) => {
        for (const [bit, source] of SOURCES.entries())
          if ((value >> bit) % 2 === 1) this.#cleared.set(source, this.#chip.machine.now)
      },
    })
    this.#chip.name(...[0, 1, 2].map((bit) => `CS${n}${bit}`))
    this.#chip.bits.set(`WGM${n}0`, 0)
    this.#chip.bits.set(`WGM${n}1`, 1)
    this.#chip.bits.set(`WGM${n}2`, 3)
    if (this.#bits === 16) this.#chip.bits.set(`WGM${n}3`, 4)
    for (const [at, letter] of (['A', 'B', 'C'] as const).entries()) {
      if (!this.#letters.includes(letter)) continue
      this.#chip.bits.set(`COM${n}${letter}0`, 6 - 2 * at)
      this.#chip.bits.set(`COM${n}${letter}1`, 7 - 2 * at)
      this.#chip.bits.set(`OCIE${n}${letter}`, at + 1)
      this.#chip.bits.set(`OCF${n}${letter}`, at + 1)
    }
    this.#chip.bits.set(`TOIE${n}`, 0)
    this.#chip.bits.set(`TOV${n}`, 0)
  }

  /** As the core leaves it before `setup`: timer 0 fast at a 64th of the clock, the others up and down. */
  begin(): void {
    this.#round += 1
    this.#isOwn = false
    this.#given.clear()
    this.#driven.clear()
    this.#cleared.clear()
    this.#count = 0
    this.#since = this.#chip.machine.now
    this.#chip.set(this.#name('TCCR', 'A'), this.#number === 0 ? 3 : 1)
    this.#chip.set(this.#name('TCCR', 'B'), this.#number === 2 ? 4 : 3)
  }

  get #mode(): Mode {
    const a = this.#value('TCCR', 'A')
    const b = this.#value('TCCR', 'B')
    const ocr = this.#value('OCR', 'A')
    if (this.#bits === 8) {
      const modes: readonly Mode[] = [
        { counts: 'normal', top: 0xff },
        { counts: 'phase', top: 0xff },
        { counts: 'clear', top: ocr },
        { counts: 'fast', top: 0xff },
        NONE,
        { counts: 'phase', top: ocr },
        NONE,
        { counts: 'fast', top: ocr },
      ]
      return modes[(a & 3) | ((b & 8) >> 1)] ?? NONE
    }
    const icr = this.#value('ICR')
    const modes: readonly Mode[] = [
      { counts: 'normal', top: 0xffff },
      ...[0xff, 0x1ff, 0x3ff].map((top): Mode => ({ counts: 'phase', top })),
      { counts: 'clear', top: ocr },
      ...[0xff, 0x1ff, 0x3ff].map((top): Mode => ({ counts: 'fast', top })),
      { counts: 'phase', top: icr },
      { counts: 'phase', top: ocr },
      { counts: 'phase', top: icr },
      { counts: 'phase', top: ocr },
      { counts: 'clear', top: icr },
      NONE,
      { counts: 'fast', top: icr },
      { counts: 'fast', top: ocr },
    ]
    return modes[(a & 3) | ((b & 0x18) >> 1)] ?? NONE
  }

  /** Ticks a second; 0 while it stands. */
  get #hertz(): number {
    const chosen = this.#value('TCCR', 'B') & 7
    const by = (this.#number === 2 ? DIVIDERS_2 : DIVIDERS)[chosen] ?? 0
    return by === 0 ? 0 : this.#chip.hertz / by
  }

  /** Ticks of one round. */
  #period({ counts, top }: Mode): number {
    return counts === 'phase' ? Math.max(1, 2 * top) : top + 1
  }

  /** Ticks since the count was set. */
  #ticks(now: number): number {
    return Math.floor(((now - this.#since) * this.#hertz) / 1e6 + 1e-6)
  }

  /** Ticks until a count beyond the top has come round to nought: it runs to the end of its bits first. */
  #beyond({ counts, top }: Mode): number {
    return counts !== 'phase' && this.#count > top ? 2 ** this.#bits - this.#count : 0
  }

  #countAt(now: number): number {
    const mode = this.#mode
    const ticks = this.#ticks(now)
    const beyond = this.#beyond(mode)
    if (beyond > 0 && ticks < beyond) return this.#count + ticks
    const at = (beyond > 0 ? ticks - beyond : this.#count + ticks) % this.#period(mode)
    return mode.counts === 'phase' && at > mode.top ? this.#period(mode) - at : at
  }

  #rebase(): void {
    const { now } = this.#chip.machine
    const hertz = this.#hertz
    const ticks = this.#ticks(now)
    this.#count = this.#countAt(now)
    this.#since = hertz === 0 ? now : this.#since + (ticks * 1e6) / hertz
  }

  /** Where in a round something happens. */
  #places(source: Source, mode: Mode): readonly number[] {
    const period = this.#period(mode)
    if (source === 'OVF') return mode.counts === 'clear' && mode.top < 2 ** this.#bits - 1 ? [] : [0]
    const value = this.#value('OCR', source)
    if (!this.#letters.includes(source) || value > mode.top) return []
    if (mode.counts === 'phase') return value === 0 || value === mode.top ? [value] : [value, period - value]
    return [(value + 1) % period]
  }

  /** When something happens the next time after a moment, in microseconds; undefined where it never does. */
  #next(source: Source, after: number): number | undefined {
    const hertz = this.#hertz
    if (hertz === 0) return undefined
    const mode = this.#mode
    const period = this.#period(mode)
    const beyond = this.#beyond(mode)
    // Of a count that runs from nought after `beyond` ticks: which tick is it?
    const start = beyond > 0 ? beyond : -this.#count
    const from = Math.floor(((after - this.#since) * hertz) / 1e6 + 1e-6) + 1
    const ticks = this.#places(source, mode).map(
      (place) => start + place + Math.max(0, Math.ceil((from - start - place) / period)) * period,
    )
    return ticks.length === 0 ? undefined : this.#since + (Math.min(...ticks) * 1e6) / hertz
  }

  #hasCome(source: Source): boolean {
    const next = this.#next(source, Math.max(this.#cleared.get(source) ?? 0, this.#since))
    return next !== undefined && next <= this.#chip.machine.now
  }

  /** Registers have changed: what comes next, and what the pins do. */
  refresh(at: number): void {
    this.#round += 1
    const round = this.#round
    for (const [bit, source] of SOURCES.entries())
      if ((this.#value('TIMSK') >> bit) % 2 === 1) this.#expect(source, this.#chip.machine.now, round, at)
    if (this.#number === 0)
      this.#chip.speed = Math.max(STANDS, this.#hertz / this.#period(this.#mode) / (this.#chip.hertz / 64 / 256))
    this.#applyPins(at)
  }

  #expect(source: Source, after: number, round: number, at: number): void {
    const { machine, hardware } = this.#chip
    const due = this.#next(source, after)
    if (due === undefined) {
      // Registers are set one after the other: only what stays so is worth a word.
      hardware.later(SETTLED, () => {
        if (this.#round === round) this.#sayNever(source, at)
      })
      return
    }
    hardware.later(Math.max(0, due - machine.now), () => {
      if (this.#round !== round) return
      this.#cleared.set(source, machine.now)
      // What was missed while handlers waited comes once.
      this.#expect(source, Math.max(due, machine.now), round, at)
      this.#chip.call(`TIMER${this.#number}_${source === 'OVF' ? 'OVF' : `COMP${source}`}_vect`, at)
    })
  }

  #sayNever(source: Source, at: number): void {
    const { top, counts } = this.#mode
    const n = this.#number
    if (this.#hertz === 0) {
      if ((this.#value('TCCR', 'B') & 7) > 0)
        this.#chip.hardware.neverComes(
          at,
          `Timer ${n} is clocked from outside, by the bits CS${n}2 to CS${n}0 together, and stands still.`,
          `The core has set some of these bits already: begin with TCCR${n}A = 0 and TCCR${n}B = 0, then set your own.`,
        )
      return
    }
    this.#chip.hardware.neverComes(
      at,
      source === 'OVF'
        ? `Timer ${n} starts again at ${top} and never runs over: TIMER${n}_OVF never comes.`
        : `Timer ${n} counts to ${top} and never comes to ${this.#value('OCR', source)}, the value of OCR${n}${source}.`,
      counts === 'clear'
        ? 'What counts to a value and starts again meets that value, not the end of its bits.'
        : `Its mode is that of the core, which makes pulses with it: begin with TCCR${n}A = 0 and TCCR${n}B = 0, then set your own.`,
    )
  }

  /** Pulses a second at its pins, where the program has set the timer itself. */
  get pulseHertz(): number | undefined {
    const mode = this.#mode
    return this.#isOwn && this.#hertz > 0 && mode.counts !== 'normal' ? this.#hertz / this.#period(mode) : undefined
  }

  makes(pin: number): boolean {
    return [...this.#pins.values()].some((pins) => pins.includes(pin))
  }

  pulsed(pin: number, duty: number | undefined): void {
    if (duty === undefined) this.#given.delete(pin)
    else this.#given.set(pin, duty)
  }

  /** What its pins put out: by what the registers compare, and by what `analogWrite` has asked for. */
  #applyPins(at: number): void {
    const { hardware } = this.#chip
    for (const [letter, pins] of this.#pins) {
      const wave = this.#wave(letter)
      for (const pin of pins) {
        const given = this.#given.get(pin)
        if (wave && hardware.state(pin).setting === 'out') {
          hardware.pulse(pin, wave.duty, wave.hertz, at)
          this.#driven.add(pin)
        } else if (this.#driven.delete(pin)) hardware.write(pin, false, at)
        else if (given !== undefined && hardware.state(pin).pulse) hardware.pulse(pin, given, this.pulseHertz, at)
      }
    }
  }

  /** What the bits of a channel make of its pin; nothing where they leave it alone. */
  #wave(letter: Letter): { readonly duty: number; readonly hertz: number } | undefined {
    const shift = 6 - 2 * (['A', 'B', 'C'] as const).indexOf(letter)
    const how = (this.#value('TCCR', 'A') >> shift) & 3
    const mode = this.#mode
    const rounds = this.#hertz / this.#period(mode)
    if (how === 0 || this.#hertz === 0 || mode.top === 0) return undefined
    if (mode.counts === 'normal' || mode.counts === 'clear')
      return how === 1 ? { duty: 0.5, hertz: rounds / 2 } : undefined
    // Turned round at each match: only the channel that is the top itself.
    if (how === 1)
      return letter === 'A' && mode.top === this.#value('OCR', 'A') ? { duty: 0.5, hertz: rounds / 2 } : undefined
    const value = Math.min(this.#value('OCR', letter), mode.top)
    const share = mode.counts === 'fast' ? (value + 1) / (mode.top + 1) : value / mode.top
    return { duty: how === 2 ? share : 1 - share, hertz: rounds }
  }
}
