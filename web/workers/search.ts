import { proxy, type Remote, wrap } from 'comlink'
import type { Addable } from '../../core/advice/addable.ts'
import type { Fit } from '../../core/advice/fit.ts'
import type { AllFixed } from '../../core/advice/fixAll.ts'
import type { TriedFix } from '../../core/advice/fixes.ts'
import type { Paper } from '../../core/advice/kitToPaper.ts'
import type { Moved } from '../../core/advice/moveBoard.ts'
import type { Question } from '../../core/advice/questions.ts'
import type { Rearrangement } from '../../core/advice/rearrange.ts'
import type { AssignResult } from '../../core/assign/assign.ts'
import type { LayoutData } from '../../core/breadboard/layout.ts'
import type { Diagnosis, Observation } from '../../core/bringup/diagnose.ts'
import type { Laid } from '../../core/bringup/laid.ts'
import type { Catalog } from '../../core/catalog/catalog.ts'
import type { ClassRow, ClassTask, HandedIn } from '../../core/classroom/classRow.ts'
import type { Edit } from '../../core/plan/edit.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { Finding } from '../../core/rules/finding.ts'
import type { Rehearsed, RunAnswer } from './rehearsal.ts'
import type { Impasse, Searcher } from './search.worker.ts'

/** Lets a call tell how far it is until it has its answer. */
type WhileOpen = <A extends unknown[]>(tell: (...said: A) => void) => (...said: A) => void

/**
 * The search in its own thread. Stopping ends the thread; the next search starts a new one. Every answer is undefined
 * when it was stopped before there was any. A thread that cannot be loaded or breaks off rejects with words.
 */
export class SearchClient {
  readonly #catalog: Catalog
  #worker: Worker | undefined
  #remote: Promise<Remote<Searcher>> | undefined
  /** Calls that wait, to be told when the thread ends before it answers. */
  readonly #waiting = new Set<{ readonly stop: () => void; readonly fail: (reason: Error) => void }>()
  #halt: Int32Array | undefined

  constructor(catalog: Catalog) {
    this.#catalog = catalog
  }

  assign(
    plan: Plan,
    refs: readonly string[] | undefined,
    tell: (tried: number) => void,
  ): Promise<AssignResult | undefined> {
    return this.#haltable((remote, halt, whileOpen) => remote.assign(plan, refs, halt, whileOpen(tell)))
  }

  /** The kit wired and laid out. */
  kitToPaper(plan: Plan, tell: (share: number) => void): Promise<Paper | undefined> {
    return this.#haltable((remote, halt, whileOpen) => remote.kitToPaper(plan, halt, whileOpen(tell)))
  }

  async #haltable<T>(
    call: (remote: Remote<Searcher>, halt: SharedArrayBuffer | undefined, whileOpen: WhileOpen) => Promise<T>,
  ): Promise<T | undefined> {
    // Shared memory is there where the page is isolated from others, as the server's headers ask for.
    const halt = typeof SharedArrayBuffer === 'undefined' ? undefined : new SharedArrayBuffer(4)
    this.#halt = halt && new Int32Array(halt)
    try {
      return await this.#ask((remote, whileOpen) => call(remote, halt, whileOpen))
    } finally {
      this.#halt = undefined
    }
  }

  /** Asks a running search for its best so far; without shared memory it is ended instead. */
  halt(): void {
    if (this.#halt) Atomics.store(this.#halt, 0, 1)
    else this.stop()
  }

  /** Parts that still go. */
  addable(plan: Plan, tell: (done: number, of: number) => void): Promise<Addable[] | undefined> {
    return this.#ask((remote, whileOpen) => remote.addable(plan, whileOpen(tell)))
  }

  /** All that can be mended without giving anything up. */
  fixAll(plan: Plan): Promise<AllFixed | undefined> {
    return this.#ask((remote) => remote.fixAll(plan))
  }

  /** Boards ranked for a plan's parts. */
  fit(plan: Plan, tell: (done: number, of: number) => void): Promise<Fit[] | undefined> {
    return this.#ask((remote, whileOpen) => remote.fit(plan, whileOpen(tell)))
  }

  /** One plan of a class. */
  classRow(work: HandedIn, task: ClassTask): Promise<ClassRow | undefined> {
    return this.#ask((remote) => remote.classRow(work, task) as Promise<ClassRow>)
  }

  /** A program run on the wiring. */
  rehearse(rehearsed: Rehearsed): Promise<RunAnswer | undefined> {
    return this.#ask((remote) => remote.rehearse(rehearsed) as Promise<RunAnswer>)
  }

  move(plan: Plan, ref: string, board: string): Promise<Moved | undefined> {
    return this.#ask((remote) => remote.move(plan, ref, board))
  }

  rearrange(plan: Plan): Promise<Rearrangement | undefined> {
    return this.#ask((remote) => remote.rearrange(plan))
  }

  /** Causes of what was seen on a build. */
  diagnose(plan: Plan, observations: readonly Observation[], laid: Laid): Promise<Diagnosis | undefined> {
    return this.#ask((remote) => remote.diagnose(plan, observations, laid))
  }

  /** What only the maker knows. */
  questions(plan: Plan): Promise<Question[] | undefined> {
    return this.#ask((remote) => remote.questions(plan))
  }

  wayOut(plan: Plan, known: AssignResult | undefined): Promise<Impasse | undefined> {
    return this.#ask((remote) => remote.wayOut(plan, known))
  }

  /** The bench laid out. */
  layOut(plan: Plan, tell: (share: number) => void): Promise<LayoutData | undefined> {
    return this.#ask((remote, whileOpen) => remote.layOut(plan, whileOpen(tell)))
  }

  suggestBreadboards(plan: Plan, tell: (share: number) => void): Promise<Edit[] | undefined> {
    return this.#ask((remote, whileOpen) => remote.suggestBreadboards(plan, whileOpen(tell)))
  }

  benchFixes(plan: Plan, finding: Pick<Finding, 'rule' | 'at'>): Promise<TriedFix[] | undefined> {
    return this.#ask((remote) => remote.benchFixes(plan, finding))
  }

  stop(): void {
    this.#end((one) => one.stop())
  }

  #end(tell: (one: { readonly stop: () => void; readonly fail: (reason: Error) => void }) => void): void {
    this.#worker?.terminate()
    this.#worker = undefined
    this.#remote = undefined
    for (const one of this.#waiting) tell(one)
    this.#waiting.clear()
  }

  #ask<T>(call: (remote: Remote<Searcher>, whileOpen: WhileOpen) => Promise<T>): Promise<T | undefined> {
    return new Promise((resolve, reject) => {
      const one = { stop: () => resolve(undefined), fail: reject }
      this.#waiting.add(one)
      // How far it is comes by a way of its own, and may come after the answer: then nobody wants to know any more.
      const whileOpen: WhileOpen = (tell) =>
        proxy((...said) => {
          if (this.#waiting.has(one)) tell(...said)
        })
      this.#start()
        .then((remote) => call(remote, whileOpen))
        .finally(() => this.#waiting.delete(one))
        .then(resolve, reject)
    })
  }

  #start(): Promise<Remote<Searcher>> {
    if (this.#remote) return this.#remote
    const worker = new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module' })
    const breakOff = (): void => {
      if (this.#worker === worker)
        this.#end((one) => one.fail(new Error('the search could not be started; load the page again')))
    }
    worker.addEventListener('error', breakOff)
    worker.addEventListener('messageerror', breakOff)
    this.#worker = worker
    const remote = wrap<Searcher>(worker)
    this.#remote = remote.load(this.#catalog).then(() => remote)
    return this.#remote
  }
}
