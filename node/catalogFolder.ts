import { readdirSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import type { Outcome, Problem } from '../core/base/problem.ts'
import type { Board } from '../core/catalog/boardSchema.ts'
import { type Catalog, makeCatalog, noOwnEntries, readBoard, readDriver, readPart } from '../core/catalog/catalog.ts'
import type { Driver } from '../core/catalog/driverSchema.ts'
import type { Part } from '../core/catalog/partSchema.ts'

/** Reads every board and part file below a catalogue folder. */
export function readCatalogFolder(folder: string): Outcome<Catalog> {
  const problems: Problem[] = []
  const read = <T extends { readonly id: string }>(
    kind: string,
    reader: (text: string, file: string) => Outcome<T>,
  ): T[] =>
    readdirSync(join(folder, kind))
      .filter((name) => name.endsWith('.yaml'))
      .sort()
      .flatMap((name) => {
        const file = join(folder, kind, name)
        const entry = reader(readFileSync(file, 'utf8'), file)
        if (!entry.ok) {
          problems.push(...entry.problems)
          return []
        }
        if (entry.value.id !== basename(name, '.yaml'))
          problems.push({ file, path: 'id', message: `the id "${entry.value.id}" differs from the file's name` })
        return [entry.value]
      })
  const boards = read<Board>('boards', readBoard)
  const parts = read<Part>('parts', readPart)
  const drivers = read<Driver>('drivers', readDriver)
  for (const { id, parts: driven } of drivers)
    for (const part of driven)
      if (!parts.some((one) => one.id === part))
        problems.push({
          file: `${folder}/drivers/${id}.yaml`,
          path: 'parts',
          message: `the catalogue has no part "${part}"`,
        })
  return problems.length > 0
    ? { ok: false, problems }
    : { ok: true, value: makeCatalog(boards, parts, noOwnEntries, drivers) }
}
