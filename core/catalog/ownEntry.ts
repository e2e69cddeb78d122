import type { Outcome, Problem } from '../text/problem.ts'
import { type Path, parseYaml, validateValue } from '../text/yamlSource.ts'
import { Board } from './boardSchema.ts'
import type { Catalog } from './catalog.ts'
import { lintBoardEntry } from './lintBoard.ts'
import { lintPartEntry } from './lintPart.ts'
import { Part } from './partSchema.ts'

export type EntryKind = 'boards' | 'parts'

/** A validated entry of the maker's own, together with what was written. */
export type OwnEntry =
  | { readonly kind: 'boards'; readonly entry: Board; readonly raw: unknown }
  | { readonly kind: 'parts'; readonly entry: Part; readonly raw: unknown }

/** Most pins that an entry of the maker's own may have: above any real board, below what would stall a browser. */
export const MOST_PINS = 400

/** Longest text of one entry, in characters. */
export const MOST_ENTRY_TEXT = 200_000

/**
 * Validates an entry of the maker's own: the schema, then everything that the catalogue check can prove. What passes
 * cannot break the application.
 */
export function validateEntry(
  kind: EntryKind,
  raw: unknown,
  catalog: Catalog,
  problemAt: (path: Path, message: string) => Problem = (path, message) => ({
    file: 'entry',
    path: path.join('.'),
    message,
  }),
): Outcome<OwnEntry> {
  const problems: Problem[] = []
  const say = (text: string, path: Path = []): void => {
    problems.push(problemAt(path, text))
  }
  const tooMany = (pins: readonly unknown[]): boolean => {
    if (pins.length <= MOST_PINS) return false
    say(`the entry has ${pins.length} pins; expected at most ${MOST_PINS}`, ['pins'])
    return true
  }
  if (kind === 'boards') {
    const board = validateValue(raw, Board, problemAt)
    if (!board.ok) return board
    if (!tooMany(board.value.pins)) lintBoardEntry(board.value, say)
    return problems.length > 0 ? { ok: false, problems } : { ok: true, value: { kind, entry: board.value, raw } }
  }
  const part = validateValue(raw, Part, problemAt)
  if (!part.ok) return part
  if (!tooMany(part.value.pins)) lintPartEntry(part.value, catalog, say)
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: { kind, entry: part.value, raw } }
}

/** Reads an entry of the maker's own from YAML; `catalog` holds what it may refer to. */
export function readOwnEntry(kind: EntryKind, text: string, file: string, catalog: Catalog): Outcome<OwnEntry> {
  if (text.length > MOST_ENTRY_TEXT)
    return {
      ok: false,
      problems: [
        {
          file,
          path: '',
          message: `the entry has ${text.length.toLocaleString('en')} characters; expected at most ${MOST_ENTRY_TEXT.toLocaleString('en')}`,
        },
      ],
    }
  const source = parseYaml(text, file)
  return source.ok ? validateEntry(kind, source.value.value, catalog, source.value.problemAt) : source
}
