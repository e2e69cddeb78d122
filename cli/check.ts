import { type CheckedPlan, checkPlan } from '../core/rules/checkPlan.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog } from './input.ts'

/** Checks files one after the other; a file that is no plan does not keep the others from being checked. */
export function checkCommand(files: readonly string[], { json }: { json?: boolean }): Status {
  const checked: ({ file: string } & CheckedPlan)[] = []
  let unreadable = false
  for (const file of files) {
    try {
      checked.push({ file, ...checkPlan(readPlanFile(file).plan, theCatalog()) })
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      unreadable = true
      for (const line of error.lines) process.stderr.write(`${line}\n`)
    }
  }
  if (json) printJson({ files: checked })
  else for (const one of checked) print(asText(one))
  if (unreadable) return 2
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

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`
