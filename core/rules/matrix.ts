import { circuitOf, type Element } from '../circuit/circuit.ts'
import type { Host, Net } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { swapWires } from './mend.ts'

/** Fewest keys with a diode that make a matrix: of fewer nobody can say which way is meant. */
const LEAST = 3

interface Key {
  readonly contact: Element
  readonly diode: Element
  /** Pins at the diode's anode side and at its cathode side. */
  readonly from: Host
  readonly to: Host
}

export const matrixRule: Rule = {
  meta: {
    id: 'matrix',
    severities: ['fault'],
    about: 'A key of a matrix has its diode the other way round than the others of its rows and columns.',
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    const hostOf = (net: Net): Host | undefined => circuit.at(net).find((port) => port.host?.board)?.host
    const keys: Key[] = []
    for (const contact of circuit.elements) {
      if (contact.kind !== 'contact') continue
      for (const [inner, outer] of [
        [contact.netA, contact.netB],
        [contact.netB, contact.netA],
      ] as const) {
        // The diode stands alone between the key and its line.
        const others = circuit.on(inner).filter((one) => one !== contact)
        const [diode] = others
        if (others.length !== 1 || diode?.kind !== 'diode' || diode.lights || hostOf(inner)) continue
        const near = hostOf(outer)
        const far = hostOf(diode.netA === inner ? diode.netB : diode.netA)
        if (!near || !far || near === far) continue
        keys.push(
          diode.netA === inner ? { contact, diode, from: near, to: far } : { contact, diode, from: far, to: near },
        )
      }
    }
    if (keys.length < LEAST) return
    // A line that most of its diodes lead away from is driven; one that they lead to is read.
    const lean = new Map<Host, number>()
    for (const { from, to } of keys) {
      lean.set(from, (lean.get(from) ?? 0) + 1)
      lean.set(to, (lean.get(to) ?? 0) - 1)
    }
    // Of a key the others say which way is meant.
    const forward = (key: Key): number => (lean.get(key.from) ?? 0) - (lean.get(key.to) ?? 0) - 2
    const agreed = keys.filter((key) => forward(key) >= 0).length
    for (const key of keys) {
      if (forward(key) >= 0 || agreed * 2 <= keys.length) continue
      const { ref } = key.diode.part
      report({
        severity: 'fault',
        at: [key.diode.a, key.diode.b, key.contact.part.ref],
        message: `${ref} at ${key.contact.part.ref} is the other way round than the other diodes of the matrix.`,
        why: 'All diodes of a matrix lead the same way, from the lines that are driven to those that are read. Turned round, its key is never seen.',
        numbers: {},
        propose: () => swapWires(wiring, key.diode.a, key.diode.b),
      })
    }
  },
}
