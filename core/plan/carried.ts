import { type Catalog, makeCatalog, type OwnEntries } from '../catalog/catalog.ts'
import { validateEntry } from '../catalog/ownEntry.ts'
import type { Problem } from '../text/problem.ts'
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

/** What is wrong with the entries that a plan carries, with their places in the plan. */
export function checkCarried(
  plan: Pick<Plan, 'own'>,
  base: Catalog,
  problemAt: (path: Path, message: string) => Problem,
): Problem[] {
  const problems: Problem[] = []
  let count = 0
  for (const kind of ['boards', 'parts'] as const)
    for (const [id, raw] of Object.entries(plan.own?.[kind] ?? {})) {
      count += 1
      const at = (path: Path, message: string): Problem => problemAt(['own', kind, id, ...path], message)
      const entry = validateEntry(kind, raw, base, at)
      if (!entry.ok) problems.push(...entry.problems)
      else if (entry.value.entry.id !== id)
        problems.push(at(['id'], `the id "${entry.value.entry.id}" differs from the key "${id}"`))
    }
  if (count > MOST_CARRIED)
    problems.push(problemAt(['own'], `the plan carries ${count} entries of its own; expected at most ${MOST_CARRIED}`))
  return problems
}

/** Edits that make a plan carry an entry of the maker's own with what it refers to; none for entries that ship. */
export function carryEdits(plan: Plan, catalog: Catalog, kind: 'boards' | 'parts', id: string): Edit[] {
  const raw = catalog.own[kind][id]
  if (raw === undefined || plan.own?.[kind][id] !== undefined) return []
  const companions = kind === 'parts' ? (catalog.parts.get(id)?.companions ?? []) : []
  const others = companions.map((one) => one.part).filter((one) => one !== id)
  return [
    { do: 'carry', kind, id, entry: raw },
    ...others.flatMap((one): Edit[] => {
      const other = catalog.own.parts[one]
      return other === undefined || plan.own?.parts[one] !== undefined
        ? []
        : [{ do: 'carry', kind: 'parts', id: one, entry: other }]
    }),
  ]
}
