import { rewire } from '../assign/rewire.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Rule } from './finding.ts'
import { listWords, usesByHost } from './shared.ts'

export const interruptLine: Rule = {
  meta: {
    id: 'interrupt-line',
    severities: ['fault', 'caution'],
    about:
      'Two edge interrupts on pins that share one interrupt line of the chip. A caution where all but one can be polled instead.',
    messages: { shared: '{names} share the interrupt line {line} of {board}.' },
    fixable: true,
  },
  check(wiring, report) {
    const uses = [...usesByHost(wiring)].flatMap(([host, all]) =>
      all
        .filter((use) => use.facts.needs === 'interrupt' && !busNeed(use.facts.needs) && host.board)
        .map((use) => ({ host, use })),
    )
    for (const board of wiring.boards)
      for (const line of board.board.interruptLines) {
        const on = uses.filter(({ host }) => host.board === board && line.pins.includes(host.pin))
        if (new Set(on.map(({ host }) => host)).size < 2) continue
        const strict = on.filter(({ use }) => use.facts.orElse === undefined)
        const names = listWords(on.map(({ use, host }) => `${use.end} on ${host.end}`))
        report({
          severity: strict.length > 1 ? 'fault' : 'caution',
          at: on.flatMap(({ use, host }) => [use.end, host.end]),
          message: 'shared',
          data: { names, line: line.id, board: board.ref },
          why: `The chip has one line ${line.id} for ${line.pins.length} pins and listens to one of them at a time. ${strict.length > 1 ? 'The other never gets through.' : 'All but one must be asked in turn by the program instead.'}`,
          numbers: { signals: on.length, lines: 1 },
          propose: () => on.flatMap(({ use }) => rewire(wiring, use)).slice(0, 4),
        })
      }
  },
}
