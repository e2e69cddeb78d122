import { memo } from '../base/memo.ts'
import { parseAmount } from '../electrical/quantity.ts'
import type { Entry, EntryOption, Options } from './search.ts'
import { isType, pieces } from './words.ts'

/** Units that may stand behind an amount, and the unit of an option that they set. */
const units: Readonly<Record<string, string>> = {
  ohm: 'ohm',
  ohms: 'ohm',
  Ω: 'ohm',
  r: 'ohm',
  f: 'farad',
  a: 'milliamp',
  amp: 'milliamp',
  amps: 'milliamp',
  v: 'volt',
  volt: 'volt',
  volts: 'volt',
}

/** Resistors and capacitors are bought by their ohms and farads, nothing by its volts. */
export const isBoughtBy = ({ helper, options = [] }: Entry, chosen: Options): boolean =>
  helper !== undefined &&
  options.some(({ id, unit }) => typeof chosen[id] === 'number' && (unit === 'ohm' || unit === 'farad'))

/** Of several words that stand for an amount the larger one says more: `lipo` is a cell, `2s lipo` two of them. */
export function setByWord(options: Options, said: Options): void {
  for (const [id, value] of Object.entries(said)) {
    const known = options[id]
    if (known === undefined || (typeof known === 'number' && typeof value === 'number' && known < value))
      options[id] = value
  }
}

const valueWords = memo((one: EntryOption['values'][number]): readonly string[] => [
  String(one.value),
  ...pieces(one.title ?? ''),
])

export const isWord = ({ options = [] }: Entry, word: string): boolean =>
  options.some(({ words }) => words !== undefined && Object.hasOwn(words, word))

/** A word as an amount, and as the name of a value. */
export interface Asked {
  readonly word: string
  readonly meant: string | undefined
  readonly amount: number | undefined
  /** A letter for the package or the grade may stand behind a type number. */
  readonly type: string
}

export function askedBy(word: string): Asked {
  const [, figure = '', unit = ''] = /^(\d[\d.]*[kmunpµ]?\d*)([a-zΩ]*)$/.exec(word) ?? []
  // `4k7` are ohms, `100n` farads.
  const meant =
    units[unit] ??
    (unit !== '' ? undefined : /[km]/.test(figure) ? 'ohm' : /[nupµ]\d?$/.test(figure) ? 'farad' : undefined)
  const given =
    meant === undefined ? undefined : parseAmount(meant === 'ohm' ? figure.replace(/^(\d+)m$/, '$1M') : figure, '')
  const amount = given !== undefined && meant === 'milliamp' ? given * 1000 : given
  return { word, meant, amount, type: isType(word) ? word.replace(/(?<=\d)[a-z]{1,2}$/, '') : word }
}

/** What all the words say of the options of an entry. */
export const optionsOf = (entry: Entry, words: readonly Asked[]): Options =>
  Object.assign({}, ...words.map((word) => optionFor(entry, word)))

/** What a word says of an option: an amount with a unit or a prefix, or one of its values by name. */
export function optionFor({ options = [] }: Entry, { word, meant, amount, type }: Asked): Options | undefined {
  for (const { id, words } of options) if (words && Object.hasOwn(words, word)) return { [id]: words[word] as number }
  for (const { id, kind, unit: own, values } of options) {
    if (kind === 'amount' && own !== undefined && own === meant && amount !== undefined) return { [id]: amount }
    // `12v pump`: one of the volts that it is made for.
    if (id === 'volts' && meant === 'volt' && values.some((one) => one.value === amount))
      return { [id]: amount as number }
    const value =
      values.find((one) => valueWords(one).includes(word)) ?? values.find((one) => valueWords(one).includes(type))
    if (value && word.length >= 3) return { [id]: value.value }
  }
  return undefined
}
