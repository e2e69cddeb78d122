import { preferredValue } from '../electrical/preferred.ts'
import { type Entry, nameHits, searchHits, typeHits } from './search.ts'

const VOLTS = String.raw`\d+(?:[.,]\d+)?\s*v(?:olts?)?`
const WATTS = String.raw`\d+(?:[.,]\d+)?\s*w(?:atts?)?`
const AMPS = String.raw`\d+(?:[.,]\d+)?\s*m?a(?:mps?|mperes?)?`
/** Volts with amperes and nothing else are those of a supply; so are volts before the bare word. */
const SUPPLY = new RegExp(
  String.raw`^(?:(?:${VOLTS})[\s/@]*(?:${AMPS})|(?:${AMPS})[\s/@]*(?:${VOLTS})|(?:${VOLTS})(?:[\s/@]*(?:${AMPS}|${WATTS}))?\s+(?:dc\s+)?(?:(?:power\s+)?supply|power))$`,
  'i',
)
/** Volts and nothing else: of cells, or of any other supply. Those that a regulator is called by are not among them. */
const CELL_VOLTS = /^(?:1[.,]5|3[.,]7|4[.,]2|7[.,]4|8[.,]4|9|11[.,]1|12[.,]6|14[.,]8|22[.,]2)\s*v(?:olts?)?$/i
const BARE_VOLTS = new RegExp(String.raw`^(?!3[.,]3)(?:${VOLTS})(?:\s*dc)?$`, 'i')
const OHMS = /^(?:(\d{3,7})|(\d{3,7})\s+resistors?|resistors?\s+(\d{2,7}))$/i

/** Says whose a supply is, not what it is. */
const APART = /^(?:an?\s+)?(?:external|separate|extra|own|dedicated)\s+(?=.*(?:supply|power|psu|adapter|battery|\dv))/i

/** Lithium cells by their number: in a holder they are one battery. */
const CELLS =
  /^(?:(?:(?<front>[2-4]|two|three|four)\s*(?:[x×]|pcs)?\s*)18650s?(?<rest>.*)|18650s?(?<mid>.*?)\s*[x×]\s*(?<back>[2-4]))$/i
const CELL_COUNTS: Readonly<Record<string, string>> = { two: '2', three: '3', four: '4' }

/** Volts of the mains, or a word for it; and what is bought by the mains that it switches, bears or is fed from. */
const MAINS = /(?<![\d.,])(?:1[0-2]\d|2[0-4]\d)\s*v(?:olts?|ac)?\b|\bmains\b|\d\s*v\s*ac\b/i
const BESIDE_MAINS =
  /relay|\bssr\b|solid|contactor|capacitor|fuse|suppl(?:y|ies)|power|adapt[eo]r|psu|converter|charger|triac|dimmer|switch/i

/** A thing that runs on mains: it hangs behind the contacts of a relay, outside of any breadboard. */
export const isOnMains = (text: string): boolean => MAINS.test(text) && !BESIDE_MAINS.test(text)

/** Words in the way of the catalogue where makers have several. */
export const spelled = (text: string): string =>
  text
    .replace(APART, '')
    // `5 W 8 ohm speaker`: its watts are no amount.
    .replace(/^\d+(?:[.,]\d+)?\s+w(?:atts?)?\s+(?=\S)/i, '')
    .replace(CELLS, (_, front: string | undefined, rest: string, mid: string, back: string) => {
      const count = (front ?? back).toLowerCase()
      return `${CELL_COUNTS[count] ?? count}x18650${rest ?? mid}`
    })
    .replace(/(?:^|\s)\d+(?:[.,]\d+)?\s*met(?:er|re)s?\b/i, '')
    .replace(/(\d)-(?=(?:channel|digit|pin|bit|wire|way|axis|segment|line|key|position)s?\b)/i, '$1 ')
    // `B10K`: the letter is the taper of a potentiometer.
    .replace(/\b[abc](?=\d+k\b)/i, '')
    // `2812 strip`: chips of lights by their number alone.
    .replace(/(?<![\w.])(?=281[1-5]b?\b)/i, 'ws')
    // `8x8` lights that are told one by one are 64 of them.
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

/** Words of which something is left out that everybody adds: what `12 V 2 A` or `12 V` is, and the unit of `220`. */
export function asMeant(name: string): string {
  if (CELL_VOLTS.test(name)) return `battery ${name}`
  if (BARE_VOLTS.test(name)) return `power supply ${name.replace(/\s*dc$/i, '')}`
  if (SUPPLY.test(name))
    return `power supply ${name.replace(/\s*(?:(?:power\s+)?supply|power)$/i, '').replace(BY_WATTS, ampsOf)}`
  const ohms = OHMS.exec(name)
    ?.slice(1)
    .find((one) => one !== undefined)
  return ohms !== undefined && isPreferred(Number(ohms)) ? `${ohms} ohm resistor` : name
}

/** `12v 60w`: I = P / V. */
const BY_WATTS = /(\d+(?:[.,]\d+)?)(\s*v(?:olts?)?)[\s/@]*(\d+(?:[.,]\d+)?)\s*w(?:atts?)?/i
const ampsOf = (_: string, volts: string, unit: string, watts: string): string =>
  `${volts}${unit} ${Math.round((1000 * Number(watts.replace(',', '.'))) / Number(volts.replace(',', '.')))}ma`

/** A value that resistors are made with. */
const isPreferred = (ohms: number): boolean => ohms >= 10 && preferredValue(ohms, 'up', 'E24') === ohms

/** Lengths, weights, versions and the bus over which it talks: they come in every form of a thing. */
const SIZE =
  /\d+(?:[.,]\d+)?\s?(?:[cm]?m|k?g)\b|\b\d+\s?x\s?\d+(?:\s?x\s?\d+)?\b|(?<![\w.])\d+[.]\d+(?![\w.])|\bv\d+(?:[.]\d+)+\b|\b(?:i2c|spi|uart)\b|["”]/gi
/** What it is made for: volts, amperes, watts. */
const RATING = /(?:\d+(?:[.,]\d+)?\s?[-–/]\s?)?\d+(?:[.,]\d+)?\s?(?:v(?:olts?)?|m?a(?:mps?)?|w(?:atts?)?|mah)\b/gi

/**
 * Volts that no entry knows, such as those of a `12v pump`, say less than the rest, and so do words around a name, `toy` of a
 * `toy motor`.
 */
export function partHits<P extends Entry>(parts: readonly P[], name: string): ReturnType<typeof searchHits<P>> {
  const found = searchHits(parts, name)
  if (found.length > 0) return found
  const size = name.replace(SIZE, '').trim()
  const rest = size.replace(RATING, '').trim()
  const sized = size === '' || size === name ? [] : searchHits(parts, size)
  if (sized.length > 0) return sized
  const without = rest === '' || rest === name ? [] : searchHits(parts, rest)
  if (without.length > 0) return without
  const named = nameHits(parts, rest)
  return named.length > 0 ? named : typeHits(parts, name)
}

/** Breadboards and wires are no parts of a plan: the bench lays them out and counts them. */
export const BENCH =
  /^(?:\d+\s*[x×]?\s+|an?\s+|some\s+)?(?:(?:full|half|mini|solderless|big|small|jumper|dupont|hook-?up)\s+)*(?:(?:proto|bread|perf|strip)\s?boards?(?:\s+\d{2,4}(?:\s+(?:points?|holes?))?)?|wires?|dupont\s+(?:wires?|cables?)|(?:\S+\s+){0,3}(?:chassis|casters?|caster\s+wheels?|standoffs?|screws?|heat\s?shrink|enclosure|zip\s?ties|pin\s+headers?|header\s+pins?)|jumpers?|jumper\s?cables?|usb\s+(?:[abc]\s+(?:to\s+(?:micro\s+|mini\s+)?(?:usb\s+)?[abc]?\s*)?|micro\s+|mini\s+|type[- ]?c\s+|data\s+)?(?:cables?|leads?))$/i
