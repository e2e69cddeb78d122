import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { kits } from '../testing/kits.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assignChoosing } from './choosing.ts'

const joined = (plan: Plan, [a, b]: readonly [string, string]): boolean => {
  const [one, two] = [a, b].map((each) => new RegExp(`^(?:${each})$`)) as [RegExp, RegExp]
  return plan.wires.some(([from, to]) => (one.test(from) && two.test(to)) || (one.test(to) && two.test(from)))
}

describe('kits are wired as an experienced maker would', () => {
  it.each(kits)('$title', ({ title: _, why, wired = [], never = [], adds, left = [], ...short }) => {
    const plan = planOf(short)
    const result = assignChoosing(resolve(plan, catalog))
    const after = applyEdits(plan, result.edits)
    expect(
      wired.filter((pair) => !joined(after, pair)),
      why,
    ).toEqual([])
    expect(
      never.filter((pair) => joined(after, pair)),
      why,
    ).toEqual([])
    expect(
      result.unplaced.map(({ end }) => end),
      why,
    ).toEqual(left)
    if (adds !== undefined) expect(result.added, why).toHaveLength(adds)
    const added = Object.keys(after.parts).filter((ref) => !(ref in plan.parts))
    expect(result.added.map(({ ref }) => ref)).toEqual(added)
    const faults = check(resolve(after, catalog), allRules).filter(({ severity }) => severity === 'fault')
    expect(
      faults.map(({ message }) => message),
      why,
    ).toEqual([])
  })
})

describe('what is wired stays', () => {
  it.each(kits)(
    '$title, asked again',
    ({ title: _, why, wired: __, never: ___, adds: ____, left: _____, ...short }) => {
      const plan = planOf(short)
      const after = applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)
      expect(assignChoosing(resolve(after, catalog)).edits, why).toEqual([])
    },
  )
})
