import { describe, expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { compareScan, readScan } from './scan.ts'

const grid = `     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f
00:                         -- -- -- -- -- -- -- --
10: -- -- -- -- -- -- -- -- -- -- -- -- -- -- -- --
20: 20 -- -- -- -- -- -- -- -- -- -- -- -- -- -- --
30: -- -- -- -- -- -- -- -- -- -- -- -- 3c -- -- --
40: -- -- -- -- -- -- -- -- -- -- -- -- -- -- -- --
50: -- -- -- -- -- -- -- 57 -- -- -- -- -- -- -- --
60: -- -- -- -- -- -- -- -- UU -- -- -- -- -- -- --
70: -- -- -- -- -- -- 76 --
`

describe('reading a scan', () => {
  it.each<[string, string, (readonly [string | undefined, number[]])[]]>([
    ['the grid of a single-board computer', grid, [[undefined, [0x20, 0x3c, 0x57, 0x68, 0x76]]]],
    [
      'a grid whose first row begins at 3',
      '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n00:          -- -- -- -- -- 08 -- -- -- -- -- -- --\n',
      [[undefined, [0x08]]],
    ],
    [
      'sentences',
      'Scanning...\nI2C device found at address 0x3C  !\nI2C device found at address 0x76  !\ndone\n',
      [[undefined, [0x3c, 0x76]]],
    ],
    ['nothing found', 'Scanning...\nNo I2C devices found\n', [[undefined, []]]],
    ['a list of decimals', '>>> i2c.scan()\n[32, 60, 118]\n', [[undefined, [0x20, 0x3c, 0x76]]]],
    ['a list of hexadecimals', "['0x3c', '0x76']", [[undefined, [0x3c, 0x76]]]],
    ['an empty list', '[]', [[undefined, []]]],
    ['decimals in sentences', 'Device at address 60\nDevice at address 118\n', [[undefined, [60, 118]]]],
    [
      'two buses by name',
      'Wire:\n 0x76\nWire1:\n 0x77\n',
      [
        ['Wire', [0x76]],
        ['Wire1', [0x77]],
      ],
    ],
    [
      'two buses of a single-board computer',
      `i2c-0\n${grid}i2c-1\n${grid.replace('76', '--')}`,
      [
        ['i2c0', [0x20, 0x3c, 0x57, 0x68, 0x76]],
        ['i2c1', [0x20, 0x3c, 0x57, 0x68]],
      ],
    ],
    [
      'our own serial lines among others',
      'ets Jun  8 2016\n{"hello":"markpost"}\n{"step":"i2c:i2c0","found":[118,32]}\n',
      [['i2c0', [32, 118]]],
    ],
    ['addresses that nobody can have are left out', '[0, 1, 60, 127, 300]', [[undefined, [60]]]],
  ])('%s', (_, text, parts) => {
    expect(readScan(text)?.parts.map(({ bus, found }) => [bus, found])).toEqual(parts)
  })

  it.each(['', 'hello', 'booting at 115200 baud\nready in 12 ms', '{"step":"out:L.A","state":"high"}'])(
    'no scan at all: %j',
    (text) => {
      expect(readScan(text)).toBeUndefined()
    },
  )
})

const short: Short = {
  parts: { A: { part: 'bme280', options: { address: 0x76 } }, SHOW: 'ssd1306', EXP: 'mcp23017' },
  wires:
    'A.SDA MCU.GPIO21, A.SCL MCU.GPIO22, SHOW.SDA MCU.GPIO21, SHOW.SCL MCU.GPIO22, EXP.SDA MCU.GPIO21, EXP.SCL MCU.GPIO22',
}
const compared = (text: string, plan: Short = short) => compareScan(wiringOf(plan), readScan(text)!)

describe('a scan against the plan', () => {
  it('agrees when all are there and nobody else', () => {
    const { agrees, segments } = compared('[32, 60, 118]')
    expect(agrees).toBe(true)
    expect(segments[0]).toMatchObject({ title: 'I2C 0 of MCU', present: [32, 60, 118], missing: [], unexpected: [] })
  })

  it('a wrong strap is told at both ends', () => {
    const { agrees, segments } = compared('[32, 60, 119]')
    expect(agrees).toBe(false)
    expect(segments[0]!.missing.map(({ part, causes }) => [part, causes[0]])).toEqual([
      ['A', 'its strap says 0x77, not 0x76: look at the address pins'],
    ])
    expect(segments[0]!.unexpected).toMatchObject([{ address: 0x77, causes: ['A answers here instead of at 0x76'] }])
  })

  it('one missing is a matter of that part, all missing of the bus', () => {
    expect(compared('[32, 60]').segments[0]!.missing.map(({ part, causes }) => [part, causes[0]])).toEqual([
      ['A', 'its supply or ground is missing: measure at A'],
    ])
    const none = compared('No devices found').segments[0]!.missing
    expect(none.map(({ part }) => part)).toEqual(['A', 'SHOW', 'EXP'])
    expect(none[0]!.causes[0]).toBe('nobody answers: SDA and SCL are exchanged, or one of them is open at the board')
  })

  it('a stranger is told with what could answer there', () => {
    const [one] = compared('[32, 60, 104, 118]').segments[0]!.unexpected
    expect(one!.could.some((title) => /DS3231|MPU-?6050/.test(title))).toBe(true)
    expect(one!.causes).toEqual(['a part that the plan does not have, or one that came with a module'])
  })

  it('two buses are held apart by their names, and by what fits where they have none', () => {
    const two: Short = {
      mcu: 'pico',
      parts: { A: 'bme280', B: 'ssd1306' },
      wires: 'A.SDA MCU.GP4, A.SCL MCU.GP5, B.SDA MCU.GP6, B.SCL MCU.GP7',
    }
    expect(compared('i2c0\n[118]\ni2c1\n[60]', two).agrees).toBe(true)
    expect(compared('Wire\n0x76\nWire1\n0x3c', two).agrees).toBe(true)
    const swapped = compared('i2c0\n[60]\ni2c1\n[118]', two)
    expect(swapped.segments.map(({ unexpected }) => unexpected[0]!.causes[0])).toEqual([
      'B belongs on another bus',
      'A belongs on another bus',
    ])
    // Only one was scanned: of the other nothing is said.
    expect(compared('[60]', two).segments.map(({ title }) => title)).toEqual(['I2C1 of MCU'])
  })
})
