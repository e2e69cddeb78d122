import * as v from 'valibot'
import { entryOf } from '../base/entryOf.ts'
import { splitEnd } from './ends.ts'
import { sameFinding } from './findingKey.ts'
import {
  type Aside,
  type BenchPlace,
  type Breadboard,
  type BringUp,
  type Comment,
  type Plan,
  type PlanBoard,
  type PlanPart,
  type PlanSupply,
  type PlanWire,
  type Preference,
  ProgramName,
  type Proof,
  Ref,
  type Rehearsal,
  type Stage,
  type WireColour,
  type WireFacts,
  type WireKind,
} from './planSchema.ts'
import { ProgramFiles } from './rehearsalSchema.ts'
import { removed, renamed } from './renameRef.ts'
import { benchOf, withBench, withBringUp, withComments, withNames, withRehearsal, withSettings } from './sections.ts'

/**
 * One change of a plan: small, serialisable, made by hand, by a fix, by the search or by the command line alike.
 * Ends are canonical (`REF.PIN` with the pin's id).
 */
export type Edit =
  /** The whole plan as it was, or is to be. */
  | { readonly do: 'become'; readonly plan: Plan }
  | { readonly do: 'set-title'; readonly title: string }
  | { readonly do: 'set-notes'; readonly notes: string }
  | { readonly do: 'add-board'; readonly ref: string; readonly entry: PlanBoard }
  | { readonly do: 'add-supply'; readonly ref: string; readonly entry: PlanSupply }
  | { readonly do: 'add-part'; readonly ref: string; readonly entry: PlanPart }
  | { readonly do: 'change-board'; readonly ref: string; readonly entry: Partial<PlanBoard> }
  | { readonly do: 'change-supply'; readonly ref: string; readonly entry: Partial<PlanSupply> }
  | { readonly do: 'change-part'; readonly ref: string; readonly entry: Partial<PlanPart> }
  | { readonly do: 'rename'; readonly ref: string; readonly to: string }
  | { readonly do: 'remove'; readonly ref: string }
  | { readonly do: 'connect'; readonly from: string; readonly to: string; readonly facts?: WireFacts }
  | { readonly do: 'disconnect'; readonly from: string; readonly to: string }
  | { readonly do: 'change-wire'; readonly from: string; readonly to: string; readonly facts: WireFacts }
  | { readonly do: 'leave-open'; readonly end: string }
  | { readonly do: 'use-again'; readonly end: string }
  | { readonly do: 'accept'; readonly rule: string; readonly at: readonly string[]; readonly because: string }
  | { readonly do: 'withdraw'; readonly rule: string; readonly at: readonly string[] }
  /** Puts a breadboard on the bench, changes it, or with null takes it away. */
  | { readonly do: 'set-breadboard'; readonly ref: string; readonly entry: Breadboard | null }
  /** Keeps a board or part at a place of the maker's; null leaves the place to the program. */
  | { readonly do: 'place'; readonly ref: string; readonly place: BenchPlace | null }
  | { readonly do: 'spare-rows'; readonly rows: number }
  /** Leads the wire of an end over a hole; null leaves its way to the program. */
  | { readonly do: 'lead-over'; readonly end: string; readonly hole: string | null }
  /** Lays the breadboards in this order, from the left. */
  | { readonly do: 'order-breadboards'; readonly refs: readonly string[] }
  /** Gives wires of a kind the colour of the house; null the usual one. */
  | { readonly do: 'house-colour'; readonly what: WireKind; readonly colour: WireColour | null }
  /** Ticks wires of the bench off, or takes the ticks away. */
  | { readonly do: 'tick'; readonly wires: readonly string[]; readonly done: boolean }
  /** Lets the search weigh something less or more; null as usual. */
  | {
      readonly do: 'prefer'
      readonly what: Preference
      readonly weight: 'less' | 'more' | null
    }
  /** A question of the tool was answered and is not asked again. */
  | { readonly do: 'answered'; readonly question: string }
  /** Names the constant of a signal in the maker's program; null leaves the name to the program. */
  | { readonly do: 'set-name'; readonly end: string; readonly name: string | null }
  /** Keeps what was seen at steps of bring-up, or with null lets go of it; and how far the build is then. */
  | {
      readonly do: 'prove'
      readonly steps: Readonly<Record<string, Proof | null>>
      readonly stage?: Stage
    }
  /** Lets the tool help with a task, or not. */
  | { readonly do: 'hints'; readonly on: boolean }
  /** Pins a comment, changes it, or with null takes it away. */
  | { readonly do: 'comment'; readonly id: string; readonly comment: Comment | null }
  /** Keeps the program of a board; null puts it away. */
  | { readonly do: 'set-program'; readonly ref: string; readonly files: ProgramFiles | null }
  /** Keeps what is done while programs run; fields that are undefined go. */
  | { readonly do: 'set-script'; readonly script: Omit<Rehearsal, 'programs'> }
  /** Lets go for good of a piece that the catalogue does not know. */
  | { readonly do: 'forget-aside'; readonly piece: Aside }
  /** Puts a catalogue entry of the maker's own into the plan, as written, or a newer one in its place. */
  | { readonly do: 'carry'; readonly kind: 'boards' | 'parts'; readonly id: string; readonly entry: unknown }

/** Parts that edits add are marked as still to be bought: the tool chose them, and nobody has said that they are there. */
export const toBuy = (edits: readonly Edit[]): Edit[] =>
  edits.map((edit) => (edit.do === 'add-part' ? { ...edit, entry: { ...edit.entry, buy: true } } : edit))

/** Edits that belong together, with a title that says what they do. */
export interface Fix {
  readonly title: string
  readonly edits: readonly Edit[]
}

/** An edit that does not fit the plan: a reference that is taken, a wire that is not there. */
export class EditError extends Error {
  override name = 'EditError'
}

/** Applies one edit; the given plan stays as it is. Throws {@link EditError} when the edit does not fit. */
export function applyEdit(plan: Plan, edit: Edit): Plan {
  switch (edit.do) {
    case 'become':
      return JSON.stringify(edit.plan) === JSON.stringify(plan) ? plan : edit.plan
    case 'set-title':
      return { ...plan, title: edit.title }
    case 'set-notes':
      return { ...plan, notes: edit.notes }
    case 'add-board':
      return { ...plan, boards: { ...plan.boards, [freeRef(plan, edit.ref)]: edit.entry } }
    case 'add-supply':
      return { ...plan, supplies: { ...plan.supplies, [freeRef(plan, edit.ref)]: edit.entry } }
    case 'add-part':
      return { ...plan, parts: { ...plan.parts, [freeRef(plan, edit.ref)]: edit.entry } }
    case 'change-board':
      return { ...plan, boards: changed(plan.boards, edit.ref, edit.entry) }
    case 'change-supply':
      return { ...plan, supplies: changed(plan.supplies, edit.ref, edit.entry) }
    case 'change-part':
      return { ...plan, parts: changed(plan.parts, edit.ref, edit.entry) }
    case 'rename':
      owned(plan, edit.ref)
      if (edit.ref === edit.to) return plan
      if (edit.ref.toUpperCase() !== edit.to.toUpperCase()) freeRef(plan, edit.to)
      return renamed(plan, edit.ref, edit.to)
    case 'remove':
      owned(plan, edit.ref)
      return removed(plan, edit.ref)
    case 'connect':
      return connected(plan, [edit])
    case 'disconnect': {
      const index = foundWire(plan, edit.from, edit.to)
      return { ...plan, wires: plan.wires.filter((_, at) => at !== index) }
    }
    case 'change-wire': {
      const index = foundWire(plan, edit.from, edit.to)
      return { ...plan, wires: plan.wires.map((wire, at) => (at === index ? changedWire(wire, edit.facts) : wire)) }
    }
    case 'leave-open':
      return plan.unused.includes(edit.end) ? plan : { ...plan, unused: [...plan.unused, edit.end] }
    case 'use-again':
      return { ...plan, unused: plan.unused.filter((end) => end !== edit.end) }
    case 'accept': {
      const others = plan.accepted.filter((one) => !sameFinding(one, edit))
      return { ...plan, accepted: [...others, { rule: edit.rule, at: [...edit.at], because: edit.because }] }
    }
    case 'withdraw':
      return { ...plan, accepted: plan.accepted.filter((one) => !sameFinding(one, edit)) }
    case 'set-breadboard': {
      const bench = benchOf(plan)
      const { [edit.ref]: before, ...others } = bench.breadboards
      if (edit.entry === null) {
        if (!before) throw new EditError(`the bench has no ${edit.ref}`)
        const stands = (hole: string): boolean => hole.startsWith(`${edit.ref}.`)
        const places = Object.entries(bench.places).filter(
          ([, place]) => ![place.at ?? '', ...Object.values(place.legs ?? {})].some(stands),
        )
        // What was built on it is taken apart.
        const done = bench.done.filter((one) => !one.split(' ').some(stands))
        const via = Object.fromEntries(Object.entries(bench.via ?? {}).filter(([, hole]) => !stands(hole)))
        return withBench(plan, { ...bench, breadboards: others, places: Object.fromEntries(places), via, done })
      }
      const ref = before ? edit.ref : freeRef(plan, edit.ref)
      return withBench(plan, { ...bench, breadboards: { ...bench.breadboards, [ref]: edit.entry } })
    }
    case 'place': {
      owned(plan, edit.ref)
      const bench = benchOf(plan)
      const { [edit.ref]: _, ...others } = bench.places
      return withBench(plan, {
        ...bench,
        places: edit.place === null ? others : { ...others, [edit.ref]: edit.place },
      })
    }
    case 'spare-rows':
      return withBench(plan, { ...benchOf(plan), spareRows: edit.rows })
    case 'lead-over': {
      owned(plan, splitEnd(edit.end).ref)
      const bench = benchOf(plan)
      const { [edit.end]: _, ...others } = bench.via ?? {}
      return withBench(plan, { ...bench, via: edit.hole === null ? others : { ...others, [edit.end]: edit.hole } })
    }
    case 'order-breadboards': {
      const bench = benchOf(plan)
      const known = Object.keys(bench.breadboards)
      if ([...known].sort().join(' ') !== [...edit.refs].sort().join(' '))
        throw new EditError(`expected the breadboards ${known.join(', ')} in another order`)
      const breadboards = Object.fromEntries(edit.refs.map((ref) => [ref, entryOf(bench.breadboards, ref)!]))
      return withBench(plan, { ...bench, breadboards })
    }
    case 'house-colour': {
      const { [edit.what]: _, ...others } = plan.settings?.colours ?? {}
      const colours = edit.colour === null ? others : { ...others, [edit.what]: edit.colour }
      return withSettings(plan, { colours: Object.keys(colours).length === 0 ? undefined : colours })
    }
    case 'tick': {
      const bench = benchOf(plan)
      const others = bench.done.filter((wire) => !edit.wires.includes(wire))
      return withBench(plan, { ...bench, done: edit.done ? [...others, ...edit.wires] : others })
    }
    case 'prefer': {
      const { [edit.what]: _, ...others } = plan.settings?.prefer ?? {}
      const prefer = edit.weight === null ? others : { ...others, [edit.what]: edit.weight }
      return withSettings(plan, { prefer: Object.keys(prefer).length === 0 ? undefined : prefer })
    }
    case 'answered':
      return withSettings(plan, { asked: [...new Set([...(plan.settings?.asked ?? []), edit.question])] })
    case 'set-name': {
      const { [edit.end]: _, ...others } = plan.names ?? {}
      if (edit.name === null) return withNames(plan, others)
      owned(plan, splitEnd(edit.end).ref)
      const checked = v.safeParse(ProgramName, edit.name)
      if (!checked.success) throw new EditError(`"${edit.name}": ${checked.issues[0].message}`)
      return withNames(plan, { ...others, [edit.end]: edit.name })
    }
    case 'hints':
      return withSettings(plan, { hints: edit.on ? undefined : false })
    case 'comment': {
      const { [edit.id]: _, ...others } = plan.comments ?? {}
      return withComments(plan, edit.comment === null ? others : { ...plan.comments, [edit.id]: edit.comment })
    }
    case 'set-program': {
      owned(plan, edit.ref)
      const { [edit.ref]: _, ...others } = plan.rehearsal?.programs ?? {}
      const checked = v.safeParse(ProgramFiles, edit.files ?? {})
      if (!checked.success) throw new EditError(`the program of ${edit.ref}: ${checked.issues[0].message}`)
      return withRehearsal(plan, {
        programs: Object.keys(checked.output).length === 0 ? others : { ...others, [edit.ref]: checked.output },
      })
    }
    case 'set-script':
      return withRehearsal(plan, edit.script)
    case 'prove': {
      const { done, ...rest } = plan.bringup ?? { done: {} }
      const all = Object.entries({ ...done, ...edit.steps }).filter(([, proof]) => proof !== null)
      return withBringUp(plan, {
        ...rest,
        done: Object.fromEntries(all) as BringUp['done'],
        ...(edit.stage ? { stage: edit.stage } : {}),
      })
    }
    case 'forget-aside': {
      const { aside = [], ...rest } = plan
      const left = aside.filter((one) => !samePiece(one, edit.piece))
      return left.length === 0 ? rest : { ...rest, aside: left }
    }
    case 'carry': {
      const own = { boards: {}, parts: {}, ...plan.own }
      return { ...plan, own: { ...own, [edit.kind]: { ...own[edit.kind], [edit.id]: edit.entry } } }
    }
  }
}

/** The reason is no part of a piece: it may be worded anew at the next reading. */
const samePiece = (a: Aside, b: Aside): boolean => JSON.stringify([a.at, a.value]) === JSON.stringify([b.at, b.value])

export function applyEdits(plan: Plan, edits: readonly Edit[]): Plan {
  let now = plan
  for (let at = 0; at < edits.length; ) {
    const edit = edits[at] as Edit
    const wires = wiresFrom(edits, at)
    now = wires.length > 0 ? connected(now, wires) : applyEdit(now, edit)
    if (now.bringup?.stage !== undefined && changesBuild(edit)) now = withBringUp(now, { done: now.bringup.done })
    at += Math.max(1, wires.length)
  }
  return now
}

type Connect = Extract<Edit, { do: 'connect' }>

/** New wires one after the other, from a place on. */
function wiresFrom(edits: readonly Edit[], from: number): Connect[] {
  const wires: Connect[] = []
  for (const edit of edits.slice(from)) {
    if (edit.do !== 'connect') break
    wires.push(edit)
  }
  return wires
}

/** New wires, as many at once as there are: each by itself would copy all wires of the plan. */
function connected(plan: Plan, edits: readonly Connect[]): Plan {
  const refs = new Set(allRefs(plan))
  const joined = new Set(plan.wires.flatMap(([a, b]) => [`${a} ${b}`, `${b} ${a}`]))
  const wires = [...plan.wires]
  const used = new Set<string>()
  for (const { from, to, facts } of edits) {
    if (from === to) throw new EditError(`a wire cannot join ${from} with itself`)
    if (joined.has(`${from} ${to}`)) throw new EditError(`${from} and ${to} are joined already`)
    for (const end of [from, to]) {
      const { ref } = splitEnd(end)
      if (!refs.has(ref)) throw new EditError(`the plan has no ${ref}`)
      used.add(end)
    }
    joined.add(`${from} ${to}`).add(`${to} ${from}`)
    wires.push(facts ? [from, to, facts] : [from, to])
  }
  return { ...plan, wires, unused: plan.unused.filter((end) => !used.has(end)) }
}

/** True for an edit after which a build is no longer as far as it was; how far is worked out again at the next step. */
const changesBuild = (edit: Edit): boolean =>
  edit.do === 'change-part'
    ? Object.keys(edit.entry).some((key) => key !== 'title' && key !== 'buy')
    : buildEdits.has(edit.do)
const buildEdits: ReadonlySet<Edit['do']> = new Set(['connect', 'disconnect', 'remove', 'add-part'])

/** Index of the wire between two ends, in either direction; -1 when there is none. */
export const wireIndex = (plan: Plan, from: string, to: string): number =>
  plan.wires.findIndex((wire) => (wire[0] === from && wire[1] === to) || (wire[0] === to && wire[1] === from))

function foundWire(plan: Plan, from: string, to: string): number {
  const index = wireIndex(plan, from, to)
  if (index < 0) throw new EditError(`there is no wire between ${from} and ${to}`)
  return index
}

/** Merges facts into a wire; a fact set to false, empty or undefined goes away. */
function changedWire(wire: PlanWire, facts: WireFacts): PlanWire {
  const merged = Object.fromEntries(
    Object.entries({ ...wire[2], ...facts }).filter(
      ([, value]) => value !== undefined && value !== false && value !== '',
    ),
  )
  return Object.keys(merged).length === 0 ? [wire[0], wire[1]] : [wire[0], wire[1], merged as WireFacts]
}

function changed<T extends object>(entries: Record<string, T>, ref: string, entry: Partial<T>): Record<string, T> {
  const before = entries[ref]
  if (!Object.hasOwn(entries, ref) || before === undefined) throw new EditError(`the plan has no ${ref}`)
  const merged = Object.fromEntries(Object.entries({ ...before, ...entry }).filter(([, value]) => value !== undefined))
  return { ...entries, [ref]: merged as T }
}

function owned(plan: Plan, ref: string): void {
  if (!allRefs(plan).includes(ref)) throw new EditError(`the plan has no ${ref}`)
}

export const allRefs = (plan: Plan): string[] => [
  ...Object.keys(plan.boards),
  ...Object.keys(plan.supplies),
  ...Object.keys(plan.parts),
]

/** References of breadboards, which share the names of everything else. */
export const breadboardRefs = (plan: Plan): string[] => Object.keys(plan.bench?.breadboards ?? {})

/** `BB1`, or the next that nothing in the plan is called. */
export function freeBreadboardRef(plan: Plan): string {
  const taken = new Set([...allRefs(plan), ...breadboardRefs(plan)].map((ref) => ref.toUpperCase()))
  let number = 1
  while (taken.has(`BB${number}`)) number += 1
  return `BB${number}`
}

function freeRef(plan: Plan, ref: string): string {
  const checked = v.safeParse(Ref, ref)
  if (!checked.success) throw new EditError(`"${ref}": ${checked.issues[0].message}`)
  if ([...allRefs(plan), ...breadboardRefs(plan)].some((one) => one.toUpperCase() === ref.toUpperCase()))
    throw new EditError(`the reference ${ref} is taken`)
  return ref
}
