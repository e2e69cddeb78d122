import type Database from 'better-sqlite3'

/** The data folder cannot be used at all: said at the start, which then ends. */
export class DataFolderError extends Error {
  override name = 'DataFolderError'
}

/** What is wrong with the disk or the database, as far as the maker can do something about it. */
export type TroubleKind = 'in-use' | 'disk-full' | 'read-only' | 'damaged' | 'disk'

/** A call to the store that failed for a reason outside the program; nothing was changed by it. */
export class StoreTrouble extends Error {
  override name = 'StoreTrouble'
  readonly kind: TroubleKind
  constructor(kind: TroubleKind, cause: unknown) {
    super(words[kind], { cause })
    this.kind = kind
  }
}

const words: Readonly<Record<TroubleKind, string>> = {
  'in-use': 'the database is in use by another program; nothing was changed',
  'disk-full': 'the disk is full; nothing was changed. Make room, then save again',
  'read-only': 'the data folder may not be written to; nothing was changed',
  damaged: 'the database is damaged at this place; nothing was changed',
  disk: 'the disk does not answer as it should; nothing was changed',
}

const kinds: readonly (readonly [prefix: string, kind: TroubleKind])[] = [
  ['SQLITE_BUSY', 'in-use'],
  ['SQLITE_LOCKED', 'in-use'],
  ['SQLITE_FULL', 'disk-full'],
  ['SQLITE_READONLY', 'read-only'],
  ['SQLITE_PERM', 'read-only'],
  ['SQLITE_CORRUPT', 'damaged'],
  ['SQLITE_NOTADB', 'damaged'],
  ['SQLITE_CANTOPEN', 'disk'],
  ['SQLITE_IOERR', 'disk'],
]

/** An error of SQLite as {@link StoreTrouble} where it is one of the folder's; any other stays as it is. */
function asTrouble(error: unknown): unknown {
  const code = (error as { code?: unknown } | null)?.code
  if (typeof code !== 'string') return error
  if (code === 'ENOSPC') return new StoreTrouble('disk-full', error)
  const kind = kinds.find(([prefix]) => code.startsWith(prefix))?.[1]
  return kind ? new StoreTrouble(kind, error) : error
}

/** Calls the database; a failure of the data folder comes out as a {@link StoreTrouble}. */
export function guarded<T>(call: () => T): T {
  try {
    return call()
  } catch (error) {
    throw asTrouble(error)
  }
}

/** Writes in one transaction, or nothing. */
export const written = <T>(db: Database.Database, call: () => T): T => guarded(() => db.transaction(call).immediate())

/**
 * The same for what can be made anew: the answer does not wait for the disk. When the power fails such a write may be
 * gone, never half done, and nothing else with it.
 */
export function writtenLightly<T>(db: Database.Database, call: () => T): T {
  db.pragma('synchronous = NORMAL')
  try {
    return written(db, call)
  } finally {
    db.pragma('synchronous = FULL')
  }
}

/** Pauses in milliseconds before a call is tried again while another program holds the database; some three seconds. */
const pauses = [5, 10, 20, 40, 80, 150, 250, 400, 600, 700, 800]

/** Calls the store, again and again while another program holds the database, without holding anybody else up. */
export async function patiently<T>(call: () => T): Promise<T> {
  for (const pause of pauses) {
    try {
      return call()
    } catch (error) {
      if (!(error instanceof StoreTrouble) || error.kind !== 'in-use') throw error
      await new Promise((done) => setTimeout(done, pause))
    }
  }
  return call()
}
