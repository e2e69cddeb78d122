import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react'
import type { Board } from '../../core/catalog/boardSchema.ts'
import type { Part } from '../../core/catalog/partSchema.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { PlanSummary } from '../../core/rules/summary.ts'

export interface PlanLine {
  readonly id: string
  readonly title: string
  readonly revision: number
  readonly created: string
  readonly changed: string
  readonly summary: PlanSummary
}

export interface StoredPlan {
  readonly id: string
  readonly revision: number
  readonly created: string
  readonly changed: string
  readonly plan: Plan
}

export interface SampleLine {
  readonly id: string
  readonly title: string
  readonly notes: string
}

export type NewPlan = { title: string } | { sample: string } | { text: string; file: string } | { plan: Plan }

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['plans'],
  endpoints: (build) => ({
    catalog: build.query<{ boards: Board[]; parts: Part[] }, void>({ query: () => '/catalog' }),
    samples: build.query<SampleLine[], void>({ query: () => '/samples' }),
    plans: build.query<PlanLine[], void>({ query: () => '/plans', providesTags: ['plans'] }),
    create: build.mutation<StoredPlan, NewPlan>({
      query: (body) => ({ url: '/plans', method: 'POST', body }),
      invalidatesTags: ['plans'],
    }),
    copy: build.mutation<StoredPlan, string>({
      query: (id) => ({ url: `/plans/${id}/copy`, method: 'POST' }),
      invalidatesTags: ['plans'],
    }),
    remove: build.mutation<null, string>({
      query: (id) => ({ url: `/plans/${id}`, method: 'DELETE' }),
      invalidatesTags: ['plans'],
    }),
  }),
})

export const {
  useCatalogQuery,
  useSamplesQuery,
  usePlansQuery,
  useCreateMutation,
  useCopyMutation,
  useRemoveMutation,
} = api

/** The sentence of a problem+json answer, or what went wrong on the way. */
export function problemText(error: unknown): string {
  const {
    data,
    error: reason,
    status,
  } = (error ?? {}) as { data?: { detail?: string }; error?: string; status?: unknown }
  if (data?.detail) return data.detail
  return status === 'FETCH_ERROR'
    ? 'the server does not answer; is it still running?'
    : (reason ?? 'something went wrong')
}
