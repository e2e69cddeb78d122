import type { Request, Response } from 'express'
import type { PlanStore } from './store.ts'
import { StoreTrouble } from './storeTrouble.ts'

/** What a page is told without asking. */
export type ServerEvent =
  | { readonly type: 'plan'; readonly id: string; readonly revision: number }
  | { readonly type: 'plan-deleted'; readonly id: string }
  | { readonly type: 'shelf' }
  /** What a board said of a plan, for the page at the bench; kept nowhere. */
  | { readonly type: 'answers'; readonly id: string; readonly lines: readonly string[] }
  /** What others may do with a plan is something else now. */
  | { readonly type: 'rights' }
  /** Another program wrote to the database: whatever one holds may be old. */
  | { readonly type: 'anything' }
  | { readonly type: 'summaries'; readonly done: number; readonly of: number }

/** Milliseconds between two looks at whether another program wrote; also keeps the connections alive. */
const PULSE = 1000
/** Pages that may listen at once. */
const MOST_LISTENERS = 500

/** Tells every open page what changes, as server-sent events. */
export class Events {
  /** Who listens, and which plans they may hear of. */
  readonly #listeners = new Map<Response, (plan: string) => boolean>()
  readonly #timer: NodeJS.Timeout
  #state: number

  constructor(store: PlanStore) {
    this.#state = store.foreignState()
    this.#timer = setInterval(() => {
      try {
        const state = store.foreignState()
        if (state !== this.#state) this.tell({ type: 'anything' })
        else this.#send(': \n\n')
        this.#state = state
      } catch (error) {
        if (!(error instanceof StoreTrouble)) throw error
      }
    }, PULSE)
    this.#timer.unref()
  }

  listen(_request: Request, response: Response, mayHear: (plan: string) => boolean = () => true): void {
    if (this.#listeners.size >= MOST_LISTENERS) {
      response.status(204).end()
      return
    }
    response.status(200).set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' })
    response.flushHeaders()
    response.write('retry: 1000\n\n')
    this.#listeners.set(response, mayHear)
    response.on('close', () => this.#listeners.delete(response))
  }

  /** Browsers that listen now. */
  get listening(): number {
    return this.#listeners.size
  }

  tell(event: ServerEvent): void {
    this.#send(`data: ${JSON.stringify(event)}\n\n`, 'id' in event ? event.id : undefined)
  }

  #send(text: string, plan?: string): void {
    // A page that does not read any more must not fill the memory.
    for (const [listener, mayHear] of this.#listeners)
      if (plan !== undefined && !mayHear(plan)) continue
      else if (listener.writableLength > 100_000) listener.destroy()
      else listener.write(text)
  }

  close(): void {
    clearInterval(this.#timer)
    for (const listener of this.#listeners.keys()) listener.end()
  }
}
