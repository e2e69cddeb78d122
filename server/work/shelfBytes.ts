import type { Board } from '../../core/catalog/boardSchema.ts'
import { type Catalog, makeCatalog, type OwnEntries } from '../../core/catalog/catalog.ts'
import type { Part } from '../../core/catalog/partSchema.ts'
import { loadCatalog } from '../../node/builtCatalog.ts'

/** The maker's own entries in memory that all threads see: valid entries as JSON, each state with a number of its own. */
export interface ShelfBytes {
  readonly version: number
  readonly bytes: Uint8Array
}

/** What the bytes hold. */
export interface ShelfContent {
  readonly boards: readonly Board[]
  readonly parts: readonly Part[]
  readonly own: OwnEntries
}

let made = 0

export function shelfBytes(json: string): ShelfBytes {
  made += 1
  const text = Buffer.from(json)
  const bytes = new Uint8Array(new SharedArrayBuffer(text.length))
  bytes.set(text)
  return { version: made, bytes }
}

export const emptyShelf: ShelfBytes = shelfBytes(
  JSON.stringify({ boards: [], parts: [], own: { boards: {}, parts: {} } }),
)

let shipped: Catalog | undefined
let latest: { readonly version: number; readonly catalog: Catalog } | undefined

/** The catalogue that ships joined with the maker's own entries; worked out once for each state of them. */
export function catalogOf({ version, bytes }: ShelfBytes): Catalog {
  if (latest?.version === version) return latest.catalog
  shipped ??= loadCatalog()
  const content = JSON.parse(Buffer.from(bytes).toString('utf8')) as ShelfContent
  const catalog =
    content.boards.length + content.parts.length === 0
      ? shipped
      : makeCatalog(
          [...shipped.boards.values(), ...content.boards],
          [...shipped.parts.values(), ...content.parts],
          content.own,
          shipped.drivers,
        )
  latest = { version, catalog }
  return catalog
}
