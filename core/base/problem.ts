/**
 * One thing wrong with a text that a person wrote, said once and completely.
 * `line` and `column` count from 1 and are absent where the text has no such place (a binary file, say).
 */
export interface Problem {
  readonly file: string
  readonly line?: number
  readonly column?: number
  /** Path of keys inside the document, such as `parts.BROOD.mode`; empty for the document itself. */
  readonly path: string
  /** One sentence: what is wrong, the offending value, and what was expected. */
  readonly message: string
}

/** A value or the problems that stand in its way; used wherever input comes from outside. */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** `file:line:column: path: message`, leaving out what is not known. */
export function formatProblem(problem: Problem): string {
  const place = [problem.file, problem.line, problem.column].filter((piece) => piece !== undefined).join(':')
  return `${place}: ${problem.path === '' ? '' : `${problem.path}: `}${problem.message}`
}
