import type { EntryKind } from '../catalog/ownEntry.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { PlanSummary } from './summary.ts'

export interface PlanLine {
  readonly id: string
  readonly title: string
  readonly revision: number
  readonly created: string
  readonly changed: string
  /** Null while it is made, or when the plan cannot be read. */
  readonly summary: PlanSummary | null
  /** What whoever asks may do with it; everything where it is left out. */
  readonly role?: 'owner' | 'editor' | 'viewer'
}

export interface PlanPage {
  readonly total: number
  readonly lines: readonly PlanLine[]
}

export interface StoredPlan {
  readonly id: string
  readonly revision: number
  readonly created: string
  readonly changed: string
  readonly plan: Plan
}

export interface SampleLine {
  readonly id: string
  readonly title: string
  readonly notes: string
}

/** An entry of the maker's own; without a revision it is a file in the data folder. */
export interface EntryLine {
  readonly kind: EntryKind
  readonly id: string
  readonly title: string
  readonly revision?: number
  readonly file?: string
}

/** A revision of a plan that is kept, with what changed since the one before it. */
export interface RevisionLine {
  readonly revision: number
  readonly saved: string
  readonly name: string | null
  readonly words: readonly string[]
}

/** A plan that was deleted. */
export interface BinPlan {
  readonly id: string
  readonly title: string
  readonly revision: number
  readonly deleted: string
}

/** What a page may do: with every plan, and with those that are apart. */
export interface WhoAmI {
  readonly signedIn: boolean
  readonly role: 'owner' | 'editor' | 'viewer' | null
  readonly plans: Readonly<Record<string, 'owner' | 'editor' | 'viewer'>>
}

/** How others reach the server, and links to a plan. */
export interface ShareAnswer {
  readonly shared: boolean
  readonly addresses: readonly string[]
  readonly phrases: Readonly<Record<'editor' | 'viewer', string>> | null
  /** What those may do with the plan who come by a phrase. */
  readonly others: 'editor' | 'viewer' | 'none'
  readonly look: readonly string[]
  readonly change: readonly string[]
}
