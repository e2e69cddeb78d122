import type { Logger } from 'pino'
import type { Events } from './events.ts'
import type { Shelf } from './shelf.ts'
import type { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import type { Work } from './work/pool.ts'

/** How far the making of summaries is; nothing is left when `done` is `of`. */
export interface Progress {
  readonly done: number
  readonly of: number
}

interface Parts {
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly work: Work
  readonly events: Events
  readonly log: Logger
}

/**
 * Makes summaries anew that an older program wrote or that are broken, one after the other while the server works. A
 * plan that cannot be read is noted as such and stops nothing.
 */
export class Summaries {
  progress: Progress = { done: 0, of: 0 }
  #stopped = false

  stop(): void {
    this.#stopped = true
  }

  async renew({ store, shelf, work, events, log }: Parts): Promise<void> {
    const stale = await patiently(() => store.staleSummaries())
    this.progress = { done: 0, of: stale.length }
    let told = 0
    for (const id of stale) {
      if (this.#stopped) return
      try {
        const plan = await patiently(() => store.get(id))
        if (plan) {
          const { bytes } = await shelf.now()
          const read = await work.run('summary', { shelf: bytes, text: plan.text, title: plan.title })
          const { summary, sought } = read.ok ? read.value : { summary: null, sought: plan.title.toLowerCase() }
          await patiently(() => store.refreshSummary(id, plan.revision, summary, sought))
        }
      } catch (error) {
        if (this.#stopped) return
        log.error({ error, plan: id }, 'the summary of a plan could not be made')
      }
      this.progress = { done: this.progress.done + 1, of: stale.length }
      if (Date.now() - told > 500 || this.progress.done === stale.length) {
        told = Date.now()
        events.tell({ type: 'summaries', ...this.progress })
      }
    }
  }
}
