import { type CheckedPlan, checkPlan } from '../core/advice/checkPlan.ts'
import { explainEnd, explanationText } from '../core/circuit/explain.ts'
import { catalogFor } from '../core/plan/carried.ts'
import { canonicalEnd } from '../core/plan/ends.ts'
import type { Plan } from '../core/plan/planSchema.ts'
import { junitOf } from '../core/rules/junit.ts'
import { type Place, placesIn } from '../core/rules/places.ts'
import { type Reported, sarifOf } from '../core/rules/sarif.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog, version } from './input.ts'

type Found = CheckedPlan['findings'][number] & Place
type Checked = { readonly file: string } & Pick<CheckedPlan, 'counts'> & { readonly findings: readonly Found[] }

export const reportFormats = ['sarif', 'junit'] as const

interface Options {
  readonly json?: boolean
  readonly summary?: boolean
  readonly fixes?: boolean
  readonly as?: (typeof reportFormats)[number]
  readonly explain?: readonly string[]
}

/** Findings of a file whose fixes stand in the JSON without being asked for: each fix is tried, which takes time. */
const FIXES_IN_JSON = 100

/**
 * Checks files one after the other; a file that is no plan does not keep the others from being checked. Several files
 * end with a table; `summary` prints nothing else. With `explain` what the model knows of these ends is printed instead
 * of the findings.
 */
export function checkCommand(files: readonly string[], { json, summary, fixes, as, explain }: Options): Status {
  const worked = fixes ? Number.POSITIVE_INFINITY : json ? FIXES_IN_JSON : 0
  const checked: Checked[] = []
  const reported: Reported[] = []
  const unreadable: string[] = []
  const explained: { file: string; explanations: readonly ReturnType<typeof explanationsOf>[number][] }[] = []
  for (const file of files) {
    try {
      const { plan, text } = readPlanFile(file)
      if (explain) {
        explained.push({ file, explanations: explanationsOf(file, plan, explain) })
        continue
      }
      const one = checkPlan(plan, theCatalog(), { fixes: worked })
      if (json && one.findings.length > worked)
        process.stderr.write(
          `${file}: fixes of the first ${worked} of ${one.findings.length} findings; --fixes works them all out\n`,
        )
      const placeOf = placesIn(text, plan, theCatalog())
      const findings = one.findings.map((finding): Found => ({ ...finding, ...placeOf(finding) }))
      checked.push({ file, counts: one.counts, findings })
      reported.push({
        file,
        findings: findings.map(({ accepted, line, column, fixes: _, ...finding }) => ({
          ...finding,
          ...(accepted === null ? {} : { accepted }),
          place: { line, column },
        })),
      })
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      unreadable.push(file)
      reported.push({ file, unreadable: error.lines })
      for (const line of error.lines) process.stderr.write(`${line}\n`)
    }
  }
  if (explain) {
    if (json) printJson({ files: explained })
    else print(explained.flatMap(({ explanations }) => explanations.map(explanationText)).join('\n\n'))
    return unreadable.length > 0 ? 2 : 0
  }
  if (as === 'sarif') printJson(sarifOf(reported, version()))
  else if (as === 'junit') print(junitOf(reported))
  else if (json) printJson({ files: checked })
  else {
    if (!summary) for (const one of checked) print(asText(one))
    if (summary || files.length > 1) print(asTable(checked, unreadable))
  }
  if (unreadable.length > 0) return 2
  return checked.some(({ counts }) => counts.fault > 0) ? 1 : 0
}

/** What the model says of some ends of a plan. */
function explanationsOf(file: string, plan: Plan, ends: readonly string[]) {
  const wiring = resolve(plan, theCatalog())
  const catalog = catalogFor(plan, theCatalog())
  return ends.map((given) => {
    const end = canonicalEnd(plan, catalog, given)
    const explanation = end.ok ? explainEnd(wiring, end.end) : undefined
    if (!end.ok || !explanation)
      throw new InputError([
        `${file}: --explain ${given}: ${end.ok ? 'no such end' : end.message}; expected a pin as REF.PIN`,
      ])
    return explanation
  })
}

function asText({ file, counts, findings }: Checked): string {
  const lines = findings.map((finding) => {
    const head = finding.accepted === null ? finding.severity : 'accepted'
    const fixes =
      finding.accepted === null
        ? finding.fixes.map((fix) => `\n      fix: ${fix.title}`).join('')
        : ` (${finding.accepted})`
    return `  ${head.padEnd(8)} ${finding.rule}: ${finding.message}${fixes}`
  })
  const accepted = findings.filter((one) => one.accepted !== null).length
  const summary = `${file}: ${plural(counts.fault, 'fault')}, ${plural(counts.caution, 'caution')}, ${plural(counts.tip, 'tip')}${accepted > 0 ? `, ${accepted} accepted` : ''}`
  return [...lines, summary].join('\n')
}

/** One line a file: counts, and the rules that found a fault. */
function asTable(checked: readonly Checked[], unreadable: readonly string[]): string {
  const rows = [
    ['plan', 'faults', 'cautions', 'tips', 'accepted', 'rules with a fault'],
    ...checked.map(({ file, counts, findings }) => [
      file,
      String(counts.fault),
      String(counts.caution),
      String(counts.tip),
      String(findings.filter((one) => one.accepted !== null).length),
      [
        ...new Set(findings.filter((one) => one.severity === 'fault' && one.accepted === null).map((one) => one.rule)),
      ].join(' '),
    ]),
    ...unreadable.map((file) => [file, '-', '-', '-', '-', 'not a plan']),
  ]
  const sound = checked.filter((one) => one.counts.fault === 0).length
  const widths = rows[0]!.map((_, column) => Math.max(...rows.map((row) => row[column]!.length)))
  const lines = rows.map((row) =>
    row
      .map((cell, column) =>
        column === 0 || column === 5 ? cell.padEnd(widths[column]!) : cell.padStart(widths[column]!),
      )
      .join('  ')
      .trimEnd(),
  )
  return ['', ...lines, '', `${sound} of ${plural(rows.length - 1, 'plan')} without a fault`].join('\n')
}

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`
