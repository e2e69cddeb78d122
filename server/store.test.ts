import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { SUMMARY_VERSION, summarise, usedEntries } from '../core/rules/summary.ts'
import { catalog, planOf } from '../core/testing/plans.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { openDatabase } from './openDatabase.ts'
import { PlanStore } from './store.ts'
import type { PlanContent } from './storedPlan.ts'
import { patiently, StoreTrouble, writtenLightly } from './storeTrouble.ts'

const migrations = new URL('./migrations', import.meta.url).pathname
const plan = planOf({ parts: { A: 'led' } })
const summary = summarise(resolve(plan, catalog))
const uses = usedEntries(plan)
const content = (title: string, text = 'text'): PlanContent => ({ title, text, uses, sought: title.toLowerCase() })

let folder = ''
let store: PlanStore
const open = (options?: { now?: () => string; fresh?: boolean }): PlanStore => {
  store = new PlanStore(folder, migrations, options)
  return store
}
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'markpost-'))
})
afterEach(() => {
  store.close()
  rmSync(folder, { recursive: true })
})
const raw = (): Database.Database => new Database(join(folder, 'markpost.db'))

describe('the store', () => {
  it('waits for the disk again after what can be made anew, also when that failed', () => {
    open()
    const db = raw()
    const sync = () => db.pragma('synchronous', { simple: true })
    expect(writtenLightly(db, sync)).toBe(1)
    expect(sync()).toBe(2)
    expect(() =>
      writtenLightly(db, () => {
        throw new Error('broken')
      }),
    ).toThrow('broken')
    expect(sync()).toBe(2)
    db.close()
  })

  it('prepares a statement once', () => {
    open()
    const db = openDatabase(folder, migrations, { now: () => '', fresh: false })
    expect(db.prepare('SELECT 1')).toBe(db.prepare('SELECT 1'))
    expect(db.prepare('SELECT 1')).not.toBe(db.prepare('SELECT 2'))
    db.close()
  })

  it('keeps plans over a restart, and saves only over the known revision', () => {
    open({ now: () => '2030-01-01T00:00:00.000Z' })
    const { id } = store.create(content('A'))
    expect(store.save(id, 1, { ...content('B', 'text 2'), savedBy: 'me' })).toMatchObject({
      ok: true,
      plan: { revision: 2, title: 'B', savedBy: 'me' },
    })
    expect(store.save(id, 1, content('C'))).toMatchObject({ ok: false, current: { title: 'B', savedBy: 'me' } })
    expect(store.save('nothing', 1, content('C'))).toEqual({ ok: false, current: undefined })
    store.close()
    open()
    expect(store.get(id)).toMatchObject({ title: 'B', text: 'text 2', revision: 2 })
    expect([store.delete(id, 1), store.delete(id, 2), store.delete(id)]).toEqual(['changed', 'deleted', 'missing'])
  })

  it('keeps what was saved, thins it by age, and never what has a name', () => {
    let now = Date.parse('2030-01-01T00:00:00Z')
    open({ now: () => new Date(now).toISOString() })
    const { id } = store.create(content('A', 'text 1'))
    for (let revision = 1; revision < 200; revision += 1) {
      now += 20_000
      expect(store.save(id, revision, content('A', `text ${revision + 1}`)).ok).toBe(true)
      if (revision === 3) expect(store.nameRevision(id, 3, 'works')).toBe(true)
    }
    expect(store.revisionText(id, 200)).toBe('text 200')
    expect(store.revisionText(id, 3)).toBe('text 3')
    const numbers = store.revisions(id).map(({ revision }) => revision)
    expect(numbers.slice(0, 3)).toEqual([200, 199, 198])
    expect(numbers).toContain(3)
    // The first six minutes lie more than an hour back: one of ten minutes is left, and the named one.
    expect(numbers.filter((one) => one < 20)).toEqual([3])
    expect([store.revisionText(id, 4), store.nameRevision(id, 4, 'x')]).toEqual([undefined, false])
    // Sentences stay where the one before is still there, and go where it was let go.
    const kept = store.revisions(id).map(({ revision }) => revision)
    for (const revision of kept) store.keepWords(id, revision, ['told'])
    for (let revision = 200; revision < 221; revision += 1) {
      now += 20_000
      store.save(id, revision, content('A', `text ${revision + 1}`))
    }
    const after = store.revisions(id)
    const oldest = after.filter(({ revision }) => kept.includes(revision))
    const untold = oldest.filter(({ words }) => words === null).map(({ revision }) => revision)
    expect(oldest.length).toBeLessThan(kept.length)
    const gone = kept.filter((one) => !oldest.some(({ revision }) => revision === one))
    expect(untold).toEqual(
      oldest
        .map(({ revision }) => revision)
        .filter((one, at) => {
          const before = oldest[at + 1]?.revision ?? 0
          return gone.some((revision) => revision > before && revision < one)
        }),
    )
  })

  it('begins a history with what was there before there was one', () => {
    open()
    const { id } = store.create(content('A', 'old'))
    raw().exec('DELETE FROM revisions')
    store.save(id, 1, content('A', 'new'))
    expect([store.revisionText(id, 1), store.revisionText(id, 2)]).toEqual(['old', 'new'])
  })

  it('lets go of what lies in the bin for a season', () => {
    let now = Date.parse('2030-01-01T00:00:00Z')
    open({ now: () => new Date(now).toISOString() })
    const [first, second] = [store.create(content('A')), store.create(content('B'))]
    store.delete(first.id)
    now += 89 * 86_400_000
    store.delete(store.create(content('C')).id)
    expect(store.bin().map(({ title }) => title)).toEqual(['C', 'A'])
    now += 2 * 86_400_000
    store.delete(second.id)
    expect(store.bin().map(({ title }) => title)).toEqual(['B', 'C'])
    expect(store.revisions(first.id)).toEqual([])
    expect(store.restore(first.id)).toBe(undefined)
  })

  it('keeps nothing that the database does not give back letter for letter', () => {
    open()
    // Half of a pair of surrogates: SQLite keeps UTF-8, in which there is no such letter.
    expect(() => store.create(content('A', 'half \uD83D'))).toThrow('does not give the text back')
    expect(store.count()).toBe(0)
    const { id } = store.create(content('A'))
    expect(() => store.save(id, 1, content('half \uD83D'))).toThrow('does not give the text back')
    expect(store.get(id)).toMatchObject({ title: 'A', revision: 1 })
  })

  it('has on disk what it acknowledged', () => {
    open()
    const other = raw()
    expect(readFileSync(new URL('./openDatabase.ts', import.meta.url), 'utf8')).toContain(
      "pragma('synchronous = FULL')",
    )
    store.create(content('A'))
    expect(other.prepare('SELECT count(*) AS n FROM plans').get()).toEqual({ n: 1 })
    other.close()
  })

  it('lists a page at a time, sorted and searched', () => {
    let clock = 0
    open({ now: () => `2030-01-01T00:00:${String(clock++).padStart(2, '0')}.000Z` })
    for (const title of ['Beta hive', 'alpha hive', 'Gamma shed', 'Delta hive']) store.create(content(title))
    const titles = (request: Partial<Parameters<PlanStore['list']>[0]>) => {
      const { total, lines } = store.list({ offset: 0, limit: 10, sort: 'changed', words: [], ...request })
      return [total, ...lines.map((one) => one.title)]
    }
    expect(titles({})).toEqual([4, 'Delta hive', 'Gamma shed', 'alpha hive', 'Beta hive'])
    expect(titles({ limit: 2, offset: 1 })).toEqual([4, 'Gamma shed', 'alpha hive'])
    expect(titles({ sort: 'title' })).toEqual([4, 'alpha hive', 'Beta hive', 'Delta hive', 'Gamma shed'])
    expect(titles({ words: ['hive', 'ta'] })).toEqual([2, 'Delta hive', 'Beta hive'])
    expect(titles({ words: ['%'] })).toEqual([0])
  })

  it('is not stopped by a damaged row', () => {
    open()
    const good = store.create(content('good'))
    const bad = store.create(content('bad'))
    const old = store.create(content('old'))
    // Just written: no summary yet, but known for what it uses.
    const unseen = store.create(content('unseen'))
    store.refreshSummary(good.id, 1, summary, 'good')
    store.close()
    const db = raw()
    db.prepare('UPDATE plans SET summary = ? WHERE id = ?').run('{"version"', bad.id)
    db.prepare('UPDATE plans SET summary = ? WHERE id = ?').run(JSON.stringify({ version: 1 }), old.id)
    db.close()
    open()
    const summaries = new Map(
      store.list({ offset: 0, limit: 9, sort: 'title', words: [] }).lines.map((one) => [one.title, one.summary]),
    )
    expect(['good', 'bad', 'unseen'].map((title) => summaries.get(title)?.version)).toEqual([
      SUMMARY_VERSION,
      undefined,
      undefined,
    ])
    expect(store.staleSummaries().sort()).toEqual([bad.id, old.id, unseen.id].sort())
    store.refreshSummary(bad.id, 1, null, 'bad')
    store.refreshSummary(old.id, 1, summary, 'old')
    expect(store.staleSummaries()).toEqual([unseen.id])
    expect(store.plansWith('parts', 'led').map((one) => one.id)).toEqual([good.id, old.id, unseen.id])
  })

  it('takes up a database of an older program: its plans are found by the search once their summaries are made anew', () => {
    const db = raw()
    for (const file of ['001-plans.sql', '002-entries.sql']) db.exec(readFileSync(join(migrations, file), 'utf8'))
    db.pragma('user_version = 2')
    db.prepare('INSERT INTO plans VALUES (?, ?, ?, 4, ?, ?, ?)').run(
      'older',
      'Older plan',
      'text',
      '2026-01-01T00:00:00.000Z',
      '2026-01-02T00:00:00.000Z',
      // The version that the last program without the search wrote.
      JSON.stringify({ ...summary, version: 3 }),
    )
    db.close()
    open()
    const found = () => store.list({ offset: 0, limit: 9, sort: 'title', words: ['older'] }).lines.map((one) => one.id)
    expect(found()).toEqual([])
    expect(store.staleSummaries()).toEqual(['older'])
    store.refreshSummary('older', 4, summary, 'older plan')
    expect([store.staleSummaries(), found()]).toEqual([[], ['older']])
  })

  it('does not begin empty where plans were', () => {
    open()
    store.create(content('A'))
    store.close()
    rmSync(join(folder, 'markpost.db'))
    expect(() => open()).toThrow(/it held plans .*markpost\.txt.*is missing; put it back from a copy, or begin anew/)
    writeFileSync(join(folder, 'markpost.db'), '')
    expect(() => open()).toThrow(/is empty/)
    open({ fresh: true })
    expect(store.count()).toBe(0)
    store.close()
    rmSync(join(folder, 'markpost.txt'))
    // A folder that never held plans may begin.
    rmSync(join(folder, 'markpost.db'))
    expect(open().count()).toBe(0)
  })

  it('never waits while another program holds the database, and goes on when it is free', async () => {
    open()
    const { id } = store.create(content('A'))
    const other = raw()
    other.exec('BEGIN IMMEDIATE')
    const start = performance.now()
    expect(() => store.save(id, 1, content('B'))).toThrow(StoreTrouble)
    expect(performance.now() - start).toBeLessThan(50)
    expect(store.get(id)?.title).toBe('A')
    setTimeout(() => other.exec('COMMIT'), 60)
    expect(await patiently(() => store.save(id, 1, content('B')))).toMatchObject({ ok: true })
    other.close()
  })

  it('notices what another program wrote, and not what it wrote itself', () => {
    open()
    const before = store.foreignState()
    store.create(content('A'))
    expect(store.foreignState()).toBe(before)
    const other = raw()
    other.prepare("UPDATE plans SET title = 'B'").run()
    other.close()
    expect(store.foreignState()).not.toBe(before)
  })
})
