import { circuitOf, type Port, railOf } from '../circuit/circuit.ts'
import { behindResistors } from '../circuit/reach.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const lampsJoinedMessages = {
  lamps: '{pins} drive {parts} together, each over a resistor.',
}

/** A pin that drives, or of which no part says what it is for, as where a lamp hangs between a supply and it. */
const mayDrive = ({ host, role }: Port): boolean =>
  host?.functions.has('digital-out') === true && ['out', 'both', 'either'].includes(role)

/** Pins that meet at the same lamp, each over its own resistor: rows that should be two, and are one. */
export function sayLampsJoined(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const said = new Set<Net>()
  for (const lamp of circuit.elements) {
    if (!lamp.lights) continue
    for (const net of [lamp.netA, lamp.netB]) {
      if (said.has(net) || railOf(net)) continue
      said.add(net)
      const pins = new Set(
        behindResistors(circuit, net)
          .filter((one) => one !== net && !railOf(one))
          // Of pins that are joined straight the same rule speaks.
          .flatMap((one) => circuit.at(one).find(mayDrive) ?? [])
          .map(({ host }) => host?.end ?? ''),
      )
      if (pins.size < 2) continue
      const lamps = circuit.on(net).filter(({ lights }) => lights)
      report({
        severity: 'caution',
        at: [...pins, ...lamps.map(({ a, b, netA }) => (netA === net ? a : b))],
        message: 'lamps',
        data: { pins: [...pins], parts: [...new Set(lamps.map(({ part }) => part.ref))] },
        why: 'Whichever of the pins is on, all of it lights, and half of its current goes into the pin that is off. Each pin needs a row of its own up to its lamp.',
        numbers: { pins: pins.size },
      })
    }
  }
}
