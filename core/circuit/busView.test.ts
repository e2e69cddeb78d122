import { expect, it } from 'vitest'
import { fed, wiringOf } from '../testing/plans.ts'
import { i2cViews, oneWireViews, spiViews, uartViews } from './busView.ts'

it('an I2C segment: devices, free straps, pull-ups in parallel, fastest clock', () => {
  const [view, ...more] = i2cViews(
    wiringOf({
      parts: { A: 'bme280', C: 'ds3231' },
      wires: `${fed('A', 'C')}, A.SDA MCU.21, C.SDA MCU.21, A.SCL MCU.22, C.SCL MCU.22, A.CSB MCU.3V3, A.SDO MCU.GND`,
    }),
  )
  expect(more).toEqual([])
  expect(view?.devices.map((one) => [one.part.ref, one.addresses])).toEqual([
    ['A', [0x76]],
    ['C', [0x68, 0x57]],
  ])
  expect(view?.devices[0]?.free.map((one) => one.value)).toEqual([0x77])
  // 10 kΩ and 4.7 kΩ in parallel.
  expect(view?.lines.map((line) => Math.round(line.ohms ?? 0))).toEqual([3197, 3197])
  expect(view?.fastest).toBe(400_000)
})

it('a branch of a bus switch is a segment of its own', () => {
  const views = i2cViews(
    wiringOf({
      parts: { X: 'tca9548a', A: 'bme280' },
      wires: `X.VIN MCU.3V3, X.GND MCU.GND, X.SDA MCU.21, X.SCL MCU.22, ${fed('A')}, A.SDA X.SD0, A.SCL X.SC0`,
    }),
  )
  expect(views.map((view) => view.title)).toEqual(['I2C 0 of MCU', 'i2c0 of X'])
})

it('an SPI bus: selects, modes in common, the slowest clock, who lets go', () => {
  const [view] = spiViews(
    wiringOf({
      parts: { T: 'max31855', C: 'microsd' },
      wires: `${fed('T')}, C.VCC MCU.VIN, C.GND MCU.GND, T.CLK MCU.18, T.DO MCU.19, T.CS MCU.16, C.SCK MCU.18, C.MISO MCU.19, C.MOSI MCU.23, C.CS MCU.17`,
    }),
  )
  expect(view?.devices.map((one) => [one.part.ref, one.select, one.releases])).toEqual([
    ['T', 'MCU.GPIO16', true],
    ['C', 'MCU.GPIO17', false],
  ])
  expect(view?.modes).toEqual([0])
  expect(view?.fastest).toBe(5_000_000)
})

it('UARTs and single-wire lines', () => {
  const wiring = wiringOf({
    parts: { G: 'gps-uart', A: 'ds18b20-probe', B: 'ds18b20-probe', R: { part: 'resistor', options: { ohms: 4700 } } },
    wires: 'G.TX MCU.16, A.DQ MCU.27, B.DQ MCU.27, R.1 A.DQ, R.2 MCU.3V3',
  })
  expect(uartViews(wiring).map((one) => [one.part.ref, [...one.pins]])).toEqual([['G', [['rx', 'MCU.GPIO16']]]])
  const [line] = oneWireViews(wiring)
  expect(line?.parts.map((part) => part.ref)).toEqual(['A', 'B'])
  expect(line?.ohms).toBeCloseTo(4700, 3)
})
