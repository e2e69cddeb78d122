import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { countPins, withoutPin } from '../wiring/pinCount.ts'
import { litInTurn } from './inTurn.ts'

const several = (count: number, stem: string, part: string): Record<string, string> =>
  Object.fromEntries(Array.from({ length: count }, (_, index) => [`${stem}${index + 1}`, part]))

describe('what digits in turn ask of a board', () => {
  it('is counted once for all of them, before anything is wired', () => {
    const kit = { mcu: 'nano-v3', parts: { ...several(4, 'D', 'seven-segment'), ...several(4, 'Q', 'npn') } }
    const bare = wiringOf(kit)
    const lit = litInTurn(bare)
    const outputs = (wiring: typeof bare): number | undefined =>
      countPins(wiring, wiring.boards[0]!).lines.find(({ id }) => id === 'digital-out')?.need
    expect(outputs(bare)).toBe(28 + 4)
    expect(outputs(lit)).toBe(7 + 4)
    expect(withoutPin(lit, lit.boards[0]!)).toEqual([])
  })

  it('is as it was without them', () => {
    const wiring = wiringOf({ mcu: 'nano-v3', parts: { A: 'button', Q: 'npn' } })
    expect(litInTurn(wiring)).toBe(wiring)
  })
})
