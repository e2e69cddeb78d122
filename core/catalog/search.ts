import { memo } from '../base/memo.ts'
import { askedBy, isBoughtBy, isWord, optionFor, optionsOf, setByWord } from './askedOptions.ts'
import { editDistance } from './names.ts'
import { bare, formsOf, isFiller, isType, pieces, wordsOf } from './words.ts'

export interface EntryOption {
  readonly id: string
  readonly kind?: string
  readonly unit?: string | undefined
  readonly words?: Readonly<Record<string, number>> | undefined
  readonly values: readonly { readonly value: string | number; readonly title?: string | undefined }[]
}

export interface Entry {
  readonly id: string
  readonly title: string
  readonly keywords: readonly string[]
  readonly summary?: string
  readonly usual?: boolean
  /** What it is for when another part needs one, as a resistor is. */
  readonly helper?: string | undefined
  readonly options?: readonly EntryOption[]
}

export type Options = Record<string, string | number>

/** An entry with what the words say of its options: `red led`, `330 ohm resistor`. */
export interface Hit<T> {
  readonly entry: T
  readonly score: number
  readonly options: Options
}

/** Words after which it is said what comes along, or what it is for. */
const ALONG = new Set('with without incl including from in on at as plus by like via'.split(' '))
/** Entries that a few typed words mean, best first. Slips of a letter are forgiven in words, never in type numbers. */
export const searchCatalog = <T extends Entry>(entries: Iterable<T>, typed: string): T[] =>
  searchHits(entries, typed).map(({ entry }) => entry)

/** The same with how well each fits, and what the words say of its options. */
export const searchHits = <T extends Entry>(entries: Iterable<T>, typed: string): Hit<T>[] =>
  hits(entries, typed, false)

/**
 * Entries one of whose names stands in a text behind words that name nothing: `toy motor`, `robot car wheels`. The longest
 * name says most; a type number that no entry has is none of those words, and what stands behind a name makes another
 * thing of it (`motor shield`), unless it tells what comes along (`motor with encoder`).
 */
export function nameHits<T extends Entry>(entries: Iterable<T>, typed: string): Hit<T>[] {
  const words = wordsOf(typed).map(askedBy)
  const along = words.findIndex(({ word }, at) => at > 0 && ALONG.has(word))
  const runs: { readonly names: ReadonlySet<string>; readonly from: number; readonly to: number }[] = []
  for (let from = 0; from < (along < 0 ? words.length : along); from += 1)
    for (let to = words.length; to > from; to -= 1) {
      const run = words.slice(from, to).map(({ word }) => word)
      runs.push({ names: namesOf(run.join(' ')), from, to })
    }
  const found: Hit<T>[] = []
  for (const entry of entries) {
    let longest = 0
    for (const { names, from, to } of runs) {
      if (to - from <= longest || nameScore(entry, names) === 0) continue
      const rest = words.filter((_, at) => at < from || at >= to)
      if (rest.some((one) => /\d/.test(one.word) && !optionFor(entry, one))) continue
      const next = words
        .slice(to)
        .find((one) => ALONG.has(one.word) || !(isFiller(one.word) || optionFor(entry, one)))?.word
      if (next !== undefined && !ALONG.has(next)) continue
      longest = to - from
    }
    if (longest > 0)
      found.push({ entry, options: optionsOf(entry, words), score: 12 * longest + (entry.usual ? 5 : 0) })
  }
  return found.sort((a, b) => b.score - a.score || (a.entry.id < b.entry.id ? -1 : 1))
}

/**
 * Entries whose type number stands in a text: what else is said describes it, as in `L298N dual H-bridge`. What is only
 * made for it is none (`A4988 shield`).
 */
export function typeHits<T extends Entry>(entries: Iterable<T>, typed: string): Hit<T>[] {
  const words = wordsOf(typed)
  if (words.some((word) => FOR_ANOTHER.test(word))) return []
  const asked = words.map(askedBy)
  // Neither a size, `128x64`, nor a frequency says by itself which chip it is.
  const types = words.filter((word) => isType(word) && /[a-z]/.test(word) && !/^\d+x\d+$|hz$/.test(word)).map(namesOf)
  const found: Hit<T>[] = []
  for (const entry of entries) {
    const score = types.map((names) => nameScore(entry, names)).find((one) => one > 0)
    if (score !== undefined)
      found.push({ entry, options: optionsOf(entry, asked), score: score + (entry.usual ? 5 : 0) })
  }
  return found.sort((a, b) => b.score - a.score || (a.entry.id < b.entry.id ? -1 : 1))
}

/** What is sold for a thing, and is not the thing. */
const FOR_ANOTHER = /^(?:shields?|adapters?|holders?|cases?|cables?|sockets?|hats?|carriers?|programmers?|heatsinks?)$/

/** True when a text is the id or a keyword of an entry, whatever its blanks and marks. */
export const isNamed = (entry: Entry, typed: string): boolean =>
  nameScore(entry, namesOf(typed.toLowerCase().trim())) > 0

/** Entries that come near to what was typed, where nothing answers to it: other type numbers, words that are alike. */
export function suggestCatalog<T extends Entry>(entries: Iterable<T>, typed: string): T[] {
  const all = [...entries]
  const near = hits(all, typed, true)
  if (near.length > 0) return near.map(({ entry }) => entry)
  // Of several words those that say something by themselves.
  const words = wordsOf(typed).filter((word) => !isFiller(word))
  return words.length < 2 ? [] : [...new Set(words.flatMap((word) => hits(all, word, true).map(({ entry }) => entry)))]
}

function hits<T extends Entry>(entries: Iterable<T>, typed: string, loose: boolean): Hit<T>[] {
  const all = wordsOf(typed)
  if (all.length === 0) return [...entries].map((entry) => ({ entry, score: 0, options: {} }))
  const telling = all.filter((word) => !isFiller(word))
  const words = (telling.length > 0 ? telling : all).map((word) => ({
    word,
    asked: askedBy(word),
    forms: formsOf(word).map(formOf),
    type: isType(word),
  }))
  const fillers = all.filter(isFiller).map(formOf)
  const said = namesOf(all.join(' '))
  const found: Hit<T>[] = []
  for (const entry of entries) {
    const options: Options = {}
    let score = 0
    let named = 0
    for (const { word, asked, forms, type } of words) {
      let text = 0
      for (const form of forms) text = Math.max(text, wordScore(entry, form, loose))
      const chosen = optionFor(entry, asked)
      if (chosen && isWord(entry, word)) setByWord(options, chosen)
      // Volts that are written count more than those that a word stands for.
      else if (chosen) Object.assign(options, chosen)
      if (text === 0 && !chosen) {
        score = 0
        break
      }
      // So does the type number of a model.
      if (text > 0 || (chosen && type)) named += 1
      // By its amount alone a resistor is asked for, and not what only has one among other things.
      const bought = chosen !== undefined && isBoughtBy(entry, chosen)
      score += Math.max(text, bought ? 60 : chosen ? 12 : 0)
    }
    // A colour names no part; an amount alone does, of what is bought by it.
    if (score === 0 || (named === 0 && !isBoughtBy(entry, options))) continue
    for (const filler of fillers) score += wordScore(entry, filler, false) / 10
    found.push({ entry, options, score: score + nameScore(entry, said) + (entry.usual ? 25 : 0) })
  }
  return found.sort((a, b) => b.score - a.score || (a.entry.id < b.entry.id ? -1 : 1))
}

/** Id and keywords without blanks and marks, in their order. */
const phrases = memo((entry: Entry): readonly string[] => [entry.id, ...entry.keywords].map(bare))

/** What a text names by itself, as one or as several of it. */
const namesOf = (typed: string): ReadonlySet<string> =>
  new Set((typed.includes(' ') ? [typed, typed.replace(/s$/, '')] : formsOf(typed)).map(bare))

/** How well an entry is named, by its id best; 0 when it is not. */
function nameScore(entry: Entry, same: ReadonlySet<string>): number {
  const names = phrases(entry)
  if (same.has(names[0] as string)) return 100
  const at = names.slice(1).findIndex((name) => same.has(name))
  return at < 0 ? 0 : 30 + 40 / (1 + at)
}

/** What a word of a summary counts. */
const SENTENCE = 4

/** Texts of an entry by what a word in them counts: the id most, then title, keywords and summary. */
type Places = readonly (Form & { readonly weight: number })[]

/** A text with what is asked of it again and again. */
interface Form {
  readonly text: string
  readonly letters: number
  readonly type: boolean
}

const formOf = (text: string): Form => ({ text, letters: lettersOf(text), type: isType(text) })

const placesOf = memo((entry: Entry): Places => {
  const list: readonly [readonly string[], number][] = [
    [[entry.id, bare(entry.id), ...pieces(entry.id)], 40],
    [pieces(entry.title), 22],
    [entry.keywords.flatMap((keyword) => [keyword.toLowerCase(), bare(keyword), ...pieces(keyword)]), 20],
    [pieces(entry.summary ?? ''), SENTENCE],
  ]
  // Written out: objects that are spread and then get one more property are read a hundred times slower by Node.js 20.
  return list.flatMap(([texts, weight]) =>
    [...new Set(texts)].map((text) => ({ text, letters: lettersOf(text), type: isType(text), weight })),
  )
})

/** How well one word fits: a prefix less than the whole. */
function wordScore(entry: Entry, word: Form, loose: boolean): number {
  let best = 0
  for (const place of placesOf(entry)) {
    if (place.weight <= best) continue
    best = Math.max(best, place.weight * likeness(place, word, loose, best / place.weight))
  }
  return best
}

/** Which letters and digits stand in a text, a bit for each kind; digits share a few. */
function lettersOf(text: string): number {
  let bits = 0
  for (let at = 0; at < text.length; at += 1) bits |= 1 << (text.charCodeAt(at) & 31)
  return bits
}

function bitCount(bits: number): number {
  let count = 0
  for (let left = bits; left !== 0; left &= left - 1) count += 1
  return count
}

/** How like a text is to a word, from 0 to 1; `enough` is what has been found already. */
function likeness(
  { text, letters, weight, type: isOfType }: Places[number],
  { text: word, letters: wordLetters, type }: Form,
  loose: boolean,
  enough: number,
): number {
  // A text lacks no letter of a word that stands in it.
  if ((wordLetters & ~letters) === 0) {
    if (text === word) return 1
    // Three letters begin too many words of a sentence.
    if (text.startsWith(word) && (word.length > 3 || weight > SENTENCE)) return 0.7
    if (
      (word.length >= 4 || /^\d{3}$/.test(word)) &&
      text.includes(word) &&
      (!/\d/.test(word) || !/[a-z]/.test(word) || type) &&
      (!type || /^\d+$/.test(word))
    )
      return 0.4
  }
  // A letter for the package or the grade may stand behind a type number.
  if (type && isOfType && word.startsWith(text) && /^[a-z]{1,2}$/.test(word.slice(text.length))) return 0.3
  if (enough >= 0.35 || (type && !loose) || word.length < 4 || Math.abs(text.length - word.length) > 2) return 0
  const most = word.length >= 7 || (type && loose) ? 2 : 1
  // One change takes a letter out of the set, puts one in, or both.
  if (bitCount(letters ^ wordLetters) > 2 * most) return 0
  const distance = editDistance(word, text, most)
  return distance <= most ? 0.5 - 0.15 * distance : 0
}
