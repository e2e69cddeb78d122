import { circuitOf } from '../circuit/circuit.ts'
import type { Rule } from './finding.ts'

export const diodeAcross: Rule = {
  meta: {
    id: 'diode-across',
    severities: ['fault'],
    about: 'A diode lies across a load on a bridge, where the voltage turns round: one way it shorts the outputs.',
    messages: { across: '{part} lies across {load}, which a bridge drives both ways: one way it is a short circuit.' },
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    const bridges = new Set(
      circuit.channels
        .filter((channel) => channel.facts.supply !== undefined)
        .map((channel) => wiring.netOf(channel.output)),
    )
    for (const diode of circuit.elements) {
      if (diode.kind !== 'diode' || diode.lights || diode.netA === diode.netB) continue
      if (diode.part.part.build !== 'component' || !bridges.has(diode.netA) || !bridges.has(diode.netB)) continue
      const load = circuit
        .on(diode.netA)
        .find((one) => one.kind === 'winding' && (one.netA === diode.netB || one.netB === diode.netB))
      report({
        severity: 'fault',
        at: [diode.a, diode.b, ...(load ? [load.part.ref] : [])],
        message: 'across',
        data: { part: diode.part.ref, load: load ? load.part.ref : 'two outputs' },
        why: 'A diode across a winding belongs where the current is only ever switched off. Between two halves of a bridge the voltage turns round, and in one direction the diode carries all that the bridge can give. The bridge has diodes of its own.',
        numbers: {},
        propose: () => [{ title: `Take ${diode.part.ref} out`, edits: [{ do: 'remove', ref: diode.part.ref }] }],
      })
    }
  },
}
