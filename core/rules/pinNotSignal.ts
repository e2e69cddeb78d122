import { circuitOf, type Port, railOf, railWords } from '../circuit/circuit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { controlWords, toItsPlace } from './controlPlaces.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'
import { pairLinesMessages, sayPairLines } from './pairLines.ts'

export const pinNotSignal: Rule = {
  meta: {
    id: 'pin-not-signal',
    severities: ['fault'],
    about:
      'A signal, a supply or a ground of a part hangs on a pin that is none: reset, enable, reference, not connected.',
    messages: {
      hangs: '{pin} {asks} and hangs on {at}, which {what}.',
      replaces: '{pins} {pins:hangs/hang} on {pin}, where {outside} belongs.',
      onRail: '{pin} is on {rail}, where {outside} belongs.',
      bridged: '{pin} and {other} are joined, between which {outside} belongs.',
      none: '{others} {others:hangs/hang} on {pin}, which is {none}.',
      ...pairLinesMessages,
    },
    limits: ['loaded'],
    lacking: ['halfPair'],
    fixable: true,
  },
  check(wiring, report) {
    sayPairLines(wiring, report)
    const circuit = circuitOf(wiring)
    const direct = new Set<unknown>(wiring.plan.wires.flat())
    for (const port of circuit.ports.values()) {
      sayNothing(wiring, port, report)
      const pin = port.terminal.boardPin
      if (!pin || (pin.kind !== 'control' && pin.kind !== 'none') || !port.net.wired) continue
      // Of several posts of one net the one that has the wire.
      if (!direct.has(port.terminal.end)) continue
      const isNothing = pin.kind === 'none'
      const what = isNothing ? 'is not connected' : pin.control ? controlWords[pin.control] : 'is no signal'
      for (const other of circuit.at(port.net)) {
        if (other.terminal.owner.kind !== 'part' || other.net.ground || other.net.sources.length > 0) continue
        const { use } = other
        const belongs = use?.facts.posts.some((post) => post === pin.control) === true
        const waits =
          use !== undefined &&
          use.hosts.length === 0 &&
          !belongs &&
          (isNothing || speaks(other) || isBus(use.facts.needs) || isMovedBy(use.facts))
        // Of a knob, which may be turned round, its supply is missing, whichever end it is.
        const { owner, end } = other.terminal
        const isEither = owner.supplies.some(({ facts, grounds }) => facts.either && grounds.includes(end))
        const isGround = other.role === 'ground' && !isEither
        const feeds = use === undefined && (isGround || (isNothing && other.role === 'supply'))
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

/** A signal of a part that is fed, or one to be measured: what it says is meant for somebody. A bare contact may well reset a board. */
const speaks = ({ use, terminal: { owner } }: Port): boolean =>
  use !== undefined &&
  (use.facts.direction === 'out' ||
    use.facts.needs === 'analog-in' ||
    (use.facts.direction !== 'in' && owner.kind === 'part' && owner.supplies.length > 0))

/** An input that wants pulses, or that moves something: more than what wakes up with the board. */
const isMovedBy = ({ direction, needs, actuator }: SignalUse['facts']): boolean =>
  direction === 'in' && (actuator || needs !== 'digital-out')

/** A wire on a leg of a part that leads nowhere inside, or is for something that no plan holds. */
function sayNothing(wiring: Wiring, port: Port, report: (one: Report) => void): void {
  const { terminal, net } = port
  const { none, outside } = terminal.partPin ?? {}
  const takeOff = () => takeOut(wiring, (a, b) => a === terminal.end || b === terminal.end)
  if (outside !== undefined && net.wired)
    for (const one of outsideTaken(wiring, port, outside)) report({ ...one, numbers: {}, propose: takeOff })
  const others = net.ends.filter((end) => end !== terminal.end)
  if (none === undefined || !net.wired || net.ground || net.sources.length > 0) return
  report({
    severity: 'fault',
    at: [terminal.end, ...others],
    message: 'none',
    data: { others, pin: terminal.end, none },
    why: 'The leg is there to hold the part, or for another kind of it. Count the position once more from the marked end.',
    numbers: {},
    propose: takeOff,
  })
}

/** What takes the place of something outside, such as an aerial or a load cell, or leads past it. */
function outsideTaken(
  wiring: Wiring,
  { terminal, net }: Port,
  outside: string,
): Pick<Report, 'severity' | 'at' | 'message' | 'data' | 'why'>[] {
  const { end: pin, owner, partPin } = terminal
  const rail = partPin?.sends ? railOf(net) : undefined
  const pins = net.ends.filter((end) => {
    const other = wiring.terminal(end)
    const speaks = other?.owner !== owner && (wiring.signal(end)?.facts.direction ?? 'passive') !== 'passive'
    return speaks || other?.host?.board
  })
  const twin =
    partPin?.role === 'free' && owner.kind === 'part' && !net.ground
      ? owner.part.pins.find(
          (one) => one.outside === outside && one.id > terminal.pin && wiring.netOf(`${owner.ref}.${one.id}`) === net,
        )
      : undefined
  const other = twin && `${owner.ref}.${twin.id}`
  return [
    ...(rail
      ? [
          {
            severity: 'fault' as const,
            at: [pin, ...(rail.source ? [rail.source.end] : [])],
            message: 'onRail',
            data: { pin, rail: railWords(rail), outside },
            why: 'What the part sends there works against the rail, and nothing of it gets out. Count the position once more from the marked end.',
          },
        ]
      : pins.length > 0
        ? [
            {
              severity: 'fault' as const,
              at: [pin, ...pins],
              message: 'replaces',
              data: { pins, pin, outside },
              why: 'That leg has no levels that a pin could read or drive, and often carries some that a pin does not bear. Count the position once more from the marked end.',
            },
          ]
        : []),
    ...(other !== undefined
      ? [
          {
            severity: 'fault' as const,
            at: [pin, other],
            message: 'bridged',
            data: { pin, other, outside },
            why: 'What is outside is led past: there is nothing between the two that could be measured, moved or heard.',
          },
        ]
      : []),
  ]
}
