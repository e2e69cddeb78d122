import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { Piscina } from 'piscina'
import { projectFolder } from '../../node/builtCatalog.ts'
import { HttpProblem } from '../problem.ts'
import { type Tasks, tasks } from './tasks.ts'

type Request<K extends keyof Tasks> = Parameters<Tasks[K]>[0]
type Answer<K extends keyof Tasks> = ReturnType<Tasks[K]>

/** Who does the heavy work: threads, or in tests the caller itself. */
export interface Work {
  /**
   * Does a task within so many milliseconds (twenty seconds when left out). Past them its thread is ended, and the
   * caller gets a 503 that says so.
   */
  readonly run: <K extends keyof Tasks>(task: K, request: Request<K>, milliseconds?: number) => Promise<Answer<K>>
  readonly close: () => Promise<void>
}

const THREADS = Math.max(2, Math.min(4, availableParallelism()))
const PATIENCE = 20_000
/** Tasks that may wait; more at once are sent away, before memory runs out. */
const MOST_WAITING = 1000

/** The server's own threads, each with the catalogue loaded. Needs the built program. */
export function threads(): Work | undefined {
  const filename = join(projectFolder(), 'dist/cli/work.mjs')
  if (!existsSync(filename)) return undefined
  const pool = new Piscina({
    filename,
    // All are there from the start: one that is made when it is needed keeps that request waiting.
    minThreads: THREADS,
    maxThreads: THREADS,
    maxQueue: MOST_WAITING,
  })
  return {
    run: async (task, request, milliseconds = PATIENCE) => {
      try {
        return await pool.run(request, { name: task, signal: AbortSignal.timeout(milliseconds) })
      } catch (error) {
        const { name, message } = error as Error
        if (name === 'AbortError' || name === 'TimeoutError')
          throw new HttpProblem(
            503,
            'Took too long',
            `this took longer than ${Math.round(milliseconds / 1000)} seconds and was stopped; nothing was changed`,
            { kind: 'too-long' },
          )
        if (message.startsWith('Task queue is at limit'))
          throw new HttpProblem(503, 'Busy', 'too much is asked at once; try again in a moment', { kind: 'busy' })
        throw error
      }
    },
    close: () => pool.destroy(),
  }
}

/** Does every task where it is called. */
export const inPlace: Work = {
  run: async (task, request) => (tasks[task] as (request: unknown) => Awaited<Answer<typeof task>>)(request),
  close: async () => undefined,
}
