import { existsSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { DataFolderError } from './storeTrouble.ts'

/** Stays in a data folder, so that a database that goes missing is noticed. */
export const MARK = 'markpost.txt'

export function refuseLostDatabase(folder: string): void {
  const size = (name: string): number => {
    try {
      return statSync(join(folder, name)).size
    } catch {
      return 0
    }
  }
  if (size('markpost.db') > 0) return
  const traces = [MARK, 'markpost.db-wal', 'markpost.db-journal'].filter((name) => size(name) > 0)
  if (traces.length === 0) return
  throw new DataFolderError(
    `it held plans (${traces.map((name) => join(folder, name)).join(', ')} is left), but the database markpost.db is ${existsSync(join(folder, 'markpost.db')) ? 'empty' : 'missing'}; put it back from a copy, or begin anew with --fresh`,
  )
}
