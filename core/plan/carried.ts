import { entryOf } from '../base/entryOf.ts'
import { memoIn } from '../base/memo.ts'
import type { Path } from '../base/yamlSource.ts'
import { type Catalog, makeCatalog, type OwnEntries } from '../catalog/catalog.ts'
import { type OwnEntry, validateEntry } from '../catalog/ownEntry.ts'
import type { Edit } from './edit.ts'
import type { Plan } from './planSchema.ts'

/** Most entries that one plan may carry. */
const MOST_CARRIED = 60

/** What the entries that a plan carries come to beside a catalogue: those that hold, and what is wrong with others. */
interface Carried {
  readonly entries: readonly OwnEntry[]
  readonly problems: readonly { readonly path: Path; readonly message: string }[]
}

/** Validates carried entries; the same for the same entries, so that reading and binding look at them once. */
const carriedIn = memoIn((own: OwnEntries, base: Catalog): Carried => {
  const entries: OwnEntry[] = []
  const problems: { path: Path; message: string }[] = []
  let count = 0
  for (const kind of ['boards', 'parts'] as const)
    for (const [id, raw] of Object.entries(own[kind])) {
      count += 1
      if (count > MOST_CARRIED) {
        problems.push({
          path: ['own', kind, id],
          message: `the plan carries more than ${MOST_CARRIED} entries of its own`,
        })
        return { entries, problems }
      }
      const entry = validateEntry(kind, raw, base, (path, message) => {
        problems.push({ path: ['own', kind, id, ...path], message })
        return { file: '', path: '', message }
      })
      if (!entry.ok) continue
      if (entry.value.entry.id === id) entries.push(entry.value)
      else
        problems.push({
          path: ['own', kind, id, 'id'],
          message: `the id "${entry.value.entry.id}" differs from the key "${id}"`,
        })
    }
  return { entries, problems }
})

/**
 * The catalogue as one plan sees it: the entries that it carries stand before those of the same id elsewhere, so that a
 * plan means the same on every machine. The same object for the same plan; entries that do not hold are left out.
 */
export const catalogFor = ({ own }: Pick<Plan, 'own'>, base: Catalog): Catalog => (own ? withOwn(own, base) : base)

const withOwn = memoIn((own: OwnEntries, base: Catalog): Catalog => {
  const boards = new Map(base.boards)
  const parts = new Map(base.parts)
  for (const one of carriedIn(own, base).entries)
    if (one.kind === 'parts') parts.set(one.entry.id, one.entry)
    else boards.set(one.entry.id, one.entry)
  return makeCatalog(
    [...boards.values()],
    [...parts.values()],
    {
      boards: { ...base.own.boards, ...own.boards },
      parts: { ...base.own.parts, ...own.parts },
    },
    base.drivers,
  )
})

/** What is wrong with the entries that a plan carries, with their places in the plan. */
export const carriedProblems = ({ own }: Pick<Plan, 'own'>, base: Catalog): Carried['problems'] =>
  own ? carriedIn(own, base).problems : []

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
