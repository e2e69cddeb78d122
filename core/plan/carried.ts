import { type Catalog, makeCatalog, type OwnEntries } from '../catalog/catalog.ts'
import { validateEntry } from '../catalog/ownEntry.ts'
import { entryOf } from '../text/entryOf.ts'
import type { Path } from '../text/yamlSource.ts'
import type { Edit } from './edit.ts'
import type { Plan } from './planSchema.ts'

/** Most entries that one plan may carry. */
const MOST_CARRIED = 60

const made = new WeakMap<OwnEntries, WeakMap<Catalog, Catalog>>()

/**
 * The catalogue as one plan sees it: the entries that it carries stand before those of the same id elsewhere, so that a
 * plan means the same on every machine. The same object for the same plan; entries that do not hold are left out.
 */
export function catalogFor(plan: Pick<Plan, 'own'>, base: Catalog): Catalog {
  const own = plan.own
  if (!own) return base
  const known = made.get(own) ?? new WeakMap<Catalog, Catalog>()
  made.set(own, known)
  let catalog = known.get(base)
  if (!catalog) {
    const boards = new Map(base.boards)
    const parts = new Map(base.parts)
    for (const [id, raw] of Object.entries(own.parts)) {
      const entry = validateEntry('parts', raw, base)
      if (entry.ok && entry.value.kind === 'parts') parts.set(id, entry.value.entry)
    }
    for (const [id, raw] of Object.entries(own.boards)) {
      const entry = validateEntry('boards', raw, base)
      if (entry.ok && entry.value.kind === 'boards') boards.set(id, entry.value.entry)
    }
    catalog = makeCatalog([...boards.values()], [...parts.values()], {
      boards: { ...base.own.boards, ...own.boards },
      parts: { ...base.own.parts, ...own.parts },
    })
    known.set(base, catalog)
  }
  return catalog
}

/** Says what is wrong with the entries that a plan carries, with their places in the plan. */
export function checkCarried(plan: Pick<Plan, 'own'>, base: Catalog, say: (path: Path, message: string) => void): void {
  let count = 0
  for (const kind of ['boards', 'parts'] as const)
    for (const [id, raw] of Object.entries(plan.own?.[kind] ?? {})) {
      count += 1
      if (count > MOST_CARRIED) {
        say(['own', kind, id], `the plan carries more than ${MOST_CARRIED} entries of its own`)
        return
      }
      const entry = validateEntry(kind, raw, base, (path, message) => {
        say(['own', kind, id, ...path], message)
        return { file: '', path: '', message }
      })
      if (entry.ok && entry.value.entry.id !== id)
        say(['own', kind, id, 'id'], `the id "${entry.value.entry.id}" differs from the key "${id}"`)
    }
}

/** Edits after which a plan carries every entry of the maker's own that it uses, and means the same on any machine. */
export function carryUsed(plan: Plan, catalog: Catalog): Edit[] {
  const edits = new Map<string, Edit>()
  const add = (kind: 'boards' | 'parts', id: string): void => {
    for (const edit of carryEdits(plan, catalog, kind, id))
      if (edit.do === 'carry') edits.set(`${edit.kind} ${edit.id}`, edit)
  }
  for (const { board } of Object.values(plan.boards)) add('boards', board)
  for (const { part } of Object.values(plan.parts)) add('parts', part)
  return [...edits.values()]
}

/** Edits that make a plan carry an entry of the maker's own with what it refers to; none for entries that ship. */
export function carryEdits(plan: Plan, catalog: Catalog, kind: 'boards' | 'parts', id: string): Edit[] {
  const raw = entryOf(catalog.own[kind], id)
  if (raw === undefined || entryOf(plan.own?.[kind], id) !== undefined) return []
  const companions = kind === 'parts' ? (catalog.parts.get(id)?.companions ?? []) : []
  const others = companions.map((one) => one.part).filter((one) => one !== id)
  return [
    { do: 'carry', kind, id, entry: raw },
    ...others.flatMap((one): Edit[] => {
      const other = entryOf(catalog.own.parts, one)
      return other === undefined || entryOf(plan.own?.parts, one) !== undefined
        ? []
        : [{ do: 'carry', kind: 'parts', id: one, entry: other }]
    }),
  ]
}
