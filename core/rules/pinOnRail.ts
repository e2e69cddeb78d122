import { volts } from '../catalog/common.ts'
import { type Circuit, circuitOf, type Port, railOf, railsBehindContacts, railWords } from '../circuit/circuit.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { entryOf } from '../text/entryOf.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'

/** Volts by which a rail may lie above what a pin bears without being called too high: no source is that exact. */
const SLACK = 0.05

export const pinOnRail: Rule = {
  meta: {
    id: 'pin-on-rail',
    severities: ['fault', 'caution'],
    about:
      'A signal or a pin of a board is joined, straight or by a contact that closes, with a supply or with ground, against which it could drive or be driven; or a signal on a rail means nothing there.',
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    const seen = new Set<string>()
    for (const port of circuit.ports.values()) {
      const rail = railOf(port.net)
      // A pin that a board repeats on several holes is said once, at the hole that is wired.
      const name = port.host?.end ?? port.terminal.end
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
      if (rail && isBoardPin(port)) {
        const others = rail.source ? [rail.source.end] : []
        const tooHigh = port.most !== undefined && rail.volts > port.most + SLACK
        const canDrive = port.host?.functions.has('digital-out') === true
        if (tooHigh)
          say({
            severity: 'fault',
            message: `${port.terminal.end} is joined with ${railWords(rail)} and bears ${port.most} V.`,
            why: 'A pin above what it bears lets current into the chip at once, whatever the program does, and is destroyed by it.',
            others,
          })
        else if (canDrive)
          say({
            severity: 'fault',
            message: `${port.terminal.end} is joined with ${railWords(rail)}: the first time that the program drives it ${rail.volts === 0 ? 'high' : 'low'}, it shorts it.`,
            why: 'Pin and rail are one piece of wire. As an output at the other level the pin works against the whole supply, far above what it can carry.',
            others,
          })
        else
          say({
            severity: 'caution',
            message: `${port.terminal.end} is joined with ${railWords(rail)} and can read nothing else.`,
            why: 'The pin only reads, so nothing is harmed; it always reads the same.',
            others,
          })
      } else if (rail && port.terminal.boardPin?.control === 'reset' && rail.volts === 0)
        say({
          severity: 'fault',
          message: `${port.terminal.end} is on ground: the board stays in reset.`,
          why: 'The chip runs only while this pin is high. A button to ground restarts it; a wire to ground never lets it start.',
        })
      else if (rail && port.terminal.boardPin?.control === 'enable' && rail.volts === 0)
        say({
          severity: 'fault',
          message: `${port.terminal.end} is on ground, which switches the board off.`,
          why: 'The pin switches the supply of the board; left open, it is on.',
        })
      else if (rail && port.terminal.boardPin?.control === 'reference' && rail.volts === 0)
        say({
          severity: 'fault',
          message: `${port.terminal.end} is on ground: what the converter compares with is 0 V, and every reading is wrong.`,
          why: 'The pin is the full scale of the analog inputs. On ground it also shorts the reference inside the chip.',
        })
      else if (rail?.source && port.terminal.boardPin?.control === 'reference' && isAboveLogic(port, rail.volts))
        say({
          severity: 'fault',
          message: `${port.terminal.end} gets ${railWords(rail)}, above the supply of its converter.`,
          why: 'The reference of a converter bears no more than the supply of the chip. Above it current flows into the chip through its protection diodes.',
          others: [rail.source.end],
        })
      else if (rail?.source && isUnknownPost(port))
        say({
          severity: 'caution',
          message: `${port.terminal.end} gets ${railWords(rail)}, and it is not known what the post bears.`,
          why: 'The post is no supply and no signal of which the catalogue knows anything. Look it up before anything is fed there, or leave it free.',
          others: [rail.source.end],
        })
      else if (rail?.source && tieBears(port) !== undefined && rail.volts > tieBears(port)! + SLACK)
        say({
          severity: 'fault',
          message: `${port.terminal.end} is tied to ${railWords(rail)} and bears ${tieBears(port)} V.`,
          why: 'A pin that is only held high still bears no more than the logic beside it; the motor supply is no logic supply.',
          others: [rail.source.end],
        })
      else if (rail && port.use) {
        const words = signalOnRail(port.use, rail.volts, port.net.sources.length > 0)
        if (words) say({ ...words, message: `${port.terminal.end} is on ${railWords(rail)}: ${words.message}` })
      } else if (!rail && port.use && port.use.hosts.length === 0 && (port.use.facts.moves || port.use.facts.off)) {
        // Held by resistors alone it never moves either.
        const held = heldLevel(wiring, port)
        const words = held && signalOnRail(port.use, held.volts, held.isHigh)
        if (words)
          say({ ...words, message: `${port.terminal.end} is held at ${formatVolts(held.volts)}: ${words.message}` })
      } else if (!rail && isBoardPin(port)) {
        const words = whenPressed(circuit, port)
        if (words) say(words)
      }
    }
  },
}

/** Level to which resistors alone hold a net for good; undefined where something else may move it. */
function heldLevel(
  wiring: Wiring,
  { net, terminal }: Port,
): { readonly volts: number; readonly isHigh: boolean } | undefined {
  const verdict = verdictsOf(wiring).of(net)
  const supply = terminal.owner.kind === 'part' ? terminal.owner.logicVolts : undefined
  if (!verdict?.most || !verdict.least || supply === undefined) return undefined
  if (verdict.most.volts - verdict.least.volts > 0.05) return undefined
  const { volts: at } = verdict.most
  return at < 0.3 * supply ? { volts: 0, isHigh: false } : at > 0.7 * supply ? { volts: at, isHigh: true } : undefined
}

type Words = Pick<Report, 'severity' | 'message' | 'why'> & { readonly others?: readonly string[] }

/** What is wrong when a contact closes onto a rail: more than the pin bears, or an output that is shorted. */
function whenPressed(circuit: Circuit, port: Port): Words | undefined {
  for (const { contact, rail } of railsBehindContacts(circuit, port.net)) {
    const { ref } = contact.part
    if (port.most !== undefined && rail.volts > port.most + SLACK)
      return {
        severity: 'fault',
        message: `When ${ref} closes, ${port.terminal.end} is joined with ${railWords(rail)}; it bears ${port.most} V.`,
        why: 'A closed contact is a piece of wire. Put the contact on the logic supply or on ground, with a pull to the other side.',
        others: [ref],
      }
    const drivesMore = circuit.wiring.signals.some(
      (use) =>
        use.part !== contact.part &&
        use.facts.direction === 'in' &&
        use.hosts.some(({ host, via }) => host === port.host && via.length === 0),
    )
    if (port.role !== 'in' && port.role !== 'either' && drivesMore)
      return {
        severity: 'fault',
        message: `When ${ref} closes, the output ${port.terminal.end} is joined with ${railWords(rail)}.`,
        why: 'The pin drives something else as well. A contact straight to a rail shorts it whenever it drives the other level.',
        others: [ref],
      }
  }
  return undefined
}

/** More than the logic supply of the board, by more than its tolerance. */
const isAboveLogic = ({ terminal: { owner } }: Port, at: number): boolean =>
  owner.kind === 'board' && at > owner.board.logicVolts * 1.1

/** A post of the board that is neither signal nor supply, and is wired. */
const isUnknownPost = (port: Port): boolean => {
  const pin = port.terminal.boardPin
  return port.net.wired && (pin?.kind === 'none' || (pin?.kind === 'control' && pin.control !== 'reference'))
}

/** What a pin of a part bears that is tied instead of run: as the part's logic does. */
function tieBears(port: Port): number | undefined {
  const { owner, end } = port.terminal
  if (owner.kind !== 'part' || port.use) return undefined
  const pin = port.terminal.pin
  const isTie = [...owner.part.ties, ...(owner.mode?.ties ?? [])].some((tie) => tie.pin === pin)
  const isSupply = owner.supplies.some((use) => use.pins.includes(end))
  return isTie && !isSupply ? volts(entryOf(owner.part.levels, 'logic')?.most, owner.logicVolts) : undefined
}

const isBoardPin = (port: Port): boolean =>
  port.terminal.boardPin?.kind === 'io' && port.host !== undefined && port.net.wired

/** What a signal that lies on a rail cannot do there; undefined where it may be held on purpose. */
function signalOnRail(
  { facts }: SignalUse,
  at: number,
  isSupply: boolean,
): Pick<Report, 'severity' | 'message' | 'why'> | undefined {
  const { direction, needs } = facts
  const bus = needs.split('.')[0]
  if (needs.startsWith('i2c.') || needs === 'onewire.dq')
    return {
      severity: 'fault',
      message: 'it is a line of a bus and can say nothing there.',
      why: 'The line must be free to go up and down; on a rail nobody can send on it, and a part that pulls it works against the rail.',
    }
  if (direction === 'out' || (direction === 'both' && bus !== 'spi'))
    return {
      severity: 'fault',
      message: 'it is an output, works against the rail, and is read by nobody.',
      why: `An output that goes ${at === 0 ? 'high' : 'low'} against a rail carries as much current as it can give, gets hot, and may be destroyed.`,
    }
  if (direction === 'open-drain')
    return isSupply
      ? {
          severity: 'fault',
          message: 'it pulls its line to ground and works against the rail.',
          why: 'The output is a switch to ground. On a supply without a resistor it carries all the current that it can, and is read by nobody.',
        }
      : facts.required
        ? {
            severity: 'caution',
            message: 'nobody reads it there.',
            why: 'The output can only pull to ground, where it is already.',
          }
        : undefined
  if (direction === 'in' && facts.off === (at === 0 ? 'low' : 'high'))
    return {
      severity: 'fault',
      message: `it holds the part off for good${facts.text ? ` (${facts.text})` : ''}.`,
      why: 'At this level the part is in reset, asleep or switched off. Wire it to the other level, or to a pin of the board that sets it.',
    }
  if (direction === 'in' && facts.moves)
    return {
      severity: 'fault',
      message: 'the part waits for changes of this line, and a rail never moves.',
      why: 'It takes its data, its step or its start from the edges of this line. Run it to a pin of the board.',
    }
  const isClock = ['spi.sck', 'spi.mosi', 'i2s.bck', 'i2s.ws', 'i2s.dout'].includes(needs)
  if (direction === 'in' && isClock)
    return {
      severity: 'fault',
      message: 'a line of a bus that never moves carries nothing.',
      why: 'The part takes its data from the changes of this line.',
    }
  if (direction === 'in' && needs === 'pwm' && facts.orElse === undefined)
    return {
      severity: 'caution',
      message: 'it waits for pulses, of which a rail has none.',
      why: 'The part reads the length of the pulses on this line.',
    }
  return undefined
}
