import { activeCautions } from '../assign/candidates.ts'
import { PULL_OHMS } from '../assign/pullUps.ts'
import { rewire } from '../assign/rewire.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { networkOf } from '../wiring/lines.ts'
import { meets } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { addPull } from './mend.ts'
import { usesByHost } from './shared.ts'

/** Resistance up to which what holds a boot-strap pin counts as fixed on the board, in ohms. */
const STRONG = 20_000

export const pinPull: Rule = {
  meta: {
    id: 'pin-pull',
    severities: ['fault', 'caution'],
    about:
      'A line relies on the internal pull of a pin that has none, or needs the opposite of a pull that is fixed on the board.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      const pulled = networkOf(wiring).pulled(wiring.netOf(host.end))
      for (const use of uses) {
        const way = use.facts.pull
        if (way === undefined || use.facts.pullMostOhms !== undefined || !meets(host, use)) continue
        const against = activeCautions(host).find(
          (one) =>
            one.id === (way === 'up' ? 'fixed-pull-down' : 'fixed-pull-up') ||
            (one.id === 'boot-strap' &&
              one.held !== `pull-${way}` &&
              (one.heldOhms ?? Number.POSITIVE_INFINITY) <= STRONG),
        )
        if (against) {
          const ohms = against.heldOhms
          report({
            severity: 'caution',
            at: [use.end, host.end],
            message: `${use.end} needs a pull-${way}, and ${host.end} is pulled the other way on the board.`,
            why: `${against.text} The internal pull of tens of kilohms and the fixed one${ohms === undefined ? '' : ` of ${formatQuantity(ohms, 'Ω')}`} divide the supply, and the level comes to lie between high and low.`,
            numbers: ohms === undefined ? {} : { fixedOhms: ohms },
            propose: () => rewire(wiring, use),
          })
          continue
        }
        // A resistor of the plan, of a module or of the board does it; so does the pin itself.
        if (pulled !== undefined || host.functions.has(`pull-${way}`)) continue
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: `${use.end} relies on a pull-${way}, and ${host.end} has none inside.`,
          why: `Between its pulses nothing holds the line, so the pin reads whatever the air brings: presses come and go by themselves. A resistor of ${formatQuantity(PULL_OHMS, 'Ω')} to ${way === 'up' ? 'the logic supply' : 'ground'} holds it, or a pin that has its own.`,
          numbers: {},
          propose: () => [...addPull(wiring, use, way, PULL_OHMS), ...rewire(wiring, use)],
        })
      }
    }
  },
}
