import { preferredValue } from '../electrical/preferred.ts'
import { type Entry, isNamed, nameHits, type Options, searchHits, suggestCatalog, typeHits } from './search.ts'

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
    /** What no plan holds: it hangs on something else of the kit, as a load cell does on its amplifier. */
    | { readonly kind: 'outside'; readonly on: P }
    | undefined
  readonly options: Readonly<Options>
  /** Others that the words may mean; where none answers, those that come near. */
  readonly others: readonly (B | P)[]
}

/** Most parts of one kind that one entry may add. */
export const MOST_AT_ONCE = 40
/** Others that are named beside what was understood. */
const MOST_OTHERS = 4

/** Share of the score of what was understood from which another thing may be meant as well. */
const LIKELY = 0.4

/** Words of a piece of text with the place where they stand in the whole. */
interface Piece {
  readonly text: string
  readonly start: number
  /** How many, where a column of a table says so. */
  readonly count?: number
  /** The words with what they share with those before: `433 MHz transmitter and receiver`. */
  readonly meant?: string
}

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

const VOLTS = String.raw`\d+(?:[.,]\d+)?\s*v(?:olts?)?`
const AMPS = String.raw`\d+(?:[.,]\d+)?\s*m?a(?:mps?|mperes?)?`
/** Volts with amperes and nothing else are those of a supply; so are volts before the bare word. */
const SUPPLY = new RegExp(
  String.raw`^(?:(?:${VOLTS})[\s/@]*(?:${AMPS})|(?:${AMPS})[\s/@]*(?:${VOLTS})|(?:${VOLTS})(?:[\s/@]*(?:${AMPS}))?\s+(?:dc\s+)?(?:supply|power))$`,
  'i',
)
const OHMS = /^(?:(\d{3,7})|(\d{3,7})\s+resistors?|resistors?\s+(\d{2,7}))$/i

/** Says whose a supply is, not what it is. */
const APART = /^(?:an?\s+)?(?:external|separate|extra|own|dedicated)\s+(?=.*(?:supply|power|psu|adapter|battery|\dv))/i

/** Words in the way of the catalogue where makers have several. */
const spelled = (text: string): string =>
  text
    .replace(APART, '')
    .replace(/(?:^|\s)\d+(?:[.,]\d+)?\s*met(?:er|re)s?\b/i, '')
    .replace(/(\d)-(?=(?:channel|digit|pin|bit|wire|way|axis|segment|line|key|position)s?\b)/i, '$1 ')
    .replace(/\b[abc](?=\d+k\b)/i, '')
    .replace(
      /^(?=.*(?:ws28|sk68|neopixel|addressable))(.*?)(?<!\w)(\d{1,2})\s?x\s?(\d{1,2})(?!\d)/i,
      (_, before: string, rows: string, columns: string) => `${before}${Number(rows) * Number(columns)}`,
    )
    .replace(/\bkilo\s?ohms?\b/i, 'kohm')
    .replace(/\bmega\s?ohms?\b/i, 'Mohm')
    .replace(
      /^(?:(\d{1,2})\s*[x×]?\s+)?traffic[- ]lights?(?:\s+modules?)?$/i,
      (_, count: string | undefined) => `${3 * Number(count ?? 1)} leds`,
    )
    .replace(/\bir\s+(?:led|diode|emitter|transmitter)(s?)\b/i, 'infrared led$1')

/** Words of which something is left out that everybody adds: what `12 V 2 A` is, and the unit of `220`. */
function asMeant(name: string): string {
  if (SUPPLY.test(name)) return `power supply ${name.replace(/\s*(?:supply|power)$/i, '')}`
  const ohms = OHMS.exec(name)
    ?.slice(1)
    .find((one) => one !== undefined)
  return ohms !== undefined && isPreferred(Number(ohms)) ? `${ohms} ohm resistor` : name
}

/** A value that resistors are made with. */
const isPreferred = (ohms: number): boolean => ohms >= 10 && preferredValue(ohms, 'up', 'E24') === ohms

/** What lights in a row are called, as a whole. */
const ROW = /\b(strip|ring|stick|matrix|panel|tape)(s|es)?\b/i
/** Something in a name of lights in a row. */
const LIGHTS = /strip|ring|stick|matrix|panel|tape|pixel|ws28|sk68|apa\s?102|leds?\b/i
const NUMBER =
  /(?<![\w.])(?:([x×*])\s*)?(\d{1,4})(?:\s*([x×*])(?=\s))?(?:\s*-?\s*((?:leds?|pixels?|lights?|bits?)\b))?(?!\s*(?:m|met(?:er|re)s?)\b)(?![\w.])/gi

/**
 * Lights in a row are counted in two ways: `2 rings`, `ring 16`, `8 neopixels`. Undefined for anything else.
 */
function lightsIn(
  text: string,
  entries: readonly Entry[],
): { count: number; name: string; options: Options } | undefined {
  const numbers = [...text.matchAll(NUMBER)].map(([whole, before, figure, behind, unit], at) => ({
    is: Number(figure),
    isTimes: before !== undefined || behind !== undefined,
    isUnit: unit !== undefined && (at > 0 || !ROW.test(text)),
    isFront: text.trimStart().startsWith(whole),
  }))
  if (numbers.length === 0 || numbers.length > 2 || !LIGHTS.test(text)) return undefined
  // `12 led ring` is called a led ring, `pixel strip 30 leds` a pixel strip.
  const names = ['', ' $4'].map((unit) => text.replace(NUMBER, unit).replace(/\s+/g, ' ').trim())
  const pixelsOf = (name: string): string | undefined =>
    name === '' ? undefined : partHits(entries, name)[0]?.entry.options?.find(({ id }) => id === 'pixels')?.id
  const name = names.find((one) => pixelsOf(one) !== undefined)
  const option = name === undefined ? undefined : pixelsOf(name)
  if (name === undefined || option === undefined) return undefined
  const row = ROW.exec(name)
  const isPixels = (one: (typeof numbers)[number]): boolean => {
    if (one.isUnit || !row) return true
    if (one.isTimes) return one.is > 12
    return one.isFront ? row[2] === undefined && one.is > 4 : true
  }
  const pixels = numbers.filter(isPixels).at(-1)
  const count = numbers.find((one) => one !== pixels)?.is ?? 1
  return { count, name, options: pixels ? { [option]: pixels.is } : {} }
}

/** Lengths, weights, versions and the bus over which it talks: they come in every form of a thing. */
const SIZE =
  /\d+(?:[.,]\d+)?\s?(?:[cm]?m|k?g)\b|\b\d+\s?x\s?\d+(?:\s?x\s?\d+)?\b|(?<![\w.])\d+[.]\d+(?![\w.])|\bv\d+(?:[.]\d+)+\b|\b(?:i2c|spi|uart)\b|["”]/gi
/** What it is made for: volts, amperes, watts. */
const RATING = /(?:\d+(?:[.,]\d+)?\s?[-–/]\s?)?\d+(?:[.,]\d+)?\s?(?:v(?:olts?)?|m?a(?:mps?)?|w(?:atts?)?|mah)\b/gi

/**
 * Volts that no entry knows, such as those of a `12v pump`, say less than the rest, and so do words around a name, `toy` of a
 * `toy motor`.
 */
function partHits<P extends Entry>(parts: readonly P[], name: string): ReturnType<typeof searchHits<P>> {
  const found = searchHits(parts, name)
  if (found.length > 0) return found
  const [size, rest] = [name.replace(SIZE, '').trim(), name.replace(SIZE, '').replace(RATING, '').trim()]
  const sized = size === '' || size === name ? [] : searchHits(parts, size)
  if (sized.length > 0) return sized
  const without = rest === '' || rest === name ? [] : searchHits(parts, rest)
  if (without.length > 0) return without
  const named = nameHits(parts, rest)
  return named.length > 0 ? named : typeHits(parts, name)
}

/** Breadboards and wires are no parts of a plan: the bench lays them out and counts them. */
const BENCH =
  /^(?:\d+\s*[x×]?\s+|an?\s+|some\s+)?(?:(?:full|half|mini|solderless|big|small|jumper|dupont|hook-?up)\s+)*(?:(?:proto|bread|perf|strip)\s?boards?(?:\s+\d{2,4}(?:\s+(?:points?|holes?))?)?|wires?|dupont\s+(?:wires?|cables?)|(?:\S+\s+){0,3}(?:chassis|casters?|caster\s+wheels?|standoffs?|screws?|heat\s?shrink|enclosure|zip\s?ties|pin\s+headers?|header\s+pins?)|jumpers?|jumper\s?cables?|usb\s+(?:[abc]\s+(?:to\s+(?:micro\s+|mini\s+)?(?:usb\s+)?[abc]?\s*)?|micro\s+|mini\s+|type[- ]?c\s+|data\s+)?(?:cables?|leads?))$/i

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

function piecesOf(typed: string): Piece[] {
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

const numbers: Readonly<Record<string, number>> = {
  ...Object.fromEntries(
    'one two three four five six seven eight nine ten eleven twelve'.split(' ').map((word, index) => [word, index + 1]),
  ),
  'a pair of': 2,
  'a couple of': 2,
  'a dozen': 12,
}
/** What a number in front belongs to, so that it counts no parts: `4 digit display`, `330 ohm resistor`, `12 led ring`. */
const belongs =
  /^\d{1,3}(?!\d)\s*-?\s*(?:(?:digits?|segments?|channels?|bits?|wires?|axis|axes|dof|pins?|ways?|poles?|positions?|steps?|lines?(?!\s+(?:sensors?|followers?|trackers?|tracking|detectors?|finders?))|characters?|keys?|rows?|cells?|leds?\s+(?:bar|matrix|panel)|(?:x\s*)?aaa?|x\s*18650|[kmunpµ]?(?:ohms?|Ω|f|v|volts?|hz|ma|mah|mm|g|inch(?:es)?))(?![-a-z])|(?:°|deg(?:rees?)?)\s|x\s*\d{1,2}(?![\da-z])|[kmnpµ]\s)|^(?:90|180|270|360)\s+servos?\b/i

/** So many resistors of a value, without a word or with one. */
const VALUED =
  /^(?:resistors?\s+)?(\d{1,2})\s*[x×*]\s*(\d+(?:[.,]\d+)?\s*[kmunpµ]?\d*\s*(?:ohms?|Ω|r|f)?)(?:\s+resistors?)?$/i
const IN_FRONT =
  /^(\d{1,3})(?:\s*[x×*](?:\s*(?=\d*[a-z])|\s+)|\s*pcs?\.?\s+|\s*pieces?\s+(?:of\s+)?|\s+(?:[x×*]\s+)?)(.+)$/i
const BEHIND = [
  /^(.+?)(?:\s+x|\s*[×*])\s*(\d{1,3})$/i,
  /^(.+?)\s+(\d{1,3})\s*[x×*]$/i,
  /^(.+?)\s*\(\s*[x×*]?\s*(\d{1,3})\s*(?:[x×*]|pcs?\.?|pieces?)?\s*\)$/i,
  /^(.+?)\s*(?::|=|\s[-–])\s*(\d{1,3})\s*(?:pcs?\.?|pieces?)?$/i,
  /^(.+?)\s+(\d{1,3})\s*(?:pcs?\.?|pieces?)$/i,
]

function countOf(text: string, entries: readonly Entry[]): { count: number; name: string } {
  const whole = { count: 1, name: text }
  if (asMeant(text) !== text) return whole
  // `8 x 220`, `resistors 8 x 220`: so many of a value.
  const valued = VALUED.exec(text)
  const value = valued && asMeant((valued[2] as string).trim())
  if (value !== null && /\d\s*[kmrΩunpµ]|ohm/i.test(value))
    return { count: Number(valued?.[1]), name: /^[\d.,]+\s*[kmr]?$/i.test(value) ? `${value} resistor` : value }
  // `2x 4 digit display`: the second number belongs to the name.
  const times = /^(\d{1,3})\s*[x×*]\s+(.+)$/i.exec(text)
  if (times && belongs.test(times[2] as string)) return { count: Number(times[1]), name: times[2] as string }
  const behind = BEHIND.map((form) => form.exec(text)).find((found) => found !== null)
  if (belongs.test(text) && behind && partHits(entries, asMeant(behind[1] as string)).length > 0)
    return { count: Number(behind[2]), name: behind[1] as string }
  if (belongs.test(text)) {
    if (entries.some((entry) => isNamed(entry, text))) return whole
    // `12 led bar`: no entry has a twelve, and still it is one bar.
    const bare = { count: 1, name: text.replace(/^\d+\s*-?\s*(?:v(?:olts?)?\s+)?/i, '') }
    const isAmount = /^\d+\s*-?\s*[kmunpµ]?(?:ohms?|Ω|f|v|volts?|hz|ma|mah|a{1,3})(?![a-z])/i.test(text)
    const isRing = entries.some((entry) => isNamed(entry, bare.name))
    return isAmount || (!isRing && searchHits(entries, text).length > 0) ? whole : bare
  }
  const words = Object.keys(numbers).find((one) => text.toLowerCase().startsWith(`${one} `))
  // `4x4 keypad`, `seven segment`: the number is part of the name where an entry is called so.
  if ((words !== undefined || /^\d/.test(text)) && entries.some((entry) => isNamed(entry, text))) return whole
  if (words !== undefined) {
    const rest = text.slice(words.length + 1)
    const isName =
      belongs.test(`${numbers[words]} ${rest}`) &&
      !entries.some((entry) => isNamed(entry, rest)) &&
      searchHits(entries, text).length > 0
    return isName ? whole : { count: numbers[words] as number, name: rest }
  }
  const front = IN_FRONT.exec(text)
  if (front) return { count: Number(front[1]), name: front[2] as string }
  return behind ? { count: Number(behind[2]), name: behind[1] as string } : whole
}
