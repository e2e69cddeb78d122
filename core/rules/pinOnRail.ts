import { type Circuit, circuitOf, type Port, type RailHold, railOf, railWords } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { givesLevels, switchesLoad } from '../wiring/needs.ts'
import { groundEnd, supplyEnd } from '../wiring/supply.ts'
import { controlOnRail, controlOnRailMessages } from './controlOnRail.ts'
import type { Rule } from './finding.ts'
import { moveTo, takeOut } from './mend.ts'
import { twoDigits } from './shared.ts'
import {
  heldLevel,
  isUnknownPost,
  laneOnRail,
  liesAnyway,
  SLACK,
  signalOnRail,
  signalOnRailMessages,
  stuckOnRail,
  tieBears,
  type Words,
  whenOutputPressed,
  whenPressed,
} from './signalOnRail.ts'

export const pinOnRail: Rule = {
  meta: {
    id: 'pin-on-rail',
    severities: ['fault', 'caution'],
    about:
      'A signal or a pin of a board is joined, straight or by a contact that closes, with a supply or with ground, against which it could drive or be driven; or a signal on a rail means nothing there.',
    messages: {
      tooHigh: '{pin} is joined with {rail} and bears {most} V.',
      shorts: '{pin} is joined with {rail}: the first time that the program drives it {level}, it shorts it.',
      readsOnly: '{pin} is joined with {rail} and can read nothing else.',
      unknownPost: '{pin} gets {rail}, and it is not known what the post bears.',
      tieHigh: '{pin} is tied to {rail} and bears {bears} V.',
      ...signalOnRailMessages,
      ...controlOnRailMessages,
    },
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    const seen = new Set<string>()
    for (const port of circuit.ports.values()) {
      const rail = railOf(port.net)
      // A pin that a board repeats on several holes is said once, at the hole that is wired.
      const name = port.host?.end ?? (port.terminal.boardPin ? `net ${port.net.index}` : port.terminal.end)
      if (seen.has(name)) continue
      const said = rail ? onRail(wiring, port, rail) : offRail(wiring, circuit, port)
      if (!said) continue
      seen.add(name)
      const { others = [], ...words } = said
      report({
        ...words,
        at: [port.terminal.end, ...others],
        numbers: rail ? { volts: rail.volts, ...(port.most === undefined ? {} : { bears: port.most }) } : {},
        propose: () => [
          ...(words.message === 'holdsOff' ? toOtherLevel(wiring, port) : []),
          ...takeOut(wiring, (a, b) => a === port.terminal.end || b === port.terminal.end),
        ],
      })
    }
  },
}

/** An input that must lie somewhere goes to the level at which the part works. */
function toOtherLevel(wiring: Wiring, { use }: Port): Fix[] {
  if (!use?.facts.required) return []
  const to = use.facts.off === 'low' ? supplyEnd(wiring, use.part) : groundEnd(wiring, use.part)
  return to === undefined ? [] : moveTo(wiring, use.end, to)
}

const isBoardPin = (port: Port): boolean =>
  port.terminal.boardPin?.kind === 'io' && port.host !== undefined && port.net.wired

/** A pin that a part gives to others, such as one of an expander; of outputs that switch loads supply-joined speaks. */
const isGivenPin = ({ host, net }: Port): boolean =>
  host?.provider !== undefined && net.wired && !switchesLoad(host.functions)

/** What is said of something that lies on a rail; nothing of what may. */
function onRail(wiring: Wiring, port: Port, rail: RailHold): Words | undefined {
  if (isBoardPin(port)) return boardPinOnRail(port, rail)
  if (isGivenPin(port)) return givenPinOnRail(port, rail)
  const { end } = port.terminal
  const others = rail.source ? [rail.source.end] : []
  const bears = tieBears(port) ?? (port.role === 'passive' ? port.most : undefined)
  const lane = laneOnRail(wiring, port, rail.volts)
  const placed = (words: Words | undefined): Words | undefined =>
    words && { ...words, data: { ...words.data, pin: end, where: `on ${railWords(rail)}` } }
  const control = controlOnRail(port, rail)
  if (control) return control
  if (rail.source && isUnknownPost(port) && !liesAnyway(port, rail.volts))
    return {
      severity: 'caution',
      message: 'unknownPost',
      data: { pin: end, rail: railWords(rail) },
      why: 'The post is no supply and no signal of which the catalogue knows anything. Look it up before anything is fed there, or leave it free.',
      others,
    }
  if (rail.source && bears !== undefined && rail.volts > bears + SLACK)
    return {
      severity: 'fault',
      message: 'tieHigh',
      data: { pin: end, rail: railWords(rail), bears: twoDigits(bears) },
      why: 'A pin that is only held high still bears no more than the logic beside it; the motor supply is no logic supply.',
      others,
    }
  if (lane) return placed(lane)
  return port.use
    ? placed(
        signalOnRail(wiring, port.use, rail.volts, port.net.sources.length > 0) ??
          stuckOnRail(wiring, port.use, rail.volts),
      )
    : undefined
}

/** A pin of a board on a rail: above what it bears, or against it as soon as it drives. */
function boardPinOnRail(port: Port, rail: RailHold): Words {
  const others = rail.source ? [rail.source.end] : []
  const named = { pin: port.terminal.end, rail: railWords(rail) }
  if (port.most !== undefined && rail.volts > port.most + SLACK)
    return {
      severity: 'fault',
      message: 'tooHigh',
      data: { ...named, most: port.most },
      why: 'A pin above what it bears lets current into the chip at once, whatever the program does, and is destroyed by it.',
      others,
    }
  if (port.host?.functions.has('digital-out'))
    return {
      severity: 'fault',
      message: 'shorts',
      data: { ...named, level: rail.volts === 0 ? 'high' : 'low' },
      why: 'Pin and rail are one piece of wire. As an output at the other level the pin works against the whole supply, far above what it can carry.',
      others,
    }
  return {
    severity: 'caution',
    message: 'readsOnly',
    data: named,
    why: 'The pin only reads, so nothing is harmed; it always reads the same.',
    others,
  }
}

/** A pin that gives fewer milliamperes than this while high does no more than hold its line. */
const WEAK_MILLIAMPS = 1

/** A pin of an expander as one of a board; one that only drives works against its rail from the start. */
function givenPinOnRail(port: Port, rail: RailHold): Words | undefined {
  const functions = port.host?.functions ?? new Set()
  if (!givesLevels(functions)) return undefined
  // One that only pulls up weakly may well lie on ground.
  const isWeak = (port.host?.current?.source ?? Number.POSITIVE_INFINITY) < WEAK_MILLIAMPS
  if (functions.has('digital-in')) return isWeak && rail.volts === 0 ? undefined : boardPinOnRail(port, rail)
  return {
    severity: 'fault',
    message: 'output',
    data: { pin: port.terminal.end, where: `on ${railWords(rail)}` },
    why: `The part drives this pin to the level that it was sent. Against a rail it carries as much current as it can give, gets hot, and may be destroyed.`,
    others: rail.source ? [rail.source.end] : [],
  }
}

/** What is said of something that lies on no rail, and is held by resistors or comes to one when a contact closes. */
function offRail(wiring: Wiring, circuit: Circuit, port: Port): Words | undefined {
  const { use } = port
  if (use && use.hosts.length === 0 && (use.facts.moves || use.facts.off)) {
    // A post that resets the board, or wakes it, is held by the board until somebody closes a contact there.
    if (circuit.at(port.net).some(({ terminal }) => terminal.boardPin?.kind === 'control')) return undefined
    // Held by resistors alone it never moves either.
    const held = heldLevel(wiring, port)
    const words = held && signalOnRail(wiring, use, held.volts, held.isHigh)
    return (
      words && {
        ...words,
        data: { ...words.data, pin: port.terminal.end, where: `held at ${formatVolts(held.volts)}` },
      }
    )
  }
  return isBoardPin(port) ? whenPressed(circuit, port) : whenOutputPressed(circuit, port)
}
