import type { Bench, BringUp, Plan, Rehearsal } from './planSchema.ts'

/** Sections of a plan that are left out where they say nothing. */

export const benchOf = (plan: Plan): Bench => plan.bench ?? { breadboards: {}, places: {}, done: [] }

/** Settings that say nothing are left out. */
export function withSettings(plan: Plan, change: NonNullable<Plan['settings']>): Plan {
  const { settings = {}, ...rest } = plan
  const filled = Object.entries({ ...settings, ...change }).filter(([, value]) => value !== undefined)
  return filled.length === 0 ? rest : { ...rest, settings: Object.fromEntries(filled) }
}

export function withNames(plan: Plan, names: NonNullable<Plan['names']>): Plan {
  const { names: _, ...rest } = plan
  return Object.keys(names).length === 0 ? rest : { ...rest, names }
}

/** A plan of which nothing was proved is planned, which goes without saying. */
export function withBringUp(plan: Plan, { done, stage }: BringUp): Plan {
  const { bringup: _, ...rest } = plan
  if (Object.keys(done).length === 0 && (stage === undefined || stage === 'planned')) return rest
  return { ...rest, bringup: { done, ...(stage === undefined ? {} : { stage }) } }
}

/** A bench that says nothing is left out. */
export function withBench(plan: Plan, { via = {}, ...others }: Bench): Plan {
  const { bench: _, ...rest } = plan
  const bench: Bench = Object.keys(via).length === 0 ? others : { ...others, via }
  const empty =
    Object.keys(bench.breadboards).length === 0 &&
    Object.keys(bench.places).length === 0 &&
    bench.done.length === 0 &&
    bench.via === undefined &&
    bench.spareRows === undefined
  return empty ? rest : { ...rest, bench }
}

export function withRehearsal(plan: Plan, change: Rehearsal): Plan {
  const { rehearsal, ...rest } = plan
  const filled = Object.entries({ ...rehearsal, ...change }).filter(
    ([, value]) => value !== undefined && (typeof value !== 'object' || Object.keys(value).length > 0),
  )
  return filled.length === 0 ? rest : { ...rest, rehearsal: Object.fromEntries(filled) }
}

export function withComments(plan: Plan, comments: NonNullable<Plan['comments']>): Plan {
  const { comments: _, ...rest } = plan
  return Object.keys(comments).length === 0 ? rest : { ...rest, comments }
}
