/** Words that say nothing of what is meant, so that an entry need not have them. */
const fillers = new Set(
  'a an and the of for to with my some any sensor module board breakout chip ic part component type piece small little tiny large cheap simple plain normal mini clip snap holder kit set pcs inch regular standard generic spare scanner meter'.split(
    ' ',
  ),
)

/** Words that are written in two ways, in the way of the catalogue. */
const spellings: Readonly<Record<string, string>> = { color: 'colour', colors: 'colours', gray: 'grey' }

/** Words of a text, an amount and its unit as one. */
export const wordsOf = (typed: string): string[] =>
  typed
    .trim()
    .replace(/(\d)\s+([kmunpµ]?(?:ohms?|Ω|f|v|volts?|a|amps?))(?=\s|$)/gi, '$1$2')
    .replace(/(\d)\s*[x×]\s*(a{2,3}|18650)s?\b/gi, '$1x$2')
    .replace(/(\d)\s+(a{2,3})s?\b/gi, '$1x$2')
    .toLowerCase()
    .replaceAll('ω', 'Ω')
    .split(/[\s,]+/)
    .filter((word) => word !== '')
    .map((word) => spellings[word] ?? word)

/** A word, and what it may be the plural of. */
export const formsOf = (word: string): string[] =>
  /^[a-z-]{4,}s$/.test(word)
    ? [word, word.slice(0, -1), ...(word.endsWith('es') ? [word.slice(0, -2)] : []), word.replace(/ies$/, 'y')]
    : [word]

/** `sensor`, `sensors`. */
export const isFiller = (word: string): boolean => formsOf(word).some((form) => fillers.has(form))

/** A type number: letters and digits that name one thing and no other. */
export const isType = (word: string): boolean =>
  word.length >= 4 && /\d/.test(word) && !/^\d+(?:[.]\d+)?[a-z]$/.test(word)

/** A text without its blanks and marks: `hc-sr04` and `hcsr04` are one. */
export const bare = (text: string): string => text.toLowerCase().replace(/[^a-z0-9µ.+]/g, '')

export const pieces = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^a-z0-9µ.+]+/)
    .filter((piece) => piece !== '')
