import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { Pen } from './pen/penEvents.ts'

export interface PlanState {
  /** The open plan; the desk shows it here whenever it changes. */
  readonly pen: Pen | undefined
  /** Signal being placed. */
  readonly picked: string | undefined
  /** Ends and refs lit on the board. */
  readonly lit: readonly string[]
}

const initialState: PlanState = { pen: undefined, picked: undefined, lit: [] }

/**
 * What the interface shows of the open plan. The pen is replaced whole and compared by identity, so that the reducers
 * give new states instead of changing drafts.
 */
const slice = createSlice({
  name: 'plan',
  initialState: initialState as PlanState,
  reducers: {
    shown: (state, { payload }: PayloadAction<Pen>): PlanState => {
      const isOther = state.pen?.id !== payload.id
      return { pen: payload, picked: isOther ? undefined : state.picked, lit: isOther ? [] : [...state.lit] }
    },
    closed: (): PlanState => initialState,
    picked: (state, { payload }: PayloadAction<string | undefined>): void => {
      state.picked = payload
      state.lit = payload === undefined ? [] : [payload]
    },
    lit: (state, { payload }: PayloadAction<readonly string[]>): void => {
      state.lit = [...payload]
    },
  },
})

export const planActions = slice.actions
export const planReducer = slice.reducer
