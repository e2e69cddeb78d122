import { formatProblem, type Problem } from '../../core/base/problem.ts'
import { parseYaml } from '../../core/base/yamlSource.ts'
import { type Catalog, makeCatalog } from '../../core/catalog/catalog.ts'
import { type EntryKind, lintEntry, MOST_ENTRY_TEXT, type OwnEntry, shapeEntry } from '../../core/catalog/ownEntry.ts'

/** A text that is to be an entry, and where it comes from. */
export interface EntryText {
  readonly kind: EntryKind
  readonly from: string
  readonly text: string
}

/** A text as an entry, or what is wrong with it. */
export type ReadEntry =
  | {
      readonly ok: true
      readonly id: string
      readonly title: string
      /** The entry and what was written, as JSON. */
      readonly entry: string
      readonly raw: string
      /** Ids of parts that it refers to. */
      readonly needs: readonly string[]
    }
  | { readonly ok: false; readonly problems: readonly Problem[]; readonly said: readonly string[] }

/**
 * Reads texts as entries. They may refer to each other in any order: what refers to one that does not hold does not hold
 * either, and is looked at again without it.
 */
export function checkEntries(catalog: Catalog, texts: readonly EntryText[]): ReadEntry[] {
  const drafts = texts.map(({ kind, text, from }) => {
    if (text.length > MOST_ENTRY_TEXT) {
      const message = `the entry has ${text.length.toLocaleString('en')} characters; expected at most ${MOST_ENTRY_TEXT.toLocaleString('en')}`
      return { problems: [{ file: from, path: '', message }] }
    }
    const source = parseYaml(text, from)
    if (!source.ok) return { problems: source.problems }
    const { problemAt } = source.value
    const shaped = shapeEntry(kind, source.value.value, problemAt)
    return shaped.ok ? { own: shaped.value, problemAt, problems: [] } : { problems: shaped.problems }
  })
  for (let before = -1, alive = drafts.filter((one) => one.own); alive.length !== before; ) {
    before = alive.length
    const within = withEntries(
      catalog,
      alive.map((one) => one.own!),
    )
    for (const one of alive) one.problems = lintEntry(one.own!, within, one.problemAt)
    alive = alive.filter((one) => one.problems.length === 0)
  }
  return drafts.map(({ own, problems }): ReadEntry => {
    if (!own || problems.length > 0) return { ok: false, problems, said: problems.map(formatProblem) }
    const parts = own.kind === 'parts' ? [...own.entry.companions, ...own.entry.contains].map((one) => one.part) : []
    return {
      ok: true,
      id: own.entry.id,
      title: own.entry.title,
      entry: JSON.stringify(own.entry),
      raw: JSON.stringify(own.raw),
      needs: [...new Set(parts)],
    }
  })
}

function withEntries(catalog: Catalog, entries: readonly OwnEntry[]): Catalog {
  const boards = new Map(catalog.boards)
  const parts = new Map(catalog.parts)
  for (const one of entries)
    if (one.kind === 'boards') boards.set(one.entry.id, one.entry)
    else parts.set(one.entry.id, one.entry)
  return makeCatalog([...boards.values()], [...parts.values()], catalog.own, catalog.drivers)
}
