import { type Path, parseYaml } from '../base/yamlSource.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { catalogFor } from '../plan/carried.ts'
import { canonicalEnd } from '../plan/ends.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Finding } from './finding.ts'

/** Line and column in the text of a plan, both from 1. */
export interface Place {
  readonly line: number
  readonly column: number
}

/**
 * Where findings stand in the text of their plan: at the wire that joins most of the ends they are about, else at the
 * part, board or supply; a finding about none of these at the start.
 */
export function placesIn(text: string, plan: Plan, base: Catalog): (finding: Pick<Finding, 'at'>) => Place {
  const parsed = parseYaml(text, 'the plan')
  const catalog = catalogFor(plan, base)
  const canonical = (end: string): string => {
    const result = canonicalEnd(plan, catalog, end)
    return result.ok ? result.end : end
  }
  const wires = plan.wires.map((wire) => [wire[0], wire[1]].map(canonical))
  const start: Place = { line: 1, column: 1 }
  const at = (path: Path): Place => {
    if (!parsed.ok) return start
    const { line = 1, column = 1 } = parsed.value.problemAt(path, '')
    return { line, column }
  }
  return (finding) => {
    const about = new Set(finding.at)
    let best = -1
    let most = 0
    wires.forEach((ends, index) => {
      // An end that is named counts for more than the part that it belongs to.
      const shared = ends.reduce(
        (sum, end) => sum + (about.has(end) ? 2 : about.has(end.split('.')[0] as string) ? 1 : 0),
        0,
      )
      if (shared > most && ends.some((end) => about.has(end))) [best, most] = [index, shared]
    })
    if (best >= 0) return at(['wires', best])
    for (const one of finding.at) {
      const ref = one.split('.')[0] as string
      for (const group of ['parts', 'boards', 'supplies'] as const)
        if (Object.hasOwn(plan[group], ref)) return at([group, ref])
    }
    return start
  }
}
