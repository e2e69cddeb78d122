import { describe, expect, it } from 'vitest'
import { countsFor, fineOf, oldFineOf, oldPascalsOf, pascalsOf, percentOf } from './compensation.ts'

describe('sensors of pressure', () => {
  it('reckon as the examples in their data sheets do', () => {
    expect(fineOf(519_888) / 5120).toBeCloseTo(25.08, 2)
    expect(pascalsOf(415_148, fineOf(519_888))).toBeCloseTo(100_653.27, 0)
    expect(Math.floor((oldFineOf(27_898) + 8) / 16)).toBe(150)
    expect(oldPascalsOf(23_843, oldFineOf(27_898), 0)).toBe(69_964)
  })
  it('are turned round by halving, over their whole range', () => {
    for (const degrees of [-40, -10.5, 0, 21.5, 85]) {
      const counts = countsFor(20, degrees, (one) => fineOf(one) / 5120)
      expect(fineOf(counts) / 5120).toBeCloseTo(degrees, 2)
      for (const pascals of [30_000, 101_325, 110_000]) {
        const found = countsFor(20, pascals, (one) => pascalsOf(one, fineOf(counts)))
        expect(Math.abs(pascalsOf(found, fineOf(counts)) - pascals)).toBeLessThan(2)
      }
      for (const share of [5, 48, 95]) {
        const found = countsFor(16, share, (one) => percentOf(one, fineOf(counts)))
        expect(percentOf(found, fineOf(counts))).toBeCloseTo(share, 1)
      }
    }
    for (const degrees of [-20, 15, 60]) {
      const counts = countsFor(16, degrees * 10, (one) => (oldFineOf(one) + 8) / 16)
      expect((oldFineOf(counts) + 8) / 160).toBeCloseTo(degrees, 1)
      for (const steps of [0, 3]) {
        const found = countsFor(16 + steps, 101_325, (one) => oldPascalsOf(one, oldFineOf(counts), steps))
        expect(Math.abs(oldPascalsOf(found, oldFineOf(counts), steps) - 101_325)).toBeLessThan(5)
      }
    }
  })
  it('hold the nearest at the ends of their counts', () => {
    expect(countsFor(8, -5, (one) => one)).toBe(0)
    expect(countsFor(8, 999, (one) => one)).toBe(255)
    expect(countsFor(8, 100.4, (one) => 255 - one)).toBe(155)
  })
})
