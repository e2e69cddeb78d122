import type { Catalog } from '../catalog/catalog.ts'
import { catalogFor } from '../plan/carried.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Report } from './finding.ts'
import { reportsOf, sorted } from './index.ts'

export interface Checked {
  readonly wiring: Wiring
  /** Findings in order, accepted ones marked. */
  readonly reports: readonly Report[]
  /** The same in the order of the rules, unmarked. */
  readonly found: readonly Report[]
}

/**
 * Wiring and findings of a plan, taking over from the plan before it what the change did not touch: a change of title,
 * notes or acceptances leaves wiring and rules as they are. Any other change is worked out from scratch, which takes a
 * few milliseconds (see docs/performance.md). Always the same as from scratch.
 */
export function recheck(before: Checked | undefined, plan: Plan, catalog: Catalog): Checked {
  if (before && before.wiring.catalog === catalogFor(plan, catalog) && sameWiring(before.wiring.plan, plan))
    return { wiring: { ...before.wiring, plan }, reports: sorted(before.found, plan), found: before.found }
  const wiring = resolve(plan, catalog)
  const found = reportsOf(wiring)
  return { wiring, reports: sorted(found, plan), found }
}

const sameWiring = (a: Plan, b: Plan): boolean =>
  a.boards === b.boards &&
  a.supplies === b.supplies &&
  a.parts === b.parts &&
  a.wires === b.wires &&
  a.unused === b.unused &&
  a.own === b.own
