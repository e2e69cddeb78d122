import { assignChoosing } from '../assign/choosing.ts'
import { kitReader } from '../catalog/kitText.ts'
import { applyEdits } from '../plan/edit.ts'
import { addKit } from '../plan/kit.ts'
import { inContext } from '../plan/kitContext.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { resolve } from '../wiring/resolve.ts'
import { catalog } from './plans.ts'

const read = kitReader([...catalog.boards.values()], [...catalog.parts.values()])

/** The plan of a kit as it is typed, without a wire; throws for words that mean nothing. */
export function planTyped(typed: string): Plan {
  const empty = emptyPlan('kit')
  const items = inContext(read(typed), empty, catalog)
  const unknown = items.filter(({ found }) => found === undefined).map(({ text }) => text)
  if (unknown.length > 0) throw new Error(`${typed}: nothing is known of ${unknown.join(', ')}`)
  return applyEdits(empty, addKit(empty, catalog, items).edits)
}

/** A plan with all that the search makes of it. */
export const wiredUp = (plan: Plan): Plan => applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)
