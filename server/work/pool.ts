import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { Piscina } from 'piscina'
import { projectFolder } from '../../node/builtCatalog.ts'
import { HttpProblem } from '../problem.ts'
import { type Tasks, tasks } from './tasks.ts'

type Request<K extends keyof Tasks> = Parameters<Tasks[K]>[0]
type Answer<K extends keyof Tasks> = ReturnType<Tasks[K]>

export interface Wish {
  /** Milliseconds that the task may take, twenty seconds when left out. */
  readonly within?: number
  /** Id of the plan that the task is about: the thread that had it last still has it read. */
  readonly plan?: string | undefined
}

/** Who does the heavy work: threads, or in tests the caller itself. */
export interface Work {
  /** Does a task. When that takes too long its thread is ended, and the caller gets a 503 that says so. */
  readonly run: <K extends keyof Tasks>(task: K, request: Request<K>, wish?: Wish) => Promise<Answer<K>>
  /** Resolves when no task runs or waits, and after so many milliseconds at the latest. */
  readonly quiet: (milliseconds: number) => Promise<void>
  readonly close: () => Promise<void>
}

const THREADS = Math.max(2, Math.min(4, availableParallelism()))
const PATIENCE = 20_000
/** Tasks that may wait; more at once are sent away, before memory runs out. */
const MOST_WAITING = 1000
/** Plans of which it is known which thread had them last. */
const MOST_KNOWN = 1000

/** The server's own threads, each with the catalogue loaded. Needs the built program. */
export function threads(): Work | undefined {
  const filename = join(projectFolder(), 'dist/cli/work.mjs')
  if (!existsSync(filename)) return undefined
  // Threads are there from the start: one that is made when it is needed keeps that request waiting.
  const pools = Array.from({ length: THREADS }, () => ({
    thread: new Piscina({
      filename,
      minThreads: 1,
      maxThreads: 1,
      maxQueue: MOST_WAITING / THREADS,
      // Reading and writing YAML makes much that is soon thrown away; with more room it is cleared up less often.
      resourceLimits: { maxYoungGenerationSizeMb: 64 },
    }),
    tasks: 0,
  }))
  const known = new Map<string, (typeof pools)[number]>()
  const waiting = new Set<() => void>()
  const busy = (): boolean => pools.some(({ tasks }) => tasks > 0)

  const poolFor = (plan: string | undefined): (typeof pools)[number] => {
    const free = pools.reduce((best, one) => (one.tasks < best.tasks ? one : best))
    if (plan === undefined) return free
    const last = known.get(plan)
    // Reading it again takes less time than waiting for another task.
    const chosen = last !== undefined && last.tasks <= free.tasks ? last : free
    known.delete(plan)
    known.set(plan, chosen)
    const [oldest] = known.keys()
    if (known.size > MOST_KNOWN && oldest !== undefined) known.delete(oldest)
    return chosen
  }

  return {
    run: async (task, request, { within = PATIENCE, plan } = {}) => {
      const pool = poolFor(plan)
      pool.tasks += 1
      try {
        return await pool.thread.run(request, { name: task, signal: AbortSignal.timeout(within) })
      } catch (error) {
        const { name, message } = error as Error
        if (name === 'AbortError' || name === 'TimeoutError')
          throw new HttpProblem(
            503,
            'Took too long',
            `this took longer than ${Math.round(within / 1000)} seconds and was stopped; nothing was changed`,
            { kind: 'too-long' },
          )
        if (message.startsWith('Task queue is at limit'))
          throw new HttpProblem(503, 'Busy', 'too much is asked at once; try again in a moment', { kind: 'busy' })
        throw error
      } finally {
        pool.tasks -= 1
        if (!busy()) for (const done of [...waiting]) done()
      }
    },
    quiet: async (milliseconds) => {
      if (!busy()) return
      await new Promise<void>((resolve) => {
        const done = (): void => {
          clearTimeout(timer)
          waiting.delete(done)
          resolve()
        }
        const timer = setTimeout(done, milliseconds)
        waiting.add(done)
      })
    },
    close: async () => {
      await Promise.all(pools.map(({ thread }) => thread.destroy()))
    },
  }
}

/** Does every task where it is called. */
export const inPlace: Work = {
  run: async (task, request) => (tasks[task] as (request: unknown) => Awaited<Answer<typeof task>>)(request),
  quiet: async () => undefined,
  close: async () => undefined,
}
