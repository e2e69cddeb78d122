import { holds } from '../catalog/when.ts'
import { circuitOf, type DriverChannel } from '../circuit/circuit.ts'
import { movedBy } from '../circuit/loads.ts'
import { isBufferOutput } from '../wiring/between.ts'
import type { Host, Net, Wiring } from '../wiring/model.ts'
import { drives, switchesLoad } from '../wiring/needs.ts'
import type { Report } from './finding.ts'

export const outputsJoinedMessages = {
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
    if (channels.length < 2 || !first || channels.every((one) => movedBy(wiring, one) === movedBy(wiring, first)))
      continue
    const outputs = channels.map(({ output }) => output)
    report({
      severity: 'fault',
      at: outputs,
      message: 'joinedBridges',
      data: { outputs },
      why: 'Each of them pulls up or down by itself. As soon as one is high and the other low they short the motor supply. Outputs in parallel need their inputs in parallel too.',
      numbers: {},
    })
  }
}

/** Outputs of shift registers, PWM chips and the like, which nothing switches off, on one wire. */
export function sayOutputs(wiring: Wiring, report: (one: Report) => void): void {
  for (const net of wiring.nets) {
    if (net.ends.length < 2) continue
    const outputs = net.ends.filter((end) => {
      const host = wiring.terminal(end)?.host
      return host?.provider && host.end === end && isOutputOnly(host)
    })
    if (outputs.length < 2) continue
    report({
      severity: 'fault',
      at: outputs,
      message: 'outputs',
      data: { outputs },
      why: 'Each of them puts out a level at all times. As soon as one is high and another low they short each other. Only one may drive the wire; the others belong elsewhere.',
      numbers: { outputs: outputs.length },
    })
  }
}

const isOutputOnly = ({ functions }: Host): boolean =>
  functions.has('digital-out') && !functions.has('digital-in') && !switchesLoad(functions)

/** A buffer whose output meets another one, or a pin of a board that drives. */
export function sayBuffers(wiring: Wiring, report: (one: Report) => void): void {
  // What is led over a buffer is driven on the other side of it.
  const driven = new Set<Host | undefined>(
    wiring.signals.flatMap(({ facts, hosts }) =>
      drives(facts.needs) && facts.direction === 'in'
        ? hosts.flatMap(({ host, via }) => (via.length === 0 ? [host] : []))
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
      const other = net.ends.find(
        (one) =>
          (wiring.signal(one)?.part !== part && wiring.signal(one)?.facts.direction === 'out') ||
          (one > end && isBufferOutput(wiring, one)) ||
          driven.has(wiring.terminal(one)?.host),
      )
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
