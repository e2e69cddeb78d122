import { rewire } from '../assign/rewire.ts'
import { contention } from '../circuit/contends.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, Net, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { clash, wayOf } from '../wiring/sharing.ts'
import type { Report, Rule } from './finding.ts'
import { lampsJoinedMessages, sayLampsJoined } from './lampsJoined.ts'
import { legsOnLinesMessages, sayLegsOnLines } from './legsOnLines.ts'
import { outputsJoinedMessages, sayBridges, sayBuffers, sayOutputs } from './outputsJoined.ts'
import { usesByHost } from './shared.ts'

/** Current in milliamperes above which two outputs work against each other. */
const FLOWS = 0.1

/** Current in milliamperes up to which a pin and an output that answers it through a resistor may meet. */
const ANSWERS = 5

export const pinShared: Rule = {
  meta: {
    id: 'pin-shared',
    severities: ['fault', 'caution'],
    about:
      'One board or expander pin carries signals that cannot share it. Bus lines may be shared, and inputs may be driven together.',
    messages: {
      ...outputsJoinedMessages,
      ...lampsJoinedMessages,
      ...legsOnLinesMessages,
      shared: '{a} and {b} share {pin}: {reason}.',
      joined: '{a} and {b} are joined with each other.',
      moved: '{mover} moves {moved} by itself, and {pin} can only read along.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      for (let second = 1; second < uses.length; second += 1) {
        const b = uses[second]!
        const a = uses
          .slice(0, second)
          .find((one) => (one.part !== b.part || one.end !== b.end ? clashes(wiring, host, one, b) : undefined))
        const reason = a && clashes(wiring, host, a, b)
        if (!a || !reason) continue
        report({
          severity: 'fault',
          at: [host.end, a.end, b.end],
          message: 'shared',
          data: { a: a.end, b: b.end, pin: host.end, reason },
          why: `${a.end} ${needText(a)} and ${b.end} ${needText(b)}. On one pin they disturb each other, and two outputs at different levels short each other through the wire.`,
          numbers: { signals: uses.length },
          propose: () => [...rewire(wiring, b), ...rewire(wiring, a)],
        })
      }
    }
    sayMoved(wiring, report)
    sayBuffers(wiring, report)
    sayBridges(wiring, report)
    sayOutputs(wiring, report)
    sayLampsJoined(wiring, report)
    sayLegsOnLines(wiring, report)
    for (const net of wiring.nets) {
      if (!net.wired) continue
      const pins = boardPinsOn(wiring, net)
      for (const ref of new Set(pins.map((host) => host.ref))) {
        const same = pins.filter((host) => host.ref === ref)
        if (same.length < 2) continue
        const [a, b] = same.map((host) => host.end) as [string, string]
        const wire = wiring.plan.wires.find((one) =>
          [one[0], one[1]].every((end) => wiring.terminal(end)?.host && end.startsWith(`${ref}.`)),
        )
        report({
          severity: 'fault',
          at: [a, b],
          message: 'joined',
          data: { a, b },
          why: 'Two pins of one board on one wire are two outputs as soon as the program sets both. One pin is enough for the line.',
          numbers: { pins: same.length },
          propose: () =>
            wire
              ? [
                  {
                    title: `Take out the wire ${wire[0]} to ${wire[1]}`,
                    edits: [{ do: 'disconnect', from: wire[0], to: wire[1] }],
                  },
                ]
              : net.ends.filter((end) => wiring.signal(end)).flatMap((end) => rewire(wiring, wiring.signal(end)!)),
        })
      }
    }
  },
}

/** What an output moves that a pin reads: sound as it is, and no more so when the program drives that pin. */
function sayMoved(wiring: Wiring, report: (one: Report) => void): void {
  for (const use of wiring.signals) {
    const host = use.movedBy === undefined ? undefined : wiring.signal(use.movedBy)?.hosts[0]?.host
    if (use.movedBy === undefined || !host?.functions.has('digital-out')) continue
    const pin = host.end
    report({
      severity: 'caution',
      at: [pin, use.end, use.movedBy],
      message: 'moved',
      data: { mover: use.movedBy, moved: use.end, pin },
      why: `As soon as the program makes an output of ${pin}, it works against ${use.movedBy}. If the program shall decide about ${use.part.ref}, that needs a pin of its own.`,
      numbers: {},
    })
  }
}

const boardPinsOn = (wiring: Wiring, net: Net): Host[] => [
  ...new Set(net.ends.flatMap((end) => wiring.terminal(end)?.host ?? []).filter(({ board }) => board !== undefined)),
]

/** Why two signals cannot share a pin; outputs that diodes keep apart can. */
function clashes(wiring: Wiring, host: Host, a: SignalUse, b: SignalUse): string | undefined {
  const reason = clash(a, b)
  // Two inputs on pins that are joined: that they are is said already.
  if (wayOf(a) === 'listens' && wayOf(b) === 'listens' && boardPinsOn(wiring, wiring.netOf(a.end)).length > 1)
    return undefined
  if (reason && isAnswer(wiring, host, a, b)) return undefined
  const areOutputs = wayOf(a) === 'drives' && wayOf(b) === 'drives'
  return reason && areOutputs && contention(wiring, a.end, b.end) < FLOWS ? undefined : reason
}

/** One part is asked and answers on one pin: a start pulse, then the program listens; a resistor lies before the answer. */
function isAnswer(wiring: Wiring, host: Host, a: SignalUse, b: SignalUse): boolean {
  const output = [a, b].find((one) => wayOf(one) === 'drives')
  return (
    a.part === b.part &&
    output !== undefined &&
    [a, b].some((one) => wayOf(one) === 'listens') &&
    !busNeed(a.facts.needs) &&
    !busNeed(b.facts.needs) &&
    contention(wiring, host.end, output.end) <= ANSWERS
  )
}

const needText = (use: SignalUse): string => {
  const bus = busNeed(use.facts.needs)
  if (bus) return `is the bus line ${needWords(use.facts.needs)}`
  return { drives: 'puts out a level', pulls: 'pulls the line low', listens: 'is driven by the pin' }[wayOf(use)]
}
