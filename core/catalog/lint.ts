import type { Catalog } from './catalog.ts'
import { lintBoardEntry } from './lintBoard.ts'
import { lintMutePins, lintPartEntry } from './lintPart.ts'

/** Everything about the catalogue that can be proved wrong without an opinion; a sentence each, with the entry's id. */
export function lintCatalog(catalog: Catalog): string[] {
  const said: string[] = []
  for (const board of catalog.boards.values()) lintBoardEntry(board, (text) => said.push(`${board.id}: ${text}`))
  const stems = new Map<string, string>()
  for (const part of catalog.parts.values()) {
    const say = (text: string): void => {
      said.push(`${part.id}: ${text}`)
    }
    lintPartEntry(part, catalog, say)
    lintMutePins(part, say)
    const other = stems.get(part.stem)
    if (other) say(`its stem ${part.stem} is also that of ${other}`)
    stems.set(part.stem, part.id)
  }
  return said
}
