import { rewire } from '../assign/rewire.ts'
import { type Circuit, circuitOf, type Element, railOf } from '../circuit/circuit.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, Net } from '../wiring/model.ts'
import { drives, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { lacksDirection } from './pinFunction.ts'

export const pinDirection: Rule = {
  meta: {
    id: 'pin-direction',
    severities: ['fault'],
    about: 'A pin that can only read is asked to drive, or one that can only drive is asked to read.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    for (const lamp of circuit.elements) {
      // From a supply to a pin, whatever signal the lamp declares: the pin has to drive.
      if (!lamp.lights || !railOf(lamp.netA)?.source) continue
      const host = hostBehind(circuit, lamp)
      if (!host || host.functions.has('digital-out')) continue
      report({
        severity: 'fault',
        at: [lamp.b, host.end, lamp.part.ref],
        message: `${lamp.part.ref} is switched by ${host.end}, which is input only.`,
        why: `${host.end} has no output stage at all: it cannot pull the lamp to ground, so that the lamp stays dark.`,
        numbers: {},
      })
    }
    for (const use of wiring.signals) {
      const bus = busNeed(use.facts.needs)
      // Of the shared lines of a bus, bus-pins speaks as a whole.
      if (bus && bus.signal !== 'cs') continue
      for (const { host } of use.hosts) {
        if (meets(host, use) || !lacksDirection(host.functions, use.facts.needs)) continue
        const out = drives(use.facts.needs)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: `${use.end} needs ${needWords(use.facts.needs)}, and ${host.end} is ${out ? 'input' : 'output'} only.`,
          why: out
            ? `${host.end} has no output stage at all: the chip can read it but never put out a level. Nothing breaks, but nothing will move either.`
            : `${host.end} cannot be read back: the chip only drives it. What ${use.end} says would go unheard.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}

/** The board pin at the cathode of a lamp, a resistor in between or not. */
function hostBehind(circuit: Circuit, lamp: Element): Host | undefined {
  const hostAt = (net: Net): Host | undefined => circuit.at(net).find((port) => port.host?.board)?.host
  const through = circuit
    .on(lamp.netB)
    .filter((one) => one.kind === 'resistor')
    .map((one) => hostAt(one.netA === lamp.netB ? one.netB : one.netA))
  return hostAt(lamp.netB) ?? through.find((host) => host !== undefined)
}
