import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import Database from 'better-sqlite3'
import { unzipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { usedEntries } from '../core/rules/summary.ts'
import { catalog, planOf } from '../core/testing/plans.ts'
import { archiveOf, proveArchive } from './archive.ts'
import { backup, contentsOf, restore } from './backup.ts'
import { copiesIn, copyWhenDue } from './copies.ts'
import { type Examined, examineData, examineInstallation } from './doctor.ts'
import { PlanStore } from './store.ts'
import type { PlanContent } from './storedPlan.ts'

const migrations = new URL('./migrations', import.meta.url).pathname
const uses = usedEntries(planOf({}))
const content = (title: string, text = `markpost: 1\ntitle: ${title}\n`): PlanContent => ({
  title,
  text,
  uses,
  sought: title,
})

let home = ''
let data = ''
let out = ''
const open: PlanStore[] = []
const store = (folder = data): PlanStore => {
  const made = new PlanStore(folder, migrations)
  open.push(made)
  return made
}
const close = (): void => {
  for (const one of open.splice(0)) one.close()
}
beforeEach(() => {
  // In a folder of its own, so that what escapes from it is seen and nothing else is.
  home = join(mkdtempSync(join(tmpdir(), 'markpost-')), 'home')
  mkdirSync(home)
  data = join(home, 'data')
  out = join(home, 'all.backup')
})
afterEach(() => {
  close()
  rmSync(dirname(home), { recursive: true })
})
const titles = (folder: string): string[] => {
  const made = new PlanStore(folder, migrations)
  const all = made.all().map(({ title }) => title)
  made.close()
  return all
}

describe('a backup', () => {
  it('is whole while a server goes on writing, and comes back with entries and history', async () => {
    const running = store()
    for (let n = 0; n < 300; n += 1) running.create(content(`P${n}`))
    const { id } = running.create(content('Last'))
    running.save(id, 1, content('Last', 'markpost: 1\ntitle: Last\nnotes: more\n'))
    mkdirSync(join(data, 'catalog/parts'), { recursive: true })
    writeFileSync(join(data, 'catalog/parts/own.yaml'), 'catalog: 1\n')
    writeFileSync(join(data, 'catalog/parts/note.txt'), 'no entry')
    // Nothing of it need have reached the database file itself: a copy of that alone would be short of plans.
    expect(statSync(join(data, 'markpost.db-wal')).size).toBeGreaterThan(0)
    const made = await backup(data, out)
    expect(made).toMatchObject({ plans: 301, entries: 0, files: 1 })
    expect(statSync(out).mode & 0o777).toBe(0o600)
    running.create(content('Later'))
    const other = join(home, 'other')
    expect(restore(out, other)).toMatchObject({ plans: 301, aside: undefined })
    expect(titles(other)).toHaveLength(301)
    expect(titles(other)).not.toContain('Later')
    expect(readFileSync(join(other, 'catalog/parts/own.yaml'), 'utf8')).toBe('catalog: 1\n')
    expect(store(other).revisionText(id, 1)).toContain('title: Last')
  })
  it('is refused where there is nothing, and where it would be the database itself', async () => {
    await expect(backup(data, out)).rejects.toThrow('holds no markpost.db')
    store()
    await expect(backup(data, join(data, 'markpost.db'))).rejects.toThrow('is the database itself')
    await expect(backup(data, join(data, 'markpost.db/x'))).rejects.toThrow('cannot be written')
    expect(existsSync(out)).toBe(false)
  })
})

describe('a restore', () => {
  const made = async (): Promise<void> => {
    store().create(content('Kept'))
    await backup(data, out)
    close()
  }
  it('does not touch plans that are there unless it is told to, and sets them aside then', async () => {
    await made()
    store().create(content('New'))
    close()
    expect(() => restore(out, data)).toThrow('holds plans already; with --over')
    expect(titles(data)).toEqual(['Kept', 'New'])
    const { aside } = restore(out, data, { over: true })
    expect(titles(data)).toEqual(['Kept'])
    expect(titles(aside!)).toEqual(['Kept', 'New'])
  })
  it('is refused while a server has the folder open', async () => {
    await made()
    store()
    expect(() => restore(out, data, { over: true })).toThrow('is open in another program')
  })
  it('is not spoiled by journals of another database', async () => {
    await made()
    const other = join(home, 'other')
    const there = store(other)
    there.create(content('Other'))
    const wal = readFileSync(join(other, 'markpost.db-wal'))
    close()
    const target = join(home, 'target')
    mkdirSync(target)
    writeFileSync(join(target, 'markpost.db-wal'), wal)
    restore(out, target)
    expect(titles(target)).toEqual(['Kept'])
    expect(existsSync(join(target, 'markpost.db-wal'))).toBe(false)
  })
  it('refuses what is damaged, what is no backup, and what would write outside', async () => {
    await made()
    const bytes = readFileSync(out)
    const bad = join(home, 'bad')
    writeFileSync(bad, bytes.fill(7, 5000, 12_000))
    expect(() => restore(bad, join(home, 'x'))).toThrow('bad')
    writeFileSync(bad, 'no database at all, but long enough to be looked at as one')
    expect(() => restore(bad, join(home, 'x'))).toThrow('no backup of Mark Post')
    expect(() => restore(join(data, 'markpost.db'), join(home, 'x'))).toThrow('no backup of Mark Post')
    expect(() => contentsOf(join(home, 'nothing'))).toThrow('does not exist')
    const db = new Database(join(home, 'all.backup'))
    db.close()
    await backup(data, bad)
    const sly = new Database(bad)
    sly.prepare("INSERT INTO backup_files VALUES ('catalog/parts/../../../x.yaml', ?)").run(Buffer.from('x'))
    sly.close()
    expect(() => restore(bad, data, { over: true })).toThrow('its sum is another')
    // One of an older program has none, and whoever writes such a file can leave it out.
    const older = new Database(bad)
    older.exec('ALTER TABLE backup DROP COLUMN sum')
    older.close()
    expect(() => restore(bad, data, { over: true })).toThrow('which is no entry')
    expect(titles(data)).toEqual(['Kept'])
    expect(existsSync(join(data, 'markpost.db.new'))).toBe(false)
    expect(existsSync(join(home, '../x.yaml'))).toBe(false)
  })
})

describe('copies in the folder', () => {
  it('are made once a day, and thinned by age', async () => {
    store().create(content('A'))
    const day = (n: number): Date => new Date(Date.parse('2030-01-01T10:00:00Z') + n * 86_400_000)
    expect(await copyWhenDue(data, day(0))).toBeDefined()
    expect(await copyWhenDue(data, new Date(day(0).getTime() + 3_600_000))).toBe(undefined)
    for (let n = 1; n <= 80; n += 1) await copyWhenDue(data, day(n))
    const copies = copiesIn(data)
    expect(copies[0]!.made).toBe(day(80).getTime())
    expect(copies.length).toBeGreaterThan(55)
    expect(copies.length).toBeLessThan(70)
    expect(contentsOf(copies[0]!.file).plans).toBe(1)
  }, 30_000)
})

describe('the doctor', () => {
  const found = (all: readonly Examined[], is: Examined['is']): string[] =>
    all.filter((one) => one.is === is).map(({ what, said }) => `${what}: ${said}`)
  const examine = (mend = false): Examined[] => examineData(data, catalog, migrations, mend)
  it('finds nothing in what is sound', () => {
    store().create(content('A'))
    expect(found(examine(), 'wrong')).toEqual([])
    expect(found(examineInstallation(process.cwd()), 'sound').join()).toContain('database module')
    expect(() => examineData(join(home, 'nothing'), catalog, migrations)).toThrow('does not exist')
  })
  it('mends a database whose own description fell over', () => {
    const id = store().create(content('Spoilt')).id
    store().save(id, 1, content('Spoilt more'))
    close()
    const file = join(data, 'markpost.db')
    const bytes = readFileSync(file)
    const at = bytes.indexOf('COLLATE NOCASE, id')
    bytes.write('COLLAPSE', at)
    writeFileSync(file, bytes)
    expect(found(examine(), 'wrong').join()).toContain('with --mend')
    expect(found(examine(true), 'mended').join()).toContain('3 rows were read and written anew, 0 could not be read')
    expect(found(examine(), 'wrong')).toEqual([])
    expect(store().get(id)?.title).toBe('Spoilt more')
  })
  it('leaves what is no database at all, and says what to put in its place', () => {
    store().create(content('Gone'))
    close()
    writeFileSync(join(data, 'markpost.db'), 'x'.repeat(9000))
    expect(found(examine(true), 'wrong').join()).toContain('restore a copy')
    expect(readFileSync(join(data, 'markpost.db'), 'utf8')).toBe('x'.repeat(9000))
  })
  it('finds rights that are too wide, and mends them', () => {
    store().create(content('A'))
    close()
    chmodSync(data, 0o755)
    chmodSync(join(data, 'markpost.db'), 0o644)
    expect(found(examine(), 'wrong')).toHaveLength(1)
    expect(found(examine(true), 'mended')).toHaveLength(1)
    expect(found(examine(), 'wrong')).toEqual([])
    expect(statSync(data).mode & 0o777).toBe(0o700)
  })
  it('finds plans that cannot be read, and keeps their texts', () => {
    const { id } = store().create(content('Bad', 'markpost: 1\n  title: [\n'))
    close()
    expect(found(examine(), 'wrong').join()).toContain('plan "Bad"')
    examine(true)
    expect(readFileSync(join(data, `damaged/${id}.txt`), 'utf8')).toContain('title: [')
  })
  it('finds a database that is gone, newer, or damaged, and writes anew what can be read', () => {
    for (let n = 0; n < 400; n += 1) {
      const plans = open[0] ?? store()
      plans.create(content(`Plan ${n}`, `markpost: 1\ntitle: Plan ${n}\nnotes: ${'word '.repeat(200)}\n`))
    }
    open[0]!.create(content('End'))
    close()
    const file = join(data, 'markpost.db')
    const whole = readFileSync(file)
    const damaged = Buffer.from(whole)
    damaged.fill(0xee, 40 * 4096, 44 * 4096)
    writeFileSync(file, damaged)
    expect(found(examine(), 'wrong').join()).toContain('with --mend')
    const mended = found(examine(true), 'mended').join()
    const [, rows = '0'] = /(\d+) rows were read/.exec(mended) ?? []
    expect(Number(rows)).toBeGreaterThan(300)
    expect(found(examine(), 'wrong').filter((one) => one.startsWith('the database'))).toEqual([])
    expect(titles(data).length).toBeGreaterThan(300)
    rmSync(file)
    expect(found(examine(), 'wrong').join()).toContain('is missing')
    writeFileSync(file, whole)
    const db = new Database(file)
    db.pragma('user_version = 99')
    db.close()
    expect(found(examine(), 'wrong').join()).toContain('newer Mark Post (version 99')
  }, 30_000)
})

it('a data folder is closed to others also where it existed before, and a database that is a link is refused', () => {
  mkdirSync(data, { mode: 0o755 })
  chmodSync(data, 0o755)
  store().create(content('A'))
  expect(statSync(data).mode & 0o777).toBe(0o700)
  close()
  const linked = join(home, 'linked')
  mkdirSync(linked)
  symlinkSync(join(data, 'markpost.db'), join(linked, 'markpost.db'))
  expect(() => new PlanStore(linked, migrations)).toThrow('is a link to elsewhere')
})

it('a folder that all users share is refused, before anything of it is changed', () => {
  mkdirSync(data)
  chmodSync(data, 0o1777)
  expect(() => new PlanStore(data, migrations)).toThrow('expected a folder of its own')
  expect(statSync(data).mode & 0o7777).toBe(0o1777)
})

describe('an archive', () => {
  it('has every plan under a name of its own, revisions in order, and sums that hold', () => {
    const plans = store()
    plans.create(content('Weather post'))
    plans.create(content('Weather: Post!'))
    const { id } = plans.create(content('Größe 3'))
    plans.save(id, 1, content('Größe 3', 'markpost: 1\ntitle: Größe 3\nnotes: b\n'))
    const archive = archiveOf(plans, { history: true })
    const files = Object.keys(unzipSync(archive)).sort()
    expect(files.filter((path) => path.startsWith('plans/'))).toEqual([
      'plans/gro-e-3.markpost.yaml',
      'plans/weather-post-2.markpost.yaml',
      'plans/weather-post.markpost.yaml',
    ])
    expect(files.filter((path) => path.startsWith('history/gro-e-3/')).map((path) => path.slice(16, 21))).toEqual([
      '00001',
      '00002',
    ])
    expect(proveArchive(archive)).toMatchObject({ plans: 3, entries: 0 })
    expect(archiveOf(plans).length).toBeLessThan(archive.length)
    const spoilt = Uint8Array.from(archive)
    spoilt[60] = spoilt[60]! ^ 1
    expect(() => proveArchive(spoilt)).toThrow()
  })
})
