import { rewire } from '../assign/rewire.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Bus, SignalUse } from '../wiring/model.ts'
import { collides, type Way } from '../wiring/takes.ts'
import type { Rule } from './finding.ts'
import { usesByHost } from './shared.ts'

export const controllerTakes: Rule = {
  meta: {
    id: 'controller-takes',
    severities: ['caution'],
    about:
      'A bus controller in use forces the direction of a pin that its bus leaves free, and something else hangs on that pin.',
    messages: { takes: '{signal} is on {pin}, which {controller} {does} while {parts} is in use.' },
    fixable: true,
  },
  check(wiring, report) {
    for (const bus of wiring.buses) {
      const { board } = bus
      const controller = board?.board.controllers.find((one) => one.id === bus.controller)
      if (!board || !controller?.takes) continue
      for (const [signal, way] of Object.entries(controller.takes))
        for (const pin of controller.pins?.[signal] ?? []) {
          const host = wiring.terminal(`${board.ref}.${pin}`)?.host
          for (const use of (host && usesByHost(wiring).get(host)) ?? []) {
            if (!host || belongs(use, bus) || !collides(way, use)) continue
            report({
              severity: 'caution',
              at: [use.end, host.end],
              message: 'takes',
              data: {
                signal: use.end,
                pin: host.end,
                controller: controller.title,
                does: words[way],
                parts: bus.parts.map((part) => part.ref).join(', '),
              },
              why: `${reasons[way]} This holds when the program uses the controller itself (${controller.title}, ${signal.toUpperCase()}), as most libraries do, and not when it makes the bus by hand.`,
              numbers: {},
              propose: () => rewire(wiring, use),
            })
          }
        }
    }
  },
}

const words: Readonly<Record<Way, string>> = {
  in: 'makes an input',
  out: 'needs as an output',
  whole: 'drives itself',
}

const reasons: Readonly<Record<Way, string>> = {
  in: 'The controller makes this pin an input for as long as it is switched on, so nothing can be put out on it, also where the bus does not read anything.',
  out: 'As an input this pin tells the controller that another one leads the bus: a low level on it stops the transfer.',
  whole: 'The controller drives this pin for as long as it is switched on, also where the bus does not need it.',
}

/** Signals of the bus itself; a select may lie on any pin, so on a taken one it is a stranger too, but for its own place. */
const belongs = (use: SignalUse, bus: Bus): boolean =>
  bus.uses.includes(use) && busNeed(use.facts.needs)?.signal !== 'cs'
