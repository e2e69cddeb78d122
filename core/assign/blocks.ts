import { memoIn } from '../base/memo.ts'
import { volts } from '../catalog/common.ts'
import { mostBorneBy } from '../circuit/bearing.ts'
import { boardPull, INNER_PULL_OHMS } from '../circuit/boardPulls.ts'
import { runsOf } from '../circuit/loads.ts'
import { networkOf } from '../circuit/still.ts'
import { activeCautions, availabilityOf, servingFeature } from '../wiring/availability.ts'
import { busNeed } from '../wiring/buses.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { drives, isTimed, meets, switchesLoad } from '../wiring/needs.ts'
import { clash } from '../wiring/sharing.ts'
import { pullingBeside } from '../wiring/supply.ts'
import { DIODE_VOLTS, diodesOf } from '../wiring/windings.ts'
import type { Block } from './block.ts'
import { isPickedOnly } from './oneAtATime.ts'
import { sameSharedBus, usesOn } from './onPin.ts'

/** What keeps a signal off a pin; undefined where nothing does. */
export function blockedBecause(wiring: Wiring, use: SignalUse, host: Host): Block | undefined {
  const pin = pinBlock(use, host)
  if (pin !== undefined) return pin
  if (leadsToNoReader(wiring, use, host)) return { kind: 'lacks', needs: use.facts.needs }
  const scanned = host.provider ? scannedLines(wiring, use.part) : []
  if (host.provider && scanned.includes(use) && !canScan(host.provider.part, scanned)) return { kind: 'scanned' }
  const bus = busNeed(use.facts.needs)
  const net = wiring.netOf(host.end)
  if (net.ground || net.sources.length > 0) return { kind: 'supply' }
  // What nothing that others leave would change comes first.
  const unfit = currentBlock(wiring, use, host) ?? diodeBlock(wiring, use, host)
  if (unfit !== undefined) return unfit
  for (const other of usesOn(wiring, host)) {
    if (other === use) continue
    const why = bus && sameSharedBus(use, other) ? undefined : clash(use, other)
    if (why || exclusive(use, other)) return { kind: 'taken', by: other.end }
  }
  return strapBlock(wiring, use, host) ?? heldBlock(use, host) ?? levelBlock(wiring, use, host)
}

/** A channel of a switch of lines can no more than what its common line can come to: without a converter it reads no volts. */
function leadsToNoReader(wiring: Wiring, { facts }: SignalUse, { provider }: Host): boolean {
  const behaves = provider?.part.behaves
  if (behaves?.as !== 'choose' || facts.needs !== 'analog-in') return false
  const placed = wiring.signal(`${provider?.ref}.${behaves.common}`)?.hosts ?? []
  const readers = placed.length > 0 ? placed.map(({ host }) => host) : [...wiring.hosts.values()]
  return !readers.some(
    (host) =>
      host.provider !== provider && host.functions.has('analog-in') && availabilityOf(host).analogTaker === undefined,
  )
}

/** Signals of a part that its own contacts join, as in a keypad: one chip drives some and reads the rest. */
const scannedLines = memoIn((wiring: Wiring, part: PartInstance): readonly SignalUse[] => {
  const lines = wiring.signals.filter((use) => use.part === part)
  const isLine = (pin: string): boolean => lines.some(({ facts }) => facts.pin === pin)
  const contacts = part.part.inner.flatMap(({ kind, between }) => (kind === 'contact' ? [between] : []))
  const joined = [...contacts, ...part.part.presses].filter((pins) => pins.every(isLine)).flat()
  return lines.filter(({ facts }) => joined.includes(facts.pin))
})

/** A chip that has a pin for each of the lines. */
function canScan({ provides }: PartInstance['part'], lines: readonly SignalUse[]): boolean {
  const needs = lines.map(({ facts }) => facts.needs)
  const pinsFor = (wanted: readonly string[]): number =>
    new Set(provides.flatMap(({ pins, does }) => (does.some((one) => wanted.includes(one)) ? pins : []))).size
  return (
    pinsFor(needs) >= needs.length &&
    needs.every((need) => pinsFor([need]) >= needs.filter((one) => one === need).length)
  )
}

/** What the pin itself lacks, whatever else is wired. */
function pinBlock(use: SignalUse, host: Host): Block | undefined {
  const bus = busNeed(use.facts.needs)
  if (!meets(host, use)) {
    if (drives(use.facts.needs) && !host.functions.has('digital-out')) return { kind: 'direction', only: 'input' }
    if (!drives(use.facts.needs) && !host.functions.has('digital-in') && !bus)
      return host.functions.has('digital-out')
        ? { kind: 'direction', only: 'output' }
        : { kind: 'lacks', needs: use.facts.needs }
    return { kind: 'lacks', needs: use.facts.needs }
  }
  if (host.provider && (isTimed(use) || use.facts.serial)) return { kind: 'slow' }
  if (isPickedOnly(use, host)) return { kind: 'picked' }
  const kinds = host.provider?.part.provides.find((one) => one.pins.includes(host.pin))?.for
  if (kinds && !kinds.includes(use.part.part.id)) return { kind: 'made-for', parts: kinds }
  const facts = availabilityOf(host)
  if (use.facts.needs === 'analog-in' && facts.analogTaker !== undefined) return taker(facts.analogTaker.title, false)
  if (use.facts.needs === 'pwm' && !use.facts.orElse && facts.pwmTaker !== undefined)
    return taker(facts.pwmTaker.title, false)
  if (facts.vital) return { kind: 'onboard', what: facts.vital.id }
  return facts.pinTaker === undefined || facts.pinTaker === servingFeature(host, use)
    ? undefined
    : taker(facts.pinTaker.title, true)
}

const taker = (title: string, whole: boolean): Block => ({ kind: 'feature', title, whole })

/** Blocks a pin that cannot carry the current which a signal's facts name, or an output that its load is too much for. */
function currentBlock(wiring: Wiring, use: SignalUse, host: Host): Block | undefined {
  if (host.provider && switchesLoad(host.functions)) {
    const bears = bearsOf(host)
    const runs = runsOf(use.part)
    return bears !== undefined && runs !== undefined && runs > bears
      ? { kind: 'current', milliamps: Math.round(runs), most: bears }
      : undefined
  }
  const { milliamps, activeLevel, direction, pulledOhms } = use.facts
  const low = host.current?.sink ?? host.current?.absolute
  const fed = use.part.logicVolts ?? plannedVolts(wiring, use)
  // A line that the module holds high takes its current whenever the pin pulls it low.
  const pulled = pulledOhms === undefined || fed === undefined ? 0 : (fed / pulledOhms) * 1000
  if (low !== undefined && pulled > low && direction !== 'out' && drives(use.facts.needs))
    return { kind: 'current', milliamps: Math.round(pulled * 100) / 100, most: low }
  // So does the resistor that such a line is to get.
  const { pull, pullMostOhms } = use.facts
  const needed = use.part.part.companions.find(({ across }) => across?.includes(use.facts.pin))?.options.ohms
  const ohms = typeof needed === 'number' ? needed : pullMostOhms
  const through = pull === 'up' && pullMostOhms !== undefined && ohms ? ((host.logicVolts ?? 0) / ohms) * 1000 : 0
  if (low !== undefined && through > low && direction !== 'out')
    return { kind: 'current', milliamps: Math.round(through * 100) / 100, most: low }
  const way = activeLevel === 'low' ? 'sink' : 'source'
  const most = host.current?.[way] ?? host.current?.absolute
  return milliamps !== undefined && direction === 'in' && most !== undefined && milliamps > most
    ? { kind: 'current', milliamps, most }
    : undefined
}

/** Milliamperes that an output which switches loads bears; undefined where nothing says so. */
export const bearsOf = ({ provider, current }: Host): number | undefined =>
  (provider && chosenFact(provider, 'mostMilliamps')) ?? current?.absolute

/** Signals that do not truly clash, but that no one would put on one pin unasked. */
function exclusive(use: SignalUse, other: SignalUse): boolean {
  if (use.part === other.part && use.facts.needs !== other.facts.needs) return true
  return !(busNeed(use.facts.needs) && sameSharedBus(use, other))
}

/** Blocks an output past which a load on a higher supply would get its current through the diodes. */
function diodeBlock(wiring: Wiring, { part, facts }: SignalUse, host: Host): Block | undefined {
  if (!host.provider || facts.needs !== 'sink') return undefined
  const high = part.supplies.find(({ source }) => source)?.source?.volts
  const meet = high === undefined ? undefined : diodesOf(wiring, host.provider, host.pin)
  return high !== undefined && meet && high - meet.volts > DIODE_VOLTS
    ? { kind: 'diodes', volts: meet.volts, high }
    : undefined
}

/** Blocks a pin whose resistor on the board is stronger than the pull of the chip with which a contact would be read. */
function heldBlock({ facts }: SignalUse, host: Host): Block | undefined {
  const top = host.logicVolts
  if (facts.pull === undefined || facts.pullMostOhms !== undefined || top === undefined) return undefined
  const wants = facts.pull === 'up' ? top : 0
  for (const caution of activeCautions(host)) {
    const board = boardPull(host, caution)
    if (!board || board.volts === wants) continue
    const rest = (wants * board.ohms + board.volts * INNER_PULL_OHMS) / (board.ohms + INNER_PULL_OHMS)
    const isRead =
      facts.pull === 'up'
        ? rest >= (volts(host.levels.vih, top) ?? top * 0.7)
        : rest <= (volts(host.levels.vil, top) ?? top * 0.3)
    if (!isRead) return { kind: 'held', way: board.volts > 0 ? 'up' : 'down' }
  }
  return undefined
}

/** Blocks a pin that is read at reset and that what hangs on the signal already would bring to the wrong level. */
function strapBlock(wiring: Wiring, use: SignalUse, host: Host): Block | undefined {
  const strap = activeCautions(host).find(({ id, matters }) => id === 'boot-strap' && matters === 'start')
  const top = host.logicVolts
  if (!strap?.needs || top === undefined) return undefined
  const wanted = strap.needs
  // The resistor that the line is to get is there in the end, also where it is not wired yet.
  const { pull, pullMostOhms } = use.facts
  if (pull === 'up' && wanted === 'low' && (pullMostOhms !== undefined || !host.functions.has('pull-up')))
    return { kind: 'strap', volts: top }
  const isThrown = use.part.part.inner.some(({ kind, between }) => kind === 'switch' && between.includes(use.facts.pin))
  if (isThrown) return { kind: 'strap', volts: undefined }
  const { atReset, atResetOhms, direction } = use.facts
  // What an output says while the board starts nobody knows: it may be high.
  if (direction === 'out' && atReset === undefined && wanted === 'low' && use.tail === use.end)
    return { kind: 'strap', volts: volts(levelsOf(use).high, use.part.logicVolts ?? plannedVolts(wiring, use)) ?? top }
  const isHigh = strap.held === 'pull-up' || (strap.held === 'nothing' && wanted === 'high')
  const held = { volts: isHigh ? top : 0, ohms: strap.heldOhms ?? INNER_PULL_OHMS }
  // The resistor that keeps a bare gate off is there in the end, also where it is not wired yet.
  const gate = use.part.part.companions.find(({ across }) => across?.includes(use.facts.pin))?.options.ohms
  const down = use.facts.actuator && typeof gate === 'number' ? gate : undefined
  const own =
    down === undefined
      ? held
      : { volts: (held.volts * down) / (down + held.ohms), ohms: (held.ohms * down) / (down + held.ohms) }
  // A part that holds its pin at reset, its pull-up, or what hangs on the line: each against the strap's own hold.
  const { pulledOhms } = use.facts
  const isPulled = pulledOhms !== undefined && atReset === undefined && !wiring.netOf(use.tail).wired
  const at = isPulled ? (use.part.logicVolts ?? plannedVolts(wiring, use) ?? top) : atReset === 'high' ? top : 0
  const ohms = isPulled ? pulledOhms : (atResetOhms ?? 1)
  const rest =
    atReset === undefined && !isPulled
      ? networkOf(wiring).held(wiring.netOf(use.tail), own)
      : (at * own.ohms + own.volts * ohms) / (own.ohms + ohms)
  const isRight =
    wanted === 'high'
      ? rest >= (volts(host.levels.vih, top) ?? top * 0.7)
      : rest <= (volts(host.levels.vil, top) ?? top * 0.3)
  return isRight ? undefined : { kind: 'strap', volts: rest }
}

/** Blocks a pin that the part would damage, or that would damage the part. */
function levelBlock(wiring: Wiring, use: SignalUse, host: Host): Block | undefined {
  const vdd = use.part.logicVolts ?? plannedVolts(wiring, use)
  if (use.facts.needs.startsWith('i2c.')) return pullUpBlock(wiring, use, host, vdd)
  const levels = levelsOf(use)
  const { direction } = use.facts
  const out = direction === 'out' || direction === 'both' ? (volts(levels.high, vdd) ?? vdd) : undefined
  const analog = use.facts.needs === 'analog-in' ? host.levels.mostAnalog : undefined
  const hostMost = volts(analog ?? host.levels.most, host.logicVolts)
  const near = wiring.netOf(use.end)
  // What lies on the way: a resistor alone brings nothing down, a divider, a shifter or a buffer does.
  const far = viaOf(use).length === 0 ? near : wiring.netOf(use.hosts[0] ? host.end : use.tail)
  const toHost =
    out === undefined || far === near ? out : networkOf(wiring).driven(near, far, { high: out, low: 0 }).high
  if (toHost !== undefined && hostMost !== undefined && toHost > hostMost + 0.01) return level(toHost, hostMost)
  if (use.facts.pulledOhms !== undefined && vdd !== undefined && hostMost !== undefined && vdd > hostMost + 0.01)
    if (far === near) return level(vdd, hostMost, true)
  const high = direction === 'in' || direction === 'both' ? host.logicVolts : undefined
  const most = mostBorneBy(wiring, use, vdd)
  const fromHost =
    high === undefined || far === near ? high : networkOf(wiring).driven(far, near, { high, low: 0 }).high
  if (fromHost !== undefined && most !== undefined && fromHost > most + 0.01) return level(fromHost, most)
  // A resistor that lies on the line already, such as the one that keeps a gate at its supply.
  const pulled = far === near ? networkOf(wiring).pulled(near) : undefined
  if (pulled !== undefined && hostMost !== undefined && pulled > hostMost + 0.01) return level(pulled, hostMost, true)
  const lowest = volts(levels.vil, vdd)
  if (fromHost !== undefined && direction === 'in' && lowest !== undefined && fromHost <= lowest)
    return { kind: 'low', volts: fromHost, least: volts(levels.vih, vdd) }
  return undefined
}

const level = (at: number, most: number, pulled = false): Block => ({ kind: 'level', volts: at, most, pulled })

/** The high level of an I2C line comes from its pull-ups, not from the pins: the part's own and those on the line. */
function pullUpBlock(wiring: Wiring, use: SignalUse, host: Host, vdd: number | undefined): Block | undefined {
  if (viaOf(use).length > 0) return undefined
  const bus = use.part.mode?.i2c
  const to = bus?.pullUpTo === undefined ? vdd : wiring.netOf(`${use.part.ref}.${bus.pullUpTo}`).sources[0]?.volts
  const own = bus?.pullUpOhms === undefined ? undefined : to
  const hostMost = volts(host.levels.most, host.logicVolts)
  if (own !== undefined && hostMost !== undefined && own > hostMost + 0.01) return level(own, hostMost, true)
  const there =
    networkOf(wiring).pulled(wiring.netOf(host.end)) ??
    (own === undefined ? (pulledByOthers(wiring, use.part, hostMost) ?? host.logicVolts) : undefined)
  const most = volts(levelsOf(use).most, vdd)
  if (there !== undefined && most !== undefined && there > most + 0.01) return level(there, most, true)
  return undefined
}

/**
 * Volts to which the modules of a board will pull a bus on which a part without pull-ups hangs, the highest of them. Who
 * pulls higher than the pin bears is not let onto its bus.
 */
function pulledByOthers(wiring: Wiring, part: PartInstance, hostMost: number | undefined): number | undefined {
  const all = pullsBeside(wiring, part).filter((at) => hostMost === undefined || at <= hostMost + 0.01)
  return all.length === 0 ? undefined : Math.max(...all)
}

const pullsBeside = memoIn((wiring: Wiring, part: PartInstance): readonly number[] =>
  pullingBeside(wiring, part).flatMap(({ logicVolts }) => logicVolts ?? []),
)

const viaOf = (use: SignalUse): readonly string[] => use.hosts[0]?.via ?? (use.tail === use.end ? [] : [use.tail])

/** Volts that a part without supply wires is likely to get: its board's logic supply when that fits. */
export function plannedVolts(wiring: Wiring, use: SignalUse): number | undefined {
  const supply = use.part.part.supplies[0]
  if (!supply) return undefined
  if (supply.logicVolts !== undefined) return supply.logicVolts
  const logic = use.part.home?.board.logicVolts
  const choices = [logic, ...wiring.nets.flatMap((net) => net.sources.map((source) => source.volts))]
  return choices.find((one) => one !== undefined && one >= supply.least && one <= supply.most)
}
