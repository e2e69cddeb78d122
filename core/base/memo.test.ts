import { describe, expect, it } from 'vitest'
import { memo, memoIn } from './memo.ts'

describe('memo', () => {
  it('works out an answer once for each object, an absent one too', () => {
    let asked = 0
    const half = memo(({ of }: { readonly of: number }) => {
      asked += 1
      return of % 2 === 0 ? { is: of / 2 } : undefined
    })
    const [four, five] = [{ of: 4 }, { of: 5 }]
    expect(half(four)).toBe(half(four))
    expect(half(four)).toEqual({ is: 2 })
    expect([half(five), half(five)]).toEqual([undefined, undefined])
    expect(asked).toBe(2)
    expect(half({ of: 4 })).not.toBe(half(four))
  })

  it('keeps answers for a second key apart, by object', () => {
    let asked = 0
    const times = memoIn(({ of }: { readonly of: number }, by: number | undefined) => {
      asked += 1
      return by === undefined ? undefined : [of * by]
    })
    const [two, three] = [{ of: 2 }, { of: 3 }]
    expect([times(two, 5), times(three, 5), times(two, 7), times(two, undefined)]).toEqual([
      [10],
      [15],
      [14],
      undefined,
    ])
    expect(times(two, 5)).toBe(times(two, 5))
    expect([times(two, undefined), asked]).toEqual([undefined, 4])
  })

  it('freezes what it keeps, to the depth, in tests', () => {
    const kept = memo((of: { readonly list: readonly number[] }) => ({ rows: [{ list: [...of.list] }] }))
    const answer = kept({ list: [1] })
    expect(() => answer.rows[0]?.list.push(2)).toThrow(TypeError)
    expect(() => Object.assign(answer, { rows: [] })).toThrow(TypeError)
    expect(answer).toEqual({ rows: [{ list: [1] }] })
  })
})
