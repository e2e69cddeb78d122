import { formatVolts } from '../electrical/quantity.ts'
import { chosenFact } from '../wiring/chosen.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const weakPassesMessages = {
  weakPass: '{part} need not let a low through: it opens at up to {opens}, and its gate gets {gate}.',
}

/** Transistors between two lines whose gate, on the lower supply, gets less than the threshold that their maker allows. */
export function sayWeakPasses(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts) {
    const opens = chosenFact(part, 'mostThreshold')
    const isPass = part.part.passes && part.part.inner.some(({ kind, pulled }) => kind === 'shift' && pulled)
    const gate = `${part.ref}.${part.part.passes?.gate}`
    const volts = isPass ? wiring.netOf(gate).sources[0]?.volts : undefined
    if (opens === undefined || volts === undefined || volts >= opens) continue
    report({
      severity: 'caution',
      at: [part.ref, gate],
      message: 'weakPass',
      data: { part: part.ref, opens: formatVolts(opens), gate: formatVolts(volts) },
      why: 'Between two lines a transistor has to conduct while the lower one is pulled low: its gate lies at the lower supply, and at no more. One that is made for low gates does, such as a BSS138, an AO3400A or a 2N7000.',
      numbers: { opens, gate: volts },
    })
  }
}
