import { circuitOf, type DriverChannel } from '../circuit/circuit.ts'
import { movedBy } from '../circuit/loads.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const bridgesJoinedMessages = { joinedBridges: '{outputs} are joined and moved by different inputs.' }

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
