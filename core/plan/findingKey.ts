/** What a finding or an acceptance of one speaks of. */
interface Spoken {
  readonly rule: string
  readonly at: readonly string[]
}

/** Rule and places, in any order: the same text for the same trouble, before an edit and after it. */
export const findingKey = ({ rule, at }: Spoken): string => `${rule} ${[...new Set(at)].sort().join(' ')}`

/** Acceptance and finding, or two findings, speak of the same thing. */
export const sameFinding = (a: Spoken, b: Spoken): boolean => a.rule === b.rule && findingKey(a) === findingKey(b)
