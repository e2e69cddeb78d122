import { calendarDay, daysSinceEpoch } from '../../base/calendar.ts'
import type { Driver } from '../../catalog/driverSchema.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { Events } from './events.ts'

/** What a part that speaks over a serial line senses, by its names; nought for what it does not. */
type Sensed = (what: string) => number
export type SpeakerKind = Extract<Driver['bytes'][number], { as: 'serial' }>['kind']

/** A part that says something by itself every so many microseconds, or when it is asked. */
interface Speaker {
  readonly every?: number
  readonly says?: (sensed: Sensed, seconds: number) => readonly number[]
  /** What it answers to bytes that came; undefined while it waits for more. */
  readonly answers?: (heard: readonly number[], sensed: Sensed) => readonly number[] | undefined
  /** Bytes of the longest question. */
  readonly asks?: number
}

interface Stage {
  readonly wiring: Wiring
  readonly events: Events
  now(): number
  sensed(ref: string, what: string): number | undefined
  /** A byte comes over a net, at a speed in bits a second. */
  hears(net: number, byte: number, baud: number): void
  /** Nets that hang together. */
  isJoined(one: number, two: number): boolean
}

/** Bits of a byte with its start and stop. */
const BITS_A_BYTE = 10

/** Parts of the plan that speak over a serial line by themselves: what they say is heard where their wire leads. */
export class SerialSpeakers {
  readonly #stage: Stage
  readonly #all: { readonly part: PartInstance; readonly of: Speaker; readonly baud: number; heard: number[] }[]

  constructor(stage: Stage) {
    this.#stage = stage
    const { wiring } = stage
    this.#all = wiring.parts.flatMap((part) => {
      const kind = wiring.catalog.drivers
        .flatMap(({ bytes }) => bytes)
        .find((one) => one.as === 'serial' && one.parts.includes(part.part.id))
      const baud = part.mode?.uart?.baud[0]
      const isFed = part.supplies.every(({ source, facts }) => source !== undefined || !facts.required)
      return kind?.as === 'serial' && baud !== undefined && isFed
        ? [{ part, of: speakers[kind.kind], baud, heard: [] }]
        : []
    })
    for (const one of this.#all) {
      const { every, says } = one.of
      if (every === undefined || !says) continue
      const say = (): void => {
        this.#send(one.part, one.baud, says(this.#sensedBy(one.part), stage.now() / 1e6))
        stage.events.at(stage.now() + every, say)
      }
      stage.events.at(stage.now() + every, say)
    }
  }

  /** The board has sent a byte over a net. */
  hear(net: number, byte: number): void {
    for (const one of this.#all) {
      const line = this.#lineOf(one.part, 'uart.tx')
      if (line === undefined || !one.of.answers || !this.#stage.isJoined(line, net)) continue
      one.heard = [...one.heard, byte].slice(-(one.of.asks ?? 1))
      const answer = one.of.answers(one.heard, this.#sensedBy(one.part))
      if (!answer) continue
      this.#send(one.part, one.baud, answer)
    }
  }

  #sensedBy({ ref }: PartInstance): Sensed {
    return (what) => this.#stage.sensed(ref, what) ?? 0
  }

  #lineOf(part: PartInstance, needs: 'uart.rx' | 'uart.tx'): number | undefined {
    const { wiring } = this.#stage
    const use = wiring.signals.find((one) => one.part === part && one.facts.needs === needs)
    const net = use && wiring.netOf(use.end)
    return net?.wired ? net.index : undefined
  }

  #send(part: PartInstance, baud: number, bytes: readonly number[]): void {
    const net = this.#lineOf(part, 'uart.rx')
    if (net === undefined) return
    const from = this.#stage.now()
    for (const [index, byte] of bytes.entries())
      this.#stage.events.at(from + ((index + 1) * BITS_A_BYTE * 1e6) / baud, () => this.#stage.hears(net, byte, baud))
  }
}

const sum = (bytes: readonly number[]): number => bytes.reduce((all, byte) => all + byte, 0)
const word = (value: number): [high: number, low: number] => {
  const whole = Math.max(0, Math.min(0xffff, Math.round(value)))
  return [whole >> 8, whole & 255]
}

/** The year in which made-up clocks stand. */
const START = daysSinceEpoch({ year: 2026, month: 1, day: 1 })
const NOON = 12 * 3600
const KNOT = 1.852

/**
 * Sentences of a receiver of positions. Source: NMEA 0183, sentences RMC and GGA: degrees and minutes in one number, a
 * check of all letters between `$` and `*` by exclusive or.
 */
export function positionSentences(sensed: Sensed, seconds: number): string[] {
  const two = (value: number): string => String(Math.floor(value)).padStart(2, '0')
  const all = Math.floor(seconds) + NOON
  const day = calendarDay(START + Math.floor(all / 86_400))
  const time = `${two((all / 3600) % 24)}${two((all / 60) % 60)}${two(all % 60)}.00`
  const date = `${two(day.day)}${two(day.month)}${two(day.year % 100)}`
  const angle = (degrees: number, digits: number, [over, under]: readonly [string, string]): string => {
    const whole = Math.floor(Math.abs(degrees))
    const minutes = ((Math.abs(degrees) - whole) * 60).toFixed(5).padStart(8, '0')
    return `${String(whole).padStart(digits, '0')}${minutes},${degrees < 0 ? under : over}`
  }
  const place = `${angle(sensed('latitude'), 2, ['N', 'S'])},${angle(sensed('longitude'), 3, ['E', 'W'])}`
  const seen = Math.round(sensed('satellites'))
  const hasFix = seen >= 3
  const where = hasFix ? place : ',,,'
  const knots = (sensed('speed') / KNOT).toFixed(2)
  return [
    `GPRMC,${time},${hasFix ? 'A' : 'V'},${where},${hasFix ? `${knots},0.00` : ','},${date},,,A`,
    `GPGGA,${time},${where},${hasFix ? 1 : 0},${two(seen)},1.20,${hasFix ? sensed('height').toFixed(1) : ''},M,0.0,M,,`,
  ].map((text) => {
    const check = [...text].reduce((all, letter) => all ^ letter.charCodeAt(0), 0)
    return `$${text}*${check.toString(16).toUpperCase().padStart(2, '0')}\r\n`
  })
}

/** Sources: data sheets of PMS5003, SDS011, TFmini and MH-Z19, chapters on their serial line. */
const speakers: Readonly<Record<SpeakerKind, Speaker>> = {
  position: {
    every: 1_000_000,
    says: (sensed, seconds) => [...positionSentences(sensed, seconds).join('')].map((one) => one.charCodeAt(0)),
  },
  particles: {
    every: 1_000_000,
    says: (sensed) => {
      const three = ['pm1', 'pm25', 'pm10'].flatMap((what) => word(sensed(what)))
      const bytes = [0x42, 0x4d, 0, 28, ...three, ...three, ...new Array(14).fill(0)]
      return [...bytes, ...word(sum(bytes))]
    },
  },
  dust: {
    every: 1_000_000,
    says: (sensed) => {
      const data = ['pm25', 'pm10'].flatMap((what) => word(sensed(what) * 10).reverse())
      const all = [...data, 0x01, 0x02]
      return [0xaa, 0xc0, ...all, sum(all) & 255, 0xab]
    },
  },
  range: {
    every: 10_000,
    says: (sensed) => {
      const bytes = [0x59, 0x59, ...word(sensed('distance')).reverse(), 0xe8, 0x03, 0, 0]
      return [...bytes, sum(bytes) & 255]
    },
  },
  carbon: {
    asks: 9,
    answers: (heard, sensed) => {
      if (heard.length < 9 || heard[0] !== 0xff || heard[2] !== 0x86) return undefined
      const bytes = [0x86, ...word(sensed('carbon')), Math.round(sensed('temperature')) + 40, 0, 0, 0]
      return [0xff, ...bytes, (256 - (sum(bytes) & 255)) & 255]
    },
  },
}
