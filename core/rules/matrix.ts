import { memo } from '../base/memo.ts'
import { holds } from '../catalog/when.ts'
import { circuitOf, type Element, railOf, railWords } from '../circuit/circuit.ts'
import type { Host, Net, PartInstance, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { swapWires, takeOut } from './mend.ts'

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
    about:
      'A key of a matrix has its diode the other way round than the others of its rows and columns; or two of its lines are joined, or one lies on a rail.',
    messages: {
      turned: '{ref} at {part} is the other way round than the other diodes of the matrix.',
      onRail:
        '{ends} {ends:lies/lie} on {rail}: {ends:a line/lines} of a matrix must be driven or read by a pin of its own.',
      joined: '{ends} are joined: their keys cannot be told apart.',
    },
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
    for (const part of wiring.parts) sayLines(wiring, part, report)
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
        message: 'turned',
        data: { ref, part: key.contact.part.ref },
        why: 'All diodes of a matrix lead the same way, from the lines that are driven to those that are read. Turned round, its key is never seen.',
        numbers: {},
        propose: () => swapWires(wiring, key.diode.a, key.diode.b),
      })
    }
  },
}

/** Fewest contacts of a part whose lines cross, so that it is a matrix. */
const LEAST_CONTACTS = 4

/** Lines of a part that is a matrix; none of any other. */
export const matrixLines = memo((part: PartInstance): readonly string[] => {
  const contacts = part.part.inner.filter((inner) => inner.kind === 'contact' && holds(inner.when, part.options))
  const listed =
    contacts.length >= LEAST_CONTACTS
      ? contacts.flatMap((inner) => inner.between)
      : part.part.contains.length > 0
        ? part.part.signals.filter((one) => holds(one.when, part.options)).map((one) => one.pin)
        : []
  const lines = [...new Set(listed)].map((pin) => `${part.ref}.${pin}`)
  // A part with one common line and keys to it is no matrix.
  if (lines.length < LEAST_CONTACTS || contacts.length === lines.length - 1) return []
  // Nor is one with contacts that share no line: switches side by side.
  return contacts.length > 0 && lines.length === 2 * contacts.length ? [] : lines
})

/** Two lines of a matrix on one piece of metal, or one on a rail. */
function sayLines(wiring: Wiring, part: PartInstance, report: (one: Report) => void): void {
  const byNet = new Map<Net, string[]>()
  for (const end of matrixLines(part)) {
    const net = wiring.netOf(end)
    if (net.wired) byNet.set(net, [...(byNet.get(net) ?? []), end])
  }
  for (const [net, ends] of byNet) {
    const rail = railOf(net)
    if (ends.length < 2 && !rail) continue
    report({
      severity: 'fault',
      at: ends,
      message: rail ? 'onRail' : 'joined',
      data: { ends, rail: rail && railWords(rail) },
      why: 'A matrix is read line by line: one is driven while the others are looked at. A line that is joined with another, or held for good, hides which key is pressed.',
      numbers: {},
      propose: () => ends.slice(rail ? 0 : 1).flatMap((end) => takeOut(wiring, (a, b) => a === end || b === end)),
    })
  }
}
