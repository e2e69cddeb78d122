import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Board } from '../../core/catalog/boardSchema.ts'
import { busFacts, byFirmware, doesFacts, timerFacts } from './boardFacts.ts'
import type { Compared, Comparison } from './comparison.ts'

const VARIANTS: Readonly<Record<string, string>> = {
  'uno-r3': 'standard',
  'nano-v3': 'eightanaloginputs',
  'pro-mini-3v3': 'eightanaloginputs',
  'mega-2560-r3': 'mega',
  'leonardo-32u4': 'leonardo',
  'micro-32u4': 'micro',
}

/** The pin tables of the firmware core for AVR boards against ours. */
export const avrCore: Comparison = {
  id: 'avr-core',
  from: { kind: 'debian', name: 'arduino-core-avr' },
  source: 'pin tables of the firmware core for AVR boards (`variants`)',
  facts: 'port and bit, timer channel, interrupt, SPI, I2C and LED pin',
  quick: true,
  run(folder, catalog) {
    const home = join(folder, 'usr/share/arduino/hardware/arduino/avr/variants')
    return Object.entries(VARIANTS).map(([id, variant]): Compared => {
      const board = catalog.boards.get(id)
      if (board === undefined) throw new Error(`no board ${id}`)
      const ours = ourFacts(board)
      const facts = coreFacts(headerText(home, variant))
      // Pins that programs know by their signal carry a number in the tables.
      const numbers = new Map(
        [...facts].flatMap((fact) => {
          const found = /^(\d+) spi0\.(mosi|miso|sck)$/.exec(fact)
          const name = found?.[2]?.toUpperCase()
          return found !== null && board.pins.some(({ firmware }) => firmware === name) ? [[found[1], name]] : []
        }),
      )
      const brought = new Set(board.pins.map(({ firmware }) => firmware))
      const theirs = [...facts]
        .map((fact) => fact.replace(/^\S+/, (pin) => numbers.get(pin) ?? pin))
        .filter((fact) => brought.has(fact.split(' ')[0]))
      return { entry: id, ours, theirs: new Set(theirs) }
    })
  },
}

/** A header of the core with what it includes or inherits. */
export function headerText(home: string, variant: string): string {
  const file = join(home, variant, 'pins_arduino.h')
  if (!existsSync(file)) throw new Error(`${file} is not there`)
  const text = readFileSync(file, 'utf8')
  return text.replace(/#include\s+"\.\.\/(\w+)\/pins_arduino\.h"/g, (_, other: string) => headerText(home, other))
}

/** Facts of a pin header, pins by the number that programs use. */
export function coreFacts(header: string): Set<string> {
  const text = header
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/\/\/.*$/gm, '')
    // Lines for the oldest chip, which none of our boards has.
    .replace(/#if defined\(__AVR_ATmega8__\)\n[\s\S]*?#else\n([\s\S]*?)#endif/g, '$1')
  const pin = (name: string) => {
    const found = new RegExp(`#define\\s+${name}\\s+\\(?(\\d+)\\)?`).exec(text)
    return found === null ? undefined : Number(found[1])
  }
  const analog = Array.from({ length: 16 }, (_, at) => pin(`PIN_A${at}`))
  const named = (at: number) => {
    const channel = analog.indexOf(at)
    return channel >= 0 && at >= Math.min(...analog.filter((one) => one !== undefined)) ? `A${channel}` : `${at}`
  }
  const table = (name: string, item: RegExp) =>
    [...(new RegExp(`${name}\\[\\]\\s*=\\s*\\{([\\s\\S]*?)\\};`).exec(text)?.[1] ?? '').matchAll(item)].map(
      (found) => found[1] ?? found[0],
    )
  const ports = table('digital_pin_to_port_PGM', /\bP([A-L])\b/g)
  const bits = table('digital_pin_to_bit_mask_PGM', /_BV\(\s*(\d)\s*\)/g)
  const timers = table('digital_pin_to_timer_PGM', /\b(NOT_ON_TIMER|TIMER\w+)\b/g)
  if (ports.length < 20 || ports.length !== bits.length || timers.length < 20)
    throw new Error(`the tables of ports (${ports.length}), bits (${bits.length}) and timers (${timers.length}) differ`)
  const facts = new Set<string>()
  ports.forEach((port, at) => {
    // Past the last analog pin the table repeats pins under their channel's number.
    if (at <= Math.max(...analog.map((one) => one ?? 0), 19)) facts.add(`${named(at)} port P${port}${bits[at]}`)
  })
  timers.forEach((timer, at) => {
    const found = /^TIMER(\d)([A-D])$/.exec(timer)
    if (found !== null) facts.add(`${named(at)} timer${found[1]}.${found[2]?.toLowerCase()}`)
  })
  for (const [macro, fact] of Object.entries({
    PIN_SPI_MOSI: 'spi0.mosi',
    PIN_SPI_MISO: 'spi0.miso',
    PIN_SPI_SCK: 'spi0.sck',
    PIN_SPI_SS: 'spi0.cs',
    PIN_WIRE_SDA: 'i2c0.sda',
    PIN_WIRE_SCL: 'i2c0.scl',
    LED_BUILTIN: 'led',
  })) {
    const at = pin(macro)
    if (at !== undefined) facts.add(`${named(at)} ${fact}`)
  }
  // Which pins have an interrupt of their own stands in a chain of comparisons with the pin's number.
  const interrupts = /#define\s+digitalPinToInterrupt\(p\)\s+((?:.*\\\n)*.*)/.exec(text)?.[1] ?? ''
  for (const found of interrupts.matchAll(/\(p\)\s*==\s*(\d+)/g)) facts.add(`${named(Number(found[1]))} interrupt`)
  const range = /\(p\)\s*>=\s*(\d+)\s*&&\s*\(p\)\s*<=\s*(\d+)/.exec(interrupts)
  if (range !== null)
    for (let at = Number(range[1]); at <= Number(range[2]); at += 1) facts.add(`${named(at)} interrupt`)
  return facts
}

function ourFacts(board: Board): Set<string> {
  const led = board.pins.filter((pin) =>
    pin.cautions.some(({ id, feature }) => id === 'onboard-led' && feature === undefined),
  )
  return new Set([
    ...board.pins.flatMap((pin) =>
      pin.joins === undefined && pin.port !== undefined && pin.firmware !== undefined
        ? [`${pin.firmware} port ${pin.port}`]
        : [],
    ),
    ...timerFacts(board, byFirmware),
    ...busFacts(board, byFirmware, ['i2c', 'spi']),
    ...doesFacts(board, byFirmware, 'interrupt'),
    ...led.map((pin) => `${pin.firmware} led`),
  ])
}
