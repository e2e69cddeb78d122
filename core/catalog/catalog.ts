import { memo } from '../base/memo.ts'
import type { Outcome } from '../base/problem.ts'
import { parseYaml, validateYaml } from '../base/yamlSource.ts'
import { Board } from './boardSchema.ts'
import { Driver } from './driverSchema.ts'
import { buildNameIndex, type NameIndex } from './names.ts'
import { type Helper, Part } from './partSchema.ts'

/** All boards and parts by id, in order of id. */
export interface Catalog {
  readonly boards: ReadonlyMap<string, Board>
  readonly parts: ReadonlyMap<string, Part>
  /** The maker's own entries among them, as they were written; a plan that uses one carries it along. */
  readonly own: OwnEntries
  /** How programs speak to parts through classes that others have written. */
  readonly drivers: readonly Driver[]
}

/** Entries as written in a file, by id; not yet validated. */
export interface OwnEntries {
  readonly boards: Readonly<Record<string, unknown>>
  readonly parts: Readonly<Record<string, unknown>>
}

export const noOwnEntries: OwnEntries = { boards: {}, parts: {} }

export function makeCatalog(
  boards: readonly Board[],
  parts: readonly Part[],
  own: OwnEntries = noOwnEntries,
  drivers: readonly Driver[] = [],
): Catalog {
  const byId = <T extends { readonly id: string }>(entries: readonly T[]) =>
    new Map([...entries].sort((a, b) => (a.id < b.id ? -1 : 1)).map((entry) => [entry.id, entry] as const))
  return { boards: byId(boards), parts: byId(parts), own, drivers }
}

const helping = memo((catalog: Catalog) => {
  const byHelper = new Map<Helper, Part[]>()
  for (const part of catalog.parts.values())
    if (part.helper) byHelper.set(part.helper, [...(byHelper.get(part.helper) ?? []), part])
  return byHelper
})

/** Entries that the tool takes for something by itself, in order of id. */
export const helpersFor = (catalog: Catalog, helper: Helper): readonly Part[] => helping(catalog).get(helper) ?? []

/** Reads one board file. Problems name file, line, key and what was expected. */
export function readBoard(text: string, file: string): Outcome<Board> {
  const source = parseYaml(text, file)
  return source.ok ? validateYaml(source.value, Board) : source
}

/** Reads one part file. Problems name file, line, key and what was expected. */
export function readPart(text: string, file: string): Outcome<Part> {
  const source = parseYaml(text, file)
  return source.ok ? validateYaml(source.value, Part) : source
}

/** Reads one driver file. Problems name file, line, key and what was expected. */
export function readDriver(text: string, file: string): Outcome<Driver> {
  const source = parseYaml(text, file)
  return source.ok ? validateYaml(source.value, Driver) : source
}

/** Names of a part's pins. */
export const partNames = memo(
  (part: Part): NameIndex => buildNameIndex(part.pins.map((pin) => ({ id: pin.id, names: pin.aliases, net: pin.id }))),
)
