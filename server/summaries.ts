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

/** Milliseconds that a list waits for the summaries of plans that were written just before. */
const LIST_WAITS = 100
/** Milliseconds that a summary may take: while others keep the machine busy, it gets little of it. */
const SUMMARY_WITHIN = 120_000

/**
 * Makes the summaries of plans, one after the other while the server works: of those just written, after their save was
 * answered, and of those that an older program wrote or that are broken. A plan that cannot be read is noted as such and
 * stops nothing. What is not done when the server ends is found missing at the next start.
 */
export class Summaries {
  progress: Progress = { done: 0, of: 0 }
  readonly #parts: Parts
  /** Plans just written; they come before the others. */
  readonly #written = new Set<string>()
  #stale: string[] = []
  #running: Promise<void> | undefined
  #making: string | undefined
  /** Who waits, and for which plans. */
  readonly #waiters = new Map<() => void, Set<string>>()
  #stopped = false

  constructor(parts: Parts) {
    this.#parts = parts
  }

  /** Ends after the summary that is being made. */
  async stop(): Promise<void> {
    this.#stopped = true
    await this.#running
  }

  /** Makes the summary of a plan that was just written. */
  written(id: string): void {
    this.#written.add(id)
    this.#start()
  }

  /** Resolves when the plans written so far have their summaries, after a tenth of a second at the latest. */
  async settled(): Promise<void> {
    const plans = new Set(this.#written)
    if (this.#making !== undefined) plans.add(this.#making)
    if (plans.size === 0) return
    await new Promise<void>((resolve) => {
      const done = (): void => {
        clearTimeout(timer)
        this.#waiters.delete(done)
        resolve()
      }
      const timer = setTimeout(done, LIST_WAITS)
      this.#waiters.set(done, plans)
    })
  }

  /** Makes those anew that are missing, broken, or of an older program; says how far it is. */
  async renew(): Promise<void> {
    this.#stale = await patiently(() => this.#parts.store.staleSummaries())
    this.progress = { done: 0, of: this.#stale.length }
    this.#start()
    await this.#running
  }

  #start(): void {
    this.#running ??= this.#run().finally(() => {
      this.#running = undefined
      // Something may have come between the last look and now.
      if (!this.#stopped && this.#written.size + this.#stale.length > 0) this.#start()
    })
  }

  async #run(): Promise<void> {
    let told = 0
    while (!this.#stopped) {
      const [written] = this.#written
      const id = written ?? this.#stale.pop()
      if (id === undefined) break
      if (written !== undefined) {
        // Taken out first: written once more meanwhile, it comes again.
        this.#written.delete(written)
        this.#making = written
        await this.#make(written)
        this.#making = undefined
        for (const [done, plans] of [...this.#waiters]) if (plans.delete(written) && plans.size === 0) done()
        continue
      }
      await this.#make(id)
      this.progress = { ...this.progress, done: this.progress.done + 1 }
      if (Date.now() - told > 500 || this.progress.done === this.progress.of) {
        told = Date.now()
        this.#parts.events.tell({ type: 'summaries', ...this.progress })
      }
    }
  }

  async #make(id: string): Promise<void> {
    const { store, shelf, work, log } = this.#parts
    try {
      const plan = await patiently(() => store.get(id))
      if (!plan) return
      const { bytes } = await shelf.now()
      const read = await work.run(
        'summary',
        { shelf: bytes, text: plan.text, title: plan.title },
        { background: true, within: SUMMARY_WITHIN },
      )
      const { summary, sought } = read.ok ? read.value : { summary: null, sought: plan.title.toLowerCase() }
      await patiently(() => store.refreshSummary(id, plan.revision, summary, sought))
    } catch (error) {
      if (!this.#stopped) log.error({ error, plan: id }, 'the summary of a plan could not be made')
    }
  }
}
