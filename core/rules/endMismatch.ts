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
    const pads = wiring.plan.wires.flatMap(([from, to]) =>
      [from, to].filter((end) => wiring.terminal(end)?.boardPin?.solder),
    )
    for (const end of new Set(pads)) {
      const terminal = wiring.terminal(end)
      if (!terminal?.boardPin) continue
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
