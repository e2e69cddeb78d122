import { entryOf } from '../base/entryOf.ts'
import { volts } from '../catalog/common.ts'
import { type Circuit, circuitOf, type Port, railOf, railsBehindContacts, railWords } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import { crossedControl } from '../circuit/turned.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { busNeed } from '../wiring/buses.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { waysThrough } from '../wiring/waysThrough.ts'
import type { Report } from './finding.ts'

export const signalOnRailMessages = {
  busLine: '{pin} is {where}: it is a line of a bus and can say nothing there.',
  output: '{pin} is {where}: it is an output, works against the rail, and is read by nobody.',
  openDrain: '{pin} is {where}: it pulls its line to ground and works against the rail.',
  unread: '{pin} is {where}: nobody reads it there.',
  neverMoves: '{pin} is {where}: the part waits for changes of this line, and a rail never moves.',
  clock: '{pin} is {where}: a line of a bus that never moves carries nothing.',
  unspoken: '{pin} is {where}: the line rests for good, and nobody ever speaks to {part}.',
  break: '{pin} is {where}: on a serial line that is a break without end, and nothing is ever heard.',
  laneStands: '{pin} is {where}, so that {other}, its other side, never moves.',
  dominant: '{pin} is {where}: it holds the whole bus dominant for good.',
  noSound: '{pin} is {where}: it waits for sound, of which a rail has none.',
  pulses: '{pin} is {where}: it waits for pulses, of which a rail has none.',
  switchesOff: '{pin} is {where}: it switches {other} off for good.',
  holdsOff: '{pin} is {where}: it keeps the part from its work for good{text}.',
  dark: '{pin} is {where}: it switches {what} off for good.',
  stuck: '{pin} is {where}: {part} is {state} for good, and no pin of a board can change that.',
  pressedHigh: 'When {ref} closes, {pin} is joined with {rail}; it bears {most} V.',
  pressedOutput: 'When {ref} closes, the output {pin} is joined with {rail}.',
}

/** Volts by which a rail may lie above what a pin bears without being called too high: no source is that exact. */
export const SLACK = 0.05

/** Level to which resistors alone hold a net for good; undefined where something else may move it. */
export function heldLevel(
  wiring: Wiring,
  { net, terminal }: Pick<Port, 'net' | 'terminal'>,
): { readonly volts: number; readonly isHigh: boolean } | undefined {
  const verdict = verdictsOf(wiring).of(net)
  const supply = terminal.owner.kind === 'part' ? terminal.owner.logicVolts : undefined
  if (!verdict?.most || !verdict.least || supply === undefined) return undefined
  if (verdict.most.volts - verdict.least.volts > 0.05) return undefined
  const { volts: at } = verdict.most
  return at < 0.3 * supply ? { volts: 0, isHigh: false } : at > 0.7 * supply ? { volts: at, isHigh: true } : undefined
}

/** What is wrong when one side of a way through a buffer or shifter lies on a rail, while the other side is in use. */
export function laneOnRail(wiring: Wiring, { terminal, net, use }: Port, at: number): Words | undefined {
  const { owner, end } = terminal
  if (owner.kind !== 'part' || use) return undefined
  const lane = waysThrough(owner).find(({ from, to }) => from === end || to === end)
  if (!lane) return undefined
  const other = end === lane.from ? lane.to : lane.from
  if (lane.kind === 'buffer' && end === lane.to)
    return {
      severity: 'fault',
      message: 'output',
      why: `An output that goes ${at === 0 ? 'high' : 'low'} against a rail carries as much current as it can give, gets hot, and may be destroyed.`,
    }
  const beyond = wiring.netOf(other)
  if (!beyond.wired || beyond === net || beyond.ground || beyond.sources.length > 0) return undefined
  return {
    severity: 'fault',
    message: 'laneStands',
    data: { other },
    why: `Whatever comes in at one side of the way through ${owner.ref} comes out at the other. A rail never moves: nothing is ever said at ${other}. Take ${end} off it, and run it to the pin that it is for.`,
  }
}

export type Words = Pick<Report, 'severity' | 'message' | 'data' | 'why'> & { readonly others?: readonly string[] }

/** An output of a part that a contact shorts when it closes. */
export function whenOutputPressed(circuit: Circuit, { net, terminal, use }: Port): Words | undefined {
  if (use?.facts.direction !== 'out' || terminal.owner.kind !== 'part' || busNeed(use.facts.needs)) return undefined
  const [found] = railsBehindContacts(circuit, net).filter(({ contact }) => contact.part !== use.part)
  if (!found) return undefined
  const { ref } = found.contact.part
  return {
    severity: 'fault',
    message: 'pressedOutput',
    data: { ref, pin: terminal.end, rail: railWords(found.rail) },
    why: 'The output drives the line both ways. A contact straight to a rail shorts it whenever it is at the other level. Each of the two belongs at a pin of its own.',
    others: [ref],
  }
}

/** What is wrong when a contact closes onto a rail: more than the pin bears, or an output that is shorted. */
export function whenPressed(circuit: Circuit, port: Port): Words | undefined {
  for (const { contact, rail } of railsBehindContacts(circuit, port.net)) {
    const { ref } = contact.part
    if (port.most !== undefined && rail.volts > port.most + SLACK)
      return {
        severity: 'fault',
        message: 'pressedHigh',
        data: { ref, pin: port.terminal.end, rail: railWords(rail), most: port.most },
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
        message: 'pressedOutput',
        data: { ref, pin: port.terminal.end, rail: railWords(rail) },
        why: 'The pin drives something else as well. A contact straight to a rail shorts it whenever it drives the other level.',
        others: [ref],
      }
  }
  return undefined
}

/** More than the logic supply of the board, by more than its tolerance. */
export const isAboveLogic = ({ terminal: { owner } }: Port, at: number): boolean =>
  owner.kind === 'board' && at > owner.board.logicVolts * 1.1

/** A post at which the board starts and runs while it is high, at the supply of its logic. */
export const liesAnyway = (port: Port, at: number): boolean =>
  ['reset', 'enable'].includes(port.terminal.boardPin?.control ?? '') && at > 0 && !isAboveLogic(port, at)

export const logicWords = ({ terminal: { owner } }: Port): string =>
  owner.kind === 'board' ? formatVolts(owner.board.logicVolts) : ''

/** A post of the board that is neither signal nor supply, and is wired. */
export const isUnknownPost = (port: Port): boolean => {
  const pin = port.terminal.boardPin
  return port.net.wired && (pin?.kind === 'none' || (pin?.kind === 'control' && pin.control !== 'reference'))
}

/** What a pin of a part bears that is tied instead of run: as the part's logic does. */
export function tieBears(port: Port): number | undefined {
  const { owner, end } = port.terminal
  if (owner.kind !== 'part' || port.use) return undefined
  const pin = port.terminal.pin
  const tie = [...owner.part.ties, ...(owner.mode?.ties ?? [])].find((one) => one.pin === pin)
  const isSupply = owner.supplies.some((use) => use.pins.includes(end))
  return tie && !isSupply ? volts(entryOf(owner.part.levels, tie.levels ?? 'logic')?.most, owner.logicVolts) : undefined
}

/** A buzzer of which a transistor, a relay or a button switches the other leg. */
function isSwitchedBehind(wiring: Wiring, owner: PartInstance, end: string): boolean {
  const leg = otherLeg({ owner, end })
  return leg !== undefined && wiring.netOf(leg).wired && railOf(wiring.netOf(leg)) === undefined
}

/** The part has an enable that leaves its sender off: a receiver alone needs nobody who speaks. */
const isHeardOnly = (wiring: Wiring, part: PartInstance): boolean =>
  part.part.signals
    .concat(part.mode?.signals ?? [])
    .some(({ pin, off, offOf }) => offOf !== undefined && off === 'low' && wiring.netOf(`${part.ref}.${pin}`).ground)

/** What a signal that lies on a rail cannot do there; undefined where it may be held on purpose. */
export function signalOnRail(wiring: Wiring, use: SignalUse, at: number, isSupply: boolean): Words | undefined {
  const { end, facts, part } = use
  const { direction, needs } = facts
  if (direction === 'in' && isSwitchedBehind(wiring, part, end)) return undefined
  const bus = needs.split('.')[0]
  if (needs.startsWith('i2c.') || needs === 'onewire.dq')
    return {
      severity: 'fault',
      message: 'busLine',
      why: 'The line must be free to go up and down; on a rail nobody can send on it, and a part that pulls it works against the rail.',
    }
  if (direction === 'out' || (direction === 'both' && bus !== 'spi'))
    return {
      severity: 'fault',
      message: 'output',
      why: `An output that goes ${at === 0 ? 'high' : 'low'} against a rail carries as much current as it can give, gets hot, and may be destroyed.`,
    }
  // Both legs of a sensor that is a resistance lie on rails: whatever it does, no pin sees it.
  if (direction === 'passive' && needs === 'analog-in')
    return {
      severity: 'fault',
      message: 'unread',
      why: 'A sensor that is a resistance divides a supply with a fixed resistor, and the middle of the two is what a pin reads. On a rail the middle never moves.',
    }
  if (direction === 'open-drain')
    return isSupply
      ? {
          severity: 'fault',
          message: 'openDrain',
          why: 'The output is a switch to ground. On a supply without a resistor it carries all the current that it can, and is read by nobody.',
        }
      : facts.required
        ? {
            severity: 'caution',
            message: 'unread',
            why: 'The output can only pull to ground, where it is already.',
          }
        : undefined
  const other = facts.offWith === undefined ? undefined : wiring.signal(`${part.ref}.${facts.offWith}`)
  const isOff =
    direction === 'in' &&
    facts.off === (at === 0 ? 'low' : 'high') &&
    (facts.offWith === undefined || isOffAsWell(wiring, other))
  // Of two that do it together the second is named beside the first.
  if (isOff && other && other.end < end) return undefined
  if (isOff && facts.offOf !== undefined)
    return wiring.signal(`${part.ref}.${facts.offOf}`)?.hosts.length
      ? {
          severity: 'fault',
          message: 'switchesOff',
          data: { other: `${part.ref}.${facts.offOf}` },
          why: `${part.ref}.${facts.offOf} is wired, and does something only while this pin is ${at === 0 ? 'high' : 'low'}. Run it to a pin of the board, or tie it to the other level.`,
        }
      : undefined
  if (isOff && facts.offWhat !== undefined)
    return {
      severity: 'caution',
      message: 'dark',
      data: { what: facts.offWhat },
      why: `The rest of the part works. Wire ${end} to the other level, or to a pin of the board that sets it.`,
    }
  if (isOff)
    return {
      severity: 'fault',
      message: 'holdsOff',
      data: { text: facts.text ? ` (${facts.text})` : '' },
      why: 'At this level the part is in reset, asleep, switched off or in a mode for something else. Wire it to the other level, or to a pin of the board that sets it.',
      others: other ? [other.end] : [],
    }
  return direction === 'in' ? inputOnRail(wiring, use, at) : undefined
}

/** Of an input that switches the part off together with this one: it lies at the level that does so as well. */
function isOffAsWell(wiring: Wiring, other: SignalUse | undefined): boolean {
  const terminal = other && wiring.terminal(other.end)
  if (!terminal) return false
  const net = wiring.netOf(other.end)
  const volts = (railOf(net) ?? heldLevel(wiring, { net, terminal }))?.volts
  return volts !== undefined && (other.facts.off === 'low') === (volts === 0)
}

/** A load hangs on an output that this input moves. */
const isHeard = (wiring: Wiring, end: string): boolean =>
  circuitOf(wiring).channels.some(({ inputs, loads }) => inputs.includes(end) && loads.length > 0)

/** What an input misses that waits for changes, by what it needs. */
function inputOnRail(wiring: Wiring, { facts, part, end }: SignalUse, at: number): Words | undefined {
  const { needs } = facts
  if (facts.moves)
    return {
      severity: 'fault',
      message: 'neverMoves',
      why: 'It takes its data, its step or its start from the edges of this line. Run it to a pin of the board.',
    }
  // An input for sound that is not used may well lie on ground, so that it is quiet.
  if (facts.alternates && (at > 0 || isHeard(wiring, end)))
    return {
      severity: 'caution',
      message: 'noSound',
      why: 'The part makes sound of what changes on this line. Run it to a pin of the board, or to what gives the sound.',
    }
  if (needs === 'can.tx' && at === 0)
    return {
      severity: 'fault',
      message: 'dominant',
      why: 'Low at this input makes the bus dominant, and while it is, nobody else is heard (ISO 11898).',
    }
  if (needs === 'uart.tx' && at === 0)
    return {
      severity: facts.required ? 'fault' : 'caution',
      message: 'break',
      why: 'A serial line rests high and falls for every byte. Run it to the sending pin of the board; where the part shall not be spoken to, leave it open or on its supply.',
    }
  if (['uart.tx', 'can.tx'].includes(needs) && facts.required && !isHeardOnly(wiring, part))
    return {
      severity: 'caution',
      message: 'unspoken',
      data: { part: part.ref },
      why: 'At the level of its supply such a line rests. Run it to the sending pin of the board; a part that shall only speak may leave it as it is.',
    }
  const isClock = ['spi.sck', 'spi.mosi', 'i2s.bck', 'i2s.ws', 'i2s.dout'].includes(needs)
  if (isClock)
    return {
      severity: 'fault',
      message: 'clock',
      why: 'The part takes its data from the changes of this line.',
    }
  // With an interval of its own the width of the pulse says something; otherwise it only sets how strong.
  if (needs === 'pwm' && (facts.orElse === undefined || facts.hertz !== undefined))
    return {
      severity: 'caution',
      message: 'pulses',
      why: 'The part reads the length of the pulses on this line.',
    }
  return undefined
}

/**
 * An input that moves something, on a rail, in a part of which no pin of a board moves anything: it stays as it is. Of
 * relays side by side each stands for itself.
 */
export function stuckOnRail(wiring: Wiring, { end, facts, part }: SignalUse, at: number): Words | undefined {
  if (facts.direction !== 'in' || !facts.actuator) return undefined
  const isAlone = part.part.channels.length === 0 && part.part.inner.some(({ kind }) => kind === 'switch')
  // What is not wired to the end yet may still get its pin.
  const moves = wiring.signals.some(
    (use) =>
      use.part === part &&
      (!isAlone || use.end === end) &&
      use.facts.direction === 'in' &&
      (use.state === 'open' ? use.facts.required : use.state !== 'tied' && use.state !== 'unused'),
  )
  if (moves || isSwitchedBehind(wiring, part, end)) return undefined
  // Of legs that are exchanged polarity speaks.
  if (crossedControl(wiring, part)) return undefined
  // Led on by its own diode, and off while another supply is there that feeds the load instead.
  const gate = wiring.netOf(end)
  const bare = part.part.build === 'component' ? part.part.channels : []
  const isShared = bare.some(({ output, supply }) => {
    const net = wiring.netOf(`${part.ref}.${output}`)
    return supply !== undefined && net.sources.length > 0 && net !== gate && !gate.ground
  })
  if (isShared) return undefined
  const isOn = at > 0 === (facts.activeLevel === 'high')
  return {
    severity: 'caution',
    message: 'stuck',
    data: { part: part.ref, state: isOn ? 'on' : 'off' },
    why: 'A rail never moves. If the program shall switch the part, run this input to a pin.',
  }
}
