import type { Net } from '../wiring/model.ts'
import type { Circuit, Element, Port } from './circuit.ts'

/** Which way a current is followed: `down` where it goes to, `up` where it comes from. */
type Way = 'up' | 'down'

/**
 * True when a net leads to something that can hold it or drive it: a rail, a pin that drives, a supply that something
 * gives. The way may lead through any elements but those left out, through diodes in the current's direction only; a
 * capacitor carries nothing steadily. With `unwired` a leg that still waits for its wire counts as well.
 */
export function leadsSomewhere(
  circuit: Circuit,
  start: Net,
  without: (element: Element) => boolean,
  { unwired = false, way }: { readonly unwired?: boolean; readonly way?: Way } = {},
): boolean {
  const seen = new Set([start])
  const queue = [start]
  for (let net = queue.pop(); net; net = queue.pop()) {
    if (net.ground || net.sources.length > 0) return true
    if (circuit.at(net).some((port) => canHold(circuit, port, without))) return true
    for (const other of circuit.switched(net))
      if (!seen.has(other)) {
        seen.add(other)
        queue.push(other)
      }
    for (const element of circuit.on(net)) {
      if (element.kind === 'capacitor' || without(element)) continue
      if (element.kind === 'diode' && element.zener === undefined && way !== undefined)
        if (element[way === 'down' ? 'netA' : 'netB'] !== net) continue
      const other = element.netA === net ? element.netB : element.netA
      if (seen.has(other)) continue
      if (!other.wired && unwired) return true
      seen.add(other)
      queue.push(other)
    }
  }
  return false
}

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
  const { netA, netB, kind } = element
  if (netA === netB || kind === 'resistor') return []
  const ways: readonly (readonly [Way, Way])[] =
    kind === 'diode' && element.zener === undefined
      ? [['up', 'down']]
      : [
          ['up', 'down'],
          ['down', 'up'],
        ]
  let dead: string[] = []
  for (const [first, second] of ways) {
    const a = leadsSomewhere(circuit, netA, beside(element), { unwired: true, way: first })
    const b = leadsSomewhere(circuit, netB, beside(element), { unwired: true, way: second })
    if (a && b) return []
    if (a || b) dead = [...(!a && netA.wired ? [element.a] : []), ...(!b && netB.wired ? [element.b] : [])]
  }
  return dead
}

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
