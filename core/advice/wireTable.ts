import Papa from 'papaparse'
import { applyEdits, type Edit, wireIndex } from '../plan/edit.ts'
import { canonicalEnd, splitEnd } from '../plan/ends.ts'
import { type WireColour, wireColourNames } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { endOf, type HandAnswer, wireByHand } from './byHand.ts'

/** A line of a table of wires, and what comes of it. Lines count from 1. */
export interface TableLine {
  readonly line: number
  readonly text: string
  /** `there`: the plan says so already; `wrong`: it was not understood, or cannot be. */
  readonly is: 'new' | 'there' | 'wrong'
  readonly from?: string
  readonly to?: string
  readonly colour?: WireColour
  /** Why it is wrong, or what of it was left out. */
  readonly message?: string
}

/** What a table of wires comes to. */
export interface WireTable {
  readonly edits: readonly Edit[]
  readonly lines: readonly TableLine[]
}

/** What one line says, before anything is looked up. */
interface Said {
  readonly line: number
  readonly text: string
  readonly cells: readonly string[]
  /** What stands in a column of colours. */
  readonly colour: string | undefined
}

/** Parts a line of a table of wires: tabs, commas, arrows, colons, or blanks. */
function cellsOf(line: string): string[] {
  const parted = /\t|;|,|\||->|→|=>|=|:/.test(line)
    ? line.split(/\s*(?:\t|;|,|\||-+>|→|=>|=|:)\s*/)
    : line.replace(/\s+(?:to|on|in|at)\s+/i, ' ').split(/\s+/)
  return parted.map((cell) => cell.trim().replace(/^["']|["']$/g, '')).filter((cell) => cell !== '')
}

const COLOUR = /^(?:wire\s+)?colou?r$/i
const HEADING =
  /^(?:part|pin|from|to|wire|signal|name|board|connect(?:ion|s)?(?:\s+to)?|goes\s+to|module|device|(?:wire\s+)?colou?r|no\.?|number|#|notes?|length)$/i
const FROM = /^from$/i
const TO = /^(?:to|goes\s+to|connects?\s+to)$/i

const isHeading = (cells: readonly string[]): boolean => cells.length > 1 && cells.every((cell) => HEADING.test(cell))

/** Lines of a table with columns `from` and `to`, whatever else stands in it; undefined for a table without them. */
function headedLines(text: string): Said[] | undefined {
  const { data } = Papa.parse<string[]>(text, { delimitersToGuess: [',', ';', '\t', '|'] })
  const rows = data.map((row) => row.map((cell) => cell.trim()))
  const head = rows.findIndex((row) => row.some((cell) => FROM.test(cell)) && row.some((cell) => TO.test(cell)))
  const heading = rows[head]
  if (!heading) return undefined
  const column = (of: RegExp): number => heading.findIndex((cell) => of.test(cell))
  const [from, to, colour] = [column(FROM), column(TO), column(COLOUR)]
  return rows.flatMap((row, index): Said[] => {
    const cells = [row[from] ?? '', row[to] ?? ''].map(asEnd)
    if (index <= head || row.every((cell) => cell === '')) return []
    return [
      {
        line: index + 1,
        text: row.filter(Boolean).join(', '),
        cells: cells.filter(Boolean),
        colour: row[colour] || undefined,
      },
    ]
  })
}

/** `LAMP A` as `LAMP.A`. */
const asEnd = (cell: string): string => (cell.includes('.') ? cell : cell.replace(/^(\S+)\s+(\S+)$/, '$1.$2'))

const plainLines = (text: string): Said[] =>
  text.split('\n').flatMap((line, index): Said[] => {
    const cells = cellsOf(line.trim())
    if (cells.length === 0 || isHeading(cells) || /^[-|:\s]+$/.test(line)) return []
    return [{ line: index + 1, text: line.trim(), cells, colour: undefined }]
  })

/**
 * Enters wires from text, a line each: `TRIG 10` for the part at hand, `SONAR.TRIG 10`, `SONAR TRIG 10` of a whole table,
 * a colour behind it, or a table with columns from, to and colour. The sides may stand either way round. What a line says
 * is done on top of the lines before it.
 */
export function wireTable(wiring: Wiring, text: string, part?: string): WireTable {
  let now = wiring
  const edits: Edit[] = []
  const lines = (headedLines(text) ?? plainLines(text)).map(({ line, text: said, cells, colour }): TableLine => {
    const read = readLine(now, cells, part, colour)
    if (!read.ok) return { line, text: said, is: 'wrong', message: read.message }
    edits.push(...read.edits)
    if (read.edits.length > 0) now = resolve(applyEdits(now.plan, read.edits), now.catalog)
    const { from, to, colour: wears, left } = read
    return {
      line,
      text: said,
      is: read.edits.length > 0 ? 'new' : 'there',
      ...(from === undefined ? {} : { from }),
      ...(to === undefined ? {} : { to }),
      ...(wears ? { colour: wears } : {}),
      ...(left === undefined ? {} : { message: `"${left}" is no colour that wires are sold in; it was left out` }),
    }
  })
  return { edits, lines }
}

/** A pin and the words for where it goes. */
interface Pair {
  readonly end: string
  readonly words: string
}

interface Read {
  readonly ok: true
  readonly edits: readonly Edit[]
  readonly from: string | undefined
  readonly to: string | undefined
  readonly colour: WireColour | undefined
  /** A word in the column of colours that is none. */
  readonly left: string | undefined
}

function readLine(
  wiring: Wiring,
  cells: readonly string[],
  part: string | undefined,
  written: string | undefined,
): Read | Extract<HandAnswer, { ok: false }> {
  const colour = written === undefined ? undefined : colourOf(written)
  const found = pairsOf(wiring, cells, part)
  let wrong = found.wrong
  for (const { end, words } of found.pairs) {
    const answer = wireByHand(wiring, end, words)
    if (!answer.ok) {
      wrong ??= answer.message
      continue
    }
    const to = /^[-–]$/.test(words.trim()) ? undefined : endOf(wiring, splitEnd(end).ref, words)
    const there = to?.ok ? to.end : undefined
    const left = written !== undefined && colour === undefined ? written : undefined
    return { ok: true, edits: coloured(wiring, answer.edits, end, there, colour), from: end, to: there, colour, left }
  }
  // Boards and supplies among themselves.
  const [one, other] = cells.map((cell) => canonicalEnd(wiring.plan, wiring.catalog, cell))
  if (cells.length === 2 && one?.ok && other?.ok && one.end !== other.end) {
    const [from, to] = [one.end, other.end]
    const edits: Edit[] = wireIndex(wiring.plan, from, to) < 0 ? [{ do: 'connect', from, to }] : []
    return { ok: true, edits: coloured(wiring, edits, from, to, colour), from, to, colour, left: undefined }
  }
  // A colour behind a line without headings.
  const last = written === undefined && cells.length > 2 ? colourOf(cells.at(-1) ?? '') : undefined
  if (last) {
    const without = readLine(wiring, cells.slice(0, -1), part, last)
    if (without.ok) return without
  }
  return { ok: false, message: wrong ?? 'not understood' }
}

/** Pins of parts that a line may mean, the likelier first; what is wrong where it means none. */
function pairsOf(
  wiring: Wiring,
  cells: readonly string[],
  part: string | undefined,
): { readonly pairs: readonly Pair[]; readonly wrong?: string } {
  const isPart = (end: string): boolean => wiring.parts.some(({ ref }) => ref === splitEnd(end).ref)
  const find = (end: string): string | undefined => {
    const found = canonicalEnd(wiring.plan, wiring.catalog, end)
    return found.ok && isPart(found.end) ? found.end : undefined
  }
  const [first = '', second = '', ...rest] = cells
  if (cells.length < 2) return { pairs: [], wrong: 'expected a pin and where it goes, such as "TRIG 10"' }
  if (cells.length > 2) {
    const end = find(`${first}.${second}`)
    const last = find(`${cells.at(-2)}.${cells.at(-1)}`)
    const pairs = [
      ...(end === undefined ? [] : [{ end, words: rest.join(' ') }]),
      ...(last === undefined ? [] : [{ end: last, words: cells.slice(0, -2).join(' ') }]),
    ]
    return pairs.length > 0
      ? { pairs }
      : { pairs, wrong: `"${first}" with "${second}" is no pin of a part of this plan` }
  }
  const own = (cell: string): string | undefined =>
    (cell.includes('.') ? find(cell) : undefined) ?? (part === undefined ? undefined : find(`${part}.${cell}`))
  // The side that names a pin of the part at hand is where the wire starts; of two, the one that leaves a pin for the other.
  const [left, right] = [own(first), own(second)]
  const pairs = [
    ...(left === undefined ? [] : [{ end: left, words: second }]),
    ...(right === undefined ? [] : [{ end: right, words: first }]),
  ]
  if (pairs.length > 0) return { pairs }
  const known = new Set([...wiring.boards, ...wiring.supplies, ...wiring.parts].map(({ ref }) => ref.toUpperCase()))
  const strange = [first, second]
    .flatMap((cell) => (cell.includes('.') ? [splitEnd(cell).ref] : []))
    .find((ref) => !known.has(ref.toUpperCase()))
  const wrong =
    part === undefined && strange !== undefined
      ? `this plan has nothing called "${strange}"`
      : first.toUpperCase() === second.toUpperCase()
        ? `the wire joins ${first} with itself`
        : `neither "${first}" nor "${second}" is a pin of ${part ?? 'a part of this plan'}`
  return { pairs, wrong }
}

/** The edits, with the wire that they put in, or the one that is there, in a colour. */
function coloured(
  wiring: Wiring,
  edits: readonly Edit[],
  from: string,
  to: string | undefined,
  colour: WireColour | undefined,
): readonly Edit[] {
  if (colour === undefined) return edits
  const worn = edits.map((edit): Edit => (edit.do === 'connect' ? { ...edit, facts: { ...edit.facts, colour } } : edit))
  if (edits.length > 0 || to === undefined) return worn
  const wire = wiring.plan.wires[wireIndex(wiring.plan, from, to)]
  return wire && wire[2]?.colour !== colour
    ? [{ do: 'change-wire', from: wire[0], to: wire[1], facts: { colour } }]
    : edits
}

/** A colour as people write it; undefined for a word that is none. */
function colourOf(word: string): WireColour | undefined {
  const said = word.trim().toLowerCase()
  const named = said === 'gray' ? 'grey' : said === 'violet' ? 'purple' : said
  return wireColourNames.find((one) => one === named)
}
