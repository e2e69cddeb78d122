import { listWords } from './shared.ts'

/** What a message is filled with: names, figures, or several names. */
export type MessageData = Readonly<Record<string, string | number | readonly string[] | undefined>>

/** Messages of a rule by id. `{name}` is a place for data, `{name:is/are}` one of two words by how many `name` are. */
export type Messages = Readonly<Record<string, string>>

/**
 * Fills a message with its data; several names become a list, `a, b and c`.
 * @throws Error for a place without data: a mistake in a rule.
 */
export function fillMessage(template: string, data: MessageData = {}): string {
  return template.replaceAll(
    /\{(\w+)(?::([^/}]*)\/([^}]*))?\}/g,
    (place, name: string, one?: string, many?: string) => {
      const value = data[name]
      if (value === undefined) throw new Error(`nothing to fill ${place} with in “${template}”`)
      if (one !== undefined && many !== undefined)
        return (typeof value === 'object' ? value.length : Number(value)) === 1 ? one : many
      return typeof value === 'object' ? listWords(value) : String(value)
    },
  )
}
