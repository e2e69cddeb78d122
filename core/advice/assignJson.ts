import type { AssignResult } from '../assign/assign.ts'
import { conflictIn } from '../assign/conflict.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { questionsFor } from './questions.ts'
import { waysOut } from './waysOut.ts'

/** A search's answer as `assign --json` and the server give it, with what stands in the way and the ways out. */
export function assignJson(wiring: Wiring, result: AssignResult, milliseconds: number) {
  const { status, optimal, cost, bound, placed, unplaced, choices, added, neatness } = result
  const conflict = unplaced.length === 0 ? undefined : conflictIn(wiring, unplaced)
  return {
    status,
    optimal,
    cost,
    bound,
    milliseconds,
    placed,
    unplaced,
    choices,
    added,
    neatness,
    conflict: conflict ? { needs: conflict.needs, pins: conflict.pins, text: conflict.text } : null,
    questions: questionsFor(resolve(applyEdits(wiring.plan, result.edits), wiring.catalog)),
    remedies:
      unplaced.length === 0
        ? []
        : waysOut(wiring, result, conflict).map(({ title, edits, left }) => ({ title, edits, left })),
  }
}
