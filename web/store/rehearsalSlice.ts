import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { RunFinding } from '../../core/rehearse/stage/findings.ts'
import { sameWiring } from '../../core/rules/recheck.ts'

/** A program does the same on both plans. */
export const sameRun = (a: Plan, b: Plan): boolean => sameWiring(a, b) && a.rehearsal === b.rehearsal

export interface RehearsalState {
  /** The plan on which the last program ran, as it was then. */
  readonly plan: Plan | undefined
  readonly findings: readonly RunFinding[]
  /** A moment that somebody wants to see, in microseconds; a new object each time. */
  readonly wanted: { readonly at: number } | undefined
}

const initialState: RehearsalState = { plan: undefined, findings: [], wanted: undefined }

/** What the last rehearsal found, for the findings beside every place. */
const slice = createSlice({
  name: 'rehearsal',
  initialState: initialState as RehearsalState,
  reducers: {
    ran: (_, { payload }: PayloadAction<{ plan: Plan; findings: readonly RunFinding[] }>): RehearsalState => ({
      ...payload,
      wanted: undefined,
    }),
    putAway: (): RehearsalState => initialState,
    wanted: (state, { payload }: PayloadAction<number>): RehearsalState => ({
      plan: state.plan as Plan | undefined,
      findings: state.findings as readonly RunFinding[],
      wanted: { at: payload },
    }),
  },
})

export const rehearsalActions = slice.actions
export const rehearsalReducer = slice.reducer
