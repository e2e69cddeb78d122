import { setPriority } from 'node:os'
import { workerData } from 'piscina'
import { type Tasks, tasks } from './tasks.ts'

/** What a thread is told when it is made. */
export interface ThreadData {
  readonly background: boolean
}

/** How much a thread in the background stands back; from 0, as all others, to 19. */
const NICE = 10
// Only Linux counts the priority by thread; elsewhere this would slow the whole server.
if (process.platform === 'linux' && (workerData as ThreadData | undefined)?.background) setPriority(NICE)

/** What a thread of the pool offers: each task under its name. */
export const { keep, open, changes, summary, sheet, assign, catalogue, entries }: Tasks = tasks
