import { describe, expect, it } from 'vitest'
import type { Edit } from '../../../core/plan/edit.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { planOf } from '../../../core/testing/plans.ts'
import { LONGEST_WAIT, openPen, pauseAfter, QUIET, step } from './pen.ts'
import type { Draft, Effect, Pen, PenEvent, SaveAnswer, Stepped, Stored, TroubleKind } from './penEvents.ts'

const plan = planOf({ parts: { A: 'led', B: 'button' } })
const stored = (revision: number, of: Plan = plan, savedBy: string | null = null): Stored => ({
  revision,
  plan: of,
  savedBy,
})
const aids = { faults: (one: Plan) => new Set(one.title.includes('bad') ? ['fault'] : []) }
const retitle = (title: string): Edit[] => [{ do: 'set-title', title }]
const edited = (title: string, now = 0): PenEvent => ({ type: 'edited', edits: retitle(title), label: title, now })
const answered = (token: string, answer: SaveAnswer): PenEvent => ({ type: 'answered', token, answer, now: 0 })
const trouble = (kind: TroubleKind): SaveAnswer => ({ is: 'trouble', trouble: { kind, text: kind } })
const draftOf = (title: string, more: Partial<Draft> = {}): Draft => ({
  slot: 'old',
  planId: 'one',
  plan: { ...plan, title },
  revision: 4,
  base: plan,
  token: 'gone',
  at: 1,
  ...more,
})

const open = (drafts: readonly Draft[] = [], now: Stored = stored(4)): Stepped =>
  openPen({ id: 'one', token: 'me', slot: 'mine', stored: now, drafts, now: 0 }, aids)
const run = (from: Pen, ...events: PenEvent[]): Stepped =>
  events.reduce<Stepped>(({ pen }, event) => step(pen, event, aids), { pen: from, effects: [] })
const does = (effects: readonly Effect[]): string[] =>
  effects.map((one) =>
    one.do === 'wake'
      ? `wake ${one.after}`
      : one.do === 'drop-draft'
        ? `drop ${one.slot}`
        : one.do === 'send'
          ? `send ${one.plan.title} over ${one.revision}`
          : `keep ${one.draft.plan.title}`,
  )

describe('writing and saving', () => {
  it('keeps a draft at once, sends after a moment of quiet, and lets the draft go when the server holds it', () => {
    const { pen, effects } = run(open().pen, edited('B'))
    expect(does(effects)).toEqual(['keep B', `wake ${QUIET}`])
    const sent = run(pen, { type: 'clock', now: QUIET })
    expect(does(sent.effects)).toEqual(['send B over 4'])
    const done = run(sent.pen, answered('me-1', { is: 'saved', stored: stored(5, pen.history.present) }))
    expect([done.pen.sync.is, done.pen.base.revision, does(done.effects)]).toEqual(['saved', 5, ['drop mine']])
  })

  it('goes back beyond where it was opened, once it is told what was before, and sends that as a change', () => {
    const wasCalled = (title: string) => ({ label: `to ${title}`, plan: { ...plan, title } })
    const past: PenEvent = { type: 'remembered', revision: 4, steps: [wasCalled('oldest'), wasCalled('older')] }
    const opened = run(open().pen, edited('B'), past)
    expect(does(opened.effects)).toEqual([])
    expect(opened.pen.history.past.map(({ label }) => label)).toEqual(['to oldest', 'to older', 'B'])
    const undone = { type: 'undone', now: 0 } as const
    const back = run(opened.pen, undone, undone)
    expect([back.pen.history.present.title, back.pen.sync.is]).toEqual(['older', 'waiting'])
    // Told twice, or of another revision, it is not taken.
    expect(run(opened.pen, past).pen.history.past).toHaveLength(3)
    expect(run(open().pen, { ...past, revision: 5 }).pen.history.past).toEqual([])
  })

  it('does not let one who goes on typing wait for ever', () => {
    let pen = open().pen
    const waits: string[] = []
    for (let now = 0; now <= LONGEST_WAIT; now += 200) {
      const next = run(pen, edited(`T${now}`, now))
      pen = next.pen
      waits.push(does(next.effects)[1]!)
    }
    expect([waits[0], waits.at(-1)]).toEqual([`wake ${QUIET}`, 'wake 0'])
  })

  it('goes on waiting when it was edited while a save was under way, also when the plan was left', () => {
    const { pen } = run(open().pen, edited('B'), { type: 'clock', now: 0 }, edited('C'), { type: 'left', now: 0 })
    expect(pen.sync.is).toBe('saving')
    const sent = pen.history.past.at(-1)!.plan
    const next = run(pen, answered('me-1', { is: 'saved', stored: stored(5, sent) }))
    expect([next.pen.sync.is, does(next.effects)]).toEqual(['waiting', ['keep C', `wake ${QUIET}`]])
    expect(does(run(next.pen, { type: 'left', now: 0 }).effects)).toEqual(['send C over 5'])
  })

  it('lets the draft go when undo comes back to what is saved, but not while a save may still arrive', () => {
    const { pen, effects } = run(open().pen, edited('B'), { type: 'undone', now: 0 })
    expect([pen.sync.is, does(effects)]).toEqual(['saved', ['drop mine']])
    const sending = run(open().pen, edited('B'), { type: 'clock', now: 0 }, { type: 'undone', now: 0 })
    expect(does(sending.effects)).toEqual([`keep ${plan.title}`])
    const b = { ...plan, title: 'B' }
    const after = run(sending.pen, answered('me-1', { is: 'saved', stored: stored(5, b) }))
    expect([after.pen.sync.is, does(after.effects)[0]]).toEqual(['waiting', `keep ${plan.title}`])
  })

  it('takes over what the server made of it, without a step and without losing what came after', () => {
    const whole = { ...plan, title: 'B', own: { boards: {}, parts: { x: { id: 'x' } } } }
    const quiet = run(
      open().pen,
      edited('B'),
      { type: 'clock', now: 0 },
      answered('me-1', { is: 'saved', stored: stored(5, whole) }),
    )
    expect([quiet.pen.sync.is, quiet.pen.history.present, quiet.pen.history.past.length]).toEqual(['saved', whole, 1])
    const busy = run(
      open().pen,
      edited('B'),
      { type: 'clock', now: 0 },
      edited('C'),
      answered('me-1', { is: 'saved', stored: stored(5, whole) }),
    )
    expect(busy.pen.history.present).toEqual({ ...whole, title: 'C' })
  })

  it('hears no answer but that of the save that is under way', () => {
    const { pen } = run(open().pen, edited('B'), { type: 'clock', now: 0 })
    expect(run(pen, answered('me-0', trouble('gone'))).pen).toBe(pen)
  })
})

describe('trouble', () => {
  it.each<[TroubleKind, boolean]>([
    ['server-away', true],
    ['in-use', true],
    ['disk-full', true],
    ['read-only', true],
    ['disk', true],
    ['refused', false],
    ['gone', false],
  ])('%s is tried again: %s', (kind, again) => {
    let { pen, effects } = run(open().pen, edited('B'), { type: 'clock', now: 0 }, answered('me-1', trouble(kind)))
    expect([pen.sync.is, does(effects)]).toEqual(['trouble', again ? ['keep B', 'wake 1000'] : ['keep B']])
    for (let n = 2; n <= 8 && again; n += 1) {
      ;({ pen, effects } = run(pen, { type: 'clock', now: 0 }, answered(`me-${n}`, trouble(kind))))
      expect(does(effects).at(-1)).toBe(`wake ${pauseAfter(n)}`)
    }
    if (!again) expect(run(pen, { type: 'clock', now: 0 }).effects).toEqual([])
  })

  it('pauses grow, and stop growing', () => {
    expect([1, 2, 3, 6, 60].map(pauseAfter)).toEqual([1000, 2000, 4000, 30_000, 30_000])
  })

  it('what was refused is sent again after a change, and when the maker asks', () => {
    const { pen } = run(open().pen, edited('B'), { type: 'clock', now: 0 }, answered('me-1', trouble('refused')))
    expect(does(run(pen, edited('C')).effects)).toEqual(['keep C', `wake ${QUIET}`])
    expect(does(run(pen, { type: 'retry', now: 0 }).effects)).toEqual(['send B over 4'])
  })

  it('a plan that is gone is kept as a draft whatever is done with it', () => {
    const { pen, effects } = run(open().pen, { type: 'deleted', now: 0 })
    expect([pen.sync, does(effects)]).toEqual([expect.objectContaining({ is: 'trouble' }), [`keep ${plan.title}`]])
    expect(does(run(pen, edited('B'), { type: 'undone', now: 0 }).effects)).toEqual([`keep ${plan.title}`])
  })
})

describe('two pages', () => {
  const theirs = stored(5, { ...plan, title: 'Theirs' }, 'other-1')
  const saving = run(open().pen, edited('Mine'), { type: 'clock', now: 0 }).pen

  it('follows what another page saved, as a step that can be undone', () => {
    const { pen } = run(open().pen, { type: 'heard', stored: theirs, now: 0 })
    expect([pen.sync.is, pen.history.present.title, pen.history.past.at(-1)?.label]).toEqual([
      'saved',
      'Theirs',
      'changes made elsewhere',
    ])
  })

  it('joins what does not touch', () => {
    const other = stored(5, { ...plan, parts: { ...plan.parts, C: { part: 'led' } } }, 'other-1')
    const { pen, effects } = run(saving, answered('me-1', { is: 'conflict', current: other }))
    expect([pen.theirs, pen.base.revision, Object.keys(pen.history.present.parts), pen.history.present.title]).toEqual([
      undefined,
      5,
      ['A', 'B', 'C'],
      'Mine',
    ])
    expect(does(effects)).toEqual(['keep Mine', `wake ${QUIET}`])
  })

  it('asks about what touches, sends nothing meanwhile, and does what the maker says', () => {
    const { pen } = run(saving, answered('me-1', { is: 'conflict', current: theirs }))
    expect([pen.theirs, pen.history.present.title]).toEqual([theirs, 'Mine'])
    expect(run(pen, edited('Mine, more'), { type: 'clock', now: 0 }, { type: 'retry', now: 0 }).pen.sync.is).toBe(
      'waiting',
    )
    const mine = run(pen, { type: 'settled', how: new Map([['title', 'mine']]), now: 0 })
    expect([mine.pen.theirs, mine.pen.base.revision, mine.pen.history.present.title]).toEqual([undefined, 5, 'Mine'])
    const took = run(pen, { type: 'took-theirs', now: 0 })
    expect([took.pen.sync.is, took.pen.history.present.title, does(took.effects)]).toEqual([
      'saved',
      'Theirs',
      ['drop mine'],
    ])
    expect(run(took.pen, { type: 'undone', now: 0 }).pen.history.present.title).toBe('Mine')
  })

  it('asks also when both together make a fault that neither made', () => {
    const other = stored(5, { ...plan, notes: 'x' }, 'other-1')
    const withFault = { faults: (one: Plan) => new Set(one.notes && one.title === 'Mine' ? ['fault'] : []) }
    const { pen } = step(saving, answered('me-1', { is: 'conflict', current: other }), withFault)
    expect(pen.theirs).toEqual(other)
  })

  it('has no conflict with its own save whose answer was lost', () => {
    const own = stored(5, { ...plan, title: 'Mine' }, 'me-1')
    const away = run(saving, answered('me-1', trouble('server-away')), edited('Mine, more'), { type: 'retry', now: 0 })
    const { pen } = run(away.pen, answered('me-2', { is: 'conflict', current: own }))
    expect([pen.theirs, pen.base.revision, pen.sync.is, pen.history.present.title]).toEqual([
      undefined,
      5,
      'waiting',
      'Mine, more',
    ])
  })
})

describe('drafts of pages that are gone', () => {
  it('are taken up where nobody saved in between, and stay where they are', () => {
    const { pen, effects } = open([draftOf('Draft')])
    expect([pen.slot, pen.sync.is, pen.history.present.title, pen.history.past.at(-1)?.plan]).toEqual([
      'old',
      'waiting',
      'Draft',
      plan,
    ])
    expect(does(effects)).toEqual(['keep Draft', `wake ${QUIET}`])
  })

  it('go when the server holds the same', () => {
    expect(does(open([draftOf(plan.title)]).effects)).toEqual(['drop old'])
  })

  it('go before what their own last save made, whose answer was lost', () => {
    const { pen } = open([draftOf('Draft, more')], stored(5, { ...plan, title: 'Draft' }, 'gone-3'))
    expect([pen.theirs, pen.history.present.title]).toEqual([undefined, 'Draft, more'])
  })

  it('are joined with what was saved since, or asked about: never dropped', () => {
    const joined = open([draftOf('Draft')], stored(7, { ...plan, notes: 'theirs' }, 'other-9'))
    expect([joined.pen.theirs, joined.pen.history.present]).toEqual([
      undefined,
      { ...plan, title: 'Draft', notes: 'theirs' },
    ])
    const asked = open([draftOf('Draft')], stored(7, { ...plan, title: 'Theirs' }, 'other-9'))
    expect([asked.pen.theirs?.revision, asked.pen.history.present.title, asked.pen.drafted]).toEqual([7, 'Draft', true])
  })

  it('are offered when there are several; a joined one goes when the server holds it, and comes back when it was undone', () => {
    const second = draftOf('', { slot: 'second', plan: { ...plan, notes: 'second' } })
    const { pen } = open([draftOf('Draft'), second])
    expect(pen.offers).toEqual([second])
    const joined = run(pen, { type: 'offer-joined', slot: 'second', now: 0 })
    expect([joined.pen.offers, joined.pen.history.present.notes]).toEqual([[], 'second'])
    const sent = run(joined.pen, { type: 'clock', now: 0 }).pen
    const done = run(sent, answered('me-1', { is: 'saved', stored: stored(5, sent.history.present) }))
    expect(does(done.effects)).toEqual(['drop old', 'drop second'])
    const undone = run(joined.pen, { type: 'undone', now: 0 }, { type: 'clock', now: 0 }).pen
    const after = run(undone, answered('me-1', { is: 'saved', stored: stored(5, undone.history.present) }))
    expect([does(after.effects), after.pen.offers]).toEqual([['drop old'], [second]])
  })

  it('says when the browser keeps none', () => {
    const { pen } = run(open().pen, edited('B'), { type: 'draft-refused', why: 'full' })
    expect([pen.drafted, pen.draftRefused]).toEqual([false, 'full'])
  })
})
