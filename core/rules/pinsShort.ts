import { assign } from '../assign/assign.ts'
import { litInTurn } from '../assign/inTurn.ts'
import { helpersFor } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import { applyEdits, type Fix } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { countPins, withoutPin } from '../wiring/pinCount.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { listWords } from './shared.ts'

export const pinsShort: Rule = {
  meta: {
    id: 'pins-short',
    severities: ['fault'],
    about:
      'The board has too few pins of a kind for the parts, however they are divided. Says need, have and the ways out.',
    messages: { short: '{board} has too few pins: {ends}{more} {ends:finds/find} none.' },
    fixable: true,
  },
  check(as, report) {
    const wiring = litInTurn(as)
    for (const board of wiring.boards) {
      // Parts of which uart-count and driver-needed speak are none of this rule's business.
      const short = withoutPin(wiring, board).filter((use) => !use.facts.needs.startsWith('uart.'))
      if (short.length === 0) continue
      const { lines } = countPins(wiring, board)
      const kinds = [...new Set(short.map((use) => use.facts.needs))]
      const tight = lines.filter((line) => kinds.includes(line.id))
      const counted = tight.map((line) => `${line.title}: ${line.need} needed, ${line.have} there`)
      report({
        severity: 'fault',
        at: [board.ref, ...short.map((use) => use.end)],
        message: 'short',
        data: {
          board: board.ref,
          ends: short.slice(0, 4).map((use) => use.end),
          more: short.length > 4 ? ` and ${short.length - 4} more` : '',
        },
        why: `${counted.length > 0 ? `${counted.join('; ')}. ` : ''}${short.length === 1 ? 'It needs' : 'They need'} ${listWords(kinds.map(needWords))}, and no way of dividing the pins leaves one. An expander, another mode, a feature less or a larger board is the way out.`,
        numbers: {
          short: short.length,
          ...Object.fromEntries(tight.map((line) => [line.id, `${line.need} of ${line.have}`])),
        },
        propose: () => [
          ...board.features.filter((one) => one.pins.length > 0).flatMap((one) => withoutFeature(board, one.id)),
          ...(['more-pins', 'more-analog'] as const)
            .flatMap((one) => helpersFor(wiring.catalog, one))
            .flatMap((part) => expanderFix(wiring, board, part)),
        ],
      })
    }
  },
}

/** Adds an expander and wires it. */
function expanderFix(wiring: Wiring, board: BoardInstance, part: Part): Fix[] {
  const add = addParts(wiring.plan, wiring.catalog, part, 1, wiring.boards.length > 1 ? { on: board.ref } : {})
  const plan = applyEdits(wiring.plan, add)
  const refs = new Set(Object.keys(plan.parts).filter((ref) => !Object.hasOwn(wiring.plan.parts, ref)))
  const { edits } = assign(resolve(plan, wiring.catalog), { refs })
  return [{ title: `Add and wire one more part: ${part.title}`, edits: [...add, ...edits] }]
}
