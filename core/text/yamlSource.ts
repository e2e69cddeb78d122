import * as v from 'valibot'
import { type Document, isNode, LineCounter, parseDocument } from 'yaml'
import type { Outcome, Problem } from './problem.ts'

/** Keys and indexes from the document's root to a value. */
export type Path = readonly (string | number)[]

/** A parsed YAML (or JSON) text that still knows where each value stands. */
export interface YamlSource {
  readonly file: string
  readonly document: Document
  readonly value: unknown
  /** Makes a problem at a path, with the line and column of the nearest existing node. */
  readonly problemAt: (path: Path, message: string) => Problem
}

/** Largest text that is read, in characters. A plan of a thousand wires has about 60 000. */
export const MAX_TEXT_LENGTH = 1_000_000

/** Shows a value in a message: short, quoted where it is text. */
export function quoteValue(value: unknown): string {
  if (value === undefined) return 'nothing'
  if (Array.isArray(value)) return `a list of ${value.length}`
  if (value !== null && typeof value === 'object') return 'a map'
  const text = typeof value === 'string' ? `"${value}"` : String(value)
  return text.length > 60 ? `${text.slice(0, 57)}…` : text
}

/**
 * Parses YAML 1.2 (of which JSON is a part). Never throws: a text that is too long, binary, or not YAML comes back
 * as problems with line and column.
 */
export function parseYaml(text: string, file: string): Outcome<YamlSource> {
  const refuse = (message: string): Outcome<YamlSource> => ({ ok: false, problems: [{ file, path: '', message }] })
  if (text.length > MAX_TEXT_LENGTH)
    return refuse(
      `the file has ${text.length.toLocaleString('en')} characters; expected at most ${MAX_TEXT_LENGTH.toLocaleString('en')}`,
    )
  if (text.includes('\u0000') || text.includes('\uFFFD'))
    return refuse('the file holds bytes that are not text; expected YAML or JSON in UTF-8')

  const lines = new LineCounter()
  const document = parseDocument(text, { lineCounter: lines, prettyErrors: false, uniqueKeys: true })
  const place = (offset: number): { line: number; column: number } => {
    const { line, col } = lines.linePos(offset)
    return { line, column: col }
  }
  const first = document.errors[0]
  if (first !== undefined) {
    const said =
      first.code === 'DUPLICATE_KEY' ? 'the same key stands twice in one map' : `not valid YAML: ${first.message}`
    return { ok: false, problems: [{ file, ...place(first.pos[0]), path: '', message: said }] }
  }

  let value: unknown
  try {
    value = document.toJS({ maxAliasCount: 100 })
  } catch (error) {
    return refuse(`not valid YAML: ${error instanceof Error ? error.message : String(error)}`)
  }

  const problemAt = (path: Path, message: string): Problem => {
    for (let length = path.length; length >= 0; length -= 1) {
      const node = length === 0 ? document.contents : document.getIn(path.slice(0, length), true)
      if (isNode(node) && node.range) return { file, ...place(node.range[0]), path: path.join('.'), message }
    }
    return { file, path: path.join('.'), message }
  }
  return { ok: true, value: { file, document, value, problemAt } }
}

/** Validates a parsed text against a schema and gives every issue its place. */
export function validateYaml<S extends v.GenericSchema>(source: YamlSource, schema: S): Outcome<v.InferOutput<S>> {
  return validateValue(source.value, schema, source.problemAt)
}

/** Validates a value that may be part of a larger document; `problemAt` knows where its paths stand. */
export function validateValue<S extends v.GenericSchema>(
  value: unknown,
  schema: S,
  problemAt: YamlSource['problemAt'],
): Outcome<v.InferOutput<S>> {
  const result = v.safeParse(schema, value)
  if (result.success) return { ok: true, value: result.output }
  const problems = result.issues.map((issue) => {
    const path = (issue.path ?? []).map((item) => item.key as string | number)
    return problemAt(path, issueText(issue))
  })
  return { ok: false, problems }
}

function issueText(issue: v.BaseIssue<unknown>): string {
  if (issue.type === 'strict_object' && issue.expected === 'never')
    return `unknown key ${quoteValue(issue.path?.at(-1)?.key)}; expected one of the documented keys`
  if (issue.expected !== null && issue.received !== null && issue.kind === 'schema' && !isCustom(issue))
    return `expected ${plainExpected(issue.expected)}, found ${quoteValue(issue.input)}`
  return `${issue.message} (found ${quoteValue(issue.input)})`
}

const isCustom = (issue: v.BaseIssue<unknown>): boolean => !issue.message.startsWith('Invalid ')

const plainWords: Record<string, string> = {
  string: 'text',
  number: 'a number',
  boolean: 'true or false',
  Array: 'a list',
  Object: 'a map',
  undefined: 'nothing',
}

const plainExpected = (expected: string): string =>
  expected
    .replace(/^\((.*)\)$/, '$1')
    .split(' | ')
    .map((word) => plainWords[word] ?? word)
    .join(' or ')
