import { busNeed } from '../wiring/buses.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { listWords } from './shared.ts'

export const uartCount: Rule = {
  meta: {
    id: 'uart-count',
    severities: ['fault'],
    about: 'More parts need a UART of their own than the board has left, those made by software counted.',
    messages: {
      tooMany: '{names} {names:needs a UART/need UARTs} of {names:its/their} own, and {board} has {have} left.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const board of wiring.boards) {
      const parts = [
        ...new Set(
          wiring.signals
            .filter(
              (use) =>
                use.part.home === board &&
                use.facts.required &&
                use.state !== 'unused' &&
                use.state !== 'joined' &&
                busNeed(use.facts.needs)?.kind === 'uart' &&
                !use.hosts.some(({ host }) => host.provider),
            )
            .map((use) => use.part),
        ),
      ]
      const all = board.board.controllers.filter((one) => one.kind === 'uart')
      const takers = board.features.filter((feature) => all.some((one) => feature.controllers.includes(one.id)))
      const free = all.filter((one) => !takers.some((feature) => feature.controllers.includes(one.id)))
      const bridges = wiring.parts
        .filter((part) => part.home === board)
        .flatMap((part) => part.part.controllers.filter((one) => one.kind === 'uart')).length
      const software = board.board.software.some((one) => one.kind === 'uart') ? 1 : 0
      const have = free.length + bridges + software
      if (parts.length <= have) continue
      const names = parts.map((part) => part.ref)
      report({
        severity: 'fault',
        at: [board.ref, ...parts.map((part) => part.ref)],
        message: 'tooMany',
        data: { names, board: board.ref, have },
        why: `A UART joins two parties and cannot be shared. ${board.ref} has ${all.length} of them${takers.length > 0 ? `, of which ${listWords(takers.map((one) => one.title))} ${takers.length === 1 ? 'takes' : 'take'} ${all.length - free.length}` : ''}${software > 0 ? '; one more can be made by software, slowly' : ''}. A serial bridge on the I2C bus or a board with more UARTs is the way out.`,
        numbers: { need: parts.length, have },
        propose: () => takers.flatMap((feature) => withoutFeature(board, feature.id)),
      })
    }
  },
}
