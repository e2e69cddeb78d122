import { assign } from '../assign/assign.ts'
import { type OpenEnd, openEnds } from '../assign/openEnds.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const pinUnplaced: Rule = {
  meta: {
    id: 'pin-unplaced',
    severities: ['caution'],
    about: 'A required pin of a part has no wire yet and is not marked as left open on purpose.',
    messages: { open: '{part}: {open}.' },
    lacking: ['open'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const part of wiring.parts) {
      const open = openEnds(wiring, part).filter((one) => one.required && one.why !== 'other-rule')
      if (open.length === 0) continue
      const pins = open.map((one) => one.end.slice(part.ref.length + 1))
      report({
        severity: 'caution',
        at: open.map((one) => one.end),
        message: 'open',
        data: { part: part.ref, open: words(wiring, open, part.ref) },
        why: `${open.map((one) => `${one.end.slice(part.ref.length + 1)} ${one.what}`).join('; ')}. Place ${pins.length === 1 ? 'it' : 'them'}, or mark what you leave open on purpose.`,
        numbers: { open: open.length },
        propose: (): readonly Fix[] => {
          const leave: Edit[] = open.map((one) => ({ do: 'leave-open', end: one.end }))
          const { edits } = assign(wiring, { refs: new Set([part.ref]) })
          return [
            ...(edits.length > 0 ? [{ title: `Place what is open on ${part.ref}`, edits }] : []),
            { title: `Leave ${listWords(pins)} open on purpose`, edits: leave },
          ]
        },
      })
    }
  },
}

/** What waits for a wire, and what has one that ends nowhere. */
function words(wiring: Wiring, open: readonly OpenEnd[], ref: string): string {
  const name = ({ end }: OpenEnd): string => end.slice(ref.length + 1)
  const bare = open.filter(({ end }) => !wiring.netOf(end).wired).map(name)
  const dead = open.filter(({ end }) => wiring.netOf(end).wired).map(name)
  return [
    ...(bare.length > 0 ? [`${listWords(bare)} ${bare.length === 1 ? 'has' : 'have'} no wire yet`] : []),
    ...(dead.length > 0
      ? [`${listWords(dead)} ${dead.length === 1 ? 'has a wire that leads' : 'have wires that lead'} nowhere yet`]
      : []),
  ].join(', and ')
}
