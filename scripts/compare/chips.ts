import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Board } from '../../core/catalog/boardSchema.ts'
import type { Catalog } from '../../core/catalog/catalog.ts'
import { busFacts, byFirmware, byPort, doesFacts, pinNames, timerFacts } from './boardFacts.ts'
import type { Compared, Comparison } from './comparison.ts'
import type { Package } from './packages.ts'

/** Pin tables of chips and boards in the source of a firmware that runs on many of them. */

const SOURCE: Package = { kind: 'debian-source', name: 'micropython', suite: 'trixie' }
const BUSES = ['i2c', 'spi', 'uart', 'can']

/** Rows of a table with a heading, cells trimmed; lines before the heading and remarks are left out. */
export function rows(text: string, heading: string): Record<string, string>[] {
  const lines = text.split('\n').filter((line) => line.trim() !== '' && !line.startsWith('#'))
  const from = lines.findIndex((line) => line.split(',')[0]?.trim() === heading)
  if (from < 0) throw new Error(`no table with the heading ${heading}`)
  const names = (lines[from] ?? '').split(',').map((cell) => cell.trim())
  return lines.slice(from + 1).map((line) => {
    const cells = line.match(/"[^"]*"|[^,]+|(?<=,)(?=,)|(?<=,)$/g) ?? []
    return Object.fromEntries(names.map((name, at) => [name, (cells[at] ?? '').replace(/"/g, '').trim()]))
  })
}

function table(folder: string, ...path: string[]): string {
  return readFileSync(join(folder, 'ports', ...path), 'utf8')
}

/** The folder of a board, whatever its maker's name before the board's own. */
function boardFolder(folder: string, port: string, name: RegExp): string {
  const found = readdirSync(join(folder, 'ports', port, 'boards')).find((one) => name.test(one))
  if (found === undefined) throw new Error(`no folder of ${name.source}`)
  return found
}

function board(catalog: Catalog, id: string): Board {
  const found = catalog.boards.get(id)
  if (found === undefined) throw new Error(`no board ${id}`)
  return found
}

/** Facts of pins that the board brings out, and no others. */
function onBoard(facts: Iterable<string>, pins: ReadonlySet<string>): Set<string> {
  return new Set([...facts].filter((fact) => pins.has(fact.split(' ')[0] ?? '')))
}

/** `I2C1_SDA` and its kind as facts of the form that our files give. */
export function stmFunction(name: string): string | undefined {
  const bus = /^(I2C|SPI|USART|UART|CAN)(\d)_(SDA|SCL|SCK|MISO|MOSI|NSS|TX|RX|CTS|RTS)$/.exec(name)
  if (bus !== null) {
    const kind = bus[1] === 'USART' ? 'uart' : bus[1]?.toLowerCase()
    return `${kind}${bus[2]}.${bus[3] === 'NSS' ? 'cs' : bus[3]?.toLowerCase()}`
  }
  const timer = /^TIM(\d+)_CH(\d)$/.exec(name)
  if (timer !== null) return `tim${timer[1]}.${timer[2]}`
  const analog = /^ADC(\d+)_IN(\d+)$/.exec(name)
  return analog?.[1]?.includes('1') === true ? `analog ${analog[2]}` : undefined
}

function stm(folder: string, catalog: Catalog, id: string, chip: string, pinFile?: string): Compared {
  const entry = board(catalog, id)
  const pins = pinNames(entry, byPort)
  const theirs = rows(table(folder, 'stm32/boards', `${chip}_af.csv`), 'Port').flatMap((row) =>
    Object.values(row).flatMap((cell) =>
      cell.split('/').flatMap((name) => {
        const fact = stmFunction(name)
        return fact === undefined ? [] : [`${row.Pin} ${fact}`]
      }),
    ),
  )
  const ours = [
    ...busFacts(entry, byPort, BUSES),
    ...timerFacts(entry, byPort),
    ...entry.pins.flatMap((pin) => {
      const channel = /_IN(\d+)$/.exec(pin.analog ?? '')?.[1]
      return pin.joins !== undefined || channel === undefined ? [] : [`${pin.port} analog ${channel}`]
    }),
  ]
  if (pinFile !== undefined) {
    const printed = (name: string) => entry.pins.find((pin) => pin.id === name)
    for (const line of table(folder, 'stm32/boards', pinFile).split('\n')) {
      const found = /^([AD]\d+),(P[A-H]\d+)$/.exec(line.trim())
      const pin = printed(found?.[1] ?? '')
      if (found === null || pin === undefined) continue
      theirs.push(`${found[2]} printed ${found[1]}`)
      const chipPin = pin.port ?? entry.pins.find((other) => other.id === pin.joins)?.port
      ours.push(`${chipPin} printed ${found[1]}`)
    }
  }
  return { entry: id, ours: onBoard(ours, pins), theirs: onBoard(theirs, pins) }
}

export const stmTables: Comparison = {
  id: 'stm32-functions',
  from: SOURCE,
  source: "tables of the chips' alternate functions, and the board's list of pins",
  facts: 'I2C, SPI, UART, CAN, timer channels, analog channels of each chip pin; chip pin behind A0 to D15',
  quick: true,
  run: (folder, catalog) => [
    stm(folder, catalog, 'stm32f411-blackpill', 'stm32f411'),
    stm(folder, catalog, 'nucleo-f446re', 'stm32f446', 'NUCLEO_F446RE/pins.csv'),
  ],
}

/** `SPI0_RX` and its kind, as the board sees them. */
export function rpFunction(name: string): string | undefined {
  const spi = /^SPI(\d)_(RX|TX|SCK|CS)$/.exec(name)
  if (spi !== null) return `spi${spi[1]}.${{ RX: 'miso', TX: 'mosi', SCK: 'sck', CS: 'cs' }[spi[2] ?? '']}`
  const bus = /^(UART|I2C)(\d)_(TX|RX|SDA|SCL|CTS|RTS)$/.exec(name)
  if (bus !== null) return `${bus[1]?.toLowerCase()}${bus[2]}.${bus[3]?.toLowerCase()}`
  const slice = /^PWM(\d+)_([AB])$/.exec(name)
  return slice === null ? undefined : `slice${slice[1]}.${slice[2]?.toLowerCase()}`
}

export const rpTable: Comparison = {
  id: 'rp2-functions',
  from: SOURCE,
  source: "table of the chip's pin functions",
  facts: 'I2C, SPI, UART and PWM slice of each pin',
  quick: true,
  run: (folder, catalog) =>
    ['pico', 'pico-w', 'pico-2'].map((id): Compared => {
      const entry = board(catalog, id)
      const pins = pinNames(entry, byFirmware)
      const theirs = rows(table(folder, 'rp2/boards/rp2_af.csv'), 'Pin').flatMap((row) =>
        Object.values(row).flatMap((cell) => {
          const fact = rpFunction(cell)
          return fact === undefined ? [] : [`${row.Pin?.replace('GPIO', '')} ${fact}`]
        }),
      )
      return {
        entry: id,
        ours: onBoard([...busFacts(entry, byFirmware, BUSES), ...timerFacts(entry, byFirmware)], pins),
        theirs: onBoard(theirs, pins),
      }
    }),
}

/** Unit and pad, as the table packs both into one number: 21 is unit 2, pad 1. */
function unitAndPad(cell: string | undefined): [unit: number, pad: number] | undefined {
  return cell === undefined || cell === '' ? undefined : [Number(cell[0]), Number(cell[1])]
}

export const samdTable: Comparison = {
  id: 'samd21-functions',
  from: SOURCE,
  source: "table of the chip's pin functions, and the board's list of pins",
  facts: 'chip pin, analog channel, shared interrupt line, timer channel, serial unit of each bus',
  quick: true,
  run(folder, catalog) {
    const entry = board(catalog, 'xiao-samd21')
    const chip = new Map(rows(table(folder, 'samd/mcu/samd21/pin-af-table.csv'), 'Pin').map((row) => [row.Pin, row]))
    const named = table(folder, 'samd/boards', boardFolder(folder, 'samd', /_XIAO_SAMD21$/), 'pins.csv')
      .split('\n')
      .flatMap((line) => {
        const found = /^A\d+_D(\d+),(P[AB]\d+)$/.exec(line.trim())
        return found === null ? [] : [{ pin: found[1] ?? '', port: found[2] ?? '' }]
      })
    if (named.length < 11) throw new Error(`${named.length} pins in the board's list`)
    const theirs = new Set<string>()
    const ours = new Set<string>()
    const lines = new Map<string, string[]>()
    for (const { pin, port } of named) {
      const row = chip.get(port)
      if (row === undefined) throw new Error(`no row of ${port}`)
      theirs.add(`${pin} port ${port}`)
      theirs.add(`${pin} analog ${row.ADC0}`)
      lines.set(row.EIC ?? '', [...(lines.get(row.EIC ?? '') ?? []), pin])
      if (row.EIC !== '') theirs.add(`${pin} interrupt`)
    }
    for (const [line, pins] of lines)
      if (line !== '' && pins.length > 1) theirs.add(`${pins.join('+')} one interrupt line ${line}`)
    for (const pin of entry.pins.filter(
      ({ port, firmware }) => port !== undefined && named.some((one) => one.pin === firmware),
    )) {
      ours.add(`${pin.firmware} port ${pin.port}`)
      const channel = pin.aliases.map((alias) => /^AIN(\d+)$/.exec(alias)?.[1]).find((one) => one !== undefined)
      ours.add(`${pin.firmware} analog ${channel}`)
    }
    for (const fact of doesFacts(entry, byFirmware, 'interrupt')) ours.add(fact)
    for (const { id, pins } of entry.interruptLines) {
      const numbers = pins.map((pin) => entry.pins.find((one) => one.id === pin)?.firmware)
      ours.add(`${numbers.join('+')} one interrupt line ${id.replace('EXTINT', '')}`)
    }
    // Timer channels: any of the two columns may be the one in use.
    const inTable = (pin: string, timer: string, channel: number) => {
      const row = chip.get(named.find((one) => one.pin === pin)?.port ?? '')
      const unit = Number(timer.replace(/\D/g, ''))
      return [row?.TCC1, row?.TCC2].some((cell) => {
        const found = unitAndPad(cell)
        return found !== undefined && found[0] === unit && found[1] === channel
      })
    }
    for (const fact of timerFacts(entry, byFirmware)) {
      const found = /^(\d+) (\w+)\.w(\d)$/.exec(fact)
      if (found === null) throw new Error(`not a channel: ${fact}`)
      ours.add(fact)
      if (inTable(found[1] ?? '', found[2] ?? '', Number(found[3]))) theirs.add(fact)
    }
    // Every bus of ours sits on one serial unit; the pins must reach it.
    for (const controller of entry.controllers) {
      // The table has no column of the sound bus, which is no serial unit.
      if (controller.kind === 'i2s') continue
      const unit = Number(/SERCOM(\d)/.exec(controller.title)?.[1])
      for (const [signal, pins] of Object.entries(controller.pins ?? {}))
        for (const pin of pins) {
          const firmware = entry.pins.find((one) => one.id === pin)?.firmware ?? ''
          const row = chip.get(named.find((one) => one.pin === firmware)?.port ?? '')
          ours.add(`${firmware} unit ${unit} for ${signal}`)
          if ([row?.SERCOM1, row?.SERCOM2].some((cell) => unitAndPad(cell)?.[0] === unit))
            theirs.add(`${firmware} unit ${unit} for ${signal}`)
        }
    }
    return [{ entry: 'xiao-samd21', ours, theirs }]
  },
}

/** `LPI2C1_SCL`, `LPUART6_TXD` and their kind: unit and signal. */
export function imxrtFunction(name: string): { unit: string; signal: string } | undefined {
  const bus = /^(LPI2C|LPSPI|LPUART|FLEXCAN)(\d)_(SDA|SCL|SCK|SOUT|SIN|PCS\d|TX|RX|TXD|RXD)$/.exec(name)
  if (bus !== null) {
    const signals: Record<string, string> = { SOUT: 'mosi', SIN: 'miso', PCS: 'cs', TXD: 'tx', RXD: 'rx' }
    return {
      unit: `${bus[1]}${bus[2]}`,
      signal: signals[bus[3]?.replace(/\d/, '') ?? ''] ?? bus[3]?.toLowerCase() ?? '',
    }
  }
  const pwm = /^FLEXPWM(\d)_PWM(\d)_([ABX])$/.exec(name)
  if (pwm !== null) return { unit: `flexpwm${pwm[1]}-${pwm[2]}`, signal: pwm[3]?.toLowerCase() ?? '' }
  const quad = /^TMR(\d)_TIMER(\d)$/.exec(name)
  return quad === null ? undefined : { unit: `quad${quad[1]}-${quad[2]}`, signal: 'a' }
}

export const imxrtTable: Comparison = {
  id: 'imxrt-functions',
  from: SOURCE,
  source: "table of the chip's pin functions, and the board's list of pins",
  facts: 'chip pad of each pin; I2C, SPI, UART, CAN and PWM channel of each pad',
  quick: true,
  run(folder, catalog) {
    const entry = board(catalog, 'teensy-4-1')
    const theirs = new Set<string>()
    const ours = new Set<string>()
    const pads = new Map<string, { unit: string; signal: string }[]>()
    for (const row of rows(table(folder, 'mimxrt/boards/MIMXRT1062_af.csv'), 'Pad'))
      pads.set(
        row.Pad ?? '',
        Object.values(row).flatMap((cell) => imxrtFunction(cell) ?? []),
      )
    const pins = new Map<string, string>()
    for (const line of table(folder, 'mimxrt/boards/TEENSY41/pins.csv').split('\n')) {
      const found = /^D(\d+),(GPIO_\w+)$/.exec(line.trim())
      const mine = entry.pins.find(({ firmware }) => firmware === found?.[1])
      if (found === null || mine === undefined) continue
      pins.set(found[1] ?? '', found[2] ?? '')
      theirs.add(`${found[1]} pad ${found[2]?.replace('GPIO_', '')}`)
      ours.add(`${mine.firmware} pad ${mine.port}`)
    }
    if (pins.size < 40) throw new Error(`${pins.size} pins in the board's list`)
    // Which unit of the chip one of our controllers is, the board's own numbering hides: the unit that shares most pins.
    for (const controller of [...entry.controllers, ...entry.timers.map((timer) => ({ ...timer, kind: 'timer' }))]) {
      const used = 'channels' in controller ? controller.channels : (controller.pins ?? {})
      const wanted = Object.entries(used).flatMap(([signal, ids]) =>
        ids.map((id) => ({ signal, pin: entry.pins.find((one) => one.id === id)?.firmware ?? '' })),
      )
      if (controller.kind === 'i2s') continue
      const votes = new Map<string, number>()
      for (const { signal, pin } of wanted)
        for (const one of pads.get(pins.get(pin) ?? '') ?? [])
          if (one.signal === signal) votes.set(one.unit, (votes.get(one.unit) ?? 0) + 1)
      const unit = 'channels' in controller ? controller.id : [...votes].sort((one, other) => other[1] - one[1])[0]?.[0]
      for (const { signal, pin } of wanted) {
        if (!pins.has(pin)) continue
        ours.add(`${pin} ${controller.id}.${signal}`)
        if (pads.get(pins.get(pin) ?? '')?.some((one) => one.unit === unit && one.signal === signal))
          theirs.add(`${pin} ${controller.id}.${signal}`)
      }
    }
    return [{ entry: 'teensy-4-1', ours, theirs }]
  },
}

/** Part of a source text between two preprocessor conditions on the chip. */
function forChip(text: string, chip: string): string {
  const found = new RegExp(
    `#(?:if|elif)[^\\n]*CONFIG_IDF_TARGET_${chip}\\b[^\\n]*\\n([\\s\\S]*?)#(?:elif|else|endif)`,
  ).exec(text)
  if (found === null) throw new Error(`nothing for ${chip}`)
  return found[1] ?? ''
}

const ESP: Readonly<Record<string, { chip: string; touch: boolean }>> = {
  'esp32-devkit-30': { chip: 'ESP32', touch: true },
  'esp32-devkit-38': { chip: 'ESP32', touch: true },
  'esp32-feather': { chip: 'ESP32', touch: true },
  'esp32-s3-devkitc-1': { chip: 'ESP32S3', touch: true },
  'esp32-c3-supermini': { chip: 'ESP32C3', touch: false },
  'xiao-esp32c3': { chip: 'ESP32C3', touch: false },
}

export const espSource: Comparison = {
  id: 'esp32-functions',
  from: SOURCE,
  source: 'sources of the analog, touch and analog output classes for the ESP32 family',
  facts: 'unit and pins of both converters, touch pins, analog output pins',
  quick: true,
  run(folder, catalog) {
    const adc = table(folder, 'esp32/machine_adc.c')
    const touch = table(folder, 'esp32/machine_touchpad.c')
    const dac = table(folder, 'esp32/machine_dac.c')
    const listed = adc.slice(adc.indexOf('madc_obj[]'))
    return Object.entries(ESP).map(([id, { chip, touch: touches }]): Compared => {
      const entry = board(catalog, id)
      const pins = pinNames(entry, byFirmware)
      const theirs = [...forChip(listed, chip).matchAll(/ADCBLOCK(\d), ADC_CHANNEL_\d+, GPIO_NUM_(\d+)/g)].map(
        (found) => `${found[2]} analog unit ${found[1]}`,
      )
      const ours = entry.analog.flatMap((unit) =>
        unit.pins.map(
          (pin) => `${entry.pins.find((one) => one.id === pin)?.firmware} analog unit ${unit.id.replace(/\D/g, '')}`,
        ),
      )
      if (touches)
        for (const found of forChip(touch.slice(touch.indexOf('touchpad_obj[]')), chip).matchAll(/GPIO_NUM_(\d+)/g))
          theirs.push(`${found[1]} touch`)
      if (chip === 'ESP32')
        for (const found of forChip(dac.slice(dac.indexOf('mdac_obj[]')), chip).matchAll(/GPIO_NUM_(\d+)/g))
          theirs.push(`${found[1]} analog-out`)
      ours.push(...doesFacts(entry, byFirmware, 'touch'), ...doesFacts(entry, byFirmware, 'analog-out'))
      return { entry: id, ours: onBoard(ours, pins), theirs: onBoard(theirs, pins) }
    })
  },
}

export const nrfTable: Comparison = {
  id: 'nrf52-analog',
  from: SOURCE,
  source: "table of the chip's analog inputs",
  facts: 'which chip pins are analog inputs',
  quick: true,
  run: (folder, catalog) =>
    ['nrf52840-feather', 'microbit-v2'].map((id): Compared => {
      const entry = board(catalog, id)
      const plain = (port: string | undefined) =>
        port?.replace(/^P0\.0?/, 'P').replace(/^P1\.(\d+)/, (_, bit: string) => `P${32 + Number(bit)}`)
      const pins = new Set(entry.pins.flatMap((pin) => (pin.kind === 'io' ? (plain(pin.port) ?? []) : [])))
      const theirs = table(folder, 'nrf/nrf52_af.csv')
        .split('\n')
        .flatMap((line) => {
          const found = /^P(\d+),P\d+,ADC1_CH(\d)/.exec(line.trim())
          return found === null ? [] : [`P${found[1]} analog ${found[2]}`]
        })
      const ours = entry.pins.flatMap((pin) =>
        pin.joins === undefined && pin.does.includes('analog-in')
          ? [`${plain(pin.port)} analog ${pin.analog?.replace('AIN', '')}`]
          : [],
      )
      return { entry: id, ours: onBoard(ours, pins), theirs: onBoard(theirs, pins) }
    }),
}
