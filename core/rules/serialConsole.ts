import { rewire } from '../assign/rewire.ts'
import type { Fix } from '../plan/edit.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { listWords, usesByHost } from './shared.ts'

export const serialConsole: Rule = {
  meta: {
    id: 'serial-console',
    severities: ['fault', 'caution'],
    about:
      'A pin belongs to the USB serial pair or to the boot console in use. A fault when the part drives the line too.',
    messages: { against: '{names} works against {by} on {pin}.', hangs: '{names} hangs on {pin}, which {by} uses.' },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      const caution = activeCautions(host).find((one) => one.id === 'usb-serial' || one.id === 'serial-console')
      if (!caution || !host.board) continue
      const drivers = uses.filter(
        (use) => ['out', 'both', 'open-drain'].includes(use.facts.direction) || use.facts.needs.startsWith('uart.'),
      )
      const names = listWords(uses.map((use) => use.end))
      const feature = caution.feature
      report({
        severity: drivers.length > 0 ? 'fault' : 'caution',
        at: [host.end, ...uses.map((use) => use.end)],
        message: drivers.length > 0 ? 'against' : 'hangs',
        data: { names, by: caution.id === 'usb-serial' ? 'USB serial' : 'the serial console', pin: host.end },
        why: `${caution.text} ${drivers.length > 0 ? 'Two talkers on one line garble each other, and uploading may fail until the wire is pulled.' : 'What hangs there will twitch with every upload and every printed line.'}`,
        numbers: {},
        propose: (): readonly Fix[] => {
          const moves = uses.flatMap((use) => rewire(wiring, use))
          if (feature === undefined || feature === 'usb-serial' || !host.board) return moves
          return [...moves, ...withoutFeature(host.board, feature)]
        },
      })
    }
  },
}
