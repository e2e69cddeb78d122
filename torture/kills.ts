import { rmSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { seeded } from '../core/base/random.ts'
import { ask, freshFolder, sleep, startServer } from './server.ts'

interface Seen {
  readonly id: string
  /** Newest revision that the server acknowledged, and the title of that save. */
  revision: number
  title: string
  /** Title of a save that was under way when the server died: it may be kept or not. */
  maybe: string | undefined
}

/** Kills the server hard, again and again while clients save, and looks each time whether all that was acknowledged is there. */
export async function tortureByKills(checkout: string, kills: number): Promise<string[]> {
  const data = freshFolder()
  const random = seeded(kills)
  const seen: Seen[] = []
  let acknowledged = 0
  let lost = 0
  let damaged = 0
  for (let round = 0; round < kills; round += 1) {
    const server = await startServer(checkout, data)
    if (round === 0)
      for (let n = 0; n < 8; n += 1) {
        const made = JSON.parse(
          (await ask('POST', `${server.address}/api/plans`, JSON.stringify({ title: `Plan ${n}` }))).text,
        )
        seen.push({ id: made.id, revision: 1, title: `Plan ${n}`, maybe: undefined })
      }
    for (const one of seen) {
      const answer = await ask('GET', `${server.address}/api/plans/${one.id}`)
      const now = answer.status === 200 ? JSON.parse(answer.text) : undefined
      const kept = now?.revision === one.revision && now.plan.title === one.title
      const keptMore = one.maybe !== undefined && now?.revision === one.revision + 1 && now.plan.title === one.maybe
      if (!kept && !keptMore) lost += 1
      if (now) {
        one.revision = now.revision
        one.title = now.plan.title
      }
      one.maybe = undefined
    }
    let isOver = false
    const client = async (one: Seen): Promise<void> => {
      for (let n = 0; !isOver; n += 1) {
        one.maybe = `Round ${round}, save ${n}`
        const plan = { markpost: 1, title: one.maybe, parts: { A: { part: 'led' }, [`N${n}`]: { part: 'button' } } }
        try {
          const answer = await ask('PUT', `${server.address}/api/plans/${one.id}`, JSON.stringify({ plan }), {
            'If-Match': `"${one.revision}"`,
          })
          if (answer.status !== 200) continue
          acknowledged += 1
          one.revision = JSON.parse(answer.text).revision
          one.title = one.maybe
          one.maybe = undefined
        } catch {
          return
        }
      }
    }
    const clients = seen.map(client)
    await sleep(20 + random() * 600)
    await server.kill()
    isOver = true
    await Promise.all(clients)
    if (round % 50 === 49 || round === kills - 1) {
      const db = new Database(join(data, 'markpost.db'), { readonly: true })
      if (db.pragma('integrity_check', { simple: true }) !== 'ok') damaged += 1
      db.close()
    }
  }
  rmSync(data, { recursive: true })
  return [
    `${kills} hard kills under the load of ${seen.length} clients: ${acknowledged} saves acknowledged, ${lost} lost, ${damaged} damaged databases`,
    ...(lost + damaged > 0 ? ['FAILED: acknowledged saves were lost'] : []),
  ]
}
