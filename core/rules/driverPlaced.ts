import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import { leadsSomewhere } from '../circuit/reach.ts'
import type { Wiring } from '../wiring/model.ts'
import { groundEnd } from '../wiring/supply.ts'
import type { Report } from './finding.ts'

export const driverPlacedMessages = {
  alike: '{part} between {output} and {other} never moves: {inputs} always say the same.',
  noReturn: '{end} leads to no ground, so that {output} carries nothing.',
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

/** A transistor whose own way to ground is open, or ends at what only holds its control. */
export function sayNoReturn(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const unused = new Set(wiring.plan.unused)
  for (const { part, facts, output, inputs } of circuit.channels) {
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    if (part.part.build !== 'component' || facts.supply !== undefined || !low) continue
    const end = `${part.ref}.${low.id}`
    const [drain, net] = [wiring.netOf(output), wiring.netOf(end)]
    if (!drain.wired || drain === net || drain.sources.length > 0 || unused.has(end)) continue
    const control = new Set(inputs.map((one) => wiring.netOf(one)))
    const isBack = leadsSomewhere(circuit, net, ({ netA, netB }) => control.has(netA) || control.has(netB), {
      past: drain,
    })
    if (isBack) continue
    const ground = groundEnd(wiring, part)
    report({
      severity: 'fault',
      at: [end, output],
      message: 'noReturn',
      data: { end, output },
      why: `While ${part.ref} conducts, the current of what hangs on ${output} goes on through ${end} and from there back to its supply.`,
      numbers: {},
      propose: () =>
        ground === undefined
          ? []
          : [{ title: `Join ${end} to ${ground}`, edits: [{ do: 'connect', from: end, to: ground }] }],
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
