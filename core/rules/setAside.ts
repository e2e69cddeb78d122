import type { Rule } from './finding.ts'

/** Pieces of a plan that the catalogue at hand does not know. */
export const setAsideRule: Rule = {
  meta: {
    id: 'set-aside',
    severities: ['fault'],
    about:
      'A piece of the plan does not fit the catalogue any more: its entry was deleted, or a pin or option is called otherwise now.',
    messages: { aside: '{what} is set aside: {because}' },
    fixable: true,
  },
  check: ({ plan }, report) => {
    for (const piece of plan.aside ?? []) {
      const what = words(piece.at, piece.value)
      report({
        severity: 'fault',
        at: placesOf(piece.at, piece.value),
        message: 'aside',
        data: { what, because: piece.because },
        why: 'The plan was made with a catalogue that knew it. It is kept in the plan as it was written, is left out of wiring, checks and sheets, and goes back to its place by itself when the catalogue knows it again.',
        numbers: {},
        propose: () => [{ title: `Take ${what} out of the plan for good`, edits: [{ do: 'forget-aside', piece }] }],
      })
    }
  },
}

function words(at: readonly string[], value: unknown): string {
  const [section, ref = '', ...keys] = at
  if (section === 'wires' && Array.isArray(value)) return `The wire ${String(value[0])} to ${String(value[1])}`
  if (section === 'unused') return `The note that ${String(value)} stays open`
  if (section === 'own') return `The own entry ${keys[0] ?? ''}`
  if (section === 'bench') return `The place of ${keys[0] ?? ref} on the bench`
  if (keys.length === 0) return section === 'boards' ? `The board ${ref}` : `The part ${ref}`
  return `${keys.at(-1) ?? ''} of ${ref}`
}

/** What the finding is about: a reference, or the ends of a wire. */
function placesOf(at: readonly string[], value: unknown): string[] {
  const [section, ref = '', third] = at
  if (section === 'wires' && Array.isArray(value)) return [String(value[0]), String(value[1])]
  if (section === 'unused') return [String(value)]
  return [section === 'own' || section === 'bench' ? (third ?? ref) : ref]
}
