import { rewire } from '../assign/rewire.ts'
import { counted } from '../base/counted.ts'
import { isLoad } from '../catalog/common.ts'
import { busNeed } from '../wiring/buses.ts'
import { drives, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'

export const pinFunction: Rule = {
  meta: {
    id: 'pin-function',
    severities: ['fault'],
    about: 'A pin lacks the function that its signal needs: analog, PWM, edge interrupt, DAC or touch.',
    messages: { lacks: '{signal} needs {need}, and {pin} has none.' },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      if (busNeed(use.facts.needs)) continue
      for (const { host } of use.hosts) {
        if (meets(host, use) || lacksDirection(host.functions, use.facts.needs)) continue
        // Of expander pins, of loads straight on a pin and of the flash other rules speak.
        if (host.cautions.some((one) => ['flash', 'psram', 'crystal'].includes(one.id))) continue
        if (host.provider || isLoad(use.facts.needs)) continue
        const able = [...wiring.hosts.values()]
          .filter((one) => one.ref === host.ref && meets(one, use))
          .map((one) => one.end)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: 'lacks',
          data: { signal: use.end, need: needWords(use.facts.needs), pin: host.end },
          why: `${able.length === 0 ? `No pin of ${host.ref} can do this.` : `${counted(able.length, 'pin')} of ${host.ref} can: ${able.slice(0, 8).join(', ')}${able.length > 8 ? ' …' : ''}.`} The function is built into the chip pin by pin; software cannot add it.`,
          numbers: { able: able.length },
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}

/** The pin fails in direction, of which `pin-direction` speaks. */
export function lacksDirection(functions: ReadonlySet<string>, need: string): boolean {
  return drives(need)
    ? !functions.has('digital-out') && functions.has('digital-in')
    : !functions.has('digital-in') && functions.has('digital-out')
}
