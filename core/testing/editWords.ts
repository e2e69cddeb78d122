import type { Edit } from '../plan/edit.ts'

/** An edit in one line, for a record. */
export function editWords(edit: Edit): string {
  const { do: what, ...rest } = edit
  return `${what} ${Object.values(rest)
    .map((one) => (typeof one === 'string' ? one : JSON.stringify(one)))
    .join(' ')}`
}
