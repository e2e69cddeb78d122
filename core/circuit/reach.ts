import { memo } from '../base/memo.ts'
import type { Host, Net, PartInstance, Terminal, Wiring } from '../wiring/model.ts'
import type { Circuit, Element, Port } from './circuit.ts'

/** Which way a current is followed: `down` where it goes to, `up` where it comes from. */
export type Way = 'up' | 'down'

/**
 * True when a net leads to something that can hold it or drive it: a rail, a pin that drives, a supply that something
 * gives. The way may lead through any elements but those left out, through what has a direction in that only; a
 * capacitor carries nothing steadily, only what alternates with `couples`, and no current comes out at the control of the
 * transistor that it went through.
 * With `unwired` a leg that still waits for its wire counts as well; by `past` the way does not lead. A pin of a board that
 * only reads takes no current: without `reads` it does not count.
 */
export function leadsSomewhere(
  circuit: Circuit,
  start: Net,
  without: (element: Element) => boolean,
  {
    unwired = false,
    way,
    past,
    couples = false,
    listens = false,
    reads = true,
  }: {
    readonly unwired?: boolean
    readonly way?: Way
    readonly past?: Net
    readonly couples?: boolean
    readonly listens?: boolean
    readonly reads?: boolean
  } = {},
): boolean {
  const seen = new Set([start, ...(past ? [past] : [])])
  const queue = [start]
  for (let net = queue.pop(); net; net = queue.pop()) {
    if (net.ground || net.sources.length > 0) return true
    const holds = (port: Port): boolean =>
      (canHold(circuit, port, without) && (reads || !port.host || !readers(circuit.wiring).has(port.host))) ||
      (listens && isOfModule(port))
    if (circuit.at(net).some(holds)) return true
    for (const { to, control } of circuit.switched(net)) {
      for (const one of control) seen.add(one)
      if (seen.has(to)) continue
      seen.add(to)
      queue.push(to)
    }
    for (const element of circuit.on(net)) {
      if ((element.kind === 'capacitor' && !couples) || without(element)) continue
      if (element.oneWay && way !== undefined) if (element[way === 'down' ? 'netA' : 'netB'] !== net) continue
      const other = element.netA === net ? element.netB : element.netA
      if (seen.has(other)) continue
      if (!other.wired && unwired) return true
      seen.add(other)
      queue.push(other)
    }
  }
  return false
}

/**
 * The other leg of a part whose whole current goes in at one end and out at the other, such as a buzzer or the input of a
 * solid-state relay.
 */
export function otherLeg({ owner, end }: Pick<Terminal, 'owner' | 'end'>): string | undefined {
  if (owner.kind !== 'part' || owner.supplies.length > 0) return undefined
  const { pins, inner, signals } = owner.part
  if (!signals.some(({ direction }) => direction === 'in') || inner.some(({ kind }) => kind !== 'capacitance'))
    return undefined
  const legs = pins.filter(({ role }) => role !== 'free').map(({ id }) => `${owner.ref}.${id}`)
  return legs.length === 2 && legs.includes(end) ? legs.find((one) => one !== end) : undefined
}

/** A pin that can hold its net by itself. Legs of elements cannot; of a pin without known inside it is assumed. */
export function canHold(circuit: Circuit, port: Port, without: (element: Element) => boolean): boolean {
  const { role, host, terminal, net } = port
  const { owner } = terminal
  // The posts of a board that reset it or switch it on are held by the board.
  if (owner.kind !== 'part') return role !== 'none' && role !== 'ground' && role !== 'supply'
  // Minus of a battery or a socket, from which the current came.
  if (role === 'ground' && isCell(owner)) return true
  if (role === 'supply' || role === 'ground' || role === 'none' || role === 'control') return false
  const legs = circuit.on(net).filter((one) => one.a === terminal.end || one.b === terminal.end)
  if (legs.some(without)) return false
  if (host) return true
  if (role === 'in') return false
  return legs.length === 0
}

const READS = new Set(['digital-in', 'analog-in', 'interrupt'])

/** Pins of boards and expanders that are there to be read, and for nothing else. */
const readers = memo((wiring: Wiring): ReadonlySet<Host> => {
  const all = wiring.signals.flatMap(({ facts, hosts }) =>
    hosts.map(({ host }) => ({ host, reads: READS.has(facts.needs) })),
  )
  const others = new Set(all.flatMap(({ host, reads }) => (reads ? [] : [host])))
  return new Set(all.flatMap(({ host }) => (others.has(host) ? [] : [host])))
})

/** A pin of a module or a chip that is for something. */
const isOfModule = ({ role, terminal: { owner, partPin } }: Port): boolean =>
  owner.kind === 'part' &&
  owner.part.build !== 'component' &&
  (role !== 'none' || partPin?.outside !== undefined || partPin?.unknown !== undefined)

/** A net and those that resistors join with it, of fewer ohms than a limit, up to the rails at which they end. */
export function behindResistors(circuit: Circuit, start: Net, below = Number.POSITIVE_INFINITY): Net[] {
  const nets = new Set([start])
  for (const net of nets)
    if (!net.ground && net.sources.length === 0)
      for (const { kind, ohms = 0, netA, netB } of circuit.on(net))
        if (kind === 'resistor' && ohms < below) nets.add(netA === net ? netB : netA)
  return [...nets]
}

/** A resistor of so many ohms and more holds a line; one of fewer carries a current that counts. */
export const LEAST_HOLD = 1000

/**
 * Nothing but resistors, capacitors and clamping diodes hangs on a net besides one part, up to the rails at which they
 * end and the nets at which the way stops: it is held, and nobody reads it or takes a current from it.
 */
export function isOnlyHeld(circuit: Circuit, start: Net, own: PartInstance, stops: readonly Net[] = []): boolean {
  return behindResistors(circuit, start).every((net) => {
    if (net.ground || net.sources.length > 0 || stops.includes(net)) return true
    const beside = circuit.on(net).filter(({ part }) => part !== own)
    const legs = new Set(beside.flatMap(({ a, b }) => [a, b]))
    // A diode to a rail leads a kick away; the base of another transistor takes a current.
    const isClamp = ({ kind, lights, netA, netB, part }: Element): boolean =>
      kind === 'diode' &&
      !lights &&
      part.part.channels.length === 0 &&
      [netA, netB].some((one) => one.ground || one.sources.length > 0)
    return (
      beside.every((one) => one.kind === 'resistor' || one.kind === 'capacitor' || isClamp(one)) &&
      net.ends.every((end) => legs.has(end) || end.startsWith(`${own.ref}.`))
    )
  })
}

/** A battery, a socket: a part that gives current by itself. */
export const isCell = ({ part, supplies }: PartInstance): boolean =>
  supplies.length === 0 && part.rails.some(({ from }) => from === undefined)

/** Where a leg that carries nothing leads: nowhere at all, or only round to the element's other leg. */
export type DeadEnd = 'nowhere' | 'round'

/** Legs of an element that have a wire and close no circle with a supply in it, while its other leg leads somewhere. */
export function deadLegs(circuit: Circuit, element: Element): ReadonlyMap<string, DeadEnd> {
  const { netA, netB, kind } = element
  const none = new Map<string, DeadEnd>()
  if (netA === netB || kind === 'resistor') return none
  const ways: readonly (readonly [Way, Way])[] = element.oneWay
    ? [['up', 'down']]
    : [
        ['up', 'down'],
        ['down', 'up'],
      ]
  const couples = alternates(element)
  // A switch or a fuse also leads to what only listens, such as an enable, or to the post for a cell.
  const listens = kind === 'contact' || kind === 'shunt'
  const how = {
    unwired: true,
    couples,
    listens,
    reads: listens || !(element.lights || kind === 'load' || kind === 'winding'),
  }
  const ends = (net: Net, way: Way, past: Net): DeadEnd | undefined => {
    const without = beside(element)
    if (!leadsSomewhere(circuit, net, without, { ...how, way })) return 'nowhere'
    // Of a lamp with both legs on one rail its rule speaks.
    if (element.lights || leadsSomewhere(circuit, net, without, { ...how, way, past })) return undefined
    return 'round'
  }
  const dead = new Map<string, DeadEnd>()
  for (const [first, second] of ways) {
    const a = ends(netA, first, netB)
    const b = ends(netB, second, netA)
    if (!a && !b) return none
    if (a && b) continue
    for (const [leg, net, leads] of [[element.a, netA, a] as const, [element.b, netB, b] as const])
      if (leads && net.wired && dead.get(leg) !== 'round') dead.set(leg, leads)
  }
  return dead
}

/** A loudspeaker and the like, which work on what alternates. */
export const alternates = ({ part }: Element): boolean => part.part.signals.some((signal) => signal.alternates)

/** The element and those beside it in the same part, as the colours of one lamp: no way back for each other. */
const beside =
  (element: Element) =>
  (one: Element): boolean =>
    one === element || (one.part === element.part && one.kind === element.kind)

/** Both legs of an element lead to something. */
export const isLed = (circuit: Circuit, element: Element): boolean =>
  leadsSomewhere(circuit, element.netA, beside(element), element.kind === 'diode' ? { way: 'up' } : {}) &&
  leadsSomewhere(circuit, element.netB, beside(element), element.kind === 'diode' ? { way: 'down' } : {})

/** Both legs of an element lead to something, whatever the direction. */
export const isBetween = (circuit: Circuit, { netA, netB, part, kind }: Element): boolean =>
  [netA, netB].every((net) => leadsSomewhere(circuit, net, (one) => one.part === part && one.kind === kind))
