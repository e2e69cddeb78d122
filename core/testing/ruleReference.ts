import { fixesFor } from '../advice/fixes.ts'
import { allRules, check } from '../rules/index.ts'
import { wiringOf } from './plans.ts'
import { mistaken } from './wiringSuite.ts'

/** The rule reference as Markdown: what each rule looks for, and one mistake of the suite with its words and fixes. */
export function ruleReference(): string {
  const parts = [
    '# Rules',
    '',
    'Made from the rules themselves by `npm run rules:doc`; do not edit by hand. A fault will not work or may do damage; a',
    'caution works under a condition that you must know; a tip is worth knowing.',
    '',
  ]
  for (const { meta } of allRules) {
    parts.push(`## ${meta.id}`, '', `*${meta.severities.join(', ')}.* ${meta.about} It says:`, '')
    for (const template of Object.values(meta.messages)) parts.push(`- ${spoken(template)}`)
    parts.push('')
    const example = mistaken.find((one) => one.rule === meta.id)
    if (!example) continue
    const wiring = wiringOf(example)
    const findings = check(wiring, allRules)
    const finding = findings.find((one) => one.rule === meta.id)
    if (!finding) continue
    parts.push(`For example, ${example.title}: “${finding.message}”`, '', `> ${finding.why}`, '')
    const fixes = fixesFor(wiring, finding, findings)
    if (fixes.length > 0) parts.push('Ways out:', '', ...fixes.map((fix) => `- ${fix.title}`), '')
  }
  return `${parts.join('\n').trimEnd()}\n`
}

/** A message as it reads, with its places in angles. */
const spoken = (template: string): string =>
  template.replaceAll(/\{(\w+)(?::([^/}]*)\/[^}]*)?\}/g, (_, name: string, one?: string) => one ?? `‹${name}›`)
