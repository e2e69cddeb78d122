import type { Net } from '../wiring/model.ts'
import type { Circuit, Element, Port } from './circuit.ts'

/**
 * True when a net leads to something that can hold it or drive it: a rail, a pin that drives, a supply that something
 * gives. The way may lead through any elements but those left out; a capacitor carries nothing steadily. With `unwired`
 * a leg that still waits for its wire counts as well.
 */
export function leadsSomewhere(
  circuit: Circuit,
  start: Net,
  without: (element: Element) => boolean,
  unwired = false,
): boolean {
  const seen = new Set([start])
  const queue = [start]
  for (let net = queue.pop(); net; net = queue.pop()) {
    if (net.ground || net.sources.length > 0) return true
    if (circuit.at(net).some((port) => canHold(circuit, port, without))) return true
    for (const other of switchedWith(circuit, net))
      if (!seen.has(other)) {
        seen.add(other)
        queue.push(other)
      }
    for (const element of circuit.on(net)) {
      if (element.kind === 'capacitor' || without(element)) continue
      const other = element.netA === net ? element.netB : element.netA
      if (seen.has(other)) continue
      if (!other.wired && unwired) return true
      seen.add(other)
      queue.push(other)
    }
  }
  return false
}

/** Nets that a transistor joins with this one while it conducts. */
const switchedWith = (circuit: Circuit, net: Net): Net[] =>
  circuit.channels.flatMap(({ part, output, facts }) => {
    if (part.part.build !== 'component' || facts.supply !== undefined) return []
    const low = part.part.pins.find((pin) => pin.role === 'ground')
    if (!low) return []
    const nets = [output, `${part.ref}.${low.id}`].map(circuit.wiring.netOf)
    return nets.includes(net) ? nets.filter((one) => one !== net) : []
  })

/** A pin that can hold its net by itself. Legs of elements cannot; of a pin without known inside it is assumed. */
function canHold(circuit: Circuit, port: Port, without: (element: Element) => boolean): boolean {
  const { role, host, terminal, net } = port
  const { owner } = terminal
  // The posts of a board that reset it or switch it on are held by the board.
  if (owner.kind !== 'part') return role !== 'none' && role !== 'ground' && role !== 'supply'
  if (role === 'supply' || role === 'ground' || role === 'none' || role === 'control') return false
  const legs = circuit.on(net).filter((one) => one.a === terminal.end || one.b === terminal.end)
  if (legs.some(without)) return false
  if (host) return true
  if (role === 'in') return false
  return legs.length === 0
}

/** Legs of an element that have a wire and lead nowhere, while its other leg leads somewhere. */
export function deadLegs(circuit: Circuit, element: Element): string[] {
  const { netA, netB } = element
  if (netA === netB || element.kind === 'resistor') return []
  // Elements beside it in the same part, as the colours of one lamp, are no way back for each other.
  const own = (one: Element): boolean => one === element || (one.part === element.part && one.kind === element.kind)
  const [a, b] = [netA, netB].map((net) => leadsSomewhere(circuit, net, own, true))
  return [...(!a && b && netA.wired ? [element.a] : []), ...(a && !b && netB.wired ? [element.b] : [])]
}

/** Both legs of an element lead to something. */
export const isLed = (circuit: Circuit, element: Element): boolean =>
  [element.netA, element.netB].every((net) =>
    leadsSomewhere(circuit, net, (one) => one === element || (one.part === element.part && one.kind === element.kind)),
  )
