import { readdirSync, readFileSync } from 'node:fs'
import { formatProblem } from '../base/problem.ts'
import type { Plan } from '../plan/planSchema.ts'
import { readPlan } from '../plan/readPlan.ts'
import { catalog } from './plans.ts'

const folder = new URL('../../demo/', import.meta.url)

/** The plans that ship, in order. */
export const samplePlans: readonly { readonly text: string; readonly plan: Plan }[] = readdirSync(folder)
  .filter((name) => name.endsWith('.markpost.yaml'))
  .sort()
  .map((name) => {
    const text = readFileSync(new URL(name, folder), 'utf8')
    const plan = readPlan(text, name, catalog)
    if (!plan.ok) throw new Error(plan.problems.map(formatProblem).join('\n'))
    return { text, plan: plan.value }
  })

export const sample = (title: string): Plan => {
  const found = samplePlans.find(({ plan }) => plan.title === title)
  if (!found) throw new Error(`there is no sample "${title}"`)
  return found.plan
}
