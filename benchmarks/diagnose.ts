import fc from 'fast-check'
import { assignChoosing } from '../core/assign/choosing.ts'
import { seeded } from '../core/base/random.ts'
import { suggestBreadboards } from '../core/breadboard/suggest.ts'
import { Diagnoser, type Observation } from '../core/bringup/diagnose.ts'
import { buildWith, type FaultKind, faultKinds } from '../core/bringup/fault.ts'
import { faultsOf } from '../core/bringup/faults.ts'
import { laidOf } from '../core/bringup/laid.ts'
import { outcomesOf } from '../core/bringup/predict.ts'
import { stepsOf } from '../core/bringup/steps.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { catalog } from '../core/testing/plans.ts'
import { randomKit } from '../core/testing/randomPlans.ts'
import { resolve } from '../core/wiring/resolve.ts'

/**
 * `npm run bench:diagnose -- N`: one fault planted in each of N random builds, measured as the diagnosis asks, once read
 * rightly and once with every tenth reading of a person wrong. How often the cause comes first, and after how much.
 */
const count = Number(process.argv[2] ?? 500)
const MOST_ASKED = 20
/** Odds of a cause at which the maker goes and looks at it. */
const SURE = 0.8

const chance = seeded(20261126)

interface Tally {
  builds: number
  first: number
  three: number
  asked: number[]
}
const tally = (): Tally => ({ builds: 0, first: 0, three: 0, asked: [] })
const byKind = new Map<FaultKind, Tally>()
const all = { rightly: tally(), wrongly: tally() }
let hidden = 0
const begun = performance.now()
let perDiagnosis = 0

for (const kit of fc.sample(randomKit, { numRuns: count, seed: 17 })) {
  const wired = applyEdits(kit, assignChoosing(resolve(kit, catalog)).edits)
  const wiring = resolve(applyEdits(wired, suggestBreadboards(wired, catalog)), catalog)
  const laid = laidOf(wiring, stepsOf(wiring))
  const faults = [...faultsOf(wiring), ...laid.rails]
  if (faults.length === 0) continue
  const kinds = [...new Set(faults.map(({ kind }) => kind))]
  const kind = kinds[Math.floor(chance() * kinds.length)] as FaultKind
  const own = faults.filter((one) => one.kind === kind)
  const planted = own[Math.floor(chance() * own.length)]
  const build = planted && buildWith(wiring, [planted])
  if (!planted || !build) continue
  const shows = outcomesOf(wiring, build, laid.touches)
  const start = performance.now()
  const one = new Diagnoser(wiring, laid)
  if (one.measurements.every(({ id }) => shows.get(id) === one.planned(id))) {
    hidden += 1
    continue
  }
  for (const [name, into] of Object.entries(all)) {
    const observations: Observation[] = []
    let answer = one.diagnose(observations)
    while (answer.next && observations.length < MOST_ASKED && (answer.causes[0]?.odds ?? 0) < SURE) {
      const { id, misread } = answer.next
      const outcome = shows.get(id) ?? ''
      const errs = name === 'wrongly' && misread > 0.01 && chance() < 0.1
      const saw = errs ? (outcome === 'sounds' ? 'silent' : outcome === 'silent' ? 'sounds' : outcome) : outcome
      observations.push({ step: id, saw: { outcome: saw } })
      answer = one.diagnose(observations)
    }
    const at = answer.causes.findIndex(({ faults: these }) => these.length === 1 && these[0]?.id === planted.id)
    const rows = name === 'rightly' ? [into, byKind.get(kind) ?? tally()] : [into]
    if (name === 'rightly') byKind.set(kind, rows[1] as Tally)
    for (const row of rows) {
      row.builds += 1
      if (at === 0) row.first += 1
      if (at >= 0 && at < 3) row.three += 1
      row.asked.push(observations.length)
    }
  }
  perDiagnosis += performance.now() - start
}

const line = (title: string, { builds, first, three, asked }: Tally): string => {
  const sorted = [...asked].sort((a, b) => a - b)
  const percent = (many: number): string => `${((100 * many) / Math.max(1, builds)).toFixed(1)} %`
  return `| ${title} | ${builds} | ${percent(first)} | ${percent(three)} | ${sorted[Math.floor(builds / 2)] ?? '-'} |`
}
console.log('| fault | builds | first | among three | measurements, median |')
console.log('| --- | --- | --- | --- | --- |')
for (const [kind, row] of byKind) console.log(line(faultKinds[kind].words, row))
console.log(line('all, read rightly', all.rightly))
console.log(line('all, every tenth reading of a person wrong', all.wrongly))
console.log(
  `\n${hidden} faults show nowhere and were passed over; ${(perDiagnosis / Math.max(1, all.rightly.builds)).toFixed(0)} ms for both diagnoses of a build; ${((performance.now() - begun) / 1000).toFixed(0)} s in all.`,
)
