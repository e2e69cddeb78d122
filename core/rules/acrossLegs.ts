import { volts } from '../catalog/common.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { chosenFact } from '../wiring/chosen.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const acrossLegsMessages = {
  across: '{part} gets up to {volts} between {plus} and {minus}, and bears {most}.',
}

/** Share above what a part bears that is no more than the supply being a little off. */
const SLACK = 1.05

/**
 * Buzzers, inputs of solid-state relays and the like, which bear so many volts between their two legs, wherever these lie:
 * switched at the minus, or with their plus on a supply. Of one whose plus alone is moved level-damage speaks.
 */
export function sayAcrossLegs(wiring: Wiring, report: (found: Report) => void): void {
  for (const element of circuitOf(wiring).elements) {
    const { part, a, b, kind } = element
    if (kind !== 'load' || otherLeg({ owner: part, end: a }) !== b) continue
    const most = bears(part)
    const flow = most === undefined ? undefined : verdictsOf(wiring).through(element)
    if (most === undefined || !flow || flow.over <= most * SLACK) continue
    // Its levels count from ground, and are looked at where its minus lies there.
    if (part.part.signals.some(({ levels }) => levels !== undefined)) continue
    report({
      severity: 'fault',
      at: [a, b],
      message: 'across',
      data: { part: part.ref, volts: formatVolts(flow.over), plus: a, minus: b, most: formatVolts(most) },
      why: `Between its legs ${part.ref} gets what its supply holds, less what lies in the way. It takes a kind for these volts, a supply of fewer, or a resistor in series.`,
      numbers: { volts: Math.round(flow.over * 100) / 100, most },
    })
  }
}

/** Most volts between its two legs, by the kind chosen or by its levels. */
function bears(part: PartInstance): number | undefined {
  const [levels] = Object.values(part.part.levels)
  return chosenFact(part, 'most') ?? volts(levels?.most, undefined)
}
