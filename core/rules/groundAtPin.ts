import { circuitOf } from '../circuit/circuit.ts'
import type { Fix } from '../plan/edit.ts'
import { availabilityOf } from '../wiring/availability.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import { groundEnd } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'

export const groundAtPinMessages = {
  groundByPin: '{part} has its ground at {pin} from the pin {feeding}: it works only while the program holds that low.',
  throughPin: '{pin} lies on the pin {feeding}: all that {part} switches would flow into it.',
}

/** A pin of a board, alone on a net with legs of one part. */
interface PinAlone {
  readonly end: string
  /** A program can hold it low. */
  readonly drives: boolean
}

function pinAlone(wiring: Wiring, net: Net, part: PartInstance): PinAlone | undefined {
  if (!net.wired || net.ground || net.sources.length > 0) return undefined
  const others = net.ends.filter((end) => wiring.terminal(end)?.ref !== part.ref)
  const pins = others.map((end) => wiring.terminal(end))
  const [end] = others
  if (end === undefined || !pins.every((one) => one?.boardPin?.kind === 'io' || one?.boardPin?.kind === 'control'))
    return undefined
  const drives = pins.every(
    (one) => one?.host?.functions.has('digital-out') === true && availabilityOf(one.host).vital === undefined,
  )
  return { end, drives }
}

const toGround = (wiring: Wiring, part: PartInstance, end: string): Fix[] => {
  const ground = groundEnd(wiring, part)
  return ground === undefined ? [] : moveTo(wiring, end, ground)
}

/** Another part of its kind is driven by the same pins. */
const isOneOfSeveral = (wiring: Wiring, part: PartInstance): boolean => {
  const hostsOf = (one: PartInstance): string[] =>
    wiring.signals.flatMap((use) => (use.part === one ? use.hosts.map(({ host }) => host.end) : []))
  const mine = hostsOf(part)
  return wiring.parts.some(
    (other) => other !== part && other.part.id === part.part.id && hostsOf(other).some((end) => mine.includes(end)),
  )
}

/**
 * Legs that belong on ground and lie on a pin beside it: of a lamp or another load, which then hangs on the program, and
 * of a transistor, which leads the current of its load there.
 */
export function sayGroundsAtPins(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const { end, part, to } of wiring.ties) {
    const net = wiring.netOf(end)
    const carries = circuit
      .on(net)
      .some((one) => one.part === part && (one.kind === 'load' || one.kind === 'diode' || one.kind === 'winding'))
    // With its other leg on a supply it is the pin that switches it, by pulling low.
    const isSwitched = wiring.signals.some((use) => use.part === part && use.hosts.some(({ host }) => host.board))
    // Digits that share their segments are lit one after the other, by the pins of their common legs.
    const at =
      to === 'ground' && carries && isSwitched && !isOneOfSeveral(wiring, part)
        ? pinAlone(wiring, net, part)
        : undefined
    if (!at) continue
    report({
      severity: at.drives ? 'caution' : 'fault',
      at: at.drives ? [end, at.end] : [end],
      message: at.drives ? 'groundByPin' : 'noGround',
      data: { part: part.ref, pin: end, feeding: at.end },
      why: at.drives
        ? 'A pin is ground only while a program says so, and bears a few milliamperes. Before that it floats, and when it is high nothing flows.'
        : `${at.end} is no ground, and no program can hold it low for that: nothing flows, or what hangs on that post is disturbed.`,
      numbers: {},
      propose: () => toGround(wiring, part, end),
    })
  }
  // One that shifts a level has no load, and its foot lies on the line of the lower supply.
  const loaded = new Set(circuit.channels.flatMap(({ part, loads }) => (loads.length > 0 ? [part] : [])))
  for (const part of loaded) {
    if (part.part.build !== 'component') continue
    for (const { id } of part.part.pins.filter(({ role }) => role === 'ground')) {
      const end = `${part.ref}.${id}`
      const at = pinAlone(wiring, wiring.netOf(end), part)
      if (!at) continue
      report({
        severity: 'fault',
        at: [end, at.end],
        message: 'throughPin',
        data: { part: part.ref, pin: end, feeding: at.end },
        why: 'A transistor that switches to ground leads the whole current of its load there. A pin bears a few milliamperes, and is ground only while a program says so.',
        numbers: {},
        propose: () => toGround(wiring, part, end),
      })
    }
  }
}
