import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  lstatSync,
  mkdirSync,
  renameSync,
  rmSync,
  statfsSync,
  writeFileSync,
} from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { formatProblem } from '../core/base/problem.ts'
import { parseYaml } from '../core/base/yamlSource.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { planFromSource } from '../core/plan/readPlan.ts'
import { BackupError, contentsOf, entryFiles, refuseOpen, sizeOf } from './backup.ts'
import { copiesIn } from './copies.ts'
import { MARK } from './lostDatabase.ts'
import { migrate, migrationsIn } from './openDatabase.ts'

/** One thing that was looked at. */
export interface Examined {
  readonly what: string
  readonly is: 'sound' | 'wrong' | 'mended'
  readonly said: string
}

/** Bytes that should be free where plans are kept. */
const LEAST_FREE = 50_000_000

/** Whether the installation itself can work. */
export function examineInstallation(project: string): Examined[] {
  const all: Examined[] = []
  const say = (what: string, sound: boolean, said: string): void => {
    all.push({ what, is: sound ? 'sound' : 'wrong', said })
  }
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number)
  const isNew = major > 20 || (major === 20 && minor >= 19)
  say('Node.js', isNew, isNew ? process.versions.node : `${process.versions.node}; expected 20.19 or newer`)
  const web = existsSync(join(project, 'dist/web/index.html'))
  say('the built application', web, web ? 'is there' : 'is missing; run npm run build')
  try {
    const { version } = createRequire(import.meta.url)('better-sqlite3/package.json') as { version: string }
    new Database(':memory:').close()
    say('the database module', true, version)
  } catch (error) {
    say('the database module', false, (error as Error).message)
  }
  return all
}

/**
 * Looks at a data folder: rights, database, each plan, each entry, copies; with `mend` it mends what can be mended, row by
 * row, and sets nothing aside without saying where. `migrations` is the folder of those.
 * @throws BackupError where it cannot be looked at.
 */
export function examineData(data: string, catalog: Catalog, migrations: string, mend = false): Examined[] {
  if (!existsSync(data)) throw new BackupError(`${data} does not exist`)
  const all: Examined[] = []
  const say = (what: string, is: Examined['is'], said: string): void => {
    all.push({ what, is, said })
  }
  try {
    accessSync(data, constants.R_OK | constants.W_OK | constants.X_OK)
  } catch {
    throw new BackupError(`${data} cannot be read and written by this user`)
  }
  examineRights(data, mend, say)
  const { bavail, bsize } = statfsSync(data)
  const free = bavail * bsize
  say(
    'room on the disk',
    free < LEAST_FREE ? 'wrong' : 'sound',
    `${Math.round(free / 1e6).toLocaleString('en')} MB free`,
  )
  const file = join(data, 'markpost.db')
  if (sizeOf(file) === 0) {
    const traces = [MARK, 'markpost.db-wal'].filter((name) => sizeOf(join(data, name)) > 0)
    if (traces.length === 0) say('the database', 'sound', 'there is none yet')
    else
      say(
        'the database',
        'wrong',
        `is missing, and ${traces.join(' and ')} tells that there was one; restore a copy${copiesIn(data)[0] ? `, the newest is ${copiesIn(data)[0]!.file}` : ''}`,
      )
  } else {
    if (mend) refuseOpen(data)
    examineDatabase(data, file, catalog, migrations, mend, say)
  }
  for (const { path, bytes } of entryFiles(data)) {
    const read = parseYaml(bytes.toString('utf8'), path)
    if (!read.ok) say(path, 'wrong', read.problems.map(formatProblem).join('; '))
  }
  const copies = copiesIn(data)
  let sound = 0
  for (const { file: copy } of copies)
    try {
      contentsOf(copy)
      sound += 1
    } catch (error) {
      say(copy, 'wrong', (error as Error).message)
    }
  say(
    'copies in the folder',
    'sound',
    copies.length === 0 ? 'none yet; a server makes one a day' : `${sound} of ${copies.length} can be restored`,
  )
  return all
}

type Say = (what: string, is: Examined['is'], said: string) => void

function examineRights(data: string, mend: boolean, say: Say): void {
  const wrong: string[] = []
  const look = (path: string, most: number): void => {
    if (!existsSync(path)) return
    const { mode } = lstatSync(path)
    if ((mode & 0o777 & ~most) === 0) return
    if (mend) chmodSync(path, most)
    wrong.push(path)
  }
  look(data, 0o700)
  for (const name of ['markpost.db', 'markpost.db-wal', 'markpost.db-shm']) look(join(data, name), 0o600)
  if (wrong.length === 0) say('rights', 'sound', 'nobody else can read it')
  else
    say(
      'rights',
      mend ? 'mended' : 'wrong',
      `others of this machine ${mend ? 'could' : 'can'} read ${wrong.join(', ')}`,
    )
}

function examineDatabase(
  data: string,
  file: string,
  catalog: Catalog,
  migrations: string,
  mend: boolean,
  say: Say,
): void {
  let db: Database.Database
  try {
    db = new Database(file, { readonly: true, timeout: 3000 })
    db.pragma('schema_version')
  } catch (error) {
    say(
      'the database',
      'wrong',
      `cannot be opened: ${(error as Error).message}; restore a copy${copiesIn(data)[0] ? `, the newest is ${copiesIn(data)[0]!.file}` : ''}`,
    )
    return
  }
  try {
    const version = db.pragma('user_version', { simple: true }) as number
    const newest = migrationsIn(migrations).length
    if (version > newest) {
      say('the database', 'wrong', `was written by a newer Mark Post (version ${version}, this one knows ${newest})`)
      return
    }
    const state = integrityOf(db)
    if (state !== undefined) {
      if (mend) salvage(data, file, db, migrations, say)
      else say('the database', 'wrong', `${state}; with --mend what can be read is written anew`)
      return
    }
    const plans = db.prepare<[], { id: string; title: string; text: string }>('SELECT id, title, text FROM plans').all()
    say('the database', 'sound', `${plans.length} plans, version ${version} of ${newest}`)
    const damaged = plans.filter(({ id, title, text }) => {
      const source = parseYaml(text, title)
      const read = source.ok ? planFromSource(source.value, catalog, 'set-aside') : source
      if (!read.ok)
        say(
          `plan "${title}" (${id})`,
          'wrong',
          `${read.problems.map(formatProblem)[0]}; it can be mended in the application`,
        )
      return !read.ok
    })
    if (damaged.length > 0 && mend) {
      const folder = join(data, 'damaged')
      mkdirSync(folder, { recursive: true, mode: 0o700 })
      for (const { id, text } of damaged) writeFileSync(join(folder, `${id}.txt`), text, { mode: 0o600 })
      say('damaged plans', 'mended', `their texts lie in ${folder}; nothing was taken away`)
    }
  } finally {
    if (db.open) db.close()
  }
}

function integrityOf(db: Database.Database): string | undefined {
  try {
    const state = String(db.pragma('integrity_check', { simple: true }))
    return state === 'ok' ? undefined : `is damaged: ${state.split('\n')[0]}`
  } catch (error) {
    return `is damaged: ${(error as Error).message}`
  }
}

/** Writes every row that can be read into a new database of the same version; the damaged one is set aside. */
function salvage(data: string, file: string, damaged: Database.Database, migrations: string, say: Say): void {
  const fresh = `${file}.new`
  rmSync(fresh, { force: true })
  const to = new Database(fresh)
  let [saved, lost] = [0, 0]
  migrate(to, migrations, damaged.pragma('user_version', { simple: true }) as number)
  damaged.close()
  // What is wrong in the description of the tables is passed over: what they are, the migrations know.
  const db = new Database(file, { timeout: 3000 })
  db.unsafeMode(true)
  db.pragma('writable_schema = ON')
  const tables = to
    .prepare<[], { name: string }>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
    .all()
  for (const { name } of tables) {
    const columns = (to.pragma(`table_info(${name})`) as { name: string }[]).map((one) => one.name)
    const put = to.prepare(
      `INSERT OR IGNORE INTO ${name} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
    )
    for (const row of readable(db, name, columns))
      try {
        if (row === undefined) lost += 1
        else {
          put.run(...columns.map((column) => row[column]))
          saved += 1
        }
      } catch {
        // A value that fell over is none that the table takes.
        lost += 1
      }
  }
  to.close()
  db.close()
  const aside = join(data, `damaged-${new Date().toISOString().replaceAll(/[:.]/g, '-')}`)
  mkdirSync(aside, { mode: 0o700 })
  for (const name of ['markpost.db', 'markpost.db-wal', 'markpost.db-shm'])
    if (existsSync(join(data, name))) renameSync(join(data, name), join(aside, name))
  chmodSync(fresh, 0o600)
  renameSync(fresh, file)
  say(
    'the database',
    'mended',
    `${saved} rows were read and written anew, ${lost} could not be read; the damaged one lies in ${aside}`,
  )
}

/** Rows of a table one by one, from both ends: what lies between two damaged pages may be lost, not what lies around. */
function* readable(
  db: Database.Database,
  table: string,
  columns: readonly string[],
): Generator<Record<string, unknown> | undefined> {
  const seen = new Set<string>()
  const key = (row: Record<string, unknown>): string =>
    JSON.stringify([row.id, row.kind, row.plan, row.revision, row.hash])
  for (const order of ['ASC', 'DESC'] as const) {
    const by = hasRowid(db, table) ? ` ORDER BY rowid ${order}` : ''
    const sql = `SELECT ${columns.join(', ')} FROM ${table}${by}`
    try {
      for (const row of db.prepare<[], Record<string, unknown>>(sql).iterate()) {
        if (seen.has(key(row))) continue
        seen.add(key(row))
        yield row
      }
      return
    } catch {
      if (order === 'DESC') yield undefined
    }
  }
}

function hasRowid(db: Database.Database, table: string): boolean {
  try {
    db.prepare(`SELECT rowid FROM ${table} LIMIT 0`).all()
    return true
  } catch {
    return false
  }
}
