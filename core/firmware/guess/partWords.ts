import { entryOf } from '../../base/entryOf.ts'
import { memo } from '../../base/memo.ts'
import type { Catalog } from '../../catalog/catalog.ts'
import type { Part } from '../../catalog/partSchema.ts'
import { wordsOf } from '../source/nameMatch.ts'

/** What classes of libraries are called after, where it is not the part: the word by which the catalogue knows it. */
const libraryWords: Readonly<Record<string, string>> = {
  newping: 'ultrasonic',
  liquidcrystal: 'hd44780',
  liquidcrystali2c: 'i2c lcd',
  dallastemperature: 'ds18b20',
  onewire: 'ds18b20',
  irrecv: 'remote',
  irreceiver: 'remote',
  rf24: 'nrf24',
  crgb: 'neopixel',
  fastled: 'neopixel',
  mfrc522: 'rfid',
  tinygps: 'gps',
  tinygpsplus: 'gps',
  accelstepper: 'stepper driver',
  bounce: 'button',
  onebutton: 'button',
  softwareserial: 'serial',
  motionsensor: 'motion',
  distancesensor: 'ultrasonic',
  lightsensor: 'light',
  tone: 'piezo',
  set_servo_pulsewidth: 'servo',
  incrementalencoder: 'encoder',
}

/** Words of classes and modules that tell nothing of what is behind them. */
const empty = new Set(
  'digital analog output input device object smoothed simple basic library lib board bus sensor module machine read write main com'.split(
    ' ',
  ),
)
/** Words of two letters that name a part; others are abbreviations of everything. */
const short = new Set('ir sd uv ph'.split(' '))
const tells = (word: string): boolean => (word.length > 2 || short.has(word)) && !empty.has(word)

const singular = (word: string): string => (/^[a-z]{4,}s$/.test(word) ? word.slice(0, -1) : word)

/**
 * A name of a program in words of every form in which the catalogue may have them: `Panel_SSD1306` gives `ssd1306`,
 * `potPin` gives `potentiometer`, `hcsr04` stays one.
 */
export function nameWords(name: string): string[] {
  const pieces = name
    .replace(/\[\d+\]/g, ' ')
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((piece) => piece !== '')
  const whole = pieces.join('')
  const also = entryOf(libraryWords, whole) ?? ''
  const numbered = pieces.map((piece) => piece.replace(/^([a-z]{3,})\d{1,2}$/, '$1'))
  return [...new Set([whole, ...pieces, ...numbered, ...wordsOf(name), ...also.split(' ').flatMap(partTokens)])]
    .map(singular)
    .filter(tells)
}

/** A word of the catalogue in the forms in which names have it. */
const partTokens = (text: string): string[] => {
  const pieces = text
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((piece) => piece !== '')
  return [pieces.join(''), ...pieces, ...wordsOf(text)].map(singular).filter(tells)
}

/** A type number names one thing. */
const isType = (word: string): boolean => word.length >= 4 && /[a-z]/.test(word) && /\d/.test(word)

/** Words of the catalogue, each with the parts that are called so and how much it tells of each. */
const vocabulary = memo((catalog: Catalog): ReadonlyMap<string, ReadonlyMap<Part, number>> => {
  const words = new Map<string, Map<Part, number>>()
  for (const part of catalog.parts.values()) {
    const add = (text: string, worth: number): void => {
      for (const word of partTokens(text)) {
        const parts = words.get(word) ?? new Map<Part, number>()
        parts.set(part, Math.max(worth, parts.get(part) ?? 0))
        words.set(word, parts)
      }
    }
    add(part.id, 1)
    add(part.stem, 0.8)
    for (const keyword of part.keywords) add(keyword, 0.8)
    add(part.title, 0.5)
    // What comes in red and green is called so.
    for (const { values } of part.options)
      for (const { value } of values) if (typeof value === 'string') add(value, 0.6)
  }
  // What many are called tells little of each.
  for (const [word, parts] of words) {
    const rare = isType(word) ? 3 : 1 / Math.sqrt(Math.sqrt(parts.size))
    for (const [part, worth] of parts) parts.set(part, worth * rare)
  }
  return words
})

/** The word under which the catalogue knows what a call of a platform is for: `tone`; undefined for one that tells nothing. */
export const wordOfCall = (call: string): string | undefined => entryOf(libraryWords, call.toLowerCase())

/** How well each part of the catalogue answers to the words of a name; only those that do. */
export function partsCalled(catalog: Catalog, name: string): Map<Part, number> {
  const found = new Map<Part, number>()
  for (const word of new Set(nameWords(name)))
    for (const [part, worth] of vocabulary(catalog).get(word) ?? []) found.set(part, (found.get(part) ?? 0) + worth)
  return found
}
