import { expose } from 'comlink'
import { type AssignResult, assign } from '../../core/assign/assign.ts'
import { type Catalog, makeCatalog } from '../../core/catalog/catalog.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import { type Mended, mendAll } from '../../core/rules/mendAll.ts'
import { resolve } from '../../core/wiring/resolve.ts'

let catalog: Catalog = makeCatalog([], [])

const searcher = {
  load(given: Catalog): void {
    catalog = given
  },
  assign(plan: Plan, refs: readonly string[] | undefined, tell: (tried: number) => void): AssignResult {
    return assign(resolve(plan, catalog), {
      refs: refs && new Set(refs),
      shouldStop: (tried) => {
        if (tried % 50 === 0) tell(tried)
        return false
      },
    })
  },
  mendAll(plan: Plan): Mended {
    return mendAll(plan, catalog)
  },
}

export type Searcher = typeof searcher
expose(searcher)
