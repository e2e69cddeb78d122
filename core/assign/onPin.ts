import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'

const usesCache = new WeakMap<Wiring, Map<Host, SignalUse[]>>()

/** Signals that reach a host, switched loads included. */
export function usesOn(wiring: Wiring, host: Host): readonly SignalUse[] {
  let byHost = usesCache.get(wiring)
  if (!byHost) {
    byHost = new Map()
    for (const use of wiring.signals)
      for (const one of use.hosts) byHost.set(one.host, [...(byHost.get(one.host) ?? []), use])
    usesCache.set(wiring, byHost)
  }
  return byHost.get(host) ?? []
}

/** Lines of a bus that many parts share, of the same name. */
export const sameSharedBus = (a: SignalUse, b: SignalUse): boolean => {
  const need = busNeed(a.facts.needs)
  return (
    need !== undefined &&
    (need.kind === 'i2c' || need.kind === 'spi') &&
    need.signal !== 'cs' &&
    a.facts.needs === b.facts.needs
  )
}
