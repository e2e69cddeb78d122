import { entryOf } from '../base/entryOf.ts'
import type { Part } from '../catalog/partSchema.ts'
import { formatOptionAmount } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Decision } from './progress.ts'

/** A part that was added, with its value where it has one, and what for. */
export interface Added {
  readonly ref: string
  /** Id in the catalogue. */
  readonly part: string
  /** `Resistor 4.7 kΩ`. */
  readonly what: string
  readonly why: string
}

/** Values that were left open and came out of the answer: the rating of a fuse. */
export const valuesSet = (wiring: Wiring, decisions: readonly Decision[]): { ref: string; title: string }[] =>
  decisions.flatMap(({ edits }) =>
    edits.flatMap((edit) => {
      const before = edit.do === 'change-part' ? entryOf(wiring.plan.parts, edit.ref) : undefined
      if (edit.do !== 'change-part' || !before || before.buy) return []
      const facts = wiring.catalog.parts.get(before.part)
      return amountsIn(facts, edit.entry.options ?? {}).map((title) => ({ ref: edit.ref, title }))
    }),
  )

/** Options that are amounts, in words such as `4.7 kΩ`. */
const amountsIn = (facts: Part | undefined, options: Readonly<Record<string, unknown>>): string[] =>
  (facts?.options ?? []).flatMap((option) => {
    const value = entryOf(options, option.id)
    return typeof value === 'number' && option.kind === 'amount' ? [formatOptionAmount(value, option.unit)] : []
  })

/** Parts that decisions add, and those to be bought that get another value. */
export function addedBy(wiring: Wiring, decisions: readonly Decision[]): Added[] {
  return decisions.flatMap(({ edits, why }) =>
    edits.flatMap((edit): Added[] => {
      if (edit.do !== 'add-part' && edit.do !== 'change-part') return []
      const before = entryOf(wiring.plan.parts, edit.ref)
      const facts = wiring.catalog.parts.get(edit.entry.part ?? before?.part ?? '')
      if (!facts || (before && !before.buy)) return []
      const values = amountsIn(facts, edit.entry.options ?? {})
      return [{ ref: edit.ref, part: facts.id, what: [facts.title, ...values].join(' '), why }]
    }),
  )
}
