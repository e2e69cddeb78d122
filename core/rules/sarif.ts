import { findingKey } from '../plan/findingKey.ts'
import type { Finding, Rule, Severity } from './finding.ts'
import { allRules } from './index.ts'
import type { Place } from './places.ts'

/** Findings of one plan file with their places in it; or why the file is no plan. */
export type Reported =
  | { readonly file: string; readonly findings: readonly ReportedFinding[] }
  | { readonly file: string; readonly unreadable: readonly string[] }

export type ReportedFinding = Pick<Finding, 'rule' | 'severity' | 'message' | 'why' | 'at' | 'accepted'> & {
  readonly place: Place
}

/** What is looked for: a rule of the checks, or a kind of difference between program and plan. */
export type ReportedRule = Pick<Rule['meta'], 'id' | 'about' | 'severities'>

const levels: Readonly<Record<Severity, string>> = { fault: 'error', caution: 'warning', tip: 'note' }

/**
 * Findings as a SARIF 2.1.0 log (OASIS, Static Analysis Results Interchange Format), for code hosts that show them at
 * the line of the plan. Accepted findings are suppressed with the maker's reason.
 */
export function sarifOf(
  reported: readonly Reported[],
  version: string,
  rules: readonly ReportedRule[] = allRules.map(({ meta }) => meta),
): object {
  const index = new Map(rules.map(({ id }, at) => [id, at]))
  return {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Mark Post',
            version,
            rules: rules.map(({ id, about, severities }) => ({
              id,
              shortDescription: { text: about },
              defaultConfiguration: { level: levels[severities[0] as Severity] },
            })),
          },
        },
        columnKind: 'utf16CodeUnits',
        invocations: [
          {
            executionSuccessful: reported.every((one) => !('unreadable' in one)),
            toolExecutionNotifications: reported.flatMap((one) =>
              'unreadable' in one
                ? one.unreadable.map((text) => ({
                    level: 'error',
                    message: { text },
                    locations: [{ physicalLocation: { artifactLocation: { uri: uriOf(one.file) } } }],
                  }))
                : [],
            ),
          },
        ],
        results: reported.flatMap((one) =>
          'findings' in one
            ? one.findings.map(({ rule, severity, message, why, at, accepted, place }) => ({
                ruleId: rule,
                ruleIndex: index.get(rule),
                level: levels[severity],
                message: { text: `${message} ${why}`.trim() },
                locations: [
                  {
                    physicalLocation: {
                      artifactLocation: { uri: uriOf(one.file) },
                      region: { startLine: place.line, startColumn: place.column },
                    },
                    logicalLocations: at.map((end) => ({ fullyQualifiedName: end })),
                  },
                ],
                partialFingerprints: { 'ruleAndEnds/v1': findingKey({ rule, at }) },
                ...(accepted === undefined ? {} : { suppressions: [{ kind: 'inSource', justification: accepted }] }),
              }))
            : [],
        ),
      },
    ],
  }
}

/** A path as a relative reference (RFC 3986). */
const uriOf = (file: string): string => file.split(/[\\/]/).map(encodeURIComponent).join('/')
