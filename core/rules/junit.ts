import { allRules } from './index.ts'
import type { Reported, ReportedRule } from './sarif.ts'

/**
 * Findings as JUnit XML, for builds that show tests: a suite for each plan and a test case for each rule. A fault fails
 * its case; cautions and tips stand in its output; a file that is no plan is an error.
 */
export function junitOf(
  reported: readonly Reported[],
  rules: readonly ReportedRule[] = allRules.map(({ meta }) => meta),
): string {
  const suites = reported.map((one) => suiteOf(one, rules))
  const sum = (of: 'tests' | 'failures' | 'errors'): number => suites.reduce((total, one) => total + one[of], 0)
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="Mark Post" tests="${sum('tests')}" failures="${sum('failures')}" errors="${sum('errors')}">`,
    ...suites.flatMap(({ lines }) => lines),
    '</testsuites>',
    '',
  ].join('\n')
}

function suiteOf(
  one: Reported,
  rules: readonly ReportedRule[],
): { tests: number; failures: number; errors: number; lines: readonly string[] } {
  const name = xmlText(one.file)
  if ('unreadable' in one)
    return {
      tests: 1,
      failures: 0,
      errors: 1,
      lines: [
        `  <testsuite name="${name}" tests="1" failures="0" errors="1" skipped="0">`,
        `    <testcase classname="${name}" name="is a plan">`,
        `      <error message="not a plan">${xmlText(one.unreadable.join('\n'))}</error>`,
        '    </testcase>',
        '  </testsuite>',
      ],
    }
  let failures = 0
  const cases = rules.flatMap(({ id }) => {
    const found = one.findings.filter(({ rule }) => rule === id)
    const live = found.filter(({ accepted }) => accepted === undefined)
    const faults = live.filter(({ severity }) => severity === 'fault')
    const line = ({ place, severity, message }: (typeof found)[number]): string =>
      `${one.file}:${place.line}:${place.column}: ${severity}: ${message}`
    const others = [
      ...live.filter(({ severity }) => severity !== 'fault').map(line),
      ...found
        .filter(({ accepted }) => accepted !== undefined)
        .map((each) => `${line(each)} Accepted: ${each.accepted}`),
    ]
    if (faults.length > 0) failures += 1
    const inside = [
      ...(faults.length > 0
        ? [
            `      <failure type="fault" message="${xmlText(faults[0]?.message ?? '')}">${xmlText(faults.map(line).join('\n'))}</failure>`,
          ]
        : []),
      ...(others.length > 0 ? [`      <system-out>${xmlText(others.join('\n'))}</system-out>`] : []),
    ]
    const head = `    <testcase classname="${name}" name="${id}"`
    return inside.length === 0 ? [`${head}/>`] : [`${head}>`, ...inside, '    </testcase>']
  })
  return {
    tests: rules.length,
    failures,
    errors: 0,
    lines: [
      `  <testsuite name="${name}" tests="${rules.length}" failures="${failures}" errors="0" skipped="0">`,
      ...cases,
      '  </testsuite>',
    ],
  }
}

/** Text for XML 1.0: its five marks written out, and what XML cannot hold replaced. */
const xmlText = (text: string): string =>
  [...text.replaceAll('\r\n', '\n')].map((one) => marks.get(one) ?? (isAllowed(one) ? one : '\uFFFD')).join('')

const marks: ReadonlyMap<string, string> = new Map([
  ['&', '&amp;'],
  ['<', '&lt;'],
  ['>', '&gt;'],
  ['"', '&quot;'],
  ["'", '&apos;'],
  ['\n', '&#10;'],
])

/** Characters of XML 1.0 (section 2.2): no control characters but tab, no halves of pairs. */
const isAllowed = (character: string): boolean => {
  const code = character.codePointAt(0) as number
  return code === 9 || (code >= 32 && code < 0xd800) || (code >= 0xe000 && code < 0xfffe) || code > 0xffff
}
