import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Catalog, makeCatalog } from '../core/catalog/catalog.ts'
import { type EntryKind, type OwnEntry, readOwnEntry } from '../core/catalog/ownEntry.ts'
import { formatProblem } from '../core/text/problem.ts'
import type { PlanStore, StoredEntry } from './store.ts'

/** An entry of the maker's own as the shelf lists it. */
export interface EntryLine {
  readonly kind: EntryKind
  readonly id: string
  readonly title: string
  readonly text: string
  /** Undefined for a file in the data folder: that is edited where it lies. */
  readonly revision: number | undefined
  readonly changed: string | undefined
  readonly file: string | undefined
}

/** The catalogue that ships, joined with the maker's own entries: from the store and from files in the data folder. */
export class Shelf {
  /** What keeps an entry of the maker's own off the shelf, a sentence each. */
  problems: readonly string[] = []
  #catalog: Catalog
  #asText = ''
  #lines: readonly EntryLine[] = []
  readonly #shipped: Catalog
  readonly #sources: string
  readonly #store: PlanStore
  readonly #folder: string

  constructor(shipped: Catalog, sources: string, store: PlanStore, folder: string) {
    this.#shipped = shipped
    this.#sources = sources
    this.#store = store
    this.#folder = folder
    this.#catalog = shipped
    this.reload()
  }

  get catalog(): Catalog {
    return this.#catalog
  }

  /** The catalogue as the browser loads it. */
  get asText(): string {
    return this.#asText
  }

  get lines(): readonly EntryLine[] {
    return this.#lines
  }

  isShipped(kind: EntryKind, id: string): boolean {
    return this.#shipped[kind].has(id)
  }

  /** Puts files and stored entries on the shelf; what does not hold is said in `problems` and left off. */
  reload(): void {
    const problems: string[] = []
    const lines: EntryLine[] = []
    const boards = new Map(this.#shipped.boards)
    const parts = new Map(this.#shipped.parts)
    const own: { boards: Record<string, unknown>; parts: Record<string, unknown> } = { boards: {}, parts: {} }
    const put = (kind: EntryKind, text: string, from: string, stored: StoredEntry | undefined): void => {
      const so = makeCatalog([...boards.values()], [...parts.values()], own)
      const read = readOwnEntry(kind, text, from, so)
      if (!read.ok) {
        problems.push(...read.problems.map(formatProblem))
        return
      }
      const { entry, raw } = read.value
      if (so[kind].has(entry.id)) {
        problems.push(
          `${from}: the id "${entry.id}" is taken by ${this.isShipped(kind, entry.id) ? 'the catalogue' : 'another entry of yours'}; expected another id`,
        )
        return
      }
      if (read.value.kind === 'boards') boards.set(entry.id, read.value.entry)
      else parts.set(entry.id, read.value.entry)
      own[kind][entry.id] = raw
      lines.push({
        kind,
        id: entry.id,
        title: entry.title,
        text,
        revision: stored?.revision,
        changed: stored?.changed,
        file: stored ? undefined : from,
      })
    }
    // Parts first: a part may be the companion of another, and files stand before stored entries.
    for (const kind of ['parts', 'boards'] as const) {
      for (const { file, text } of this.#files(kind, problems)) put(kind, text, file, undefined)
      for (const entry of this.#store.entries().filter((one) => one.kind === kind))
        put(kind, entry.text, entry.id, entry)
    }
    this.problems = problems
    this.#lines = lines
    this.#catalog = makeCatalog([...boards.values()], [...parts.values()], own)
    this.#asText = JSON.stringify({
      boards: [...this.#catalog.boards.values()],
      parts: [...this.#catalog.parts.values()],
      own,
    })
  }

  #files(kind: EntryKind, problems: string[]): { file: string; text: string }[] {
    const folder = join(this.#folder, kind)
    if (!existsSync(folder)) return []
    return readdirSync(folder)
      .filter((name) => name.endsWith('.yaml'))
      .sort()
      .flatMap((name) => {
        const file = join(folder, name)
        try {
          return [{ file, text: readFileSync(file, 'utf8') }]
        } catch (error) {
          problems.push(`${file}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`)
          return []
        }
      })
  }

  /** An entry as YAML: as the maker wrote it, or the file that ships. */
  yaml(kind: EntryKind, id: string): string | undefined {
    const own = this.#lines.find((one) => one.kind === kind && one.id === id)
    if (own) return own.text
    return this.isShipped(kind, id) ? readFileSync(join(this.#sources, kind, `${id}.yaml`), 'utf8') : undefined
  }

  /** Reads a text as an entry; `id` names the entry that it is to replace and may be left out for a new one. */
  read(kind: EntryKind, text: string, id: string | undefined): ReturnType<typeof readOwnEntry> | { taken: string } {
    const read = readOwnEntry(kind, text, 'entry', this.#catalog)
    if (!read.ok) return read
    const entry: OwnEntry = read.value
    if (id === undefined && this.#catalog[kind].has(entry.entry.id)) return { taken: entry.entry.id }
    return read
  }

  add(kind: EntryKind, id: string, text: string): StoredEntry {
    const made = this.#store.createEntry(kind, id, text)
    this.reload()
    return made
  }

  /** Undefined when the revision is not the one in the store. */
  save(kind: EntryKind, id: string, revision: number, text: string): StoredEntry | undefined {
    const saved = this.#store.saveEntry(kind, id, revision, text)
    if (saved) this.reload()
    return saved
  }

  remove(kind: EntryKind, id: string): void {
    this.#store.deleteEntry(kind, id)
    this.reload()
  }
}
