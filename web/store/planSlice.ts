import { createSlice, isDraft, original, type PayloadAction } from '@reduxjs/toolkit'
import type { Edit } from '../../core/plan/edit.ts'
import { advance, type History, redo, startHistory, undo } from '../../core/plan/history.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { StoredPlan } from './api.ts'

export type SaveState = 'saved' | 'waiting' | 'saving' | 'failed' | 'conflict'

export interface PlanState {
  readonly id: string | undefined
  readonly revision: number
  /** The plan as the server has it at `revision`. */
  readonly saved: Plan | undefined
  readonly history: History | undefined
  readonly saveState: SaveState
  /** What another tab saved in between. */
  readonly theirs: StoredPlan | undefined
  /** Signal being placed. */
  readonly picked: string | undefined
  /** Ends and refs lit on the board. */
  readonly lit: readonly string[]
}

const initialState: PlanState = {
  id: undefined,
  revision: 0,
  saved: undefined,
  history: undefined,
  saveState: 'saved',
  theirs: undefined,
  picked: undefined,
  lit: [],
}

const slice = createSlice({
  name: 'plan',
  initialState: initialState as PlanState,
  reducers: {
    /** A plan came from the server; `draft` is what this browser kept of changes that were never saved. */
    opened: (
      _state,
      { payload: { stored, draft } }: PayloadAction<{ stored: StoredPlan; draft?: Plan }>,
    ): PlanState => ({
      ...initialState,
      id: stored.id,
      revision: stored.revision,
      saved: stored.plan,
      history: draft
        ? { ...startHistory(draft), past: [{ plan: stored.plan, label: 'changes that were not saved' }] }
        : startHistory(stored.plan),
      saveState: draft ? 'waiting' : 'saved',
    }),
    closed: () => initialState,
    edited: (state, { payload }: PayloadAction<{ edits: readonly Edit[]; label: string }>) =>
      moved(state, (history) => advance(history, payload.edits, payload.label)),
    undone: (state) => moved(state, undo),
    redone: (state) => moved(state, redo),
    saving: (state) => ({ ...base(state), saveState: 'saving' }),
    saved: (state, { payload }: PayloadAction<{ revision: number; plan: Plan }>) => {
      const now = base(state)
      return {
        ...now,
        revision: payload.revision,
        saved: payload.plan,
        theirs: undefined,
        saveState: now.history?.present === payload.plan ? 'saved' : 'waiting',
      }
    },
    saveFailed: (state) => ({ ...base(state), saveState: 'failed' }),
    conflicted: (state, { payload }: PayloadAction<StoredPlan>) => ({
      ...base(state),
      saveState: 'conflict',
      theirs: payload,
    }),
    /** Keep ours: the next save goes over theirs. */
    keptOurs: (state) => {
      const now = base(state)
      return { ...now, revision: now.theirs?.revision ?? now.revision, theirs: undefined, saveState: 'waiting' }
    },
    picked: (state, { payload }: PayloadAction<string | undefined>) => ({
      ...base(state),
      picked: payload,
      lit: payload === undefined ? [] : [payload],
    }),
    lit: (state, { payload }: PayloadAction<readonly string[]>) => ({ ...base(state), lit: payload }),
  },
})

/** State without Immer's wrapping: plans are replaced whole and compared by identity. */
const base = (state: PlanState): PlanState => (isDraft(state) ? (original<unknown>(state) as PlanState) : state)

function moved(state: PlanState, step: (history: History) => History): PlanState {
  const now = base(state)
  if (!now.history) return now
  const history = step(now.history)
  if (history === now.history) return now
  const saveState = history.present === now.saved ? 'saved' : now.saveState === 'conflict' ? 'conflict' : 'waiting'
  return { ...now, history, saveState }
}

export const planActions = slice.actions
export const planReducer = slice.reducer
