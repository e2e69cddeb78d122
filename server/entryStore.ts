import type Database from 'better-sqlite3'
import type { EntryKind } from '../core/catalog/ownEntry.ts'
import { guarded, written } from './storeTrouble.ts'

/** A board or part of the maker's own, as written. */
export interface StoredEntry {
  readonly kind: EntryKind
  readonly id: string
  readonly text: string
  readonly revision: number
  readonly created: string
  readonly changed: string
}

/** Boards and parts of the maker's own, and what validation said of them, in the database of the plans. */
export class EntryStore {
  readonly #db: Database.Database
  readonly #now: () => string

  constructor(db: Database.Database, now: () => string) {
    this.#db = db
    this.#now = now
  }

  all(): StoredEntry[] {
    return guarded(() => this.#db.prepare<[], StoredEntry>('SELECT * FROM entries ORDER BY kind, id').all())
  }

  get(kind: EntryKind, id: string): StoredEntry | undefined {
    return guarded(() => this.#entry(kind, id))
  }

  #entry(kind: EntryKind, id: string): StoredEntry | undefined {
    return this.#db
      .prepare<[string, string], StoredEntry>('SELECT * FROM entries WHERE kind = ? AND id = ?')
      .get(kind, id)
  }

  /** Undefined when there is one of that name already. */
  create(kind: EntryKind, id: string, text: string): StoredEntry | undefined {
    const now = this.#now()
    return written(this.#db, () => {
      if (this.#entry(kind, id)) return undefined
      this.#db
        .prepare('INSERT INTO entries (kind, id, text, revision, created, changed) VALUES (?, ?, ?, 1, ?, ?)')
        .run(kind, id, text, now, now)
      return this.#entry(kind, id)
    })
  }

  /** Saves over the revision that the caller knows; undefined, and nothing changed, when another came first. */
  save(kind: EntryKind, id: string, revision: number, text: string): StoredEntry | undefined {
    return written(this.#db, () => {
      const { changes } = this.#db
        .prepare(
          'UPDATE entries SET text = ?, changed = ?, revision = revision + 1 WHERE kind = ? AND id = ? AND revision = ?',
        )
        .run(text, this.#now(), kind, id, revision)
      return changes > 0 ? this.#entry(kind, id) : undefined
    })
  }

  delete(kind: EntryKind, id: string): boolean {
    return written(
      this.#db,
      () => this.#db.prepare('DELETE FROM entries WHERE kind = ? AND id = ?').run(kind, id).changes > 0,
    )
  }

  /** What validation said of texts before, by their hash. */
  validated(): Map<string, string> {
    return guarded(
      () =>
        new Map(
          this.#db
            .prepare<[], { hash: string; result: string }>('SELECT hash, result FROM validated')
            .all()
            .map(({ hash, result }) => [hash, result]),
        ),
    )
  }

  /** Keeps what validation said, and forgets what it said of texts that are not among `known`. */
  keepValidated(results: ReadonlyMap<string, string>, known: ReadonlySet<string>): void {
    written(this.#db, () => {
      const put = this.#db.prepare('INSERT OR REPLACE INTO validated (hash, result) VALUES (?, ?)')
      for (const [hash, result] of results) put.run(hash, result)
      const drop = this.#db.prepare('DELETE FROM validated WHERE hash = ?')
      for (const { hash } of this.#db.prepare<[], { hash: string }>('SELECT hash FROM validated').all())
        if (!known.has(hash)) drop.run(hash)
    })
  }
}
