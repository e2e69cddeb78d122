import { sameFinding } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { bootStrap } from './bootStrap.ts'
import { busPinsRule } from './busPins.ts'
import { commonGround } from './commonGround.ts'
import type { Report, Rule, Severity } from './finding.ts'
import { i2cAddress } from './i2cAddress.ts'
import { levelDamage } from './levelDamage.ts'
import { levelLogic } from './levelLogic.ts'
import { pinDirection } from './pinDirection.ts'
import { pinFunction } from './pinFunction.ts'
import { pinShared } from './pinShared.ts'
import { pinUnplaced } from './pinUnplaced.ts'
import { serialConsole } from './serialConsole.ts'
import { spiSelect } from './spiSelect.ts'
import { supplyMissing } from './supplyMissing.ts'
import { supplyRange } from './supplyRange.ts'

/** Every rule, in the order of the rule reference. */
export const rules: readonly Rule[] = [
  pinShared,
  pinFunction,
  pinDirection,
  bootStrap,
  serialConsole,
  busPinsRule,
  i2cAddress,
  spiSelect,
  levelDamage,
  levelLogic,
  supplyRange,
  supplyMissing,
  commonGround,
  pinUnplaced,
]

const order: Readonly<Record<Severity, number>> = { fault: 0, caution: 1, tip: 2 }

/** Runs every rule, or those given, and returns what they report: faults first, accepted ones marked. */
export function check(wiring: Wiring, which: readonly Rule[] = rules): Report[] {
  const reports: Report[] = []
  for (const rule of which)
    rule.check(wiring, (report) => {
      const full: Report = { ...report, rule: rule.meta.id }
      const accepted = wiring.plan.accepted.find((one) => sameFinding(one, full))
      reports.push(accepted ? { ...full, accepted: accepted.because } : full)
    })
  return reports.sort(
    (a, b) =>
      Number(a.accepted !== undefined) - Number(b.accepted !== undefined) || order[a.severity] - order[b.severity],
  )
}

export interface Counts {
  readonly fault: number
  readonly caution: number
  readonly tip: number
}

/** Findings by severity, without the accepted ones. */
export function count(reports: readonly Pick<Report, 'severity' | 'accepted'>[]): Counts {
  const of = (severity: Severity): number =>
    reports.filter((one) => one.severity === severity && one.accepted === undefined).length
  return { fault: of('fault'), caution: of('caution'), tip: of('tip') }
}
