import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { RECOMMENDED_SLACK } from '../circuit/pinLoads.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { isTimed } from '../wiring/needs.ts'
import { weightOf } from './preferences.ts'

/** Current in milliamperes with which a lamp is still seen. */
const SEEN_MILLIAMPS = 1

/** A contact, a lamp, a segment: it asks for nothing but a level, and has time. */
export const isPlain = (use: SignalUse): boolean =>
  use.part.part.build === 'component' &&
  use.part.part.channels.length === 0 &&
  !use.facts.actuator &&
  !isTimed(use) &&
  (use.facts.needs === 'digital-in' || use.facts.needs === 'digital-out')

/**
 * What an expander is in the kit for: a PWM chip for servos and dimmed lamps, a converter for what is analog, ports and
 * registers for contacts, and for lamps as far as they give the current. A switch of lines lights one lamp of many, so
 * none goes there. Not so for a maker who wants them kept off.
 */
export function isMadeFor(wiring: Wiring, host: Host, use: SignalUse): boolean {
  const { functions, provider, current, pin } = host
  if (provider?.part.category !== 'expander' || weightOf(wiring.plan, 'expanders') > 1) return false
  const { needs } = use.facts
  if (needs === 'pwm') return functions.has('pwm') && !functions.has('digital-in')
  if (needs === 'analog-in') return functions.has('analog-in')
  if (!isPlain(use) || !functions.has(needs)) return false
  if (needs === 'digital-in') return true
  if (['choose', 'decode'].includes(provider.part.behaves?.as ?? '')) return false
  const bears = current?.source ?? current?.recommended ?? current?.absolute ?? Number.POSITIVE_INFINITY
  const milliamps = lampMilliamps(wiring, use, host)
  // With all its lamps lit it may give more than is recommended for each, as long as the chip bears all of them.
  const row = provider.part.provides.find(({ pins }) => pins.includes(pin))
  const share = row?.together === undefined ? 0 : row.together / Math.min(row.pins.length, lampsOf(wiring))
  return milliamps <= bears * RECOMMENDED_SLACK || milliamps <= Math.min(share, current?.absolute ?? share)
}

/** How many lamps of a plan ask for nothing but a level. */
const lampsOf = memo((wiring: Wiring): number => {
  const circuit = circuitOf(wiring)
  return wiring.signals.filter(
    (use) =>
      isPlain(use) &&
      use.facts.needs === 'digital-out' &&
      circuit.on(wiring.netOf(use.end)).some(({ lights, part }) => lights && part === use.part),
  ).length
})

/** What a lamp takes through its resistor; one that is to be bought takes what is wanted. */
function lampMilliamps(wiring: Wiring, use: SignalUse, { logicVolts: at, levels }: Host): number {
  const circuit = circuitOf(wiring)
  const here = wiring.netOf(use.end)
  const lamp = circuit.on(here).find(({ lights, part }) => lights && part === use.part)
  if (!lamp) return 0
  const resistor = circuit.on(here).find(({ kind, part }) => kind === 'resistor' && part !== use.part)
  if (!resistor || entryOf(wiring.plan.parts, resistor.part.ref)?.buy) return SEEN_MILLIAMPS
  if (at === undefined) return Number.POSITIVE_INFINITY
  return ((at - (lamp.forward ?? 0)) / ((resistor.ohms ?? 1) + (levels.outputOhms ?? 0))) * 1000
}
