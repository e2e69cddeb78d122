import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react'
import type { Board } from '../../core/catalog/boardSchema.ts'
import type { OwnEntries } from '../../core/catalog/catalog.ts'
import type { EntryKind } from '../../core/catalog/ownEntry.ts'
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

/** An entry of the maker's own; without a revision it is a file in the data folder. */
export interface EntryLine {
  readonly kind: EntryKind
  readonly id: string
  readonly title: string
  readonly revision?: number
  readonly file?: string
}

export type NewPlan = { title: string } | { sample: string } | { text: string; file: string } | { plan: Plan }

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['plans', 'catalog'],
  endpoints: (build) => ({
    catalog: build.query<{ boards: Board[]; parts: Part[]; own: OwnEntries }, void>({
      query: () => '/catalog',
      providesTags: ['catalog'],
    }),
    entries: build.query<{ entries: EntryLine[]; problems: string[] }, void>({
      query: () => '/entries',
      providesTags: ['catalog'],
    }),
    /** Adds an entry, or with an id saves over the known revision. */
    saveEntry: build.mutation<
      { id: string },
      { kind: EntryKind; id: string | undefined; text: string; revision: number | undefined }
    >({
      query: ({ kind, id, text, revision }) =>
        id === undefined
          ? { url: `/entries/${kind}`, method: 'POST', body: { text } }
          : { url: `/entries/${kind}/${id}`, method: 'PUT', body: { text }, headers: { 'If-Match': `"${revision}"` } },
      invalidatesTags: (_result, error) => (error ? [] : ['catalog']),
    }),
    deleteEntry: build.mutation<null, { kind: EntryKind; id: string }>({
      query: ({ kind, id }) => ({ url: `/entries/${kind}/${id}`, method: 'DELETE' }),
      invalidatesTags: (_result, error) => (error ? [] : ['catalog']),
    }),
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
  useDeleteEntryMutation,
  useEntriesQuery,
  useSaveEntryMutation,
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
