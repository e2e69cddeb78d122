import { randomUUID } from 'node:crypto'
import { deflateRawSync, inflateRawSync } from 'node:zlib'
import type Database from 'better-sqlite3'
import type { EntryKind } from '../core/catalog/ownEntry.ts'
import type { PlanLine } from '../core/rules/answers.ts'
import { type PlanSummary, SUMMARY_VERSION } from '../core/rules/summary.ts'
import { EntryStore } from './entryStore.ts'
import { openDatabase } from './openDatabase.ts'
import { Rights } from './rights.ts'
import {
  type BinLine,
  type LineRow,
  type ListRequest,
  type PlanContent,
  type SaveResult,
  type StoredPlan,
  type StoredRevision,
  summaryOf,
  UNREADABLE,
} from './storedPlan.ts'
import { guarded, written, writtenLightly } from './storeTrouble.ts'
import { thinned } from './thinning.ts'

/** Saves between two times at which old revisions are let go, and days that a plan stays in the bin. */
const THIN_EACH = 20
export const BIN_DAYS = 90

const PLAN = 'id, title, text, revision, created, changed, saved_by AS savedBy'

const LINE = 'id, title, revision, created, changed, summary'

const ORDER = { changed: 'changed DESC, id', title: 'title COLLATE NOCASE, id' } as const

/**
 * Plans and entries in SQLite: plain SQL, write-ahead log, one transaction a write, on disk before it is answered.
 * Calls never wait for a lock that somebody else holds; {@link patiently} tries again without holding up others.
 * Every failure of the data folder comes out as a `StoreTrouble`.
 */
export class PlanStore {
  readonly #db: Database.Database
  readonly #now: () => string
  /** Who may do what with single plans. */
  readonly rights: Rights
  /** Boards and parts of the maker's own. */
  readonly shelf: EntryStore

  /**
   * Opens or makes `markpost.db` in a folder; `:memory:` keeps everything in memory. Throws {@link DataFolderError}
   * where plans were before and their database is gone, unless `fresh` says to begin anew.
   */
  constructor(
    folder: string,
    migrations: string,
    { now = () => new Date().toISOString(), fresh = false }: { now?: () => string; fresh?: boolean } = {},
  ) {
    this.#now = now
    this.#db = openDatabase(folder, migrations, { now, fresh })
    this.rights = new Rights(this.#db)
    this.shelf = new EntryStore(this.#db, now)
  }

  /** One page of the list. A row that cannot be read is left out; see {@link damaged}. */
  list({ offset, limit, sort, words }: ListRequest): { total: number; lines: PlanLine[] } {
    const where = words.length === 0 ? '' : `WHERE ${words.map(() => 'instr(sought, ?) > 0').join(' AND ')}`
    return guarded(() => {
      const { total } = this.#db
        .prepare<string[], { total: number }>(`SELECT count(*) AS total FROM plans INDEXED BY plans_by_change ${where}`)
        .get(...words) ?? { total: 0 }
      const rows = this.#db
        .prepare<(string | number)[], LineRow>(
          `SELECT ${LINE} FROM plans WHERE id IN (SELECT id FROM plans ${where} ORDER BY ${ORDER[sort]} LIMIT ? OFFSET ?)
             ORDER BY ${ORDER[sort]}`,
        )
        .all(...words, limit, offset)
      return { total, lines: rows.map((row) => ({ ...row, summary: summaryOf(row.summary) })) }
    })
  }

  /** Every plan, by title. */
  all(): StoredPlan[] {
    return guarded(() =>
      this.#db.prepare<[], StoredPlan>(`SELECT ${PLAN} FROM plans ORDER BY title COLLATE NOCASE, id`).all(),
    )
  }

  count(): number {
    return guarded(
      () => this.#db.prepare<[], { total: number }>('SELECT count(*) AS total FROM plans').get()?.total ?? 0,
    )
  }

  /** A title that no plan has: the one given, or with the next number behind it. Titles are at most 200 characters. */
  freeTitle(title: string): string {
    return guarded(() => {
      const isTaken = this.#db.prepare<[string]>('SELECT 1 FROM plans WHERE title = ? COLLATE NOCASE LIMIT 1')
      let free = title
      for (let number = 2; isTaken.get(free) !== undefined; number += 1)
        free = `${[...title].slice(0, 190).join('')} ${number}`
      return free
    })
  }

  get(id: string): StoredPlan | undefined {
    return guarded(() => this.#get(id))
  }

  #get(id: string): StoredPlan | undefined {
    return this.#db.prepare<[string], StoredPlan>(`SELECT ${PLAN} FROM plans WHERE id = ?`).get(id)
  }

  /** Makes a plan; of a session from elsewhere it is the owner's. */
  create(content: PlanContent, owner?: string): StoredPlan {
    const id = randomUUID()
    const now = this.#now()
    return written(this.#db, () => {
      this.#db
        .prepare(
          'INSERT INTO plans (id, title, text, revision, created, changed, summary, sought, saved_by) VALUES (?, ?, ?, 1, ?, ?, ?, ?, ?)',
        )
        .run(
          id,
          content.title,
          content.text,
          now,
          now,
          JSON.stringify(content.uses),
          content.sought,
          content.savedBy ?? null,
        )
      if (owner !== undefined) this.rights.put(id, { owner, others: 'editor' })
      return this.#kept(this.#proven(id, content))
    })
  }

  /** Saves over the revision that the caller knows; when another came first, nothing changes and it is returned. */
  save(id: string, revision: number, content: PlanContent): SaveResult {
    return written(this.#db, (): SaveResult => {
      const current = this.#get(id)
      if (current?.revision !== revision) return { ok: false, current }
      // A plan from before there was a history begins it with what it was.
      if (!this.#db.prepare('SELECT 1 FROM revisions WHERE plan = ? AND revision = ?').get(id, revision))
        this.#kept(current)
      this.#db
        .prepare(
          'UPDATE plans SET title = ?, text = ?, summary = ?, sought = ?, saved_by = ?, changed = ?, revision = revision + 1 WHERE id = ?',
        )
        .run(
          content.title,
          content.text,
          JSON.stringify(content.uses),
          content.sought,
          content.savedBy ?? null,
          this.#now(),
          id,
        )
      return { ok: true, plan: this.#kept(this.#proven(id, content)) }
    })
  }

  /** The row as it now is in the database; what is not letter for letter what was to be written undoes the write. */
  #proven(id: string, { title, text }: PlanContent): StoredPlan {
    const row = this.#get(id)
    if (row?.text !== text || row.title !== title)
      throw new Error('the database does not give the text back as it was written')
    return row
  }

  /** Keeps a revision beside the plan, and lets old ones go now and then. */
  #kept(plan: StoredPlan): StoredPlan {
    this.#db
      .prepare('INSERT OR REPLACE INTO revisions (plan, revision, saved, title, text) VALUES (?, ?, ?, ?, ?)')
      .run(plan.id, plan.revision, plan.changed, plan.title, deflateRawSync(plan.text))
    if (plan.revision % THIN_EACH === 0) {
      const rows = this.#db
        .prepare<[string], { revision: number; saved: string }>(
          'SELECT revision, saved FROM revisions WHERE plan = ? AND name IS NULL',
        )
        .all(plan.id)
      const drop = this.#db.prepare('DELETE FROM revisions WHERE plan = ? AND revision = ?')
      // What the sentences of the next one tell of begins elsewhere then.
      const next = this.#db.prepare(
        `UPDATE revisions SET words = NULL WHERE plan = ? AND revision =
           (SELECT min(revision) FROM revisions WHERE plan = ? AND revision > ?)`,
      )
      for (const { revision } of thinned(rows, ({ saved }) => Date.parse(saved), Date.parse(plan.changed))) {
        drop.run(plan.id, revision)
        next.run(plan.id, plan.id, revision)
      }
    }
    return plan
  }

  /** Revisions of a plan that are kept, the newest first. */
  revisions(id: string): StoredRevision[] {
    return guarded(() =>
      this.#db
        .prepare<[string], Omit<StoredRevision, 'words'> & { words: string | null }>(
          'SELECT revision, saved, title, name, words FROM revisions WHERE plan = ? ORDER BY revision DESC',
        )
        .all(id)
        .map((row) => ({ ...row, words: row.words === null ? null : (JSON.parse(row.words) as string[]) })),
    )
  }

  /** The text of a revision; undefined where it is not kept. */
  revisionText(id: string, revision: number): string | undefined {
    return guarded(() => {
      const row = this.#db
        .prepare<[string, number], { text: Buffer }>('SELECT text FROM revisions WHERE plan = ? AND revision = ?')
        .get(id, revision)
      return row && inflateRawSync(row.text).toString('utf8')
    })
  }

  keepWords(id: string, revision: number, words: readonly string[]): void {
    written(this.#db, () => {
      this.#db
        .prepare('UPDATE revisions SET words = ? WHERE plan = ? AND revision = ?')
        .run(JSON.stringify(words), id, revision)
    })
  }

  /** Names a revision, so that it stays; null takes the name away. False where it is not kept. */
  nameRevision(id: string, revision: number, name: string | null): boolean {
    return written(
      this.#db,
      () =>
        this.#db.prepare('UPDATE revisions SET name = ? WHERE plan = ? AND revision = ?').run(name, id, revision)
          .changes > 0,
    )
  }

  /** Plans that were deleted, the last first. */
  bin(): BinLine[] {
    return guarded(() =>
      this.#db.prepare<[], BinLine>('SELECT id, title, revision, deleted FROM bin ORDER BY deleted DESC, id').all(),
    )
  }

  /** Puts a deleted plan back as it was; undefined where the bin has none of that id. */
  restore(id: string): StoredPlan | undefined {
    return written(this.#db, () => {
      const { changes } = this.#db
        .prepare(
          `INSERT INTO plans (id, title, text, revision, created, changed, summary, sought)
             SELECT id, title, text, revision + 1, created, ?, summary, sought FROM bin WHERE id = ?`,
        )
        .run(this.#now(), id)
      if (changes === 0) return undefined
      this.#db.prepare('DELETE FROM bin WHERE id = ?').run(id)
      const plan = this.#get(id)
      return plan && this.#kept(plan)
    })
  }

  /** Takes a deleted plan away for good, with its history. */
  forget(id: string): boolean {
    return written(this.#db, () => {
      const gone = this.#db.prepare('DELETE FROM bin WHERE id = ?').run(id).changes > 0
      for (const table of gone ? ['revisions', 'rights'] : [])
        this.#db.prepare(`DELETE FROM ${table} WHERE plan = ?`).run(id)
      return gone
    })
  }

  /** Deletes a plan into the bin, at the given revision only where one is given. */
  delete(id: string, revision?: number): 'deleted' | 'changed' | 'missing' {
    return written(this.#db, () => {
      const current = this.#get(id)
      if (!current) return 'missing'
      if (revision !== undefined && current.revision !== revision) return 'changed'
      const now = this.#now()
      this.#db
        .prepare(
          `INSERT OR REPLACE INTO bin (id, title, text, revision, created, changed, summary, sought, deleted)
             SELECT id, title, text, revision, created, changed, summary, sought, ? FROM plans WHERE id = ?`,
        )
        .run(now, id)
      this.#db.prepare('DELETE FROM plans WHERE id = ?').run(id)
      // Who has not missed a plan for so long does not miss it.
      const old = new Date(Date.parse(now) - BIN_DAYS * 86_400_000).toISOString()
      for (const table of ['revisions', 'rights'])
        this.#db.prepare(`DELETE FROM ${table} WHERE plan IN (SELECT id FROM bin WHERE deleted < ?)`).run(old)
      this.#db.prepare('DELETE FROM bin WHERE deleted < ?').run(old)
      return 'deleted'
    })
  }

  /** Puts a new summary beside a plan that itself did not change. One that gets lost is found missing at the next start. */
  refreshSummary(id: string, revision: number, summary: PlanSummary | null, sought: string): void {
    writtenLightly(this.#db, () => {
      this.#db
        .prepare('UPDATE plans SET summary = ?, sought = ? WHERE id = ? AND revision = ?')
        .run(summary === null ? UNREADABLE : JSON.stringify(summary), sought, id, revision)
    })
  }

  /** Ids of plans whose summary is missing, broken, or was made by an older program. */
  staleSummaries(): string[] {
    return guarded(() =>
      this.#db
        .prepare<[number, number], { id: string }>(
          `SELECT id FROM plans WHERE NOT json_valid(summary)
             OR coalesce(json_extract(iif(json_valid(summary), summary, '{}'), '$.version') <> ?, TRUE)
             AND coalesce(json_extract(iif(json_valid(summary), summary, '{}'), '$.unreadable') <> ?, TRUE)`,
        )
        .all(SUMMARY_VERSION, SUMMARY_VERSION)
        .map(({ id }) => id),
    )
  }

  /** Plans that use an entry of the maker's own. */
  plansWith(kind: EntryKind, id: string): { id: string; title: string }[] {
    return guarded(() =>
      this.#db
        .prepare<[string, string], { id: string; title: string }>(
          `SELECT DISTINCT plans.id, title FROM plans, json_each(iif(json_valid(summary), summary, '{}'), ?) AS one
             WHERE one.value = ? ORDER BY title`,
        )
        .all(kind === 'boards' ? '$.boards' : '$.kit', id),
    )
  }

  /** A number that changes when somebody else, another server say, writes to the database. */
  foreignState(): number {
    return guarded(() => this.#db.pragma('data_version', { simple: true }) as number)
  }

  close(): void {
    this.#db.close()
  }
}
