import type { Edit, Fix } from '../plan/edit.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { meets } from '../wiring/needs.ts'
import { candidates } from './candidates.ts'

/** Wires that hang a signal on the hosts it reaches: its own, or those of the resistor before the host. */
export function wiresOf(wiring: Wiring, use: SignalUse): PlanWire[] {
  return use.hosts.flatMap(({ host, via }) => {
    const hostNet = wiring.netOf(host.end)
    const owner = via.at(-1)
    const mine = wiring.plan.wires.filter((wire) =>
      [wire[0], wire[1]].some(
        (end) => (owner === undefined ? end === use.end : end.startsWith(`${owner}.`)) && wiring.netOf(end) === hostNet,
      ),
    )
    // A pull-up or a capacitor at the signal's own pin stays there when the pin has a wire to the host itself.
    const direct = mine.filter((wire) => [wire[0], wire[1]].some((end) => wiring.terminal(end)?.host === host))
    return direct.length > 0 ? direct : mine
  })
}

/** Edits that take a signal off every host it reaches; undefined when a locked wire holds it. */
export function detach(wiring: Wiring, use: SignalUse): Edit[] | undefined {
  const wires = wiresOf(wiring, use)
  if (wires.some((wire) => wire[2]?.locked)) return undefined
  return wires.map((wire) => ({ do: 'disconnect', from: wire[0], to: wire[1] }))
}

/** The end that is wired to a host: the signal's own, or the far leg of the resistor in series. */
function attachEnd(wiring: Wiring, use: SignalUse): string {
  const link = use.hosts[0]
  if (!link || link.via.length === 0) return use.tail
  const last = link.via.at(-1)
  const hostNet = wiring.netOf(link.host.end)
  return hostNet.ends.find((end) => end.startsWith(`${last}.`)) ?? use.tail
}

/** Edits that hang a signal on a host, taking it off where it was. */
export function place(wiring: Wiring, use: SignalUse, host: Host): Edit[] | undefined {
  const off = detach(wiring, use)
  if (!off) return undefined
  return [...off, { do: 'connect', from: attachEnd(wiring, use), to: host.end }]
}

/** Placed signals with which a signal could change places: each pin can do what the other signal needs. */
export function swapPartners(wiring: Wiring, use: SignalUse): SignalUse[] {
  const here = use.hosts[0]?.host
  if (!here) return []
  return wiring.signals.filter((other) => {
    const there = other.hosts[0]?.host
    return (
      there !== undefined &&
      other !== use &&
      there !== here &&
      !other.locked &&
      meets(there, use) !== undefined &&
      meets(here, other) !== undefined
    )
  })
}

/** Edits by which two placed signals change places; undefined when a locked wire holds one of them. */
export function swapSignals(wiring: Wiring, a: SignalUse, b: SignalUse): Edit[] | undefined {
  const [offA, offB] = [detach(wiring, a), detach(wiring, b)]
  const [hostA, hostB] = [a.hosts[0]?.host, b.hosts[0]?.host]
  if (!offA || !offB || !hostA || !hostB) return undefined
  return [
    ...offA,
    ...offB,
    { do: 'connect', from: attachEnd(wiring, a), to: hostB.end },
    { do: 'connect', from: attachEnd(wiring, b), to: hostA.end },
  ]
}

/** The two best other pins for a signal, as fixes. */
export function rewire(wiring: Wiring, use: SignalUse): Fix[] {
  const here = new Set(use.hosts.map(({ host }) => host))
  return candidates(wiring, use)
    .filter((one) => one.blocked === undefined && !here.has(one.host))
    .slice(0, 2)
    .flatMap((one): Fix[] => {
      const edits = place(wiring, use, one.host)
      return edits && edits.length > 1 ? [{ title: `Move ${use.end} to ${one.host.end}`, edits }] : []
    })
}
