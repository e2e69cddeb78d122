import { companionsOf } from '../wiring/companions.ts'
import type { Rule } from './finding.ts'
import { companionOffers } from './mend.ts'

export const decoupling: Rule = {
  meta: {
    id: 'decoupling',
    severities: ['tip'],
    about: 'A bare chip stands without the capacitor across its supply.',
    messages: { missing: '{part} has no capacitor across its supply.' },
    lacking: ['missing'],
    fixable: true,
  },
  check(wiring, report) {
    for (const part of wiring.parts) {
      if (part.part.build !== 'chip' || !part.supplies.some((use) => use.source)) continue
      const missing = companionsOf(wiring, part, 'capacitor').find(
        ({ facts, present }) => !present && facts.across !== undefined,
      )
      if (!missing) continue
      report({
        severity: 'tip',
        at: [part.ref],
        message: 'missing',
        data: { part: part.ref },
        why: `${missing.facts.why[0]?.toUpperCase()}${missing.facts.why.slice(1)}. A chip draws its current in bursts of nanoseconds, for which the wires of a breadboard are too long.`,
        numbers: {},
        propose: () => companionOffers(wiring, part, (facts) => facts === missing.facts),
      })
    }
  },
}
