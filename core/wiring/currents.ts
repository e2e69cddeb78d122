import { holds } from '../catalog/when.ts'
import { entryOf } from '../text/entryOf.ts'
import { networkOf } from './lines.ts'
import type { Host, PartInstance, SignalUse, Wiring } from './model.ts'

/** A diode that lights, at the operating point to which its resistors bring it. */
export interface LitDiode {
  readonly part: PartInstance
  readonly anode: string
  readonly cathode: string
  /** Pin that switches it: gives the current when it is on the anode's side, else takes it. */
  readonly host: Host | undefined
  readonly way: 'source' | 'sink'
  /** Volts over diode and resistors together while it is on, and over the diode alone. */
  readonly volts: number
  readonly forward: number
  /** Resistance in series with it, in ohms, that of the pin included; and what of it is wired. */
  readonly ohms: number
  readonly outside: number
  /** Current in milliamperes; infinite without a resistance. */
  readonly milliamps: number
  /** Most that it bears, in milliamperes. */
  readonly most: number
  /** Resistor on its path. */
  readonly resistor: PartInstance | undefined
}

const lit = new WeakMap<Wiring, readonly LitDiode[]>()

/** Every diode that lights and whose two sides are wired. I = (V − Vf) / R, worked out from the resistors around it. */
export function litDiodes(wiring: Wiring): readonly LitDiode[] {
  let all = lit.get(wiring)
  if (!all) {
    all = wiring.parts.flatMap((part) => diodesOf(wiring, part))
    lit.set(wiring, all)
  }
  return all
}

function diodesOf(wiring: Wiring, part: PartInstance): LitDiode[] {
  const found: LitDiode[] = []
  for (const inner of part.part.inner) {
    if (inner.kind !== 'diode' || inner.mostMilliamps === undefined || !holds(inner.when, part.options)) continue
    const [anode, cathode] = inner.between.map((pin) => `${part.ref}.${pin}`) as [string, string]
    const high = sideOf(wiring, anode, 'source')
    const low = sideOf(wiring, cathode, 'sink')
    const forward = forwardOf(part, inner.forward)
    if (!high || !low || forward === undefined) continue
    const over = high.volts - low.volts
    if (over <= 0) continue
    const ohms = high.ohms + low.ohms
    const way = high.host ? 'source' : 'sink'
    found.push({
      part,
      anode,
      cathode,
      host: high.host ?? low.host,
      way,
      volts: over,
      forward,
      ohms,
      outside: high.outside + low.outside,
      milliamps: over <= forward ? 0 : ohms < 0.5 ? Number.POSITIVE_INFINITY : ((over - forward) / ohms) * 1000,
      most: inner.mostMilliamps,
      resistor: resistorAt(wiring, anode) ?? resistorAt(wiring, cathode),
    })
  }
  return found
}

interface Side {
  readonly volts: number
  readonly ohms: number
  readonly outside: number
  readonly host: Host | undefined
}

/** What stands behind one leg: a supply, or the pin that it reaches, driven high or low. */
function sideOf(wiring: Wiring, end: string, way: 'source' | 'sink'): Side | undefined {
  const net = wiring.netOf(end)
  const network = networkOf(wiring)
  if (net.ground || net.sources.length > 0) {
    const held = network.thevenin(net)
    return held && { ...held, outside: held.ohms, host: undefined }
  }
  const host = wiring.signal(end)?.hosts[0]?.host
  if (!host) {
    const held = network.thevenin(net)
    return held && { ...held, outside: held.ohms, host: undefined }
  }
  const volts = way === 'source' ? host.logicVolts : 0
  if (volts === undefined) return undefined
  const held = network.thevenin(net, { net: wiring.netOf(host.end), volts })
  return held && { volts: held.volts, ohms: held.ohms + (host.levels.outputOhms ?? 0), outside: held.ohms, host }
}

/** Forward volts of a diode: fixed, or a fact of an option's value. */
export function forwardOf(
  part: PartInstance,
  forward: number | { option: string; fact: string } | undefined,
): number | undefined {
  if (typeof forward !== 'object') return forward
  const option = part.part.options.find((one) => one.id === forward.option)
  const value = option?.values.find((one) => one.value === entryOf(part.options, forward.option))
  return entryOf(value?.facts, forward.fact)
}

/** A resistor with a leg on the net of an end that is no supply. */
function resistorAt(wiring: Wiring, end: string): PartInstance | undefined {
  const net = wiring.netOf(end)
  if (net.ground || net.sources.length > 0) return undefined
  const own = wiring.terminal(end)?.ref
  const other = net.ends
    .map((one) => wiring.terminal(one))
    .find((one) => one?.ref !== own && one?.owner.kind === 'part' && one.owner.part.id === 'resistor')
  return other?.owner.kind === 'part' ? other.owner : undefined
}

/** What one pin carries: milliamperes, which way, and whose they are. */
export interface PinLoad {
  readonly host: Host
  readonly source: number
  readonly sink: number
  readonly parts: readonly string[]
}

const loads = new WeakMap<Wiring, readonly PinLoad[]>()

/** Current of each pin that carries any: lit diodes, what the facts of a signal say, resistors to a supply or ground. */
export function pinLoads(wiring: Wiring): readonly PinLoad[] {
  const known = loads.get(wiring)
  if (known) return known
  const byHost = new Map<Host, { source: number; sink: number; parts: Set<string> }>()
  const add = (host: Host, way: 'source' | 'sink', milliamps: number, who: string): void => {
    if (milliamps <= 0 || !Number.isFinite(milliamps)) return
    const load = byHost.get(host) ?? { source: 0, sink: 0, parts: new Set<string>() }
    load[way] += milliamps
    load.parts.add(who)
    byHost.set(host, load)
  }
  const diodes = litDiodes(wiring)
  for (const one of diodes) if (one.host) add(one.host, one.way, one.milliamps, one.part.ref)
  const lights = new Set(diodes.flatMap((one) => [one.anode, one.cathode]))
  for (const use of wiring.signals) {
    const { milliamps, direction, activeLevel } = use.facts
    for (const { host } of use.hosts) {
      if (milliamps !== undefined && !lights.has(use.end) && direction === 'in')
        add(host, activeLevel === 'low' ? 'sink' : 'source', baseCurrent(wiring, use, host) ?? milliamps, use.part.ref)
    }
  }
  const driven = new Set(
    wiring.signals.flatMap((use) => (use.facts.direction === 'in' ? use.hosts.map(({ host }) => host) : [])),
  )
  for (const host of wiring.hosts.values()) {
    const net = wiring.netOf(host.end)
    if (!net.wired || net.ground || net.sources.length > 0 || host.logicVolts === undefined) continue
    if (!host.functions.has('digital-out') || !driven.has(host)) continue
    const held = networkOf(wiring).thevenin(net)
    if (!held || held.ohms <= 0) continue
    add(host, 'source', ((host.logicVolts - held.volts) / held.ohms) * 1000, 'a resistor')
    add(host, 'sink', (held.volts / held.ohms) * 1000, 'a resistor')
  }
  const all = [...byHost].map(([host, load]): PinLoad => ({ host, ...load, parts: [...load.parts] }))
  loads.set(wiring, all)
  return all
}

/** Current into the base of a transistor: (V − Vbe) / R, in milliamperes. */
function baseCurrent(wiring: Wiring, use: SignalUse, host: Host): number | undefined {
  const junction = use.part.part.inner.find((one) => one.kind === 'diode' && one.between[0] === use.facts.pin)
  if (!junction || host.logicVolts === undefined) return undefined
  const held = networkOf(wiring).thevenin(wiring.netOf(use.end), {
    net: wiring.netOf(host.end),
    volts: host.logicVolts,
  })
  const forward = forwardOf(use.part, junction.forward) ?? 0.7
  if (!held || held.ohms < 0.5) return undefined
  return (Math.max(0, held.volts - forward) / held.ohms) * 1000
}
