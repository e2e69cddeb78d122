import { rewire } from '../assign/rewire.ts'
import { busNeed } from '../wiring/buses.ts'
import { isTimed, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { lacksDirection } from './pinFunction.ts'
import { usesByHost } from './shared.ts'

export const expanderLimit: Rule = {
  meta: {
    id: 'expander-limit',
    severities: ['fault'],
    about: 'A signal on an expander pin needs exact timing, or an ability that such a pin has not.',
    messages: {
      timing: '{signal} needs exact timing, and {pin} is an expander pin.',
      lacks: '{signal} needs {need}, and the expander pin {pin} has none.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      if (!host.provider) continue
      for (const use of uses) {
        if (busNeed(use.facts.needs)) continue
        const able = meets(host, use)
        const timed = isTimed(use)
        if (able !== undefined && !timed) continue
        if (able === undefined && lacksDirection(host.functions, use.facts.needs)) continue
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: timed ? 'timing' : 'lacks',
          data: { signal: use.end, pin: host.end, need: needWords(use.facts.needs) },
          why: `${timed ? `${use.facts.text ? `${use.facts.text[0]?.toUpperCase()}${use.facts.text.slice(1)}. ` : ''}` : ''}Every change of an expander pin is a message over its bus and takes some hundred microseconds${host.note ? ` (${host.note})` : ''}. A pin of the board does it.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}
