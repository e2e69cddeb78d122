import { circuitOf } from '../circuit/circuit.ts'
import { RECOMMENDED_SLACK } from '../circuit/pinLoads.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { isPlain, lampMilliamps, SEEN_MILLIAMPS, usualMilliamps } from './madeFor.ts'
import { pickedLevel } from './oneAtATime.ts'
import { weightOf } from './preferences.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'

/**
 * Puts lamps with their plus on the supply of an expander of the kit that pulls low well and gives next to nothing when
 * high, or of a decoder of which one output at a time is low: they light while it pulls. As many as it has pins left for,
 * contacts first.
 */
export function sinkLamps(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const pins = weightOf(wiring.plan, 'expanders') > 1 ? [] : sinkingPins(wiring, wanted)
  if (pins.length === 0) return { wiring, decisions, refused: [] }
  const contacts = wiring.signals.filter(
    (use) => use.state === 'open' && isPlain(use) && use.facts.needs === 'digital-in' && wanted(use.part.ref),
  ).length
  const reading = pins.filter(({ functions }) => functions.has('digital-in'))
  const free = pins.filter((one) => reading.length - reading.indexOf(one) > contacts || !reading.includes(one))
  for (const use of wiring.signals) {
    if (!wanted(use.part.ref) || !isLoneLamp(wiring, use)) continue
    const takes = (host: Host): number => lampMilliamps(wiring, use, host, usualMilliamps(use, host))
    const at = free.findIndex((host) => takes(host) <= sinks(host) * RECOMMENDED_SLACK)
    const [pin] = at < 0 ? [] : free.splice(at, 1)
    const source = pin?.provider?.supplies[0]?.source
    if (!pin || !source) continue
    // Where a resistor hangs on its plus already, that one leads to the supply.
    const why = `lights while ${pin.provider?.ref} pulls its other leg to ground`
    decisions.push(connect(use.tail, source.end, why))
  }
  return { wiring: after(wiring, decisions), decisions, refused: [] }
}

/** Free pins of expanders that pull low, and cannot light a lamp when high. */
const sinkingPins = (wiring: Wiring, wanted: (ref: string) => boolean): Host[] =>
  [...wiring.hosts.values()].filter((host) => {
    const { provider, functions, current } = host
    if (provider?.part.category !== 'expander' || !wanted(provider.ref) || wiring.netOf(host.end).wired) return false
    if (!functions.has('digital-out')) return false
    return pickedLevel(host) === 'low' || (current?.source !== undefined && current.source < SEEN_MILLIAMPS)
  })

/** Milliamperes that a pin takes while it is low. */
const sinks = ({ current }: Host): number => current?.recommended ?? current?.sink ?? current?.absolute ?? 0

/** A lamp of two legs that would light while a pin is high, and has no wire yet but to the resistor before it. */
function isLoneLamp(wiring: Wiring, use: SignalUse): boolean {
  if (use.state !== 'open' || !isPlain(use) || use.facts.needs !== 'digital-out' || use.facts.activeLevel !== 'high')
    return false
  const { part } = use
  const here = wiring.netOf(use.end)
  const legs = part.part.pins.map(({ id }) => wiring.netOf(`${part.ref}.${id}`))
  const isFree = legs.length === 2 && legs.every((net) => !net.wired || (net === here && use.tail !== use.end))
  return (
    isFree &&
    circuitOf(wiring)
      .on(here)
      .some((one) => one.lights && one.part === part)
  )
}
