import { behaviourOutputs } from '../../catalog/behaviourSchema.ts'
import { type Circuit, circuitOf, type DriverChannel, type Element, ownRailOf } from '../../circuit/circuit.ts'
import { CLOSED_OHMS } from '../../circuit/elementOhms.ts'
import { isKey } from '../../circuit/elements.ts'
import { type Actor, groundworkOf, type Passage, type Strand } from '../../circuit/groundwork.ts'
import type { Branch } from '../../electrical/network.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'

/** What a pin does to its net: drives it, pulls at it, or nothing. */
export interface Drive {
  readonly volts: number
  readonly ohms: number
}

/** A share of time in which a net is at its high drive. */
export interface Pulse {
  readonly duty: number
  readonly hertz: number | undefined
}

export interface Driver {
  readonly end: string
  readonly net: number
  drive: Drive | undefined
  /** While it pulses: the drive of the other part of the time. */
  low: Drive | undefined
  pulse: Pulse | undefined
}

export interface Switch {
  readonly channel: DriverChannel
  readonly high: readonly Strand[]
  readonly low: readonly Strand[]
  is: 'off' | 'high' | 'low'
  /** While an input pulses: where it stands in the other part of the time. */
  isMeanwhile: 'off' | 'high' | 'low'
  /** Pulses that it passes on. */
  pulse: Pulse | undefined
}

export interface Movable {
  /** Undefined for the inside of a switch of lines. */
  readonly element: Element | undefined
  readonly strands: readonly { readonly is: string; readonly strands: readonly Strand[] }[]
  is: string
  /** Ohms of one that senses, as its handle stands. */
  ohms: number | undefined
}

/** Nets that hang together, and what lies between them. */
export interface Group {
  readonly nets: readonly number[]
  readonly strands: readonly Strand[]
  readonly drivers: Driver[]
  readonly switches: Switch[]
  readonly movables: Movable[]
  readonly passages: readonly Passage[]
  volts: ReadonlyMap<number, number>
  /** While something in it pulses: its volts in either part of the time, where `volts` has their average. */
  pulsed:
    | { readonly pulse: Pulse; readonly high: ReadonlyMap<number, number>; readonly low: ReadonlyMap<number, number> }
    | undefined
  /** Milliamperes through elements and drivers, averaged over pulses. */
  currents: ReadonlyMap<Element | string, number>
}

/** How a switch of lines stands while it joins nothing. */
export const NO_WAY = 'none'

/** Contacts that a part moves by itself, such as those of a relay, with the ways in which they can stand. */
export interface Relay {
  readonly movable: Movable
  readonly ways: readonly Element[]
}

/** The nets of a plan in groups of what hangs together, whatever the program does, with all that can move in them. */
export interface LiveParts {
  /** Volts of the nets that supplies hold. */
  readonly held: ReadonlyMap<number, number>
  readonly groups: readonly Group[]
  readonly switches: readonly Switch[]
  readonly relays: readonly Relay[]
  readonly movables: ReadonlyMap<Element, Movable>
  /** Switches of lines by their part, and contacts of a part that a hand closes by part and number. */
  readonly inside: ReadonlyMap<string, Movable>
}

/** Divides the circuit of a plan into groups; nothing is driven yet, and every contact is open. */
export function livePartsOf(wiring: Wiring): LiveParts {
  const circuit = circuitOf(wiring)
  const { held: all, strands, actors, passages: ways } = groundworkOf(circuit)
  const held = heldBySupplies(circuit, all)
  const joined = new Joined(wiring, held)
  for (const strand of strands) joined.join([strand])
  const relays: Relay[] = []
  const elements = actors.flatMap((actor) => movableOf(actor, joined, relays))
  const switches = actors.flatMap((actor) => switchOf(actor, joined))
  const inside = insideParts(wiring)
  for (const one of inside.values()) for (const way of one.strands) joined.join(way.strands)
  const passages = freePassages(wiring, ways)
  for (const { from, to } of passages) joined.pass(from, to)
  const groups = joined.groups()
  for (const strand of strands) {
    // What lies between two supplies carries its current whatever the program does.
    groups.at(joined.between([strand]))?.strands.push(strand)
  }
  const movables = new Map<Element, Movable>()
  for (const one of [...elements, ...inside.values()]) {
    if (one.element) movables.set(one.element, one)
    groups.at(joined.between(one.strands.flatMap((way) => way.strands)))?.movables.push(one)
  }
  for (const one of switches) groups.at(joined.between([...one.high, ...one.low]))?.switches.push(one)
  for (const one of passages) if (joined.isFree(one.to)) groups.at(one.to)?.passages.push(one)
  return { held, groups: groups.all, switches, relays, movables, inside }
}

/** Supplies hold their nets; what pins hold is theirs to say, and what lies behind a relay has its supply now and then. */
function heldBySupplies(circuit: Circuit, all: ReadonlyMap<number, number>): ReadonlyMap<number, number> {
  const held = new Map(all)
  for (const { moved, netA, netB } of circuit.elements)
    if (moved) for (const net of [netA, netB]) if (!ownRailOf(net)) held.delete(net.index)
  return held
}

/** What a chip puts out it makes of more than one of its inputs, and in its own time: no way leads through it at once. */
function freePassages(wiring: Wiring, ways: readonly Passage[]): Passage[] {
  const made = new Set(
    wiring.parts.flatMap((part) =>
      behaviourOutputs(part.part.behaves).map((pin) => wiring.netOf(`${part.ref}.${pin}`).index),
    ),
  )
  return ways.filter(({ to }) => !made.has(to))
}

/** A contact or a sensing resistance; those of a relay are noted besides. */
function movableOf({ what, positions }: Actor, joined: Joined, relays: Relay[]): Movable[] {
  // What a hand closes inside a part is put in by itself.
  if (!('element' in what) || isKey(what.element)) return []
  const { element } = what
  // Each way of a change-over contact is one position of the same actor. All are solved together, also where its common
  // lies on a supply.
  joined.join(positions.flatMap((one) => one.strands))
  const strands = positions.map((one) => ({ is: one.is, strands: one.strands }))
  const movable: Movable = { element, strands, is: '0', ohms: undefined }
  if (element.moved) relays.push({ movable, ways: positions.flatMap((one) => one.strands[0]?.element ?? []) })
  return [movable]
}

function switchOf({ what, positions }: Actor, joined: Joined): Switch[] {
  if (!('channel' in what)) return []
  for (const one of positions) joined.join(one.strands)
  const of = (is: string): readonly Strand[] => positions.find((one) => one.is === is)?.strands ?? []
  return [{ channel: what.channel, high: of('high'), low: of('low'), is: 'off', isMeanwhile: 'off', pulse: undefined }]
}

/** Switches of lines, and contacts that a hand closes, which lie inside parts. */
function insideParts(wiring: Wiring): Map<string, Movable> {
  const inside = new Map<string, Movable>()
  const add = (name: string, pairs: readonly (readonly [string, string])[], { ref }: PartInstance, ohms: number) => {
    const net = (pin: string): number => wiring.netOf(`${ref}.${pin}`).index
    const ways = pairs.map(([one, other], at) => ({
      is: String(at),
      strands: [{ a: net(one), b: net(other), ohms, element: undefined, port: undefined }],
    }))
    const strands = [...ways, { is: NO_WAY, strands: [] }]
    inside.set(name, { element: undefined, strands, is: NO_WAY, ohms: undefined })
  }
  for (const part of wiring.parts) {
    const { behaves, presses } = part.part
    if (behaves?.as === 'choose')
      add(
        part.ref,
        behaves.ways.map((way) => [behaves.common, way] as const),
        part,
        behaves.ohms,
      )
    presses.forEach((pair, at) => {
      add(`${part.ref} ${at}`, [pair], part, CLOSED_OHMS)
    })
  }
  return inside
}

/** A group in the making. */
type Growing = { -readonly [K in keyof Group]: Group[K] } & {
  nets: number[]
  strands: Strand[]
  passages: Passage[]
}

/** Nets that no supply holds, joined by what lies between them. */
class Joined {
  readonly #root = new Map<number, number>()
  readonly #held: ReadonlyMap<number, number>

  constructor(wiring: Wiring, held: ReadonlyMap<number, number>) {
    this.#held = held
    for (const { index } of wiring.nets) if (this.isFree(index)) this.#root.set(index, index)
  }

  isFree(node: number): boolean {
    return !this.#held.has(node)
  }

  join(branches: readonly Branch[]): void {
    const nodes = branches.flatMap(({ a, b }) => [a, b]).filter((node) => this.isFree(node))
    for (const node of nodes) if (!this.#root.has(node)) this.#root.set(node, node)
    for (const node of nodes.slice(1)) this.#root.set(this.#find(node), this.#find(nodes[0]!))
  }

  /** A level that goes on to another net. */
  pass(from: number, to: number): void {
    if (this.isFree(from) && this.isFree(to)) this.#root.set(this.#find(from), this.#find(to))
  }

  /** The first net between branches that no supply holds. */
  between(branches: readonly Branch[]): number | undefined {
    return branches.flatMap(({ a, b }) => [a, b]).find((node) => this.isFree(node))
  }

  #find(node: number): number {
    let at = node
    for (let up = this.#root.get(at); up !== undefined && up !== at; up = this.#root.get(at)) at = up
    return at
  }

  /** Groups of what is joined by now. */
  groups(): { readonly all: readonly Growing[]; readonly at: (node: number | undefined) => Growing | undefined } {
    const groups = new Map<number, Growing>()
    const at = (node: number | undefined): Growing | undefined => {
      if (node === undefined) return undefined
      const key = this.#find(node)
      const known = groups.get(key)
      if (known) return known
      const group: Growing = {
        nets: [],
        strands: [],
        drivers: [],
        switches: [],
        movables: [],
        passages: [],
        volts: new Map(),
        pulsed: undefined,
        currents: new Map(),
      }
      groups.set(key, group)
      return group
    }
    for (const node of this.#root.keys()) at(node)?.nets.push(node)
    return {
      get all() {
        return [...groups.values()]
      },
      at,
    }
  }
}
