import { holds } from '../catalog/when.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import { UNLIMITED } from './bases.ts'
import { type Circuit, circuitOf, type DriverChannel, ownRailOf, railOf, switchedSide } from './circuit.ts'
import { behindResistors } from './reach.ts'
import { verdictsOf } from './verdicts.ts'

interface Legs {
  readonly plus: string
  readonly minus: string
  readonly diode: boolean
  readonly lights: boolean
}

export function legsOf(part: PartInstance): Legs | undefined {
  const end = (pin: string): string => `${part.ref}.${pin}`
  const pins = part.part.pins.filter((pin) => pin.role !== 'free')
  if (pins.length !== 2) return undefined
  const diode = part.part.inner.find((inner) => inner.kind === 'diode' && holds(inner.when, part.options))
  // A Zener diode works the other way round on purpose.
  if (diode && diode.reverse === undefined)
    return {
      plus: end(diode.between[0]),
      minus: end(diode.between[1]),
      diode: true,
      lights: diode.mostMilliamps !== undefined,
    }
  const plus = pins.find(
    ({ role, id }) =>
      role === 'supply' ||
      id === '+' ||
      part.part.signals.some((signal) => signal.pin === id && signal.direction === 'in'),
  )
  const minus = pins.find((pin) => pin !== plus)
  return part.part.polarised && plus && minus
    ? { plus: end(plus.id), minus: end(minus.id), diode: false, lights: false }
    : undefined
}

/** Input, output and feeder of a converter that is fed at its output. */
export function backToFront(wiring: Wiring, part: PartInstance): readonly [string, string, string] | undefined {
  for (const { pin, from } of part.part.rails) {
    if (from === undefined) continue
    const [input, output] = [`${part.ref}.${from}`, `${part.ref}.${pin}`]
    const source = wiring.netOf(output).sources.find((one) => one.ref !== part.ref)
    if (source && wiring.netOf(input).wired && wiring.netOf(input).sources.length === 0 && !wiring.netOf(input).ground)
      return [input, output, source.end]
  }
  return undefined
}

/** A transistor whose switched side lies on ground and whose ground leg does not. */
export function crossedSwitch(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  if (part.part.build !== 'component') return undefined
  const ground = part.part.pins.find((pin) => pin.role === 'ground')
  for (const { output, supply } of part.part.channels) {
    if (!ground || supply !== undefined) continue
    const [out, low] = [output, ground.id].map((pin) => wiring.netOf(`${part.ref}.${pin}`))
    if (out?.ground && low && !low.ground && low.wired) return [`${part.ref}.${output}`, `${part.ref}.${ground.id}`]
  }
  return undefined
}

/**
 * A bare switch in the plus whose switched side lies on a source and whose supply side does not, while something moves it.
 * One that nothing moves may guard a battery or share its load on purpose, and so may two that meet with their supply
 * sides.
 */
export function crossedHighSide(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  if (part.part.build !== 'component' || part.part.pins.some(({ role }) => role === 'ground')) return undefined
  for (const { output, supply } of part.part.channels) {
    if (supply === undefined) continue
    const [out, high] = [`${part.ref}.${output}`, `${part.ref}.${supply}`]
    const far = wiring.netOf(high)
    const isTurned = wiring.netOf(out).sources.length > 0 && far.wired && !far.ground && far.sources.length === 0
    if (isTurned && isMovedApart(wiring, part, far)) return [out, high]
  }
  return undefined
}

/**
 * A bare transistor whose control lies on the rail to which it should lead, while a pin is on the leg that belongs there:
 * it never conducts.
 */
export function crossedControl(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  const circuit = circuitOf(wiring)
  for (const channel of circuit.channels) {
    const side = channel.part === part ? switchedSide(channel) : undefined
    const [control, ...others] = channel.inputs
    if (side === undefined || control === undefined || others.length > 0) continue
    const [rail, far] = [railOf(wiring.netOf(control)), wiring.netOf(side)]
    const isOff = rail !== undefined && (channel.facts.supply === undefined ? rail.volts === 0 : rail.volts > 0)
    if (!isOff || railOf(far) || !wiring.netOf(channel.output).wired) continue
    const movers = behindResistors(circuit, far).flatMap((net) => circuit.at(net))
    if (movers.some(({ host }) => host?.board !== undefined)) return [control, side]
  }
  return undefined
}

/** True for a switch that something moves, and that does not meet another one on a net. */
function isMovedApart(wiring: Wiring, part: PartInstance, net: Net): boolean {
  const { channels } = circuitOf(wiring)
  const others = channels.filter((one) => one.part !== part)
  const meetsOther = others.some(
    ({ part: other, facts }) => facts.supply !== undefined && wiring.netOf(`${other.ref}.${facts.supply}`) === net,
  )
  const gates = channels.flatMap((one) => (one.part === part ? one.inputs : []))
  const isMoved = gates.some((end) => {
    const gate = wiring.netOf(end)
    return (wiring.signal(end)?.hosts.length ?? 0) > 0 || others.some(({ output }) => wiring.netOf(output) === gate)
  })
  return isMoved && !meetsOther
}

/** What tells that a Zener diode is turned: a current flows through it forward, and never backwards. */
export function zenerWrong(wiring: Wiring, part: PartInstance): string | undefined {
  const element = circuitOf(wiring).elements.find((one) => one.part === part && one.zener !== undefined)
  const flow = element && verdictsOf(wiring).through(element)
  if (!element || !flow || flow.forward < 0.01 || flow.back > 0.001) return undefined
  return `its anode ${element.a} lies above its cathode ${element.b}, where it conducts at ${formatVolts(element.forward ?? 0.7)} instead of ${formatVolts(element.zener ?? 0)}`
}

/** Supply and ground pin of a part, the one on ground and the other on a supply. */
export function swappedSupply(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  if (part.part.polarised && part.part.pins.filter((pin) => pin.role !== 'free').length === 2) return undefined
  for (const { facts, pins, grounds } of part.supplies) {
    if (facts.either) continue
    const plus = pins.find((end) => wiring.netOf(end).ground)
    const minus = grounds.find((end) => wiring.netOf(end).sources.length > 0 && !wiring.netOf(end).ground)
    if (plus !== undefined && minus !== undefined) return [plus, minus]
  }
  return undefined
}

/** What tells that a part is turned round; undefined when nothing does. */
export function turnedRound(wiring: Wiring, part: PartInstance): string | undefined {
  if (swappedSupply(wiring, part)) return 'its supply and its ground are swapped'
  const legs = legsOf(part)
  return legs && (legs.diode ? diodeWrong(wiring, legs) : supplyWrong(wiring, legs))
}

/** What tells that a diode is turned round; undefined when nothing does. */
function diodeWrong(wiring: Wiring, { plus: anode, minus: cathode, lights }: Legs): string | undefined {
  const [a, k] = [wiring.netOf(anode), wiring.netOf(cathode)]
  if (lights) {
    const hostAtCathode = wiring.signal(cathode)?.hosts.length ?? 0
    if (a.ground && !k.ground && (k.wired || hostAtCathode > 0)) return `its anode ${anode} is on ground`
    if (k.sources.length > 0 && a.wired && a.sources.length === 0) return `its cathode ${cathode} is on a supply`
    return undefined
  }
  const { channels } = circuitOf(wiring)
  const outputAt = (net: Net): DriverChannel | undefined => {
    const nets = throughClosed(circuitOf(wiring), net)
    return channels.find(({ output }) => nets.has(wiring.netOf(output)))
  }
  const high = outputAt(a)
  if (high?.facts.supply !== undefined && k.ground)
    return `its anode ${anode} is on ${high.output} and its cathode ${cathode} on ground, which it shorts when ${high.output} is high`
  const element = circuitOf(wiring).elements.find((one) => one.a === anode && one.b === cathode)
  const flow = element && k.ground ? verdictsOf(wiring).through(element) : undefined
  if (flow && flow.forward > UNLIMITED)
    return `its anode ${anode} is on the side of the supply and its cathode ${cathode} on ground`
  // Where nothing else feeds what hangs behind it, its lack of a supply is said.
  if (a.sources.length === 0) return undefined
  const kept = keptBack(wiring, cathode)
  if (kept !== undefined) return `its cathode ${cathode} is on ${kept}, which can give nothing then`
  if (k.ground) return `its anode ${anode} is on the supply and its cathode ${cathode} on ground`
  const switched = k.ends.some((end) => {
    const functions = wiring.terminal(end)?.host?.functions
    return functions?.has('sink') === true && end !== cathode
  })
  // What only lifts its output to the supply may be fed beside that over a diode.
  const low = outputAt(k)?.part.part.pins.some(({ role }) => role === 'ground')
  return switched || low
    ? `its anode ${anode} is on the supply and its cathode ${cathode} on the switched side`
    : undefined
}

/** A net and those that fuses and contacts join with it, up to the rails. */
function throughClosed(circuit: Circuit, start: Net): ReadonlySet<Net> {
  const nets = new Set([start])
  for (const net of nets)
    if (!ownRailOf(net))
      for (const { kind, netA, netB } of circuit.on(net))
        if (kind === 'contact' || kind === 'shunt') nets.add(netA === net ? netB : netA)
  return nets
}

/** Plus of a battery or a socket at which nothing hangs but cathodes. */
function keptBack(wiring: Wiring, cathode: string): string | undefined {
  const net = wiring.netOf(cathode)
  const isPlus = (end: string): boolean =>
    net.sources.some((source) => source.end === end) && wiring.terminal(end)?.owner.kind !== 'board'
  const plus = net.ends.find(isPlus)
  const isCathode = (end: string): boolean =>
    circuitOf(wiring).elements.some(({ kind, b, zener }) => kind === 'diode' && b === end && zener === undefined)
  return net.ends.every((end) => isPlus(end) || isCathode(end)) ? plus : undefined
}

function supplyWrong(wiring: Wiring, { plus, minus }: Legs): string | undefined {
  if (wiring.netOf(plus).ground && wiring.netOf(minus).wired && !wiring.netOf(minus).ground)
    return `its plus ${plus} is on ground`
  if (wiring.netOf(minus).sources.length > 0 && wiring.netOf(plus).wired && wiring.netOf(plus).sources.length === 0)
    return `its minus ${minus} is on a supply`
  return undefined
}
