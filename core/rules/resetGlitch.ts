import { activeCautions } from '../assign/candidates.ts'
import { rewire } from '../assign/rewire.ts'
import { companionsOf } from '../wiring/companions.ts'
import { networkOf } from '../wiring/lines.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { addCompanions } from './mend.ts'
import { usesByHost } from './shared.ts'

export const resetGlitch: Rule = {
  meta: {
    id: 'reset-glitch',
    severities: ['caution'],
    about:
      'While the board starts, the pin moves or floats, and what it drives moves something: a motor, a relay, a valve.',
    fixable: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring))
      for (const use of uses) {
        if (!use.facts.actuator) continue
        const what = atReset(wiring, host, use)
        if (!what) continue
        report({
          severity: 'caution',
          at: [use.end, host.end],
          message: `${use.end} may move while the board starts: ${host.end} ${what.does}.`,
          why: `${what.text} ${use.part.ref} acts on ${use.facts.activeLevel}, so until the program has set the pin it does so unasked, at every reset and every upload.`,
          numbers: {},
          propose: () => [
            ...addCompanions(wiring, use.part, (facts) => facts.across?.includes(use.facts.pin) === true),
            ...rewire(wiring, use),
          ],
        })
      }
  },
}

/** What a pin does at reset that may switch an actuator on; undefined when it stays off. */
function atReset(wiring: Wiring, host: Host, use: SignalUse): { does: string; text: string } | undefined {
  const active = use.facts.activeLevel
  for (const caution of activeCautions(host)) {
    if (caution.id === 'reset-pulse') return { does: 'pulses at reset', text: caution.text }
    if ((caution.id === 'reset-level' || caution.id === 'boot-output') && (caution.level ?? active) === active)
      return {
        does: caution.id === 'boot-output' ? 'sends messages at reset' : `is ${active} at reset`,
        text: caution.text,
      }
  }
  // Bare gates keep whatever charge they have; modules and chips rest by themselves.
  const held = networkOf(wiring).pulled(wiring.netOf(use.end)) !== undefined
  const bare = companionsOf(wiring, use.part).some(
    ({ facts, present }) => !present && facts.part === 'resistor' && facts.across?.includes(use.facts.pin),
  )
  const rest = host.board?.board.reset.pins
  if (!held && bare && host.board && (rest === 'floating' || rest === `pulled-${active === 'high' ? 'up' : 'down'}`))
    return {
      does: rest === 'floating' ? 'floats at reset' : `is ${rest} at reset`,
      text: `${host.board.board.reset.note ?? 'Pins are inputs until the program runs.'} Nothing holds ${use.end} meanwhile.`,
    }
  return undefined
}
