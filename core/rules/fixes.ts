import { applyEdits, EditError, type Fix, sameFinding } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Finding, Report } from './finding.ts'
import { type Counts, check, count } from './index.ts'

/**
 * The fixes of a finding that truly mend it: each proposal is applied and checked, and kept only when the finding is
 * gone and no fault is there that was not there before.
 */
export function fixesFor(wiring: Wiring, report: Report, reports: readonly Report[]): Fix[] {
  const faults = new Set(reports.filter((one) => one.severity === 'fault').map(faultKey))
  return (report.propose?.() ?? []).filter((fix) => mends(wiring, report, fix, count(reports), faults))
}

function mends(wiring: Wiring, report: Report, fix: Fix, before: Counts, faults: ReadonlySet<string>): boolean {
  try {
    const plan = applyEdits(wiring.plan, fix.edits)
    const after = check(resolve(plan, wiring.catalog))
    // Mended means fewer of its kind, not the same trouble at another pin.
    if (after.some((one) => sameFinding(one, report)) || count(after)[report.severity] >= before[report.severity])
      return false
    return after.every((one) => one.severity !== 'fault' || faults.has(faultKey(one)))
  } catch (error) {
    if (error instanceof EditError) return false
    throw error
  }
}

/** A fault is the same before and after when rule and places agree. */
const faultKey = (one: Finding): string => `${one.rule} ${[...one.at].sort().join(' ')}`
