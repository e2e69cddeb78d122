import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

export interface ToastNote {
  readonly id: number
  readonly text: string
  /** Something was done, something did not work, or a question is answered. */
  readonly kind: 'said' | 'wrong' | 'answer'
}

const slice = createSlice({
  name: 'toast',
  initialState: { next: 1, notes: [] as ToastNote[] },
  reducers: {
    toasted: (state, { payload }: PayloadAction<{ text: string; kind?: ToastNote['kind'] }>) => {
      state.notes.push({ id: state.next, text: payload.text, kind: payload.kind ?? 'said' })
      state.next += 1
    },
    toastClosed: (state, { payload }: PayloadAction<number>) => {
      state.notes = state.notes.filter((note) => note.id !== payload)
    },
  },
})

export const { toasted, toastClosed } = slice.actions
export const toastReducer = slice.reducer
