import { circuitOf, type Port, railOf, railsBehindContacts, railWords } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { controlOnRail, controlOnRailMessages } from './controlOnRail.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'
import {
  heldLevel,
  isUnknownPost,
  laneOnRail,
  SLACK,
  signalOnRail,
  signalOnRailMessages,
  stuckOnRail,
  tieBears,
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
      resetHigh: 'When {part} closes, {pin} is joined with {rail}, where it lies anyway: nothing happens.',
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
      const say = (one: Omit<Report, 'at' | 'numbers' | 'propose'> & { readonly others?: readonly string[] }): void => {
        seen.add(name)
        const { others = [], ...rest } = one
        report({
          ...rest,
          at: [port.terminal.end, ...others],
          numbers: rail ? { volts: rail.volts, ...(port.most === undefined ? {} : { bears: port.most }) } : {},
          propose: () => takeOut(wiring, (a, b) => a === port.terminal.end || b === port.terminal.end),
        })
      }
      const control = rail && controlOnRail(port, rail)
      const lane = rail && laneOnRail(wiring, port, rail.volts)
      if (rail && isBoardPin(port)) {
        const others = rail.source ? [rail.source.end] : []
        const tooHigh = port.most !== undefined && rail.volts > port.most + SLACK
        const canDrive = port.host?.functions.has('digital-out') === true
        if (tooHigh)
          say({
            severity: 'fault',
            message: 'tooHigh',
            data: { pin: port.terminal.end, rail: railWords(rail), most: port.most },
            why: 'A pin above what it bears lets current into the chip at once, whatever the program does, and is destroyed by it.',
            others,
          })
        else if (canDrive)
          say({
            severity: 'fault',
            message: 'shorts',
            data: { pin: port.terminal.end, rail: railWords(rail), level: rail.volts === 0 ? 'high' : 'low' },
            why: 'Pin and rail are one piece of wire. As an output at the other level the pin works against the whole supply, far above what it can carry.',
            others,
          })
        else
          say({
            severity: 'caution',
            message: 'readsOnly',
            data: { pin: port.terminal.end, rail: railWords(rail) },
            why: 'The pin only reads, so nothing is harmed; it always reads the same.',
            others,
          })
      } else if (control) say(control)
      else if (rail?.source && isUnknownPost(port))
        say({
          severity: 'caution',
          message: 'unknownPost',
          data: { pin: port.terminal.end, rail: railWords(rail) },
          why: 'The post is no supply and no signal of which the catalogue knows anything. Look it up before anything is fed there, or leave it free.',
          others: [rail.source.end],
        })
      else if (rail?.source && tieBears(port) !== undefined && rail.volts > tieBears(port)! + SLACK)
        say({
          severity: 'fault',
          message: 'tieHigh',
          data: { pin: port.terminal.end, rail: railWords(rail), bears: tieBears(port) },
          why: 'A pin that is only held high still bears no more than the logic beside it; the motor supply is no logic supply.',
          others: [rail.source.end],
        })
      else if (lane) say({ ...lane, data: { ...lane.data, pin: port.terminal.end, where: `on ${railWords(rail)}` } })
      else if (rail && port.use) {
        const words =
          signalOnRail(wiring, port.use, rail.volts, port.net.sources.length > 0) ??
          stuckOnRail(wiring, port.use, rail.volts)
        if (words) say({ ...words, data: { ...words.data, pin: port.terminal.end, where: `on ${railWords(rail)}` } })
      } else if (!rail && port.use && port.use.hosts.length === 0 && (port.use.facts.moves || port.use.facts.off)) {
        // Held by resistors alone it never moves either.
        const held = heldLevel(wiring, port)
        const words = held && signalOnRail(wiring, port.use, held.volts, held.isHigh)
        if (words)
          say({
            ...words,
            data: { ...words.data, pin: port.terminal.end, where: `held at ${formatVolts(held.volts)}` },
          })
      } else if (!rail && port.terminal.boardPin?.control === 'reset') {
        const contacts = railsBehindContacts(circuit, port.net)
        const [first] = contacts
        if (first && contacts.every((one) => one.rail.volts > 0))
          say({
            severity: 'caution',
            message: 'resetHigh',
            data: { part: first.contact.part.ref, pin: port.terminal.end, rail: railWords(first.rail) },
            why: 'The board resets while this pin is low. The contact belongs between it and ground.',
            others: [first.contact.part.ref],
          })
      } else if (!rail && isBoardPin(port)) {
        const words = whenPressed(circuit, port)
        if (words) say(words)
      }
    }
  },
}

const isBoardPin = (port: Port): boolean =>
  port.terminal.boardPin?.kind === 'io' && port.host !== undefined && port.net.wired
