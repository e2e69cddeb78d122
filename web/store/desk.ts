import { applyEdits, type Edit, EditError } from '../../core/plan/edit.ts'
import type { Side } from '../../core/plan/merge.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import { mayChange } from './access.ts'
import { api } from './api.ts'
import { tellAnswers } from './boardAnswers.ts'
import { hearEvents } from './events.ts'
import { Desk, type Opened } from './pen/desk.ts'
import { httpServer } from './pen/httpServer.ts'
import { LocalDrafts } from './pen/localDrafts.ts'
import { alone, announcePage, livingPages, newToken, thisPage } from './pen/page.ts'
import { join } from './pen/pen.ts'
import type { Draft, PenAids, PenEvent } from './pen/penEvents.ts'
import { planActions } from './planSlice.ts'
import { store } from './store.ts'
import { toasted } from './toastSlice.ts'

/** The one desk of this page, and what the interface asks of it. */

const drafts = new LocalDrafts(() => localStorage, thisPage)

let faults: PenAids['faults'] | undefined
/** Tells the desk how the faults of a plan are found, before the first is opened. */
export const judgedBy = (how: PenAids['faults']): void => {
  faults = how
}

/** Rule and places of every fault of a plan. */
function faultsOf(plan: Plan): ReadonlySet<string> {
  if (!faults) throw new Error('desk: a plan was opened before it was known how its faults are found')
  return faults(plan)
}

/** Which plan of the server's a plan that was shown belongs to. */
const ownerOf = new WeakMap<Plan, string>()

let revision = 0
const desk = new Desk({
  server: httpServer((url, init) => fetch(url, init)),
  drafts: {
    put: (draft) => drafts.put(draft),
    drop: (slot) => drafts.drop(slot),
    claim: (planId) => alone(async () => drafts.claim(await livingPages(), planId)),
  },
  clock: {
    now: () => Date.now(),
    wake: (after, call) => {
      const timer = setTimeout(call, after)
      return () => clearTimeout(timer)
    },
  },
  newToken,
  aids: { faults: faultsOf },
  show: (pen) => {
    ownerOf.set(pen.history.present, pen.id)
    store.dispatch(planActions.shown(pen))
    // The list shows what was saved.
    if (pen.base.revision !== revision) store.dispatch(api.util.invalidateTags(['plans']))
    revision = pen.base.revision
  },
})

/** Begins to listen to the server and to watch over the page's end; once, when the application starts. */
export function startDesk(): void {
  announcePage()
  window.addEventListener('beforeunload', (event) => {
    if (desk.unsaved().length > 0) event.preventDefault()
  })
  window.addEventListener('online', () => desk.awake())
  hearEvents((event) => {
    switch (event.type) {
      case 'plan':
        desk.heard(event.id, event.revision)
        store.dispatch(api.util.invalidateTags(['plans']))
        return
      case 'plan-deleted':
        desk.deleted(event.id)
        store.dispatch(api.util.invalidateTags(['plans']))
        return
      case 'shelf':
        store.dispatch(api.util.invalidateTags(['catalog']))
        return
      case 'answers':
        tellAnswers(event.id, event.lines)
        return
      case 'summaries':
        store.dispatch(api.util.invalidateTags(event.done === event.of ? ['plans', 'state'] : ['state']))
        return
      case 'rights':
        store.dispatch(api.util.invalidateTags(['session', 'plans']))
        return
      case 'anything':
      case 'back':
        desk.awake()
        store.dispatch(api.util.invalidateTags(['plans', 'catalog', 'state']))
    }
  })
}

/** Milliseconds after which the past of a plan that was opened is asked for: the page comes first. */
const PAST_AFTER = 700

export async function openPlan(id: string): Promise<Opened> {
  const opened = await desk.open(id)
  if (opened.is === 'open') setTimeout(() => void rememberPast(id), PAST_AFTER)
  return opened
}

/** What was done before the plan was opened can be undone as well; without it, undoing ends where it was opened. */
async function rememberPast(id: string): Promise<void> {
  const pen = openPen()
  if (pen?.id !== id || pen.opened === undefined) return
  try {
    const response = await fetch(`/api/plans/${id}/past?steps=20`)
    if (!response.ok) return
    const { revision, steps } = (await response.json()) as Pick<
      Extract<PenEvent, { type: 'remembered' }>,
      'revision' | 'steps'
    >
    desk.tell(id, { type: 'remembered', revision, steps })
  } catch {
    // The server is away: the pen says so where it matters.
  }
}

export function leavePlan(id: string): void {
  desk.leave(id)
  if (openPen()?.id === id) store.dispatch(planActions.closed())
}

const openPen = () => store.getState().plan.pen
export const presentPlan = (): Plan | undefined => openPen()?.history.present

function tell(make: (now: number) => PenEvent): void {
  const pen = openPen()
  if (!pen) return
  const event = make(Date.now())
  if ((event.type === 'undone' || event.type === 'redone') && !mayChange(pen.id)) return
  desk.tell(pen.id, event)
}

/**
 * Applies edits to the plan that is there now, as one step that can be undone; an edit that does not fit is said and
 * changes nothing. With `joins` it becomes part of the step before of the same label.
 */
export function editPlan(edits: readonly Edit[], label: string, joins = false): boolean {
  const plan = presentPlan()
  if (!plan) return false
  if (!mayChange(openPen()?.id ?? '')) {
    store.dispatch(toasted({ text: 'This link is to look only; ask for one to change.', kind: 'wrong' }))
    return false
  }
  try {
    applyEdits(plan, edits)
  } catch (error) {
    if (!(error instanceof EditError)) throw error
    store.dispatch(toasted({ text: error.message, kind: 'wrong' }))
    return false
  }
  tell((now) => ({ type: 'edited', edits, label, joins, now }))
  return true
}

/**
 * Applies edits that were worked out for a plan that may have changed meanwhile: joined with those changes where the two
 * do not touch, else refused with a word.
 */
export function editLate(from: Plan, edits: readonly Edit[], label: string): boolean {
  const pen = openPen()
  if (pen?.history.present === from) return editPlan(edits, label)
  const plan = pen && join(from, applyEdits(from, edits), pen.history.present, { faults: faultsOf })
  // Of another plan nothing is in common with this one, not even by chance.
  if (!plan || pen.id !== ownerOf.get(from)) {
    store.dispatch(
      toasted({
        text: `“${label}” was worked out for the plan as it was before; nothing was changed. Ask for it again.`,
        kind: 'wrong',
      }),
    )
    return false
  }
  tell((now) => ({ type: 'replaced', plan, label, now }))
  return true
}

export const undoStep = (): void => tell((now) => ({ type: 'undone', now }))
export const redoStep = (): void => tell((now) => ({ type: 'redone', now }))
export const saveNow = (): void => tell((now) => ({ type: 'retry', now }))
export const takeTheirs = (): void => tell((now) => ({ type: 'took-theirs', now }))
export const settleConflict = (how: ReadonlyMap<string, Side>): void => tell((now) => ({ type: 'settled', how, now }))
export const joinOffer = (slot: string): void => tell((now) => ({ type: 'offer-joined', slot, now }))
export const dropOffer = (slot: string): void => tell(() => ({ type: 'offer-dropped', slot }))

/** Unsaved work that no living page shows, of one plan or of all. */
export const orphanDrafts = async (planId?: string): Promise<Draft[]> => drafts.orphans(await livingPages(), planId)
export const forgetDraft = (slot: string): void => drafts.drop(slot)
