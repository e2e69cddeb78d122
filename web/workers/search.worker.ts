import { expose } from 'comlink'
import { type Addable, addableParts } from '../../core/advice/addable.ts'
import { type Fit, fitBoards } from '../../core/advice/fit.ts'
import { type AllFixed, fixAll } from '../../core/advice/fixAll.ts'
import { fixesFor, type TriedFix } from '../../core/advice/fixes.ts'
import { kitToPaper, type Paper } from '../../core/advice/kitToPaper.ts'
import { type Moved, moveBoard } from '../../core/advice/moveBoard.ts'
import { type Question, questionsFor } from '../../core/advice/questions.ts'
import { type Rearrangement, rearrange } from '../../core/advice/rearrange.ts'
import { soon, type WayOut, waysOut } from '../../core/advice/waysOut.ts'
import { type AssignResult, assign } from '../../core/assign/assign.ts'
import { assignChoosing } from '../../core/assign/choosing.ts'
import { conflictIn } from '../../core/assign/conflict.ts'
import { type LayoutData, layOut, layoutData } from '../../core/breadboard/layout.ts'
import { suggestBreadboards } from '../../core/breadboard/suggest.ts'
import { Diagnoser, type Diagnosis, type Observation } from '../../core/bringup/diagnose.ts'
import type { Laid } from '../../core/bringup/laid.ts'
import { type Catalog, makeCatalog } from '../../core/catalog/catalog.ts'
import { type ClassRow, type ClassTask, classRow, type HandedIn } from '../../core/classroom/classRow.ts'
import type { Edit } from '../../core/plan/edit.ts'
import { sameFinding } from '../../core/plan/findingKey.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { Finding } from '../../core/rules/finding.ts'
import { benchRules, check } from '../../core/rules/index.ts'
import { resolve } from '../../core/wiring/resolve.ts'
import { type Rehearsed, type RunAnswer, runRehearsal } from './rehearsal.ts'

/** Milliseconds after which the best answer so far is given. */
const PATIENCE = 8000

export interface Impasse {
  /** What collides, where it is signals that do. */
  readonly text: string | undefined
  readonly needs: readonly string[]
  readonly pins: readonly string[]
  readonly ways: readonly WayOut[]
}

let catalog: Catalog = makeCatalog([], [])
let diagnosed: { readonly key: string; readonly by: Diagnoser } | undefined

const searcher = {
  load(given: Catalog): void {
    catalog = given
  },
  classRow(work: HandedIn, task: ClassTask): ClassRow {
    return classRow(work, task, catalog)
  },

  rehearse(rehearsed: Rehearsed): RunAnswer {
    return runRehearsal(catalog, rehearsed)
  },
  /** `halt` is set by the other side: the best so far is given then, and when proving it takes too long. */
  assign(
    plan: Plan,
    refs: readonly string[] | undefined,
    halt: SharedArrayBuffer | undefined,
    tell: (tried: number) => void,
  ): AssignResult {
    const end = performance.now() + PATIENCE
    const halted = halt && new Int32Array(halt)
    let told = 0
    return assignChoosing(resolve(plan, catalog), {
      refs: refs && new Set(refs),
      shouldStop: (tried) => {
        const now = performance.now()
        if (now - told > 50) {
          told = now
          tell(tried)
        }
        return now > end || (halted !== undefined && Atomics.load(halted, 0) !== 0)
      },
    })
  },
  /** The kit wired and laid out; the best so far when it is halted, or takes too long. */
  kitToPaper(plan: Plan, halt: SharedArrayBuffer | undefined, tell: (share: number) => void): Paper {
    const end = performance.now() + PATIENCE
    const halted = halt && new Int32Array(halt)
    const shouldStop = (): boolean => performance.now() > end || (halted !== undefined && Atomics.load(halted, 0) !== 0)
    return kitToPaper(plan, catalog, shouldStop, tell)
  },
  /** What only the maker knows, of a plan as it is wired. */
  questions(plan: Plan): Question[] {
    return questionsFor(resolve(plan, catalog))
  },
  /** Causes of what was seen on a build, and what to measure next; the faults of a plan are worked out once. */
  diagnose(plan: Plan, observations: readonly Observation[], laid: Laid): Diagnosis {
    const key = JSON.stringify([plan.boards, plan.supplies, plan.parts, plan.wires, laid])
    if (diagnosed?.key !== key) diagnosed = { key, by: new Diagnoser(resolve(plan, catalog), laid) }
    return diagnosed.by.diagnose(observations)
  },
  /** Few signals moved so that faults go away; undefined when moving does not help. */
  rearrange(plan: Plan): Rearrangement | undefined {
    return rearrange(resolve(plan, catalog))
  },
  addable(plan: Plan, tell: (done: number, of: number) => void): Addable[] {
    return addableParts(plan, catalog, (done, of) => {
      tell(done, of)
      return false
    })
  },
  fit(plan: Plan, tell: (done: number, of: number) => void): Fit[] {
    return fitBoards(plan, catalog, (done, of) => {
      tell(done, of)
      return false
    })
  },
  move(plan: Plan, ref: string, board: string): Moved {
    return moveBoard(plan, catalog, ref, board)
  },
  /** Why something finds no pin, and the ways out; of an answer for the whole plan where that is known. */
  wayOut(plan: Plan, known: AssignResult | undefined): Impasse | undefined {
    const wiring = resolve(plan, catalog)
    const result = known ?? assign(wiring, { shouldStop: soon })
    if (result.unplaced.length === 0) return undefined
    const conflict = conflictIn(wiring, result.unplaced)
    return {
      text: conflict?.text,
      needs: conflict?.needs ?? [],
      pins: conflict?.pins ?? [],
      ways: waysOut(wiring, result, conflict),
    }
  },
  fixAll(plan: Plan): AllFixed {
    return fixAll(plan, catalog)
  },
  layOut(plan: Plan, tell: (share: number) => void): LayoutData {
    return layoutData(layOut(resolve(plan, catalog), undefined, tell))
  },
  /** Breadboards on which a plan fits. */
  suggestBreadboards(plan: Plan, tell: (share: number) => void): Edit[] {
    return suggestBreadboards(plan, catalog, tell)
  },
  /** Fixes of a finding of the bench, each laid out before it is offered. */
  benchFixes(plan: Plan, about: Pick<Finding, 'rule' | 'at'>): TriedFix[] {
    const wiring = resolve(plan, catalog)
    const findings = check(wiring, benchRules)
    const finding = findings.find((one) => sameFinding(one, about))
    return finding ? fixesFor(wiring, finding, findings) : []
  },
}

export type Searcher = typeof searcher
expose(searcher)
