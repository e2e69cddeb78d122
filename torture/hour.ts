import { rmSync } from 'node:fs'
import { largeKit } from '../benchmarks/largeKit.ts'
import { loadCatalog } from '../node/builtCatalog.ts'
import { ask, freshFolder, percentile, startServer } from './server.ts'

/** Requests of each kind beside a hundred saves. */
const SHEETS = 4
const SEARCHES = 2
/** Clients that work at once: more would only wait. */
const AT_ONCE = 6

/**
 * An hour's worth of what fifty clients do, a save each twenty seconds, as fast as the machine bears it: the memory of the
 * server must not grow with what has gone by, while the history does.
 */
export async function tortureByHour(checkout: string, saves: number): Promise<string[]> {
  const data = freshFolder()
  const server = await startServer(checkout, data)
  const kit = largeKit(loadCatalog(), 40)
  const plans: { id: string; revision: number }[] = []
  for (let n = 0; n < 50; n += 1) {
    const plan = { ...kit, title: `Plan ${n}` }
    const made = JSON.parse((await ask('POST', `${server.address}/api/plans`, JSON.stringify({ plan }))).text)
    plans.push({ id: made.id, revision: 1 })
  }
  const times: number[] = []
  const memory: number[] = []
  let done = 0
  let refused = 0
  const begun = performance.now()
  const client = async (first: number): Promise<void> => {
    // Each has plans of its own: nobody saves over another.
    const own = plans.filter((_, at) => at % AT_ONCE === first)
    for (let n = 0; done < saves; n += 1) {
      const plan = own[n % own.length]!
      const url = `${server.address}/api/plans/${plan.id}`
      const opened = await ask('GET', url)
      const { plan: now } = JSON.parse(opened.text)
      now.title = `Save ${n}`
      now.notes = `word ${n}`
      const saved = await ask('PUT', url, JSON.stringify({ plan: now }), { 'If-Match': `"${plan.revision}"` })
      times.push(saved.milliseconds)
      if (saved.status === 200) plan.revision += 1
      else refused += 1
      done += 1
      if (done % 100 < SHEETS) await ask('GET', `${url}/sheet?as=csv`)
      if (done % 100 < SEARCHES) await ask('POST', `${url}/assign`, '{"seconds":0.5}')
      if (done % 25 === 0) await ask('GET', `${url}/revisions`)
      if (done % Math.ceil(saves / 50) === 0) memory.push(server.megabytes())
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, (_, n) => client(n)))
  const seconds = (performance.now() - begun) / 1000
  await server.kill()
  rmSync(data, { recursive: true })
  const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / Math.max(1, list.length)
  const fifth = Math.floor(memory.length / 5)
  const [early, late] = [mean(memory.slice(fifth, 2 * fifth)), mean(memory.slice(-fifth))]
  return [
    `An hour's worth of fifty clients, ${done.toLocaleString('en')} saves of plans of 40 parts in ${Math.round(seconds)} s: ${refused} not taken, save ${percentile(times, 0.5).toFixed(0)} ms median, ${percentile(times, 0.95).toFixed(0)} ms at 95 %`,
    `  memory ${Math.round(early)} MB in the second fifth, ${Math.round(late)} MB in the last; ${memory
      .map(Math.round)
      .filter((_, n) => n % 5 === 4)
      .join(', ')} MB`,
    // A server warms up for its first thousands of saves: a shorter run says nothing about a trend.
    ...(refused > 0 || (done >= 3000 && late > 1.25 * early)
      ? ['FAILED: saves were refused, or the memory grows']
      : []),
  ]
}
