import { rewire } from '../assign/rewire.ts'
import type { Rule } from './finding.ts'

export const endMismatch: Rule = {
  meta: {
    id: 'end-mismatch',
    severities: ['caution'],
    about: 'A jumper has nothing to go onto: the pin is a solder pad.',
    messages: { pad: '{end} is a solder pad: no jumper fits it.' },
    fixable: true,
  },
  check(wiring, report) {
    const pads = wiring.boards.flatMap((board) =>
      board.facts.pins.flatMap((pin) => (pin.solder ? [`${board.ref}.${pin.id}`] : [])),
    )
    if (pads.length === 0) return
    const wired = new Set<string>()
    for (const [from, to] of wiring.plan.wires) wired.add(from).add(to)
    for (const end of pads) {
      const terminal = wiring.terminal(end)
      if (!terminal?.boardPin || !wired.has(end)) continue
      const use = wiring.signals.find((one) => one.hosts.some(({ host }) => host === terminal.host))
      report({
        severity: 'caution',
        at: [end],
        message: 'pad',
        data: { end },
        why: `${terminal.boardPin.note ?? `${terminal.boardPin.label ?? terminal.pin} is not brought out to a header.`} Solder a thin wire or a pin to it, and hold it with a drop of glue.`,
        numbers: {},
        propose: () => (use ? rewire(wiring, use) : []),
      })
    }
  },
}
