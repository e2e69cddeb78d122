import type Database from 'better-sqlite3'
import { guarded } from './storeTrouble.ts'

/** What those may do with a plan who are let in, and are not its owner. */
export type OthersMay = 'editor' | 'viewer' | 'none'

export interface PlanRights {
  /** Session that made the plan; null for this machine. */
  readonly owner: string | null
  readonly others: OthersMay
}

/** Rights of single plans, in the database of the plans. A plan without any is this machine's, and others may change it. */
export class Rights {
  readonly #db: Database.Database
  constructor(db: Database.Database) {
    this.#db = db
  }

  of(plan: string): PlanRights | undefined {
    return guarded(() =>
      this.#db.prepare<[string], PlanRights>('SELECT owner, others FROM rights WHERE plan = ?').get(plan),
    )
  }

  /** Rights of all plans that have any. */
  all(): (PlanRights & { readonly plan: string })[] {
    return guarded(() =>
      this.#db.prepare<[], PlanRights & { plan: string }>('SELECT plan, owner, others FROM rights').all(),
    )
  }

  /** True while some plan is hidden from those who are let in. */
  hidesAny(): boolean {
    return guarded(() => this.#db.prepare("SELECT 1 FROM rights WHERE others = 'none' LIMIT 1").get() !== undefined)
  }

  put(plan: string, { owner, others }: PlanRights): void {
    guarded(() => {
      this.#db.prepare('INSERT OR REPLACE INTO rights (plan, owner, others) VALUES (?, ?, ?)').run(plan, owner, others)
    })
  }
}
