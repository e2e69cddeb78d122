import { memo } from '../base/memo.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { speakAtOnce } from '../wiring/soundSlots.ts'

const byHost = memo((wiring: Wiring) => {
  const uses = new Map<Host, SignalUse[]>()
  for (const use of wiring.signals)
    for (const one of use.hosts) uses.set(one.host, [...(uses.get(one.host) ?? []), use])
  return uses
})

/** Signals that reach a host, switched loads included. */
export const usesOn = (wiring: Wiring, host: Host): readonly SignalUse[] => byHost(wiring).get(host) ?? []

/** Lines of a bus that many parts share, of the same name. */
export const sameSharedBus = (a: SignalUse, b: SignalUse): boolean => {
  const need = busNeed(a.facts.needs)
  return (
    need !== undefined &&
    (need.kind === 'i2c' || need.kind === 'spi' || need.kind === 'i2s') &&
    need.signal !== 'cs' &&
    a.facts.needs === b.facts.needs &&
    (need.signal !== 'din' || !speakAtOnce(a.part, b.part))
  )
}
