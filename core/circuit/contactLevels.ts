import { solve } from '../electrical/network.ts'
import type { Host, Net, SignalUse, Wiring } from '../wiring/model.ts'
import { INNER_PULL_OHMS } from './boardPulls.ts'
import { type Circuit, circuitOf, type Element } from './circuit.ts'
import type { Actor, Strand } from './groundwork.ts'
import { verdictsOf } from './verdicts.ts'

/** Contacts on one line beyond which it is a matrix or a keyboard. */
const MOST_CONTACTS = 8
const PULL_NODE = Number.MIN_SAFE_INTEGER

/** What a pin reads of a contact: volts while it is open and while it is closed; undefined while nothing holds it. */
export interface ContactLevels {
  readonly contact: Element
  readonly host: Host
  readonly open: number | undefined
  readonly closed: number | undefined
}

/**
 * Levels that a contact of a part makes at the pin that reads it, first with every other contact of the island open,
 * then with all of them closed: of two in a row each counts only while the other is closed. One that leads to the pin of
 * another contact shall count by itself. The pin's own pull counts where the signal asks for it and the contact leads to
 * the other side.
 */
export function contactLevels(wiring: Wiring, use: SignalUse): readonly ContactLevels[] {
  const circuit = circuitOf(wiring)
  const host = use.hosts[0]?.host
  const contact = circuit.elements.find(
    (one) => one.kind === 'contact' && one.part === use.part && (one.a === use.end || one.b === use.end),
  )
  if (!host || !contact || contact.throws || contact.netA === contact.netB) return []
  if (!contact.netA.wired || !contact.netB.wired) return []
  const net = wiring.netOf(host.end)
  const verdict = verdictsOf(wiring).of(net)?.verdict
  const rest = verdict?.states[0]
  if (!verdict || !rest || !verdict.island.nets.includes(net)) return []
  // Beyond a shifter or a buffer the level is made anew: what the contact does there is not seen in this island.
  const legs = [contact.netA, contact.netB]
  if (!legs.some((leg) => leg === net || verdict.island.nets.includes(leg))) return []
  // Where something else drives the line as well, the level is another matter.
  const contacts = verdict.island.actors.filter(({ what }) => 'element' in what && what.element.kind === 'contact')
  if (verdict.island.actors.length - contacts.length > 1 || contacts.length > MOST_CONTACTS) return []
  const isRail = (leg: Net): boolean => leg.ground || leg.sources.length > 0
  const far = legs.find(isRail) ?? (contact.netA === net ? contact.netB : contact.netA)
  if (leadsToPin(circuit, far)) return []
  const way = far.sources.length > 0 ? 'pull-down' : 'pull-up'
  const pulls = use.facts.pull !== undefined && host.functions.has(way) && host.logicVolts !== undefined
  const held = new Map(verdict.island.held)
  const own: Strand[] = pulls
    ? [{ a: PULL_NODE, b: net.index, ohms: INNER_PULL_OHMS, element: undefined, port: undefined }]
    : []
  if (pulls) held.set(PULL_NODE, way === 'pull-up' ? (host.logicVolts as number) : 0)
  for (const one of [contact.netA, contact.netB]) {
    const at = one.ground ? 0 : one.sources[0]?.volts
    if (at !== undefined) held.set(one.index, at)
  }
  const closing: Strand = { a: contact.netA.index, b: contact.netB.index, ohms: 0, element: contact, port: undefined }
  const others = contacts.filter(({ what }) => !('element' in what && what.element === contact))
  const closed = isReadItself(wiring, use, far, others)
    ? []
    : others.flatMap(({ positions }) => positions.at(-1)?.strands ?? [])
  return (closed.length > 0 ? [[], closed] : [[]]).map((besides): ContactLevels => {
    const strands = [...verdict.island.strands, ...own, ...besides]
    return {
      contact,
      host,
      open: solve(strands, held).volts.get(net.index),
      closed: solve([...strands, closing], held).volts.get(net.index),
    }
  })
}

/** Where a contact leads to, another one is read that closes onto a rail from there. */
const isReadItself = (wiring: Wiring, use: SignalUse, far: Net, others: readonly Actor[]): boolean =>
  wiring.signals.some(
    ({ part, hosts }) => part !== use.part && hosts.some(({ host }) => wiring.netOf(host.end) === far),
  ) &&
  others.some(({ what }) => {
    if (!('element' in what)) return false
    const { netA, netB } = what.element
    const beyond = netA === far ? netB : netB === far ? netA : undefined
    return beyond !== undefined && (beyond.ground || beyond.sources.length > 0)
  })

/** Behind a diode another pin of a board: one of the two drives while the other reads, as in a matrix. */
const leadsToPin = (circuit: Circuit, net: Net): boolean =>
  circuit
    .on(net)
    .filter(({ kind, lights }) => kind === 'diode' && !lights)
    .some(({ netA, netB }) => circuit.at(netA === net ? netB : netA).some(({ host }) => host?.board !== undefined))
