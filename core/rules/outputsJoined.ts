import { holds } from '../catalog/when.ts'
import { circuitOf, type DriverChannel, type Port } from '../circuit/circuit.ts'
import { movedBy } from '../circuit/loads.ts'
import { behindResistors, LEAST_HOLD } from '../circuit/reach.ts'
import { isBufferOutput } from '../wiring/between.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, Net, Wiring } from '../wiring/model.ts'
import { drives, givesLevels, switchesLoad } from '../wiring/needs.ts'
import type { Report } from './finding.ts'

export const outputsJoinedMessages = {
  joinedPair: '{outputs} are joined, and each puts out the opposite of the other.',
  joinedBridges: '{outputs} are joined and moved by different inputs.',
  twoOutputs: '{end} and {other} are two outputs on one wire.',
  outputs: '{outputs} are outputs on one wire.',
}

/** Outputs that drive both ways on one wire, unless their inputs are joined as well, as in halves put in parallel. */
export function sayBridges(wiring: Wiring, report: (one: Report) => void): void {
  const byNet = new Map<Net, DriverChannel[]>()
  for (const channel of circuitOf(wiring).channels) {
    const net = wiring.netOf(channel.output)
    if (channel.facts.supply === undefined || !net.wired) continue
    byNet.set(net, [...(byNet.get(net) ?? []), channel])
  }
  for (const channels of byNet.values()) {
    const [first] = channels
    const isPair = channels.some(({ part, facts }) =>
      channels.some((one) => one.part === part && one.facts.output === facts.pair),
    )
    if (channels.length < 2 || !first) continue
    if (!isPair && channels.every((one) => movedBy(wiring, one) === movedBy(wiring, first))) continue
    const outputs = channels.map(({ output }) => output)
    report({
      severity: 'fault',
      at: outputs,
      message: isPair ? 'joinedPair' : 'joinedBridges',
      data: { outputs },
      why: isPair
        ? 'The two ends of a loudspeaker are driven against each other. Joined they short the supply of the amplifier, whether or not anything is played.'
        : 'Each of them pulls up or down by itself. As soon as one is high and the other low they short the motor supply. Outputs in parallel need their inputs in parallel too.',
      numbers: {},
    })
  }
}

/** Outputs of shift registers, PWM chips and converters, which nothing switches off, on one wire. */
export function sayOutputs(wiring: Wiring, report: (one: Report) => void): void {
  for (const net of wiring.nets) {
    if (net.ends.length < 2) continue
    const outputs = net.ends.filter((end) => {
      const host = wiring.terminal(end)?.host
      return host?.provider && host.end === end && isOutputOnly(host)
    })
    const [first] = outputs
    if (first === undefined) continue
    const other = circuitOf(wiring)
      .at(net)
      .find((port) => !outputs.includes(port.terminal.end) && drivesItself(wiring, port))
    if (outputs.length < 2 && !other) continue
    report({
      severity: 'fault',
      at: outputs.length < 2 && other ? [first, other.terminal.end] : outputs,
      message: outputs.length < 2 ? 'twoOutputs' : 'outputs',
      data: { outputs, end: first, other: other?.terminal.end },
      why: 'Each of them puts out a level at all times. As soon as one is high and another low they short each other. Only one may drive the wire; the others belong elsewhere.',
      numbers: { outputs: outputs.length + (outputs.length < 2 ? 1 : 0) },
    })
  }
}

/** An output of another part or a line of its bus, or a pin of a board or an expander that the program drives. */
const drivesItself = (wiring: Wiring, { use, host, role, terminal: { end } }: Port): boolean =>
  use === undefined
    ? (host !== undefined && (role === 'out' || role === 'both')) || isBufferOutput(wiring, end)
    : use.facts.direction === 'out' || busNeed(use.facts.needs)?.kind === 'i2c'

const isOutputOnly = ({ functions }: Host): boolean =>
  givesLevels(functions) && !functions.has('digital-in') && !switchesLoad(functions)

const isResistor = (wiring: Wiring, ref: string): boolean =>
  wiring.parts.find((part) => part.ref === ref)?.part.helper === 'resistor'

/** A buffer whose output meets another one, or a pin of a board that drives. */
export function sayBuffers(wiring: Wiring, report: (one: Report) => void): void {
  // What is led over a buffer is driven on the other side of it.
  const driven = new Set<Host | undefined>(
    wiring.signals.flatMap(({ facts, hosts }) =>
      drives(facts.needs) && facts.direction === 'in'
        ? hosts.flatMap(({ host, via }) => (via.every((ref) => isResistor(wiring, ref)) ? [host] : []))
        : [],
    ),
  )
  driven.delete(undefined)
  for (const part of wiring.parts)
    for (const inner of part.part.inner) {
      if (inner.kind !== 'buffer' || !holds(inner.when, part.options)) continue
      const [takes, gives] = inner.back ? [inner.between[1], inner.between[0]] : inner.between
      const end = `${part.ref}.${gives}`
      const net = wiring.netOf(end)
      // Straight, or over resistors that carry a current.
      const near = behindResistors(circuitOf(wiring), net, LEAST_HOLD).flatMap(({ ends }) => ends)
      const taken = wiring.signal(`${part.ref}.${takes}`)
      const other =
        near.find(
          (one) =>
            (wiring.signal(one)?.part !== part && wiring.signal(one)?.facts.direction === 'out') ||
            (one > end && isBufferOutput(wiring, one)) ||
            driven.has(wiring.terminal(one)?.host),
        ) ??
        // What drives its own input, over a converter.
        (taken && wiring.netOf(taken.end) === net ? taken.hosts[0]?.host.end : undefined)
      if (other === undefined) continue
      report({
        severity: 'fault',
        at: [end, other],
        message: 'twoOutputs',
        data: { end, other },
        why: `${part.ref} puts out at ${gives} what it takes in at ${takes}; it listens to nobody there. The line belongs on the other side of a channel that leads the other way.`,
        numbers: {},
      })
    }
}
