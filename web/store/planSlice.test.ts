import { describe, expect, it } from 'vitest'
import { planOf } from '../../core/testing/plans.ts'
import type { StoredPlan } from './api.ts'
import { type PlanState, planActions, planReducer } from './planSlice.ts'

const plan = planOf({ parts: { A: 'led' } })
const stored: StoredPlan = { id: 'one', revision: 4, created: '', changed: '', plan }
const retitle = (title: string) => planActions.edited({ edits: [{ do: 'set-title', title }], label: 'Rename' })
const run = (...actions: Parameters<typeof planReducer>[1][]): PlanState =>
  actions.reduce<PlanState>(planReducer, planReducer(undefined, { type: 'start' }))

describe('the open plan', () => {
  it('is saved as opened, waits after an edit, and is saved again when that is undone', () => {
    expect(run(planActions.opened({ stored }))).toMatchObject({ id: 'one', revision: 4, saveState: 'saved' })
    expect(run(planActions.opened({ stored }), retitle('B'))).toMatchObject({
      saveState: 'waiting',
      history: { present: { title: 'B' } },
    })
    expect(run(planActions.opened({ stored }), retitle('B'), planActions.undone()).saveState).toBe('saved')
    expect(
      run(planActions.opened({ stored }), retitle('B'), planActions.undone(), planActions.redone()).history?.present
        .title,
    ).toBe('B')
  })

  it('goes on waiting when it was edited while a save was under way', () => {
    const first = run(planActions.opened({ stored }), retitle('B'), planActions.saving())
    const sent = first.history!.present
    const edited = planReducer(first, retitle('C'))
    const answered = planReducer(edited, planActions.saved({ revision: 5, plan: sent }))
    expect(answered).toMatchObject({ revision: 5, saveState: 'waiting', history: { present: { title: 'C' } } })
    const again = planReducer(answered, planActions.saved({ revision: 6, plan: answered.history!.present }))
    expect(again.saveState).toBe('saved')
  })

  it('keeps both sides of a conflict until the maker has chosen', () => {
    const theirs: StoredPlan = { ...stored, revision: 7, plan: { ...plan, title: 'Theirs' } }
    const torn = run(planActions.opened({ stored }), retitle('Mine'), planActions.conflicted(theirs))
    expect(torn).toMatchObject({
      saveState: 'conflict',
      theirs: { revision: 7 },
      history: { present: { title: 'Mine' } },
    })
    expect(planReducer(torn, retitle('Mine, more')).saveState).toBe('conflict')
    expect(planReducer(torn, planActions.keptOurs())).toMatchObject({
      revision: 7,
      saveState: 'waiting',
      theirs: undefined,
      history: { present: { title: 'Mine' } },
    })
    expect(planReducer(torn, planActions.opened({ stored: theirs }))).toMatchObject({
      revision: 7,
      saveState: 'saved',
      history: { present: { title: 'Theirs' } },
    })
  })

  it('takes up a draft that never reached the server, as a step that can be undone', () => {
    const draft = { ...plan, title: 'Draft' }
    const state = run(planActions.opened({ stored, draft }))
    expect(state).toMatchObject({ saveState: 'waiting', history: { present: { title: 'Draft' } } })
    expect(planReducer(state, planActions.undone())).toMatchObject({
      saveState: 'saved',
      history: { present: { title: 'test' } },
    })
  })

  it('lights what is picked, and nothing else', () => {
    const state = run(planActions.opened({ stored }), planActions.lit(['X']), planActions.picked('A.A'))
    expect(state).toMatchObject({ picked: 'A.A', lit: ['A.A'] })
    expect(planReducer(state, planActions.picked(undefined))).toMatchObject({ picked: undefined, lit: [] })
    expect(planReducer(state, planActions.closed()).id).toBeUndefined()
  })
})
