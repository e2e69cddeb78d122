import { volts } from '../catalog/common.ts'
import { circuitOf, type Element, railOf, railsBehindContacts } from '../circuit/circuit.ts'
import { contactLevels } from '../circuit/contactLevels.ts'
import { readOutputs } from '../circuit/readOutputs.ts'
import { networkOf } from '../circuit/still.ts'
import { thrownLevels } from '../circuit/thrown.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Net, SignalUse, Wiring } from '../wiring/model.ts'
import { laddersOf } from './contactLadder.ts'
import type { Report } from './finding.ts'
import { listWords, twoDigits } from './shared.ts'

/** Contacts of two rows and two columns. */
const LEAST_MATRIX = 4

export const levelContactMessages = {
  same: '{pin} reads {was} whether {part} is open or closed.',
  sameOutput: '{pin} reads {was} whether {part} conducts or not.',
  thrown: '{pin} reads {was} in every position of {part}.',
  between: '{pin} gets {volts} while {part} is {state}, neither high nor low.',
}

/** A contact that reads the same open and closed, or whose closed level is none. */
export function sayContact(wiring: Wiring, use: SignalUse, report: (one: Report) => void): void {
  if (use.facts.direction !== 'passive' || use.facts.needs.startsWith('analog')) return
  const levels = contactLevels(wiring, use)
  const [first] = levels
  if (!first) return
  const { host } = first
  if (laddersOf(wiring).some((ladder) => ladder.host === host) || isInMatrix(wiring, first.contact)) return
  const vih = volts(host.levels.vih, host.logicVolts)
  const vil = volts(host.levels.vil, host.logicVolts)
  if (vih === undefined || vil === undefined) return
  const read = (at: number): 'high' | 'low' | 'neither' =>
    at >= vih - 0.005 ? 'high' : at <= vil + 0.005 ? 'low' : 'neither'
  const known = levels.flatMap(({ open, closed }) =>
    open === undefined || closed === undefined ? [] : [{ open, closed, was: read(open), is: read(closed) }],
  )
  const works = ({ was, is }: (typeof known)[number]): boolean => was !== is && was !== 'neither' && is !== 'neither'
  const [best] = known.toSorted((a, b) => Number(a.was === a.is) - Number(b.was === b.is))
  if (known.length < levels.length || !best || known.some(works)) return
  const { open, closed, was, is } = best
  // Held at the wrong level for a start: boot-strap says so.
  if (activeCautions(host).some(({ id, needs }) => id === 'boot-strap' && (needs === 'high') === open <= vil)) return
  const at = [use.end, host.end]
  const numbers = { open: twoDigits(open), closed: twoDigits(closed), vih: twoDigits(vih), vil: twoDigits(vil) }
  if (was === is && was !== 'neither')
    report({
      severity: 'fault',
      at,
      message: 'same',
      data: { pin: host.end, was, part: use.part.ref },
      why: `Open it lies at ${formatVolts(open)}, closed at ${formatVolts(closed)}. The contact has to lead to one side, and the resistor that holds the line meanwhile to the other.`,
      numbers,
    })
  else if (was === 'neither' || is === 'neither')
    report({
      severity: is === 'neither' ? 'fault' : 'caution',
      at,
      message: 'between',
      data: {
        pin: host.end,
        volts: formatVolts(is === 'neither' ? closed : open),
        part: use.part.ref,
        state: is === 'neither' ? 'closed' : 'open',
      },
      why: `It takes at least ${formatVolts(vih)} for high and at most ${formatVolts(vil)} for low. The resistors around the contact divide the supply; one of them is too large or too small.`,
      numbers,
    })
}

/** A contact at an input of a part that no pin drives, and that leads to the rail at which resistors hold it anyway. */
export function sayContactsOfParts(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const use of wiring.signals) {
    if (use.facts.direction !== 'in' || use.hosts.length > 0) continue
    const net = wiring.netOf(use.end)
    const ways = railsBehindContacts(circuit, net)
    const rest = networkOf(wiring).pulled(net)
    const [first] = ways
    const isOther = circuit
      .at(net)
      .some(({ role, terminal }) => terminal.end !== use.end && role !== 'passive' && role !== 'in' && role !== 'none')
    if (rest === undefined || !first || isOther || railOf(net) || first.contact.throws) continue
    if (ways.some(({ rail }) => Math.abs(rail.volts - rest) > SAME_VOLTS)) continue
    report({
      severity: 'fault',
      at: [use.end, first.contact.part.ref],
      message: 'same',
      data: { pin: use.end, was: rest > SAME_VOLTS ? 'high' : 'low', part: first.contact.part.ref },
      why: `Open it is held at ${formatVolts(rest)}, closed it lies at ${formatVolts(first.rail.volts)}. The contact has to lead to one side, and the resistor that holds the line meanwhile to the other.`,
      numbers: { open: twoDigits(rest), closed: first.rail.volts },
    })
  }
}

/** Volts between two levels that nothing tells apart. */
const SAME_VOLTS = 0.3

/**
 * Contacts between pins, as many as pins or more: rows and columns, of which the program drives one after the other. Fewer
 * make no second way to any pin.
 */
function isInMatrix(wiring: Wiring, contact: Element): boolean {
  const circuit = circuitOf(wiring)
  const nets = new Set([contact.netA, contact.netB])
  const contacts = new Set<Element>()
  for (const net of nets) {
    if (net.ground || net.sources.length > 0) return false
    for (const one of circuit.on(net).filter(({ kind, throws }) => kind === 'contact' && !throws)) {
      contacts.add(one)
      nets.add(one.netA === net ? one.netB : one.netA)
    }
  }
  return contacts.size >= nets.size && contacts.size >= LEAST_MATRIX
}

/** A transistor that a pin reads, and that leads to the side at which the line is held anyway. */
export function sayReadOutputs(wiring: Wiring, report: (one: Report) => void): void {
  for (const { channel, host, on, off } of readOutputs(wiring)) {
    const vih = volts(host.levels.vih, host.logicVolts)
    const vil = volts(host.levels.vil, host.logicVolts)
    if (off === undefined || vih === undefined || vil === undefined) continue
    const isHigh = Math.min(on, off) >= vih - 0.005
    if (!isHigh && Math.max(on, off) > vil + 0.005) continue
    report({
      severity: 'fault',
      at: [channel.output, host.end],
      message: 'sameOutput',
      data: { pin: host.end, was: isHigh ? 'high' : 'low', part: channel.part.ref },
      why: `While it conducts the line lies at ${formatVolts(on)}, and while it does not, resistors hold it at ${formatVolts(off)}. The resistor belongs on the other side than the one to which the transistor leads.`,
      numbers: { on: twoDigits(on), off: twoDigits(off), vih: twoDigits(vih), vil: twoDigits(vil) },
    })
  }
}

/** A change-over contact that makes the same level in all its positions, or leads from its pin to pins alone. */
export function sayThrown(wiring: Wiring, use: SignalUse, report: (one: Report) => void): void {
  const pins = pinsBeyond(wiring, use)
  if (pins) {
    const [pin, was] = [use.hosts[0]?.host.end as string, use.facts.pull === 'down' ? 'low' : 'high']
    report({
      severity: 'fault',
      at: [use.end, pin],
      message: 'thrown',
      data: { pin, was, part: use.part.ref },
      why: `It leads from there to ${listWords(pins)} only, which nothing in the plan drives. One throw has to lead to ground or to the supply.`,
      numbers: {},
    })
    return
  }
  const levels = thrownLevels(wiring, use)
  if (!levels || (levels.opens && levels.rest === undefined)) return
  const { host, led, rest, opens } = levels
  const vih = volts(host.levels.vih, host.logicVolts)
  const vil = volts(host.levels.vil, host.logicVolts)
  if (vih === undefined || vil === undefined) return
  const all = opens ? [...led, rest as number] : led
  const isHigh = all.every((at) => at >= vih - 0.005)
  if (!isHigh && !all.every((at) => at <= vil + 0.005)) return
  report({
    severity: 'fault',
    at: [use.end, host.end],
    message: 'thrown',
    data: { pin: host.end, was: isHigh ? 'high' : 'low', part: use.part.ref },
    why: `${opens ? `In one position it leads to ${formatVolts(led[0] as number)}, in the other the line is held at ${formatVolts(rest as number)}` : `Every position leads to ${formatVolts(led[0] as number)}`}. One position has to lead to the other level, or to nothing while a resistor holds the line there.`,
    numbers: { volts: twoDigits(led[0] as number), vih: twoDigits(vih), vil: twoDigits(vil) },
  })
}

/**
 * What the throws of a change-over contact lead to from the pin that reads it, where that is nothing but pins that drive
 * nothing, straight or over contacts that are read as well; undefined where something else is there.
 */
function pinsBeyond(wiring: Wiring, use: SignalUse): string[] | undefined {
  if (use.facts.direction !== 'passive' || use.hosts.length === 0) return undefined
  const circuit = circuitOf(wiring)
  const ways = circuit.elements.filter(({ part, throws }) => part === use.part && throws)
  const far = ways.flatMap(({ a, b, netA, netB }) => (a === use.end ? netB : b === use.end ? netA : []))
  const wired = far.filter((net) => net.wired)
  const [own] = use.hosts
  const driven = new Set(
    wiring.signals.flatMap(({ part, hosts }) => (part === use.part ? [] : hosts.map(({ host }) => host))),
  )
  const pins = wired.map((net) => {
    const ends = net.ends.filter((one) => wiring.terminal(one)?.ref !== use.part.ref)
    const isPin = (end: string): boolean => {
      const { boardPin, host, ref } = wiring.terminal(end) ?? {}
      // What another board does there nobody knows.
      const isIdle = ref === own?.host.ref && !(host && driven.has(host))
      return isIdle && (boardPin?.kind === 'io' || boardPin?.kind === 'control')
    }
    if (ends.every(isPin)) return ends[0]
    const isRead = (end: string): boolean => circuit.on(net).some((one) => isReadContact(wiring, one, end, net))
    return ends.every(isRead) ? ends[0] : undefined
  })
  return pins.length > 0 && pins.every((pin) => pin !== undefined) ? pins : undefined
}

/** One leg of a contact whose other legs lead to pins of a board that only read it. */
const isReadContact = (wiring: Wiring, { kind, part, a, b, netA, netB }: Element, end: string, net: Net): boolean =>
  kind === 'contact' &&
  (a === end || b === end) &&
  wiring.signals.some(
    (use) => use.part === part && use.hosts.length > 0 && wiring.netOf(use.end) === (netA === net ? netB : netA),
  )
