import { rewire } from '../assign/rewire.ts'
import type { Rule } from './finding.ts'

export const endMismatch: Rule = {
  meta: {
    id: 'end-mismatch',
    severities: ['caution'],
    about: 'A jumper has nothing to go onto, since the pin is a solder pad; or a plug has no header.',
    messages: {
      pad: '{end} is a solder pad: no jumper fits it.',
      header: '{ref} plugs over a header of {posts} posts in two rows; no board of the plan has one free.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const { ref, part, header } of wiring.parts)
      if (part.plugsOn.length > 0 && header === undefined)
        report({
          severity: 'caution',
          at: [ref],
          message: 'header',
          data: { ref, posts: part.plugsOn.join(' or ') },
          why: 'Its posts lead nowhere, and so do the wires that go to them. Put the board into the plan that it plugs onto, or name the board for it.',
          numbers: {},
          propose: () => [],
        })
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
