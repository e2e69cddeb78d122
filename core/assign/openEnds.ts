import { memo } from '../base/memo.ts'
import { isLoad } from '../catalog/common.ts'
import { type Circuit, circuitOf, type DriverChannel, type Port, railOf, reachesGround } from '../circuit/circuit.ts'
import { isOnlyHeld, leadsSomewhere, otherLeg } from '../circuit/reach.ts'
import { networkOf } from '../circuit/still.ts'
import { isBetweenParts } from '../wiring/between.ts'
import { busNeed } from '../wiring/buses.ts'
import { isOnCharger } from '../wiring/cellPlaces.ts'
import type { Net, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { standsOn } from '../wiring/stacks.ts'
import { isByLine } from '../wiring/supply.ts'
import { waysThrough } from '../wiring/waysThrough.ts'

/** A pin of a part that still waits for a wire. */
export interface OpenEnd {
  readonly end: string
  readonly kind: 'signal' | 'supply' | 'ground' | 'tie' | 'series'
  readonly required: boolean
  /** What it is for, in words. */
  readonly what: string
  /** `other-rule` when another rule already speaks of it. */
  readonly why: 'open' | 'other-rule'
}

/** Signals by part, ends from which the next wire starts, and pins left open, gathered once. */
const gathered = memo((wiring: Wiring) => {
  const byPart = new Map<PartInstance, SignalUse[]>()
  for (const use of wiring.signals) {
    const mine = byPart.get(use.part)
    if (mine) mine.push(use)
    else byPart.set(use.part, [use])
  }
  const tails = new Map<string, SignalUse[]>()
  for (const use of wiring.signals)
    if (use.state !== 'placed') tails.set(use.tail, [...(tails.get(use.tail) ?? []), use])
  return { byPart, tails, unused: new Set(wiring.plan.unused) }
})

/** Pins of a part that have no wire and are not left open on purpose: signals, supplies, grounds and ties. */
export function openEnds(wiring: Wiring, part: PartInstance): OpenEnd[] {
  const { byPart, tails, unused } = gathered(wiring)
  const found: OpenEnd[] = []
  const touched = part.part.pins.some((pin) => wiring.netOf(`${part.ref}.${pin.id}`).wired)
  for (const use of part.supplies) {
    const fedOtherWay =
      use.facts.either &&
      use.pins.some((end) => wiring.netOf(end).ground) &&
      use.grounds.some((end) => wiring.netOf(end).sources.length > 0)
    if (fedOtherWay || isByLine(wiring, use) || !use.facts.required) continue
    const why = touched ? 'other-rule' : 'open'
    for (const end of use.pins)
      if (wiring.netOf(end).sources.length === 0 && !unused.has(end))
        found.push({
          end,
          kind: 'supply',
          required: true,
          what: `takes ${use.facts.least} to ${use.facts.most} V`,
          why,
        })
    for (const end of use.grounds)
      if (!reachesGround(wiring, wiring.netOf(end)) && !unused.has(end))
        found.push({ end, kind: 'ground', required: true, what: 'is ground', why })
  }
  for (const { near, far } of halfLanes(wiring, part))
    if (!unused.has(far))
      found.push({ end: far, kind: 'series', required: true, what: `is the other side of ${near}`, why: 'open' })
  for (const pin of part.part.pins) {
    const end = `${part.ref}.${pin.id}`
    const known = part.supplies.some((use) => use.pins.includes(end) || use.grounds.includes(end))
    if (
      pin.role === 'ground' &&
      pin.open === undefined &&
      !known &&
      standsOn(wiring, part.ref) === undefined &&
      !isOnCharger(wiring, end) &&
      !reachesGround(wiring, wiring.netOf(end)) &&
      !isSwitchedLeg(wiring, part, end) &&
      !unused.has(end)
    )
      found.push({
        end,
        kind: 'ground',
        required: true,
        what: 'is ground',
        why:
          part.part.build === 'component' && (wiring.netOf(end).wired || carriesLoad(wiring, part))
            ? 'other-rule'
            : 'open',
      })
    // The far leg of a resistor in series waits with its signal, where that waits.
    const waits = (tails.get(end) ?? []).some((use) => use.part === part || openSignal(wiring, use)?.required)
    if (pin.role === 'passive' && !wiring.netOf(end).wired && !unused.has(end) && !waits)
      found.push({
        end,
        kind: 'series',
        required: pin.open === undefined,
        what: 'is a leg of a part with two',
        why: 'open',
      })
  }
  for (const use of byPart.get(part) ?? []) {
    const open = openSignal(wiring, use)
    if (open) found.push(open)
  }
  for (const tie of wiring.ties)
    if (
      tie.part === part &&
      tie.state === 'open' &&
      !found.some(({ end }) => wiring.netOf(end) === wiring.netOf(tie.end))
    )
      found.push({
        end: tie.end,
        kind: 'tie',
        required: true,
        what: `goes to ${tie.to}`,
        why: touched && part.part.build !== 'component' ? 'other-rule' : 'open',
      })
  // A leg that is both the side of a signal and one that is tied waits once.
  return found.filter(({ end }, at) => found.findIndex((one) => one.end === end) === at)
}

/** A signal that waits for a pin of a board; undefined for one that has its way. */
function openSignal(wiring: Wiring, use: SignalUse): OpenEnd | undefined {
  if (use.state !== 'open' && !(use.state === 'joined' && use.hosts.length === 0)) return undefined
  if (wiring.netOf(use.end).wired && (leadsOn(wiring, use) || isHeld(wiring, use))) return undefined
  if (use.state === 'joined' && (!use.facts.required || isBetweenParts(wiring, use))) return undefined
  if (isOnPost(wiring, use)) return undefined
  return {
    end: use.end,
    kind: 'signal',
    required: use.facts.required && !isSpareInput(wiring, use),
    what: `needs ${needWords(use.facts.needs)}`,
    why: 'open',
  }
}

/**
 * Ways through a shifter, a buffer or a converter that something comes in at, and that end on the other side. An input
 * that is tied to a rail keeps a spare one still.
 */
function halfLanes(wiring: Wiring, part: PartInstance): { readonly near: string; readonly far: string }[] {
  return waysThrough(part).flatMap(({ from, to }) => {
    if (wiring.signal(from) || wiring.signal(to) || wiring.netOf(from).wired === wiring.netOf(to).wired) return []
    const [near, far] = wiring.netOf(from).wired ? [from, to] : [to, from]
    return railOf(wiring.netOf(near)) ? [] : [{ near, far }]
  })
}

/** It only moves outputs of a driver that carry nothing, while others of that driver do. */
export function isSpareInput(wiring: Wiring, use: SignalUse): boolean {
  const channels = circuitOf(wiring).channels.filter(({ part }) => part === use.part)
  const mine = channels.filter(({ inputs, enables }) => [...inputs, ...enables.map(({ end }) => end)].includes(use.end))
  const isLoaded = ({ output }: DriverChannel): boolean => wiring.netOf(output).wired
  return mine.length > 0 && !mine.some(isLoaded) && channels.some(isLoaded)
}

/** A transistor on whose output something hangs: of its own way to ground driver-idle speaks. */
const carriesLoad = (wiring: Wiring, part: PartInstance): boolean =>
  part.part.channels.some(({ output }) => wiring.netOf(`${part.ref}.${output}`).wired)

/** An input that resistors hold at a level, on purpose. */
function isHeld(wiring: Wiring, use: SignalUse): boolean {
  // What has to move is not held on purpose: its pull-up is there, and the wire to the board is not.
  if (use.facts.direction !== 'in' || use.facts.moves || busNeed(use.facts.needs) !== undefined) return false
  return networkOf(wiring).pulled(wiring.netOf(use.end)) !== undefined
}

/** Its current goes on through a lamp, a contact, a shunt or a load to something that holds or drives it. */
function leadsOn(wiring: Wiring, use: SignalUse): boolean {
  const circuit = circuitOf(wiring)
  const net = wiring.netOf(use.end)
  const isLeg = circuit.on(net).some((one) => one.part === use.part && (one.a === use.end || one.b === use.end))
  if (use.facts.direction !== 'passive' && !isLeg && !isSwitchedLoad(wiring, use)) return false
  if (endsInResistors(circuit, net, use)) return false
  // An output takes nothing in: a level that is to be measured does not end there.
  const others = circuit.at(net).filter(({ terminal, role }) => terminal.ref !== use.part.ref && role !== 'passive')
  const isOutput = ({ role, host }: Port): boolean => !host && (role === 'out' || role === 'open-drain')
  if (use.facts.needs === 'analog-in' && others.length > 0 && others.every(isOutput)) return false
  const listens = circuit.on(net).some(({ kind, part }) => kind === 'contact' && part === use.part)
  return leadsSomewhere(circuit, net, (one) => one.part === use.part, { listens })
}

/** The way back of a laser, which a transistor or a contact switches. */
function isSwitchedLeg(wiring: Wiring, part: PartInstance, end: string): boolean {
  const leg = otherLeg({ owner: part, end })
  const past = leg === undefined ? undefined : wiring.netOf(leg)
  return past !== undefined && leadsSomewhere(circuitOf(wiring), wiring.netOf(end), () => false, { past })
}

/** A buzzer that a button or a relay switches, without a pin of a board. */
const isSwitchedLoad = (wiring: Wiring, { part, end, facts }: SignalUse): boolean =>
  (part.part.category === 'load' || otherLeg({ owner: part, end }) !== undefined) &&
  facts.direction === 'in' &&
  !facts.moves &&
  circuitOf(wiring)
    .on(wiring.netOf(end))
    .some(({ kind }) => kind === 'contact')

/** Nothing but resistors to rails hangs on it: a divider, or a contact with its pull, that nobody reads. */
function endsInResistors(circuit: Circuit, start: Net, use: SignalUse): boolean {
  if (use.facts.direction !== 'passive' || isLoad(use.facts.needs)) return false
  const isHeld = circuit.on(start).some(({ kind, part }) => kind === 'resistor' && part !== use.part)
  return isHeld && isOnlyHeld(circuit, start, use.part)
}

/** It has a wire, to a post of the board that is no signal: a button at reset, or a mistake of which pin-not-signal speaks. */
const isOnPost = (wiring: Wiring, use: SignalUse): boolean =>
  wiring.netOf(use.end).ends.some((end) => {
    const kind = wiring.terminal(end)?.boardPin?.kind
    return kind === 'control' || kind === 'none'
  })
