import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ask, freshFolder, startServer } from './server.ts'

const source = join(process.cwd(), 'torture/powerLoss.c')

/**
 * Power loss: everything that was not synchronised to the disk when a save was acknowledged is gone. A control that
 * writes with `synchronous = NORMAL` shows that the check would notice.
 */
export async function tortureByPowerLoss(checkout: string, rounds: number): Promise<string[]> {
  const folder = freshFolder()
  const library = join(folder, 'powerLoss.so')
  const built = spawnSync('cc', ['-shared', '-fPIC', '-O1', '-o', library, source, '-ldl'], { encoding: 'utf8' })
  if (built.status !== 0)
    return [`power loss: not tried, the C compiler says: ${built.stderr?.trim() ?? built.error?.message}`]
  let acknowledged = 0
  let lost = 0
  for (let round = 0; round < rounds; round += 1) {
    const data = join(folder, `data-${round}`)
    const onDisk = join(folder, `disk-${round}`)
    for (const one of [data, onDisk]) mkdirSync(one)
    const server = await startServer(checkout, data, { LD_PRELOAD: library, MARKPOST_ON_DISK: onDisk })
    const made = JSON.parse((await ask('POST', `${server.address}/api/plans`, JSON.stringify({ title: 'Start' }))).text)
    const saves = 5 + round * 3
    for (let n = 0; n < saves; n += 1) {
      const plan = { markpost: 1, title: `Save ${n}` }
      await ask('PUT', `${server.address}/api/plans/${made.id}`, JSON.stringify({ plan }), { 'If-Match': `"${n + 1}"` })
    }
    acknowledged += saves + 1
    // The moment after the last answer: what is on the disk now is what there is.
    const after = join(folder, `after-${round}`)
    // What is being written under another name is not on the disk yet, and may be gone at any moment.
    cpSync(onDisk, after, { recursive: true, filter: (from) => !from.endsWith('.part') })
    await server.kill()
    const db = new Database(join(after, 'markpost.db'))
    const row = db.prepare('SELECT title, revision FROM plans WHERE id = ?').get(made.id) as
      | { title: string; revision: number }
      | undefined
    db.close()
    lost += saves + 1 - (row?.revision ?? 0)
  }
  const control = controlLoss(folder, library)
  rmSync(folder, { recursive: true })
  return [
    `power loss after ${rounds} runs: ${acknowledged} saves acknowledged, ${lost} not on the disk (a control without synchronising loses ${control} of 20)`,
    ...(lost > 0 ? ['FAILED: acknowledged saves were not on the disk'] : []),
    ...(control === 0 ? ['FAILED: the check would not notice a loss'] : []),
  ]
}

/** How many of twenty commits are not on the disk when the log is not synchronised at each. */
function controlLoss(folder: string, library: string): number {
  const [data, onDisk] = [join(folder, 'control'), join(folder, 'control-disk')]
  for (const one of [data, onDisk]) mkdirSync(one)
  const program = `
    const db = new (require('better-sqlite3'))(${JSON.stringify(join(data, 'markpost.db'))})
    db.pragma('journal_mode = WAL'); db.pragma('synchronous = NORMAL')
    db.exec('CREATE TABLE t (n)'); db.pragma('wal_checkpoint(TRUNCATE)')
    for (let n = 0; n < 20; n += 1) db.prepare('INSERT INTO t VALUES (?)').run(n)
    process.kill(process.pid, 'SIGKILL')`
  spawnSync(process.execPath, ['-e', program], {
    env: { ...process.env, LD_PRELOAD: library, MARKPOST_ON_DISK: onDisk },
  })
  const db = new Database(join(onDisk, 'markpost.db'))
  const { n } = db.prepare('SELECT count(*) AS n FROM t').get() as { n: number }
  db.close()
  return 20 - n
}
