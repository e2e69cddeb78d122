import {
  type Circuit,
  circuitOf,
  type DriverChannel,
  type Element,
  ownRailOf,
  type Port,
  type RailHold,
  railOf,
  railWords,
} from '../circuit/circuit.ts'
import { isTurned } from '../circuit/lit.ts'
import { drivenLoads, isPlainLoad, runsOf } from '../circuit/loads.ts'
import { oneLevel } from '../circuit/oneLevel.ts'
import { alternates, type DeadEnd } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { takeOut } from './mend.ts'
import { listWords } from './shared.ts'

export const loadDeadEndsMessages = {
  twoCoils: 'A winding of {part} lies between {one} and {two}, which belong to two coils.',
  coilsJoined: '{mine} and {other} are joined: two windings of {part} are always on together.',
  wrongSide: '{part} lies between {output} and {rail}; it belongs between {output} and {pair}.',
  neverLights: '{part} never lights: both its legs always lie at the same level.',
  neverRuns: '{part} never runs: both its legs always lie at the same level.',
  betweenRails: '{part} lies between {high} and {low}: its current runs into {source} instead of to ground.',
  oneSide: '{part} never runs: both its sides lead to {rail} alone.',
  onSignal: '{leg} lies on {pin}, an output for signals: it bears nothing of the {milliamps} of {part}.',
  noWayBack: 'The current of {refs} finds no way back: {legs} {lead} {where}.',
}

/** Most milliamperes that an output for signals is taken to bear where its data sheet says nothing: a strong logic output. */
const SIGNAL_MILLIAMPS = 25

/** Windings with a leg on an output of a part that is there to be read, as the fault output beside those for the motor. */
export function sayOnSignals(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const { part, kind, a, b, netA, netB } of circuit.elements) {
    const runs = kind === 'winding' ? runsOf(part) : undefined
    if (runs === undefined || netA === netB) continue
    for (const [leg, net] of [
      [a, netA],
      [b, netB],
    ] as const) {
      // What takes the kick of a winding stands beside it.
      const isBeside = (one: Element): boolean =>
        one.part === part || one.kind === 'capacitor' || (one.kind === 'diode' && !one.lights)
      const isOther = ({ terminal }: Port): boolean =>
        terminal.ref !== part.ref && !circuit.on(net).some(({ a: one, b: two }) => [one, two].includes(terminal.end))
      const others = circuit.at(net).filter(isOther)
      const [output] = others
      const isSignal = ({ use, host, terminal }: Port): boolean =>
        !host &&
        use?.end === terminal.end &&
        (use.facts.direction === 'out' || use.facts.direction === 'open-drain') &&
        runs > (use.facts.sinkMilliamps ?? SIGNAL_MILLIAMPS)
      if (!output || railOf(net) || !circuit.on(net).every(isBeside) || !others.every(isSignal)) continue
      report({
        severity: 'fault',
        at: [leg, output.terminal.end],
        message: 'onSignal',
        data: { leg, pin: output.terminal.end, milliamps: `${Math.round(runs)} mA`, part: part.ref },
        why: 'Such an output tells a pin something, with a few milliamperes. A winding belongs between outputs that are made for its current, or between one of them and a supply.',
        numbers: { milliamps: runs },
        propose: () => takeOut(wiring, (x, y) => x === leg || y === leg),
      })
    }
  }
}

/** Loads whose minus lies on a supply, and not on one that stands upon it as batteries in a row do. */
export function sayBetweenRails(circuit: Circuit, report: (one: Report) => void): void {
  for (const { part, kind, a, b, netA, netB } of circuit.elements) {
    const [one, two] = [netA, netB].map(railOf)
    if ((kind !== 'load' && kind !== 'winding') || !one?.source || !two?.source || one.volts === two.volts) continue
    const [high, low, lowNet] = one.volts > two.volts ? [one, two, netB] : [two, one, netA]
    const isStack = circuit.at(lowNet).some(({ role, terminal }) => role === 'ground' && terminal.ref !== part.ref)
    if (isStack || !(ownRailOf(lowNet) ?? railAbove(circuit, lowNet)) || !low.source) continue
    report({
      severity: 'fault',
      at: [a, b, low.source.end],
      message: 'betweenRails',
      data: { part: part.ref, high: railWords(high), low: railWords(low), source: low.source.end },
      why: 'What comes in there lifts the rail as soon as it is more than what hangs on it takes, and everything on it gets too much. The minus of a load belongs to ground.',
      numbers: { high: high.volts, low: low.volts },
      propose: () => takeOut(circuit.wiring, (x, y) => [x, y].includes(lowNet === netA ? a : b)),
    })
  }
}

/** The supply to which a transistor in the plus leads a net. */
function railAbove(circuit: Circuit, net: Net): RailHold | undefined {
  const channel = circuit.channels.find(({ output }) => circuit.wiring.netOf(output) === net)
  if (channel?.facts.supply === undefined) return undefined
  const { part, facts } = channel
  return part.part.pins.some(({ role }) => role === 'ground')
    ? undefined
    : railOf(circuit.wiring.netOf(`${part.ref}.${facts.supply}`))
}

/** Windings across two bridges of which each has a coil of its own; one finding a motor. */
export function sayCrossedCoils(circuit: Circuit, report: (one: Report) => void): void {
  const byPart = new Map<PartInstance, DriverChannel[]>()
  for (const { element, channels } of drivenLoads(circuit)) {
    const [one, two] = channels
    if (one?.facts.pair !== undefined && !two) sayHalf(element, one, report)
    if (one && two && one.part === two.part && isAcross(element, one, two))
      byPart.set(element.part, [...(byPart.get(element.part) ?? []), one, two])
  }
  for (const [part, channels] of byPart) {
    const [one, two] = channels as [DriverChannel, DriverChannel]
    const paired = circuit.channels.find(
      ({ part: driver, facts }) =>
        driver === one.part &&
        (one.facts.pair === undefined
          ? facts.bridge === one.facts.bridge && facts.output !== one.facts.output
          : facts.output === one.facts.pair),
    )
    report({
      severity: 'fault',
      at: [part.ref, ...channels.map(({ output }) => output)],
      message: 'twoCoils',
      data: { part: part.ref, one: one.output, two: two.output },
      why: `Each coil needs the two outputs of one bridge, such as ${one.output} and ${paired?.output}. Across two of them the currents of both are wrong, and the motor hums instead of turning.`,
      numbers: {},
    })
  }
}

/** One of several windings of a motor, between outputs that are no pair, or of two bridges. */
function isAcross(element: Element, { facts: one }: DriverChannel, { facts: two }: DriverChannel): boolean {
  if (one.pair !== undefined) return one.pair !== two.output
  const coils = element.part.part.inner.filter(({ kind }) => kind === 'winding').length
  return coils > 1 && one.bridge !== undefined && one.bridge !== two.bridge
}

/** Two windings of one motor whose own leads are on one wire: they always get the same, and nothing turns. */
export function sayJoinedCoils(
  { elements }: Circuit,
  dead: ReadonlyMap<string, DeadLeg>,
  report: (one: Report) => void,
): void {
  const windings = elements.filter(({ kind }) => kind === 'winding')
  for (const [index, one] of windings.entries())
    for (const two of windings.slice(index + 1)) {
      if (one.part !== two.part) continue
      const shared = [one.a, one.b].find((end) => end === two.a || end === two.b)
      const [mine, other] = [one, two].map(({ a, b }) => (a === shared ? b : a)) as [string, string]
      if (shared === undefined || mine === other) continue
      const [net, beside] = [one, two].map((each) => (each.a === shared ? each.netB : each.netA))
      // Of leads from which no way leads on it is said already that nothing flows.
      if (net !== beside || !net?.wired || (dead.has(mine) && dead.has(other))) continue
      report({
        severity: 'fault',
        at: [mine, other],
        message: 'coilsJoined',
        data: { mine, other, part: one.part.ref },
        why: 'The motor turns because its windings are on one after the other. Each lead belongs on an output of its own.',
        numbers: {},
      })
    }
}

/** A load on one of two outputs that belong together, its other leg on a rail. */
function sayHalf(element: Element, { output, part, facts }: DriverChannel, report: (one: Report) => void): void {
  const other = element.a === output || element.netA.ends.includes(output) ? element.netB : element.netA
  const rail = railOf(other)
  if (!rail) return
  const pair = `${part.ref}.${facts.pair}`
  report({
    severity: 'fault',
    at: [output, pair, element.a, element.b],
    message: 'wrongSide',
    data: { part: element.part.ref, output, rail: railWords(rail), pair },
    why: 'The two outputs work against each other, and both rest at half the supply. A load from one of them to a rail gets a steady current that it does not bear.',
    numbers: {},
  })
}

/**
 * Lamps and loads whose two sides never come to different levels, whatever drives: both on one rail, through resistors,
 * contacts or nothing.
 */
export function sayUnlit(circuit: Circuit, dead: ReadonlyMap<string, DeadLeg>, report: (one: Report) => void): void {
  for (const lamp of circuit.elements) {
    const runs = isPlainLoad(circuit.wiring, lamp)
    if ((!lamp.lights && !runs) || lamp.netA === lamp.netB || dead.has(lamp.a) || dead.has(lamp.b)) continue
    if (runs && [lamp.netA, lamp.netB].some((net) => railOf(net) === undefined)) continue
    const flow = verdictsOf(circuit.wiring).through(lamp)
    if (!flow || Math.abs(flow.over) > 0.1 || Math.abs(flow.under) > 0.1) continue
    report({
      severity: 'fault',
      at: [lamp.a, lamp.b],
      message: runs ? 'neverRuns' : 'neverLights',
      data: { part: lamp.part.ref },
      why: 'Current flows from a higher level to a lower one. One leg belongs on a supply or on a pin that drives, the other on ground.',
      numbers: {},
    })
  }
}

/** Loads behind transistors and other switches of which both sides lead to one rail. */
export function sayOneSided(circuit: Circuit, dead: ReadonlyMap<string, DeadLeg>, report: (one: Report) => void): void {
  // Of what lies between outputs that only pull to ground it is said that they do.
  const between = drivenLoads(circuit).filter(({ channels }) => channels.length > 1)
  const said = new Set(between.map(({ element }) => element.part))
  for (const load of circuit.elements) {
    const { a, b, netA, netB, part } = load
    if (said.has(part)) continue
    if (!alternates(load) && !isPlainLoad(circuit.wiring, load)) continue
    // Of one with a plus, and of one that nothing feeds, other rules speak.
    if (load.oneWay || part.supplies.length > 0 || part.part.build !== 'component') continue
    if (netA === netB || dead.has(a) || dead.has(b) || (railOf(netA) && railOf(netB))) continue
    const level = oneLevel(circuit, load)
    if (level === undefined) continue
    said.add(part)
    report({
      severity: 'fault',
      at: [a, b],
      message: 'oneSide',
      data: { part: part.ref, rail: level === 0 ? 'ground' : formatVolts(level) },
      why: 'Current flows from a higher level to a lower one. What is switched to ground hangs on the supply with its other side, and what is switched to the supply on ground.',
      numbers: {},
    })
  }
}

/** A leg that has a wire and carries nothing. */
export interface DeadLeg {
  readonly element: Element
  readonly leads: DeadEnd
}

/** Legs that have a wire and lead nowhere, one finding for each piece of metal. */
export function sayDeadEnds(wiring: Wiring, dead: ReadonlyMap<string, DeadLeg>, report: (one: Report) => void): void {
  const byNet = new Map<Net, string[]>()
  for (const [leg, { element }] of dead) {
    const { part, kind } = element
    if (part.part.build !== 'component' || kind === 'capacitor') continue
    const net = wiring.netOf(leg)
    // Of a lamp that is turned round polarity speaks.
    const turned = circuitOf(wiring)
      .on(net)
      .some((one) => {
        const flow = one.lights ? verdictsOf(wiring).through(one) : undefined
        return flow !== undefined && isTurned(flow)
      })
    if (turned) continue
    byNet.set(net, [...(byNet.get(net) ?? []), leg])
  }
  for (const [net, legs] of byNet) {
    // Of a load that nothing feeds supply-missing speaks.
    if (
      wiring.parts.some(({ supplies }) =>
        supplies.some((use) => !use.source && use.pins.some((end) => legs.includes(end))),
      )
    )
      continue
    const refs = [...new Set(legs.map((leg) => leg.split('.')[0] as string))]
    const others = net.ends.filter((end) => !legs.includes(end))
    report({
      severity: 'fault',
      at: [...legs, ...others],
      message: 'noWayBack',
      data: {
        refs,
        legs,
        where: legs.every((leg) => dead.get(leg)?.leads === 'round')
          ? `only round to ${listWords([...new Set(legs.map((leg) => otherLeg(dead.get(leg)!.element, leg)))])}`
          : 'to no supply, no ground and no pin that drives',
        lead:
          others.length > 0
            ? `${legs.length === 1 ? 'is' : 'are'} joined with ${listWords(others)}, which ${others.length === 1 ? 'leads' : 'lead'}`
            : 'lead',
      },
      why: 'A current flows in a circle only. A wire that ends at a part, and from there leads nowhere, is as good as none.',
      numbers: {},
    })
  }
}

const otherLeg = ({ a, b }: Element, leg: string): string => (leg === a ? b : a)
