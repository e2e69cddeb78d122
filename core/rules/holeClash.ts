import { entryOf } from '../base/entryOf.ts'
import { layoutOf } from '../breadboard/layout.ts'
import type { Rule } from './finding.ts'

export const holeClash: Rule = {
  meta: {
    id: 'hole-clash',
    severities: ['fault'],
    about:
      'On the bench: a place that the maker chose would put two legs into one hole, a body over another leg, or join in one row what must stay apart; or a wire is to be led over a hole that is not free for it.',
    messages: {
      clash: '{ref} cannot stand where it was put: {text}.',
      way: 'The wire of {end} cannot be led over {hole}: {text}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const { ref, hole, text, by } of layoutOf(wiring)?.clashes ?? [])
      report({
        severity: 'fault',
        at: [ref],
        message: 'clash',
        data: { ref, text },
        why: 'The five holes of a half-row are one strip of metal, and each hole takes one leg or wire. The program has found another place for it, which is not the one that you chose.',
        numbers: { hole },
        propose: () => [
          { title: `Let the program place ${ref}`, edits: [{ do: 'place', ref, place: null }] },
          ...(by !== undefined && entryOf(wiring.plan.bench?.places, by)
            ? [
                {
                  title: `Keep ${ref}, let the program place ${by}`,
                  edits: [{ do: 'place' as const, ref: by, place: null }],
                },
              ]
            : []),
        ],
      })
    for (const { end, hole, text } of layoutOf(wiring)?.refused ?? [])
      report({
        severity: 'fault',
        at: [end],
        message: 'way',
        data: { end, hole, text },
        why: 'A wire can be led over a rail that carries its own net, or over a row in which nothing else stands. The program has led it another way, which is not the one that you chose.',
        numbers: { hole },
        propose: () => [
          { title: `Let the program lead the wire of ${end}`, edits: [{ do: 'lead-over', end, hole: null }] },
        ],
      })
  },
}
