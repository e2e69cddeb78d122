import { type Circuit, circuitOf, type Element, type Port, railOf, railWords } from '../circuit/circuit.ts'
import { behindResistors } from '../circuit/reach.ts'
import type { Fix } from '../plan/edit.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { type Control, controlWords, offPost } from './controlPlaces.ts'
import type { Report, Rule } from './finding.ts'
import { isAboveLogic, logicWords } from './signalOnRail.ts'

/** A resistor of more ohms leaves a post where the board holds it: ten times the 10 kΩ that boards have there as a rule. */
const WEAK = 100_000

export const controlPost: Rule = {
  meta: {
    id: 'control-post',
    severities: ['fault', 'caution'],
    about:
      'Something hangs on a post of the board that is no signal (reset, enable, boot, reference, programmer) and moves it off its rest, or never moves it.',
    messages: {
      pulled: '{part} brings {at} {way}{over}, which {what}.',
      idle: 'When {part} closes, {pin} is joined with {rail}, where it lies anyway: nothing happens.',
      above: 'When {part} closes, {pin} gets {rail}, above the {logic} at which its chip runs.',
      shorts: 'When {part} closes, {pin} is joined with ground, and with it the reference of the converter.',
      unread: '{part} hangs on {pin}, which {what}: no program reaches it there.',
      joined: '{other} is joined with {pin}, which {what}.',
    },
    limits: ['pulled'],
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    // Of several posts of one net the one that has the wire.
    const direct = new Set<unknown>(wiring.plan.wires.flat())
    for (const port of circuit.ports.values()) {
      const control = port.terminal.boardPin?.control
      if (!control || !port.net.wired || !direct.has(port.terminal.end) || railOf(port.net)) continue
      sayPulled(wiring, circuit, port, control, report)
      sayContacts(wiring, circuit, port, control, report)
      if (control === 'reference' || control === 'debug') sayJoined(wiring, circuit, port, control, report)
    }
  },
}

/** Off its rest a post is brought to ground, unless it acts while high. */
const actsHigh = ({ terminal }: Port): boolean => terminal.boardPin?.acts === 'high'

const isActing = (port: Port, rail: { readonly volts: number }): boolean => actsHigh(port) === rail.volts > 0

const farSide = ({ netA, netB }: Element, net: Net): Net => (netA === net ? netB : netA)

/** A lamp, a load, a base or a resistor between a post and the rail at which it acts; a button of a pin over a resistor. */
function sayPulled(
  wiring: Wiring,
  circuit: Circuit,
  port: Port,
  control: Control,
  report: (one: Report) => void,
): void {
  const { terminal, net: start } = port
  const nets = behindResistors(circuit, start)
  // A reference may well be divided down from a supply.
  if (control === 'reference' && nets.some((net) => net.sources.length > 0)) return
  /** Off its rest by what flows; or a lamp or a load that hangs towards where the post lies anyway. */
  const isMoved = (element: Element, net: Net): 'pulled' | 'unread' | undefined => {
    const { kind, ohms } = element
    const other = farSide(element, net)
    const flows = draws(port, element, net)
    const isRead = circuit.at(net).some(({ host }) => host?.board !== undefined)
    const closes = kind === 'contact' && isRead && net !== start
    const isLoad = element.lights || kind === 'load' || kind === 'winding'
    // Lamps and loads are also brought there by a pin of a board.
    const isDriven = (one: Net): boolean =>
      !actsHigh(port) && isLoad && flows && circuit.at(one).some(({ host, role }) => host?.board && role !== 'in')
    const holds = kind === 'resistor' && ohms !== undefined && ohms <= WEAK
    const ends = [other, ...(flows ? behindResistors(circuit, other) : [])]
    if ((flows || closes || holds) && ends.some((one) => acts(port, one) || isDriven(one))) return 'pulled'
    return isLoad && leadsToRail(circuit, other) ? 'unread' : undefined
  }
  const said = new Set<string>()
  for (const net of nets) {
    if (railOf(net)) continue
    for (const element of circuit.on(net)) {
      const what = holdsLine(circuit, element, net) ? 'pulled' : isMoved(element, net)
      if (what === undefined || said.has(element.part.ref)) continue
      said.add(element.part.ref)
      const { part, kind, ohms } = element
      report({
        severity: 'caution',
        at: [terminal.end, part.ref],
        message: what,
        data: {
          part: part.ref,
          at: terminal.end,
          pin: terminal.end,
          way: actsHigh(port) ? 'up' : 'down',
          over: net === start ? '' : ' over a resistor',
          what: controlWords[control],
        },
        why: what === 'pulled' ? whyPulled(control) : whyUnread,
        numbers: what === 'pulled' && kind === 'resistor' && ohms !== undefined ? { ohms } : {},
        propose: () => offPostOf(wiring, circuit, terminal.end, [element.a, element.b]),
      })
    }
  }
}

/** A resistor between a post and a line that a part brings down and a pin reads: it was to lead to a supply. */
function holdsLine(circuit: Circuit, { kind, ohms, netA, netB }: Element, net: Net): boolean {
  const line = circuit.at(netA === net ? netB : netA)
  return (
    kind === 'resistor' &&
    ohms !== undefined &&
    ohms <= WEAK &&
    line.some(({ host }) => host?.board !== undefined) &&
    line.some(({ use, host }) => !host && (use?.facts.direction === 'open-drain' || use?.facts.direction === 'both'))
  )
}

const whyUnread =
  'The post is no output: nothing switches what hangs there. Count the position once more from the marked end.'

const whyPulled = (control: Control): string =>
  control === 'reference'
    ? 'The reference comes out of the chip through some ten kilohms. Whatever takes a current from it shrinks what the converter compares with, and every reading is too large. Count the position once more from the marked end.'
    : 'A weak resistor on the board holds this post at rest. Whatever carries a current there brings it to a level between, where the board acts by chance or never starts. Count the position once more from the marked end.'

const acts = (port: Port, net: Net): boolean => {
  const rail = railOf(net)
  return rail !== undefined && isActing(port, rail)
}

const leadsToRail = (circuit: Circuit, net: Net): boolean =>
  behindResistors(circuit, net).some((one) => railOf(one) !== undefined)

/** A current flows between the post and the rail at which it acts, in the direction that the element allows. */
function draws(port: Port, { kind, netA, netB }: Element, net: Net): boolean {
  if (kind === 'load' || kind === 'winding' || kind === 'shunt') return true
  return kind === 'diode' && (actsHigh(port) ? netB : netA) === net
}

/** Contacts between a post and rails: where it lies anyway, on the reference, or where nothing listens. */
function sayContacts(
  wiring: Wiring,
  circuit: Circuit,
  port: Port,
  control: Control,
  report: (one: Report) => void,
): void {
  const { end } = port.terminal
  const ways = circuit.on(port.net).flatMap((contact) => {
    if (contact.kind !== 'contact' || contact.netA === contact.netB) return []
    return behindResistors(circuit, farSide(contact, port.net)).flatMap((net) => {
      const rail = railOf(net)
      return rail ? [{ ref: contact.part.ref, a: contact.a, b: contact.b, rail }] : []
    })
  })
  const [first] = ways
  if (!first) return
  const what = controlWords[control]
  const found = ((): Pick<Report, 'severity' | 'message' | 'data' | 'why'> | undefined => {
    if (control === 'debug')
      return {
        severity: 'caution',
        message: 'unread',
        data: { part: first.ref, pin: end, what },
        why: 'The post is for a programmer or a debugger. Count the position once more from the marked end.',
      }
    if (control === 'reference') {
      const toGround = ways.find(({ rail }) => rail.volts === 0)
      return toGround
        ? {
            severity: 'fault',
            message: 'shorts',
            data: { part: toGround.ref, pin: end },
            why: 'The reference comes out of the chip; joined with ground it is shorted, every reading is wrong, and no program sees the contact. It belongs at a pin.',
          }
        : {
            severity: 'caution',
            message: 'unread',
            data: { part: first.ref, pin: end, what },
            why: 'A contact that feeds the reference changes what every reading means, and no program sees it. It belongs at a pin.',
          }
    }
    const above = ways.find(({ rail }) => control === 'reset' && isAboveLogic(port, rail.volts))
    if (above)
      return {
        severity: 'fault',
        message: 'above',
        data: { part: above.ref, pin: end, rail: railWords(above.rail), logic: logicWords(port) },
        why: 'The post leads straight to the chip, which bears no more there than its own supply. A contact that restarts the board leads to ground.',
      }
    if (ways.some(({ rail }) => isActing(port, rail))) return undefined
    return {
      severity: 'caution',
      message: 'idle',
      data: { part: first.ref, pin: end, rail: railWords(first.rail) },
      why: `The post ${what} while it is ${actsHigh(port) ? 'high' : 'low'}. The contact belongs between it and ${actsHigh(port) ? 'the supply of the board' : 'ground'}.`,
    }
  })()
  if (!found) return
  report({
    ...found,
    at: [end, first.ref],
    numbers: {},
    propose: () => offPostOf(wiring, circuit, end, [first.a, first.b]),
  })
}

/** A pin of a board straight on the reference, or on what belongs to a programmer. */
function sayJoined(
  wiring: Wiring,
  circuit: Circuit,
  port: Port,
  control: Control,
  report: (one: Report) => void,
): void {
  const { end, owner } = port.terminal
  const other = circuit
    .at(port.net)
    .find(({ terminal }) => terminal.boardPin?.kind === 'io' && (control === 'reference' || terminal.owner === owner))
  if (!other) return
  report({
    severity: 'caution',
    at: [end, other.terminal.end],
    message: 'joined',
    data: { other: other.terminal.end, pin: end, what: controlWords[control] },
    why: 'A pin that drives there works against what the chip has inside. Count the position once more from the marked end.',
    numbers: {},
    propose: () => offPost(wiring, end, undefined),
  })
}

/** Away from the post, to a pin for that end of an element which has a signal. */
const offPostOf = (wiring: Wiring, circuit: Circuit, post: string, legs: readonly string[]): readonly Fix[] =>
  offPost(
    wiring,
    post,
    legs.map((leg) => circuit.ports.get(leg)?.use).find((use) => use !== undefined && use.hosts.length === 0),
  )
