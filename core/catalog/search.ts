import { editDistance, normaliseName } from './names.ts'

interface Entry {
  readonly id: string
  readonly title: string
  readonly keywords: readonly string[]
  readonly summary?: string
  readonly usual?: boolean
}

/** Entries that a few typed words mean, best first; slips of one or two letters are forgiven. */
export function searchCatalog<T extends Entry>(entries: Iterable<T>, typed: string): T[] {
  const words = typed
    .toLowerCase()
    .split(/[\s,]+/)
    .filter((word) => word !== '')
  if (words.length === 0) return [...entries]
  const scored: { entry: T; score: number }[] = []
  for (const entry of entries) {
    let score = 0
    for (const word of words) {
      const one = wordScore(entry, word)
      if (one === 0) {
        score = 0
        break
      }
      score += one
    }
    if (score > 0)
      scored.push({ entry, score: score + phraseScore(entry, typed.trim().toLowerCase()) + (entry.usual ? 25 : 0) })
  }
  return scored.sort((a, b) => b.score - a.score || (a.entry.id < b.entry.id ? -1 : 1)).map(({ entry }) => entry)
}

const pieces = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^a-z0-9µ.+]+/)
    .filter((piece) => piece !== '')

function phraseScore(entry: Entry, typed: string): number {
  const same = normaliseName(typed)
  if (normaliseName(entry.id) === same) return 100
  return entry.keywords.some((keyword) => normaliseName(keyword) === same)
    ? 30 + 10 / (1 + entry.keywords.findIndex((keyword) => normaliseName(keyword) === same))
    : 0
}

/** How well one word fits: the id counts most, then title, keywords and summary; a prefix less than the whole. */
function wordScore(entry: Entry, word: string): number {
  const places: [string[], number][] = [
    [[entry.id, ...pieces(entry.id)], 40],
    [pieces(entry.title), 22],
    [entry.keywords.flatMap((keyword) => [keyword.toLowerCase(), ...pieces(keyword)]), 20],
    [pieces(entry.summary ?? ''), 4],
  ]
  let best = 0
  for (const [texts, weight] of places)
    for (const text of texts) {
      if (text === word) best = Math.max(best, weight)
      else if (text.startsWith(word)) best = Math.max(best, weight * 0.7)
      else if (word.length >= 3 && text.includes(word)) best = Math.max(best, weight * 0.4)
      else if (word.length >= 4 && Math.abs(text.length - word.length) <= 2) {
        const distance = editDistance(word, text)
        if (distance <= (word.length >= 7 ? 2 : 1)) best = Math.max(best, weight * (0.5 - 0.15 * distance))
      }
    }
  return best
}

/** One item of quick entry. */
export interface QuickItem<T> {
  readonly text: string
  readonly count: number
  readonly entry: T | undefined
  readonly others: readonly T[]
}

/** Most parts of one kind that one entry may add. */
export const MOST_AT_ONCE = 40

/** Reads quick entry such as `2 bme280, oled, lora`: amounts, names and commas. */
export function readQuickEntry<T extends Entry>(entries: readonly T[], typed: string): QuickItem<T>[] {
  return typed
    .split(/[,;\n]+/)
    .map((text) => text.trim())
    .filter((text) => text !== '')
    .map((text) => {
      const found = /^(?:(\d{1,3})\s*[x×*]?\s+)?(.+?)(?:\s+[x×*]\s*(\d{1,3}))?$/.exec(text)
      const count = Math.min(MOST_AT_ONCE, Math.max(1, Number(found?.[1] ?? found?.[3] ?? 1)))
      const [entry, ...others] = searchCatalog(entries, found?.[2] ?? text)
      return { text, count, entry, others: others.slice(0, 4) }
    })
}
