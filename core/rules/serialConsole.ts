import { rewire } from '../assign/rewire.ts'
import type { Caution } from '../catalog/boardSchema.ts'
import { hostsBeyond } from '../circuit/lines.ts'
import type { Fix } from '../plan/edit.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Host } from '../wiring/model.ts'
import { serialLines } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { usesByHost } from './shared.ts'

export const serialConsole: Rule = {
  meta: {
    id: 'serial-console',
    severities: ['fault', 'caution'],
    about:
      'A pin belongs to the USB serial pair or to the boot console in use. A fault when a part drives the line too; a caution where another board is joined.',
    messages: {
      against: '{names} {names:works/work} against {by} on {pin}.',
      hangs: '{names} {names:hangs/hang} on {pin}, which {by} uses.',
      boards: '{names} of another board {names:is/are} joined with {pin}, which {by} uses.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      const caution = consoleOf(host)
      if (!caution || !host.board) continue
      const drivers = uses.filter(
        (use) => ['out', 'both', 'open-drain'].includes(use.facts.direction) || use.facts.needs.startsWith('uart.'),
      )
      const names = uses.map((use) => use.end)
      const feature = caution.feature
      report({
        severity: drivers.length > 0 ? 'fault' : 'caution',
        at: [host.end, ...names],
        message: drivers.length > 0 ? 'against' : 'hangs',
        data: { names, by: byOf(caution), pin: host.end },
        why: `${caution.text} ${drivers.length > 0 ? 'Two talkers on one line garble each other, and uploading may fail until the wire is pulled.' : 'What hangs there will twitch with every upload and every printed line.'}`,
        numbers: {},
        propose: (): readonly Fix[] => {
          const moves = uses.flatMap((use) => rewire(wiring, use))
          if (feature === undefined || feature === 'usb-serial' || !host.board) return moves
          return [...moves, ...withoutFeature(host.board, feature)]
        },
      })
    }
    for (const [end, others] of hostsBeyond(wiring)) {
      const host = wiring.hosts.get(end)!
      const caution = consoleOf(host)
      if (!caution || !host.board || sendsOnly(host)) continue
      const { board } = host
      report({
        severity: 'caution',
        at: [end, ...others.map((one) => one.end)],
        message: 'boards',
        data: { names: others.map((one) => one.end), by: byOf(caution), pin: end },
        why: `${caution.text} What one board sends meets uploads and printed lines on the same wire: pull the wire for every upload, or join the boards at other pins.`,
        numbers: {},
        propose: () =>
          caution.feature === undefined || caution.feature === 'usb-serial'
            ? []
            : withoutFeature(board, caution.feature),
      })
    }
  },
}

const consoleOf = (host: Host): Caution | undefined =>
  activeCautions(host).find((one) => one.id === 'usb-serial' || one.id === 'serial-console')

/** A pin on which another board can only listen. */
const sendsOnly = (host: Host): boolean => {
  const lines = serialLines(host)
  return lines.length > 0 && lines.every(({ line }) => line === 'tx')
}

const byOf = ({ id }: Caution): string => (id === 'usb-serial' ? 'USB serial' : 'the serial console')
