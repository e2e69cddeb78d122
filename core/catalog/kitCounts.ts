import { asMeant, partHits } from './kitNames.ts'
import { MOST_AT_ONCE } from './kitPieces.ts'
import { type Entry, isNamed, type Options, searchHits } from './search.ts'

/** What lights in a row are called, as a whole. */
const ROW = /\b(strip|ring|stick|matrix|panel|tape)(s|es)?\b/i
/** Something in a name of lights in a row. */
const LIGHTS = /strip|ring|stick|matrix|panel|tape|pixel|ws28|sk68|apa\s?102|leds?\b/i
const NUMBER =
  /(?<![\w.])(?:([x×*])\s*)?(\d{1,4})(?:\s*([x×*])(?=\s))?(?:\s*-?\s*((?:leds?|pixels?|lights?|bits?)\b))?(?!\s*(?:m|met(?:er|re)s?)\b)(?![\w.])/gi

/**
 * Lights in a row are counted in two ways: `2 rings`, `ring 16`, `8 neopixels`. Undefined for anything else.
 */
export function lightsIn(
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
  /^\d{1,3}(?!\d)\s*-?\s*(?:(?:digits?|segments?|channels?|bits?|wires?|axis|axes|dof|pins?|ways?|poles?|positions?|steps?|lines?(?!\s+(?:sensors?|followers?|trackers?|tracking|detectors?|finders?))|characters?|keys?|rows?|cells?|leds?\s+(?:bar|matrix|panel)|(?:x\s*)?aaa?|x\s*18650|[kmunpµ]?(?:ohms?|Ω|f|v|volts?|hz|ma|mah|mm(?!\d)|g(?!\d)|inch(?:es)?))(?![-a-z])|(?:°|deg(?:rees?)?)\s|x\s*\d{1,2}(?![\da-z])|[kmnpµ]\s)|^(?:90|180|270|360)\s+servos?\b/i

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

/** `555 timer`: chips of which nobody counts so many, where packs are of tens and lights of sixteens. */
const isTypeNumber = (figure: number): boolean => figure >= 100 && figure % 10 !== 0 && figure % 16 !== 0

export function countOf(text: string, entries: readonly Entry[]): { count: number; name: string } {
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
  // `433 receiver`, `595 shift register`: more than anybody has, and in the name of what is found.
  if (front && Number(front[1]) > MOST_AT_ONCE) {
    const [hit] = partHits(entries, text)
    const stands = new RegExp(`(?<!\\d)${front[1]}(?!\\d)`)
    if (hit && [hit.entry.id, ...hit.entry.keywords].some((word) => stands.test(word))) return whole
  }
  if (front && isTypeNumber(Number(front[1]))) return whole
  if (front) return { count: Number(front[1]), name: front[2] as string }
  return behind ? { count: Number(behind[2]), name: behind[1] as string } : whole
}
