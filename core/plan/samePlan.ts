import type { Plan } from './planSchema.ts'

/**
 * A text that two plans share exactly when they say the same: keys in any order, and what is empty is left out, as it
 * is when a plan is written. The order of wires, of breadboards and of every other list counts; the reason for which a piece is set
 * aside does not, since each reading words it anew.
 */
export function planFingerprint(plan: Plan): string {
  const { aside, ...rest } = plan
  const fromTheLeft = Object.keys(plan.bench?.breadboards ?? {})
  return JSON.stringify([bare(rest), fromTheLeft, aside?.map(({ at, value }) => bare({ at, value })) ?? []])
}

export const samePlan = (a: Plan, b: Plan): boolean => a === b || planFingerprint(a) === planFingerprint(b)

function bare(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(bare)
  if (typeof value !== 'object' || value === null) return value
  const entries = Object.entries(value)
    .map(([key, one]) => [key, bare(one)] as const)
    .filter(([, one]) => !isEmpty(one))
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
  return Object.fromEntries(entries)
}

const isEmpty = (value: unknown): boolean =>
  value === undefined ||
  value === '' ||
  (typeof value === 'object' && value !== null && Object.keys(value).length === 0)
