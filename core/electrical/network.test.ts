import { describe, expect, it } from 'vitest'
import { solve } from './network.ts'

const GND = -1
const rails = (volts: number): Map<number, number> =>
  new Map([
    [GND, 0],
    [-2, volts],
  ])

/** Each with the arithmetic by hand. */
describe('hand-worked networks', () => {
  it('a divider: 12 V · 10 kΩ / (33 kΩ + 10 kΩ) = 2.791 V', () => {
    const { volts } = solve(
      [
        { a: -2, b: 0, ohms: 33_000 },
        { a: 0, b: GND, ohms: 10_000 },
      ],
      rails(12),
    )
    expect(volts.get(0)).toBeCloseTo(2.7907, 3)
  })
  it('a divider with its load: 10 kΩ beside 10 kΩ are 5 kΩ; 5 V · 5 / (10 + 5) = 1.667 V', () => {
    const { volts } = solve(
      [
        { a: -2, b: 0, ohms: 10_000 },
        { a: 0, b: GND, ohms: 10_000 },
        { a: 0, b: GND, ohms: 10_000 },
      ],
      rails(5),
    )
    expect(volts.get(0)).toBeCloseTo(1.6667, 3)
  })
  it('a lamp: (5 V − 2 V) / 330 Ω = 9.09 mA, and 2 V at its anode', () => {
    const { volts, amps } = solve(
      [
        { a: -2, b: 0, ohms: 330 },
        { a: 0, b: GND, ohms: 0, drop: 2 },
      ],
      rails(5),
    )
    expect(amps[1]).toBeCloseTo(0.00909, 5)
    expect(volts.get(0)).toBeCloseTo(2, 3)
  })
  it('two lamps in a row: (5 V − 2 V − 2 V) / 100 Ω = 10 mA', () => {
    const { amps } = solve(
      [
        { a: -2, b: 0, ohms: 100 },
        { a: 0, b: 1, ohms: 0, drop: 2 },
        { a: 1, b: GND, ohms: 0, drop: 2 },
      ],
      rails(5),
    )
    expect(amps[2]).toBeCloseTo(0.01, 4)
  })
  it('two lamps beside each other on one resistor: the one with less volts takes all', () => {
    const { amps } = solve(
      [
        { a: -2, b: 0, ohms: 220 },
        { a: 0, b: GND, ohms: 0, drop: 2 },
        { a: 0, b: GND, ohms: 0, drop: 3.2 },
      ],
      rails(5),
    )
    expect(amps[1]).toBeCloseTo(3 / 220, 4)
    expect(amps[2]).toBe(0)
  })
  it('a Zener diode: (12 V − 3.3 V) / 1 kΩ = 8.7 mA through it, 3.3 V over it', () => {
    const { volts, amps } = solve(
      [
        { a: -2, b: 0, ohms: 1000 },
        { a: GND, b: 0, ohms: 0, drop: 0.9 },
        { a: 0, b: GND, ohms: 0, drop: 3.3 },
      ],
      rails(12),
    )
    expect(volts.get(0)).toBeCloseTo(3.3, 3)
    expect(amps[2]).toBeCloseTo(0.0087, 4)
    expect(amps[1]).toBe(0)
  })
  it('a bridge of four resistors in balance: no current through its middle', () => {
    const { amps } = solve(
      [
        { a: -2, b: 0, ohms: 1000 },
        { a: -2, b: 1, ohms: 2000 },
        { a: 0, b: GND, ohms: 3000 },
        { a: 1, b: GND, ohms: 6000 },
        { a: 0, b: 1, ohms: 470 },
      ],
      rails(5),
    )
    expect(Math.abs(amps[4] as number)).toBeLessThan(1e-9)
  })
})

describe('what nothing holds', () => {
  it('has no volts and no current', () => {
    const { volts, amps } = solve([{ a: 0, b: 1, ohms: 1000 }], rails(5))
    expect(volts.has(0)).toBe(false)
    expect(amps).toEqual([0])
  })
  it('a diode turned against its supply holds nothing', () => {
    const { volts, amps } = solve([{ a: GND, b: 0, ohms: 0, drop: 0.7 }], rails(5))
    expect(volts.has(0)).toBe(false)
    expect(amps).toEqual([0])
  })
  it('a diode whose drop is just not reached does not conduct, one just above does', () => {
    const at = (supply: number): number =>
      solve(
        [
          { a: -2, b: 0, ohms: 100 },
          { a: 0, b: GND, ohms: 0, drop: 2 },
        ],
        rails(supply),
      ).amps[1] as number
    expect(at(1.99)).toBe(0)
    expect(at(2.01)).toBeCloseTo(0.0001, 5)
  })
})
