import { createHash } from 'node:crypto'
import { strToU8, unzipSync, type Zippable, zipSync } from 'fflate'
import { SCHEMA_FILE, withSchemaLine } from '../core/plan/schemaLine.ts'
import planSchema from '../docs/plan.schema.json' with { type: 'json' }
import type { PlanStore } from './store.ts'

/** A file of an archive, by its path in it. */
interface ArchiveFile {
  readonly path: string
  readonly bytes: Uint8Array
}

/** What an archive lists of itself. */
export interface ArchiveIndex {
  readonly markpost: 1
  readonly made: string
  readonly plans: number
  readonly entries: number
  readonly files: readonly { readonly path: string; readonly sha256: string }[]
}

const FIRST_DAY = new Date('1980-01-01T00:00:00Z')

/**
 * Everything of a store as one ZIP archive of plain text: plans, own entries, and on wish each revision of each plan in
 * a folder of its own, in the order in which they were saved, as a version control takes them.
 */
export function archiveOf(
  store: PlanStore,
  {
    history = false,
    may = () => true,
    entryFiles = [],
    now = new Date(),
  }: { history?: boolean; may?: (plan: string) => boolean; entryFiles?: readonly ArchiveFile[]; now?: Date } = {},
): Uint8Array {
  const files: ArchiveFile[] = []
  const taken = new Set<string>()
  const add = (path: string, bytes: Uint8Array): void => {
    files.push({ path, bytes })
  }
  const plans = store.all().filter(({ id }) => may(id))
  for (const plan of plans) {
    const name = freeName(plan.title, taken)
    add(`plans/${name}.markpost.yaml`, strToU8(withSchemaLine(plan.text, `../${SCHEMA_FILE}`)))
    if (history)
      for (const { revision, saved } of store.revisions(plan.id)) {
        const text = store.revisionText(plan.id, revision)
        if (text !== undefined)
          add(
            `history/${name}/${String(revision).padStart(5, '0')}-${saved.slice(0, 19).replaceAll(':', '')}.markpost.yaml`,
            strToU8(text),
          )
      }
  }
  add(SCHEMA_FILE, strToU8(JSON.stringify(planSchema, null, 2)))
  const entries = store.shelf.all()
  for (const { kind, id, text } of entries) add(`entries/${kind}/${id}.yaml`, strToU8(text))
  files.push(...entryFiles)
  const index: ArchiveIndex = {
    markpost: 1,
    made: now.toISOString(),
    plans: plans.length,
    entries: entries.length + entryFiles.length,
    files: files.map(({ path, bytes }) => ({ path, sha256: sha256(bytes) })),
  }
  const zip: Zippable = { 'index.json': strToU8(JSON.stringify(index, null, 2)) }
  for (const { path, bytes } of files) zip[path] = bytes
  const archive = zipSync(zip, { mtime: now < FIRST_DAY ? FIRST_DAY : now })
  proveArchive(archive)
  return archive
}

/**
 * Reads an archive back and holds every file against its sum.
 * @throws Error with the first file that is not as it was written.
 */
export function proveArchive(archive: Uint8Array): ArchiveIndex {
  const files = unzipSync(archive)
  const text = files['index.json']
  if (!text) throw new Error('the archive has no index')
  const index = JSON.parse(new TextDecoder().decode(text)) as ArchiveIndex
  for (const { path, sha256: sum } of index.files) {
    const bytes = files[path]
    if (!bytes || sha256(bytes) !== sum) throw new Error(`${path} of the archive does not read back as it was written`)
  }
  return index
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/** A name for a file of a plan that no other has. */
function freeName(title: string, taken: Set<string>): string {
  const base =
    title
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 80) || 'plan'
  let name = base
  for (let number = 2; taken.has(name); number += 1) name = `${base}-${number}`
  taken.add(name)
  return name
}
