import { type Tasks, tasks } from './tasks.ts'

/** What a thread of the pool offers: each task under its name. */
export const { keep, open, changes, summary, sheet, assign, catalogue, entries }: Tasks = tasks
