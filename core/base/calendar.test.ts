import { describe, expect, it } from 'vitest'
import { calendarDay, daysSinceEpoch } from './calendar.ts'

describe('the calendar', () => {
  it('knows days of which everybody knows the number', () => {
    expect(daysSinceEpoch({ year: 1970, month: 1, day: 1 })).toBe(0)
    expect(daysSinceEpoch({ year: 2000, month: 3, day: 1 })).toBe(11_017)
    expect(daysSinceEpoch({ year: 2026, month: 1, day: 1 }) * 86_400).toBe(1_767_225_600)
    expect(daysSinceEpoch({ year: 1969, month: 12, day: 31 })).toBe(-1)
  })
  it('goes there and back, day by day, through leap years and those that are none', () => {
    const lengths = (year: number): number[] => {
      const leaps = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
      return [31, leaps ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
    }
    let count = daysSinceEpoch({ year: 1895, month: 1, day: 1 })
    for (let year = 1895; year <= 2105; year += 1)
      for (const [index, length] of lengths(year).entries())
        for (let day = 1; day <= length; day += 1) {
          const at = { year, month: index + 1, day }
          if (daysSinceEpoch(at) !== count) expect(daysSinceEpoch(at)).toBe(count)
          const back = calendarDay(count)
          if (back.year !== year || back.month !== index + 1 || back.day !== day) expect(back).toEqual(at)
          count += 1
        }
    expect(count).toBe(daysSinceEpoch({ year: 2106, month: 1, day: 1 }))
  })
  it('counts a day past the end of its month on into the next', () => {
    expect(calendarDay(daysSinceEpoch({ year: 2027, month: 2, day: 31 }))).toEqual({ year: 2027, month: 3, day: 3 })
  })
})
