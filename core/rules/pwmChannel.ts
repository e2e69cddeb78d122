import type { BoardInstance, Host, SignalUse } from '../wiring/model.ts'
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
    for (const board of wiring.boards) {
      const pulses = new Map<Host, SignalUse[]>()
      for (const use of wiring.signals) {
        if (use.facts.needs !== 'pwm') continue
        for (const { host } of use.hosts)
          if (host.board === board && channelsAt(host).length > 0) pulses.set(host, [...(pulses.get(host) ?? []), use])
      }
      for (const hosts of crowded([...pulses.keys()])) {
        const uses = hosts.flatMap((host) => pulses.get(host) ?? [])
        const channels = [...new Set(hosts.flatMap(channelsAt))]
        report({
          severity: 'fault',
          at: [...uses.map((use) => use.end), ...hosts.map((host) => host.end)],
          message: 'same',
          data: { pins: hosts.map((host) => host.end), signals: uses.map((use) => use.end) },
          why: `${listWords(channels)} ${channels.length === 1 ? 'has one width and reaches' : 'have one width each and reach'} ${listWords(reachedBy(board, channels))}. A pin of another channel gives a pulse of its own.`,
          numbers: {},
        })
      }
    }
  },
}

/** Channels of timers that reach a pin, by name. */
function channelsAt(host: Host): string[] {
  const pin = host.pin
  return (host.board?.board.timers ?? []).flatMap(({ id, channels }) =>
    Object.entries(channels).flatMap(([name, pins]) => (pins.includes(pin) ? [`Channel ${name} of ${id}`] : [])),
  )
}

function reachedBy(board: BoardInstance, channels: readonly string[]): string[] {
  const pins = board.board.timers.flatMap(({ id, channels: all }) =>
    Object.entries(all).flatMap(([name, some]) => (channels.includes(`Channel ${name} of ${id}`) ? some : [])),
  )
  return [...new Set(pins)].map((pin) => `${board.ref}.${pin}`)
}

/** Groups of pins that have fewer channels between them than there are pins: however channels are chosen, two share one. */
function crowded(hosts: readonly Host[]): Host[][] {
  const owners = new Map<string, Host>()
  const groups: Host[][] = []
  for (const host of hosts) {
    const seen = new Set<string>()
    const place = (wanted: Host): boolean =>
      channelsAt(wanted).some((channel) => {
        if (seen.has(channel)) return false
        seen.add(channel)
        const owner = owners.get(channel)
        if (owner !== undefined && !place(owner)) return false
        owners.set(channel, wanted)
        return true
      })
    if (place(host)) continue
    // What the search went through is a set of channels that is full: its owners and this pin are too many for it.
    const full = [...seen].flatMap((channel) => owners.get(channel) ?? [])
    const known = groups.find((group) => group.some((one) => full.includes(one)))
    if (known === undefined) groups.push([...full, host])
    else known.push(host)
  }
  return groups
}
