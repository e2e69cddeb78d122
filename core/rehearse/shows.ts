import { circuitOf } from '../circuit/circuit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { StageBoard } from './stage/board.ts'
import { pulseDegrees } from './stage/servo.ts'

/**
 * Share of its current from which on a load is said to run. Pulses bring it all of its current now and then, so that it
 * runs at less on average.
 */
const SHARE = 0.3
const PULSED_SHARE = 0.1

/** What every part shows that shows anything. */
export function showsOf(wiring: Wiring, stage: StageBoard): Record<string, string> {
  return Object.fromEntries(
    wiring.parts.flatMap((part) => {
      const words = showOf(wiring, stage, part)
      return words === undefined ? [] : [[part.ref, words]]
    }),
  )
}

/** What moves or switches by itself before any program has said anything; lamps do no harm. */
export function ranAtOnce(wiring: Wiring, stage: StageBoard): Map<string, string> {
  const lamps = new Set(circuitOf(wiring).elements.flatMap(({ lights, part }) => (lights ? [part] : [])))
  return new Map(
    wiring.parts.flatMap((part) => {
      const words = lamps.has(part) ? undefined : showOf(wiring, stage, part)
      return words?.startsWith('runs') ? [[part.ref, words]] : words === 'on' ? [[part.ref, 'is on']] : []
    }),
  )
}

/** Milliamperes from which a lamp is seen to light. */
const LIT = 0.2

export function showOf(wiring: Wiring, stage: StageBoard, part: PartInstance): string | undefined {
  const { live } = stage
  const told = stage.told.get(part.ref)
  if (told !== undefined) return told
  const own = circuitOf(wiring).elements.filter((element) => element.part === part)
  const lamps = own.filter(({ lights }) => lights)
  if (lamps.length > 0) {
    const lit = lamps
      .map((element) => ({ element, milliamps: live.milliamps(element) }))
      .filter(({ milliamps }) => milliamps > LIT)
    if (lit.length === 0) return 'off'
    const words = (milliamps: number): string => `${milliamps.toFixed(1)} mA`
    return lamps.length === 1
      ? `on, ${words(lit[0]!.milliamps)}`
      : lit
          .map(({ element, milliamps }) => `${element.a.slice(part.ref.length + 1)} on, ${words(milliamps)}`)
          .join('; ')
  }
  const angle = pulseDegrees(wiring, part, (net) => live.pulseAt(net))
  if (angle !== undefined) return angle
  const loads = own.filter(({ kind, runs }) => (kind === 'load' || kind === 'winding') && (runs ?? 0) > 0)
  if (loads.length > 0) {
    const runs = loads.filter(
      (element) =>
        Math.abs(live.milliamps(element)) > (live.isPulsed(element) ? PULSED_SHARE : SHARE) * (element.runs ?? 1),
    )
    if (runs.length === 0) return 'rests'
    return runs
      .map(
        (element) =>
          `runs ${live.milliamps(element) > 0 ? 'forwards' : 'backwards'}, ${Math.abs(live.milliamps(element)).toFixed(0)} mA`,
      )
      .join('; ')
  }
  const actuator = wiring.signals.find((use) => use.part === part && use.facts.actuator)
  if (actuator) {
    const net = wiring.netOf(actuator.end)
    const pulse = live.pulseAt(net.index)
    if (pulse) return `${Math.round(pulse.hertz ?? 0)} Hz, ${Math.round(pulse.duty * 100)} %`
    const at = live.volts(net.index)
    if (at === undefined) return 'floats'
    return at > 1.4 === (actuator.facts.activeLevel !== 'low') ? 'on' : 'off'
  }
  return undefined
}
