import type { Edit, Fix } from '../plan/edit.ts'
import { type Budget, budgets } from '../wiring/budget.ts'
import type { Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { sourceChoices } from '../wiring/supply.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

/** Share of the limit above which there is no reserve left for what the figures leave out. */
const NEAR = 0.8

export const supplyBudget: Rule = {
  meta: {
    id: 'supply-budget',
    severities: ['fault', 'caution'],
    about:
      'What a source must give, through regulators and boards behind it, against what it can: a fault when the usual current is over the limit, a caution when peaks are, or above 80 %.',
    fixable: true,
  },
  check(wiring, report) {
    for (const budget of budgets(wiring)) {
      const limit = budget.source.limitMilliamps
      if (limit === undefined || limit === 0 || budget.peakMilliamps === 0) continue
      const over = budget.typicalMilliamps > limit
      const peaks = budget.peakMilliamps > limit
      const near = budget.typicalMilliamps > limit * NEAR
      if (!over && !peaks && !near) continue
      const [typical, peak] = [Math.round(budget.typicalMilliamps), Math.round(budget.peakMilliamps)]
      const worst = [...budget.items].sort((a, b) => b.peakMilliamps - a.peakMilliamps)
      const shown = worst.slice(0, 4).map((one) => `${one.title} ${Math.round(one.peakMilliamps)} mA`)
      report({
        severity: over ? 'fault' : 'caution',
        at: [budget.source.end],
        message: over
          ? `${budget.source.end} has to give ${typical} mA as a rule, and gives ${limit} mA at most.`
          : peaks
            ? `${budget.source.end} has to give ${peak} mA at peaks, and gives ${limit} mA at most.`
            : `${budget.source.end} has to give ${typical} of its ${limit} mA as a rule.`,
        why: `${budget.source.why[0]?.toUpperCase()}${budget.source.why.slice(1)}. At peaks: ${listWords(shown)}${worst.length > 4 ? ' and smaller ones' : ''}. ${over || peaks ? 'When a source is asked for more, its voltage falls and the board starts anew, or a regulator grows hot and switches off.' : 'Keep a fifth in reserve for what datasheets leave out.'}`,
        numbers: { typicalMilliamps: typical, peakMilliamps: peak, limitMilliamps: limit },
        propose: () => relieve(wiring, budget, limit),
      })
    }
  },
}

/** Feeds the heaviest parts from elsewhere, as many as it takes to bring the peaks under the limit. */
function relieve(wiring: Wiring, budget: Budget, limit: number): Fix[] {
  const edits: Edit[] = []
  const moved: string[] = []
  let left = budget.peakMilliamps
  for (const { part, peakMilliamps } of [...budget.items].sort((a, b) => b.peakMilliamps - a.peakMilliamps)) {
    if (left <= limit) break
    if (!part) continue
    const others = part.supplies.flatMap((use) => sourceChoices(wiring, part, use))
    const [fix] = resupply(wiring, part, (source) => others.includes(source), { sameVolts: true })
    if (!fix) continue
    edits.push(...fix.edits)
    moved.push(
      `${part.ref} from ${fix.edits.map((edit) => (edit.do === 'connect' ? edit.to : '')).find((to) => to !== '')}`,
    )
    left -= peakMilliamps
  }
  return edits.length === 0 ? [] : [{ title: `Feed ${listWords(moved)}`, edits }]
}
