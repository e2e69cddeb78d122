import type { Added } from '../assign/added.ts'
import type { AssignResult } from '../assign/assign.ts'
import { assignChoosing } from '../assign/choosing.ts'
import { suggestBreadboards } from '../breadboard/suggest.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { waysOut } from './waysOut.ts'

/** A kit wired and given breadboards, with an honest account of it. */
export interface Paper {
  readonly edits: readonly Edit[]
  /** Wires that were placed. */
  readonly wires: number
  /** Parts that the kit did not have. */
  readonly added: readonly Added[]
  /** Sources of the kit that feed nothing, with the reason. */
  readonly left: AssignResult['left']
  /** Modes and addresses taken other than usual. */
  readonly choices: AssignResult['choices']
  /** Breadboards that were laid out, as `full` or `half`; none where the plan has its own. */
  readonly breadboards: readonly string[]
  /** What found no place, with the reasons. */
  readonly unplaced: readonly { readonly end: string; readonly why: string }[]
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
  const { edits, result } = helped(resolve(plan, catalog), assignChoosing(resolve(plan, catalog), { shouldStop }))
  const wired = applyEdits(plan, edits)
  const hasBench = Object.keys(plan.bench?.breadboards ?? {}).length > 0
  const bench = hasBench ? [] : suggestBreadboards(wired, catalog, tell)
  return {
    edits: [...edits, ...bench],
    wires: edits.filter((edit) => edit.do === 'connect').length,
    added: addedBy(edits, result.added, catalog),
    left: result.left,
    choices: result.choices,
    breadboards: bench.flatMap((edit) => (edit.do === 'set-breadboard' && edit.entry ? [edit.entry.kind] : [])),
    unplaced: result.unplaced.map(({ end, reasons }) => ({ end, why: reasons[0] ?? 'no pin suits' })),
  }
}

/**
 * An answer in which lines found no pin for their level alone is helped by the first way out that only adds resistors, as
 * anybody at a table would: two of them divide a line. Whatever costs more is left to the maker.
 */
function helped(
  wiring: Wiring,
  result: AssignResult,
): { readonly edits: readonly Edit[]; readonly result: Pick<AssignResult, 'added' | 'left' | 'choices' | 'unplaced'> } {
  if (!result.unplaced.some(({ level }) => level)) return { edits: result.edits, result }
  const isSmall = (edit: Edit): boolean =>
    edit.do === 'connect' ||
    edit.do === 'disconnect' ||
    (edit.do === 'add-part' && wiring.catalog.parts.get(edit.entry.part)?.helper === 'resistor')
  const way = waysOut(wiring, result, undefined).find(({ edits }) => edits.every(isSmall))
  if (!way) return { edits: result.edits, result }
  const after = assignChoosing(resolve(applyEdits(wiring.plan, way.edits), wiring.catalog))
  return {
    edits: [...way.edits, ...after.edits],
    result: {
      added: [...result.added, ...after.added],
      left: after.left,
      choices: after.choices,
      unplaced: after.unplaced,
    },
  }
}

/** Every part that edits add, each with the reason that is known for it, and those to be bought that get another value. */
function addedBy(edits: readonly Edit[], known: readonly Added[], catalog: Catalog): Added[] {
  return edits.flatMap((edit): Added[] => {
    if (edit.do === 'change-part') return known.filter(({ ref }) => ref === edit.ref)
    const facts = edit.do === 'add-part' ? catalog.parts.get(edit.entry.part) : undefined
    if (edit.do !== 'add-part' || !facts) return []
    const same = known.find(({ ref, part }) => ref === edit.ref && part === facts.id)
    const { ohms } = edit.entry.options ?? {}
    const what = typeof ohms === 'number' ? `${facts.title} ${formatQuantity(ohms, 'Ω')}` : facts.title
    return [same ?? { ref: edit.ref, part: facts.id, what, why: 'half of a divider for a line of too many volts' }]
  })
}
