import { configureStore } from '@reduxjs/toolkit'
import { useDispatch, useSelector } from 'react-redux'
import { api } from './api.ts'
import { planReducer } from './planSlice.ts'
import { rehearsalReducer } from './rehearsalSlice.ts'
import { toastReducer } from './toastSlice.ts'

export const store = configureStore({
  reducer: { plan: planReducer, rehearsal: rehearsalReducer, toast: toastReducer, [api.reducerPath]: api.reducer },
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
})

export type RootState = ReturnType<typeof store.getState>
export type AppDispatch = typeof store.dispatch
export const useAppDispatch = useDispatch.withTypes<AppDispatch>()
export const useAppSelector = useSelector.withTypes<RootState>()
