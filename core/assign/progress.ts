import { applyEdits, type Edit } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

/** A wire that was decided, with the reason. */
export interface Decision {
  readonly edits: readonly Edit[]
  readonly from: string
  readonly to: string
  readonly why: string
}

export interface Refusal {
  readonly end: string
  readonly needs: string
  readonly reasons: readonly string[]
  /** A pin would take it if its level were shifted. */
  readonly level?: boolean
}

/** A wiring on which decisions have been carried out, and what they were. */
export interface Progress {
  readonly wiring: Wiring
  readonly decisions: readonly Decision[]
  readonly refused: readonly Refusal[]
}

/** The wiring with decisions carried out. */
export const after = (wiring: Wiring, decisions: readonly Decision[]): Wiring =>
  decisions.length === 0
    ? wiring
    : resolve(
        applyEdits(
          wiring.plan,
          decisions.flatMap((one) => one.edits),
        ),
        wiring.catalog,
      )

/** One wire as a decision. */
export const connect = (from: string, to: string, why: string): Decision => ({
  edits: [{ do: 'connect', from, to }],
  from,
  to,
  why,
})
