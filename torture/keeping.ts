import { copyFileSync, existsSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { inflateRawSync } from 'node:zlib'
import Database from 'better-sqlite3'
import { seeded } from '../core/base/random.ts'
import { loadCatalog, projectFolder } from '../node/builtCatalog.ts'
import { BackupError, backup, restore } from '../server/backup.ts'
import { examineData } from '../server/doctor.ts'
import { ask, freshFolder, sleep, startServer } from './server.ts'

const CLIENTS = 8
const DATABASE = 'markpost.db'
const MIGRATIONS = join(projectFolder(), 'server/migrations')

/**
 * Copies that are taken while others save: each holds all that was acknowledged before it was begun, with its history.
 * Then backups and databases with bytes that fell over: what is restored is right or refused, and the doctor ends with
 * what can be read.
 */
export async function tortureKeeping(checkout: string, copies: number, damages: number): Promise<string[]> {
  const data = freshFolder()
  const server = await startServer(checkout, data)
  const plans: { id: string; revision: number }[] = []
  for (let n = 0; n < CLIENTS; n += 1) {
    const made = await ask('POST', `${server.address}/api/plans`, JSON.stringify({ title: `Plan ${n}` }))
    plans.push({ id: JSON.parse(made.text).id, revision: 1 })
  }
  let isOver = false
  let saves = 0
  const client = async (plan: (typeof plans)[number]): Promise<void> => {
    for (let n = 0; !isOver; n += 1) {
      const body = JSON.stringify({ plan: { markpost: 1, title: `Save ${n}`, notes: 'x'.repeat(n % 500) } })
      const answer = await ask('PUT', `${server.address}/api/plans/${plan.id}`, body, {
        'If-Match': `"${plan.revision}"`,
      })
      if (answer.status !== 200) throw new Error(`a save was answered with ${answer.status}`)
      plan.revision += 1
      saves += 1
    }
  }
  const clients = plans.map(client)
  let [missing, damaged] = [0, 0]
  const out = join(data, 'torture.backup')
  for (let n = 0; n < copies; n += 1) {
    await sleep(50)
    const acknowledged = plans.map(({ revision }) => revision)
    await backup(data, out)
    const to = freshFolder()
    restore(out, to)
    const seen = contents(to)
    if (seen === undefined) damaged += 1
    else missing += plans.filter(({ id }, index) => (seen.get(id) ?? 0) < (acknowledged[index] ?? 0)).length
    rmSync(to, { recursive: true })
  }
  isOver = true
  await Promise.all(clients)
  await backup(data, out)
  await server.kill()
  const whole = contents(data)
  const lines = [
    `${copies} backups beside ${CLIENTS} clients that saved ${saves} times: ${missing} plans behind what was acknowledged, ${damaged} unreadable`,
    ...(missing + damaged > 0 ? ['FAILED: a backup lacks what was acknowledged'] : []),
    ...damagedBackups(out, whole, damages),
    ...damagedDatabases(out, damages),
  ]
  rmSync(data, { recursive: true })
  return lines
}

/** Newest revisions by plan, where everything in a folder reads back: the plans, and each kept revision's text. */
function contents(folder: string): Map<string, number> | undefined {
  const db = new Database(join(folder, DATABASE), { readonly: true })
  try {
    if (db.pragma('integrity_check', { simple: true }) !== 'ok') return undefined
    const plans = db
      .prepare<[], { id: string; revision: number; text: string }>('SELECT id, revision, text FROM plans')
      .all()
    const kept = db.prepare<[string, number], { text: Buffer }>(
      'SELECT text FROM revisions WHERE plan = ? AND revision = ?',
    )
    for (const { id, revision, text } of plans) {
      const row = kept.get(id, revision)
      if (!row || inflateRawSync(row.text).toString('utf8') !== text) return undefined
    }
    for (const { text } of db.prepare<[], { text: Buffer }>('SELECT text FROM revisions').iterate())
      inflateRawSync(text)
    return new Map(plans.map(({ id, revision }) => [id, revision]))
  } finally {
    db.close()
  }
}

/** Bytes of a file fall over, or its end is cut off; the same for the same number. */
function damage(file: string, random: () => number): void {
  const bytes = readFileSync(file)
  if (random() < 0.2) truncateSync(file, Math.floor(random() * bytes.length))
  else {
    for (let n = 0; n < 1 + random() * 40; n += 1)
      bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256)
    writeFileSync(file, bytes)
  }
}

function damagedBackups(sound: string, whole: ReadonlyMap<string, number> | undefined, count: number): string[] {
  const random = seeded(count)
  let [refused, right, wrong] = [0, 0, 0]
  for (let n = 0; n < count; n += 1) {
    const folder = freshFolder()
    const file = join(folder, 'damaged.backup')
    copyFileSync(sound, file)
    damage(file, random)
    const to = join(folder, 'to')
    try {
      restore(file, to)
      const seen = contents(to)
      if (seen && whole && JSON.stringify([...seen].sort()) === JSON.stringify([...whole].sort())) right += 1
      else wrong += 1
    } catch (error) {
      if (!(error instanceof BackupError)) throw error
      if (existsSync(join(to, DATABASE))) wrong += 1
      else refused += 1
    }
    rmSync(folder, { recursive: true })
  }
  return [
    `${count} damaged backups: ${refused} refused, ${right} restored with every plan as it was, ${wrong} neither`,
    ...(wrong > 0 ? ['FAILED: a damaged backup was restored as something else'] : []),
  ]
}

function damagedDatabases(sound: string, count: number): string[] {
  const random = seeded(count + 1)
  const catalog = loadCatalog()
  let [left, unread] = [0, 0]
  for (let n = 0; n < count; n += 1) {
    const folder = freshFolder()
    restore(sound, folder)
    const file = join(folder, DATABASE)
    damage(file, random)
    try {
      examineData(folder, catalog, MIGRATIONS, true)
    } catch (error) {
      // What is no database any more cannot be looked at, and that is said.
      if (!(error instanceof BackupError)) throw error
    }
    let plans: number | undefined
    try {
      const db = new Database(file, { readonly: true })
      if (db.pragma('integrity_check', { simple: true }) === 'ok')
        plans = (db.prepare('SELECT count(*) AS n FROM plans').get() as { n: number }).n
      db.close()
    } catch {
      plans = undefined
    }
    if (plans === undefined) unread += 1
    else left += plans
    rmSync(folder, { recursive: true })
  }
  return [
    `${count} databases with damaged bytes through the doctor: ${left} of ${count * CLIENTS} plans there afterwards; ${unread} databases beyond reading`,
  ]
}
