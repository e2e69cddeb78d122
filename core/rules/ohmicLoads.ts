import { circuitOf, type Element } from '../circuit/circuit.ts'
import { ratingOf } from '../circuit/loads.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const ohmicLoadsMessages = {
  ohmic: '{loads} {loads:takes/take} {takes} mA by {loads:its/their} ohms, and {part} gives {most} mA at most.',
}

/**
 * Loudspeakers and resistors that heat: of these no label says what they take, but their ohms and what feeds them do.
 * Whatever limits the current on the way counts, such as a resistor in series.
 */
export function sayOhmicLoads(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const verdicts = verdictsOf(wiring)
  const said = new Set<string>()
  for (const channel of circuit.channels) {
    const { most } = ratingOf(channel)
    if (most === undefined) continue
    const isOhmic = ({ kind, runs, part }: Element): boolean =>
      part !== channel.part && (kind === 'resistor' || (kind === 'winding' && runs === undefined))
    const flows = circuit.on(wiring.netOf(channel.output)).flatMap((one) => {
      const flow = isOhmic(one) ? verdicts.through(one) : undefined
      return flow ? [{ part: one.part, milliamps: Math.max(flow.forward, flow.back) }] : []
    })
    const takes = flows.reduce((sum, { milliamps }) => sum + milliamps, 0)
    // Named is what the sum hangs on, not a pull-up beside it.
    const loads = [...new Set(flows.flatMap(({ part, milliamps }) => (milliamps > takes / 10 ? [part.ref] : [])))]
    const key = [channel.part.ref, ...loads].join(' ')
    if (takes <= most || said.has(key)) continue
    said.add(key)
    report({
      severity: 'fault',
      at: [channel.output, ...loads],
      message: 'ohmic',
      data: { loads, takes: Math.round(takes), part: channel.part.ref, most },
      why: `I = V / R: what is fed with so many volts takes ${Math.round(takes)} mA while ${channel.part.ref} conducts. More ohms, fewer volts or a larger transistor is the way out.`,
      numbers: { takes: Math.round(takes), most },
    })
  }
}
