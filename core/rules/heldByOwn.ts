import { circuitOf, type Element } from '../circuit/circuit.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'

/**
 * The resistor that is to keep a transistor off holds its gate by the output instead of by the side that is its own: as
 * soon as the load pulls the output there, the transistor begins to conduct, and stays half on.
 */
export function sayHeldByOwn(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const { part, output } of circuit.channels) {
    const { guards } = part.part
    if (!guards || part.part.build !== 'component') continue
    const gate = `${part.ref}.${guards.gate}`
    const source = guards.between.map((pin) => `${part.ref}.${pin}`).find((end) => end !== output)
    if (source === undefined) continue
    const [atGate, atOutput, atSource] = [gate, output, source].map((end) => wiring.netOf(end)) as [Net, Net, Net]
    if (atGate === atOutput || atOutput === atSource) continue
    const between = (one: Net): Element | undefined =>
      circuit
        .on(atGate)
        .find(({ kind, netA, netB }) => kind === 'resistor' && netA !== netB && (netA === one || netB === one))
    const wrong = between(atOutput)
    // Where nothing else hangs there, that is what is said.
    if (!wrong || between(atSource) || circuit.on(atOutput).every((one) => one === wrong)) continue
    const leg = wrong.netA === atOutput ? wrong.a : wrong.b
    report({
      severity: 'fault',
      at: [leg, gate],
      message: 'heldByOwn',
      data: { resistor: wrong.part.ref, gate, output, part: part.ref, source },
      why: `${part.ref} counts the volts of its gate against ${source}. Held by its own output it never goes off: what hangs there brings the gate to where it conducts, and it stays half on and gets hot.`,
      numbers: {},
      propose: () => moveTo(wiring, leg, source),
    })
  }
}
