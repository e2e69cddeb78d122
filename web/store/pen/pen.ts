import { advance, HISTORY_LENGTH, type History, redo, startHistory, undo } from '../../../core/plan/history.ts'
import { mergePlans, type Side } from '../../../core/plan/merge.ts'
import { type Pieces, piecesOf } from '../../../core/plan/pieces.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { samePlan } from '../../../core/plan/samePlan.ts'
import type {
  Draft,
  Effect,
  Pen,
  PenAids,
  PenEvent,
  SaveAnswer,
  Stepped,
  Stored,
  Sync,
  Trouble,
  TroubleKind,
} from './penEvents.ts'

/** Milliseconds of quiet before a change is sent, and the longest that a change waits while others follow. */
export const QUIET = 350

export const LONGEST_WAIT = 2000

/** Milliseconds before the next try, growing. */
const pauses = [1000, 2000, 4000, 8000, 15_000, 30_000]

export const pauseAfter = (tries: number): number => pauses[Math.min(tries, pauses.length) - 1] ?? pauses[0]!

/** Troubles that pass by themselves or by what the maker does outside. */
const passing: ReadonlySet<TroubleKind> = new Set(['server-away', 'in-use', 'disk-full', 'read-only', 'disk'])

/** A pen on a plan that was just loaded, with the unsaved work that the browser kept of it, newest first. */
export function openPen(
  {
    id,
    token,
    slot,
    stored,
    drafts,
    now,
  }: { id: string; token: string; slot: string; stored: Stored; drafts: readonly Draft[]; now: number },
  aids: PenAids,
): Stepped {
  let pen: Pen = {
    id,
    token,
    base: stored,
    history: startHistory(stored.plan),
    opened: stored.revision,
    sync: { is: 'saved' },
    theirs: undefined,
    offers: [],
    joined: [],
    slot,
    drafted: false,
    draftRefused: undefined,
    sends: 0,
    failures: 0,
  }
  const effects: Effect[] = []
  let taken = false
  for (const draft of drafts) {
    if (samePlan(draft.plan, stored.plan)) {
      effects.push({ do: 'drop-draft', slot: draft.slot })
      continue
    }
    if (taken) {
      pen = { ...pen, offers: [...pen.offers, draft] }
      continue
    }
    taken = true
    // The draft stays where it is; from now on this pen writes there.
    pen = takeUp({ ...pen, slot: draft.slot, drafted: true }, draft, aids, now)
  }
  const next = settle(pen, now)
  return { pen: next.pen, effects: [...effects, ...next.effects] }
}

function takeUp(pen: Pen, draft: Draft, aids: PenAids, now: number): Pen {
  const { base: stored } = pen
  const label = 'changes that were not saved'
  const isAhead = draft.revision === stored.revision || isOwn(draft.token, stored.savedBy)
  const waiting = { is: 'waiting', since: now } as const
  if (isAhead) return { ...pen, history: follow(startHistory(stored.plan), draft.plan, label), sync: waiting }
  const joined = draft.base && join(draft.base, draft.plan, stored.plan, aids)
  if (joined) return { ...pen, history: follow(startHistory(stored.plan), joined, label), sync: waiting }
  // The maker says how it goes together. A draft without its base is compared with what the server holds.
  const base: Stored = { revision: draft.revision, plan: draft.base ?? stored.plan, savedBy: null }
  return { ...pen, base, history: startHistory(draft.plan), opened: undefined, theirs: stored, sync: waiting }
}

/** What happened, and what is to be done about it. */
export function step(pen: Pen, event: PenEvent, aids: PenAids): Stepped {
  switch (event.type) {
    case 'edited':
      return changed(pen, advance(pen.history, event.edits, event.label, event.joins), event.now)
    case 'replaced':
      return changed(pen, follow(pen.history, event.plan, event.label), event.now)
    case 'undone':
      return changed(pen, undo(pen.history), event.now)
    case 'redone':
      return changed(pen, redo(pen.history), event.now)
    case 'clock':
      if (pen.sync.is === 'waiting' || (pen.sync.is === 'trouble' && passing.has(pen.sync.trouble.kind)))
        return send(pen)
      return still(pen)
    case 'retry':
      if (pen.sync.is !== 'trouble' || pen.sync.trouble.kind === 'gone') return still(pen)
      return send(pen)
    case 'left':
      return pen.sync.is === 'waiting' ? send(pen) : still(pen)
    case 'answered':
      if (pen.sync.is !== 'saving' || pen.sync.token !== event.token) return still(pen)
      return answered(pen, pen.sync, event.answer, aids, event.now)
    case 'heard':
      return heard(pen, event.stored, aids, event.now)
    case 'deleted':
      return {
        pen: { ...pen, drafted: true, sync: { is: 'trouble', trouble: gone } },
        effects: keepDraft(pen),
      }
    case 'settled': {
      if (!pen.theirs) return still(pen)
      const { theirs } = pen
      const plan = mergePlans(pen.base.plan, pen.history.present, theirs.plan).plan(event.how)
      return settleWith(
        {
          ...pen,
          base: theirs,
          theirs: undefined,
          history: follow(pen.history, plan, 'joined with changes made elsewhere'),
        },
        event.now,
      )
    }
    case 'took-theirs': {
      if (!pen.theirs) return still(pen)
      const { theirs } = pen
      // A step like any other: undo brings mine back.
      return settleWith(
        {
          ...pen,
          base: theirs,
          theirs: undefined,
          history: follow(pen.history, theirs.plan, 'take what was saved elsewhere'),
        },
        event.now,
      )
    }
    case 'remembered': {
      // Only what came right before: a plan that was saved meanwhile by others has another past.
      if (event.revision !== pen.opened) return still(pen)
      const past = [...event.steps, ...pen.history.past].slice(-HISTORY_LENGTH)
      return still({ ...pen, history: { ...pen.history, past }, opened: undefined })
    }
    case 'offer-dropped':
      return {
        pen: { ...pen, offers: pen.offers.filter((one) => one.slot !== event.slot) },
        effects: [{ do: 'drop-draft', slot: event.slot }],
      }
    case 'offer-joined': {
      const offer = pen.offers.find((one) => one.slot === event.slot)
      if (!offer || pen.theirs) return still(pen)
      const merge = mergePlans(offer.base ?? pen.base.plan, offer.plan, pen.history.present)
      // What touches is not decided here: the offer stays, and can become a plan of its own.
      if (merge.clashes.length > 0) return still(pen)
      const plan = merge.plan(new Map())
      const joined = {
        ...pen,
        offers: pen.offers.filter((one) => one !== offer),
        joined: [...pen.joined, offer],
      }
      return changed(joined, follow(pen.history, plan, 'join unsaved changes'), event.now)
    }
    case 'found': {
      const known = new Set([pen.slot, ...[...pen.joined, ...pen.offers].map((one) => one.slot)])
      const found = event.drafts.filter((one) => !known.has(one.slot))
      const held = found.filter((one) => samePlan(one.plan, pen.base.plan))
      return {
        pen: { ...pen, offers: [...pen.offers, ...found.filter((one) => !held.includes(one))] },
        effects: held.map((one) => ({ do: 'drop-draft', slot: one.slot })),
      }
    }
    case 'draft-refused':
      return { pen: { ...pen, drafted: false, draftRefused: event.why }, effects: [] }
  }
}

const gone: Trouble = { kind: 'gone', text: 'the plan was deleted elsewhere' }

const still = (pen: Pen): Stepped => ({ pen, effects: [] })

/** True for a save of this pen. */
const isOwn = (token: string, savedBy: string | null): boolean => savedBy?.startsWith(`${token}-`) === true

/** What the maker sees is what the server holds. */
export const isClean = (pen: Pen): boolean =>
  !pen.theirs && (pen.history.present === pen.base.plan || samePlan(pen.history.present, pen.base.plan))

/** A new present as a step that can be undone. */
function follow(history: History, plan: Plan, label: string): History {
  if (samePlan(history.present, plan)) return { ...history, present: plan }
  return { past: [...history.past, { plan: history.present, label }], present: plan, future: [] }
}

function changed(pen: Pen, history: History, now: number): Stepped {
  if (history === pen.history) return still(pen)
  return settleWith({ ...pen, history }, now)
}

/** The draft that belongs to what the maker sees now. */
function keepDraft(pen: Pen): Effect[] {
  const { slot, id, token, base, history } = pen
  const draft = { slot, planId: id, plan: history.present, revision: base.revision, base: base.plan, token }
  return [{ do: 'keep-draft', draft }]
}

/** Brings draft, clock and state in line with a present that may have changed. */
function settleWith(pen: Pen, now: number): Stepped {
  const { sync } = pen
  if (sync.is === 'saving') {
    // The answer decides; until then what is sent is not known to be held.
    return { pen: { ...pen, drafted: true }, effects: keepDraft(pen) }
  }
  // After a failed try it is not known what the server holds, even when what is seen is what it held before.
  if (isClean(pen) && sync.is !== 'trouble') {
    const said = pen.joined.filter((one) => says(pen.base.plan, one))
    const undone = pen.joined.filter((one) => !said.includes(one))
    const gone = [...(pen.drafted || pen.draftRefused !== undefined ? [pen.slot] : []), ...said.map((one) => one.slot)]
    return {
      pen: {
        ...pen,
        sync: { is: 'saved' },
        drafted: false,
        draftRefused: undefined,
        joined: [],
        offers: [...pen.offers, ...undone],
      },
      effects: gone.map((slot) => ({ do: 'drop-draft', slot })),
    }
  }
  const kept = { ...pen, drafted: true }
  const effects = keepDraft(pen)
  if (pen.theirs) return { pen: { ...kept, sync: { is: 'waiting', since: now } }, effects }
  if (sync.is === 'trouble') {
    if (sync.trouble.kind !== 'refused') return { pen: kept, effects }
    // What was refused may be right after this change.
    return {
      pen: { ...kept, sync: { is: 'waiting', since: now } },
      effects: [...effects, { do: 'wake', after: QUIET }],
    }
  }
  const since = sync.is === 'waiting' ? sync.since : now
  const after = Math.max(0, Math.min(QUIET, since + LONGEST_WAIT - now))
  return { pen: { ...kept, sync: { is: 'waiting', since } }, effects: [...effects, { do: 'wake', after }] }
}

/** A plan has everything that a draft changed. */
function says(plan: Plan, draft: Draft): boolean {
  if (!draft.base) return samePlan(plan, draft.plan)
  const [was, wanted, has] = [piecesOf(draft.base), piecesOf(draft.plan), piecesOf(plan)]
  const same = (a: Pieces, b: Pieces, key: string): boolean => JSON.stringify(a.get(key)) === JSON.stringify(b.get(key))
  return [...was.keys(), ...wanted.keys()].every((key) => same(was, wanted, key) || same(wanted, has, key))
}

const settle = (pen: Pen, now: number): Stepped => (isClean(pen) && !pen.drafted ? still(pen) : settleWith(pen, now))

function send(pen: Pen): Stepped {
  if (pen.theirs || pen.sync.is === 'saving' || pen.sync.is === 'saved') return still(pen)
  const sends = pen.sends + 1
  const token = `${pen.token}-${sends}`
  const plan = pen.history.present
  return {
    pen: { ...pen, sends, sync: { is: 'saving', sent: plan, token } },
    effects: [{ do: 'send', token, revision: pen.base.revision, plan }],
  }
}

function answered(
  pen: Pen,
  { sent }: Extract<Sync, { is: 'saving' }>,
  answer: SaveAnswer,
  aids: PenAids,
  now: number,
): Stepped {
  const idle: Pen = { ...pen, failures: 0, sync: { is: 'waiting', since: now } }
  if (answer.is === 'saved') return held(idle, sent, answer.stored, now)
  if (answer.is === 'conflict') {
    // An earlier save of ours arrived after all, and only its answer was lost.
    if (isOwn(pen.token, answer.current.savedBy)) return settleWith({ ...idle, base: answer.current }, now)
    return meet(idle, answer.current, aids, now)
  }
  const { trouble } = answer
  const failures = pen.failures + 1
  const wake: Effect[] = passing.has(trouble.kind) ? [{ do: 'wake', after: pauseAfter(failures) }] : []
  // What is seen may be what was kept before, after an undo; it is not known to be held until the answer is known.
  return {
    pen: { ...pen, failures, drafted: true, sync: { is: 'trouble', trouble } },
    effects: [...keepDraft(pen), ...wake],
  }
}

/** The server holds what was sent, perhaps in other words: with the entries that it uses, or pieces set aside. */
function held(pen: Pen, sent: Plan, stored: Stored, now: number): Stepped {
  const { history } = pen
  if (samePlan(sent, stored.plan)) return settleWith({ ...pen, base: { ...stored, plan: sent } }, now)
  const present =
    history.present === sent
      ? stored.plan
      : mergePlans(sent, history.present, stored.plan).plan(allMine(sent, history.present, stored.plan))
  return settleWith({ ...pen, base: stored, history: { ...history, present } }, now)
}

const allMine = (base: Plan, mine: Plan, theirs: Plan): ReadonlyMap<string, Side> =>
  new Map(mergePlans(base, mine, theirs).clashes.map((one) => [one.key, 'mine']))

/** The server holds something that this page has not seen. */
function heard(pen: Pen, stored: Stored, aids: PenAids, now: number): Stepped {
  const known = pen.theirs ?? pen.base
  if (stored.revision <= known.revision || pen.sync.is === 'saving') return still(pen)
  if (isOwn(pen.token, stored.savedBy)) return settleWith({ ...pen, base: stored, theirs: undefined }, now)
  if (pen.theirs) return meet(pen, stored, aids, now)
  if (!isClean(pen)) return meet(pen, stored, aids, now)
  return settleWith({ ...pen, base: stored, history: follow(pen.history, stored.plan, 'changes made elsewhere') }, now)
}

/** Mine meets what another page saved: joined where the two do not touch, else the maker is asked. */
function meet(pen: Pen, current: Stored, aids: PenAids, now: number): Stepped {
  const joined = join(pen.base.plan, pen.history.present, current.plan, aids)
  if (!joined) return settleWith({ ...pen, theirs: current }, now)
  const history = follow(pen.history, joined, 'joined with changes made elsewhere')
  return settleWith({ ...pen, base: current, theirs: undefined, history }, now)
}

/** The two sides joined; undefined when they touch, or when together they make a fault that neither had. */
export function join(base: Plan, mine: Plan, theirs: Plan, aids: PenAids): Plan | undefined {
  const merge = mergePlans(base, mine, theirs)
  if (merge.clashes.length > 0) return undefined
  const plan = merge.plan(new Map())
  if (samePlan(plan, mine)) return mine
  if (samePlan(plan, theirs)) return theirs
  const before = new Set([...aids.faults(mine), ...aids.faults(theirs)])
  return [...aids.faults(plan)].every((one) => before.has(one)) ? plan : undefined
}
