import { rewire } from '../assign/rewire.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { isTimed, meets, needWords } from '../wiring/needs.ts'
import type { Report, Rule } from './finding.ts'
import { lacksDirection } from './pinFunction.ts'
import { registerChainMessages, sayChains, takesLatched } from './registerChain.ts'
import { usesByHost } from './shared.ts'

export const expanderLimit: Rule = {
  meta: {
    id: 'expander-limit',
    severities: ['fault'],
    about:
      'A signal on an expander pin needs exact timing, or an ability that such a pin has not; or registers in a row do not shift together.',
    messages: {
      timing: '{signal} needs exact timing, and {pin} is an expander pin.',
      lacks: '{signal} needs {need}, and the expander pin {pin} has none.',
      ...registerChainMessages,
      common: '{signal} needs {need}; {part} leads it on to {pin}, which has none.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayChains(wiring, report)
    for (const [host, uses] of usesByHost(wiring)) {
      if (!host.provider) continue
      for (const use of uses) {
        if (busNeed(use.facts.needs)) continue
        if (takesLatched(wiring, use, host)) continue
        const able = meets(host, use)
        const timed = isTimed(use)
        if (able !== undefined) sayCommon(wiring, use, host, report)
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

/** A channel of a switch can no more than the pin to which its common line leads. */
function sayCommon(wiring: Wiring, use: SignalUse, { provider }: Host, report: (one: Report) => void): void {
  const behaves = provider?.part.behaves
  if (provider === undefined || behaves?.as !== 'choose') return
  const line = wiring.signal(`${provider.ref}.${behaves.common}`)
  for (const { host } of line?.hosts ?? []) {
    if (!line || meets(host, use) !== undefined) continue
    report({
      severity: 'fault',
      at: [use.end, line.end, host.end],
      message: 'common',
      data: { signal: use.end, need: needWords(use.facts.needs), part: provider.ref, pin: host.end },
      why: `Each channel of ${provider.ref} is joined with ${line.end} in turn, and ${host.end} is all that reads or drives it.`,
      numbers: {},
      propose: () => rewire(wiring, line),
    })
  }
}
