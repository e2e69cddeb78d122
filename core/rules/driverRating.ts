import { circuitOf, railOf } from '../circuit/circuit.ts'
import { drivenLoads, ratingOf } from '../circuit/loads.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { PartInstance } from '../wiring/model.ts'
import { sayFuses, sayHot, sayWeakBases } from './driverHeat.ts'
import type { Report, Rule } from './finding.ts'
import { listWords } from './shared.ts'

/** Share of what an output is good for above which it is said. */
const NEAR = 0.8

export const driverRating: Rule = {
  meta: {
    id: 'driver-rating',
    severities: ['fault', 'caution'],
    about:
      'A load needs more current or volts than its transistor, driver or shunt bears: a fault over it, a caution above 80 % or where only starting goes over.',
    fixable: false,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    for (const { element, channels, source } of drivenLoads(circuit)) {
      const { runs, starts, part: load } = element
      for (const [part, here] of byPart(channels)) {
        const { good, most, volts } = ratingOf(here[0]!)
        const at = [...here.map((one) => one.output), element.a, element.b]
        const say = (severity: Report['severity'], message: string, numbers: Report['numbers']): void =>
          report({
            severity,
            at,
            message,
            why: `What ${listWords(here.map((one) => one.output))} of ${part.title} ${here.length > 1 ? 'bear' : 'bears'} is a limit of its silicon: above it the output gets hot, switches itself off, or is destroyed. A larger driver, or a smaller load, is the way out.`,
            numbers,
          })
        if (runs !== undefined && most !== undefined && runs > most)
          say('fault', `${load.ref} takes ${Math.round(runs)} mA, and ${part.ref} gives ${most} mA at most.`, {
            takes: runs,
            most,
          })
        else if (runs !== undefined && good !== undefined && runs > good)
          say(
            'caution',
            `${load.ref} takes ${Math.round(runs)} mA; ${part.ref} is good for ${good} mA, and for ${most} mA only for a moment or with a cooler.`,
            { takes: runs, good, most: most ?? good },
          )
        else if (starts !== undefined && most !== undefined && starts > most)
          say(
            'caution',
            `${load.ref} takes ${Math.round(starts)} mA when it starts or is held fast, and ${part.ref} gives ${most} mA at most.`,
            { starts, most },
          )
        else if (runs !== undefined && good !== undefined && runs > good * NEAR && !here[0]!.facts.limits)
          say('caution', `${load.ref} takes ${Math.round(runs)} of the ${good} mA that ${part.ref} is good for.`, {
            takes: runs,
            good,
          })
        if (source && volts !== undefined && source.volts > volts && !isOverfed(part))
          say(
            'fault',
            `${load.ref} is fed with ${formatVolts(source.volts)}, and ${part.ref} bears ${formatVolts(volts)}.`,
            { volts: source.volts, bears: volts },
          )
      }
    }
    sayWeakBases(wiring, report)
    sayHot(wiring, report)
    sayFuses(wiring, report)
    for (const shunt of circuit.elements) {
      if (shunt.kind !== 'shunt') continue
      const inner = shunt.part.part.inner.find((one) => one.kind === 'shunt')
      const rails = [shunt.netA, shunt.netB].map(railOf).filter((one) => one !== undefined)
      const highest = Math.max(0, ...rails.map((one) => one.volts))
      const most = inner?.mostVolts
      if (most !== undefined && highest > most)
        report({
          severity: 'fault',
          at: [shunt.a, shunt.b],
          message: `${shunt.part.ref} bears ${formatVolts(most)} at its shunt and gets ${formatVolts(highest)}.`,
          why: 'Both ends of the shunt lie at the full voltage of what is measured, and the chip beside it bears only so much against its own ground.',
          numbers: { volts: highest, bears: most },
        })
      const [one, two] = rails
      const over = one && two ? Math.abs(one.volts - two.volts) : 0
      if (over > 0.5 && shunt.ohms !== undefined)
        report({
          severity: 'fault',
          at: [shunt.a, shunt.b],
          message: `${shunt.part.ref} joins ${formatVolts(highest)} with ${over === highest ? 'ground' : 'another supply'} through its shunt of ${shunt.ohms} Ω.`,
          why: `A shunt is a piece of wire of known resistance: ${Math.round(over / shunt.ohms)} A would flow. It lies in the way of a load, never across its supply.`,
          numbers: { volts: over, ohms: shunt.ohms },
        })
    }
  },
}

/** A part whose own supply is above its range, of which supply-range speaks. */
const isOverfed = (part: PartInstance): boolean =>
  part.supplies.some(({ source, facts }) => source !== undefined && source.volts > facts.most)

function byPart<T extends { readonly part: PartInstance }>(list: readonly T[]): Map<PartInstance, T[]> {
  const found = new Map<PartInstance, T[]>()
  for (const one of list) found.set(one.part, [...(found.get(one.part) ?? []), one])
  return found
}
