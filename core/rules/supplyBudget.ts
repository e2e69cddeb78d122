import { type Budget, budgets } from '../circuit/budget.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { comesThrough, sourceChoices } from '../wiring/supply.ts'
import type { Report, Rule } from './finding.ts'
import { listWords } from './shared.ts'

/** Share of the limit above which there is no reserve left for what the figures leave out. */
const NEAR = 0.8

export const supplyBudget: Rule = {
  meta: {
    id: 'supply-budget',
    severities: ['fault', 'caution'],
    about:
      'What a source must give, through regulators and boards behind it, against what it can: a fault when the usual current is over the limit, a caution when peaks are, or above 80 %.',
    messages: {
      over: '{source} has to give {typical} mA as a rule, and gives {limit} mA at most.',
      overPeaks: '{source} has to give {peak} mA at peaks, and gives {limit} mA at most.',
      near: '{source} has to give {typical} of its {limit} mA as a rule.',
      together: '{part} has to give {milliamps} mA {when} on its rails together, and gives {together} mA at most.',
      takesMore: '{part} would have to take {takes} mA from {fed}, and takes {mostIn} mA at most.',
    },
    limits: ['over', 'near', 'overPeaks', 'together', 'takesMore'],
    fixable: true,
  },
  check(wiring, report) {
    const all = budgets(wiring)
    for (const part of wiring.parts) ofGivers(part, all, wiring, report)
    for (const budget of all) {
      const limit = budget.source.limitMilliamps
      if (limit === undefined) continue
      const how = excess(budget)
      if (how === 0 || behind(wiring, budget, all).some((one) => excess(one) >= how)) continue
      const [over, peaks] = [how === 3, how >= 2]
      const [typical, peak] = [Math.round(budget.typicalMilliamps), Math.round(budget.peakMilliamps)]
      const worst = [...budget.items].sort((a, b) => b.peakMilliamps - a.peakMilliamps)
      const shown = worst.slice(0, 4).map((one) => `${one.title} ${Math.round(one.peakMilliamps)} mA`)
      report({
        severity: over ? 'fault' : 'caution',
        at: [budget.source.end],
        message: over ? 'over' : peaks ? 'overPeaks' : 'near',
        data: { source: budget.source.end, typical, limit, peak },
        why: `${budget.source.why[0]?.toUpperCase()}${budget.source.why.slice(1)}. At peaks: ${listWords(shown)}${worst.length > 4 ? ' and smaller ones' : ''}. ${over || peaks ? 'When a source is asked for more, its voltage falls and the board starts anew, or a regulator grows hot and switches off.' : 'Keep a fifth in reserve for what datasheets leave out.'}`,
        numbers: { typicalMilliamps: typical, peakMilliamps: peak, limitMilliamps: limit },
        propose: () => relieve(wiring, budget, limit),
      })
    }
  },
}

/** How much too much it is: 3 as a rule, 2 at peaks, 1 near the limit, 0 nothing that is to be said. */
function excess({ source, typicalMilliamps, peakMilliamps }: Budget): number {
  const limit = source.limitMilliamps
  if (limit === undefined || limit === 0 || peakMilliamps === 0) return 0
  if (typicalMilliamps > limit) return 3
  if (peakMilliamps > limit) return 2
  return typicalMilliamps > limit * NEAR ? 1 : 0
}

/** Rails of the same board that come through this one: what is said of them is not said again. */
const behind = (wiring: Wiring, { source }: Budget, all: readonly Budget[]): Budget[] =>
  all.filter((one) => comesThrough(wiring, one.source)?.source.end === source.end)

/** What holds for all rails of a part together, and for what its converter takes in. */
function ofGivers(part: PartInstance, all: readonly Budget[], wiring: Wiring, report: (report: Report) => void): void {
  const together = part.part.railsTogether
  const own = all.filter((one) => one.source.ref === part.ref)
  const peak = own.reduce((sum, one) => sum + one.peakMilliamps, 0)
  const typical = own.reduce((sum, one) => sum + one.typicalMilliamps, 0)
  if (together !== undefined && peak > together) {
    const isUsual = typical > together
    report({
      severity: isUsual ? 'fault' : 'caution',
      at: [part.ref, ...own.map((one) => one.source.end)],
      message: 'together',
      data: {
        part: part.ref,
        milliamps: Math.round(isUsual ? typical : peak),
        when: isUsual ? 'as a rule' : 'at peaks',
        together,
      },
      why: 'The rails share one regulator and one socket: what one of them gives, the other cannot.',
      numbers: { typicalMilliamps: Math.round(typical), peakMilliamps: Math.round(peak), limitMilliamps: together },
    })
  }
  for (const rail of part.part.rails) {
    const given = own.find((one) => one.source.end === `${part.ref}.${rail.pin}`)
    const fed = rail.from === undefined ? undefined : wiring.netOf(`${part.ref}.${rail.from}`).sources[0]
    if (rail.mostIn === undefined || !given || !fed || rail.efficiency === 'linear') continue
    const takes = (given.typicalMilliamps * given.source.volts) / fed.volts / rail.efficiency
    if (takes <= rail.mostIn) continue
    report({
      severity: 'fault',
      at: [part.ref, given.source.end, fed.end],
      message: 'takesMore',
      data: { part: part.ref, takes: Math.round(takes), fed: fed.end, mostIn: rail.mostIn },
      why: `A converter gives out the power that it takes in, less its loss: ${Math.round(given.typicalMilliamps)} mA at ${given.source.volts} V are ${Math.round(takes)} mA at ${fed.volts} V.`,
      numbers: { takesMilliamps: Math.round(takes), mostMilliamps: rail.mostIn },
    })
  }
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
