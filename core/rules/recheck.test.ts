import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyEdits, type Edit, EditError } from '../plan/edit.ts'
import { catalog } from '../testing/plans.ts'
import { randomWiring } from '../testing/randomPlans.ts'
import { resolve } from '../wiring/resolve.ts'
import { check } from './index.ts'
import { type Checked, recheck } from './recheck.ts'

const words = fc.string({ minLength: 1, maxLength: 12 })

it('is the same as from scratch after any run of edits, and works out anew only what was touched', () => {
  fc.assert(
    fc.property(
      randomWiring,
      fc.array(fc.tuple(fc.nat(5), fc.nat(), words), { minLength: 1, maxLength: 12 }),
      (start, steps) => {
        let plan = start
        let now: Checked = recheck(undefined, plan, catalog)
        for (const [kind, pick, text] of steps) {
          const wire = plan.wires[pick % Math.max(1, plan.wires.length)]
          const report = now.found[pick % Math.max(1, now.found.length)]
          const edits: Edit[] =
            kind === 0
              ? [{ do: 'set-title', title: text }]
              : kind === 1 && report
                ? [{ do: 'accept', rule: report.rule, at: report.at, because: text }]
                : kind === 2 && plan.accepted[0]
                  ? [{ do: 'withdraw', rule: plan.accepted[0].rule, at: plan.accepted[0].at }]
                  : kind === 3 && wire
                    ? [{ do: 'disconnect', from: wire[0], to: wire[1] }]
                    : kind === 4 && wire
                      ? [{ do: 'change-wire', from: wire[0], to: wire[1], facts: { colour: text, locked: true } }]
                      : [{ do: 'set-notes', notes: text }]
          const before = now
          try {
            plan = applyEdits(plan, edits)
          } catch (error) {
            if (error instanceof EditError) continue
            throw error
          }
          now = recheck(before, plan, catalog)
          const fresh = check(resolve(plan, catalog))
          const plain = (reports: readonly object[]) => JSON.parse(JSON.stringify(reports))
          expect(plain(now.reports)).toEqual(plain(fresh))
          const touched = edits.some((edit) => edit.do === 'disconnect' || edit.do === 'change-wire')
          expect(now.found === before.found).toBe(!touched)
        }
      },
    ),
    { numRuns: 60 },
  )
})
