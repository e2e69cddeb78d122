import { findingKey, sameFinding } from './findingKey.ts'
import type { Accepted, Aside, Plan, PlanWire } from './planSchema.ts'

/**
 * A plan as pieces that can be changed on their own: each has a key (`parts/LAMP`, `parts/LAMP/options/colour`,
 * `wires/LAMP.A R1.1`) and a value. Two plans say the same when their pieces are the same. Order is that of the plan.
 */
export type Pieces = ReadonlyMap<string, unknown>

type Fields = Readonly<Record<string, unknown>>
const sections = ['boards', 'supplies', 'parts'] as const
/** What an entry is: `parts/LAMP` has the value of this field, or true. */
const kindOf = { boards: 'board', supplies: undefined, parts: 'part' } as const
/** Maps inside an entry, of which each key is a piece. */
const maps: ReadonlySet<string> = new Set(['options', 'clocks'])

/** Sections that are one map of names to values. */
const namedSections = [
  'breadboards',
  'places',
  'via',
  'prefer',
  'colours',
  'names',
  'proved',
  'comments',
  'programs',
] as const

export const wireKey = (wire: PlanWire): string => `wires/${[wire[0], wire[1]].sort().join(' ')}`

export function piecesOf(plan: Plan): Map<string, unknown> {
  const pieces = new Map<string, unknown>()
  const put = (key: string, value: unknown): void => {
    if (value !== undefined && value !== '') pieces.set(key, value)
  }
  put('markpost', plan.markpost)
  put('title', plan.title)
  put('notes', plan.notes)
  for (const section of sections)
    for (const [ref, entry] of Object.entries<Fields>(plan[section])) {
      const kind = kindOf[section]
      put(`${section}/${ref}`, kind === undefined ? true : entry[kind])
      for (const [field, value] of Object.entries(entry)) {
        if (field === kind) continue
        if (maps.has(field) && value !== undefined)
          for (const [id, one] of Object.entries(value as Fields)) put(`${section}/${ref}/${field}/${id}`, one)
        else put(`${section}/${ref}/${field}`, value)
      }
    }
  for (const wire of plan.wires) put(wireKey(wire), wire)
  for (const end of plan.unused) put(`unused/${end}`, true)
  for (const one of plan.accepted) put(`accepted/${findingKey(one)}`, one)
  for (const [ref, one] of Object.entries(plan.bench?.breadboards ?? {})) put(`breadboards/${ref}`, one)
  for (const [ref, one] of Object.entries(plan.bench?.places ?? {})) put(`places/${ref}`, one)
  for (const [end, hole] of Object.entries(plan.bench?.via ?? {})) put(`via/${end}`, hole)
  put('spareRows', plan.bench?.spareRows)
  for (const wire of plan.bench?.done ?? []) put(`done/${wire}`, true)
  for (const [what, one] of Object.entries(plan.settings?.prefer ?? {})) put(`prefer/${what}`, one)
  for (const [kind, one] of Object.entries(plan.settings?.colours ?? {})) put(`colours/${kind}`, one)
  for (const id of plan.settings?.asked ?? []) put(`asked/${id}`, true)
  for (const [end, name] of Object.entries(plan.names ?? {})) put(`names/${end}`, name)
  for (const [step, one] of Object.entries(plan.bringup?.done ?? {})) put(`proved/${step}`, one)
  put('stage', plan.bringup?.stage)
  put('hints', plan.settings?.hints)
  for (const [id, one] of Object.entries(plan.comments ?? {})) put(`comments/${id}`, one)
  const { programs, ...script } = plan.rehearsal ?? {}
  // A program is one thing: lines of two people do not make a third.
  for (const [ref, files] of Object.entries(programs ?? {})) put(`programs/${ref}`, files)
  for (const [key, one] of Object.entries(script)) put(`script/${key}`, one)
  for (const one of plan.aside ?? []) put(`aside/${JSON.stringify([one.at, one.value])}`, one)
  for (const kind of ['boards', 'parts'] as const)
    for (const [id, one] of Object.entries(plan.own?.[kind] ?? {})) put(`own/${kind}/${id}`, one)
  return pieces
}

/** The plan of pieces. Fields of an entry that is not among them are left out. */
export function planOfPieces(pieces: Pieces): Plan {
  const entries = {
    boards: new Map<string, Fields>(),
    supplies: new Map<string, Fields>(),
    parts: new Map<string, Fields>(),
  }
  const lists = {
    wires: [] as PlanWire[],
    unused: [] as string[],
    accepted: [] as Accepted[],
    done: [] as string[],
    asked: [] as string[],
    aside: [] as Aside[],
  }
  const named: Record<(typeof namedSections)[number], Record<string, unknown>> = {
    breadboards: {},
    places: {},
    via: {},
    prefer: {},
    colours: {},
    names: {},
    proved: {},
    comments: {},
    programs: {},
  }
  const script: Record<string, unknown> = {}
  const own = { boards: {}, parts: {} } as Record<'boards' | 'parts', Record<string, unknown>>
  const isSection = (name: string): name is keyof typeof entries => Object.hasOwn(entries, name)
  for (const [key, value] of pieces) {
    const [section = '', ref = '', ...rest] = key.split('/')
    if (isSection(section) && rest.length === 0) {
      const kind = kindOf[section]
      entries[section].set(ref, kind === undefined ? {} : { [kind]: value })
    }
  }
  for (const [key, value] of pieces) {
    const [section = '', ref = '', field, id] = key.split('/')
    const rest = key.slice(section.length + 1)
    if (isSection(section)) {
      const entry = entries[section].get(ref)
      if (!entry || field === undefined) continue
      const inner = id === undefined ? value : { ...((entry[field] as Fields | undefined) ?? {}), [id]: value }
      entries[section].set(ref, { ...entry, [field]: inner })
    } else if (section === 'wires') lists.wires.push(value as PlanWire)
    else if (section === 'accepted') lists.accepted.push(value as Accepted)
    else if (section === 'aside') lists.aside.push(value as Aside)
    else if (section === 'unused' || section === 'done' || section === 'asked') lists[section].push(rest)
    else if (Object.hasOwn(named, section)) named[section as keyof typeof named][rest] = value
    else if (section === 'script') script[rest] = value
    else if (section === 'own') own[ref as 'boards' | 'parts'][field ?? ''] = value
  }
  const { wires, unused, done, asked, aside } = lists
  const accepted = lists.accepted.filter((one, at, all) => all.findIndex((two) => sameFinding(one, two)) === at)
  const rows = pieces.get('spareRows')
  const hasBench = done.length > 0 || rows !== undefined || [named.breadboards, named.places, named.via].some(isFilled)
  const notes = pieces.get('notes')
  const stage = pieces.get('stage')
  const hints = pieces.get('hints')
  return {
    markpost: 1,
    title: String(pieces.get('title')),
    ...(notes === undefined ? {} : { notes }),
    boards: Object.fromEntries(entries.boards),
    supplies: Object.fromEntries(entries.supplies),
    parts: Object.fromEntries(entries.parts),
    wires,
    unused,
    accepted,
    ...(hasBench
      ? {
          bench: {
            breadboards: named.breadboards,
            places: named.places,
            ...(isFilled(named.via) ? { via: named.via } : {}),
            ...(rows === undefined ? {} : { spareRows: rows }),
            done,
          },
        }
      : {}),
    ...([named.prefer, named.colours].some(isFilled) || asked.length > 0 || hints !== undefined
      ? {
          settings: {
            ...(isFilled(named.prefer) ? { prefer: named.prefer } : {}),
            ...(isFilled(named.colours) ? { colours: named.colours } : {}),
            ...(asked.length > 0 ? { asked } : {}),
            ...(hints === undefined ? {} : { hints }),
          },
        }
      : {}),
    ...(isFilled(named.names) ? { names: named.names } : {}),
    ...(isFilled(named.proved) || stage !== undefined
      ? { bringup: { done: named.proved, ...(stage === undefined ? {} : { stage }) } }
      : {}),
    ...(isFilled(named.programs) || isFilled(script)
      ? { rehearsal: { ...(isFilled(named.programs) ? { programs: named.programs } : {}), ...script } }
      : {}),
    ...(isFilled(named.comments) ? { comments: named.comments } : {}),
    ...(aside.length > 0 ? { aside } : {}),
    ...(isFilled(own.boards) || isFilled(own.parts) ? { own } : {}),
  } as Plan
}

const isFilled = (map: object): boolean => Object.keys(map).length > 0
