import { describe, expect, it } from 'vitest'
import { thinned } from './thinning.ts'

const now = Date.parse('2030-06-01T12:00:00Z')
const minutes = (ago: number): number => now - ago * 60_000
const kept = (moments: readonly number[]): number[] => {
  const gone = new Set(thinned(moments, (one) => one, now))
  return moments.filter((one) => !gone.has(one)).map((one) => (now - one) / 60_000)
}

describe('what lies long ago gets thin', () => {
  it.each([
    ['all of the last hour', [0, 1, 2, 59], [0, 1, 2, 59]],
    ['two of the same minute', [5, 5.5], [5, 5.5]],
    ['one of ten minutes of the last day, the newest', [61, 62, 65, 75], [61, 75]],
    ['one of an hour of the last week', [1441, 1450, 1505], [1441, 1505]],
    ['one of a day of two months', [10_100, 10_200, 12_000], [10_100, 12_000]],
    ['one of a week before that', [86_420, 87_000, 99_000], [86_420, 99_000]],
  ])('%s', (_, ago, stays) => {
    expect(kept(ago.map(minutes))).toEqual(stays)
    // In whatever order they come.
    expect(kept(ago.map(minutes).reverse()).reverse()).toEqual(stays)
  })
  it('the newest stays, however old, and nothing is asked of nothing', () => {
    expect(kept([minutes(9_000_000)])).toEqual([9_000_000])
    expect(thinned([], Number, now)).toEqual([])
  })
  it('a year of a save each five minutes comes to few hundred', () => {
    const year = Array.from({ length: 105_120 }, (_, at) => minutes(at * 5))
    expect(kept(year).length).toBeLessThan(450)
    expect(kept(year).length).toBeGreaterThan(300)
  })
  it('what was thinned once is not thinned again at the same moment', () => {
    const all = Array.from({ length: 5000 }, (_, at) => minutes(at * 7))
    const once = kept(all).map((ago) => minutes(ago))
    expect(kept(once)).toHaveLength(once.length)
  })
})
