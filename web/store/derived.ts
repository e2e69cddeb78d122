import type { Catalog } from '../../core/catalog/catalog.ts'
import { catalogFor } from '../../core/plan/carried.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import { type Checked, recheck } from '../../core/rules/recheck.ts'
import { useBaseCatalog } from './catalog.ts'
import { useAppSelector } from './store.ts'

/** The catalogue; inside an open plan joined with the entries that the plan carries. */
export function useCatalog(): Catalog {
  const catalog = useBaseCatalog()
  const plan = useAppSelector((state) => state.plan.pen?.history.present)
  return plan ? catalogFor(plan, catalog) : catalog
}

export type Derived = Pick<Checked, 'wiring' | 'findings'>

const derived = new WeakMap<Plan, Checked>()
let latest: Checked | undefined

/** Wiring and findings of a plan, worked out once for each plan and from the one before it where that is enough. */
export function derive(plan: Plan, catalog: Catalog): Derived {
  const known = derived.get(plan)
  if (known) return known
  latest = recheck(latest, plan, catalog)
  derived.set(plan, latest)
  return latest
}

/** The open plan. Only for components inside {@link PlanFrame}, which waits for it. */
export function usePlan(): Plan {
  const plan = useAppSelector((state) => state.plan.pen?.history.present)
  if (!plan) throw new Error('usePlan: no plan is open')
  return plan
}

export function useDerived(): Derived {
  return derive(usePlan(), useCatalog())
}
