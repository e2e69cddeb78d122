import { readFileSync, rmSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { largeKit } from '../benchmarks/largeKit.ts'
import { seeded } from '../core/base/random.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import { loadCatalog, projectFolder } from '../node/builtCatalog.ts'
import { ask, freshFolder, percentile, sleep, startServer } from './server.ts'

/** Clients that open a plan, think, change it and save, on a store of many plans. */
export async function tortureByLoad(
  checkout: string,
  { plans, clients, seconds, entries }: { plans: number; clients: number; seconds: number; entries: number },
): Promise<string[]> {
  const data = freshFolder()
  const first = await startServer(checkout, data)
  const catalog = loadCatalog()
  const plan = { ...largeKit(catalog, 40), title: 'Loaded' }
  const made = JSON.parse((await ask('POST', `${first.address}/api/plans`, JSON.stringify({ plan }))).text)
  // The copies shall have their summary, which is made after the answer.
  for (let tries = 0; !(await ask('GET', `${first.address}/api/plans`)).text.includes('"worst"'); tries += 1) {
    if (tries > 200) throw new Error('the summary of a new plan does not come')
    await sleep(50)
  }
  await first.kill()
  // Copies of one row are made in the database itself: ten thousand plans in a second.
  const db = new Database(join(data, 'markpost.db'))
  const columns = (db.pragma('table_info(plans)') as { name: string }[]).map(({ name }) => name)
  const copied = columns.map((name) =>
    name === 'id'
      ? "'copy-' || n"
      : name === 'title'
        ? "'Plan ' || n"
        : // No two texts are the same, as it is with people.
          name === 'text'
          ? "replace(text, 'title: Loaded', 'title: Plan ' || n)"
          : name,
  )
  db.prepare(
    `WITH RECURSIVE count(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM count WHERE n < ?)
     INSERT INTO plans (${columns.join(', ')}) SELECT ${copied.join(', ')} FROM plans, count WHERE id = ?`,
  ).run(plans - 1, made.id)
  db.close()
  const begun = performance.now()
  const server = await startServer(checkout, data)
  const start = performance.now() - begun
  const list = await ask('GET', `${server.address}/api/plans`)
  const none = (): Record<'open' | 'save' | 'list', number[]> => ({ open: [], save: [], list: [] })
  // A server that has just started runs its code unoptimised, and here meets all clients at once: counted by itself.
  const starting = none()
  const running = none()
  const warm = performance.now() + Math.min(10, seconds / 3) * 1000
  const random = seeded(plans)
  let refused = 0
  let broken = 0
  const end = performance.now() + seconds * 1000
  const before = server.megabytes()
  const client = async (number: number): Promise<void> => {
    await sleep(random() * 1000)
    while (performance.now() < end) {
      const times = performance.now() < warm ? starting : running
      const id = `copy-${number * 37 + Math.floor(random() * 37) + 1}`
      try {
        const opened = await ask('GET', `${server.address}/api/plans/${id}`)
        times.open.push(opened.milliseconds)
        await sleep(1000)
        const { plan: now, revision } = JSON.parse(opened.text)
        now.title = `Plan of client ${number} at ${Math.round(performance.now())}`
        const saved = await ask('PUT', `${server.address}/api/plans/${id}`, JSON.stringify({ plan: now }), {
          'If-Match': `"${revision}"`,
        })
        times.save.push(saved.milliseconds)
        if (saved.status !== 200) refused += 1
        if (random() < 0.1)
          times.list.push((await ask('GET', `${server.address}/api/plans?q=client&sort=title`)).milliseconds)
      } catch {
        broken += 1
      }
      await sleep(1000)
    }
  }
  // What a light request waits shows how long the main thread is held up.
  const probe: number[] = []
  const look = async (): Promise<void> => {
    while (performance.now() < end) {
      // A server without that address answers 404 as quickly.
      await ask('GET', `${server.address}/api/state`).then(
        ({ milliseconds }) => probe.push(milliseconds),
        () => undefined,
      )
      await sleep(15)
    }
  }
  const stolenBefore = stolenSeconds()
  const memory: number[] = []
  const watch = setInterval(() => memory.push(server.megabytes()), 1000)
  await Promise.all([look(), ...Array.from({ length: clients }, (_, number) => client(number))])
  clearInterval(watch)
  const stolen = (stolenSeconds() - stolenBefore) / (seconds * availableParallelism())
  const added = await manyEntries(server.address, entries)
  await server.kill()
  rmSync(data, { recursive: true })
  const { open, save } = running
  const ms = (list: readonly number[], share: number): string => `${percentile(list, share).toFixed(0)} ms`
  const size = Math.round(writePlan(plan, catalog).length / 1024)
  return [
    `${clients} clients on ${plans.toLocaleString('en')} plans of ${Object.keys(plan.parts).length} parts (${size} kB), one second to think, ${seconds} s:`,
    `  port open after ${Math.round(start)} ms; first page of the list ${list.milliseconds.toFixed(0)} ms, ${Math.round(list.text.length / 1024)} kB`,
    `  open ${ms(open, 0.5)} median, ${ms(open, 0.95)} at 95 % (${open.length}); save ${ms(save, 0.5)}, ${ms(save, 0.95)} (${save.length}, ${refused} not taken, ${broken} connections broken); list searched ${ms(running.list, 0.95)} at 95 %`,
    `  before that, in the first ${Math.min(10, seconds / 3)} s after the start: open ${ms(starting.open, 0.95)}, save ${ms(starting.save, 0.95)} at 95 % (${starting.save.length})`,
    `  meanwhile the machine gave ${(stolen * 100).toFixed(0)} % of its time to other guests`,
    `  a light request meanwhile: ${ms(probe, 0.5)} median, ${ms(probe, 0.99)} at 99 %, ${Math.max(...probe, 0).toFixed(0)} ms at most`,
    `  ${entries} entries of one's own: ${added}`,
    `  memory ${Math.round(before)} MB before, then each tenth of the time: ${tenths(memory).map(Math.round).join(', ')} MB`,
  ]
}

/** Seconds of processor time that the host of a virtual machine gave to others; 0 where it does not say. */
function stolenSeconds(): number {
  try {
    return Number(/^cpu +(?:\d+ +){7}(\d+)/.exec(readFileSync('/proc/stat', 'utf8'))?.[1] ?? 0) / 100
  } catch {
    return 0
  }
}

/** Ten values, evenly spread. */
const tenths = (values: readonly number[]): number[] =>
  Array.from({ length: 10 }, (_, n) => values[Math.floor(((n + 1) * (values.length - 1)) / 10)] ?? 0)

/** Adds entries of one's own and loads the catalogue with them. */
async function manyEntries(address: string, count: number): Promise<string> {
  const led = readFileSync(join(projectFolder(), 'catalog/parts/led.yaml'), 'utf8')
  const add = async (from: number): Promise<void> => {
    for (let n = from; n < Math.min(count, from + 100); n += 1) {
      const text = led.replace('id: led', `id: own-${n}`).replace('stem: LED', `stem: OWN${n}`)
      await ask('POST', `${address}/api/entries/parts`, JSON.stringify({ text }))
    }
  }
  const start = performance.now()
  for (let from = 0; from < count; from += 100) await add(from)
  const took = performance.now() - start
  const times: number[] = []
  for (let n = 0; n < 5; n += 1) times.push((await ask('GET', `${address}/api/catalog`)).milliseconds)
  const list = await ask('GET', `${address}/api/entries`)
  return `${Math.round(took / count)} ms to add one, catalogue loaded in ${percentile(times, 0.5).toFixed(0)} ms, list in ${list.milliseconds.toFixed(0)} ms (${JSON.parse(list.text).entries.length})`
}
