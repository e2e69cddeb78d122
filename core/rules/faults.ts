import { findingKey } from '../plan/findingKey.ts'
import type { Finding } from './finding.ts'

/** Faults by what they speak of, accepted ones too. */
export const faultsIn = (findings: readonly Finding[]): ReadonlyMap<string, Finding> =>
  new Map(findings.flatMap((one) => (one.severity === 'fault' ? [[findingKey(one), one] as const] : [])))

/** Faults that were not there before an edit: by them what a fix, a move or a new part does harm is known. */
export const newFaults = (before: ReadonlyMap<string, unknown>, after: readonly Finding[]): Finding[] =>
  [...faultsIn(after)].flatMap(([key, one]) => (before.has(key) ? [] : [one]))
