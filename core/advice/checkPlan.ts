import type { Catalog } from '../catalog/catalog.ts'
import type { Fix } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Finding } from '../rules/finding.ts'
import { allRules, type Counts, check, count } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'
import { fixesFor } from './fixes.ts'

/** The findings of one plan as plain data: what `check --json` prints for a file. */
export interface CheckedPlan {
  readonly counts: Counts
  readonly findings: readonly (Omit<Finding, 'accepted' | 'formerly'> & {
    readonly fixes: readonly Fix[]
    readonly accepted: string | null
  })[]
}

/** Checks a plan. Fixes are tried, which takes time, and so are worked out for the first `fixes` findings only. */
export function checkPlan(plan: Plan, catalog: Catalog, { fixes }: { fixes: number }): CheckedPlan {
  const wiring = resolve(plan, catalog)
  const findings = check(wiring, allRules)
  return {
    counts: count(findings),
    findings: findings.map((finding, index) => {
      const { formerly: _, accepted = null, ...said } = finding
      return {
        ...said,
        fixes: index < fixes ? fixesFor(wiring, finding, findings).map(({ brings: _, ...fix }) => fix) : [],
        accepted,
      }
    }),
  }
}
