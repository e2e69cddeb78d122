import { litDiodes } from '../circuit/lit.ts'
import { busPins } from '../wiring/buses.ts'
import type { Bus, Wiring } from '../wiring/model.ts'

/** Current in milliamperes below which a lamp is dark to the eye. */
const DARK = 0.3
/** Share of its most from which a lamp glares. */
const GLARES = 1.5

/** A part without its supply or ground does nothing; one that has none of its own does what its driver does. */
export function isFed(built: Wiring, ref: string): boolean {
  const part = built.parts.find((one) => one.ref === ref)
  return (
    part === undefined ||
    part.supplies.every(
      ({ facts, source, ground }) =>
        !facts.required || (source !== undefined && (facts.ground.length === 0 || ground !== undefined)),
    )
  )
}

/** Ends of the board, or of the part that gives the bus, on which each line of a bus lies. */
export function busEnds(bus: Bus): Map<string, string[]> {
  const owner = bus.board ?? bus.provider
  return new Map(
    owner ? [...busPins(bus)].map(([line, pins]) => [line, [...pins].map((pin) => `${owner.ref}.${pin}`)]) : [],
  )
}

/** True while a line of a bus lies on ground, which keeps everybody on it silent. */
export const isHeldLow = (built: Wiring, lines: ReadonlyMap<string, readonly string[]>): boolean =>
  [...lines.values()].flat().some((end) => built.netOf(end).ground)

/** How a lamp looks while it is on; undefined for what is no lamp, or gets no current. */
export function glows(wiring: Wiring, ref: string): 'dark' | 'well' | 'glaring' | undefined {
  const light = litDiodes(wiring).find(({ part }) => part.ref === ref)
  if (!light) return undefined
  return light.milliamps <= DARK ? 'dark' : light.milliamps > light.most * GLARES ? 'glaring' : 'well'
}
