import type { Outcome, Problem } from '../base/problem.ts'
import { MOST_PROBLEMS, type Path, parseYaml, validateValue } from '../base/yamlSource.ts'
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

type ProblemAt = (path: Path, message: string) => Problem
const problemInEntry: ProblemAt = (path, message) => ({ file: 'entry', path: path.join('.'), message })

/**
 * Validates an entry of the maker's own: the schema, then everything that the catalogue check can prove. What passes
 * cannot break the application.
 */
export function validateEntry(
  kind: EntryKind,
  raw: unknown,
  catalog: Catalog,
  problemAt: ProblemAt = problemInEntry,
): Outcome<OwnEntry> {
  const shaped = shapeEntry(kind, raw, problemAt)
  if (!shaped.ok) return shaped
  const problems = lintEntry(shaped.value, catalog, problemAt)
  return problems.length > 0 ? { ok: false, problems } : shaped
}

/** The first half: whether a value has the form of an entry, whatever it refers to. */
export function shapeEntry(kind: EntryKind, raw: unknown, problemAt: ProblemAt = problemInEntry): Outcome<OwnEntry> {
  const shaped: Outcome<OwnEntry> =
    kind === 'boards'
      ? map(validateValue(raw, Board, problemAt), (entry) => ({ kind, entry, raw }))
      : map(validateValue(raw, Part, problemAt), (entry) => ({ kind, entry, raw }))
  if (!shaped.ok || shaped.value.entry.pins.length <= MOST_PINS) return shaped
  const message = `the entry has ${shaped.value.entry.pins.length} pins; expected at most ${MOST_PINS}`
  return { ok: false, problems: [problemAt(['pins'], message)] }
}

const map = <T, U>(outcome: Outcome<T>, make: (value: T) => U): Outcome<U> =>
  outcome.ok ? { ok: true, value: make(outcome.value) } : outcome

/** The second half: what can be proved wrong about an entry beside the others of a catalogue. */
export function lintEntry(own: OwnEntry, catalog: Catalog, problemAt: ProblemAt = problemInEntry): Problem[] {
  const problems: Problem[] = []
  const say = (text: string, path: Path = []): void => {
    if (problems.length < MOST_PROBLEMS) problems.push(problemAt(path, text))
  }
  if (own.kind === 'boards') lintBoardEntry(own.entry, say)
  else lintPartEntry(own.entry, catalog, say)
  return problems
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
