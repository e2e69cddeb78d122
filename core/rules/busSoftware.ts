import { rewireBus } from '../assign/rewireBus.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { busPins } from '../wiring/buses.ts'
import type { BoardInstance, Bus, Wiring } from '../wiring/model.ts'
import { isOnAnyPins, softwareBus } from '../wiring/softwareBus.ts'
import type { Rule } from './finding.ts'

export const busSoftware: Rule = {
  meta: {
    id: 'bus-software',
    severities: ['caution', 'tip'],
    about:
      'A bus on pins that no controller reaches, on a board whose programs can make it bit by bit. Says the speed that it costs. A tip where every controller of its kind is in use.',
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
        severity: isFree(wiring, bus, bus.board) ? 'caution' : 'tip',
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

/** A controller of its kind that has all its lines serves no other bus and nothing of the board. */
const isFree = (wiring: Wiring, bus: Bus, { board, facts, features }: BoardInstance): boolean =>
  board.controllers.some(
    ({ id, kind }) =>
      kind === bus.kind &&
      [...busPins(bus).keys()].every((signal) =>
        facts.pins.some(({ functions }) => functions.has(`${id}.${signal}`)),
      ) &&
      !features.some(({ controllers }) => controllers.includes(id)) &&
      !wiring.buses.some((other) => other !== bus && other.board === bus.board && other.controller === id),
  )
