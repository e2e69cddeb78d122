import type { Host, Net, Wiring } from '../wiring/model.ts'
import { circuitOf, type DriverChannel, railOf, switchedSide } from './circuit.ts'
import { behindResistors } from './reach.ts'
import { networkOf } from './still.ts'

/** The output of a transistor that turns a level round for a pin which reads it. */
export interface ReadOutput {
  readonly channel: DriverChannel
  readonly host: Host
  /** Volts while it conducts. */
  readonly on: number
  /** Volts at which resistors hold the line meanwhile; undefined where none does. */
  readonly off: number | undefined
}

/**
 * Outputs of transistors that meet nothing but resistors, capacitors and one pin: a pin that drives such a net has nothing
 * to drive there, so it reads. One whose other side lies on no rail passes a signal on, and is not among them; neither is
 * one for which another board or part may hold the line.
 */
export function readOutputs(wiring: Wiring): ReadOutput[] {
  const circuit = circuitOf(wiring)
  return circuit.channels.flatMap((channel): ReadOutput[] => {
    const { part, facts, output } = channel
    const side = switchedSide(channel)
    if (side === undefined) return []
    const net = wiring.netOf(output)
    const rail = railOf(wiring.netOf(side))
    if (!rail || (facts.supply === undefined) !== (rail.volts === 0) || railOf(net) || !isMoved(wiring, channel))
      return []
    const isPlain = circuit
      .on(net)
      .every(({ kind, part: of }) => kind === 'resistor' || kind === 'capacitor' || of === part)
    const ports = circuit.at(net).filter(({ terminal, role }) => terminal.ref !== part.ref && role !== 'passive')
    const [port] = ports
    if (!isPlain || ports.length !== 1 || !port?.host || port.host.provider || port.use) return []
    if (port.role !== 'either' && port.role !== 'in') return []
    if (leadsOn(wiring, net)) return []
    return [{ channel, host: port.host, on: rail.volts, off: networkOf(wiring).pulled(net) }]
  })
}

/** Something moves it: a pin, an output of a part, a contact, another transistor. */
function isMoved(wiring: Wiring, { inputs, part }: DriverChannel): boolean {
  const circuit = circuitOf(wiring)
  return inputs.every((end) => {
    if (railOf(wiring.netOf(end))) return false
    return behindResistors(circuit, wiring.netOf(end)).some(
      (net) =>
        !railOf(net) &&
        (circuit.at(net).some(({ host, role }) => host || role === 'out' || role === 'open-drain') ||
          circuit.on(net).some(({ kind }) => kind === 'contact') ||
          circuit.channels.some(({ part: other, output }) => other !== part && wiring.netOf(output) === net)),
    )
  })
}

/** Behind a resistor on the line is more than a rail: a divider or a stage that follows. */
const leadsOn = (wiring: Wiring, net: Net): boolean =>
  circuitOf(wiring)
    .on(net)
    .some(({ kind, netA, netB }) => {
      const other = netA === net ? netB : netA
      return kind === 'resistor' && other.wired && !railOf(other)
    })
