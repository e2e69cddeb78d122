import { circuitOf } from '../circuit/circuit.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { PROTECTION_DIODE } from '../wiring/levels.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { swapWires } from './mend.ts'
import { twoDigits } from './shared.ts'

export const levelTurnedMessages = {
  turned: '{volts} come to {end}, the side of {part} for {low}: what hangs there belongs on {other}.',
}

/**
 * Channels of a level shifter whose sides are exchanged. Above its supply the lower side shifts nothing: through the
 * transistor's own diode its level goes on to the other side (AN10441), and that one is pulled to the higher supply.
 * Whoever hangs on them is spoken of then.
 */
export function sayTurned(wiring: Wiring, said: Set<string>, report: (one: Report) => void): void {
  const spoken = new Set([...said].flatMap((one) => one.split(' ')))
  const circuit = circuitOf(wiring)
  for (const { ref, part } of wiring.parts)
    for (const { kind, between, rails } of part.inner) {
      if (kind !== 'shift' || (rails === undefined && !part.passes)) continue
      const [low, high] = between.map((pin) => `${ref}.${pin}`) as [string, string]
      // A bare transistor knows its lower level by its gate.
      const [at, above] = (rails ?? [part.passes!.gate]).map((pin) => wiring.netOf(`${ref}.${pin}`).sources[0]?.volts)
      const net = wiring.netOf(low)
      if (at === undefined || !net.wired || net.ground || net.sources.length > 0) continue
      if (rails !== undefined && (above === undefined || at >= above)) continue
      const ports = [net, wiring.netOf(high)].flatMap((one) => circuit.at(one))
      if (ports.some(({ terminal, host }) => spoken.has(terminal.end) || (host && spoken.has(host.end)))) continue
      // Without a resistor it is what drives the line.
      const driven = circuit
        .at(net)
        .flatMap(({ role, high: one }) => (role === 'out' && one !== undefined ? [one] : []))
      const volts = verdictsOf(wiring).of(net)?.most?.volts ?? driven.toSorted((a, b) => b - a)[0]
      if (volts === undefined || volts <= at + PROTECTION_DIODE) continue
      said.add(ports.map(({ terminal }) => terminal.end).join(' '))
      const pins = circuit.at(wiring.netOf(high)).flatMap(({ host, terminal }) => (host ? [terminal.end] : []))
      report({
        severity: 'fault',
        at: [low, high, ...pins],
        message: 'turned',
        data: { volts: formatVolts(volts), end: low, part: ref, low: formatVolts(at), other: high },
        why:
          above === undefined
            ? `The diode inside ${ref} leads from ${low} to ${high}: above ${formatVolts(at)} at its gate the transistor keeps nothing apart, and what is meant for the lower level gets ${formatVolts(volts - PROTECTION_DIODE)} and more.`
            : `Each side has pull-ups to its own supply. Turned round, ${high} holds a pin of the lower supply at up to ${formatVolts(above)}, and above ${formatVolts(at)} the transistor between the two keeps nothing apart.`,
        numbers: { volts: twoDigits(volts), supply: twoDigits(at) },
        propose: () => swapWires(wiring, low, high),
      })
    }
}
