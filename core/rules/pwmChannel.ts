import type { Host, SignalUse } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const pwmChannel: Rule = {
  meta: {
    id: 'pwm-channel',
    severities: ['fault'],
    about: 'Two signals that are meant to differ lie on pins of one PWM channel, which gives both the same pulse.',
    messages: { same: '{pins} are one PWM channel: {signals} always get the same pulse.' },
    fixable: false,
  },
  check(wiring, report) {
    for (const board of wiring.boards)
      for (const timer of board.board.timers)
        for (const [name, pins] of Object.entries(timer.channels)) {
          if (pins.length < 2) continue
          const here = new Map<Host, SignalUse[]>()
          for (const use of wiring.signals) {
            if (use.facts.needs !== 'pwm') continue
            for (const { host } of use.hosts)
              if (host.board === board && pins.includes(host.end.slice(board.ref.length + 1)))
                here.set(host, [...(here.get(host) ?? []), use])
          }
          if (here.size < 2) continue
          const hosts = [...here.keys()]
          const uses = [...here.values()].flat()
          report({
            severity: 'fault',
            at: [...uses.map((use) => use.end), ...hosts.map((host) => host.end)],
            message: 'same',
            data: { pins: hosts.map((host) => host.end), signals: uses.map((use) => use.end) },
            why: `Channel ${name} of ${timer.id} has one width and reaches ${listWords(pins.map((pin) => `${board.ref}.${pin}`))}. A pin of another channel gives a pulse of its own.`,
            numbers: {},
          })
        }
  },
}
