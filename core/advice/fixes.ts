import { memo, memoIn } from '../base/memo.ts'
import { applyEdits, EditError, type Fix, toBuy } from '../plan/edit.ts'
import { sameFinding } from '../plan/findingKey.ts'
import type { Plan } from '../plan/planSchema.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import type { Finding, Rule } from '../rules/finding.ts'
import { allRules, benchRules, type Counts, check, count, findingOf, isBenchRule, rules } from '../rules/index.ts'
import { type Checked, checked, recheck } from '../rules/recheck.ts'
import { sift } from '../rules/waiting.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/** A fix that was tried, with what it costs. */
export interface TriedFix extends Fix {
  /** Cautions that come with it, in words. */
  readonly brings: readonly string[]
}

/**
 * The fixes of a finding that truly mend it: each proposal is applied and checked, and kept only when the finding is
 * gone and no fault is there that was not there before. What a fix of the bench changes, the other rules do not see, and
 * the other way round.
 */
export function fixesFor(wiring: Wiring, finding: Finding, findings: readonly Finding[]): TriedFix[] {
  const onBench = isBenchRule(finding.rule)
  const own = findings.filter((one) => isBenchRule(one.rule) === onBench)
  const faults = faultsIn(own)
  const which = onBench ? benchRules : rules
  const outcomes = new Set<string>()
  return proposed(wiring, finding).flatMap((fix): TriedFix[] => {
    const after = tried(wiring, finding, fix, count(own), faults, which)
    if (!after) return []
    // Two fixes that come to the same are one.
    const outcome = outcomeOf(after.wiring.plan)
    if (outcomes.has(outcome)) return []
    outcomes.add(outcome)
    const isNew = (one: Finding): boolean =>
      one.severity === 'caution' && one.accepted === undefined && !own.some((before) => sameFinding(before, one))
    const brings = sift(after.wiring, after.findings).standing.filter(isNew)
    return [{ ...fix, brings: brings.map(({ message }) => message) }]
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

/** The plan with a fix and its findings; undefined for one that does not mend, or brings a new fault. */
function tried(
  wiring: Wiring,
  finding: Finding,
  fix: Fix,
  before: Counts,
  faults: ReadonlyMap<string, Finding>,
  which: readonly Rule[],
): { readonly wiring: Wiring; readonly findings: readonly Finding[] } | undefined {
  try {
    const plan = applyEdits(wiring.plan, fix.edits)
    const fixed = which === benchRules ? resolve(plan, wiring.catalog) : undefined
    const after = fixed
      ? { wiring: fixed, findings: check(fixed, which) }
      : recheck(baseOf(wiring), plan, wiring.catalog)
    const { findings } = after
    // Mended means fewer of its kind, not the same trouble at another pin.
    const isMended =
      !findings.some((one) => sameFinding(one, finding)) && count(findings)[finding.severity] < before[finding.severity]
    return isMended && newFaults(faults, findings).length === 0 ? after : undefined
  } catch (error) {
    if (error instanceof EditError) return undefined
    throw error
  }
}
