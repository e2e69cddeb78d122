import { circuitOf, type Element } from '../circuit/circuit.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { takeOut } from './mend.ts'

/** A transistor that switches to ground, put between the supply and the load. */
export function sayHighSide(wiring: Wiring, report: (one: Report) => void): void {
  for (const { part, facts, output } of circuitOf(wiring).channels) {
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    if (part.part.build !== 'component' || facts.supply !== undefined || !low) continue
    const end = `${part.ref}.${low.id}`
    const net = wiring.netOf(end)
    if (!net.wired || net.ground || wiring.netOf(output).sources.length === 0) continue
    report({
      severity: 'fault',
      at: [end, output],
      message: 'highSide',
      data: { part: part.ref, end },
      why: `Its input counts against ${end}. As soon as the load gets volts ${end} rises with it, and the input would have to rise above the supply to keep ${part.ref} on. Put it between the load and ground.`,
      numbers: {},
    })
  }
}

/** A contact of a relay whose two sides lie on one wire. */
export function sayJoinedContacts(wiring: Wiring, report: (one: Report) => void): void {
  for (const { part, a, b, netA, netB, moved } of circuitOf(wiring).elements) {
    if (!moved || netA !== netB || !netA.wired) continue
    report({
      severity: 'fault',
      at: [b, a],
      message: 'joined',
      data: { output: b, end: a, part: part.ref },
      why: `${part.ref} opens and closes the way between ${a} and ${b}. A wire round it closes that way for good: what hangs there runs all the time, or never.`,
      numbers: {},
      propose: () => takeOut(wiring, (one, two) => wiring.netOf(one) === netA && wiring.netOf(two) === netA),
    })
  }
}

/** Contacts of a relay of which one side is wired and no other: the way ends in the relay. */
export function sayHalfContacts(wiring: Wiring, report: (one: Report) => void): void {
  const unused = new Set(wiring.plan.unused)
  const byCommon = new Map<string, Element[]>()
  for (const one of circuitOf(wiring).elements)
    if (one.moved) byCommon.set(one.a, [...(byCommon.get(one.a) ?? []), one])
  for (const [common, ways] of byCommon) {
    const isWired = (end: string): boolean => wiring.netOf(end).wired || unused.has(end)
    const far = ways.map(({ b }) => b)
    if (isWired(common) === far.some(isWired)) continue
    const [wired, open] = isWired(common) ? [[common], far] : [far.filter(isWired), [common]]
    const part = ways[0]?.part.ref
    report({
      severity: 'caution',
      at: [...wired, ...open],
      message: 'halfContact',
      data: { wired, open, part, them: wired.length === 1 ? 'it' : 'them' },
      why: 'A contact joins its common with one of its two other sides. The current comes in at one and goes on at the other; with one of them alone nothing is switched. Run the load to the side that is missing, or mark it as left open.',
      numbers: {},
    })
  }
}

/** A meter of currents of which one side alone is wired. */
export function sayHalfMeters(wiring: Wiring, report: (one: Report) => void): void {
  const unused = new Set(wiring.plan.unused)
  for (const { kind, part, a, b, netA, netB } of circuitOf(wiring).elements) {
    if (kind !== 'shunt' || part.part.build === 'component' || netA.wired === netB.wired) continue
    const [wired, open] = netA.wired ? [a, b] : [b, a]
    if (unused.has(open)) continue
    report({
      severity: 'caution',
      at: [wired, open],
      message: 'halfMeter',
      data: { wired, open, part: part.ref },
      why: 'The current that is to be measured goes in at one side and comes out at the other: the meter lies in the wire, between the supply and what it feeds.',
      numbers: {},
    })
  }
}
