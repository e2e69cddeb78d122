import { useEffect } from 'react'
import type { Plan } from '../../core/plan/planSchema.ts'
import { api, type StoredPlan } from './api.ts'
import { planActions } from './planSlice.ts'
import { type AppDispatch, store, useAppDispatch, useAppSelector } from './store.ts'

/** Milliseconds of quiet before a change is sent. */
const QUIET = 350
const RETRY = 3000

const draftKey = (id: string): string => `markpost.draft.${id}`

interface Draft {
  readonly revision: number
  readonly plan: Plan
}

/** Opens a plan; changes that never reached the server come back when nobody else saved in between. */
export async function openPlan(dispatch: AppDispatch, id: string): Promise<'open' | 'missing' | 'failed'> {
  try {
    const response = await fetch(`/api/plans/${encodeURIComponent(id)}`)
    if (response.status === 404) return 'missing'
    if (!response.ok) return 'failed'
    const stored = (await response.json()) as StoredPlan
    const draft = readDraft(id)
    if (draft && draft.revision !== stored.revision) localStorage.removeItem(draftKey(id))
    dispatch(planActions.opened({ stored, draft: draft?.revision === stored.revision ? draft.plan : undefined }))
    return 'open'
  } catch {
    return 'failed'
  }
}

function readDraft(id: string): Draft | undefined {
  try {
    const kept = localStorage.getItem(draftKey(id))
    return kept === null ? undefined : (JSON.parse(kept) as Draft)
  } catch {
    return undefined
  }
}

/** Saves the open plan by itself, after a moment of quiet, with the revision that it changes. */
export function useAutosave(): void {
  const dispatch = useAppDispatch()
  const id = useAppSelector((state) => state.plan.id)
  const plan = useAppSelector((state) => state.plan.history?.present)
  const saveState = useAppSelector((state) => state.plan.saveState)
  const revision = useAppSelector((state) => state.plan.revision)

  useEffect(() => {
    if (id === undefined || !plan || saveState === 'saved') return
    localStorage.setItem(draftKey(id), JSON.stringify({ revision, plan } satisfies Draft))
  }, [id, plan, revision, saveState])

  useEffect(() => {
    if (id === undefined || !plan || (saveState !== 'waiting' && saveState !== 'failed')) return
    const timer = setTimeout(() => void save(dispatch, id, plan, revision), saveState === 'failed' ? RETRY : QUIET)
    return () => clearTimeout(timer)
  }, [dispatch, id, plan, revision, saveState])
}

/** One save at a time: a second one would carry a revision that the first is about to change. */
let busy = false

async function save(dispatch: AppDispatch, id: string, plan: Plan, revision: number): Promise<void> {
  if (busy) {
    setTimeout(() => {
      const now = store.getState().plan
      if (now.id === id && now.history && now.saveState === 'waiting')
        void save(dispatch, id, now.history.present, now.revision)
    }, QUIET)
    return
  }
  busy = true
  dispatch(planActions.saving())
  try {
    const response = await fetch(`/api/plans/${id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${revision}"` },
      body: JSON.stringify({ plan }),
    })
    if (store.getState().plan.id !== id) return
    if (response.ok) {
      const stored = (await response.json()) as StoredPlan
      dispatch(planActions.saved({ revision: stored.revision, plan }))
      if (store.getState().plan.saveState === 'saved') localStorage.removeItem(draftKey(id))
      dispatch(api.util.invalidateTags(['plans']))
    } else if (response.status === 412) {
      const problem = (await response.json()) as { current: Omit<StoredPlan, 'id'> }
      dispatch(planActions.conflicted({ id, ...problem.current }))
    } else dispatch(planActions.saveFailed())
  } catch {
    if (store.getState().plan.id === id) dispatch(planActions.saveFailed())
  } finally {
    busy = false
  }
}
