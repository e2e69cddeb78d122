import { readdirSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { formatProblem } from '../core/base/problem.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { readPlan } from '../core/plan/readPlan.ts'

/** A plan that ships with the application; it is opened as a copy. */
export interface Sample {
  readonly id: string
  readonly title: string
  readonly notes: string
  readonly text: string
}

export function readSamples(folder: string, catalog: Catalog): Sample[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith('.markpost.yaml'))
    .sort()
    .map((name) => {
      const file = join(folder, name)
      const text = readFileSync(file, 'utf8')
      const plan = readPlan(text, file, catalog)
      if (!plan.ok) throw new Error(`a sample is broken:\n${plan.problems.map(formatProblem).join('\n')}`)
      return {
        id: basename(name, '.markpost.yaml').replace(/^\d+-/, ''),
        title: plan.value.title,
        notes: plan.value.notes ?? '',
        text,
      }
    })
}
