import {
  chmodSync,
  closeSync,
  existsSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { MARK, refuseLostDatabase } from './lostDatabase.ts'
import { DataFolderError } from './storeTrouble.ts'

/**
 * Opens or makes `markpost.db` in a folder, closed to others and of the newest form; `:memory:` keeps everything in
 * memory.
 * @throws DataFolderError where plans were before and their database is gone, unless `fresh` says to begin anew; where a
 * newer program wrote it; and where the folder is not the user's own.
 */
export function openDatabase(
  folder: string,
  migrations: string,
  { now, fresh }: { readonly now: () => string; readonly fresh: boolean },
): Database.Database {
  const mark = join(folder, MARK)
  if (folder !== ':memory:') {
    mkdirSync(folder, { recursive: true, mode: 0o700 })
    if (!fresh) refuseLostDatabase(folder)
    closeToOthers(folder)
  }
  // Only opening waits for others; see `patiently` for all else.
  const db = new Database(folder === ':memory:' ? folder : join(folder, 'markpost.db'), { timeout: 3000 })
  db.pragma('journal_mode = WAL')
  // What was answered must be on disk also when the power fails.
  db.pragma('synchronous = FULL')
  db.pragma('foreign_keys = ON')
  migrate(db, migrations)
  db.pragma('busy_timeout = 0')
  if (folder !== ':memory:' && !existsSync(mark))
    writeFileSync(mark, `Mark Post keeps its plans beside this file, in markpost.db.\nBegun ${now()}.\n`)
  keepStatements(db)
  return db
}

/** From now on a statement is prepared once and used again; there is a bounded number of them. */
function keepStatements(db: Database.Database): void {
  const kept = new Map<string, Database.Statement>()
  const prepare = db.prepare.bind(db)
  db.prepare = ((text: string): Database.Statement => {
    const statement = kept.get(text) ?? prepare(text)
    kept.set(text, statement)
    return statement
  }) as typeof db.prepare
}

/** Files of migrations, in their order: the first one makes version 1. */
export const migrationsIn = (folder: string): string[] =>
  readdirSync(folder)
    .filter((name) => /^\d+-.*\.sql$/.test(name))
    .sort()

/** Brings a database to the newest form, or to the one of an older version. */
export function migrate(db: Database.Database, folder: string, upTo = Number.POSITIVE_INFINITY): void {
  const files = migrationsIn(folder)
  const done = db.pragma('user_version', { simple: true }) as number
  if (done > files.length)
    throw new DataFolderError(
      `it was written by a newer Mark Post (version ${done}, this one knows ${files.length}); take a newer program or another --data folder`,
    )
  files.slice(done, upTo).forEach((name, index) => {
    db.transaction(() => {
      db.exec(readFileSync(join(folder, name), 'utf8'))
      db.pragma(`user_version = ${done + index + 1}`)
    }).immediate()
  })
}

/** A data folder is the user's alone, also where it existed before; a database that is a link elsewhere is refused. */
function closeToOthers(folder: string): void {
  for (const name of ['markpost.db', 'markpost.db-wal', 'markpost.db-shm']) {
    const path = join(folder, name)
    const state = lstatSync(path, { throwIfNoEntry: false })
    if (!state) continue
    if (state.isSymbolicLink())
      throw new DataFolderError(`${path} is a link to elsewhere; expected the database itself, in the folder`)
    if ((state.mode & 0o077) !== 0) ownRights(path, 0o600)
  }
  // The journals get the rights of the database.
  const file = join(folder, 'markpost.db')
  if (!existsSync(file)) closeSync(openSync(file, 'a', 0o600))
  const { mode } = statSync(folder)
  if ((mode & 0o1000) !== 0)
    throw new DataFolderError(`${folder} is shared by all users of this machine; expected a folder of its own`)
  if ((mode & 0o077) !== 0) ownRights(folder, 0o700)
}

/** Takes rights away from others; of what belongs to somebody else it cannot be done, and the doctor says so. */
function ownRights(path: string, mode: number): void {
  try {
    chmodSync(path, mode)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') throw error
  }
}
