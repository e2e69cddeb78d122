import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const driverPlacedMessages = {
  alike: '{part} between {output} and {other} never moves: {inputs} always say the same.',
  highSide: '{part} lies between the supply and its load: {end} is not on ground, and {part} switches to ground only.',
}

/** A load between two outputs that always say the same: both inputs on one line, or at one level for good. */
export function sayAlike(wiring: Wiring, report: (one: Report) => void): void {
  for (const { element, channels } of drivenLoads(circuitOf(wiring))) {
    const [one, ...others] = channels
    const two = others.find(({ output }) => wiring.netOf(output) !== wiring.netOf(one?.output ?? ''))
    if (!one || !two || one.part !== two.part || one.facts.supply === undefined) continue
    const level = ({ inputs }: DriverChannel): string =>
      inputs.map((end) => railOf(wiring.netOf(end))?.volts ?? `net ${wiring.netOf(end).index}`).join(' ')
    // Halves that one input moves against each other, as in an amplifier.
    const opposed = one.inputs.length === 0 || one.inputs.every((end) => two.inputs.includes(end))
    if (opposed || one.inputs.some((end) => !isMoved(wiring, end)) || level(one) !== level(two)) continue
    report({
      severity: 'fault',
      at: [one.output, two.output, ...one.inputs, ...two.inputs, element.part.ref],
      message: 'alike',
      data: { part: element.part.ref, output: one.output, other: two.output, inputs: [...one.inputs, ...two.inputs] },
      why: 'Current flows through the load only while one output is high and the other low. Give each input a pin of its own, or an inverted signal.',
      numbers: {},
    })
  }
}

/** A transistor that switches to ground, put between the supply and the load. */
export function sayHighSide(wiring: Wiring, report: (one: Report) => void): void {
  for (const { part, facts, output } of circuitOf(wiring).channels) {
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    if (part.part.build !== 'component' || facts.supply !== undefined || !low) continue
    const end = `${part.ref}.${low.id}`
    const net = wiring.netOf(end)
    if (!net.wired || net.ground || wiring.netOf(output).sources.length === 0) continue
    report({
      severity: 'fault',
      at: [end, output],
      message: 'highSide',
      data: { part: part.ref, end },
      why: `Its input counts against ${end}. As soon as the load gets volts ${end} rises with it, and the input would have to rise above the supply to keep ${part.ref} on. Put it between the load and ground.`,
      numbers: {},
    })
  }
}

/** Something drives the pin or holds it: a pin of a board or expander, another part, or a rail that says a level for good. */
export function isMoved(wiring: Wiring, end: string): boolean {
  const use = wiring.signal(end)
  if (use && use.hosts.length > 0) return true
  const net = wiring.netOf(end)
  return railOf(net) !== undefined || use?.state === 'joined'
}
