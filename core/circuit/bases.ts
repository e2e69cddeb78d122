import { chosenFact } from '../wiring/chosen.ts'
import type { Wiring } from '../wiring/model.ts'
import { circuitOf, type DriverChannel, type Element } from './circuit.ts'
import { drivenLoads, ratingOf } from './loads.ts'
import { verdictsOf } from './verdicts.ts'

/** Share of its current more than which a load's transistor has to be able to carry, so that it conducts fully. */
export const BASE_RESERVE = 1.5

/** What a transistor's base gets, and what it has to carry; currents in milliamperes. */
export interface BaseDrive {
  readonly channel: DriverChannel
  readonly load: Element
  /** Least current gain of the model chosen. */
  readonly gain: number
  /** Current into the base while its pin is high. */
  readonly forward: number
  /** Current of the load while it runs. */
  readonly runs: number
}

/** Bases that are driven, of transistors whose load is within their rating: above it no base current helps. */
export function baseDrives(wiring: Wiring): BaseDrive[] {
  const circuit = circuitOf(wiring)
  // Of a pair in which one drives the base of the other, the second multiplies what the first lets through.
  const bases = new Set(circuit.channels.flatMap(({ inputs }) => inputs.map((end) => wiring.netOf(end))))
  const drivesBase = ({ part: { ref, part } }: DriverChannel): boolean =>
    part.pins.some(({ id, role }) => role === 'ground' && bases.has(wiring.netOf(`${ref}.${id}`)))
  return drivenLoads(circuit).flatMap(({ element: load, channels }) =>
    channels.flatMap((channel): BaseDrive[] => {
      const gain = chosenFact(channel.part, 'gain')
      const junction = circuit.elements.find((one) => one.kind === 'diode' && channel.inputs.includes(one.a))
      const flow = junction && verdictsOf(wiring).through(junction)
      if (gain === undefined || !flow || load.runs === undefined || flow.forward <= 0) return []
      if (drivesBase(channel)) return []
      if (load.runs > (ratingOf(channel).most ?? Number.POSITIVE_INFINITY)) return []
      return [{ channel, load, gain, forward: flow.forward, runs: load.runs }]
    }),
  )
}
