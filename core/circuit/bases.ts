import { chosenFact } from '../wiring/chosen.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { circuitOf, type DriverChannel, type Element } from './circuit.ts'
import { drivenLoads, ratingOf } from './loads.ts'
import { verdictsOf } from './verdicts.ts'

/** Share of its current more than which a load's transistor has to be able to carry, so that it conducts fully. */
export const BASE_RESERVE = 1.5

/** What a transistor's base gets, and what it has to carry; currents in milliamperes. */
export interface BaseDrive {
  readonly channel: DriverChannel
  /** What it switches: loads side by side, lamps behind their resistors. */
  readonly loads: readonly PartInstance[]
  /** Least current gain of the model chosen. */
  readonly gain: number
  /** Current into the base while its pin is high. */
  readonly forward: number
  /** Current of all of them while they run. */
  readonly runs: number
}

/** Bases that are driven, of transistors whose load is within their rating: above it no base current helps. */
export function baseDrives(wiring: Wiring): BaseDrive[] {
  const circuit = circuitOf(wiring)
  // Of a pair in which one drives the base of the other, the second multiplies what the first lets through.
  const bases = new Set(circuit.channels.flatMap(({ inputs }) => inputs.map((end) => wiring.netOf(end))))
  const drivesBase = ({ part: { ref, part } }: DriverChannel): boolean =>
    part.pins.some(({ id, role }) => role === 'ground' && bases.has(wiring.netOf(`${ref}.${id}`)))
  const driven = drivenLoads(circuit)
  return circuit.channels.flatMap((channel): BaseDrive[] => {
    const gain = chosenFact(channel.part, 'gain')
    if (gain === undefined || drivesBase(channel)) return []
    const junction = circuit.elements.find((one) => one.kind === 'diode' && channel.inputs.includes(one.a))
    const flow = junction && verdictsOf(wiring).through(junction)
    if (!flow || flow.forward <= 0) return []
    const own = driven.flatMap(({ element, channels }) => (channels.includes(channel) ? [element] : []))
    const { loads, runs } = carriedBy(wiring, channel, own)
    if (runs <= 0 || runs > (ratingOf(channel).most ?? Number.POSITIVE_INFINITY)) return []
    return [{ channel, loads, gain, forward: flow.forward, runs }]
  })
}

/** Milliamperes that flow only where nothing limits them. */
export const UNLIMITED = 10_000

/** A base that something other than a pin feeds without a resistor, and the end from which it does. */
export interface BareBase {
  readonly part: PartInstance
  readonly base: string
  readonly from: string
}

/** Bases on a supply, straight or over a contact, and on outputs of parts; of pins it is known what they give. */
export function bareBases(wiring: Wiring): BareBase[] {
  const circuit = circuitOf(wiring)
  return circuit.channels.flatMap(({ part, inputs }): BareBase[] => {
    const junction = circuit.elements.find((one) => one.kind === 'diode' && one.part === part && inputs.includes(one.a))
    const flow = junction && verdictsOf(wiring).through(junction)
    if (!junction || !flow || flow.forward <= UNLIMITED) return []
    const ways = circuit.on(junction.netA).flatMap(({ kind, netA, netB }) => (kind === 'contact' ? [netA, netB] : []))
    const nets = [...new Set([junction.netA, ...ways])]
    const ports = nets.flatMap((net) => circuit.at(net))
    if (ports.some(({ host, role }) => host && role !== 'in')) return []
    const outputs = ports.flatMap(({ role, terminal: { owner, end } }) =>
      role === 'out' || (role === 'passive' && owner.kind === 'part' && owner.part.build !== 'component') ? [end] : [],
    )
    const [first] = [...outputs, ...nets.flatMap(({ sources }) => sources.map(({ end }) => end))]
    return first === undefined ? [] : [{ part, base: junction.a, from: first }]
  })
}

/** What comes together at an output: loads, and lamps with their resistors; of loads in a row the first. */
function carriedBy(
  wiring: Wiring,
  { output }: DriverChannel,
  own: readonly Element[],
): Pick<BaseDrive, 'loads' | 'runs'> {
  const net = wiring.netOf(output)
  const touches = ({ netA, netB }: Element): boolean => netA === net || netB === net
  const beside = own.filter(touches)
  const direct = beside.length > 0 ? beside : own.slice(0, 1)
  const lamps = circuitOf(wiring)
    .on(net)
    .filter((one) => !own.includes(one) && (one.lights || one.kind === 'resistor'))
    // What lies between the output and ground is relieved by it.
    .filter(({ netA, netB }) => !(netA === net ? netB : netA).ground)
    .map((one) => ({ part: one.part, milliamps: flowThrough(wiring, one) }))
  return {
    loads: [...new Set([...direct.map(({ part }) => part), ...lamps.map(({ part }) => part)])],
    runs: [...direct.map(({ runs }) => runs ?? 0), ...lamps.map(({ milliamps }) => milliamps)].reduce(
      (sum, one) => sum + one,
      0,
    ),
  }
}

const flowThrough = (wiring: Wiring, element: Element): number => {
  const flow = verdictsOf(wiring).through(element)
  return flow ? Math.max(flow.forward, flow.back) : 0
}
