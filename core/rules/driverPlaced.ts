import { circuitOf, type DriverChannel, type Element, ownRailOf, railOf, railWords } from '../circuit/circuit.ts'
import { drivenLoads, isPlainLoad } from '../circuit/loads.ts'
import { behindResistors, isOnlyHeld, LEAST_HOLD, leadsSomewhere } from '../circuit/reach.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { groundEnd } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { swapWires, takeOut } from './mend.ts'

export const driverPlacedMessages = {
  exchanged:
    '{part} is wired the wrong way: {loads} {loads:hangs/hang} on its input {input}, and {pin} on its output {output}.',
  constant: '{part} on {outputs} never changes: {inputs} {inputs:lies/lie} on a rail.',
  nothingOn: '{inputs} {inputs:moves/move} {outputs}, on which nothing hangs.',
  halfContact: '{wired} {wired:is/are} wired and {open} {open:is/are} not: {part} switches nothing with {them}.',
  halfMeter: '{wired} is wired and {open} is not: {part} measures no current with one side alone.',
  passedBy:
    '{load} lies straight on its supply and runs for good, and {part}, which {pins} {pins:moves/move}, carries nothing.',
  otherKind: '{load} hangs on {outputs} of {part}, which {outputs:drives/drive} a {kinds} only.',
  joined: '{output} and {end} are joined, so that {part} switches nothing there.',
  heldByOwn: '{resistor} holds {gate} by {output}, which {part} switches itself, instead of by {source}.',
  onSupply: '{end} lies on {rail} instead of ground, so that {output} carries nothing.',
  noReturn: '{end} leads to no ground, so that {output} carries nothing.',
  highSide: '{part} lies between the supply and its load: {end} is not on ground, and {part} switches to ground only.',
}

/** A load on outputs that are made for loads of another kind: a motor where an amplifier or a stepper driver is. */
export function sayOtherKind(wiring: Wiring, report: (one: Report) => void): void {
  for (const { element, channels } of drivenLoads(circuitOf(wiring))) {
    const load = element.part
    const wrong = channels.filter(({ part, facts }) => {
      const made = part.part.provides.find(({ pins }) => pins.includes(facts.output))?.for
      return made !== undefined && !made.includes(load.part.id)
    })
    const [first] = wrong
    if (!first) continue
    const made = first.part.part.provides.find(({ pins }) => pins.includes(first.facts.output))?.for ?? []
    const kinds = made.map((id) => {
      const [title = id] = (wiring.catalog.parts.get(id)?.title ?? id).split(',')
      return `${title.charAt(0).toLowerCase()}${title.slice(1)}`
    })
    report({
      severity: 'fault',
      at: [load.ref, ...wrong.map(({ output }) => output)],
      message: 'otherKind',
      data: {
        load: load.ref,
        outputs: wrong.map(({ output }) => output),
        part: first.part.ref,
        kinds: kinds.join(' or '),
      },
      why: `What comes out of ${first.part.ref} follows what it is made for, not levels that a program sets. ${load.ref} wants a driver that is on, off, or turns round.`,
      numbers: {},
    })
  }
}

/** An output that lies on one wire with what it is to be switched to: on or off, it is the same. */
export function sayJoined(wiring: Wiring, report: (one: Report) => void): void {
  for (const { part, facts, output, inputs } of circuitOf(wiring).channels) {
    const net = wiring.netOf(output)
    if (!net.wired || !inputs.some((end) => wiring.netOf(end).wired)) continue
    const low = part.part.pins.find((pin) => pin.role === 'ground')?.id
    const side = facts.supply ?? low
    // What moves a bare transistor may not be what it moves.
    const own = part.part.build === 'component' ? inputs.find((input) => wiring.netOf(input) === net) : undefined
    const end = own ?? (side === undefined ? undefined : `${part.ref}.${side}`)
    if (end === undefined || wiring.netOf(end) !== net) continue
    // Of one that pulls to ground as well, supply-joined says what it shorts.
    const shorts = facts.supply !== undefined && low !== undefined && wiring.netOf(`${part.ref}.${low}`).ground
    if (shorts && net.sources.length > 0) continue
    report({
      severity: 'fault',
      at: [output, end],
      message: 'joined',
      data: { output, end, part: part.ref },
      why: `${part.ref} opens and closes the way between ${output} and ${end}. A wire, or two legs in one row of the breadboard, closes it for good: what hangs there runs all the time, or never.`,
      numbers: {},
      propose: () => takeOut(wiring, (a, b) => wiring.netOf(a) === net && wiring.netOf(b) === net),
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
    const rail = railOf(net)
    const control = new Set(inputs.map((one) => wiring.netOf(one)))
    const isBack = leadsSomewhere(circuit, net, ({ netA, netB }) => control.has(netA) || control.has(netB), {
      past: drain,
    })
    if (isBack && !rail?.source) continue
    const ground = groundEnd(wiring, part)
    report({
      severity: 'fault',
      at: [end, output],
      message: rail?.source ? 'onSupply' : 'noReturn',
      data: { end, output, ...(rail?.source ? { rail: railWords(rail) } : {}) },
      why: `While ${part.ref} conducts, the current of what hangs on ${output} goes on through ${end} and from there back to its supply.`,
      numbers: {},
      propose: () =>
        ground === undefined || rail?.source
          ? []
          : [{ title: `Join ${end} to ${ground}`, edits: [{ do: 'connect', from: end, to: ground }] }],
    })
  }
}

/** A transistor whose input carries the load, while the pin that should move it is on its output. */
export function sayExchanged(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const { part, output, inputs } of circuit.channels) {
    const [input] = inputs
    if (part.part.build !== 'component' || input === undefined || wiring.signal(input)?.hosts.length) continue
    const [near, far] = [input, output].map((end) =>
      behindResistors(circuit, wiring.netOf(end)).filter((net) => railOf(net) === undefined),
    ) as [Net[], Net[]]
    const loads = near.flatMap((net) =>
      circuit
        .on(net)
        .flatMap((one) => (one.lights || one.kind === 'load' || one.kind === 'winding' ? [one.part.ref] : [])),
    )
    const mover = far
      .flatMap((net) => circuit.at(net))
      .find(
        ({ host, net, role, terminal: { owner } }) =>
          !near.includes(net) &&
          (host?.board !== undefined || (role === 'out' && owner.kind === 'part' && owner.part.build !== 'component')),
      )
    const pin = mover?.host?.end ?? mover?.terminal.end
    if (loads.length === 0 || pin === undefined) continue
    report({
      severity: 'fault',
      at: [input, output, pin, ...new Set(loads)],
      message: 'exchanged',
      data: { part: part.ref, loads: [...new Set(loads)], input, pin, output },
      why: 'The input wants a level and next to no current; the output carries the current of the load. Exchanged, the load never gets its current, or gets it through the input, which does not bear it.',
      numbers: {},
      propose: () => swapWires(wiring, input, output),
    })
  }
}

/** A load whose outputs stand for good, because all that moves them lies on rails, while the driver's others are moved. */
export function sayConstant(wiring: Wiring, report: (one: Report) => void): void {
  const byPart = new Map<string, { outputs: Set<string>; inputs: Set<string> }>()
  for (const { element, channels } of drivenLoads(circuitOf(wiring))) {
    const movers = channels.flatMap(({ inputs, enables }) => [...inputs, ...enables.map(({ end }) => end)])
    const fixed = movers.filter((end) => railOf(wiring.netOf(end)) !== undefined)
    const rest = movers.filter((end) => !fixed.includes(end))
    // An enable that is open and held by the part itself moves nothing either; an open input is spoken of elsewhere.
    const isHeld = (end: string): boolean =>
      channels.some(({ enables }) => enables.some((one) => one.end === end && one.held)) && !wiring.netOf(end).wired
    if (fixed.length === 0 || !rest.every(isHeld) || !othersMove(wiring, channels)) continue
    const group = byPart.get(element.part.ref) ?? { outputs: new Set(), inputs: new Set() }
    byPart.set(element.part.ref, group)
    for (const { output, inputs } of channels) {
      group.outputs.add(output)
      for (const end of inputs) group.inputs.add(end)
    }
  }
  for (const [part, { outputs, inputs }] of byPart)
    report({
      severity: 'fault',
      at: [...inputs, ...outputs, part],
      message: 'constant',
      data: { part, outputs: [...outputs], inputs: [...inputs] },
      why: 'An output does what its input says, and a rail always says the same. Run the input to a pin of the board.',
      numbers: {},
    })
}

/** Some input of the same driver is moved by a pin: the driver is there to be moved. Of others pin-on-rail speaks. */
const othersMove = (wiring: Wiring, channels: readonly DriverChannel[]): boolean =>
  wiring.signals.some(
    (use) => use.hosts.length > 0 && use.facts.direction === 'in' && channels.some(({ part }) => part === use.part),
  )

/** Outputs that a pin moves and that have no wire, while others of the driver do, or of a transistor the only one. */
export function sayNothingOn(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const { channels } = circuit
  const unused = new Set(wiring.plan.unused)
  const isWired = ({ part, output, inputs }: DriverChannel): boolean => {
    if (unused.has(output)) return true
    const net = wiring.netOf(output)
    if (!net.wired || part.part.build !== 'component' || net.ground || net.sources.length > 0) return net.wired
    // A transistor on whose output there is no more than a pull-up, or a resistor to its own input.
    const isLoad = ({ kind, ohms }: Element): boolean => kind === 'resistor' && (ohms ?? 0) < LEAST_HOLD
    const stops = inputs.map((end) => wiring.netOf(end))
    // Of an output that is joined with its input it is said that nothing is switched there.
    if (stops.includes(net)) return true
    return circuit.on(net).some(isLoad) || !isOnlyHeld(circuit, net, part, stops)
  }
  for (const part of new Set(channels.map((one) => one.part))) {
    const mine = channels.filter((one) => one.part === part)
    if (part.part.build !== 'component' && !mine.some(isWired)) continue
    const idle = mine.filter((one) => !isWired(one))
    const inputs = [...new Set(idle.flatMap((one) => one.inputs))].filter(
      (end) => isMovedByOther(wiring, end) && mine.every((one) => !one.inputs.includes(end) || idle.includes(one)),
    )
    if (inputs.length === 0) continue
    const outputs = idle.filter((one) => one.inputs.some((end) => inputs.includes(end))).map(({ output }) => output)
    report({
      severity: 'caution',
      at: [...outputs, ...inputs],
      message: 'nothingOn',
      data: { inputs, outputs },
      why: 'An output that leads nowhere switches nothing. Join the load with it, or take the wire of the input away.',
      numbers: {},
    })
  }
}

/** A load that nothing switches, beside a driver that a pin moves and on whose outputs nothing hangs. */
export function sayPassedBy(wiring: Wiring, report: (one: Report) => void): void {
  const { channels, elements } = circuitOf(wiring)
  const always = elements.find((one) => {
    const [a, b] = [one.netA, one.netB].map((net) => ownRailOf(net)?.volts)
    return isPlainLoad(wiring, one) && a !== undefined && b !== undefined && a !== b
  })
  if (!always) return
  const unused = new Set(wiring.plan.unused)
  for (const part of new Set(channels.map((one) => one.part))) {
    const mine = channels.filter((one) => one.part === part)
    if (mine.some(({ output }) => wiring.netOf(output).wired || unused.has(output))) continue
    // Of a bare transistor it is said what it lacks.
    const pins = part.part.channels.length > 1 ? [...new Set(mine.flatMap(({ inputs }) => inputs))] : []
    const moved = pins.filter((end) => (wiring.signal(end)?.hosts.length ?? 0) > 0)
    if (moved.length === 0) continue
    report({
      severity: 'caution',
      at: [always.part.ref, part.ref],
      message: 'passedBy',
      data: { load: always.part.ref, part: part.ref, pins: moved },
      why: `One lead of ${always.part.ref} belongs on an output of ${part.ref} if a program shall switch it.`,
      numbers: {},
    })
  }
}

/** A pin of a board moves it, or of a transistor whatever else is joined with its input. */
export function isMovedByOther(wiring: Wiring, end: string): boolean {
  const use = wiring.signal(end)
  return use !== undefined && (use.hosts.length > 0 || (use.part.part.build === 'component' && use.state === 'joined'))
}

/** Something drives the pin or holds it: a pin of a board or expander, another part, or a rail that says a level for good. */
export function isMoved(wiring: Wiring, end: string): boolean {
  const use = wiring.signal(end)
  if (use && use.hosts.length > 0) return true
  const net = wiring.netOf(end)
  return railOf(net) !== undefined || use?.state === 'joined'
}
