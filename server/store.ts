import { randomUUID } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import type { EntryKind } from '../core/catalog/ownEntry.ts'
import type { PlanSummary } from '../core/rules/summary.ts'

export interface StoredPlan {
  readonly id: string
  readonly title: string
  readonly text: string
  /** Counts saves, from 1. */
  readonly revision: number
  readonly created: string
  readonly changed: string
  readonly summary: PlanSummary
}

type Row = Omit<StoredPlan, 'summary'> & { readonly summary: string }

/** A board or part of the maker's own, as written. */
export interface StoredEntry {
  readonly kind: EntryKind
  readonly id: string
  readonly text: string
  readonly revision: number
  readonly created: string
  readonly changed: string
}

export type SaveResult =
  | { readonly ok: true; readonly plan: StoredPlan }
  | { readonly ok: false; readonly current: StoredPlan | undefined }

/** Plans and entries in SQLite: plain SQL, write-ahead log, one transaction a save. */
export class PlanStore {
  readonly #db: Database.Database
  readonly #now: () => string

  /** Opens or makes `markpost.db` in a folder; `:memory:` keeps everything in memory. */
  constructor(folder: string, migrations: string, now: () => string = () => new Date().toISOString()) {
    if (folder !== ':memory:') mkdirSync(folder, { recursive: true, mode: 0o700 })
    this.#db = new Database(folder === ':memory:' ? ':memory:' : join(folder, 'markpost.db'))
    this.#db.pragma('journal_mode = WAL')
    this.#db.pragma('synchronous = NORMAL')
    this.#db.pragma('foreign_keys = ON')
    this.#now = now
    this.#migrate(migrations)
  }

  #migrate(folder: string): void {
    const files = readdirSync(folder)
      .filter((name) => /^\d+-.*\.sql$/.test(name))
      .sort()
    const done = this.#db.pragma('user_version', { simple: true }) as number
    if (done > files.length)
      throw new Error(
        `the data folder was written by a newer Mark Post (version ${done}, this one knows ${files.length}); take a newer program or another --data folder`,
      )
    files.slice(done).forEach((name, index) => {
      this.#db.transaction(() => {
        this.#db.exec(readFileSync(join(folder, name), 'utf8'))
        this.#db.pragma(`user_version = ${done + index + 1}`)
      })()
    })
  }

  list(): StoredPlan[] {
    return this.#db.prepare<[], Row>('SELECT * FROM plans ORDER BY changed DESC, title').all().map(fromRow)
  }

  get(id: string): StoredPlan | undefined {
    const row = this.#db.prepare<[string], Row>('SELECT * FROM plans WHERE id = ?').get(id)
    return row && fromRow(row)
  }

  create(title: string, text: string, summary: PlanSummary): StoredPlan {
    const now = this.#now()
    const row: Row = {
      id: randomUUID(),
      title,
      text,
      revision: 1,
      created: now,
      changed: now,
      summary: JSON.stringify(summary),
    }
    this.#db
      .prepare(
        'INSERT INTO plans (id, title, text, revision, created, changed, summary) VALUES (@id, @title, @text, @revision, @created, @changed, @summary)',
      )
      .run(row)
    return fromRow(row)
  }

  /** Saves over the revision that the caller knows; when another came first, nothing changes and it is returned. */
  save(id: string, revision: number, title: string, text: string, summary: PlanSummary): SaveResult {
    return this.#db.transaction((): SaveResult => {
      const current = this.get(id)
      if (current?.revision !== revision) return { ok: false, current }
      this.#db
        .prepare('UPDATE plans SET title = ?, text = ?, summary = ?, changed = ?, revision = revision + 1 WHERE id = ?')
        .run(title, text, JSON.stringify(summary), this.#now(), id)
      return { ok: true, plan: this.get(id) as StoredPlan }
    })()
  }

  delete(id: string): boolean {
    return this.#db.prepare('DELETE FROM plans WHERE id = ?').run(id).changes > 0
  }

  /** Puts a new summary beside a plan that itself did not change. */
  refreshSummary(id: string, summary: PlanSummary): void {
    this.#db.prepare('UPDATE plans SET summary = ? WHERE id = ?').run(JSON.stringify(summary), id)
  }

  entries(): StoredEntry[] {
    return this.#db.prepare<[], StoredEntry>('SELECT * FROM entries ORDER BY kind, id').all()
  }

  entry(kind: EntryKind, id: string): StoredEntry | undefined {
    return this.#db
      .prepare<[string, string], StoredEntry>('SELECT * FROM entries WHERE kind = ? AND id = ?')
      .get(kind, id)
  }

  createEntry(kind: EntryKind, id: string, text: string): StoredEntry {
    const now = this.#now()
    const row: StoredEntry = { kind, id, text, revision: 1, created: now, changed: now }
    this.#db
      .prepare(
        'INSERT INTO entries (kind, id, text, revision, created, changed) VALUES (@kind, @id, @text, @revision, @created, @changed)',
      )
      .run(row)
    return row
  }

  /** Saves over the revision that the caller knows; undefined, and nothing changed, when another came first. */
  saveEntry(kind: EntryKind, id: string, revision: number, text: string): StoredEntry | undefined {
    const { changes } = this.#db
      .prepare(
        'UPDATE entries SET text = ?, changed = ?, revision = revision + 1 WHERE kind = ? AND id = ? AND revision = ?',
      )
      .run(text, this.#now(), kind, id, revision)
    return changes > 0 ? this.entry(kind, id) : undefined
  }

  deleteEntry(kind: EntryKind, id: string): boolean {
    return this.#db.prepare('DELETE FROM entries WHERE kind = ? AND id = ?').run(kind, id).changes > 0
  }

  close(): void {
    this.#db.close()
  }
}

const fromRow = (row: Row): StoredPlan => ({ ...row, summary: JSON.parse(row.summary) as PlanSummary })
