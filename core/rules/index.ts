import { entryOf } from '../base/entryOf.ts'
import { sameFinding } from '../plan/findingKey.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { analogRange } from './analogRange.ts'
import { backFeed } from './backFeed.ts'
import { bootStrap } from './bootStrap.ts'
import { busPinsRule } from './busPins.ts'
import { busSoftware } from './busSoftware.ts'
import { capacitorRule } from './capacitor.ts'
import { commonGround } from './commonGround.ts'
import { controllerTakes } from './controllerTakes.ts'
import { controlPost } from './controlPost.ts'
import { decoupling } from './decoupling.ts'
import { diodeAcross } from './diodeAcross.ts'
import { driverIdle } from './driverIdle.ts'
import { driverNeeded } from './driverNeeded.ts'
import { driverRating } from './driverRating.ts'
import { endMismatch } from './endMismatch.ts'
import { expanderLimit } from './expanderLimit.ts'
import { featureConflict } from './featureConflict.ts'
import type { Finding, Report, Rule, Severity } from './finding.ts'
import { flyback } from './flyback.ts'
import { holeClash } from './holeClash.ts'
import { i2cAddress } from './i2cAddress.ts'
import { i2cPullup } from './i2cPullup.ts'
import { i2cSpeed } from './i2cSpeed.ts'
import { i2sSlot } from './i2sSlot.ts'
import { inputFloating } from './inputFloating.ts'
import { interruptLine } from './interruptLine.ts'
import { ledResistor } from './ledResistor.ts'
import { levelDamage } from './levelDamage.ts'
import { levelLogic } from './levelLogic.ts'
import { lineCapacitor } from './lineCapacitor.ts'
import { loadReturn } from './loadReturn.ts'
import { matrixRule } from './matrix.ts'
import { fillMessage } from './messages.ts'
import { noFreeHole } from './noFreeHole.ts'
import { onewirePullup } from './onewirePullup.ts'
import { pinCurrent } from './pinCurrent.ts'
import { pinDirection } from './pinDirection.ts'
import { pinFunction } from './pinFunction.ts'
import { pinNotSignal } from './pinNotSignal.ts'
import { pinOnboard } from './pinOnboard.ts'
import { pinOnRail } from './pinOnRail.ts'
import { pinPull } from './pinPull.ts'
import { pinShared } from './pinShared.ts'
import { pinsShort } from './pinsShort.ts'
import { pinUnplaced } from './pinUnplaced.ts'
import { polarity } from './polarity.ts'
import { pwmChannel } from './pwmChannel.ts'
import { pwmSoftware } from './pwmSoftware.ts'
import { pwmTimer } from './pwmTimer.ts'
import { railGap } from './railGap.ts'
import { resetGlitch } from './resetGlitch.ts'
import { serialConsole } from './serialConsole.ts'
import { setAsideRule } from './setAside.ts'
import { spiRelease } from './spiRelease.ts'
import { spiSelect } from './spiSelect.ts'
import { strapNeeded } from './strapNeeded.ts'
import { supplyBudget } from './supplyBudget.ts'
import { supplyJoined } from './supplyJoined.ts'
import { supplyMissing } from './supplyMissing.ts'
import { supplyMotor } from './supplyMotor.ts'
import { supplyRange } from './supplyRange.ts'
import { timingSensitive } from './timingSensitive.ts'
import { uartCount } from './uartCount.ts'
import { uartCross } from './uartCross.ts'
import { uartLevels } from './uartLevels.ts'

/** Every rule of the wiring itself, in the order of the rule reference. */
export const rules: readonly Rule[] = [
  pinShared,
  pinFunction,
  pinDirection,
  pinPull,
  bootStrap,
  pinOnboard,
  serialConsole,
  resetGlitch,
  featureConflict,
  interruptLine,
  pwmTimer,
  busPinsRule,
  busSoftware,
  i2cAddress,
  i2cPullup,
  i2cSpeed,
  i2sSlot,
  spiSelect,
  spiRelease,
  uartCross,
  uartCount,
  uartLevels,
  onewirePullup,
  levelDamage,
  levelLogic,
  analogRange,
  supplyRange,
  supplyMissing,
  supplyJoined,
  commonGround,
  supplyBudget,
  supplyMotor,
  pinCurrent,
  driverNeeded,
  flyback,
  ledResistor,
  polarity,
  inputFloating,
  strapNeeded,
  pinUnplaced,
  pinsShort,
  expanderLimit,
  timingSensitive,
  decoupling,
  endMismatch,
  pinOnRail,
  pinNotSignal,
  controlPost,
  driverIdle,
  driverRating,
  loadReturn,
  diodeAcross,
  matrixRule,
  capacitorRule,
  lineCapacitor,
  backFeed,
  pwmChannel,
  pwmSoftware,
  controllerTakes,
  setAsideRule,
]

/** Rules of the bench: they need its layout, which takes longer than all the others together. */
export const benchRules: readonly Rule[] = [holeClash, railGap, noFreeHole]
export const allRules: readonly Rule[] = [...rules, ...benchRules]
export const isBenchRule = (id: string): boolean => benchRules.some(({ meta }) => meta.id === id)

const order: Readonly<Record<Severity, number>> = { fault: 0, caution: 1, tip: 2 }

/** Runs every rule of the wiring, or those given, and returns what they find: faults first, accepted ones marked and last. */
export const check = (wiring: Wiring, which: readonly Rule[] = rules): Finding[] =>
  sorted(
    which.flatMap((rule) => findingsOf(wiring, rule)),
    wiring.plan,
  )

/**
 * A report in words.
 * @throws Error for a message that the rule does not have: a mistake in the rule.
 */
export function findingOf({ meta }: Rule, { propose: _, message: says, data = {}, ...rest }: Report): Finding {
  const template = entryOf(meta.messages, says)
  if (template === undefined) throw new Error(`${meta.id} has no message ${says}`)
  // A part that is in it twice is named once.
  return { rule: meta.id, says, data, message: fillMessage(template, data), ...rest, at: [...new Set(rest.at)] }
}

/** What one rule finds, without a look at what the plan accepts; that of a local rule by place. */
export function findingsOf(wiring: Wiring, rule: Rule): Finding[] {
  const found: Finding[] = []
  rule.check(wiring, (report) => {
    found.push(findingOf(rule, report))
  })
  return rule.meta.local ? inPlace(found, wiring) : found
}

/** Findings in the order of the boards, supplies and parts that they are about, then of their ends. */
export function inPlace(found: readonly Finding[], { boards, supplies, parts, whole }: Wiring): Finding[] {
  if (found.length < 2) return [...found]
  const order = new Map([...boards, ...supplies, ...(whole?.parts ?? parts)].map(({ ref }, index) => [ref, index]))
  const keyed = found.map((one) => {
    const [first = ''] = one.at
    return { one, place: order.get(first.split('.')[0] as string) ?? -1, text: `${one.at.join(' ')} ${one.message}` }
  })
  return keyed.sort((a, b) => a.place - b.place || (a.text < b.text ? -1 : 1)).map(({ one }) => one)
}

/** Findings in order, faults first, those that a plan accepts marked and last. */
export function sorted(found: readonly Finding[], plan: Plan): Finding[] {
  const marked = found.map((one): Finding => {
    const accepted = plan.accepted.find((each) => sameFinding(each, one))
    if (accepted) return { ...one, accepted: accepted.because }
    const { rule, formerly } = one
    const former = formerly && plan.accepted.find((each) => sameFinding(each, { rule, at: formerly }))
    // It is taken back by the places that it names.
    return former ? { ...one, at: former.at, accepted: former.because } : one
  })
  return marked.sort(
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
export function count(reports: readonly Pick<Finding, 'severity' | 'accepted'>[]): Counts {
  const of = (severity: Severity): number =>
    reports.filter((one) => one.severity === severity && one.accepted === undefined).length
  return { fault: of('fault'), caution: of('caution'), tip: of('tip') }
}
