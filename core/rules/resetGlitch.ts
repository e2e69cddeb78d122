import { rewire } from '../assign/rewire.ts'
import { resetStates } from '../circuit/atReset.ts'
import type { Rule } from './finding.ts'
import { companionOffers } from './mend.ts'

export const resetGlitch: Rule = {
  meta: {
    id: 'reset-glitch',
    severities: ['caution', 'tip'],
    about:
      'While the board starts, the pin moves or floats, and what it drives moves something: a motor, a relay, a valve.',
    messages: {
      heldOn: '{signal} moves while the board starts: a resistor holds it {active} and {pin} {does}.',
      moves: '{signal} may move while the board starts: {pin} {does}.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const { use, host, does, cause, text } of resetStates(wiring)) {
      if (cause === undefined) continue
      const active = use.facts.activeLevel
      report({
        // A register that a program empties at once lets a relay click; who minds holds its outputs off until then.
        severity: cause === 'chance' ? 'tip' : 'caution',
        at: [use.end, host.end],
        message: cause === 'resistor' ? 'heldOn' : 'moves',
        data: { signal: use.end, active, pin: host.end, does },
        why: `${text} ${use.part.ref} acts on ${active}, so until the program has set the pin it does so unasked, at every reset and every upload.`,
        numbers: {},
        propose: () => [
          ...companionOffers(wiring, use.part, (facts) => facts.across?.includes(use.facts.pin) === true),
          ...rewire(wiring, use),
        ],
      })
    }
  },
}
