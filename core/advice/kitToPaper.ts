import type { Added, AssignResult } from '../assign/assign.ts'
import { assignChoosing } from '../assign/choosing.ts'
import { suggestBreadboards } from '../breadboard/suggest.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { check, count } from '../rules/index.ts'
import { sift } from '../rules/waiting.ts'
import { resolve } from '../wiring/resolve.ts'

/** A kit wired and given breadboards, with an honest account of it. */
export interface Paper {
  readonly edits: readonly Edit[]
  /** Wires that were placed. */
  readonly wires: number
  /** Parts that the kit did not have. */
  readonly added: readonly Added[]
  /** Modes and addresses taken other than usual. */
  readonly choices: AssignResult['choices']
  /** Breadboards that were laid out, as `full` or `half`; none where the plan has its own. */
  readonly breadboards: readonly string[]
  /** What found no place, with the reasons. */
  readonly unplaced: readonly { readonly end: string; readonly why: string }[]
  readonly faults: number
  readonly cautions: number
}

/**
 * From the kit to what can be printed: everything open is wired as by {@link assignChoosing}, and a plan without
 * breadboards gets those on which it fits. What cannot be placed stays open and is said.
 */
export function kitToPaper(
  plan: Plan,
  catalog: Catalog,
  shouldStop: (tried: number) => boolean,
  tell: (share: number) => void,
): Paper {
  const result = assignChoosing(resolve(plan, catalog), { shouldStop })
  const wired = applyEdits(plan, result.edits)
  const hasBench = Object.keys(plan.bench?.breadboards ?? {}).length > 0
  const bench = hasBench ? [] : suggestBreadboards(wired, catalog, tell)
  const after = resolve(applyEdits(wired, bench), catalog)
  const { fault, caution } = count(sift(after, check(after)).standing)
  return {
    edits: [...result.edits, ...bench],
    wires: result.placed.length,
    added: result.added,
    choices: result.choices,
    breadboards: bench.flatMap((edit) => (edit.do === 'set-breadboard' && edit.entry ? [edit.entry.kind] : [])),
    unplaced: result.unplaced.map(({ end, reasons }) => ({ end, why: reasons[0] ?? 'no pin suits' })),
    faults: fault,
    cautions: caution,
  }
}
