import { applyEdits, EditError, type Fix, sameFinding } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Finding, Report, Rule } from './finding.ts'
import { benchRules, type Counts, check, count, isBenchRule, rules } from './index.ts'

/**
 * The fixes of a finding that truly mend it: each proposal is applied and checked, and kept only when the finding is
 * gone and no fault is there that was not there before. What a fix of the bench changes, the other rules do not see, and
 * the other way round.
 */
export function fixesFor(wiring: Wiring, report: Report, reports: readonly Report[]): Fix[] {
  const onBench = isBenchRule(report.rule)
  const own = reports.filter((one) => isBenchRule(one.rule) === onBench)
  const faults = new Set(own.filter((one) => one.severity === 'fault').map(faultKey))
  const which = onBench ? benchRules : rules
  return (report.propose?.() ?? []).filter((fix) => mends(wiring, report, fix, count(own), faults, which))
}

function mends(
  wiring: Wiring,
  report: Report,
  fix: Fix,
  before: Counts,
  faults: ReadonlySet<string>,
  which: readonly Rule[],
): boolean {
  try {
    const plan = applyEdits(wiring.plan, fix.edits)
    const after = check(resolve(plan, wiring.catalog), which)
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
