import type { Catalog } from '../../core/catalog/catalog.ts'
import { catalogFor } from '../../core/plan/carried.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import { faultsIn, newFaults } from '../../core/rules/faults.ts'
import type { Finding } from '../../core/rules/finding.ts'
import { check } from '../../core/rules/index.ts'
import { resolve } from '../../core/wiring/resolve.ts'
import { judgedBy } from './desk.ts'

/** What the desk must know of plans. Apart from it, since this brings all rules along and the list of plans needs none. */

/** Tells the desk the catalogue by which a join of two plans is checked. */
export const judgeWith = (catalog: Catalog): void =>
  judgedBy((plan) => new Set(faultsIn(findingsOf(plan, catalog)).keys()))

/** Messages of faults that a plan has and none of the others. */
export function joinFaults(plan: Plan, others: readonly Plan[], catalog: Catalog): string[] {
  const known = new Map(others.flatMap((one) => [...faultsIn(findingsOf(one, catalog))]))
  return newFaults(known, findingsOf(plan, catalog)).map(({ message }) => message)
}

const findingsOf = (plan: Plan, catalog: Catalog): Finding[] => check(resolve(plan, catalogFor(plan, catalog)))
