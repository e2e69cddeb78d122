import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import type { NativeClass } from '../cpp/program.ts'
import type { Widths } from '../cpp/types.ts'
import type { LivePins } from '../stage/pins.ts'
import { avrChip } from './avr/avr.ts'
import { driverClasses } from './drivers.ts'
import type { Hardware } from './hardware.ts'
import type { Costs, Platform } from './platform.ts'
import { touchCountsOf } from './touch.ts'

interface Family {
  readonly widths: Widths
  readonly macros: Readonly<Record<string, string>>
  readonly costs: Costs
  readonly microStep: number
  readonly pulseHertz: number
  readonly readBits: number
}

const small: Widths = { int: 16, double: 32, pointer: 16, charSigned: true }
const large: Widths = { int: 32, double: 64, pointer: 32, charSigned: false }
const fast: Costs = { digital: 0.3, analog: 40, clock: 0.5, serialByte: 2, busByte: 90, statement: 0.1, loop: 4 }

/**
 * What firmware platforms of C++ have in common on the chips of a family: widths by their compilers' ABI, `micros()` in
 * steps of 4 µs and pulses of 490 Hz on eight-bit boards of 16 MHz, 1 kHz on the others, by their core libraries'
 * reference. Times of calls are rounded from their published benchmarks; a program must not depend on them.
 */
const families: Readonly<Record<string, Family>> = {
  avr: {
    widths: small,
    macros: { ARDUINO_ARCH_AVR: '1', __AVR__: '1', F_CPU: '16000000UL' },
    costs: { digital: 4, analog: 112, clock: 2, serialByte: 5, busByte: 90, statement: 1, loop: 1 },
    microStep: 4,
    pulseHertz: 490,
    readBits: 10,
  },
  esp8266: {
    widths: large,
    macros: { ESP8266: '1', ARDUINO_ARCH_ESP8266: '1', F_CPU: '80000000L' },
    costs: { ...fast, digital: 1, analog: 80 },
    microStep: 1,
    pulseHertz: 1000,
    readBits: 10,
  },
  esp32: {
    widths: large,
    macros: { ESP32: '1', ARDUINO_ARCH_ESP32: '1', ESP_ARDUINO_VERSION_MAJOR: '3', F_CPU: '240000000L' },
    costs: fast,
    microStep: 1,
    pulseHertz: 1000,
    readBits: 12,
  },
  rp2040: {
    widths: large,
    macros: { ARDUINO_ARCH_RP2040: '1', F_CPU: '133000000L' },
    costs: fast,
    microStep: 1,
    pulseHertz: 1000,
    readBits: 10,
  },
  other: { widths: large, macros: { F_CPU: '48000000L' }, costs: fast, microStep: 1, pulseHertz: 730, readBits: 10 },
}

/** Of interpreters, by their published benchmarks, rounded: about 100 000 statements a second on a microcontroller. */
const interpreted: Costs = { ...fast, digital: 5, analog: 60, statement: 10, loop: 0 }
const desk: Costs = { ...fast, digital: 2, analog: 60, statement: 0.1, serialByte: 0.1, loop: 0 }

const familyOf = (board: BoardInstance): Family => {
  const { family } = board.board
  const key = family.startsWith('esp32') ? 'esp32' : family.startsWith('rp2') ? 'rp2040' : family
  return (Object.hasOwn(families, key) ? families[key] : undefined) ?? families.other!
}

/** The widths of a board's platform, before anything runs. */
export const widthsOf = (board: BoardInstance): Widths => familyOf(board).widths

export function platformOf(
  board: BoardInstance,
  pins: () => LivePins,
  standIns: (...given: Parameters<Platform['classes']>) => readonly [string, NativeClass][],
  constants: ReadonlyMap<string, number>,
  language: Language = 'cpp',
): Platform {
  const family = familyOf(board)
  const isAvr = family === families.avr
  const program = board.board.programs.find((one) => one.as === 'cpp')
  const interrupts = program?.interrupts ?? []
  const mcu = board.board.mcu.toUpperCase().replace(/[^A-Z0-9]/g, '')
  const referred = withReferences(board, constants)
  return {
    ...family,
    ...(language === 'cpp' ? {} : { costs: language === 'python' ? desk : interpreted, readBits: 16 }),
    macros: {
      ARDUINO: '10819',
      ...family.macros,
      ...(isAvr ? { [`__AVR_${mcu.replace('ATMEGA', 'ATmega')}__`]: '1' } : {}),
      ...(board.board.hertz === undefined ? {} : { F_CPU: `${board.board.hertz}UL` }),
    },
    get pinNames() {
      return pins().names
    },
    // On eight-bit boards interrupts have numbers of their own; elsewhere they are the pins'.
    interruptOf: (pin) => {
      if (!isAvr || interrupts.length === 0) return pin
      const id = pins().pin(pin, 'pin')?.facts.id
      return interrupts.indexOf(id ?? '')
    },
    pinOfInterrupt: (number) => {
      if (!isAvr || interrupts.length === 0) return number
      return pins().byId(interrupts[number] ?? '')?.number ?? -1
    },
    ledc: board.board.family.startsWith('esp32') ? ledc() : undefined,
    classes: (...given) => [...standIns(...given), ...driverClasses(...given)],
    ...referred,
    // Data sheets of the ATmega328P, ATmega32U4 and ATmega2560.
    keeps: isAvr ? (board.board.mcu === 'ATmega2560' ? 4096 : 1024) : undefined,
    touch: touchCountsOf(board.board),
    chip: (hardware, machine) =>
      isAvr && language === 'cpp'
        ? avrChip(board, pins, hardware, machine, board.board.hertz ?? USUAL_HERTZ, referred.references)
        : undefined,
  }
}

/** Clock of an eight-bit board that says no other, in hertz. */
const USUAL_HERTZ = 16_000_000

/** Numbers of the references as the AVR core has them: the bits of REFS1 and REFS0 (ATmega2560 datasheet, ADMUX). */
const referenceNumbers: Readonly<Record<string, number>> = { INTERNAL: 3, INTERNAL1V1: 2, INTERNAL2V56: 3 }

/** The references of a board's converter: their names among the constants, and their volts. */
function withReferences(
  { board }: BoardInstance,
  constants: ReadonlyMap<string, number>,
): Pick<Platform, 'constants' | 'references'> {
  const named = Object.entries(board.analog[0]?.references ?? {}).flatMap(([name, volts]) => {
    const number = referenceNumbers[name]
    return number === undefined ? [] : [{ name, number, volts }]
  })
  return {
    constants: new Map([...constants, ...named.map(({ name, number }) => [name, number] as const)]),
    references: new Map(named.map(({ number, volts }) => [number, volts])),
  }
}

/** Pulses of the ESP32 as its platform's reference has them, by channel and by pin. */
function ledc(): NonNullable<Platform['ledc']> {
  const channels = new Map<number, { hertz: number; bits: number; pin: number | undefined; duty: number }>()
  const byPin = new Map<number, number>()
  const put = (channel: number, hardware: Hardware, at: number): void => {
    const one = channels.get(channel)
    if (one?.pin !== undefined) hardware.pulse(one.pin, Math.min(1, one.duty / (2 ** one.bits - 1)), one.hertz, at)
  }
  return {
    ledcSetup: ([channel = 0, hertz = 0, bits = 8]) => {
      channels.set(channel, { hertz, bits, pin: channels.get(channel)?.pin, duty: 0 })
      return hertz
    },
    ledcAttachPin: ([pin = 0, channel = 0], hardware, at) => {
      const one = channels.get(channel)
      if (one) one.pin = pin
      put(channel, hardware, at)
      return 1
    },
    ledcAttach: ([pin = 0, hertz = 0, bits = 8], hardware, at) => {
      channels.set(1000 + pin, { hertz, bits, pin, duty: 0 })
      byPin.set(pin, 1000 + pin)
      put(1000 + pin, hardware, at)
      return 1
    },
    ledcWrite: ([to = 0, duty = 0], hardware, at) => {
      const channel = byPin.get(to) ?? to
      const one = channels.get(channel)
      if (one) one.duty = duty
      put(channel, hardware, at)
      return 1
    },
  }
}
