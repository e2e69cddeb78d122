import type { Catalog } from '../catalog/catalog.ts'
import { catalogFor } from '../plan/carried.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { touchedBy } from '../wiring/touched.ts'
import type { Finding, Rule } from './finding.ts'
import { findingsOf, inPlace, rules, sorted } from './index.ts'

export interface Checked {
  readonly wiring: Wiring
  /** Findings in order, accepted ones marked. */
  readonly findings: readonly Finding[]
  /** The same rule by rule, unmarked. */
  readonly found: ReadonlyMap<Rule, readonly Finding[]>
}

/**
 * Wiring and findings of a plan, taking over from the plan before it what the change did not touch. A change of title,
 * notes or acceptances leaves wiring and rules as they are. After any other change the rules that say `local` look at
 * what it touched only, and the others at everything. Always the same as from scratch.
 */
export function recheck(before: Checked | undefined, plan: Plan, catalog: Catalog): Checked {
  if (before && before.wiring.catalog === catalogFor(plan, catalog) && sameWiring(before.wiring.plan, plan))
    return {
      wiring: { ...before.wiring, plan },
      findings: sorted([...before.found.values()].flat(), plan),
      found: before.found,
    }
  const wiring = resolve(plan, catalog)
  if (!before) return checked(wiring)
  const touched = touchedBy(before.wiring, wiring)
  const found = new Map(
    rules.map((rule) => {
      const known = before.found.get(rule)
      if (!touched || !known || !rule.meta.local) return [rule, findingsOf(wiring, rule)]
      const kept = known.filter((one) => !touched.concerns(one.at))
      const anew = findingsOf(touched.narrow, rule).filter((one) => touched.concerns(one.at))
      return [rule, anew.length === 0 ? kept : inPlace([...kept, ...anew], wiring)]
    }),
  )
  return { wiring, findings: sorted([...found.values()].flat(), plan), found }
}

/** A wiring with its findings, worked out from scratch. */
export function checked(wiring: Wiring): Checked {
  const found = new Map(rules.map((rule) => [rule, findingsOf(wiring, rule)]))
  return { wiring, findings: sorted([...found.values()].flat(), wiring.plan), found }
}

/** Nothing differs that wiring and findings depend on; sections are compared by identity. */
export const sameWiring = (a: Plan, b: Plan): boolean =>
  a.boards === b.boards &&
  a.supplies === b.supplies &&
  a.parts === b.parts &&
  a.wires === b.wires &&
  a.unused === b.unused &&
  a.aside === b.aside &&
  a.own === b.own
