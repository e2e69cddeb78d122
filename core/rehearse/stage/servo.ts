import type { PartInstance, Wiring } from '../../wiring/model.ts'
import type { Pulse } from './liveGroups.ts'

/**
 * How the horn of a servo stands, from the pulse on its line: its shortest pulse is one end, its longest the other, half
 * a turn apart. Undefined for a part that is none.
 */
export function pulseDegrees(
  wiring: Wiring,
  part: PartInstance,
  pulseAt: (net: number) => Pulse | undefined,
): string | undefined {
  const use = wiring.signals.find((one) => one.part === part && one.facts.hertz === 50)
  if (!use) return undefined
  const pulse = pulseAt(wiring.netOf(use.end).index)
  if (!pulse?.hertz) return 'rests'
  const micros = (pulse.duty * 1e6) / pulse.hertz
  const amount = (name: string, otherwise: number): number => {
    const found = part.part.asks.find((one) => one.name === name)?.amount
    return typeof found === 'number' ? found : otherwise
  }
  const [least, most] = [amount('pulse-least', 1000), amount('pulse-most', 2000)]
  const degrees = Math.round(((micros - least) / (most - least)) * 180)
  const words = `${(micros / 1000).toFixed(2)} ms`
  if (degrees < -2) return `${words}, pressed beyond 0°`
  if (degrees > 182) return `${words}, pressed beyond 180°`
  return `${words}, ${Math.min(180, Math.max(0, degrees))}°`
}
