import type { Rule } from './finding.ts'

export const timingSensitive: Rule = {
  meta: {
    id: 'timing-sensitive',
    severities: ['caution'],
    about:
      'A part whose pulses must be timed to microseconds hangs on a board whose programs are put aside now and then.',
    messages: { interrupted: '{signal} needs pulses timed to microseconds, and programs on {pin} are interrupted.' },
    fixable: false,
    local: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      const host = use.hosts[0]?.host
      const why = host?.board?.board.noTimeBase
      if (!use.facts.timing || !host || why === undefined) continue
      report({
        severity: 'caution',
        at: [use.end, host.end],
        message: 'interrupted',
        data: { signal: use.end, pin: host.ref },
        why: `${why} Readings fail now and then and must be repeated, and outputs jitter. A driver in the kernel, or a small board that does the timing, helps.`,
        numbers: {},
      })
    }
  },
}
