import { describe, expect, it } from 'vitest'
import { describeDifference } from '../plan/difference.ts'
import { applyEdit, applyEdits } from '../plan/edit.ts'
import { readPlan } from '../plan/readPlan.ts'
import { writePlan } from '../plan/writePlan.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { preferenceNames } from './preferences.ts'

const lamps = planOf({
  mcu: 'uno-r3',
  parts: Object.fromEntries(Array.from({ length: 16 }, (_, index) => [`B${index + 1}`, 'button'])),
})
const boardPins = (plan: typeof lamps): string[] =>
  assign(resolve(plan, catalog))
    .placed.filter(({ from, to }) => /\.1$/.test(from) && to.startsWith('MCU.'))
    .map(({ to }) => to.slice(4))
const analog = (plan: typeof lamps): number => boardPins(plan).filter((pin) => /^A\d/.test(pin)).length
const console = (plan: typeof lamps): number => boardPins(plan).filter((pin) => pin === 'D0' || pin === 'D1').length

describe('what counts', () => {
  it('moves what the search chooses, and not whether all is placed', () => {
    const saving = applyEdits(lamps, [
      { do: 'prefer', what: 'analog', weight: 'more' },
      { do: 'prefer', what: 'console', weight: 'less' },
    ])
    expect(boardPins(saving)).toHaveLength(boardPins(lamps).length)
    expect(analog(saving)).toBeLessThanOrEqual(analog(lamps))
    expect(console(applyEdit(lamps, { do: 'prefer', what: 'console', weight: 'more' }))).toBe(0)
  })
  it('is written into the plan and read back, in words, and taken out when all is as usual', () => {
    for (const what of preferenceNames) {
      const changed = applyEdit(lamps, { do: 'prefer', what, weight: 'more' })
      const text = writePlan(changed, catalog)
      const read = readPlan(text, 'x', catalog)
      expect(read.ok && read.value.settings).toEqual({ prefer: { [what]: 'more' } })
      expect(describeDifference(lamps, changed, catalog)).toEqual([`search: ${what} unset becomes more`])
      expect(applyEdit(changed, { do: 'prefer', what, weight: null })).toEqual(lamps)
    }
  })
})
