import { circuitOf, type DriverChannel, ownRailOf, railOf } from '../circuit/circuit.ts'
import { networkOf } from '../circuit/still.ts'
import { busNeed } from '../wiring/buses.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { sayHalfContacts, sayHalfMeters, sayHighSide, sayJoinedContacts } from './contactsPlaced.ts'
import {
  driverPlacedMessages,
  isMoved,
  sayConstant,
  sayExchanged,
  sayJoined,
  sayNoReturn,
  sayNothingOn,
  sayOtherKind,
  sayPassedBy,
} from './driverPlaced.ts'
import type { Rule } from './finding.ts'
import { sayHeldByOwn } from './heldByOwn.ts'
import { movedTogetherMessages, sayAlike, sayCoilsAlike, sayOneWay } from './movedTogether.ts'
import { listWords } from './shared.ts'

export const driverIdle: Rule = {
  meta: {
    id: 'driver-idle',
    severities: ['fault', 'caution'],
    about:
      'A driver, a bridge half or a switch carries a load and can never switch it: its input, its enable or its own way to ground is open or tied; or it is moved and carries nothing.',
    messages: {
      ...driverPlacedMessages,
      ...movedTogetherMessages,
      idle: '{outputs} {outputs:carries/carry} {loads} and never {outputs:moves/move}: {because}.',
    },
    lacking: ['idle', 'noReturn', 'nothingOn', 'halfContact', 'halfMeter', 'passedBy'],
    fixable: true,
  },
  check(wiring, report) {
    sayJoined(wiring, report)
    sayJoinedContacts(wiring, report)
    sayOtherKind(wiring, report)
    sayHighSide(wiring, report)
    sayHeldByOwn(wiring, report)
    sayNoReturn(wiring, report)
    sayConstant(wiring, report)
    sayExchanged(wiring, report)
    sayNothingOn(wiring, report)
    sayHalfContacts(wiring, report)
    sayHalfMeters(wiring, report)
    sayPassedBy(wiring, report)
    sayAlike(wiring, report)
    sayCoilsAlike(wiring, report)
    sayOneWay(wiring, report)
    for (const { outputs, loads, open, off } of idleOutputs(wiring))
      report({
        severity: 'fault',
        at: [...outputs, ...open, ...off, ...loads],
        message: 'idle',
        data: {
          outputs,
          loads: [...loads],
          because: [
            open.length > 0 ? `${listWords(open)} ${open.length === 1 ? 'is' : 'are'} open` : '',
            off.length > 0
              ? `${listWords(off)} ${off.length === 1 ? 'does' : 'do'} not switch ${outputs.length === 1 ? 'it' : 'them'} on`
              : '',
          ]
            .filter((one) => one !== '')
            .join(', '),
        },
        why: 'An output does what its inputs say, and only while it is enabled. Open inputs float: the output stays off or follows the noise around it.',
        numbers: {},
      })
  },
}

/** Outputs that stand still for the same reason: what they carry, which inputs are open, which enables switch them off. */
interface Idle {
  readonly outputs: string[]
  readonly loads: Set<string>
  readonly open: readonly string[]
  readonly off: readonly string[]
}
type Note = (
  key: string,
  output: string,
  loads: readonly string[],
  open: readonly string[],
  off: readonly string[],
) => void

function idleOutputs(wiring: Wiring): Iterable<Idle> {
  const idle = new Map<string, Idle>()
  const note: Note = (key, output, loads, open, off) => {
    const group = idle.get(key) ?? { outputs: [], loads: new Set<string>(), open, off }
    group.outputs.push(output)
    for (const one of loads) group.loads.add(one)
    idle.set(key, group)
  }
  noteChannels(wiring, note)
  noteContacts(wiring, note)
  return idle.values()
}

function noteChannels(wiring: Wiring, note: Note): void {
  const unused = new Set(wiring.plan.unused)
  const wrongTies = new Set(
    wiring.ties.flatMap(({ end, state }) => (state === 'wrong' || state === 'open' ? [end] : [])),
  )
  const { channels } = circuitOf(wiring)
  for (const channel of channels) {
    const loads = carriedBy(wiring, channel)
    if (loads.length === 0) continue
    // Of the lines of a bus that wait for their pins pin-unplaced speaks, or they are left open on purpose.
    const isLine = (end: string): boolean => busNeed(wiring.signal(end)?.facts.needs ?? '') !== undefined
    const open = channel.inputs.filter((end) => !isMoved(wiring, end) && !(isLine(end) && !wiring.netOf(end).wired))
    const off = channel.enables.filter(({ end, active, held }) => {
      const net = wiring.netOf(end)
      const rail = railOf(net)
      if (rail) return active === 'high' ? rail.volts === 0 : rail.volts > 0
      return !held && !isMoved(wiring, end) && !(net.wired && !unused.has(end) && isPulled(wiring, end, active))
    })
    if (open.length === 0 && off.length === 0) continue
    // Of a strap that is open or on the wrong level strap-needed speaks.
    if (open.length === 0 && off.every(({ end }) => wrongTies.has(end))) continue
    const ends = off.map(({ end }) => end)
    const key = [channel.part.ref, ...open, '/', ...ends].join(' ')
    note(key, channel.output, loads, open, ends)
  }
}

/** Contacts that nothing moves. */
function noteContacts(wiring: Wiring, note: Note): void {
  for (const { part, b, moved, netA, netB } of circuitOf(wiring).elements) {
    if (!moved || !netA.wired || !netB.wired || netA === netB || isMoved(wiring, moved.by)) continue
    // Of an input on a supply or ground pin-on-rail speaks.
    if (railOf(wiring.netOf(moved.by))) continue
    // What a contact leads on to counts, not what shares its supply.
    const behind = [netA, netB].filter((net) => ownRailOf(net) === undefined)
    const loads = behind.flatMap(({ ends }) => ownersAt(wiring, ends, part))
    if (loads.length > 0) note(`${moved.by} /`, b, loads, [moved.by], [])
  }
}

/** What hangs on an output: loads, and of a bare transistor whatever else is joined with it. */
function carriedBy(wiring: Wiring, { part, output, loads }: DriverChannel): readonly string[] {
  if (loads.length > 0 || part.part.build !== 'component') return loads.map((one) => one.part.ref)
  return ownersAt(wiring, wiring.netOf(output).ends, part)
}

/** Refs of the parts at some ends, one of them left out. */
const ownersAt = (wiring: Wiring, ends: readonly string[], without: PartInstance): string[] =>
  ends.flatMap((end) => {
    const owner = wiring.terminal(end)?.owner
    return owner?.kind === 'part' && owner !== without ? [owner.ref] : []
  })

/** Resistors lead the pin to the level that switches it on. */
function isPulled(wiring: Wiring, end: string, active: 'high' | 'low'): boolean {
  const volts = networkOf(wiring).pulled(wiring.netOf(end))
  return volts !== undefined && (active === 'high' ? volts >= LEAST_HIGH : volts < LEAST_HIGH)
}

/** Volts from which an enable counts as held high; its threshold itself is a matter of levels. */
const LEAST_HIGH = 1
