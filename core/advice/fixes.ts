import { memo, memoIn } from '../base/memo.ts'
import { applyEdits, EditError, type Fix, toBuy } from '../plan/edit.ts'
import { sameFinding } from '../plan/findingKey.ts'
import type { Plan } from '../plan/planSchema.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import type { Finding, Rule } from '../rules/finding.ts'
import { allRules, benchRules, type Counts, check, count, findingOf, isBenchRule, rules } from '../rules/index.ts'
import { type Checked, checked, recheck } from '../rules/recheck.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/**
 * The fixes of a finding that truly mend it: each proposal is applied and checked, and kept only when the finding is
 * gone and no fault is there that was not there before. What a fix of the bench changes, the other rules do not see, and
 * the other way round.
 */
export function fixesFor(wiring: Wiring, finding: Finding, findings: readonly Finding[]): Fix[] {
  const onBench = isBenchRule(finding.rule)
  const own = findings.filter((one) => isBenchRule(one.rule) === onBench)
  const faults = faultsIn(own)
  const which = onBench ? benchRules : rules
  const outcomes = new Set<string>()
  return proposed(wiring, finding).filter((fix) => {
    if (!mends(wiring, finding, fix, count(own), faults, which)) return false
    // Two mends that come to the same are one.
    const outcome = outcomeOf(applyEdits(wiring.plan, fix.edits))
    if (outcomes.has(outcome)) return false
    outcomes.add(outcome)
    return true
  })
}

/** A plan as a text in which the order of wires and of their ends does not count. */
const outcomeOf = ({ wires, ...rest }: Plan): string =>
  JSON.stringify([rest, wires.map(([a, b, extra]) => JSON.stringify([[a, b].sort(), extra])).sort()])

/** What the rule of a finding proposes for it, asked anew: the finding may have been made on an earlier wiring. */
function proposed(wiring: Wiring, finding: Finding): readonly Fix[] {
  const same = proposals(wiring, finding.rule).get(keyOf(finding))
  return (same?.() ?? []).map((fix) => ({ ...fix, edits: toBuy(fix.edits) }))
}

const keyOf = (one: { readonly message: string; readonly at: readonly string[] }): string =>
  [one.message, ...[...one.at].sort()].join('\n')

type Proposals = ReadonlyMap<string, () => readonly Fix[]>

/** What a rule could propose on a wiring, by finding; gathered once for each rule, worked out when it is asked. */
const proposals = memoIn((wiring: Wiring, rule: string): Proposals => {
  const made = new Map<string, () => readonly Fix[]>()
  const asked = allRules.find(({ meta }) => meta.id === rule)
  asked?.check(wiring, (report) => {
    if (!report.propose) return
    const key = keyOf(findingOf(asked, report))
    if (!made.has(key)) made.set(key, report.propose)
  })
  return made
})

/** The check of a wiring from which that of a wiring with a fix is worked out. */
const baseOf = memo((wiring: Wiring): Checked => checked(wiring))

function mends(
  wiring: Wiring,
  finding: Finding,
  fix: Fix,
  before: Counts,
  faults: ReadonlyMap<string, Finding>,
  which: readonly Rule[],
): boolean {
  try {
    const plan = applyEdits(wiring.plan, fix.edits)
    const after =
      which === benchRules
        ? check(resolve(plan, wiring.catalog), which)
        : recheck(baseOf(wiring), plan, wiring.catalog).findings
    // Mended means fewer of its kind, not the same trouble at another pin.
    if (after.some((one) => sameFinding(one, finding)) || count(after)[finding.severity] >= before[finding.severity])
      return false
    return newFaults(faults, after).length === 0
  } catch (error) {
    if (error instanceof EditError) return false
    throw error
  }
}
