import { countOf, lightsIn } from './kitCounts.ts'
import { asMeant, BENCH, isOnMains, partHits, spelled } from './kitNames.ts'
import { MOST_AT_ONCE, type Piece, piecesOf } from './kitPieces.ts'
import { type Entry, type Options, searchHits, suggestCatalog } from './search.ts'

/** What a piece of a maker's own words means: a board, so many of a part, what the bench brings, or nothing known. */
export interface KitItem<B, P> {
  /** The words as they were written, and where they stand. */
  readonly text: string
  readonly start: number
  readonly end: number
  readonly count: number
  /** The amount stands in a column of its own, outside the words. */
  readonly isApart: boolean
  readonly found:
    | { readonly kind: 'board'; readonly entry: B }
    | { readonly kind: 'part'; readonly entry: P }
    | { readonly kind: 'bench' }
    /** What runs on mains, which no breadboard bears. */
    | { readonly kind: 'mains' }
    /** What no plan holds: it hangs on something else of the kit, as a load cell does on its amplifier. */
    | { readonly kind: 'outside'; readonly on: P }
    | undefined
  readonly options: Readonly<Options>
  /** Others that the words may mean; where none answers, those that come near. */
  readonly others: readonly (B | P)[]
}

/** Others that are named beside what was understood. */
const MOST_OTHERS = 4

/** Share of the score of what was understood from which another thing may be meant as well. */
const LIKELY = 0.4

/**
 * Reads what lies on a table as makers write it: `2 bme280, oled, three red leds + button`, a pasted list with bullets,
 * numbers or boxes, `servo (x2)`, `LED: 5`, or a table with a column of amounts. A number that belongs to a name counts
 * nothing (`7 segment display`). Whatever it is, it comes back as items in the order of the text. A reader remembers
 * what it has read, so that a letter more in a long list is a matter of one piece.
 */
export function kitReader<B extends Entry, P extends Entry>(
  boards: readonly B[],
  parts: readonly P[],
): (typed: string) => KitItem<B, P>[] {
  const known = new Map<string, Meaning<B, P>>()
  const meaningOf = ({ text: written, count, meant }: Piece): Meaning<B, P> => {
    const text = spelled(meant ?? written)
    const key = `${count ?? ''} ${text}`
    const meaning = known.get(key) ?? meaningIn(boards, parts, text, count)
    known.set(key, meaning)
    return meaning
  }
  return (typed) =>
    piecesOf(typed).map((piece) => ({
      text: piece.text,
      start: piece.start,
      end: piece.start + piece.text.length,
      isApart: piece.count !== undefined,
      ...meaningOf(piece),
    }))
}

type Meaning<B, P> = Omit<KitItem<B, P>, 'text' | 'start' | 'end' | 'isApart'>

function meaningIn<B extends Entry, P extends Entry>(
  boards: readonly B[],
  parts: readonly P[],
  text: string,
  given: number | undefined,
): Meaning<B, P> {
  if (BENCH.test(text)) return { count: 1, found: { kind: 'bench' }, options: {}, others: [] }
  if (isOnMains(text)) return { count: 1, found: { kind: 'mains' }, options: {}, others: [] }
  // A number by itself names nothing.
  if (/^\d{1,2}$/.test(text)) return { count: 1, found: undefined, options: {}, others: [] }
  const lights = given === undefined ? lightsIn(text, parts) : undefined
  const { count, name } = given === undefined ? (lights ?? countOf(text, parts)) : { count: given, name: text }
  const [part, ...moreParts] = partHits(parts, asMeant(name))
  const [board, ...moreBoards] = searchHits(boards, name)
  // What comes along says less than what it comes with.
  const [main = ''] = text.split(/\s+(?:with|incl(?:uding|\.)?)\s+/i)
  if (!part && !board && main !== text && main !== '') return meaningIn(boards, parts, main, given)
  // A word that both answer to means a part, unless it names the board better.
  const isBoard = board !== undefined && (part === undefined || board.score > part.score)
  const likely = (isBoard ? board.score : (part?.score ?? 0)) * LIKELY
  const rest: readonly (B | P)[] = (isBoard ? [...moreBoards, ...(part ? [part, ...moreParts] : [])] : moreParts)
    .filter(({ score }) => score >= likely)
    .map(({ entry }) => entry)
  return {
    count: isBoard ? 1 : Math.min(MOST_AT_ONCE, Math.max(1, count)),
    found: isBoard ? { kind: 'board', entry: board.entry } : part && { kind: 'part', entry: part.entry },
    options: isBoard ? {} : { ...part?.options, ...lights?.options },
    others: (isBoard || part ? rest : suggestCatalog<B | P>([...parts, ...boards], name)).slice(0, MOST_OTHERS),
  }
}
