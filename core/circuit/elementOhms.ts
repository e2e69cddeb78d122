import { WIRE_OHMS } from '../electrical/network.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Element, Port } from './circuit.ts'

/** Milliseconds do not matter here: a closed contact is a piece of wire. */
export const CLOSED_OHMS = WIRE_OHMS

/** A transistor that conducts: enough to see a short, too little to change what a load gets. */
export const ON_OHMS = 0.1

/** Ohms of an element that conducts both ways; of a load from what it takes at its usual voltage. */
export function ohmsOf(element: Element): number | undefined {
  if (element.ohms !== undefined) return element.ohms
  if (element.runs === undefined || element.runs <= 0) return undefined
  const supply = element.part.part.supplies[0]
  const rated = supply?.usual ?? supply?.least ?? chosenFact(element.part, 'volts') ?? 5
  return (rated / element.runs) * 1000
}

/** Resistance of an output stage in ohms; where no source gives it, none. */
export function outputOhms(port: Port): number {
  const levels = port.use ? levelsOf(port.use) : port.host?.levels
  return Math.max(levels?.outputOhms ?? 0, WIRE_OHMS)
}
