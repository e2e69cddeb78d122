import { createContext, useContext } from 'react'
import type { Catalog } from '../../core/catalog/catalog.ts'
import { catalogFor } from '../../core/plan/carried.ts'
import { applyEdits, type Edit, EditError } from '../../core/plan/edit.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import { type Checked, recheck } from '../../core/rules/recheck.ts'
import { planActions } from './planSlice.ts'
import { type AppDispatch, useAppDispatch, useAppSelector } from './store.ts'
import { toasted } from './toastSlice.ts'

export const CatalogContext = createContext<Catalog | undefined>(undefined)

/** The catalogue; inside an open plan joined with the entries that the plan carries. */
export function useCatalog(): Catalog {
  const catalog = useContext(CatalogContext)
  const plan = useAppSelector((state) => state.plan.history?.present)
  if (!catalog) throw new Error('useCatalog: no catalogue above this component')
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
  const plan = useAppSelector((state) => state.plan.history?.present)
  if (!plan) throw new Error('usePlan: no plan is open')
  return plan
}

export function useDerived(): Derived {
  return derive(usePlan(), useCatalog())
}

/** Applies edits as one step that can be undone; an edit that does not fit is said and changes nothing. */
export function useEdit(): (edits: readonly Edit[], label: string) => boolean {
  const dispatch = useAppDispatch()
  const plan = usePlan()
  return (edits, label) => tryEdit(dispatch, plan, edits, label)
}

function tryEdit(dispatch: AppDispatch, plan: Plan, edits: readonly Edit[], label: string): boolean {
  try {
    applyEdits(plan, edits)
  } catch (error) {
    if (!(error instanceof EditError)) throw error
    dispatch(toasted({ text: error.message, kind: 'wrong' }))
    return false
  }
  dispatch(planActions.edited({ edits, label }))
  return true
}
