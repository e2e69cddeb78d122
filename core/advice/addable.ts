import { assign } from '../assign/assign.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import { check } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'

/** One more part of a kind on the boards as they are wired: what it takes, or why it does not go. */
export interface Addable {
  readonly part: string
  readonly title: string
  readonly category: Part['category']
  /** What stands in the way, in a sentence; undefined when it goes. */
  readonly why: string | undefined
  /** The part with its companions and wires. */
  readonly edits: readonly Edit[]
}

/** Arrangements tried for one part: its own lines only, so few are enough. */
const MOST_TRIED = 300

/**
 * Every part of the catalogue, tried one at a time beside what is there: it goes when all that it requires is wired by
 * the search and no fault is new. Nothing that is wired moves. `each` hears of every part and may stop the rest.
 */
export function addableParts(plan: Plan, catalog: Catalog, each?: (done: number, of: number) => boolean): Addable[] {
  const parts = [...catalog.parts.values()].filter((part) => part.category !== 'passive')
  const faults = faultsIn(check(resolve(plan, catalog)))
  const found: Addable[] = []
  for (const [index, part] of parts.entries()) {
    if (each?.(index, parts.length) === true) break
    const added = addParts(plan, catalog, part, 1)
    const refs = new Set(added.flatMap((edit) => (edit.do === 'add-part' ? [edit.ref] : [])))
    const result = assign(resolve(applyEdits(plan, added), catalog), {
      refs,
      shouldStop: (tried) => tried > MOST_TRIED,
    })
    const edits = [...added, ...result.edits]
    const missing = result.unplaced[0]
    const fault = missing ? undefined : newFaults(faults, check(resolve(applyEdits(plan, edits), catalog)))[0]?.message
    found.push({
      part: part.id,
      title: part.title,
      category: part.category,
      why: missing ? `${missing.end} needs ${missing.needs}: ${missing.reasons[0] ?? 'no pin is left'}` : fault,
      edits,
    })
  }
  return found
}
