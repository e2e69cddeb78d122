import type { Catalog } from '../catalog/catalog.ts'
import { applyEdits, type Edit, EditError, type Fix } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { check, count } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'
import { fixesFor } from './fixes.ts'

export interface AllFixed {
  readonly edits: readonly Edit[]
  /** What was mended and how, in order. */
  readonly steps: readonly { readonly rule: string; readonly message: string; readonly fix: string }[]
}

export type Step = AllFixed['steps'][number] & { readonly edits: readonly Edit[] }

/**
 * Takes the first safe fix of each fault and caution, worst first, until none is left. Safe is what keeps everything:
 * no part, feature or choice is given up, and every wire that is taken off goes back on elsewhere. Findings without
 * such a fix stay. The same plan gives the same answer.
 */
export function fixAll(plan: Plan, catalog: Catalog): AllFixed {
  const steps: Step[] = []
  const passed = new Set<string>()
  let now = plan
  for (let round = 0; round < 100; round += 1) {
    const wiring = resolve(now, catalog)
    const findings = check(wiring)
    const next = findings.find(
      (one) => one.severity !== 'tip' && one.accepted === undefined && !passed.has(`${one.rule} ${one.at.join(' ')}`),
    )
    if (!next) break
    const fix = fixesFor(wiring, next, findings).find(isSafe)
    if (!fix) {
      passed.add(`${next.rule} ${next.at.join(' ')}`)
      continue
    }
    now = applyEdits(now, fix.edits)
    steps.push({ rule: next.rule, message: next.message, fix: fix.title, edits: fix.edits })
  }
  const needed = withoutIdle(plan, catalog, steps)
  return {
    edits: needed.flatMap((step) => step.edits),
    steps: needed.map(({ edits: _, ...step }) => step),
  }
}

/** Steps that add a part and after which, with all the others, nothing is worse, are left out: nobody needs the part. */
export function withoutIdle(plan: Plan, catalog: Catalog, steps: readonly Step[]): readonly Step[] {
  const open = (some: readonly Step[]): number | undefined => {
    try {
      const after = applyEdits(
        plan,
        some.flatMap(({ edits }) => edits),
      )
      const { fault, caution } = count(check(resolve(after, catalog)))
      return fault * 1000 + caution
    } catch (error) {
      // A later step needs what this one brought.
      if (error instanceof EditError) return undefined
      throw error
    }
  }
  const least = open(steps)
  return steps.reduceRight<readonly Step[]>((kept, step) => {
    if (!step.edits.some((edit) => edit.do === 'add-part')) return kept
    const rest = kept.filter((one) => one !== step)
    const left = open(rest)
    return left !== undefined && least !== undefined && left <= least ? rest : kept
  }, steps)
}

/** True for a fix that gives nothing up. */
export function isSafe(fix: Fix): boolean {
  const joined = new Set(fix.edits.flatMap((edit) => (edit.do === 'connect' ? [edit.from, edit.to] : [])))
  return fix.edits.every((edit) => {
    if (edit.do === 'disconnect') return joined.has(edit.from) || joined.has(edit.to)
    return ['connect', 'add-part', 'use-again'].includes(edit.do) || (edit.do === 'change-part' && !edit.entry.mode)
  })
}
