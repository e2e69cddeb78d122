import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import type { Machine } from '../cpp/machine.ts'
import type { SerialLine } from '../platform/hardware.ts'
import { BoardBus } from './boardBus.ts'
import type { Events } from './events.ts'
import type { RunKind } from './findings.ts'
import type { LiveCircuit } from './live.ts'
import type { Outside, Sent } from './outside.ts'
import type { LivePin, LivePins } from './pins.ts'
import { usualLines } from './usualLines.ts'

/** Bits of a byte with its start and stop, and the share by which two speeds may differ that still understand each other. */
const BITS_A_BYTE = 10
const MOST_BAUD_ERROR = 0.04

/** Bytes that the cores of eight-bit boards keep of what comes over a serial line, and those of the ESP32; of others alike. */
const SMALL_ROOM = 64
const LARGE_ROOM = 256

/** A serial line that has begun. */
interface SerialWire {
  readonly baud: number
  readonly rx: LivePin | undefined
  readonly tx: LivePin | undefined
  /** Microseconds until which bytes are on their way. */
  busyUntil: number
}

/** The board whose lines these are. */
interface Speaker {
  readonly live: LiveCircuit
  readonly pins: LivePins
  readonly events: Events
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
  readonly moved: (at: number) => void
  readonly interrupt: (run: () => void) => void
}

/** What a board says and hears: serial lines, the air, and what other boards of the plan do to its lines. */
export class Conversations {
  readonly printed: { readonly at: number; readonly line: string; readonly text: string }[] = []
  readonly #stage: Speaker
  readonly #board: BoardInstance
  readonly #machine: Machine
  readonly #language: Language
  readonly #serials = new Map<string, SerialLine>()
  /** Two-wire buses between boards. */
  readonly boards: BoardBus

  constructor(stage: Speaker, board: BoardInstance, machine: Machine, language: Language) {
    this.#stage = stage
    this.#board = board
    this.#machine = machine
    this.#language = language
    const { live, interrupt } = stage
    this.boards = new BoardBus({ live, ref: board.ref, now: () => machine.now, interrupt })
  }

  /** What other boards do is done to this one's lines, and what this one does is kept for them. */
  meets(outside: Outside, offset: number): void {
    const { live, events } = this.#stage
    this.boards.meets(outside.sent, offset, (talk) => this.sent.push(talk))
    for (const one of outside.sent)
      events.at(offset + one.at, () => {
        if (one.is === 'drive') {
          const { low, pulse } = one
          live.drive(one.end, one.net, one.drive, low && pulse ? { low, pulse } : undefined)
          this.#stage.moved(this.#machine.at)
        } else if (one.is === 'byte') this.hears(one)
        else if (one.is === 'call' || one.is === 'ask') this.boards.hears(one)
        else if (one.is === 'air') this.#air.set(one.key, [...(this.#air.get(one.key) ?? []), one.value])
      })
    this.#stage.pins.onDrive = ({ host, net, pulse }, drive, low) => {
      if (outside.shared.has(net.index))
        this.sent.push({
          is: 'drive',
          at: this.#machine.now - offset,
          end: host.end,
          net: net.index,
          drive,
          low,
          pulse,
        })
    }
    this.#onByte = (tx, byte, baud, at) => {
      if (outside.shared.has(tx.net.index))
        this.sent.push({ is: 'byte', at: at - offset, net: tx.net.index, byte, baud })
    }
    this.#onAir = (key, value) =>
      this.sent.push({ is: 'air', at: this.#machine.now - offset, from: this.#board.ref, key, value })
  }

  /** What others can see of what this board has done. */
  readonly sent: Sent[] = []
  readonly #air = new Map<string, unknown[]>()
  #onByte: ((tx: LivePin, byte: number, baud: number, at: number) => void) | undefined
  #onAir: ((key: string, value: unknown) => void) | undefined
  readonly #wires = new Map<string, SerialWire>()

  /** Pins and speed of a serial line, when it has begun. */
  #begin(
    name: string,
    baud: number,
    pins: { readonly rx?: number | undefined; readonly tx?: number | undefined },
  ): void {
    const number = Number(/\d+$/.exec(name)?.[0] ?? 0)
    const usual = usualLines(this.#board.board, this.#language, name, 'uart', number)
    const pinOf = (number: number | undefined, id: string | undefined): LivePin | undefined =>
      number !== undefined && number >= 0
        ? this.#stage.pins.pin(number, 'pin')
        : id === undefined
          ? undefined
          : this.#stage.pins.byId(this.#board.facts.pin(id)?.net ?? '')
    this.#wires.set(name, {
      baud,
      rx: pinOf(pins.rx, usual.of('rx')),
      tx: pinOf(pins.tx, usual.of('tx')),
      busyUntil: this.#wires.get(name)?.busyUntil ?? 0,
    })
  }

  /** Told each byte that the board sends over a wire. */
  onSpoken: ((net: number, byte: number) => void) | undefined

  /** A byte that another board or a part sends comes in on the line that hangs on its wire. */
  hears({ net, byte, baud }: Pick<Extract<Sent, { is: 'byte' }>, 'net' | 'byte' | 'baud'>): void {
    for (const [name, { rx, baud: own }] of this.#wires) {
      if (!rx || !this.#stage.live.around(net).includes(rx.net.index)) continue
      const differs = Math.abs(own - baud) > own * MOST_BAUD_ERROR
      if (differs)
        this.#stage.say(
          'other-baud',
          this.#machine.at,
          [rx.host.end],
          `${name} listens at ${own} bits a second, and what comes at ${rx.host.end} is sent at ${baud}.`,
          'Both ends must say the same number in begin; what arrives is noise.',
        )
      const { waiting } = this.serial(name)
      if (waiting.length < this.#room) waiting.push(differs ? (byte * 31 + 7) & 255 : byte)
      else this.#sayFull(name, rx)
      return
    }
  }

  /** Bytes that a line keeps for the program: what comes beyond them is lost. */
  get #room(): number {
    return this.#board.board.family === 'avr' ? SMALL_ROOM : LARGE_ROOM
  }

  #sayFull(name: string, rx: LivePin): void {
    this.#stage.say(
      'not-heard',
      this.#machine.at,
      [rx.host.end],
      `${name} keeps ${this.#room} bytes that have come at ${rx.host.end}, and what comes then is lost.`,
      'The program waits too long before it reads. Read whatever is there in every round, and look at the time rather than wait.',
    )
  }

  serial(name: string): SerialLine {
    let line = this.#serials.get(name)
    if (!line) {
      const waiting: number[] = []
      let text = ''
      line = {
        name,
        waiting,
        begin: (baud, _, pins = {}) => this.#begin(name, baud, pins),
        write: (bytes) => {
          const wire = this.#wires.get(name)
          if (wire?.tx && this.#onByte && wire.baud > 0)
            for (const letter of bytes) {
              wire.busyUntil = Math.max(wire.busyUntil, this.#machine.now) + (BITS_A_BYTE / wire.baud) * 1e6
              this.#onByte(wire.tx, letter.charCodeAt(0) & 255, wire.baud, wire.busyUntil)
            }
          if (wire?.tx) for (const letter of bytes) this.onSpoken?.(wire.tx.net.index, letter.charCodeAt(0) & 255)
          for (const letter of bytes) {
            if (letter !== '\n') {
              text += letter
              continue
            }
            this.printed.push({ at: this.#machine.now, line: name, text: utf8(text.replace(/\r$/, '')) })
            text = ''
          }
          this.#open.set(name, text)
        },
      }
      this.#serials.set(name, line)
    }
    return line
  }

  readonly #open = new Map<string, string>()

  /** What was printed without an end of its line. */
  finish(): void {
    for (const [name, text] of this.#open)
      if (text !== '') this.printed.push({ at: this.#machine.now, line: name, text: utf8(text) })
    this.#open.clear()
  }

  /** Something goes through the air under a name; what others have sent under one is taken, the oldest first. */
  send(key: string, value: unknown): void {
    this.#onAir?.(key, value)
  }

  take(key: string): unknown {
    return this.#air.get(key)?.shift()
  }

  waits(key: string): number {
    return this.#air.get(key)?.length ?? 0
  }
}

const utf8 = (bytes: string): string => {
  const codes = Uint8Array.from(bytes, (letter) => letter.charCodeAt(0))
  return new TextDecoder().decode(codes)
}
