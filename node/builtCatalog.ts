import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { formatProblem } from '../core/base/problem.ts'
import type { Board } from '../core/catalog/boardSchema.ts'
import { type Catalog, makeCatalog, noOwnEntries } from '../core/catalog/catalog.ts'
import type { Driver } from '../core/catalog/driverSchema.ts'
import type { Part } from '../core/catalog/partSchema.ts'
import { readCatalogFolder } from './catalogFolder.ts'

/** The project's folder, seen from the bundle in `dist` or from the source. */
export function projectFolder(): string {
  let folder = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(folder, 'catalog'))) {
    const up = dirname(folder)
    if (up === folder) throw new Error('the catalogue folder is missing beside the program')
    folder = up
  }
  return folder
}

/** The validated catalogue: quick from the built file, or from the YAML files where nothing is built. */
export function loadCatalog(): Catalog {
  const folder = projectFolder()
  const built = join(folder, 'dist/catalog.json')
  if (existsSync(built)) {
    // Written by our own build from validated entries; validating again would cost more than all the rest.
    const { boards, parts, drivers } = JSON.parse(readFileSync(built, 'utf8')) as {
      boards: Board[]
      parts: Part[]
      drivers: Driver[]
    }
    return makeCatalog(boards, parts, noOwnEntries, drivers)
  }
  const read = readCatalogFolder(join(folder, 'catalog'))
  if (!read.ok) throw new Error(`the catalogue is broken:\n${read.problems.map(formatProblem).join('\n')}`)
  return read.value
}
