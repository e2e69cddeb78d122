import { circuitOf, railOf } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const shuntMessages = {
  shuntVolts: '{part} bears {most} at its shunt and gets {highest}.',
  shuntAcross: '{part} joins {highest} with {other} through its shunt of {ohms} Ω.',
}

/** Shunts above the volts that they bear, and shunts across a supply. */
export function sayShunts(wiring: Wiring, report: (one: Report) => void): void {
  for (const shunt of circuitOf(wiring).elements) {
    if (shunt.kind !== 'shunt') continue
    const inner = shunt.part.part.inner.find((one) => one.kind === 'shunt')
    const rails = [shunt.netA, shunt.netB].map(railOf).filter((one) => one !== undefined)
    const highest = Math.max(0, ...rails.map((one) => one.volts))
    const most = inner?.mostVolts
    if (most !== undefined && highest > most)
      report({
        severity: 'fault',
        at: [shunt.a, shunt.b],
        message: 'shuntVolts',
        data: { part: shunt.part.ref, most: formatVolts(most), highest: formatVolts(highest) },
        why: 'Both ends of the shunt lie at the full voltage of what is measured, and the chip beside it bears only so much against its own ground.',
        numbers: { volts: highest, bears: most },
      })
    const [one, two] = rails
    const over = one && two ? Math.abs(one.volts - two.volts) : 0
    if (over > 0.5 && shunt.ohms !== undefined)
      report({
        severity: 'fault',
        at: [shunt.a, shunt.b],
        message: 'shuntAcross',
        data: {
          part: shunt.part.ref,
          highest: formatVolts(highest),
          other: over === highest ? 'ground' : 'another supply',
          ohms: shunt.ohms,
        },
        why: `A shunt is a piece of wire of known resistance: ${Math.round(over / shunt.ohms)} A would flow. It lies in the way of a load, never across its supply.`,
        numbers: { volts: over, ohms: shunt.ohms },
      })
  }
}
