import { describe, expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { boardFacts, type PinFacts } from './boardFacts.ts'

/**
 * Facts that other sources state too (variant headers of firmware cores, board data of hardware libraries), written
 * down here a second time, so that a slip in a catalogue file does not go unseen.
 */
const pins = (board: string, which: (pin: PinFacts) => boolean): string[] =>
  [
    ...new Set(
      boardFacts(catalog.boards.get(board)!)
        .pins.filter(which)
        .map((pin) => pin.net),
    ),
  ].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
const doing = (board: string, name: string): string[] => pins(board, (pin) => pin.functions.has(name))
const warned = (board: string, caution: string): string[] =>
  pins(board, (pin) => pin.cautions.some((one) => one.id === caution))
const ids = (prefix: string, numbers: readonly number[]): string[] => numbers.map((number) => `${prefix}${number}`)

describe('uno-r3', () => {
  it('has its functions on the right pins', () => {
    expect(doing('uno-r3', 'pwm')).toEqual(ids('D', [3, 5, 6, 9, 10, 11]))
    expect(doing('uno-r3', 'interrupt')).toEqual(ids('D', [2, 3]))
    expect(doing('uno-r3', 'analog-in')).toEqual(ids('A', [0, 1, 2, 3, 4, 5]))
    expect(doing('uno-r3', 'digital-out')).toHaveLength(20)
    expect(
      ['i2c0.sda', 'i2c0.scl', 'spi0.sck', 'spi0.mosi', 'spi0.miso', 'spi0.cs', 'uart0.tx', 'uart0.rx'].map((name) =>
        doing('uno-r3', name),
      ),
    ).toEqual([['A4'], ['A5'], ['D13'], ['D11'], ['D12'], ['D10'], ['D1'], ['D0']])
  })
  it.each([
    ['D0', 'PD0'],
    ['D7', 'PD7'],
    ['D8', 'PB0'],
    ['D13', 'PB5'],
    ['A0', 'PC0'],
    ['A5', 'PC5'],
    ['RESET', 'PC6'],
  ])('%s is port %s', (pin, port) => {
    expect(boardFacts(catalog.boards.get('uno-r3')!).pin(pin)?.port).toBe(port)
  })
})

describe('esp32-devkit-30', () => {
  it('has its functions on the right pins', () => {
    expect(doing('esp32-devkit-30', 'analog-out')).toEqual(ids('GPIO', [25, 26]))
    expect(doing('esp32-devkit-30', 'touch')).toEqual(ids('GPIO', [2, 4, 12, 13, 14, 15, 27, 32, 33]))
    expect(pins('esp32-devkit-30', (pin) => pin.analogUnit?.id === 'adc1')).toEqual(
      ids('GPIO', [32, 33, 34, 35, 36, 39]),
    )
    expect(pins('esp32-devkit-30', (pin) => pin.analogUnit?.id === 'adc2')).toEqual(
      ids('GPIO', [2, 4, 12, 13, 14, 15, 25, 26, 27]),
    )
    expect(pins('esp32-devkit-30', (pin) => pin.kind === 'io' && !pin.functions.has('digital-out'))).toEqual(
      ids('GPIO', [34, 35, 36, 39]),
    )
  })
  it('warns where it must', () => {
    expect(warned('esp32-devkit-30', 'boot-strap')).toEqual(ids('GPIO', [2, 5, 12, 15]))
    expect(warned('esp32-devkit-30', 'usb-serial')).toEqual(ids('GPIO', [1, 3]))
    expect(warned('esp32-devkit-30', 'input-only')).toEqual(ids('GPIO', [34, 35, 36, 39]))
  })
  it('brings out no pin of the flash', () => {
    for (const pin of ids('GPIO', [6, 7, 8, 9, 10, 11]))
      expect(boardFacts(catalog.boards.get('esp32-devkit-30')!).pin(pin)).toBeUndefined()
  })
})

describe('pi-40', () => {
  it('has every position where the header has it', () => {
    const order = boardFacts(catalog.boards.get('pi-40')!).pins.map((pin) =>
      pin.id.replace(/\.\d+$/, '').replace('GPIO', ''),
    )
    expect(order.join(' ')).toBe(
      '3V3 5V 2 5V 3 GND 4 14 GND 15 17 18 27 GND 22 23 3V3 24 10 GND 9 25 11 8 GND 7 0 1 5 GND 6 12 13 GND 19 16 26 20 GND 21',
    )
  })
  it('has its functions on the right pins', () => {
    expect(doing('pi-40', 'pwm')).toEqual(ids('GPIO', [12, 13, 18, 19]))
    expect(doing('pi-40', 'analog-in')).toEqual([])
    expect(
      ['i2c1.sda', 'i2c1.scl', 'spi0.sck', 'spi0.mosi', 'spi0.miso', 'uart0.tx', 'uart0.rx'].map(
        (name) => doing('pi-40', name)[0],
      ),
    ).toEqual(ids('GPIO', [2, 3, 11, 10, 9, 14, 15]))
    expect(doing('pi-40', 'spi0.cs')).toEqual(ids('GPIO', [7, 8]))
    expect(doing('pi-40', 'spi1.cs')).toEqual(ids('GPIO', [16, 17, 18]))
    expect(warned('pi-40', 'fixed-pull-up')).toEqual(ids('GPIO', [2, 3]))
  })
})

/** Timer and channel of each PWM pin. */
const timers = (board: string): string =>
  catalog.boards
    .get(board)!
    .timers.flatMap((timer) =>
      Object.entries(timer.channels).flatMap(([channel, on]) =>
        on.map((pin) => `${pin}:${timer.id.slice(5)}${channel}`),
      ),
    )
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
    .join(' ')

describe('the other boards of the AVR family', () => {
  it.each([
    ['nano-v3', 'D3:2b D5:0b D6:0a D9:1a D10:1b D11:2a', ids('D', [2, 3])],
    ['pro-mini-3v3', 'D3:2b D5:0b D6:0a D9:1a D10:1b D11:2a', ids('D', [2, 3])],
    ['leonardo-32u4', 'D3:0b D5:3a D6:4d D9:1a D10:1b D11:0a D13:4a', ids('D', [0, 1, 2, 3, 7])],
    ['micro-32u4', 'D3:0b D5:3a D6:4d D9:1a D10:1b D11:0a D13:4a', ids('D', [0, 1, 2, 3, 7])],
    [
      'mega-2560-r3',
      'D2:3b D3:3c D4:0b D5:3a D6:4a D7:4b D8:4c D9:2b D10:2a D11:1a D12:1b D13:0a D44:5c D45:5b D46:5a',
      ids('D', [2, 3, 18, 19, 20, 21]),
    ],
  ])('%s has its timers and interrupts on the right pins', (board, timed, interrupts) => {
    expect(timers(board)).toBe(timed)
    expect(doing(board, 'pwm')).toEqual(timed.split(' ').map((one) => one.split(':')[0]))
    expect(doing(board, 'interrupt')).toEqual(interrupts)
  })
  it.each([
    ['mega-2560-r3', 'D53', 'PB0'],
    ['mega-2560-r3', 'D22', 'PA0'],
    ['mega-2560-r3', 'D42', 'PL7'],
    ['mega-2560-r3', 'A15', 'PK7'],
    ['leonardo-32u4', 'D7', 'PE6'],
    ['leonardo-32u4', 'A0', 'PF7'],
    ['micro-32u4', 'D13', 'PC7'],
    ['nano-v3', 'D8', 'PB0'],
  ])('%s: %s is port %s', (board, pin, port) => {
    expect(boardFacts(catalog.boards.get(board)!).pin(pin)?.port).toBe(port)
  })
  it('A6 and A7 of the small boards can do nothing but measure', () => {
    for (const board of ['nano-v3', 'pro-mini-3v3'])
      for (const pin of ['A6', 'A7'])
        expect([...boardFacts(catalog.boards.get(board)!).pin(pin)!.functions]).toEqual(['analog-in'])
  })
  it('four UARTs of the largest board lie where they are printed', () => {
    const pairs = [0, 1, 2, 3].map((number) => [
      doing('mega-2560-r3', `uart${number}.tx`)[0],
      doing('mega-2560-r3', `uart${number}.rx`)[0],
    ])
    expect(pairs).toEqual([
      ['D1', 'D0'],
      ['D18', 'D19'],
      ['D16', 'D17'],
      ['D14', 'D15'],
    ])
  })
})

describe('pico', () => {
  it('repeats its functions every so many pins', () => {
    const gp = (numbers: readonly number[]): string[] => ids('GP', numbers)
    expect(doing('pico', 'i2c0.sda')).toEqual(gp([0, 4, 8, 12, 16, 20, 28]))
    expect(doing('pico', 'i2c1.scl')).toEqual(gp([3, 7, 11, 15, 19, 27]))
    expect(doing('pico', 'spi0.miso')).toEqual(gp([0, 4, 16, 20]))
    expect(doing('pico', 'spi1.mosi')).toEqual(gp([11, 15, 27]))
    expect(doing('pico', 'uart1.tx')).toEqual(gp([4, 8, 20]))
    expect(doing('pico', 'analog-in')).toEqual(gp([26, 27, 28]))
    expect(doing('pico', 'pwm')).toHaveLength(26)
  })
  it('counts its pins around', () => {
    const facts = boardFacts(catalog.boards.get('pico')!)
    expect(facts.pin('VBUS')?.position).toBe(40)
    expect(facts.pin('GP15')?.position).toBe(20)
    expect(facts.pin('GP28')?.position).toBe(34)
  })
})

describe('parts', () => {
  it.each([
    ['bme280', 3.3, 5],
    ['sx1276', 3.3, 5],
    ['epaper-2in9', 3.3, 5],
    ['hall-a3144', 5, 3.3],
    ['servo-sg90', 5, 3.3],
    ['fan', 5, 12],
  ])('%s takes %d V and not %d V', (id, takes, refuses) => {
    const { least, most } = catalog.parts.get(id)!.supplies[0]!
    expect(takes >= least && takes <= most).toBe(true)
    expect(refuses >= least && refuses <= most).toBe(false)
  })
  it('the expander counts its legs around the package', () => {
    const legs = Object.fromEntries(catalog.parts.get('mcp23017')!.pins.map((pin) => [pin.number, pin.id]))
    expect([1, 8, 9, 10, 12, 13, 15, 18, 19, 20, 21, 28].map((leg) => legs[leg])).toEqual([
      'GPB0',
      'GPB7',
      'VDD',
      'VSS',
      'SCL',
      'SDA',
      'A0',
      'RESET',
      'INTB',
      'INTA',
      'GPA0',
      'GPA7',
    ])
  })
  it('the expander straps its address in binary', () => {
    const part = catalog.parts.get('mcp23017')!
    for (const { value } of part.options[0]!.values) {
      const bits = ['A0', 'A1', 'A2'].map((pin) => {
        const to = part.modes[0]!.ties.find((tie) => tie.pin === pin)!.to
        return typeof to === 'object' && to.values[String(value)] === 'supply' ? 1 : 0
      })
      expect(0x20 + bits[0]! + 2 * bits[1]! + 4 * bits[2]!).toBe(value)
    }
  })
})
