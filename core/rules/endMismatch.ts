import { rewire } from '../assign/rewire.ts'
import type { Rule } from './finding.ts'

export const endMismatch: Rule = {
  meta: {
    id: 'end-mismatch',
    severities: ['caution'],
    about: 'A jumper has nothing to go onto: the pin is a solder pad.',
    fixable: true,
  },
  check(wiring, report) {
    for (const end of new Set(wiring.plan.wires.flatMap((wire) => [wire[0], wire[1]]))) {
      const terminal = wiring.terminal(end)
      if (!terminal?.boardPin?.solder) continue
      const use = wiring.signals.find((one) => one.hosts.some(({ host }) => host === terminal.host))
      report({
        severity: 'caution',
        at: [end],
        message: `${end} is a solder pad: no jumper fits it.`,
        why: `${terminal.boardPin.note ?? `${terminal.boardPin.label ?? terminal.pin} is not brought out to a header.`} Solder a thin wire or a pin to it, and hold it with a drop of glue.`,
        numbers: {},
        propose: () => (use ? rewire(wiring, use) : []),
      })
    }
  },
}
