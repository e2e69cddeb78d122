import { applyEdits, type Edit } from './edit.ts'
import type { Plan } from './planSchema.ts'

/** A plan with its past and its undone future. Steps hold whole plans, which share what did not change. */
export interface History {
  readonly past: readonly Step[]
  readonly present: Plan
  readonly future: readonly Step[]
}

interface Step {
  readonly plan: Plan
  /** What the person did, for the undo button: "Place BROOD.SDA". */
  readonly label: string
}

/** Steps that can be undone. */
export const HISTORY_LENGTH = 200

export const startHistory = (plan: Plan): History => ({ past: [], present: plan, future: [] })

/**
 * Applies edits as one step. An edit that changes nothing leaves no step. With `joins` it becomes part of the step
 * before when that has the same label, as the letters of one word do.
 */
export function advance(history: History, edits: readonly Edit[], label: string, joins = false): History {
  const plan = applyEdits(history.present, edits)
  if (plan === history.present) return history
  if (joins && history.past.at(-1)?.label === label && history.future.length === 0) return { ...history, present: plan }
  return { past: [...history.past, { plan: history.present, label }].slice(-HISTORY_LENGTH), present: plan, future: [] }
}

export function undo(history: History): History {
  const step = history.past.at(-1)
  if (!step) return history
  return {
    past: history.past.slice(0, -1),
    present: step.plan,
    future: [{ plan: history.present, label: step.label }, ...history.future],
  }
}

export function redo(history: History): History {
  const step = history.future[0]
  if (!step) return history
  return {
    past: [...history.past, { plan: history.present, label: step.label }],
    present: step.plan,
    future: history.future.slice(1),
  }
}
