import { openEnds } from '../assign/openEnds.ts'
import type { Plan, Stage } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Severity } from './finding.ts'
import { type Counts, check, count } from './index.ts'
import { sift } from './waiting.ts'

/** Counts changes of what a summary says; summaries of another version are made anew. */
export const SUMMARY_VERSION = 36

/** The entries of the catalogue that a plan uses. */
export interface UsedEntries {
  /** Ids, one a board. */
  readonly boards: readonly string[]
  /** Ids of its parts' entries, each once. */
  readonly kit: readonly string[]
}

export const usedEntries = (plan: Plan): UsedEntries => ({
  boards: Object.values(plan.boards).map(({ board }) => board),
  kit: [...new Set(Object.values(plan.parts).map(({ part }) => part))],
})

/** What the list of plans shows of one plan. */
export interface PlanSummary extends UsedEntries {
  readonly version: number
  readonly parts: number
  /** Required pins that have their wire, and all that need one. */
  readonly placed: number
  readonly needed: number
  /** How far the build is, once something of it was proven. */
  readonly stage?: Stage
  readonly counts: Counts
  readonly worst: { readonly severity: Severity; readonly message: string } | null
}

export function summarise(wiring: Wiring): PlanSummary {
  const { standing: reports } = sift(wiring, check(wiring))
  // A tip stands in nobody's way.
  const worst = reports.find((report) => report.accepted === undefined && report.severity !== 'tip')
  const { placed, needed } = progress(wiring)
  const { boards, kit } = usedEntries(wiring.plan)
  const stage = wiring.plan.bringup?.stage
  return {
    version: SUMMARY_VERSION,
    boards,
    parts: wiring.parts.length,
    kit,
    placed,
    needed,
    ...(stage === undefined ? {} : { stage }),
    counts: count(reports),
    worst: worst ? { severity: worst.severity, message: worst.message } : null,
  }
}

/** How many of the signals that need a wire have one. */
export function progress(wiring: Wiring): { placed: number; needed: number } {
  const needed = wiring.signals.filter(
    (use) => use.state !== 'unused' && (use.facts.required || use.state !== 'open'),
  ).length
  const open = wiring.parts.reduce(
    (sum, part) => sum + openEnds(wiring, part).filter((one) => one.required && one.kind === 'signal').length,
    0,
  )
  return { placed: needed - open, needed }
}
