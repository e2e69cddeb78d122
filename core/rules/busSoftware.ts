import { rewireBus } from '../assign/rewireBus.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { isOnAnyPins, softwareBus } from '../wiring/softwareBus.ts'
import type { Rule } from './finding.ts'

export const busSoftware: Rule = {
  meta: {
    id: 'bus-software',
    severities: ['caution'],
    about:
      'A bus on pins that no controller reaches, on a board whose programs can make it bit by bit. Says the speed that it costs.',
    messages: { bySoftware: 'The {kind} of {parts} works by software only, up to {most}.' },
    fixable: true,
  },
  check(wiring, report) {
    for (const bus of wiring.buses) {
      const way = softwareBus(bus)
      if (!way || !bus.board || isOnAnyPins(bus)) continue
      const kind = bus.kind.toUpperCase()
      const parts = bus.parts.map((part) => part.ref)
      report({
        severity: 'caution',
        at: [bus.board.ref, ...parts],
        message: 'bySoftware',
        data: { kind, parts, most: bus.kind === 'uart' ? `${way.most} baud` : formatQuantity(way.most, 'Hz') },
        why: `No ${kind} controller of ${bus.board.ref} reaches these pins, so the program makes each bit by itself: ${way.note}. Pins of a controller do it without the program's help.`,
        numbers: { most: way.most },
        propose: () => rewireBus(wiring, bus),
      })
    }
  },
}
