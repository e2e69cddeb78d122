import { memo } from '../base/memo.ts'
import type { Channel } from '../catalog/innerSchema.ts'
import type { Host, Net, PartInstance, SignalUse, Source, Terminal, Wiring } from '../wiring/model.ts'
import { elementsOf } from './elements.ts'
import { portOf } from './ports.ts'

/**
 * What lies electrically between the nets of a wiring, and how every pin meets its net; made once of one wiring. Rules
 * read this instead of following declared signals to board pins: a pin that nobody declared is here as well.
 */
export interface Circuit {
  readonly wiring: Wiring
  readonly ports: ReadonlyMap<string, Port>
  /** Ports of a net, in the order of its ends. */
  readonly at: (net: Net) => readonly Port[]
  readonly elements: readonly Element[]
  /** Elements with a leg on a net. */
  readonly on: (net: Net) => readonly Element[]
  readonly channels: readonly DriverChannel[]
  /** Nets that a transistor joins with one while it conducts. */
  readonly switched: (net: Net) => readonly SwitchedWay[]
}

/** Where a transistor leads while it conducts, and the nets that move it. */
export interface SwitchedWay {
  readonly to: Net
  readonly control: readonly Net[]
}

/** What a pin does in this plan, seen from itself. `either`: wired, and named by no signal; it may do both. */
export type Role =
  | 'out'
  | 'in'
  | 'both'
  | 'open-drain'
  | 'either'
  | 'passive'
  | 'supply'
  | 'ground'
  | 'control'
  | 'none'

/** How an active thing meets a net. */
export interface Port {
  readonly terminal: Terminal
  readonly net: Net
  readonly role: Role
  /** A part's signal that ends or begins here. */
  readonly use: SignalUse | undefined
  readonly host: Host | undefined
  /** Volts that it puts out while high; undefined for a pin that cannot, or whose supply is not known. */
  readonly high: number | undefined
  /** Most and least volts that it bears; undefined where no source says. */
  readonly most: number | undefined
  readonly least: number | undefined
}

/** Something with two legs between two nets. */
export interface Element {
  readonly kind: 'resistor' | 'diode' | 'contact' | 'shunt' | 'winding' | 'load' | 'capacitor'
  readonly part: PartInstance
  /** Ends of its legs; of a diode the anode first, of a polarised load its plus. */
  readonly a: string
  readonly b: string
  readonly netA: Net
  readonly netB: Net
  readonly ohms: number | undefined
  /** Least and most ohms of a resistance that senses something. */
  readonly spread: { readonly least: number; readonly most: number } | undefined
  /** Current that it takes while it runs, and while it starts or is held fast, in milliamperes. */
  readonly runs: number | undefined
  readonly starts: number | undefined
  /** Carries a current from `a` to `b` only: a diode, a load with a plus. */
  readonly oneWay: boolean
  /** A diode that lights. */
  readonly lights: boolean
  /** Diode: volts forward while it conducts, and backwards where it is made for that. */
  readonly forward: number | undefined
  /** Diode: volts forward at the few milliamperes of a signal, where that is known besides. */
  readonly slight: number | undefined
  readonly zener: number | undefined
  /** Most that it bears for good: milliamperes, of a capacitor volts. */
  readonly most: number | undefined
  /** Contact: one way of a change-over switch, of whose ways just one is closed. */
  readonly throws: boolean
  /** Contact of a relay: the signal that moves it, and whether it is closed while that is active. */
  readonly moved: { readonly by: string; readonly whileActive: boolean } | undefined
}

/** An output that switches a load, and the pins that move it. */
export interface DriverChannel {
  readonly part: PartInstance
  readonly facts: Channel
  readonly output: string
  readonly inputs: readonly string[]
  readonly enables: readonly { readonly end: string; readonly active: 'high' | 'low'; readonly held: boolean }[]
  /** Loads that hang on the output. */
  readonly loads: readonly Element[]
}

/** The leg of a bare transistor between which and its output it opens and closes the way; undefined for what is none. */
export function switchedSide({ part, facts }: Pick<DriverChannel, 'part' | 'facts'>): string | undefined {
  const fixed = facts.supply ?? part.part.pins.find(({ role }) => role === 'ground')?.id
  return part.part.build !== 'component' || fixed === undefined ? undefined : `${part.ref}.${fixed}`
}

const circuits = memo(build)

/** The circuit of a wiring; of a part of one, that of the whole. */
export const circuitOf = (wiring: Wiring): Circuit => circuits(wiring.whole ?? wiring)

function build(wiring: Wiring): Circuit {
  const users = new Map<Host, SignalUse[]>()
  for (const use of wiring.signals) for (const { host } of use.hosts) append(users, host, use)
  const ports = new Map<string, Port>()
  const byNet = new Map<Net, Port[]>()
  for (const net of wiring.nets)
    for (const end of net.ends) {
      const terminal = wiring.terminal(end)
      if (!terminal) continue
      const port = portOf(wiring, terminal, net, users)
      ports.set(end, port)
      append(byNet, net, port)
    }
  const elements = wiring.parts.flatMap((part) => elementsOf(wiring, part))
  const onNet = new Map<Net, Element[]>()
  for (const element of elements) for (const net of new Set([element.netA, element.netB])) append(onNet, net, element)
  const on = (net: Net): readonly Element[] => onNet.get(net) ?? []
  const channels = wiring.parts.flatMap((part) => part.part.channels.map((facts) => channelOf(wiring, part, facts, on)))
  const joined = new Map<Net, SwitchedWay[]>()
  for (const { part, output, facts, inputs } of channels) {
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    if (part.part.build !== 'component' || facts.supply !== undefined || !low) continue
    const [drain, source] = [wiring.netOf(output), wiring.netOf(`${part.ref}.${low.id}`)]
    const control = inputs.map((end) => wiring.netOf(end))
    append(joined, drain, { to: source, control })
    append(joined, source, { to: drain, control })
  }
  return {
    wiring,
    ports,
    at: (net) => byNet.get(net) ?? none,
    elements,
    on,
    channels,
    switched: (net) => joined.get(net) ?? none,
  }
}

/** True for a net on ground, and for one that a transistor joins with ground while it conducts. */
export const reachesGround = (wiring: Wiring, net: Net): boolean =>
  net.ground ||
  circuitOf(wiring)
    .switched(net)
    .some(({ to }) => to.ground)

const none: readonly never[] = []

function append<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key)
  if (list) list.push(value)
  else lists.set(key, [value])
}

function channelOf(
  wiring: Wiring,
  part: PartInstance,
  facts: Channel,
  on: (net: Net) => readonly Element[],
): DriverChannel {
  const end = (pin: string): string => `${part.ref}.${pin}`
  const output = end(facts.output)
  const net = wiring.netOf(output)
  return {
    part,
    facts,
    output,
    inputs: facts.inputs.map(end),
    enables: facts.enables.map(({ pin, active, held }) => ({ end: end(pin), active, held })),
    loads: on(net).filter((one) => one.kind === 'winding' || one.kind === 'load'),
  }
}

/** What holds a net at a voltage: ground as 0 V, or its source; undefined for a net that nothing holds stiffly. */
export interface RailHold {
  readonly volts: number
  readonly source: Source | undefined
}

export const railOf = (net: Net): RailHold | undefined =>
  net.ground
    ? { volts: 0, source: undefined }
    : net.sources[0] && { volts: net.sources[0].volts, source: net.sources[0] }

/** A rail that lies on the net itself, and is not led to it by a contact or a diode. */
export const ownRailOf = (net: Net): RailHold | undefined =>
  net.ground || net.sources.some(({ end }) => net.ends.includes(end)) ? railOf(net) : undefined

/** The name of a rail for sentences: `5 V (MCU.5V)` or `ground`. */
export const railWords = ({ volts: at, source }: RailHold): string => (source ? `${at} V (${source.end})` : 'ground')

const leads = ({ netA, netB }: Element, { source }: RailHold): boolean =>
  source !== undefined && [netA, netB].some((net) => net.ends.includes(source.end))

/** Rails that a net meets when one contact on it closes, with that contact. */
export function railsBehindContacts(
  circuit: Circuit,
  net: Net,
): { readonly contact: Element; readonly rail: RailHold }[] {
  return circuit.on(net).flatMap((contact) => {
    if (contact.kind !== 'contact' || contact.netA === contact.netB) return []
    const other = contact.netA === net ? contact.netB : contact.netA
    const rail = railOf(other)
    // What comes to the common over another throw is cut off as soon as this one closes.
    const isCut =
      contact.throws &&
      rail?.source !== undefined &&
      !other.ends.includes(rail.source.end) &&
      circuit.on(other).some((one) => one !== contact && one.part === contact.part && one.throws && leads(one, rail))
    return rail && !isCut ? [{ contact, rail }] : []
  })
}
