import { proxy, type Remote, wrap } from 'comlink'
import type { Addable } from '../../core/assign/addable.ts'
import type { AssignResult } from '../../core/assign/assign.ts'
import type { Fit } from '../../core/assign/fit.ts'
import type { Moved } from '../../core/assign/moveBoard.ts'
import type { Repair } from '../../core/assign/repair.ts'
import type { LayoutData } from '../../core/breadboard/layout.ts'
import type { Catalog } from '../../core/catalog/catalog.ts'
import type { Edit, Fix } from '../../core/plan/edit.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { Finding } from '../../core/rules/finding.ts'
import type { Mended } from '../../core/rules/mendAll.ts'
import type { Searcher, WayOut } from './search.worker.ts'

/** The search in its own thread. Stopping ends the thread; the next search starts a new one. */
export class SearchClient {
  readonly #catalog: Catalog
  #worker: Worker | undefined
  #remote: Remote<Searcher> | undefined
  #cancel: (() => void) | undefined
  #halt: Int32Array | undefined

  constructor(catalog: Catalog) {
    this.#catalog = catalog
  }

  /** The answer, or undefined when it was stopped before there was any. */
  async assign(
    plan: Plan,
    refs: readonly string[] | undefined,
    tell: (tried: number) => void,
  ): Promise<AssignResult | undefined> {
    const stopped = new Promise<undefined>((resolve) => {
      this.#cancel = () => resolve(undefined)
    })
    // Shared memory is there where the page is isolated from others, as the server's headers ask for.
    const halt = typeof SharedArrayBuffer === 'undefined' ? undefined : new SharedArrayBuffer(4)
    this.#halt = halt && new Int32Array(halt)
    const remote = await this.#start()
    try {
      return await Promise.race([remote.assign(plan, refs, halt, proxy(tell)), stopped])
    } finally {
      this.#halt = undefined
    }
  }

  /** Asks a running search for its best so far; without shared memory it is ended instead. */
  halt(): void {
    if (this.#halt) Atomics.store(this.#halt, 0, 1)
    else this.stop()
  }

  /** Parts that still go, or undefined when it was stopped. */
  async addable(plan: Plan, tell: (done: number, of: number) => void): Promise<Addable[] | undefined> {
    const stopped = new Promise<undefined>((resolve) => {
      this.#cancel = () => resolve(undefined)
    })
    const remote = await this.#start()
    return Promise.race([remote.addable(plan, proxy(tell)), stopped])
  }

  /** All that can be mended without giving anything up. */
  async mendAll(plan: Plan): Promise<Mended> {
    return (await this.#start()).mendAll(plan)
  }

  /** Boards ranked for a plan's parts, or undefined when it was stopped. */
  async fit(plan: Plan, tell: (done: number, of: number) => void): Promise<Fit[] | undefined> {
    const stopped = new Promise<undefined>((resolve) => {
      this.#cancel = () => resolve(undefined)
    })
    const remote = await this.#start()
    return Promise.race([remote.fit(plan, proxy(tell)), stopped])
  }

  async move(plan: Plan, ref: string, board: string): Promise<Moved> {
    return (await this.#start()).move(plan, ref, board)
  }

  async repair(plan: Plan): Promise<Repair | undefined> {
    return (await this.#start()).repair(plan)
  }

  async wayOut(plan: Plan, known: AssignResult | undefined): Promise<WayOut | undefined> {
    return (await this.#start()).wayOut(plan, known)
  }

  /** The bench laid out, or undefined when it was stopped. */
  async layOut(plan: Plan, tell: (share: number) => void): Promise<LayoutData | undefined> {
    const stopped = new Promise<undefined>((resolve) => {
      this.#cancel = () => resolve(undefined)
    })
    const remote = await this.#start()
    return Promise.race([remote.layOut(plan, proxy(tell)), stopped])
  }

  async suggestBreadboards(plan: Plan, tell: (share: number) => void): Promise<Edit[]> {
    return (await this.#start()).suggestBreadboards(plan, proxy(tell))
  }

  async benchFixes(plan: Plan, finding: Pick<Finding, 'rule' | 'at'>): Promise<Fix[]> {
    return (await this.#start()).benchFixes(plan, finding)
  }

  stop(): void {
    this.#worker?.terminate()
    this.#worker = undefined
    this.#remote = undefined
    this.#cancel?.()
  }

  async #start(): Promise<Remote<Searcher>> {
    if (this.#remote) return this.#remote
    this.#worker = new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module' })
    this.#remote = wrap<Searcher>(this.#worker)
    await this.#remote.load(this.#catalog)
    return this.#remote
  }
}
