import { volts } from '../catalog/common.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { circuitOf } from './circuit.ts'

/** Share of a resistance by which it may fall short, as resistors of a series do. */
const TOLERANCE = 0.9

/**
 * Most volts that a pin of a part bears at its supply: more where nothing but a resistor as large as its data sheet asks
 * for leads to it.
 */
export function mostBorneBy(wiring: Wiring, use: SignalUse, supply: number | undefined): number | undefined {
  const most = volts(levelsOf(use).most, supply)
  const more = use.facts.bears
  if (!more || most === undefined || most >= more.volts) return most
  const here = wiring.netOf(use.end)
  if (here.ends.some((end) => wiring.terminal(end)?.host)) return most
  const isBehind = circuitOf(wiring)
    .on(here)
    .some(({ kind, ohms, netA, netB }) => {
      const other = netA === here ? netB : netA
      const isRail = other.ground || other.sources.length > 0
      return kind === 'resistor' && !isRail && (ohms ?? 0) >= more.through * TOLERANCE
    })
  return isBehind ? more.volts : most
}
