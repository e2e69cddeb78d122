import { helpersFor } from '../catalog/catalog.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { i2cLines } from '../circuit/i2cLines.ts'
import { isPulledBeyond } from '../circuit/pulledBeyond.ts'
import { networkOf } from '../circuit/still.ts'
import { riseLimit, riseNanoseconds } from '../electrical/i2c.ts'
import { applyEdits, type Edit } from '../plan/edit.ts'
import { freshRef } from '../plan/refs.ts'
import { activeCautions } from '../wiring/availability.ts'
import { areAlike } from '../wiring/levels.ts'
import type { Net, SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { groundEnd } from '../wiring/supply.ts'
import { openFeet } from './halves.ts'
import { connect, type Decision } from './progress.ts'
import { spans, sparesOf } from './spares.ts'

/** Pull-ups in ohms: of an I2C bus or a 1-Wire line with short leads, and of a switch or an open drain. */
export const BUS_PULL_OHMS = 4700
export const PULL_OHMS = 10_000

/** Edits that add a resistor from a signal's line to the logic supply or the ground of its board; none without them. */
export function pullEdits(
  wiring: Wiring,
  use: SignalUse,
  way: 'up' | 'down',
  ohms: number,
): { edits: Edit[]; ref: string; to: string } | undefined {
  const to = pulledTo(wiring, use, way)
  return to === undefined ? undefined : resistorEdits(wiring, use.end, to, ohms, `pull-${way} of ${use.end}`)
}

/** The logic supply or the ground to which a signal's line is pulled; undefined where nothing feeds it. */
function pulledTo(wiring: Wiring, use: SignalUse, way: 'up' | 'down'): string | undefined {
  const board = use.part.home
  const rail = board?.board.rails.find((one) => one.logic)?.pins[0]
  const usual = board && rail ? `${board.ref}.${rail}` : undefined
  const own = use.part.supplies.find(({ source }) => source)?.source
  // A part that runs below its board is not pulled above its own supply.
  const isBelow =
    own !== undefined &&
    board !== undefined &&
    own.volts < board.board.logicVolts &&
    !areAlike(own.volts, board.board.logicVolts)
  const to = way === 'down' ? groundEnd(wiring, use.part) : isBelow ? own.end : usual
  // A rail that nothing feeds pulls nothing.
  return to !== undefined && (way === 'down' || wiring.netOf(to).sources.length > 0) ? to : undefined
}

/**
 * Resistors that the maker has hung on the line of a contact or of an open drain, and that lead nowhere yet: up where the
 * contact closes to ground, down where it closes to a supply.
 */
export function finishPulls(wiring: Wiring, wanted: (ref: string) => boolean): Decision[] {
  const circuit = circuitOf(wiring)
  const done = new Set<string>()
  return wiring.signals.flatMap((use): Decision[] => {
    if (use.hosts.length === 0 || !wanted(use.part.ref)) return []
    const net = wiring.netOf(use.end)
    const loose = circuit
      .on(net)
      .filter(({ kind, part }) => kind === 'resistor' && part.part.category === 'passive')
      .map(({ a, b, netA }) => (netA === net ? b : a))
      .find((leg) => !wiring.netOf(leg).wired && !wiring.plan.unused.includes(leg) && !done.has(leg))
    const contact = circuit.on(net).find(({ kind, part, throws }) => kind === 'contact' && part === use.part && !throws)
    const other = contact && (contact.netA === net ? contact.netB : contact.netA)
    const isLow = use.facts.direction === 'open-drain' || other?.ground === true
    const way = isLow ? 'up' : (other?.sources.length ?? 0) > 0 ? 'down' : undefined
    const to = way && pulledTo(wiring, use, way)
    if (loose === undefined || to === undefined) return []
    done.add(loose)
    return [connect(loose, to, `pull-${way} of ${use.end}`)]
  })
}

/**
 * Resistors of the kit that nothing else needs, as the pulls of contacts that get a pin now: a maker who lays 10 kΩ beside a
 * button means that. Only where they do for all of them; the pull inside a pin does for one as well as for the others.
 */
export function sparePulls(wiring: Wiring, before: Wiring, wanted: (ref: string) => boolean): Decision[] {
  const [resistor] = helpersFor(wiring.catalog, 'resistor')
  const bare = wiring.signals.flatMap((use) => {
    const isNew = use.hosts.length > 0 && before.signal(use.end)?.hosts.length === 0 && wanted(use.part.ref)
    if (!isNew || use.facts.pull !== 'up') return []
    // A pin that has to be low while the board starts is left to its own pull.
    const bears = use.hosts.every(
      ({ host }) => !activeCautions(host).some(({ id, needs }) => id === 'boot-strap' && needs === 'low'),
    )
    const to = bears ? pulledTo(wiring, use, 'up') : undefined
    const net = wiring.netOf(use.end)
    const isContact = circuitOf(wiring)
      .on(net)
      .some(({ kind, part, netA, netB }) => kind === 'contact' && part === use.part && (netA.ground || netB.ground))
    return to !== undefined && isContact && networkOf(wiring).pulled(net) === undefined ? [{ use, to }] : []
  })
  if (!resistor || bare.length === 0) return []
  const spares = sparesOf(wiring, resistor.id, 'ohms', PULL_OHMS, spans.across)
  if (spares.length < bare.length) return []
  return bare.map(({ use, to }, index): Decision => {
    const ref = spares[index]?.ref as string
    const edits: Edit[] = [
      { do: 'connect', from: `${ref}.1`, to: use.end },
      { do: 'connect', from: `${ref}.2`, to },
    ]
    return { edits, from: use.end, to: ref, why: `pull-up of ${use.end}, since the kit has one` }
  })
}

/** Edits that put a resistor between two ends, one that lies loose in the kit before a new one. */
export function resistorEdits(
  wiring: Wiring,
  from: string,
  to: string,
  ohms: number,
  title: string,
): { edits: Edit[]; ref: string; to: string } | undefined {
  const [resistor] = helpersFor(wiring.catalog, 'resistor')
  if (!resistor) return undefined
  const [spare] = sparesOf(wiring, resistor.id, 'ohms', ohms, ohms === BUS_PULL_OHMS ? spans.bus : spans.across)
  const ref = spare?.ref ?? (freshRef(wiring.plan, 'R', 1)[0] as string)
  const add: Edit = {
    do: 'add-part',
    ref,
    entry: { part: resistor.id, title, options: { ohms } },
  }
  return {
    ref,
    to,
    edits: [
      ...(spare ? [] : [add]),
      { do: 'connect', from: `${ref}.1`, to: from },
      { do: 'connect', from: `${ref}.2`, to },
    ],
  }
}

/** The open leg of a resistor of about so many ohms whose other leg the maker has put where such a pull belongs. */
function begun(wiring: Wiring, use: SignalUse, way: 'up' | 'down', ohms: number): string | undefined {
  const to = pulledTo(wiring, use, way)
  const rail = to === undefined ? undefined : wiring.netOf(to)
  const span = ohms === BUS_PULL_OHMS ? spans.bus : spans.across
  const isRail = (net: Net): boolean =>
    way === 'down' ? net.ground : net.sources[0] !== undefined && net.sources[0].volts === rail?.sources[0]?.volts
  return openFeet(wiring, isRail, (has) => has >= ohms * span.least && has <= ohms * span.most)[0]
}

/** Resistors that the placed lines of the wanted parts need and do not have: buses, 1-Wire lines, pins without a pull. */
export function addPullUps(wiring: Wiring, wanted: (ref: string) => boolean): Decision[] {
  const decisions: Decision[] = []
  let now = wiring
  const add = (use: SignalUse, ohms: number, why: string): void => {
    const way = use.facts.pull ?? 'up'
    const half = begun(now, use, way, ohms)
    if (half !== undefined) {
      const decision = connect(half, use.end, why)
      decisions.push(decision)
      now = resolve(applyEdits(now.plan, decision.edits), now.catalog)
      return
    }
    const made = pullEdits(now, use, way, ohms)
    if (!made) return
    decisions.push({ edits: made.edits, from: use.end, to: made.ref, why })
    now = resolve(applyEdits(now.plan, made.edits), now.catalog)
  }
  for (const { ohms, farads, hertz, parts, use } of i2cLines(wiring)) {
    if (!parts.some((part) => wanted(part.ref))) continue
    if (ohms === undefined) add(use, BUS_PULL_OHMS, 'no module on this bus brings a pull-up')
    else if (riseNanoseconds(ohms, farads) > riseLimit(hertz))
      add(use, BUS_PULL_OHMS, 'what the modules bring is too weak for so long a line')
  }
  for (const use of wiring.signals) {
    const { pull, pullMostOhms } = use.facts
    const host = use.hosts[0]?.host
    if (pull === undefined || !host || !wanted(use.part.ref)) continue
    const held = networkOf(now).pulled(now.netOf(host.end)) !== undefined
    if (held || (pullMostOhms === undefined && (host.functions.has(`pull-${pull}`) || isPulledBeyond(now, host, pull))))
      continue
    add(
      use,
      pullMostOhms === undefined ? PULL_OHMS : BUS_PULL_OHMS,
      pullMostOhms === undefined ? `${host.end} has no pull-${pull} inside` : 'the line works only with a resistor',
    )
  }
  return decisions
}
