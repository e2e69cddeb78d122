import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import type { Signal } from '../catalog/signalSchema.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { RECOMMENDED_SLACK } from '../circuit/pinLoads.ts'
import { chosenFact } from '../wiring/chosen.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { isTimed } from '../wiring/needs.ts'
import { weightOf } from './preferences.ts'

/** Current in milliamperes with which a lamp is still seen. */
export const SEEN_MILLIAMPS = 1

/** A contact, a lamp, a segment: it asks for nothing but a level, and has time. */
export const isPlain = (use: SignalUse): boolean =>
  use.part.part.build === 'component' &&
  use.part.part.channels.length === 0 &&
  !use.facts.actuator &&
  !use.facts.moves &&
  !isTimed(use) &&
  (use.facts.needs === 'digital-in' || use.facts.needs === 'digital-out')

/** A level that may take its time, read or given: of a relay, a touch sensor, a switch behind a transistor. */
const isSlow = ({
  needs,
  orElse,
  hertz,
  pulseSeconds,
  serial,
  moves,
  stream,
  alternates,
  timing,
  pullMostOhms,
}: Signal): boolean =>
  (needs === 'digital-in' || needs === 'digital-out') &&
  [orElse, hertz, pulseSeconds, pullMostOhms].every((fact) => fact === undefined) &&
  !serial &&
  !moves &&
  !stream &&
  !alternates &&
  !timing

/** No contact, no lamp, and nothing whose brightness or speed could go over a slow switch, is in the plan. */
const isIdleOtherwise = memo(
  (wiring: Wiring): boolean => !wiring.signals.some((use) => isPlain(use) || use.facts.graded),
)

/**
 * What an expander carries that would have nothing to do otherwise: switches and sensors that know nothing but slow levels,
 * unless they would move before the program has set them.
 */
const isForIdle = (wiring: Wiring, { provider, starts }: Host, { part, facts }: SignalUse): boolean =>
  provider?.part.behaves?.as !== 'choose' &&
  part.part.channels.length < 2 &&
  part.part.signals.every(isSlow) &&
  isIdleOtherwise(wiring) &&
  !(facts.actuator && (starts === undefined || starts === 'any' || starts === facts.activeLevel))

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
  if (!functions.has(needs)) return false
  if (!isPlain(use)) return isForIdle(wiring, host, use)
  if (needs === 'digital-in') return true
  if (provider.part.behaves?.as === 'choose') return false
  const way = use.facts.activeLevel === 'low' ? current?.recommended : (current?.source ?? current?.recommended)
  const bears = way ?? current?.absolute ?? Number.POSITIVE_INFINITY
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

/** What a lamp takes through its resistor; `wanted` with one that is to be bought, or still lacks. */
export function lampMilliamps(
  wiring: Wiring,
  use: SignalUse,
  { logicVolts: at, levels }: Host,
  wanted = SEEN_MILLIAMPS,
): number {
  const circuit = circuitOf(wiring)
  const ends = use.part.part.pins.map(({ id }) => wiring.netOf(`${use.part.ref}.${id}`))
  const lamp = circuit.on(wiring.netOf(use.end)).find(({ lights, part }) => lights && part === use.part)
  if (!lamp) return 0
  // On either side of it the resistor does.
  const resistor = ends
    .flatMap((net) => circuit.on(net))
    .find((one) => one.kind === 'resistor' && one.part !== use.part)
  if (!resistor || entryOf(wiring.plan.parts, resistor.part.ref)?.buy) return wanted
  if (at === undefined) return Number.POSITIVE_INFINITY
  return ((at - (lamp.forward ?? 0)) / ((resistor.ohms ?? 1) + (levels.outputOhms ?? 0))) * 1000
}

/** What a lamp takes at a pin through the resistor that its entry asks for. */
export function usualMilliamps({ part }: SignalUse, { logicVolts: at = 0 }: Host): number {
  const ohms = part.part.companions.find(({ series }) => series !== undefined)?.options.ohms
  const forward = chosenFact(part, 'forward') ?? 0
  return typeof ohms === 'number' ? ((at - forward) / ohms) * 1000 : Number.POSITIVE_INFINITY
}
