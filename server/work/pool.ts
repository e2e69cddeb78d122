import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { Piscina } from 'piscina'
import { projectFolder } from '../../node/builtCatalog.ts'
import { HttpProblem } from '../problem.ts'
import { type Tasks, tasks } from './tasks.ts'
import type { ThreadData } from './worker.ts'

type Request<K extends keyof Tasks> = Parameters<Tasks[K]>[0]
type Answer<K extends keyof Tasks> = ReturnType<Tasks[K]>

export interface Wish {
  /** Milliseconds that the task may take, twenty seconds when left out. */
  readonly within?: number | undefined
  /** Id of the plan that the task is about: the thread that had it last still has it read. */
  readonly plan?: string | undefined
  /** Nobody waits for it: a thread of its own does it, in time that the others leave. */
  readonly background?: boolean
}

/** Who does the heavy work: threads, or in tests the caller itself. */
export interface Work {
  /** Does a task. When that takes too long its thread is ended, and the caller gets a 503 that says so. */
  readonly run: <K extends keyof Tasks>(task: K, request: Request<K>, wish?: Wish) => Promise<Answer<K>>
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
  const made = (workerData: ThreadData): Piscina =>
    new Piscina({
      filename,
      workerData,
      minThreads: 1,
      maxThreads: 1,
      // Reading and writing YAML makes much that is soon thrown away; with more room it is cleared up less often.
      resourceLimits: { maxYoungGenerationSizeMb: 64 },
    })
  const all = Array.from({ length: THREADS }, () => ({ thread: made({ background: false }), busy: false }))
  const behind = made({ background: true })
  type One = (typeof all)[number]
  const known = new Map<string, One>()
  /** Tasks that found every thread busy; whichever is free first takes the first of them. */
  const queue: ((one: One) => void)[] = []

  /** The thread that had the plan last where it is free, else any that is free, else the first to become so. */
  const take = (plan: string | undefined, signal: AbortSignal): Promise<One> => {
    const last = plan === undefined ? undefined : known.get(plan)
    const free = last && !last.busy ? last : all.find((one) => !one.busy)
    if (free) {
      free.busy = true
      return Promise.resolve(free)
    }
    if (queue.length >= MOST_WAITING)
      throw new HttpProblem(503, 'Busy', 'too much is asked at once; try again in a moment', { kind: 'busy' })
    return new Promise((resolve, reject) => {
      const giveUp = (): void => {
        queue.splice(queue.indexOf(next), 1)
        reject(signal.reason)
      }
      const next = (one: One): void => {
        signal.removeEventListener('abort', giveUp)
        resolve(one)
      }
      queue.push(next)
      signal.addEventListener('abort', giveUp, { once: true })
    })
  }
  const give = (one: One): void => {
    const next = queue.shift()
    if (next) next(one)
    else one.busy = false
  }
  const remember = (plan: string, one: One): void => {
    known.delete(plan)
    known.set(plan, one)
    const [oldest] = known.keys()
    if (known.size > MOST_KNOWN && oldest !== undefined) known.delete(oldest)
  }

  return {
    run: async (task, request, { within = PATIENCE, plan, background } = {}) => {
      const signal = AbortSignal.timeout(within)
      let one: One | undefined
      try {
        if (background) return await behind.run(request, { name: task, signal })
        one = await take(plan, signal)
        if (plan !== undefined) remember(plan, one)
        return await one.thread.run(request, { name: task, signal })
      } catch (error) {
        const { name } = error as Error
        if (name === 'AbortError' || name === 'TimeoutError')
          throw new HttpProblem(
            503,
            'Took too long',
            `this took longer than ${Math.round(within / 1000)} seconds and was stopped; nothing was changed`,
            { kind: 'too-long' },
          )
        throw error
      } finally {
        if (one) give(one)
      }
    },
    close: async () => {
      await Promise.all([behind, ...all.map(({ thread }) => thread)].map((thread) => thread.destroy()))
    },
  }
}

/** Does every task where it is called. */
export const inPlace: Work = {
  run: async (task, request) => (tasks[task] as (request: unknown) => Awaited<Answer<typeof task>>)(request),
  close: async () => undefined,
}
