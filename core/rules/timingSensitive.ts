import { rewire } from '../assign/rewire.ts'
import { activeCautions } from '../wiring/availability.ts'
import { isStreamed } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'

export const timingSensitive: Rule = {
  meta: {
    id: 'timing-sensitive',
    severities: ['caution'],
    about:
      'A part whose pulses must be timed to microseconds hangs on a board whose programs are put aside now and then, or edges are counted on a pin that makes some of its own.',
    messages: {
      interrupted: '{signal} needs pulses timed to microseconds, and programs on {pin} are interrupted.',
      dips: '{signal} is waited for on {pin}, which drops for a moment whenever the board reads an analog pin.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      const host = use.hosts[0]?.host
      const why = host?.board?.board.noTimeBase
      if (!use.facts.timing || !host || why === undefined || isStreamed(host, use)) continue
      report({
        severity: 'caution',
        at: [use.end, host.end],
        message: 'interrupted',
        data: { signal: use.end, pin: host.ref },
        why: `${why} Readings fail now and then and must be repeated, and outputs jitter. A driver in the kernel, or a small board that does the timing, helps.`,
        numbers: {},
      })
    }
    const converting = new Set(
      wiring.signals.flatMap(({ facts, hosts }) =>
        facts.needs === 'analog-in' ? hosts.flatMap(({ host }) => host.board ?? []) : [],
      ),
    )
    for (const use of wiring.signals) {
      if (use.facts.needs !== 'interrupt') continue
      for (const { host } of use.hosts) {
        const caution = activeCautions(host).find(({ id }) => id === 'false-edge')
        if (caution === undefined || host.board === undefined || !converting.has(host.board)) continue
        report({
          severity: 'caution',
          at: [use.end, host.end],
          message: 'dips',
          data: { signal: use.end, pin: host.end },
          why: `${caution.text} An edge that wakes the program comes without anything having happened.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}
