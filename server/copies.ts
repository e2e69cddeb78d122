import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Logger } from 'pino'
import { BackupError, backup } from './backup.ts'
import type { PlanStore } from './store.ts'
import { thinned } from './thinning.ts'

/** Folder of a data folder in which dated copies of it lie. */
export const COPIES = 'copies'
const NAME = /^markpost-(\d{4}-\d{2}-\d{2})T(\d{2})(\d{2})\.backup$/
/** Milliseconds between two looks, and how old the newest copy must be before there is another. */
const LOOK = 3_600_000
const AGE = 20 * 3_600_000

/** Dated copies that lie in a data folder, the newest first. */
export function copiesIn(data: string): { readonly file: string; readonly made: number }[] {
  const folder = join(data, COPIES)
  if (!existsSync(folder)) return []
  return readdirSync(folder)
    .flatMap((name) => {
      const [, day, hour, minute] = NAME.exec(name) ?? []
      const made = Date.parse(`${day}T${hour}:${minute}:00Z`)
      return Number.isNaN(made) ? [] : [{ file: join(folder, name), made }]
    })
    .sort((a, b) => b.made - a.made)
}

/** Makes a copy of a data folder inside it where the newest is a day old, and lets old ones go by their age. */
export async function copyWhenDue(data: string, now = new Date()): Promise<string | undefined> {
  const [newest] = copiesIn(data)
  if (newest && now.getTime() - newest.made < AGE) return undefined
  const folder = join(data, COPIES)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, `markpost-${now.toISOString().slice(0, 16).replace(/:/g, '')}.backup`)
  await backup(data, file, now)
  for (const { file: old } of thinned(copiesIn(data), ({ made }) => made, now.getTime())) rmSync(old, { force: true })
  return file
}

/** Looks now and then whether a copy is due; what does not work is logged, and tried again. */
export function keepCopies(data: string, store: PlanStore, log: Logger): { readonly stop: () => Promise<void> } {
  let running: Promise<unknown> = Promise.resolve()
  const look = (): void => {
    running = running
      .then(async () => {
        if (store.count() > 0) await copyWhenDue(data)
      })
      .catch((error: unknown) => {
        log.error(
          { reason: error instanceof BackupError ? error.message : error },
          'no copy of the data folder could be made',
        )
      })
  }
  const first = setTimeout(look, 60_000)
  const timer = setInterval(look, LOOK)
  first.unref()
  timer.unref()
  return {
    stop: async () => {
      clearTimeout(first)
      clearInterval(timer)
      await running
    },
  }
}
