import type { Value } from './values.ts'

/** Most values that one expression may have by branches. */
export const MOST_OPTIONS = 12
/** Most steps in all: far above any sketch, and a few tenths of a second. */
export const MOST_STEPS = 200_000
/** Most turns of a counted loop that are followed one by one, and most items of a list. */
export const MOST_TURNS = 128

/** A value that cannot be followed, and why. */
export const unknown = (why: string): Value => ({ is: 'unknown', why, via: [] })

/** A value that got one more name; an object keeps the first that it got, items of a list are told by their number. */
export function named(value: Value, name: string): Value {
  if (value.is === 'object') {
    value.made.name ??= name
    return value
  }
  if (value.is === 'list')
    return {
      ...value,
      items: value.items.map((item, at) => (item.is === 'list' ? item : named(item, `${name}[${at}]`))),
    }
  if (value.is === 'either') return { ...value, options: value.options.map((one) => named(one, name)) }
  return value.via.includes(name) ? value : ({ ...value, via: [...value.via, name] } as Value)
}

/** A value as the key of a map; undefined for what is no plain text or number. */
export const keyOf = (value: Value): string | undefined =>
  value.is === 'text' ? value.text : value.is === 'number' ? String(value.number) : undefined

/** One of several values: the value itself where all are the same. */
export function either(values: readonly Value[]): Value {
  const flat = values.flatMap((one) => (one.is === 'either' ? one.options : [one]))
  const seen = new Map<string, Value>()
  for (const one of flat) {
    const key =
      one.is === 'number'
        ? `n${one.number}`
        : one.is === 'symbol'
          ? `s${one.path}`
          : one.is === 'text'
            ? `t${one.text}`
            : one.is === 'unknown'
              ? 'unknown'
              : `o${seen.size} ${one.is}`
    if (!seen.has(key)) seen.set(key, one)
  }
  const options = [...seen.values()]
  const [only] = options
  if (options.length === 1 && only) return only
  if (options.length === 0 || options.length > MOST_OPTIONS) return unknown('a value with many ways')
  return { is: 'either', options, via: [] }
}
