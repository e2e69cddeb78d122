import { busNeed } from '../wiring/buses.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'

export const uartLevels: Rule = {
  meta: {
    id: 'uart-levels',
    severities: ['fault'],
    about: 'A serial port with line levels (RS-232, RS-485) on a logic pin, or logic levels behind a line driver.',
    messages: {
      logic: '{signal} speaks logic levels and meets {title} levels on its way to {pin}.',
      line: '{signal} speaks {title} levels and is wired to the logic pin {pin} without a converter.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      if (busNeed(use.facts.needs)?.kind !== 'uart' || use.hosts.length === 0) continue
      const own = use.part.mode?.uart?.levels ?? 'logic'
      const line = lineBetween(wiring, use)
      if (own === line) continue
      const host = use.hosts[0]!.host
      const title = own === 'logic' ? line.toUpperCase() : own.toUpperCase()
      report({
        severity: 'fault',
        at: [use.end, host.end],
        message: own === 'logic' ? 'logic' : 'line',
        data: { signal: use.end, title, pin: host.end },
        why:
          own === 'logic'
            ? `The converter on the way turns logic into ${title} levels, which ${use.part.ref} neither understands nor bears. It belongs on the other side of the converter.`
            : `${title} swings from about −12 V to +12 V with the opposite sense (TIA-232-F): it would destroy ${host.end} and could not be read. A converter such as the MAX3232 has to stand between them.`,
        numbers: {},
        propose: () =>
          own !== 'logic' || line === 'logic'
            ? wiring.plan.wires
                .filter((wire) => [wire[0], wire[1]].includes(use.end) && !wire[2]?.locked)
                .map(([from, to]) => ({
                  title: `Take ${use.end} off ${from === use.end ? to : from} until a converter is there`,
                  edits: [{ do: 'disconnect' as const, from, to }],
                }))
            : [],
      })
    }
  },
}

/** Levels that arrive at a signal's end from its host: logic, unless a line driver lies between. */
function lineBetween(wiring: Wiring, use: SignalUse): 'logic' | 'rs-232' | 'rs-485' {
  const via = use.hosts[0]?.via ?? []
  for (const ref of via) {
    const part = wiring.parts.find((one) => one.ref === ref)
    const line = part?.part.inner.find((one) => one.line !== undefined)?.line
    if (line) return line
  }
  return 'logic'
}
