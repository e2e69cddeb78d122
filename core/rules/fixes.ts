import { applyEdits, EditError, type Fix, sameFinding } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Finding, Rule } from './finding.ts'
import { allRules, benchRules, type Counts, check, count, isBenchRule, rules } from './index.ts'

/**
 * The fixes of a finding that truly mend it: each proposal is applied and checked, and kept only when the finding is
 * gone and no fault is there that was not there before. What a fix of the bench changes, the other rules do not see, and
 * the other way round.
 */
export function fixesFor(wiring: Wiring, finding: Finding, findings: readonly Finding[]): Fix[] {
  const onBench = isBenchRule(finding.rule)
  const own = findings.filter((one) => isBenchRule(one.rule) === onBench)
  const faults = new Set(own.filter((one) => one.severity === 'fault').map(faultKey))
  const which = onBench ? benchRules : rules
  return proposed(wiring, finding).filter((fix) => mends(wiring, finding, fix, count(own), faults, which))
}

/** What the rule of a finding proposes for it, asked anew: the finding may have been made on an earlier wiring. */
function proposed(wiring: Wiring, finding: Finding): readonly Fix[] {
  let fixes: readonly Fix[] | undefined
  allRules
    .find(({ meta }) => meta.id === finding.rule)
    ?.check(wiring, ({ propose, ...report }) => {
      if (!fixes && report.message === finding.message && sameFinding({ ...report, rule: finding.rule }, finding))
        fixes = propose?.() ?? []
    })
  return fixes ?? []
}

function mends(
  wiring: Wiring,
  finding: Finding,
  fix: Fix,
  before: Counts,
  faults: ReadonlySet<string>,
  which: readonly Rule[],
): boolean {
  try {
    const plan = applyEdits(wiring.plan, fix.edits)
    const after = check(resolve(plan, wiring.catalog), which)
    // Mended means fewer of its kind, not the same trouble at another pin.
    if (after.some((one) => sameFinding(one, finding)) || count(after)[finding.severity] >= before[finding.severity])
      return false
    return after.every((one) => one.severity !== 'fault' || faults.has(faultKey(one)))
  } catch (error) {
    if (error instanceof EditError) return false
    throw error
  }
}

/** A fault is the same before and after when rule and places agree. */
const faultKey = (one: Finding): string => `${one.rule} ${[...one.at].sort().join(' ')}`
