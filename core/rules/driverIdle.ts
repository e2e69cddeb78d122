import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const driverIdle: Rule = {
  meta: {
    id: 'driver-idle',
    severities: ['fault'],
    about: 'A driver, a bridge half or a switch carries a load, and its input or enable is open or tied off.',
    messages: {
      idle: '{outputs} {outputs:carries/carry} {loads} and never {outputs:moves/move}: {because}.',
      alike: '{part} between {output} and {other} never moves: {inputs} always say the same.',
      highSide:
        '{part} lies between the supply and its load: {end} is not on ground, and {part} switches to ground only.',
    },
    fixable: false,
  },
  check(wiring, report) {
    const unused = new Set(wiring.plan.unused)
    const wrongTies = new Set(
      wiring.ties.flatMap(({ end, state }) => (state === 'wrong' || state === 'open' ? [end] : [])),
    )
    // Outputs that stand still for the same reason are one finding.
    const idle = new Map<string, { outputs: string[]; loads: Set<string>; open: string[]; off: string[] }>()
    for (const channel of circuitOf(wiring).channels) {
      if (channel.loads.length === 0) continue
      const open = channel.inputs.filter((end) => !isMoved(wiring, end))
      const off = channel.enables.filter(({ end, active, held }) => {
        const net = wiring.netOf(end)
        const rail = railOf(net)
        if (rail) return active === 'high' ? rail.volts === 0 : rail.volts > 0
        return !held && !isMoved(wiring, end) && !(net.wired && !unused.has(end) && isPulled(wiring, end, active))
      })
      if (open.length === 0 && off.length === 0) continue
      // Of a strap that is open or on the wrong level strap-needed speaks.
      if (open.length === 0 && off.every(({ end }) => wrongTies.has(end))) continue
      const ends = off.map(({ end }) => end)
      const key = [channel.part.ref, ...open, '/', ...ends].join(' ')
      const group = idle.get(key) ?? { outputs: [], loads: new Set<string>(), open, off: ends }
      group.outputs.push(channel.output)
      for (const one of channel.loads) group.loads.add(one.part.ref)
      idle.set(key, group)
    }
    sayHighSide(wiring, report)
    sayAlike(wiring, report)
    for (const { outputs, loads, open, off } of idle.values())
      report({
        severity: 'fault',
        at: [...outputs, ...open, ...off, ...loads],
        message: 'idle',
        data: {
          outputs,
          loads: [...loads],
          because: [
            open.length > 0 ? `${listWords(open)} ${open.length === 1 ? 'is' : 'are'} open` : '',
            off.length > 0
              ? `${listWords(off)} ${off.length === 1 ? 'does' : 'do'} not switch ${outputs.length === 1 ? 'it' : 'them'} on`
              : '',
          ]
            .filter((one) => one !== '')
            .join(', '),
        },
        why: 'An output does what its inputs say, and only while it is enabled. Open inputs float: the output stays off or follows the noise around it.',
        numbers: {},
      })
  },
}

/** A load between two outputs that always say the same: both inputs on one line, or at one level for good. */
function sayAlike(wiring: Wiring, report: (one: Report) => void): void {
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
function sayHighSide(wiring: Wiring, report: (one: Report) => void): void {
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
function isMoved(wiring: Wiring, end: string): boolean {
  const use = wiring.signal(end)
  if (use && use.hosts.length > 0) return true
  const net = wiring.netOf(end)
  return railOf(net) !== undefined || use?.state === 'joined'
}

/** A resistor leads the pin to the level that switches it on. */
function isPulled(wiring: Wiring, end: string, active: 'high' | 'low'): boolean {
  const net = wiring.netOf(end)
  return circuitOf(wiring)
    .on(net)
    .some((one) => {
      if (one.kind !== 'resistor') return false
      const rail = railOf(one.netA === net ? one.netB : one.netA)
      return rail !== undefined && (active === 'high' ? rail.volts > 0 : rail.volts === 0)
    })
}
