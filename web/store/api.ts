import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react'
import type { Board } from '../../core/catalog/boardSchema.ts'
import type { OwnEntries } from '../../core/catalog/catalog.ts'
import type { Driver } from '../../core/catalog/driverSchema.ts'
import type { EntryKind } from '../../core/catalog/ownEntry.ts'
import type { Part } from '../../core/catalog/partSchema.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type {
  BinPlan,
  EntryLine,
  PlanLine,
  PlanPage,
  RevisionLine,
  SampleLine,
  ShareAnswer,
  StoredPlan,
  WhoAmI,
} from '../../core/rules/answers.ts'

export interface PlanQuery {
  readonly q: string
  readonly sort: 'changed' | 'title'
  readonly page: number
}

/** Lines of one page of the list. */
export const PAGE_SIZE = 100

export type NewPlan = { title: string } | { sample: string } | { text: string; file: string } | { plan: Plan }

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['session', 'plans', 'catalog', 'state', 'bin'],
  endpoints: (build) => ({
    catalog: build.query<{ boards: Board[]; parts: Part[]; own: OwnEntries; drivers: Driver[] }, void>({
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
      query: ({ kind, id }) => ({ url: `/entries/${kind}/${id}?used=known`, method: 'DELETE' }),
      invalidatesTags: (_result, error) => (error ? [] : ['catalog']),
    }),
    samples: build.query<SampleLine[], void>({ query: () => '/samples' }),
    plans: build.query<PlanPage, PlanQuery>({
      query: ({ q, sort, page }) => ({
        url: '/plans',
        params: { limit: PAGE_SIZE, offset: page * PAGE_SIZE, sort, ...(q === '' ? {} : { q }) },
      }),
      transformResponse: (lines: PlanLine[], meta) => ({
        total: Number(meta?.response?.headers.get('Total-Count') ?? lines.length),
        lines,
      }),
      providesTags: ['plans'],
    }),
    state: build.query<{ summaries: { done: number; of: number } }, void>({
      query: () => '/state',
      providesTags: ['state'],
    }),
    plan: build.query<StoredPlan, string>({ query: (id) => `/plans/${id}` }),
    /** Puts a mended text in place of one that cannot be read. */
    mend: build.mutation<StoredPlan, { id: string; text: string; revision: number }>({
      query: ({ id, text, revision }) => ({
        url: `/plans/${id}`,
        method: 'PUT',
        body: { text },
        headers: { 'If-Match': `"${revision}"` },
      }),
      invalidatesTags: (_result, error) => (error ? [] : ['plans']),
    }),
    /** Plans in which an entry of the catalogue is used. */
    entryPlans: build.query<{ id: string; title: string }[], { kind: EntryKind; id: string }>({
      query: ({ kind, id }) => `/entries/${kind}/${encodeURIComponent(id)}/plans`,
      providesTags: ['plans'],
    }),
    session: build.query<WhoAmI, void>({ query: () => '/session', providesTags: ['session'] }),
    signIn: build.mutation<unknown, string>({
      query: (phrase) => ({ url: '/session', method: 'POST', body: { phrase } }),
    }),
    share: build.query<ShareAnswer, string>({
      query: (plan) => ({ url: '/share', params: { plan } }),
      providesTags: ['session'],
    }),
    /** What those may do with a plan who come by a phrase. */
    setOthers: build.mutation<null, { id: string; others: ShareAnswer['others'] }>({
      query: ({ id, others }) => ({ url: `/plans/${id}/others`, method: 'PUT', body: { others } }),
      invalidatesTags: ['session', 'plans'],
    }),
    revisions: build.query<RevisionLine[], string>({ query: (id) => `/plans/${id}/revisions` }),
    revision: build.query<{ revision: number; plan: Plan }, { id: string; revision: number }>({
      query: ({ id, revision }) => `/plans/${id}/revisions/${revision}`,
    }),
    nameRevision: build.mutation<null, { id: string; revision: number; name: string }>({
      query: ({ id, revision, name }) => ({
        url: `/plans/${id}/revisions/${revision}/name`,
        method: 'PUT',
        body: { name },
      }),
    }),
    bin: build.query<BinPlan[], void>({ query: () => '/bin', providesTags: ['bin'] }),
    putBack: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `/bin/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['plans', 'bin'],
    }),
    forget: build.mutation<null, string>({
      query: (id) => ({ url: `/bin/${id}`, method: 'DELETE' }),
      invalidatesTags: ['bin'],
    }),
    create: build.mutation<StoredPlan, NewPlan>({
      query: (body) => ({ url: '/plans', method: 'POST', body }),
      invalidatesTags: ['plans'],
    }),
    copy: build.mutation<StoredPlan, string>({
      query: (id) => ({ url: `/plans/${id}/copy`, method: 'POST' }),
      invalidatesTags: ['plans'],
    }),
    /** Deletes a plan as it was seen; not one that changed since. */
    remove: build.mutation<null, { id: string; revision: number }>({
      query: ({ id, revision }) => ({
        url: `/plans/${id}`,
        method: 'DELETE',
        headers: { 'If-Match': `"${revision}"` },
      }),
      invalidatesTags: ['plans', 'bin'],
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
  useLazyPlanQuery,
  useRemoveMutation,
  useMendMutation,
  useStateQuery,
  useEntryPlansQuery,
  useSessionQuery,
  useSignInMutation,
  useShareQuery,
  useSetOthersMutation,
  useRevisionsQuery,
  useRevisionQuery,
  useNameRevisionMutation,
  useBinQuery,
  usePutBackMutation,
  useForgetMutation,
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
