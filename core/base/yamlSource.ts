import * as v from 'valibot'
import { type Document, isMap, isNode, isScalar, LineCounter, parseDocument, visit } from 'yaml'
import { MOST_DEPTH, plainProblems } from './plainValue.ts'
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

/**
 * Most marks of YAML in a text (line breaks, commas, brackets, quotes, colons, dashes and the like), counted before it
 * is parsed, since each of them costs the parser time. A plan of five hundred parts and two thousand wires on
 * breadboards has about 20,000.
 */
export const MAX_MARKS = 40_000

/** Shows a value in a message: short, quoted where it is text. */
export function quoteValue(value: unknown): string {
  if (value === undefined) return 'nothing'
  if (Array.isArray(value)) return `a list of ${value.length}`
  if (value !== null && typeof value === 'object') return 'a map'
  const text = typeof value === 'string' ? `"${value.slice(0, 80)}"` : String(value)
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

  const marks = countMarks(text)
  if (marks > MAX_MARKS)
    return refuse(
      `the file has ${marks.toLocaleString('en')} line breaks, commas, colons and other marks; expected at most ${MAX_MARKS.toLocaleString('en')}`,
    )
  if (deepest(text) > 4 * MOST_DEPTH)
    return refuse(`the file has brackets inside each other without end; expected at most ${MOST_DEPTH} deep`)

  const lines = new LineCounter()
  const place = (offset: number): { line: number; column: number } => {
    const { line, col } = lines.linePos(offset)
    return { line, column: col }
  }
  let document: Document
  let value: unknown
  try {
    // Keys that stand twice are looked for below: the parser compares every key with every other.
    document = parseDocument(text, { lineCounter: lines, prettyErrors: false, uniqueKeys: false })
    const first = document.errors[0]
    if (first !== undefined)
      return {
        ok: false,
        problems: [{ file, ...place(first.pos[0]), path: '', message: `not valid YAML: ${first.message}` }],
      }
    const odd = oddNode(document)
    if (odd) return { ok: false, problems: [{ file, ...place(odd.offset), path: '', message: odd.message }] }
    value = document.toJS({ maxAliasCount: 100 })
  } catch (error) {
    return refuse(`not valid YAML: ${error instanceof Error ? error.message : 'it cannot be read'}`)
  }

  const problemAt = (path: Path, message: string): Problem => {
    for (let length = path.length; length >= 0; length -= 1) {
      const node = length === 0 ? document.contents : document.getIn(path.slice(0, length), true)
      if (isNode(node) && node.range) return { file, ...place(node.range[0]), path: path.join('.'), message }
    }
    return { file, path: path.join('.'), message }
  }
  const plain = plainProblems(value)
  if (plain.length > 0) return { ok: false, problems: plain.map((one) => problemAt(one.path, one.message)) }
  return { ok: true, value: { file, document, value, problemAt } }
}

/** How many marks of YAML a text has: some count wherever they stand, others only at the edge of a word; quotes by pairs. */
function countMarks(text: string): number {
  let count = 0
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at)
    if (ALWAYS.has(code)) count += code === QUOTE ? 0.5 : 1
    else if (AT_EDGE.has(code) && (isSpace(text.charCodeAt(at - 1)) || isSpace(text.charCodeAt(at + 1)))) count += 1
  }
  return Math.ceil(count)
}

const codes = (characters: string): ReadonlySet<number> => new Set([...characters].map((one) => one.charCodeAt(0)))
const ALWAYS = codes('\n\r,[{"')
const AT_EDGE = codes(":-?&*!|>%@`#'")
const QUOTE = 34

const isSpace = (code: number): boolean => !(code > 32)

/** How deep brackets stand inside each other, counted without reading: the parser would run out of stack. */
function deepest(text: string): number {
  let depth = 0
  let most = 0
  for (const character of text.match(/[[\]{}]/g) ?? []) {
    depth = Math.max(0, depth + (character === '[' || character === '{' ? 1 : -1))
    most = Math.max(most, depth)
  }
  return most
}

/** The first node that a plain map of plain values does not have: a key that stands twice, or a tag. */
function oddNode(document: Document): { readonly offset: number; readonly message: string } | undefined {
  let found: { readonly offset: number; readonly message: string } | undefined
  const refuse = (offset: number | undefined, message: string): symbol => {
    found = { offset: offset ?? 0, message }
    return visit.BREAK
  }
  visit(document, {
    Node(_, node) {
      if (isMap(node)) {
        const keys = new Set<string>()
        for (const { key } of node.items) {
          if (!isScalar(key)) return refuse(isNode(key) ? key.range?.[0] : undefined, 'a key must be plain text')
          const name = String(key.value)
          if (keys.has(name)) return refuse(key.range?.[0], 'the same key stands twice in one map')
          keys.add(name)
        }
      }
      const tag = 'tag' in node ? node.tag : undefined
      if (tag !== undefined && !plainTags.has(tag))
        return refuse(node.range?.[0], `the tag ${tag} is not read here; expected the value alone`)
      return undefined
    },
  })
  return found
}

/** Tags that a node of a plain document gets by itself. */
const plainTags: ReadonlySet<string> = new Set(
  ['map', 'seq', 'str', 'null', 'bool', 'int', 'float'].map((one) => `tag:yaml.org,2002:${one}`),
)

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
  const problems = result.issues.slice(0, MOST_PROBLEMS).map((issue) => {
    const path = (issue.path ?? []).map((item) => item.key as string | number)
    return problemAt(path, issueText(issue))
  })
  const more = result.issues.length - problems.length
  if (more > 0) problems.push(problemAt([], `${more.toLocaleString('en')} more of the same text do not fit`))
  return { ok: false, problems }
}

/** Most problems of one text that are worked out and said; finding the place of each takes time. */
export const MOST_PROBLEMS = 50

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
