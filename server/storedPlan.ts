import type { PlanLine } from '../core/rules/answers.ts'
import { type PlanSummary, SUMMARY_VERSION, type UsedEntries } from '../core/rules/summary.ts'

export interface StoredPlan {
  readonly id: string
  readonly title: string
  readonly text: string
  /** Counts saves, from 1. */
  readonly revision: number
  readonly created: string
  readonly changed: string
  /** Token of the save that made this revision; null for one that gave none. */
  readonly savedBy: string | null
}

/** What is written of a plan. */
export interface PlanContent {
  readonly title: string
  readonly text: string
  /** Stands in place of the summary until that is made. */
  readonly uses: UsedEntries
  readonly sought: string
  readonly savedBy?: string | undefined
}

export type SaveResult =
  | { readonly ok: true; readonly plan: StoredPlan }
  | { readonly ok: false; readonly current: StoredPlan | undefined }
export interface ListRequest {
  readonly offset: number
  readonly limit: number
  readonly sort: 'changed' | 'title'
  /** Words that must all stand in title or boards; already folded. */
  readonly words: readonly string[]
}

/** A revision of a plan that is kept. */
export interface StoredRevision {
  readonly revision: number
  readonly saved: string
  readonly title: string
  /** The maker's own name for it. */
  readonly name: string | null
  /** What changed since the one before it; null until it was asked for. */
  readonly words: readonly string[] | null
}

/** A plan in the bin. */
export interface BinLine {
  readonly id: string
  readonly title: string
  readonly revision: number
  readonly deleted: string
}

export type LineRow = Omit<PlanLine, 'summary'> & { readonly summary: string }

/** Stands where a summary would be for a plan that this program cannot read, so that it is not tried at each start. */
export const UNREADABLE = JSON.stringify({ unreadable: SUMMARY_VERSION })
export function summaryOf(text: string): PlanSummary | null {
  try {
    const summary = JSON.parse(text) as Partial<PlanSummary>
    return summary.version === undefined ? null : (summary as PlanSummary)
  } catch {
    return null
  }
}
