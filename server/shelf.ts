import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Catalog } from '../core/catalog/catalog.ts'
import { type EntryKind, MOST_ENTRY_TEXT } from '../core/catalog/ownEntry.ts'
import { FileTrouble, readText } from '../node/readText.ts'
import type { StoredEntry } from './entryStore.ts'
import type { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import type { EntryText, ReadEntry } from './work/entries.ts'
import type { Work } from './work/pool.ts'
import { emptyShelf, type ShelfBytes, shelfBytes } from './work/shelfBytes.ts'

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

/** The shelf at one moment. */
export interface ShelfState {
  readonly lines: readonly EntryLine[]
  /** What keeps an entry of the maker's own off the shelf, a sentence each. */
  readonly problems: readonly string[]
  /** The catalogue as the browser loads it. */
  readonly asText: string
  readonly bytes: ShelfBytes
}

type Valid = Extract<ReadEntry, { ok: true }>
type Source = EntryText & { readonly stored: StoredEntry | undefined; readonly hash: string }

/**
 * The catalogue that ships, joined with the maker's own entries: from the store and from files in the data folder.
 * Entries are validated in another thread, and what came out is kept beside the text's hash.
 */
export class Shelf {
  readonly #shipped: Catalog
  readonly #shippedText: { readonly boards: string; readonly parts: string; readonly drivers: string }
  readonly #sources: string
  readonly #store: PlanStore
  readonly #folder: string
  readonly #work: Work
  #state: ShelfState | undefined
  #seen = ''
  #loading: Promise<ShelfState> | undefined

  constructor(shipped: Catalog, sources: string, store: PlanStore, folder: string, work: Work) {
    this.#shipped = shipped
    this.#shippedText = {
      boards: [...shipped.boards.values()].map((one) => JSON.stringify(one)).join(','),
      parts: [...shipped.parts.values()].map((one) => JSON.stringify(one)).join(','),
      drivers: JSON.stringify(shipped.drivers),
    }
    this.#sources = sources
    this.#store = store
    this.#folder = folder
    this.#work = work
  }

  isShipped(kind: EntryKind, id: string): boolean {
    return this.#shipped[kind].has(id)
  }

  /** The shelf as it is now; files that changed since the last call are taken up. */
  async now(): Promise<ShelfState> {
    this.#loading ??= this.#load().finally(() => {
      this.#loading = undefined
    })
    return this.#loading
  }

  /** The shelf after a change of the store's entries, also when a load was under way that has not seen it. */
  async changed(): Promise<ShelfState> {
    await this.#loading
    this.#seen = ''
    return this.now()
  }

  async #load(): Promise<ShelfState> {
    const problems: string[] = []
    const files = (['parts', 'boards'] as const).flatMap((kind) => this.#files(kind, problems))
    const seen = JSON.stringify([
      files.map(({ file, mark }) => [file, mark]),
      problems,
      await patiently(() => this.#store.foreignState()),
    ])
    if (this.#state && seen === this.#seen) return this.#state
    const sources: Source[] = []
    for (const { kind, file } of files)
      try {
        const text = readText(file, MOST_ENTRY_TEXT)
        sources.push({ kind, from: file, text, stored: undefined, hash: hashOf(kind, text) })
      } catch (error) {
        if (!(error instanceof FileTrouble)) throw error
        problems.push(`${file}: ${error.message}`)
      }
    for (const stored of await patiently(() => this.#store.shelf.all()))
      sources.push({ ...stored, from: stored.id, stored, hash: hashOf(stored.kind, stored.text) })
    const state = this.#join(sources, await this.#validate(sources), problems)
    this.#seen = seen
    this.#state = state
    return state
  }

  /** What validation says of each source: as it said before where it knows the text. */
  async #validate(sources: readonly Source[]): Promise<Map<Source, ReadEntry>> {
    const known = await patiently(() => this.#store.shelf.validated())
    const results = new Map<Source, ReadEntry>()
    for (const source of sources) {
      const before = known.get(source.hash)
      if (before !== undefined) results.set(source, JSON.parse(before) as Valid)
    }
    // What holds may refer to what holds; when something that was referred to is gone, it is looked at again.
    for (let before = -1; results.size !== before; ) {
      before = results.size
      const there = new Set([...results.values()].map((one) => (one as Valid).id))
      for (const [source, one] of results)
        if ((one as Valid).needs.some((id) => !there.has(id) && !this.isShipped('parts', id))) results.delete(source)
    }
    const open = sources.filter((one) => !results.has(one))
    if (open.length > 0) {
      const bytes = shelfBytes(contentOf([...results].map(([source, one]) => [source.kind, one as Valid])))
      const texts = open.map(({ kind, from, text }) => ({ kind, from, text }))
      const read = await this.#work.run('entries', { shelf: bytes, texts }, { within: 120_000 })
      for (const [index, source] of open.entries()) results.set(source, read[index]!)
    }
    const fresh = new Map(
      open.flatMap((source) => {
        const one = results.get(source)
        return one?.ok ? [[source.hash, JSON.stringify(one)] as const] : []
      }),
    )
    if (fresh.size > 0 || known.size > sources.length)
      await patiently(() => this.#store.shelf.keepValidated(fresh, new Set(sources.map((one) => one.hash))))
    return results
  }

  #join(sources: readonly Source[], results: ReadonlyMap<Source, ReadEntry>, problems: string[]): ShelfState {
    const lines: EntryLine[] = []
    const entries: [EntryKind, Valid][] = []
    const taken = new Set<string>()
    // Files come before stored entries, and the first of an id stands.
    for (const source of sources) {
      const { kind, from, text, stored } = source
      const result = results.get(source)
      if (!result?.ok) {
        problems.push(...(result?.said ?? []))
        continue
      }
      const { id, title } = result
      if (this.isShipped(kind, id) || taken.has(`${kind} ${id}`)) {
        const by = this.isShipped(kind, id) ? 'the catalogue' : 'another entry of yours'
        problems.push(`${from}: the id "${id}" is taken by ${by}; expected another id`)
        continue
      }
      taken.add(`${kind} ${id}`)
      entries.push([kind, result])
      const file = stored ? undefined : from
      lines.push({ kind, id, title, text, revision: stored?.revision, changed: stored?.changed, file })
    }
    const of = (kind: EntryKind): string[] => entries.filter(([one]) => one === kind).map(([, { entry }]) => entry)
    const listed = (kind: EntryKind): string =>
      [this.#shippedText[kind], ...of(kind)].filter((one) => one !== '').join(',')
    return {
      lines,
      problems,
      asText: `{"boards":[${listed('boards')}],"parts":[${listed('parts')}],"own":${ownOf(entries)},"drivers":${this.#shippedText.drivers}}`,
      bytes: entries.length === 0 ? emptyShelf : shelfBytes(contentOf(entries)),
    }
  }

  /** Entry files of the data folder, each with a mark that changes when it does. */
  #files(kind: EntryKind, problems: string[]): { kind: EntryKind; file: string; mark: string }[] {
    const folder = join(this.#folder, kind)
    let names: string[]
    try {
      names = readdirSync(folder)
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException
      if (code !== 'ENOENT') problems.push(`${folder}: cannot be read (${code})`)
      return []
    }
    return names
      .filter((name) => name.endsWith('.yaml'))
      .sort()
      .map((name) => {
        const file = join(folder, name)
        try {
          const { mtimeMs, size, ino } = statSync(file)
          return { kind, file, mark: `${mtimeMs} ${size} ${ino}` }
        } catch (error) {
          return { kind, file, mark: String((error as NodeJS.ErrnoException).code) }
        }
      })
  }

  /** An entry as YAML: as the maker wrote it, or the file that ships. */
  async yaml(kind: EntryKind, id: string): Promise<string | undefined> {
    const own = (await this.now()).lines.find((one) => one.kind === kind && one.id === id)
    if (own) return own.text
    return this.isShipped(kind, id) ? readFileSync(join(this.#sources, kind, `${id}.yaml`), 'utf8') : undefined
  }

  /** Reads a text as an entry beside all others. */
  async read(kind: EntryKind, text: string): Promise<ReadEntry> {
    const { bytes } = await this.now()
    const [read] = await this.#work.run('entries', { shelf: bytes, texts: [{ kind, from: 'entry', text }] })
    return read!
  }
}

/** Changes with each build of the program, whose rules for entries may be others then. */
const build = (() => {
  try {
    return String(statSync(fileURLToPath(import.meta.url)).mtimeMs)
  } catch {
    return ''
  }
})()

const hashOf = (kind: EntryKind, text: string): string =>
  createHash('sha256').update(`${build}\n${kind}\n${text}`).digest('hex')

const contentOf = (entries: readonly (readonly [EntryKind, Valid])[]): string => {
  const of = (kind: EntryKind): string =>
    entries
      .filter(([one]) => one === kind)
      .map(([, { entry }]) => entry)
      .join(',')
  return `{"boards":[${of('boards')}],"parts":[${of('parts')}],"own":${ownOf(entries)}}`
}

const ownOf = (entries: readonly (readonly [EntryKind, Valid])[]): string => {
  const of = (kind: EntryKind): string =>
    entries
      .filter(([one]) => one === kind)
      .map(([, { id, raw }]) => `${JSON.stringify(id)}:${raw}`)
      .join(',')
  return `{"boards":{${of('boards')}},"parts":{${of('parts')}}}`
}
