import { entryOf } from '../base/entryOf.ts'
import { volts as voltsOf } from '../catalog/common.ts'
import { circuitOf, type Element } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { madeFor } from '../wiring/labels.ts'
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
    const isLoad = kind === 'load' && otherLeg({ owner: part, end: a }) === b
    const most = isLoad ? bears(part) : kind === 'winding' ? labelled(wiring, element) : undefined
    const flow = most === undefined ? undefined : verdictsOf(wiring).through(element)
    if (most === undefined || !flow || Math.max(flow.over, isLoad ? 0 : flow.under) <= most * SLACK) continue
    // Its levels count from ground, and are looked at where its minus lies there.
    if (part.part.signals.some(({ levels }) => levels !== undefined)) continue
    const volts = Math.round(Math.max(flow.over, isLoad ? 0 : flow.under) * 10) / 10
    report({
      severity: 'fault',
      at: [a, b],
      message: 'across',
      data: { part: part.ref, volts: formatVolts(volts), plus: a, minus: b, most: formatVolts(most) },
      why: `Between its legs ${part.ref} gets what its supply holds, less what lies in the way. It takes a kind for these volts, a supply of fewer, or a resistor in series.`,
      numbers: { volts, most },
    })
  }
}

/** Most volts between its two legs, by the kind chosen or by its levels. */
function bears(part: PartInstance): number | undefined {
  const [levels] = Object.values(part.part.levels)
  return chosenFact(part, 'most') ?? voltsOf(levels?.most, undefined)
}

/**
 * Volts that the label of a motor says, where the plan gives it and a contact feeds the motor. Of one that a supply or a
 * bridge feeds others speak.
 */
function labelled(wiring: Wiring, { part, netA, netB }: Element): number | undefined {
  const isStated = entryOf(entryOf(wiring.plan.parts, part.ref)?.options, 'volts') !== undefined
  const isBridged = circuitOf(wiring).channels.some(
    ({ loads, facts }) => facts.supply !== undefined && loads.some((load) => load.part === part),
  )
  const isFed = [netA, netB].some(({ sources }) => sources.length > 0) || part.supplies.some(({ source }) => source)
  if (!isStated || isBridged || isFed) return undefined
  return madeFor(wiring, part)?.most
}
