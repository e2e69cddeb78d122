import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { adcReading, usableBits } from './adc.ts'
import { dividerFor } from './divider.ts'
import { fastestClock, leastPullUp, mostPullUp, riseLimit, riseNanoseconds } from './i2c.ts'
import { ledResistor } from './led.ts'
import { matrixSize } from './matrix.ts'
import { solve } from './network.ts'
import { batteryLife, shunt } from './power.ts'
import { preferredValue } from './preferred.ts'
import { echoMicroseconds, servoPulse } from './pulses.ts'
import { formatOptionAmount, formatQuantity, parseAmount, parseOptionAmount } from './quantity.ts'

const close = (value: number, wanted: number): void => expect(value).toBeCloseTo(wanted, 2)

describe('worked by hand', () => {
  it('LED: 5 V, 2 V, 10 mA', () => {
    const point = ledResistor({ volts: 5, forward: 2, forwardLeast: 1.8, milliamps: 10, tolerance: 5, series: 'E12' })
    expect(point).toMatchObject({ exact: 300, taken: 330 })
    close(point!.milliamps, 9.09)
    close(point!.mostMilliamps, 10.21)
    close(point!.watts * 1000, 32.66)
    expect(ledResistor({ volts: 3, forward: 3.2, forwardLeast: 3, milliamps: 5, tolerance: 5, series: 'E24' })).toBe(
      undefined,
    )
  })
  it('I2C: 3.3 V, 100 pF', () => {
    close(leastPullUp(3.3), 966.67)
    close(mostPullUp(100_000, 100e-12), 11_802.2)
    close(mostPullUp(400_000, 100e-12), 3540.66)
    close(riseNanoseconds(10_000, 100e-12), 847.3)
    expect([10_000, 3300, 1000, 47_000].map((ohms) => fastestClock(ohms, 100e-12))).toEqual([
      100_000,
      400_000,
      1_000_000,
      undefined,
    ])
    expect([100_000, 100_001, 1_000_000].map(riseLimit)).toEqual([1000, 300, 120])
  })
  it('converter: 10 bits over 5 V', () => {
    expect(adcReading(2.5, 5, 10)).toEqual({ counts: 512, step: 5 / 1024 })
    expect(adcReading(9, 5, 10).counts).toBe(1023)
    expect(usableBits(1.25, 5, 10)).toBe(8)
    expect(usableBits(0, 5, 10)).toBe(0)
  })
  it('servo, echo, shunt, battery', () => {
    expect([0, 90, 180, 270].map((degrees) => servoPulse(degrees, 180, 1000, 2000))).toEqual([1000, 1500, 2000, 2000])
    close(echoMicroseconds(1, 20), 5823.77)
    expect(shunt(2, 0.1)).toEqual({ volts: 0.2, watts: 0.4 })
    const life = batteryLife({ capacity: 2000, derating: 0.8, awake: 80, asleep: 0.05, duty: 0.01 })
    close(life.milliamps, 0.85)
    close(life.hours, 1883.46)
  })
  it.each([
    [1, 1, 1],
    [12, 3, 4],
    [16, 4, 4],
    [17, 3, 6],
    [64, 8, 8],
  ])('%i keys: %i by %i', (keys, rows, columns) => {
    expect(matrixSize(keys)).toEqual({ rows, columns, pins: rows + columns })
  })
})

describe('properties', () => {
  const ohms = fc.double({ min: 1, max: 1e7, noNaN: true })
  it('preferred values bracket what they stand for, and every value of a series is its own', () => {
    fc.assert(
      fc.property(ohms, fc.constantFrom('E12' as const, 'E24' as const), (value, series) => {
        const [down, up] = [preferredValue(value, 'down', series), preferredValue(value, 'up', series)]
        expect(down).toBeLessThanOrEqual(value * 1.0001)
        expect(up).toBeGreaterThanOrEqual(value * 0.9999)
        expect(up / down).toBeLessThan(series === 'E12' ? 1.26 : 1.16)
        expect(preferredValue(up, 'up', series)).toBe(up)
      }),
    )
  })
  it('a matrix holds its keys, and no smaller one does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), (keys) => {
        const { rows, columns, pins } = matrixSize(keys)
        expect(rows * columns).toBeGreaterThanOrEqual(keys)
        for (let one = 1; one < pins; one += 1) expect(one * Math.max(0, pins - 1 - one)).toBeLessThan(keys)
      }),
    )
  })
  it('a divider never passes what its output bears', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 24, noNaN: true }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        (from, to) => {
          const values = dividerFor(from, to, to * 1.02)
          if (from <= to) expect(values).toBeUndefined()
          else expect((from * values!.bottom) / (values!.top + values!.bottom)).toBeLessThanOrEqual(to * 1.0201)
        },
      ),
    )
  })
  it('a chain of resistors divides as the formula says, whatever lies beside it', () => {
    fc.assert(
      fc.property(ohms, ohms, ohms, (top, bottom, beside) => {
        const solved = solve(
          [
            { a: 1, b: 2, ohms: top },
            { a: 2, b: 0, ohms: bottom },
            { a: 1, b: 0, ohms: beside },
          ],
          new Map([
            [0, 0],
            [1, 5],
          ]),
        ).volts
        expect(solved.get(2)).toBeCloseTo((5 * bottom) / (top + bottom), 6)
      }),
    )
  })
  it.each(['Ω', 'F', 'Hz', 'V', 'A', 'Ah', 'W', 's', 'm', ''])(
    'amounts in %s are read back as they are shown',
    (unit) => {
      const amount = fc
        .tuple(fc.integer({ min: -9999, max: 9999 }), fc.integer({ min: -12, max: 9 }))
        .map(([digits, power]) => Number(`${digits}e${power}`))
      fc.assert(
        fc.property(amount, (value) => {
          expect(parseAmount(formatQuantity(value, unit, 4), unit)).toBeCloseTo(value, 12)
        }),
      )
    },
  )
  it('capacitors are marked in microfarads up to the largest, never in millifarads', () => {
    expect([9.99e-4, 1e-3, 4.7e-3, 1].map((farads) => formatQuantity(farads, 'F'))).toEqual([
      '999 µF',
      '1000 µF',
      '4700 µF',
      '1 F',
    ])
    expect(formatQuantity(1e-3, 'A')).toBe('1 mA')
  })
  it('a value of an option is read back as it is shown, in its unit of the catalogue', () => {
    const names = ['ohm', 'farad', 'hertz', 'volt', 'milliamp', 'count', 'metre', 'watt', undefined] as const
    fc.assert(
      fc.property(fc.constantFrom(...names), fc.integer({ min: 0, max: 999_999 }), (unit, value) => {
        expect(parseOptionAmount(formatOptionAmount(value, unit, 6), unit)).toBe(value)
      }),
    )
  })
  it.each([
    ['2 m', 'm', 2],
    ['2m', 'm', 2],
    ['2 mm', 'm', 0.002],
    ['35cm', 'm', 0.35],
    ['1.2 ms', 's', 0.0012],
    ['1.2m', 's', 0.0012],
    ['20m', 'A', 0.02],
    ['20 mA', 'A', 0.02],
    ['1,5 V', 'V', 1.5],
    ['4k7', 'Ω', 4700],
    ['4R7', 'Ω', 4.7],
    ['4.7 kOhm', 'Ω', 4700],
    ['1M', 'Ω', 1e6],
    ['10 uF', 'F', 1e-5],
    ['100n', 'F', 1e-7],
    ['400 khz', 'Hz', 400_000],
    ['800 mAh', 'Ah', 0.8],
    ['−10', '', -10],
    ['-4.5', '', -4.5],
    // What is of another unit, or of none, is not taken for a number of this one.
    ['4.7 V', 'Ω', undefined],
    ['20 mA', 'V', undefined],
    ['2 s', 'm', undefined],
    ['35 cm', 's', undefined],
    ['2 m', '', 0.002],
    ['lots', 'Ω', undefined],
    ['', 'V', undefined],
    ['1R5', 'Ω', 1.5],
    ['2.2M', 'Ω', 2_200_000],
    ['1.2.3', 'V', undefined],
    ['5 kk', 'V', undefined],
    ['5 mxA', 'A', undefined],
  ] as const)('“%s” in a field of %s', (text, unit, value) => {
    expect(parseAmount(text, unit)).toBe(value)
  })
  it.each([
    ['20', 20],
    ['20 mA', 20],
    ['20m', 20],
    ['1.2 A', 1200],
    ['1200 mA', 1200],
    ['5 V', undefined],
  ] as const)('“%s” as a current of an option', (text, value) => {
    expect(parseOptionAmount(text, 'milliamp')).toBe(value)
  })
})
