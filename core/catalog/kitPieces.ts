/** Most parts of one kind that one entry may add. */
export const MOST_AT_ONCE = 40

/** Words of a piece of text with the place where they stand in the whole. */
export interface Piece {
  readonly text: string
  readonly start: number
  /** How many, where a column of a table says so. */
  readonly count?: number
  /** The words with what they share with those before: `433 MHz transmitter and receiver`. */
  readonly meant?: string
}

/** Marks in front of the lines of a list: headings, bullets, numbers with a dot or a bracket, boxes to tick. */
const MARK =
  /^\s*(?:(?:boards?|parts?|kit|list|have|needed|need)\s*:\s*(?=[a-z])|(?:i have|i've got|i’ve got|we have)\s+|[-*•–·▪‣+]\s+|\d{1,3}[.)]\s+|\[[ xX]?\]\s*|[☐☑✓✔]\s*)*/i
/** What stands behind a name in a shop's list and says nothing of what it is. */
const NOISE = /\s*(?:https?:\/\/\S+|(?:[€$£]\s*\d+(?:[.,]\d+)?|\d+(?:[.,]\d+)?\s*(?:[€£]|eur|usd|gbp))(?=\s|$))\s*$/i
const HEADINGS = new Set(
  'amount,cost,count,description,device,item,items,name,no,notes,number,part,parts,pcs,position,price,qty,quantity,ref,total,value'.split(
    ',',
  ),
)
const AMOUNT = /^\s*(?:[x×*]\s*)?(\d{1,3})\s*(?:[x×*]|pcs?\.?|pieces?)?\s*$/i

export function piecesOf(typed: string): Piece[] {
  const pieces: Piece[] = []
  let start = 0
  const lines = typed.split('\n')
  for (const line of lines) {
    const row = rowOf(line, start, lines.length > 1)
    pieces.push(
      ...(row ??
        splitAt(
          line,
          start,
          /[,;\t]|\s\+\s|\s&\s|\swith\s(?=(?:\S+\s)?(?=\S*\d)(?=\S*[a-z])[\w-]{5,})|(?<!\b(?:temp(?:erature)?|humidity|pressure|heart rate))\sand\s/gi,
        ).map(cleaned)),
    )
    start += line.length + 1
  }
  return pieces
    .filter(({ text }) => text !== '')
    .map(withoutHeading)
    .map(withShared)
}

/** `Weather station: esp32`: what stands before the colon says what is to become of it all. */
function withoutHeading(piece: Piece, at: number): Piece {
  const heading = at === 0 ? /^[a-z][a-z' -]{3,}:\s+(?=\S*[a-z])/i.exec(piece.text)?.[0] : undefined
  return heading === undefined
    ? piece
    : { ...piece, text: piece.text.slice(heading.length), start: piece.start + heading.length }
}

/** One half of a pair has the words of the other before it. */
function withShared(piece: Piece, at: number, all: readonly Piece[]): Piece {
  const half = /^(?:transmitter|receiver|tx|rx)s?$/i
  const before = all[at - 1]?.text.match(/^(.*\d\S*(?:\s*mhz)?)\s+(\S+)$/i)
  return half.test(piece.text) && before && half.test(before[2] as string)
    ? { ...piece, meant: `${before[1]} ${piece.text}` }
    : piece
}

/** A row of a table with an amount in one of its columns; its heading is no row of parts. Undefined for other lines. */
function rowOf(line: string, start: number, isTable: boolean): Piece[] | undefined {
  const separator = ['\t', '|', ';', ','].find((one) => line.includes(one))
  if (separator === undefined) return undefined
  const cells = splitAt(line, start, separator === '|' ? /\|/g : new RegExp(separator, 'g'))
  const named = cells.filter(({ text }) => text !== '')
  if (named.length > 1 && named.every(({ text }) => HEADINGS.has(text.toLowerCase().replace(/[^a-z]/g, '')))) return []
  if (separator === '|' && named.every(({ text }) => /^[-:]+$/.test(text))) return []
  const amount = named.find(({ text }) => AMOUNT.test(text))
  const name = named.find(({ text }) => /[a-zA-Z]/.test(text) && !AMOUNT.test(text))
  if (!amount || !name) return separator === '|' ? named.map(cleaned) : undefined
  // `led, 220` are a lamp and its resistor.
  const many = Number(AMOUNT.exec(amount.text)?.[1])
  if (separator === ',' && named.length === 2 && many > MOST_AT_ONCE) return undefined
  // `2, bme280` is a row by itself; of more words with commas only what stands among other lines.
  if (separator === ',' && named.length > 2 && (!isTable || named.indexOf(amount) > 1)) return undefined
  return [{ ...cleaned(name), count: many }]
}

/** Parts of a line between separators, without the blanks around them. */
function splitAt(line: string, start: number, separator: RegExp): Piece[] {
  const pieces: Piece[] = []
  let from = 0
  const add = (to: number): void => {
    const raw = line.slice(from, to)
    pieces.push({ text: raw.trim(), start: start + from + (raw.length - raw.trimStart().length) })
  }
  for (const found of line.matchAll(separator)) {
    add(found.index)
    from = found.index + found[0].length
  }
  add(line.length)
  return pieces
}

/** Without the mark in front, and without price or address behind. */
function cleaned({ text, start }: Piece): Piece {
  const mark = MARK.exec(text)?.[0].length ?? 0
  let rest = text.slice(mark)
  for (let shorter = rest.replace(NOISE, ''); shorter !== rest; shorter = rest.replace(NOISE, '')) rest = shorter
  return { text: rest.trimEnd(), start: start + mark }
}
