import { helpersFor } from '../catalog/catalog.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import { freshRef } from '../plan/refs.ts'
import { busNeed } from './buses.ts'
import type { PartInstance, SignalUse, Wiring } from './model.ts'
import { sourcesOf } from './supply.ts'

/** Fastest clock that it passes, in hertz. */
const MOST_HERTZ = 400_000

/**
 * Leads a signal, and with an I2C signal both lines of its part, over channels of a level shifter: one of the plan
 * whose sides have the right supplies, or a new one. Nothing where a wire is locked, a supply is missing, or the line
 * is too fast.
 */
export function shifterEdits(wiring: Wiring, use: SignalUse): Fix[] {
  const [facts] = helpersFor(wiring.catalog, 'level-shifter')
  const hostVolts = use.hosts[0]?.host.logicVolts
  const partVolts = use.part.logicVolts
  const bus = busNeed(use.facts.needs)
  const fast = bus?.kind === 'spi' && (use.part.mode?.spi?.most ?? 0) > MOST_HERTZ
  if (
    !facts ||
    hostVolts === undefined ||
    partVolts === undefined ||
    hostVolts === partVolts ||
    // A strip's bits are shorter than the shifter's edges; an echo or a code from a receiver is a thousand times longer.
    (use.facts.timing && use.facts.direction !== 'out') ||
    use.facts.needs.startsWith('analog') ||
    fast
  )
    return []
  const uses =
    bus?.kind === 'i2c'
      ? wiring.signals.filter((one) => one.part === use.part && busNeed(one.facts.needs)?.kind === 'i2c')
      : [use]
  const channels = facts.inner.filter((one) => one.kind === 'shift')
  const free = (part: PartInstance) =>
    channels.filter((one) => one.between.every((pin) => !wiring.netOf(`${part.ref}.${pin}`).wired))
  const [low, high] = [Math.min(hostVolts, partVolts), Math.max(hostVolts, partVolts)]
  const volts = (part: PartInstance, pin: string): number | undefined =>
    wiring.netOf(`${part.ref}.${pin}`).sources[0]?.volts
  const there = wiring.parts.find(
    (part) =>
      part.part.id === facts.id &&
      volts(part, 'LV') === low &&
      volts(part, 'HV') === high &&
      free(part).length >= uses.length,
  )
  const edits: Edit[] = []
  let ref = there?.ref
  if (ref === undefined) {
    const supplies = [low, high].map((one) => sourcesOf(wiring).find((source) => source.volts === one)?.end)
    const ground = use.hosts[0]?.host.board?.ground.ends.find(
      (end) => wiring.terminal(end)?.boardPin?.kind === 'ground',
    )
    if (supplies.some((one) => one === undefined) || ground === undefined) return []
    ref = freshRef(wiring.plan, facts.stem, 1)[0] as string
    edits.push(
      { do: 'add-part', ref, entry: { part: facts.id, title: `levels of ${use.part.ref}` } },
      { do: 'connect', from: `${ref}.LV`, to: supplies[0] as string },
      { do: 'connect', from: `${ref}.HV`, to: supplies[1] as string },
      { do: 'connect', from: `${ref}.GND`, to: ground },
    )
  }
  const open = there ? free(there) : channels
  for (const [index, one] of uses.entries()) {
    const host = one.hosts[0]?.host
    const wire = wiring.plan.wires.find(
      (each) =>
        [each[0], each[1]].includes(one.end) && wiring.terminal(each[0] === one.end ? each[1] : each[0])?.host === host,
    )
    const channel = open[index]
    if (!host || !wire || wire[2]?.locked || !channel) return []
    const pin = wire[0] === one.end ? wire[1] : wire[0]
    const [lowPin, highPin] = channel.between.map((leg) => `${ref}.${leg}`) as [string, string]
    edits.push(
      { do: 'disconnect', from: wire[0], to: wire[1] },
      { do: 'connect', from: one.end, to: partVolts === low ? lowPin : highPin },
      { do: 'connect', from: partVolts === low ? highPin : lowPin, to: pin },
    )
  }
  const lines = uses.map((one) => one.end).join(' and ')
  return [{ title: `Lead ${lines} over ${there ? ref : 'a level shifter'}`, edits }]
}
