import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { runInNewContext } from 'node:vm'
import { asVariant } from '../../core/catalog/variant.ts'
import { controllerPins } from './boardFacts.ts'
import type { Compared, Comparison } from './comparison.ts'
import { KERNEL } from './packages.ts'

/** Header of the single-board computer as a library for its pins has it. */
export const gpioHeader: Comparison = {
  id: 'pi-header',
  from: { kind: 'debian', name: 'python3-gpiozero' },
  source: "the library's table of the 40-post header (`pins/data.py`)",
  facts: 'what stands at each of the 40 positions',
  quick: true,
  run(folder, catalog) {
    const board = catalog.boards.get('pi-40')
    const header = board?.headers.find(({ pins }) => pins.length === 40)
    if (board === undefined || header === undefined) throw new Error('no header of 40 in pi-40')
    const text = readFileSync(join(folder, 'usr/lib/python3/dist-packages/gpiozero/pins/data.py'), 'utf8')
    const table = /PLUS_J8 = \{([\s\S]*?)\}/.exec(text)?.[1] ?? ''
    const theirs = [...table.matchAll(/(\d+):\s*\((\w+),/g)].map(
      ([, at, what]) => `${at} ${what?.replace('V3_3', '3.3 V').replace('V5', '5 V').replace('GND', 'ground')}`,
    )
    if (theirs.length !== 40) throw new Error(`${theirs.length} positions in the table`)
    const ours = header.pins.map((id, at) => {
      const pin = board.pins.find((one) => one.id === id)
      const rail = board.rails.find(({ pins }) => pins.includes(id) || pins.includes(pin?.joins ?? ''))
      const what = pin?.kind === 'ground' ? 'ground' : pin?.kind === 'supply' ? `${rail?.volts} V` : id
      return `${at + 1} ${what}`
    })
    return [{ entry: 'pi-40', ours: new Set(ours), theirs: new Set(theirs) }]
  },
}

const ESP_BOARDS: Readonly<Record<string, string>> = {
  'esp32-c3-supermini': 'esp32c3_supermini',
  'xiao-esp32c3': 'xiao_esp32c3',
  pico: 'pico',
  'pico-w': 'pico_w',
}
const ESP_CHIPS: Readonly<Record<string, string>> = {
  'esp32-devkit-30': 'esp32',
  'esp32-devkit-38': 'esp32',
  'esp32-feather': 'esp32',
  'esp32-s3-devkitc-1': 'esp32s3',
  'esp32-c3-supermini': 'esp32c3',
  'xiao-esp32c3': 'esp32c3',
}

interface BoardData {
  readonly archs: Record<string, { readonly pins: Record<string, string> }>
  readonly boards: Record<
    string,
    { readonly pins?: Record<string, number>; readonly led?: { readonly pin: number | string } }
  >
}

/** `0,2,12-15` as numbers; names of other lists are followed. */
export function pinList(lists: Readonly<Record<string, string>>, name: string): number[] {
  return (lists[name] ?? '').split(',').flatMap((piece) => {
    const range = /^(\d+)(?:-(\d+))?$/.exec(piece.trim())
    if (range === null) return piece.trim() === '' ? [] : pinList(lists, piece.trim())
    const from = Number(range[1])
    return Array.from({ length: Number(range[2] ?? from) - from + 1 }, (_, at) => from + at)
  })
}

/** Boot straps and pins brought out, as the board data of a firmware has them. */
export const espBoards: Comparison = {
  id: 'esp32-boards',
  from: { kind: 'npm', name: '@devicescript/cli', version: '2.16.4' },
  source: 'board and chip data of a firmware (`boards`, `archs`)',
  facts: 'boot-strap pins of the chip among those brought out, pins brought out, LED pin',
  quick: false,
  run(folder, catalog) {
    const text = readFileSync(join(folder, 'built/devicescript-cli.cjs'), 'utf8')
    const from = text.indexOf('var boards_default = {')
    const end = text.indexOf('\n    };', from)
    if (from < 0 || end < 0) throw new Error('no board data')
    const data = runInNewContext(`${text.slice(from, end + 7)}; boards_default`) as BoardData
    const ids = new Set([...Object.keys(ESP_BOARDS), ...Object.keys(ESP_CHIPS)])
    return [...ids].map((id): Compared => {
      const board = catalog.boards.get(id)
      if (board === undefined) throw new Error(`no board ${id}`)
      const ours: string[] = []
      const theirs: string[] = []
      const io = board.pins.filter((pin) => pin.kind === 'io' && pin.joins === undefined)
      const number = (pin: (typeof io)[number]) =>
        Number(pin.firmware?.replace(/\D/g, '') || pin.port?.replace(/\D/g, ''))
      const mine = new Set(io.map(number))
      const chip = data.archs[ESP_CHIPS[id] ?? '']
      if (chip !== undefined) {
        theirs.push(
          ...pinList(chip.pins, 'boot')
            .filter((pin) => mine.has(pin))
            .map((pin) => `${pin} boot strap`),
        )
        ours.push(
          ...io
            .filter((pin) => pin.cautions.some((one) => one.id === 'boot-strap'))
            .map((pin) => `${number(pin)} boot strap`),
        )
      }
      // A maker's name may stand before the board's own.
      const ending = ESP_BOARDS[id]
      const same = Object.entries(data.boards).find(
        ([name]) => ending !== undefined && (name === ending || name.endsWith(`_${ending}`)),
      )?.[1]
      if (same !== undefined) {
        theirs.push(...Object.values(same.pins ?? {}).map((pin) => `${pin} brought out`))
        ours.push(...[...mine].map((pin) => `${pin} brought out`))
        if (typeof same.led?.pin === 'number') {
          theirs.push(`${same.led.pin} led`)
          ours.push(
            ...io
              .filter((pin) => pin.cautions.some((one) => one.id === 'onboard-led'))
              .map((pin) => `${number(pin)} led`),
          )
        }
      }
      return { entry: id, ours: new Set(ours), theirs: new Set(theirs) }
    })
  },
}

/** Pins of controllers in the pin groups of a device tree, `CONTROLLER PIN` and, where the group names it, `.SIGNAL`. */
export function treePins(text: string): Set<string> {
  const facts = new Set<string>()
  for (const group of text.matchAll(
    /\b((?:i2c|spi|uart|pcm)\d?)_(?:ctsrts_)?gpio\d+: \w+ \{((?:[^{}]|\{[^{}]*\})*)\}/g,
  )) {
    const [, unit, body] = group
    const older = /brcm,pins = <([\d\s]+)>/.exec(body ?? '')
    for (const pin of older?.[1]?.trim().split(/\s+/) ?? []) facts.add(`${unit} GPIO${pin}`)
    for (const [, name, inner] of (body ?? '').matchAll(/pins?-(\w+) \{([^{}]*)\}/g))
      for (const [, pin] of (inner ?? '').matchAll(/"gpio(\d+)"/g)) {
        facts.add(`${unit} GPIO${pin}`)
        if (['sda', 'scl', 'tx', 'rx', 'cts', 'rts'].includes(name ?? '')) facts.add(`${unit} GPIO${pin} ${name}`)
      }
  }
  return facts
}

/** Pin groups of the kernel for the chips of the single-board computer. */
export const kernelPins: Comparison = {
  id: 'kernel-pins',
  from: KERNEL,
  source: 'pin groups in the device trees of both generations of the chip',
  facts: 'pins of I2C, SPI, UART and PCM controllers',
  quick: false,
  run(folder, catalog) {
    const board = catalog.boards.get('pi-40')
    if (board === undefined) throw new Error('no board pi-40')
    return [
      { model: '3b-plus', file: 'bcm283x.dtsi' },
      { model: '4b', file: 'bcm2711.dtsi' },
    ].map(({ model, file }): Compared => {
      const pins = new Set(board.pins.filter(({ kind }) => kind === 'io').map(({ id }) => id))
      const theirs = [...treePins(readFileSync(join(folder, 'arch/arm/boot/dts', file), 'utf8'))].filter((fact) =>
        pins.has(fact.split(' ')[1] ?? ''),
      )
      if (theirs.length < 20) throw new Error(`${theirs.length} pins in ${file}`)
      const units = new Set(theirs.map((fact) => fact.split(' ')[0]))
      const named = new Set(theirs.filter((fact) => fact.split(' ').length === 3).map((fact) => fact.split(' ')[0]))
      const ours = asVariant(board, model).controllers.flatMap((controller) => {
        const unit = controller.kind === 'i2s' ? 'pcm' : controller.id
        if (!units.has(unit)) return []
        return controllerPins(controller).flatMap(([signal, pin]) => [
          `${unit} ${pin}`,
          ...(named.has(unit) ? [`${unit} ${pin} ${signal}`] : []),
        ])
      })
      return { entry: `pi-40, model ${model}`, ours: new Set(ours), theirs: new Set(theirs) }
    })
  },
}
