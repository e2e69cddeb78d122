import { createHash } from 'node:crypto'
import {
  chmodSync,
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import Database from 'better-sqlite3'
import { MARK } from './lostDatabase.ts'

/** A backup that cannot be made or put back, in one sentence. */
export class BackupError extends Error {
  override name = 'BackupError'
}

/** What a backup holds. */
export interface BackupContents {
  readonly made: string
  readonly plans: number
  readonly entries: number
  /** Files of own entries in the data folder. */
  readonly files: number
}

const DATABASE = 'markpost.db'
const JOURNALS = [`${DATABASE}-wal`, `${DATABASE}-shm`, `${DATABASE}-journal`]

/**
 * Writes everything of a data folder into one file, also while a server has it open: a copy of the database as it is at
 * one moment, with the files of own entries in it. The file is read back before it takes its name.
 * @throws BackupError where there is nothing to back up, or the file cannot be written or does not read back.
 */
export async function backup(data: string, out: string, now = new Date()): Promise<BackupContents> {
  const source = join(data, DATABASE)
  if (!existsSync(source)) throw new BackupError(`${data} holds no ${DATABASE}; nothing was written`)
  if (resolve(out) === resolve(source)) throw new BackupError(`${out} is the database itself; expected another file`)
  const part = `${out}.part`
  try {
    mkdirSync(dirname(resolve(out)), { recursive: true })
    rmSync(part, { force: true })
    const from = new Database(source, { readonly: true, timeout: 5000 })
    try {
      await from.backup(part)
    } finally {
      from.close()
    }
    const copy = new Database(part)
    try {
      // One file that needs no journal beside it.
      copy.pragma('journal_mode = DELETE')
      copy.exec(
        'CREATE TABLE backup (made TEXT NOT NULL, sum TEXT NOT NULL) STRICT; CREATE TABLE backup_files (path TEXT PRIMARY KEY, bytes BLOB NOT NULL) STRICT',
      )
      const put = copy.prepare('INSERT INTO backup_files (path, bytes) VALUES (?, ?)')
      for (const { path, bytes } of entryFiles(data)) put.run(path, bytes)
      copy.prepare('INSERT INTO backup (made, sum) VALUES (?, ?)').run(now.toISOString(), sumOf(copy))
    } finally {
      copy.close()
    }
    const contents = contentsOf(part)
    chmodSync(part, 0o600)
    sync(part)
    renameSync(part, out)
    return contents
  } catch (error) {
    // A part that cannot be taken away either is no more than what is said already.
    if (sizeOf(part) > 0) rmSync(part, { force: true })
    throw asBackupError(error, `${out} cannot be written`)
  }
}

/** What a backup holds, proven to be sound. */
export function contentsOf(file: string): BackupContents {
  let db: Database.Database
  try {
    if (!existsSync(file)) throw new BackupError(`${file} does not exist`)
    db = new Database(file, { readonly: true, fileMustExist: true })
  } catch (error) {
    throw asBackupError(error, `${file} cannot be opened`)
  }
  try {
    const state = db.pragma('integrity_check', { simple: true })
    if (state !== 'ok') throw new BackupError(`${file} is damaged: ${String(state).split('\n')[0]}`)
    const has = (table: string): boolean =>
      db.prepare("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?").get(table) !== undefined
    if (!has('plans') || !has('backup')) throw new BackupError(`${file} is no backup of Mark Post`)
    const count = (table: string): number =>
      db.prepare<[], { n: number }>(`SELECT count(*) AS n FROM ${table}`).get()?.n ?? 0
    const { made = '', sum } = db.prepare<[], { made?: string; sum?: string }>('SELECT * FROM backup').get() ?? {}
    // The database's own check sees that pages hang together, not that a letter of a text is another. Older ones have no sum.
    if (sum !== undefined && sum !== sumOf(db)) throw new BackupError(`${file} is damaged: its sum is another`)
    return {
      made,
      plans: count('plans'),
      entries: has('entries') ? count('entries') : 0,
      files: count('backup_files'),
    }
  } catch (error) {
    throw asBackupError(error, `${file} is no backup of Mark Post`)
  } finally {
    db.close()
  }
}

/** SHA-256 over every row of every table but the one that holds the sum itself. */
function sumOf(db: Database.Database): string {
  const hash = createHash('sha256')
  const tables = db
    .prepare<[], { name: string }>(
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name <> 'backup' AND name NOT LIKE 'sqlite_%' ORDER BY name",
    )
    .all()
  for (const { name } of tables) {
    const columns = (db.pragma(`table_info(${name})`) as { name: string }[]).map((column) => column.name)
    hash.update(`${name} ${columns.join(' ')}\n`)
    for (const row of db
      .prepare<[], unknown[]>(`SELECT * FROM ${name} ORDER BY ${columns.join(', ')}`)
      .raw()
      .iterate())
      for (const value of row) {
        const bytes = Buffer.isBuffer(value) ? value : Buffer.from(`${typeof value} ${String(value)}`)
        hash.update(`${bytes.length} `).update(bytes)
      }
  }
  return hash.digest('hex')
}

/**
 * Puts a backup into a data folder. A database that is there is set aside in a folder of its own, with its journals:
 * those of another database beside it would spoil it.
 * @throws BackupError where the backup is not sound, a program has the folder open, or plans are there and `over` is not said.
 */
export function restore(
  file: string,
  data: string,
  { over = false, now = new Date() }: { over?: boolean; now?: Date } = {},
): BackupContents & { readonly aside: string | undefined } {
  const contents = contentsOf(file)
  try {
    mkdirSync(data, { recursive: true, mode: 0o700 })
    const old = [DATABASE, ...JOURNALS].filter((name) => existsSync(join(data, name)))
    if (old.includes(DATABASE)) {
      refuseOpen(data)
      if (!over)
        throw new BackupError(
          `${data} holds plans already; with --over they are set aside in a folder of their own, and nothing is lost`,
        )
    }
    const fresh = join(data, `${DATABASE}.new`)
    copyFileSync(file, fresh)
    const db = new Database(fresh)
    const files = db.prepare<[], { path: string; bytes: Buffer }>('SELECT path, bytes FROM backup_files').all()
    db.exec('DROP TABLE backup; DROP TABLE backup_files')
    db.close()
    // What is in a backup may come from anywhere: only files of entries, only inside; before anything is moved.
    const strange = files.find(({ path }) => !ENTRY_FILE.test(path))
    if (strange) {
      rmSync(fresh)
      throw new BackupError(`${file} holds a file named "${strange.path.slice(0, 60)}", which is no entry`)
    }
    chmodSync(fresh, 0o600)
    sync(fresh)
    let aside: string | undefined
    if (old.length > 0) {
      aside = join(data, `before-restore-${now.toISOString().replaceAll(/[:.]/g, '-')}`)
      mkdirSync(aside, { mode: 0o700 })
      for (const name of old) renameSync(join(data, name), join(aside, name))
    }
    renameSync(fresh, join(data, DATABASE))
    for (const { path, bytes } of files) {
      mkdirSync(dirname(join(data, path)), { recursive: true, mode: 0o700 })
      writeFileSync(join(data, path), bytes, { mode: 0o600 })
    }
    if (!existsSync(join(data, MARK)))
      writeFileSync(
        join(data, MARK),
        `Mark Post keeps its plans beside this file, in markpost.db.\nRestored ${now.toISOString()}.\n`,
      )
    return { ...contents, aside }
  } catch (error) {
    throw asBackupError(error, `${data} cannot be written`)
  }
}

/** Refuses a folder whose database another program has open. */
export function refuseOpen(data: string): void {
  let db: Database.Database
  try {
    db = new Database(join(data, DATABASE), { timeout: 0 })
  } catch {
    // One that cannot be opened at all is what a backup is put in place of.
    return
  }
  try {
    // Alone on the file: whoever else has it open, even without doing anything, keeps this from being had.
    db.pragma('locking_mode = EXCLUSIVE')
    db.exec('BEGIN IMMEDIATE; ROLLBACK')
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY'))
      throw new BackupError(`${data} is open in another program; stop the server first`)
  } finally {
    db.close()
  }
}

const ENTRY_FILE = /^catalog\/(boards|parts)\/[\w.-]+\.ya?ml$/

/** Own entries that lie as files in a data folder. */
export function entryFiles(data: string): { readonly path: string; readonly bytes: Buffer }[] {
  return ['boards', 'parts'].flatMap((kind) => {
    const folder = join(data, 'catalog', kind)
    if (!existsSync(folder)) return []
    return readdirSync(folder)
      .map((name) => `catalog/${kind}/${name}`)
      .filter((path) => ENTRY_FILE.test(path) && lstatSync(join(data, path)).isFile())
      .map((path) => ({ path, bytes: readFileSync(join(data, path)) }))
  })
}

function sync(file: string): void {
  const handle = openSync(file, 'r')
  try {
    fsyncSync(handle)
  } finally {
    closeSync(handle)
  }
}

function asBackupError(error: unknown, what: string): BackupError {
  if (error instanceof BackupError) return error
  return new BackupError(`${what}: ${(error as Error).message}`)
}

/** Bytes of a file, none where it is not there. */
export const sizeOf = (file: string): number => {
  try {
    return statSync(file).size
  } catch {
    return 0
  }
}
