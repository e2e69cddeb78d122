import { type CheckedPlan, checkPlan } from '../core/rules/checkPlan.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog } from './input.ts'

type Checked = { file: string } & CheckedPlan

/** Findings of a file whose fixes stand in the JSON without being asked for: each fix is tried, which takes time. */
const FIXES_IN_JSON = 100

/**
 * Checks files one after the other; a file that is no plan does not keep the others from being checked. Several files
 * end with a table; `summary` prints nothing else.
 */
export function checkCommand(
  files: readonly string[],
  { json, summary, fixes }: { json?: boolean; summary?: boolean; fixes?: boolean },
): Status {
  const worked = fixes ? Number.POSITIVE_INFINITY : json ? FIXES_IN_JSON : 0
  const checked: Checked[] = []
  const unreadable: string[] = []
  for (const file of files) {
    try {
      const one = checkPlan(readPlanFile(file).plan, theCatalog(), { fixes: worked })
      if (json && one.findings.length > worked)
        process.stderr.write(
          `${file}: fixes of the first ${worked} of ${one.findings.length} findings; --fixes works them all out\n`,
        )
      checked.push({ file, ...one })
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      unreadable.push(file)
      for (const line of error.lines) process.stderr.write(`${line}\n`)
    }
  }
  if (json) printJson({ files: checked })
  else {
    if (!summary) for (const one of checked) print(asText(one))
    if (summary || files.length > 1) print(asTable(checked, unreadable))
  }
  if (unreadable.length > 0) return 2
  return checked.some(({ counts }) => counts.fault > 0) ? 1 : 0
}

function asText({ file, counts, findings }: { file: string } & CheckedPlan): string {
  const lines = findings.map((finding) => {
    const head = finding.accepted === null ? finding.severity : 'accepted'
    const fixes =
      finding.accepted === null
        ? finding.fixes.map((fix) => `\n      mend: ${fix.title}`).join('')
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
