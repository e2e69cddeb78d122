import type { Catalog } from '../../core/catalog/catalog.ts'
import type { Package } from './packages.ts'

/** What one entry of the catalogue and one other source say of the same pins or addresses, one fact a text. */
export interface Compared {
  readonly entry: string
  readonly ours: ReadonlySet<string>
  readonly theirs: ReadonlySet<string>
}

/** Facts of the catalogue held against an independent, machine-readable source. */
export interface Comparison {
  readonly id: string
  readonly from: Package
  /** What is read in the package, for the table. */
  readonly source: string
  /** What is compared, for the table. */
  readonly facts: string
  /** Small enough to be fetched at every run of the tests. */
  readonly quick: boolean
  /** @throws Error where the package does not hold what it did: a moved file, another form. */
  run(folder: string, catalog: Catalog): readonly Compared[]
}

/** A difference that was looked into: whose fact it is, a pattern for the facts, and why ours stays. */
export interface Answer {
  readonly comparison: string
  readonly entry?: string
  readonly only: 'ours' | 'theirs'
  readonly facts: string
  readonly because: string
}

export interface Outcome {
  readonly entry: string
  /** Facts of either side. */
  readonly count: number
  readonly agreed: number
  readonly answered: readonly { readonly answer: Answer; readonly facts: readonly string[] }[]
  /** Differences that nobody has looked into. */
  readonly open: readonly string[]
}

/** Sorts what differs into what an answer covers and what is open. */
export function judge(comparison: string, compared: Compared, answers: readonly Answer[]): Outcome {
  const { entry, ours, theirs } = compared
  const open: string[] = []
  const answered = new Map<Answer, string[]>()
  const differing = [
    ...[...ours].filter((fact) => !theirs.has(fact)).map((fact) => ({ only: 'ours' as const, fact })),
    ...[...theirs].filter((fact) => !ours.has(fact)).map((fact) => ({ only: 'theirs' as const, fact })),
  ]
  for (const { only, fact } of differing) {
    const answer = answers.find(
      (one) =>
        one.comparison === comparison &&
        one.only === only &&
        (one.entry === undefined || one.entry === entry) &&
        new RegExp(`^(?:${one.facts})$`).test(fact),
    )
    if (answer === undefined) open.push(`${only === 'ours' ? 'only ours' : 'only theirs'}: ${fact}`)
    else answered.set(answer, [...(answered.get(answer) ?? []), fact])
  }
  return {
    entry,
    count: new Set([...ours, ...theirs]).size,
    agreed: [...ours].filter((fact) => theirs.has(fact)).length,
    answered: [...answered].map(([answer, facts]) => ({ answer, facts })),
    open: open.sort(),
  }
}
