import { candidates } from '../assign/candidates.ts'
import { circuitOf, type Port, railOf } from '../circuit/circuit.ts'
import { behindResistors } from '../circuit/reach.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { bestSource, groundEnd } from '../wiring/supply.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'

const words = {
  reset: 'resets the board',
  enable: 'switches the board on and off',
  boot: 'chooses what the board starts',
  reference: 'is the reference of its converter',
  debug: 'belongs to the programmer',
} as const

export const pinNotSignal: Rule = {
  meta: {
    id: 'pin-not-signal',
    severities: ['fault', 'caution'],
    about:
      'A signal, a supply or a ground of a part hangs on a pin that is none: reset, enable, reference, not connected.',
    messages: {
      hangs: '{pin} {asks} and hangs on {at}, which {what}.',
      replaces: '{pins} {pins:hangs/hang} on {pin}, where {outside} belongs.',
      pulled: '{part} brings {at} down{over}, which {what}.',
      none: '{others} {others:hangs/hang} on {pin}, which is {none}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    const direct = new Set<unknown>(wiring.plan.wires.flat())
    for (const port of circuit.ports.values()) {
      sayNothing(wiring, port, report)
      const pin = port.terminal.boardPin
      if (!pin || (pin.kind !== 'control' && pin.kind !== 'none') || !port.net.wired) continue
      // Of several posts of one net the one that has the wire.
      if (!direct.has(port.terminal.end)) continue
      const isNothing = pin.kind === 'none'
      const what = isNothing ? 'is not connected' : pin.control ? words[pin.control] : 'is no signal'
      if (pin.control === 'reset') sayPulled(wiring, port, report)
      for (const other of circuit.at(port.net)) {
        if (other.terminal.owner.kind !== 'part' || other.net.ground || other.net.sources.length > 0) continue
        const { use } = other
        const waits =
          use !== undefined &&
          use.hosts.length === 0 &&
          (isNothing || speaks(other) || isBus(use.facts.needs) || isMovedBy(use.facts))
        const feeds = use === undefined && (other.role === 'ground' || (isNothing && other.role === 'supply'))
        if (!waits && !feeds) continue
        const asks = use ? `needs ${needWords(use.facts.needs)}` : other.role === 'ground' ? 'is ground' : 'is a supply'
        report({
          severity: 'fault',
          at: [other.terminal.end, port.terminal.end],
          message: 'hangs',
          data: { pin: other.terminal.end, asks, at: port.terminal.end, what },
          why: isNothing
            ? 'Nothing inside the board leads on from that hole. Count the position once more from the marked end.'
            : 'The pin has a task of its own and is never read or driven by a program. Count the position once more from the marked end.',
          numbers: {},
          propose: () => toItsPlace(wiring, other),
        })
      }
    }
  },
}

const isBus = (need: string): boolean => need.includes('.') && !need.endsWith('.cs')

/** A signal of a part that is fed: what it says is meant for somebody. A bare contact may well reset a board. */
const speaks = ({ use, terminal: { owner } }: Port): boolean =>
  use !== undefined &&
  (use.facts.direction === 'out' ||
    (use.facts.direction !== 'in' && owner.kind === 'part' && owner.supplies.length > 0))

/** An input that wants pulses, or that moves something: more than what wakes up with the board. */
const isMovedBy = ({ direction, needs, actuator }: SignalUse['facts']): boolean =>
  direction === 'in' && (actuator || needs !== 'digital-out')

/** A lamp or a load from a post that resets the board to ground, or a button of a pin over a resistor. */
function sayPulled(wiring: Wiring, { terminal, net: start }: Port, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const net of behindResistors(circuit, start)) {
    if (railOf(net)) continue
    const isRead = circuit.at(net).some(({ host }) => host?.board !== undefined)
    for (const { part, kind, lights, netA, netB } of circuit.on(net)) {
      const other = netA === net ? netB : netA
      const draws = lights ? netA === net : kind === 'load' || kind === 'winding'
      const closes = kind === 'contact' && isRead && net !== start
      const isDown = other.ground || (draws && behindResistors(circuit, other).some((one) => one.ground))
      if ((!draws && !closes) || !isDown) continue
      report({
        severity: 'caution',
        at: [terminal.end, part.ref],
        message: 'pulled',
        data: {
          part: part.ref,
          at: terminal.end,
          over: net === start ? '' : ' over a resistor',
          what: words.reset,
        },
        why: 'A weak resistor on the board holds this post high. Whatever takes a current from it brings it to a level between, where the board resets by chance or never starts. Count the position once more from the marked end.',
        numbers: {},
        propose: () => takeOut(wiring, (a, b) => a === terminal.end || b === terminal.end),
      })
    }
  }
}

/** A wire on a leg of a part that leads nowhere inside. */
function sayNothing(wiring: Wiring, { terminal, net }: Port, report: (one: Report) => void): void {
  const { none, outside } = terminal.partPin ?? {}
  if (none === undefined && outside === undefined) return
  const pins = net.ends.filter((end) => wiring.terminal(end)?.host?.board)
  if (outside !== undefined && pins.length > 0)
    report({
      severity: 'fault',
      at: [terminal.end, ...pins],
      message: 'replaces',
      data: { pins, pin: terminal.end, outside },
      why: 'That leg has no levels that a pin could read or drive, and often carries some that a pin does not bear. Count the position once more from the marked end.',
      numbers: {},
      propose: () => takeOut(wiring, (a, b) => a === terminal.end || b === terminal.end),
    })
  const others = net.ends.filter((end) => end !== terminal.end)
  if (none === undefined || !net.wired || net.ground || net.sources.length > 0) return
  report({
    severity: 'fault',
    at: [terminal.end, ...others],
    message: 'none',
    data: { others, pin: terminal.end, none },
    why: 'The leg is there to hold the part, or for another kind of it. Count the position once more from the marked end.',
    numbers: {},
    propose: () => takeOut(wiring, (a, b) => a === terminal.end || b === terminal.end),
  })
}

/** Takes a pin of a part off the post on which it hangs, to a pin that can do what it needs, or to its ground or supply. */
function toItsPlace(wiring: Wiring, { terminal: { end, owner }, use, role }: Port): Fix[] {
  if (owner.kind !== 'part') return []
  const isPost = (one: string): boolean => {
    const kind = wiring.terminal(one)?.boardPin?.kind
    return kind === 'control' || kind === 'none'
  }
  const wires = wiring.plan.wires.filter(([from, to]) => (from === end && isPost(to)) || (to === end && isPost(from)))
  if (wires.length === 0 || wires.some((wire) => wire[2]?.locked)) return []
  const supply = owner.supplies.find(({ pins }) => pins.includes(end))
  const places = use
    ? candidates(wiring, use)
        .filter(({ blocked, host }) => blocked === undefined && !wiring.netOf(host.end).wired)
        .slice(0, 2)
        .map(({ host }) => host.end)
    : [role === 'ground' ? groundEnd(wiring, owner) : supply && bestSource(wiring, owner, supply)?.end]
  return places.flatMap((to): Fix[] =>
    to === undefined
      ? []
      : [
          {
            title: `Move ${end} to ${to}`,
            edits: [
              ...wires.map(([from, other]): Edit => ({ do: 'disconnect', from, to: other })),
              { do: 'connect', from: end, to },
            ],
          },
        ],
  )
}
