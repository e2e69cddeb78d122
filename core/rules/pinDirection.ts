import { rewire } from '../assign/rewire.ts'
import { busNeed } from '../wiring/buses.ts'
import { drives, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { lacksDirection } from './pinFunction.ts'

export const pinDirection: Rule = {
  meta: {
    id: 'pin-direction',
    severities: ['fault'],
    about: 'A pin that can only read is asked to drive, or one that can only drive is asked to read.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      const bus = busNeed(use.facts.needs)
      // Of the shared lines of a bus, bus-pins speaks as a whole.
      if (bus && bus.signal !== 'cs') continue
      for (const { host } of use.hosts) {
        if (meets(host, use) || !lacksDirection(host.functions, use.facts.needs)) continue
        const out = drives(use.facts.needs)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: `${use.end} needs ${needWords(use.facts.needs)}, and ${host.end} is ${out ? 'input' : 'output'} only.`,
          why: out
            ? `${host.end} has no output stage at all: the chip can read it but never put out a level. Nothing breaks, but nothing will move either.`
            : `${host.end} cannot be read back: the chip only drives it. What ${use.end} says would go unheard.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}
