import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { groundEnd, supplyEnd } from '../wiring/supply.ts'
import type { Decision } from './feedAndTie.ts'

/** What a used driver still lacks: inputs and enables that need a pin, and wires that need none. */
export interface Unfinished {
  readonly signals: readonly SignalUse[]
  readonly wires: readonly Decision[]
}

/**
 * Channels of drivers that carry a load, looked at once more: an input that waits wants a pin of its own, also where the
 * part can do without it; so does an enable that takes pulses. A plain enable is held at its level. The pin on which the
 * diodes of a driver meet goes to the supply of its load.
 */
export function unfinishedDrivers(wiring: Wiring, wanted: (ref: string) => boolean): Unfinished {
  const signals = new Map<string, SignalUse>()
  const wires = new Map<string, Decision>()
  const wire = (from: string, to: string | undefined, why: string): void => {
    if (to !== undefined && !wires.has(from)) wires.set(from, { edits: [{ do: 'connect', from, to }], from, to, why })
  }
  const { channels } = circuitOf(wiring)
  for (const channel of channels) {
    const { part } = channel
    if (channel.loads.length === 0 || !wanted(part.ref)) continue
    for (const end of channel.inputs) {
      const use = waiting(wiring, end)
      if (use) signals.set(end, use)
    }
    for (const { end, active, held } of channel.enables) {
      const use = waiting(wiring, end)
      if (held || !use) continue
      if (use.facts.needs === 'pwm') signals.set(end, use)
      else
        wire(
          end,
          active === 'high' ? supplyEnd(wiring, part) : groundEnd(wiring, part),
          `holds the outputs on: ${use.facts.text ?? 'enable'}`,
        )
    }
    const clamp = part.part.provides.find((one) => one.pins.includes(pinOf(channel)))?.clamp
    const coil = channel.loads.some((one) => one.kind === 'winding' || one.part.part.inner.some(isWinding))
    if (clamp === undefined || !coil || wiring.netOf(`${part.ref}.${clamp}`).wired) continue
    // Where the diodes meet at the supply of the driver, it is fed like any other.
    if (part.supplies.some(({ pins }) => pins.includes(`${part.ref}.${clamp}`))) continue
    // Of several supplies the highest: from one above it the diodes would conduct all the time.
    const [source] = channels
      .filter((one) => one.part === part)
      .flatMap((one) => one.loads.flatMap((load) => supplyOf(wiring, one, load) ?? []))
      .sort((a, b) => voltsAt(wiring, b) - voltsAt(wiring, a))
    wire(`${part.ref}.${clamp}`, source, 'the diodes lead the current of the winding back to its supply')
  }
  return { signals: [...signals.values()], wires: [...wires.values()] }
}

const pinOf = ({ part, output }: DriverChannel): string => output.slice(part.ref.length + 1)

const voltsAt = (wiring: Wiring, end: string): number => wiring.netOf(end).sources[0]?.volts ?? 0

const isWinding = ({ kind }: { readonly kind: string }): boolean => kind === 'winding'

/** The signal of a pin that nothing moves and nothing holds. */
function waiting(wiring: Wiring, end: string): SignalUse | undefined {
  const use = wiring.signal(end)
  return use && use.state === 'open' && railOf(wiring.netOf(end)) === undefined ? use : undefined
}

/** The source on the other side of a load: straight, or that of the part in which the winding lies. */
function supplyOf(wiring: Wiring, { output }: DriverChannel, load: DriverChannel['loads'][number]): string | undefined {
  const net = wiring.netOf(output)
  const far = load.netA === net ? load.netB : load.netA
  return far.sources[0]?.end ?? load.part.supplies.find(({ source }) => source)?.source?.end
}
