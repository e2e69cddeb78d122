import { expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'

const modeOf = (short: Short): string | undefined => wiringOf(short).parts.find(({ ref }) => ref === 'B')?.mode?.id
const wired = (lines: Record<string, string>): string =>
  ['B.VCC MCU.3V3', 'B.GND MCU.GND', ...Object.entries(lines).map(([own, pin]) => `B.${own} MCU.${pin}`)].join(', ')
const spi = { SCL: '18', SDA: '23', SDO: '19', CSB: '5' }

it.each<[string, Short, string]>([
  ['four lines on a board with any pin for any bus', { parts: { B: 'bme280' }, wires: wired(spi) }, 'spi'],
  [
    'four lines on the pins of that bus',
    { mcu: 'uno-r3', parts: { B: 'bme280' }, wires: wired({ SCL: '13', SDA: '11', SDO: '12', CSB: '10' }) },
    'spi',
  ],
  ['two lines', { parts: { B: 'bme280' }, wires: wired({ SCL: '22', SDA: '21' }) }, 'i2c'],
  ['nothing yet', { parts: { B: 'bme280' } }, 'i2c'],
  ['three of four', { parts: { B: 'bme280' }, wires: wired({ SCL: '18', SDA: '23', SDO: '19' }) }, 'i2c'],
  [
    'two lines on pins of another bus, which is a mistake',
    { mcu: 'uno-r3', parts: { B: 'bme280' }, wires: wired({ SCL: '13', SDA: '11' }) },
    'i2c',
  ],
  [
    'two lines, and a pin that says the address',
    { parts: { B: 'bme280' }, wires: wired({ SCL: '22', SDA: '21', SDO: '4' }) },
    'i2c',
  ],
  [
    'both serial lines of one that also tells by a level',
    { parts: { B: 'ld2410' }, wires: wired({ TX: '16', RX: '17' }) },
    'uart',
  ],
  [
    'its level and the serial lines',
    { parts: { B: 'ld2410' }, wires: wired({ TX: '16', RX: '17', OUT: '4' }) },
    'level',
  ],
  ['one serial line of it', { parts: { B: 'ld2410' }, wires: wired({ TX: '16' }) }, 'level'],
  ['as the plan says', { parts: { B: { part: 'bme280', mode: 'i2c' } }, wires: wired(spi) }, 'i2c'],
])('the bus of a part with several is that of its wires: %s', (_, short, mode) => {
  expect(modeOf(short)).toBe(mode)
})
