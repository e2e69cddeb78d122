import type { Bytes } from '../../catalog/driverSchema.ts'
import type { PartInstance } from '../../wiring/model.ts'
import { type BusBytes, BYTE, bitsOf } from './busBytes.ts'
import { type Chip, type ChipStage, isAlive, outputsOf } from './chips.ts'

/** What a part does with the bits that come while it is selected. */
interface Talk {
  readonly begins: () => void
  /** A bit that was taken at a rising clock. */
  readonly takes: (high: boolean) => void
  /** The level that it gives until the next one is taken; undefined while it gives none. */
  readonly gives: () => boolean | undefined
  readonly ends: () => void
}

/** Parts on four wires, as the files of drivers describe what they say: each follows its select, clock and data. */
export function spiDevices(stage: ChipStage, bytes: BusBytes): Chip[] {
  return stage.wiring.parts.flatMap((part) => {
    if (part.mode?.spi === undefined || !isAlive(part)) return []
    const pin = (signal: string): string | undefined =>
      stage.wiring.signals.find((use) => use.part === part && use.facts.needs === `spi.${signal}`)?.facts.pin
    const [clock, select, takes, gives] = ['sck', 'cs', 'mosi', 'miso'].map(pin)
    if (clock === undefined || select === undefined) return []
    return [deviceOf(part, { clock, select, takes, gives }, talkOf(part, stage, bytes), stage)]
  })
}

interface Pins {
  readonly clock: string
  readonly select: string
  readonly takes: string | undefined
  readonly gives: string | undefined
}

function deviceOf(part: PartInstance, { clock, select, takes, gives }: Pins, talk: Talk, stage: ChipStage): Chip {
  const put = outputsOf(part, stage)
  const inputs = [clock, select, ...(takes === undefined ? [] : [takes])]
  const netOf = (pin: string): number => stage.wiring.netOf(`${part.ref}.${pin}`).index
  let isOn = false
  let wasHigh: boolean | undefined
  const out = (high: boolean | undefined): boolean => gives !== undefined && put(gives, high)
  return {
    part,
    nets: [...new Set([netOf(clock), netOf(select)])],
    inputs,
    follow: (seen) => {
      const now = seen.get(select) === false
      const high = seen.get(clock)
      const [rose, fell] = [wasHigh === false && high === true, wasHigh === true && high === false]
      wasHigh = high ?? wasHigh
      if (now !== isOn) {
        isOn = now
        if (!now) {
          talk.ends()
          return out(undefined)
        }
        talk.begins()
        return out(talk.gives())
      }
      if (!isOn) return false
      if (rose) talk.takes(takes !== undefined && seen.get(takes) === true)
      return fell && out(talk.gives())
    },
  }
}

function talkOf(part: PartInstance, stage: ChipStage, bytes: BusBytes): Talk {
  const how = bytes.howOf(part)
  switch (how?.as) {
    case 'reply':
      return replying(part, stage, bytes)
    case 'samples':
      return sampling(part, how, stage, bytes)
    case 'digits':
      return digits(part, stage)
    case 'registers':
      return how.frame ? registers(part, how.frame, stage, bytes) : unknown(part, stage, bytes)
    default:
      return unknown(part, stage, bytes)
  }
}

/** Once selected it says what it has, bit after bit, and then nought. */
function replying(part: PartInstance, stage: ChipStage, bytes: BusBytes): Talk {
  let left: boolean[] = []
  return {
    begins: () => {
      left = bitsOf(bytes.reply(part, stage.at()))
    },
    takes: () => {
      left.shift()
    },
    gives: () => left[0] ?? false,
    ends: () => undefined,
  }
}

/** A part of which nobody has said what it does with bytes. */
function unknown(part: PartInstance, stage: ChipStage, bytes: BusBytes): Talk {
  let count = 0
  return {
    begins: () => {
      count = 0
    },
    takes: () => {
      count += 1
      if (count === BYTE) bytes.sayUnknown(part, stage.at())
    },
    gives: () => false,
    ends: () => undefined,
  }
}

/**
 * A converter of several inputs: after a first high bit come one for the way of measuring and three for the channel; two
 * clocks later a nought and the bits of the value. Source: data sheet of the MCP3008, serial communication.
 */
function sampling(
  part: PartInstance,
  { bits }: Extract<Bytes, { as: 'samples' }>,
  stage: ChipStage,
  bytes: BusBytes,
): Talk {
  const ASKED = 5
  let asked: boolean[] = []
  let since = 0
  let value = 0
  return {
    begins: () => {
      asked = []
      since = 0
    },
    takes: (high) => {
      if (asked.length === ASKED) {
        since += 1
        return
      }
      if (asked.length > 0 || high) asked = [...asked, high]
      if (asked.length < ASKED) return
      const [, single, ...rest] = asked
      const channel = rest.reduce((sum, one) => sum * 2 + (one ? 1 : 0), 0)
      value = bytes.sample(part, channel, single === true, bits, stage.at())
    },
    // The first clock samples, the second gives a nought, then come the bits.
    gives: () => {
      const bit = bits + 1 - since
      return bit >= 0 && ((value >> bit) & 1) === 1
    },
    ends: () => undefined,
  }
}

/** Registers of the driver of eight digits. Source: data sheet of the MAX7219, register address map, code B font. */
const DIGITS = { none: 0, decode: 9, brightness: 10, limit: 11, awake: 12, test: 15 } as const
const CODE_B = '0123456789-EHLP '

/** Rows or figures: sixteen bits are taken over when the select rises. */
function digits(part: PartInstance, { shows }: ChipStage): Talk {
  const kept = new Array<number>(DIGITS.test + 1).fill(0)
  let last = 0
  const words = (): string => {
    const of = (register: number): number => kept[register] as number
    const rows = Array.from({ length: (of(DIGITS.limit) & 7) + 1 }, (_, at) => of(at + 1))
    if ((of(DIGITS.awake) & 1) === 0) return 'sleeps'
    if ((of(DIGITS.test) & 1) === 1) return 'every dot lit'
    const isFigure = (at: number): boolean => ((of(DIGITS.decode) >> at) & 1) === 1
    if (rows.every((_, at) => isFigure(at))) {
      const text = rows.map((row) => `${CODE_B[row & 15]}${row & 128 ? '.' : ''}`)
      return text.reverse().join('').trim()
    }
    return `${rows.reduce((sum, row) => sum + bitsOf([row]).filter(Boolean).length, 0)} dots lit`
  }
  return {
    begins: () => undefined,
    takes: (high) => {
      last = ((last << 1) | (high ? 1 : 0)) & 0xffff
    },
    gives: () => undefined,
    ends: () => {
      const register = (last >> BYTE) & 15
      if (register === DIGITS.none) return
      kept[register] = last & 255
      shows(part.ref, words())
    },
  }
}

/** The first byte says which register and whether it is read; each further one is of the next. */
function registers(
  part: PartInstance,
  { read, place }: NonNullable<Extract<Bytes, { as: 'registers' }>['frame']>,
  stage: ChipStage,
  bytes: BusBytes,
): Talk {
  let bits: boolean[] = []
  let at: number | undefined
  let isRead = false
  let left: boolean[] = []
  const load = (): void => {
    left = bitsOf(bytes.read(part, 1, stage.at()))
  }
  return {
    begins: () => {
      bits = []
      at = undefined
      left = []
    },
    takes: (high) => {
      bits.push(high)
      left.shift()
      if (bits.length < BYTE) return
      const byte = bits.reduce((sum, one) => sum * 2 + (one ? 1 : 0), 0)
      bits = []
      if (at === undefined) {
        at = byte & place
        isRead = (byte & read) !== 0
        bytes.write(part, [at], stage.at())
      } else if (!isRead) {
        bytes.write(part, [at, byte], stage.at())
        at = (at + 1) & 255
      }
      if (isRead) load()
    },
    gives: () => left[0] ?? false,
    ends: () => undefined,
  }
}
