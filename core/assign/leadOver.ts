import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import { helpersFor } from '../catalog/catalog.ts'
import { volts } from '../catalog/common.ts'
import type { Inner } from '../catalog/innerSchema.ts'
import { holds } from '../catalog/when.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf } from '../wiring/i2c.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { meets } from '../wiring/needs.ts'
import { groundEnd } from '../wiring/supply.ts'
import { weakOnBus } from './busVolts.ts'
import { isRefusedForLevel, likenessOf } from './candidates.ts'
import { after, connect, type Decision, type Progress } from './progress.ts'
import { looseParts } from './spares.ts'

/** A free way through a converter: from the pin on the part's side to the one on the board's. */
interface Channel {
  readonly converter: PartInstance
  readonly outer: string
  readonly inner: string
  readonly why: string
}

/** Resistance of a divider in a signal's line, top and bottom together, in ohms: strong enough for edges, weak enough for an output. */
const DIVIDER = { least: 750, most: 60_000 }
/** How far above its threshold a divided level has to lie. */
const MARGIN = 1.05
/** Least share of a converter's range that a divided analog signal should cover. */
const LEAST_SPAN = 0.4

/**
 * Leads lines that no pin bears, or that speak another language than logic, over what lies in the kit: a channel of a line
 * converter, of a level shifter or of a buffer, or a divider of two loose resistors. Both lines of an I2C bus go together.
 */
export function leadOver(wiring: Wiring, wanted: (ref: string) => boolean): Progress {
  const decisions: Decision[] = []
  const taken = new Set<string>()
  let now = wiring
  for (const { ref } of wiring.parts) {
    if (!wanted(ref)) continue
    const open = now.signals.filter((use) => use.part.ref === ref && use.state === 'open' && use.facts.required)
    const stuck = open.filter((use) => needsWay(now, use))
    const bus = stuck.some(isI2c) ? open.filter(isI2c) : []
    const uses = [...bus, ...stuck.filter((use) => !bus.includes(use))]
    const found: Decision[] = []
    const used = new Set(taken)
    for (const use of uses) {
      const way = channelFor(now, use, used)
      if (way) {
        used.add(way.outer).add(way.inner)
        found.push(connect(use.tail, way.outer, way.why))
      } else found.push(...divide(now, use, used))
    }
    // One line of a bus over the shifter and the other past it, or nowhere, is worse than none.
    const whole = [...bus, ...stuck.filter(({ facts }) => busNeed(facts.needs)?.kind === 'spi')]
    if (whole.some((use) => !found.some(({ from, to }) => from === use.tail || to === use.tail))) continue
    for (const end of used) taken.add(end)
    decisions.push(...found)
    now = after(now, found)
  }
  return { wiring: now, decisions, refused: [] }
}

export const isI2c = (use: SignalUse): boolean => busNeed(use.facts.needs)?.kind === 'i2c'

const lineOf = ({ part, facts }: SignalUse): string | undefined => {
  const levels = part.mode?.uart?.levels
  return busNeed(facts.needs)?.kind === 'uart' && levels !== undefined && levels !== 'logic' ? levels : undefined
}

/** Speaks line levels, or is refused by every pin, by some for its level alone. */
function needsWay(wiring: Wiring, use: SignalUse): boolean {
  if (isLed(wiring, use)) return false
  if (lineOf(use) !== undefined) return true
  const logic = use.part.home?.board.logicVolts
  const vih = volts(levelsOf(use).vih, use.part.logicVolts)
  // A high that its part does not take for one.
  if (use.facts.direction === 'in' && !isI2c(use) && logic !== undefined && vih !== undefined && logic < vih)
    return true
  if (use.tail !== use.end) return false
  if (isI2c(use) && weakOnBus(wiring).has(use.part)) return true
  // Whatever pin it gets, the board's high is more than it bears.
  const most = volts(levelsOf(use).most, use.part.logicVolts)
  if (use.facts.direction === 'in' && !isI2c(use) && logic !== undefined && most !== undefined && logic > most + 0.01)
    return true
  const known = refusals(wiring)
  const likeness = `${likenessOf(wiring, use)} ${use.part.part.provides.length > 0 ? use.end : ''}`
  let isRefused = known.get(likeness)
  if (isRefused === undefined) {
    isRefused = isRefusedForLevel(wiring, use)
    known.set(likeness, isRefused)
  }
  return isRefused
}

/** Runs over a converter already, on whose other side it waits for a pin. */
const isLed = (wiring: Wiring, { tail, end }: SignalUse): boolean =>
  tail !== end && wiring.parts.some((one) => tail.startsWith(`${one.ref}.`) && one.part.inner.some(isConverter))

/** Carries a line on to another level. */
export const isConverter = ({ kind }: Inner): boolean => kind === 'shift' || kind === 'buffer'

/** Whether every pin refuses signals of a likeness, some for their level alone; the same for all that are alike. */
const refusals = memo((_wiring: Wiring) => new Map<string, boolean>())

function channelFor(wiring: Wiring, use: SignalUse, taken: ReadonlySet<string>): Channel | undefined {
  const line = lineOf(use)
  const isFree = (end: string): boolean => !wiring.netOf(end).wired && !taken.has(end)
  // The same line of a bus that is led over it already.
  const carries = ({ outer, inner }: Channel): boolean =>
    isI2c(use) &&
    wiring.signals.some(
      (other) =>
        other.part !== use.part &&
        other.part.home === use.part.home &&
        other.facts.needs === use.facts.needs &&
        other.tail === inner &&
        wiring.netOf(other.end) === wiring.netOf(outer) &&
        !sharesAddress(other.part, use.part),
    )
  const all = wiring.parts.flatMap((converter) =>
    converter.part.inner
      .filter((inner) => isConverter(inner) && holds(inner.when, converter.options))
      .flatMap((inner) => sidesOf(wiring, use, converter, inner, line)),
  )
  // A way whose inner side the maker has led to a pin already waits for just such a line.
  const isBegun = ({ outer, inner }: Channel): boolean =>
    isFree(outer) &&
    wiring.netOf(inner).wired &&
    wiring.netOf(inner).ends.some((end) => {
      const host = wiring.terminal(end)?.host
      return host?.board !== undefined && meets(host, use) !== undefined
    })
  return all.find(carries) ?? all.find(isBegun) ?? all.find(({ outer, inner }) => isFree(outer) && isFree(inner))
}

const sharesAddress = (a: PartInstance, b: PartInstance): boolean =>
  addressesOf(a).some((one) => addressesOf(b).some(({ address }) => address === one.address))

/** The ways in which one channel could carry a signal. */
function sidesOf(
  wiring: Wiring,
  use: SignalUse,
  converter: PartInstance,
  inner: Inner,
  line: string | undefined,
): Channel[] {
  const [a, b] = inner.between.map((pin) => `${converter.ref}.${pin}`) as [string, string]
  const { direction } = use.facts
  if (line !== undefined) {
    if (inner.kind !== 'buffer' || inner.line !== line) return []
    // A transmitter leads from logic to line, a receiver back; the line lies on the second pin of both.
    return inner.back === (direction === 'out')
      ? [{ converter, outer: b, inner: a, why: `turned from ${line.toUpperCase()} to logic by ${converter.ref}` }]
      : []
  }
  if (inner.line !== undefined) return []
  const logic = use.part.home?.board.logicVolts
  const own = use.part.logicVolts
  if (logic === undefined || own === undefined || logic === own) return []
  const why = `${own} V led to ${logic} V over ${converter.ref}`
  if (inner.kind === 'buffer') {
    const reads = volts(entryOf(converter.part.levels, 'logic')?.vih, converter.logicVolts)
    const isUp = direction === 'in' && converter.logicVolts === own && reads !== undefined && reads <= logic
    return isUp ? [{ converter, outer: inner.back ? a : b, inner: inner.back ? b : a, why }] : []
  }
  const [atA, atB] = (inner.rails ?? []).map((pin) => wiring.netOf(`${converter.ref}.${pin}`).sources[0]?.volts)
  if (atA === logic && atB === own) return [{ converter, outer: b, inner: a, why }]
  return atB === logic && atA === own ? [{ converter, outer: a, inner: b, why }] : []
}

/** What a divider in a signal's line has to do, in volts: bring `high` down to between `least` and `most`. */
export interface Division {
  readonly high: number
  readonly least: number
  readonly most: number
  /** From the part to the board; else the other way. */
  readonly isOut: boolean
}

/** Undefined where no two resistors would help: nothing to bring down, or a line that is driven from both sides. */
export function divisionOf(use: SignalUse): Division | undefined {
  const { facts, part } = use
  const board = part.home
  const levels = board?.board.levels.default
  const at = board?.board.logicVolts
  const own = levelsOf(use)
  // From the part to the board, or from the board to the part: either way the middle lies at what listens.
  const isOut = facts.direction === 'out'
  const high = isOut ? (volts(own.high, part.logicVolts) ?? part.logicVolts) : at
  const isAnalog = facts.needs === 'analog-in'
  const [limit, threshold] = isOut
    ? [isAnalog ? (levels?.mostAnalog ?? levels?.most) : levels?.most, levels?.vih]
    : [own.most, own.vih]
  const supply = isOut ? at : part.logicVolts
  // A converter reads up to its supply; a level has to pass its threshold.
  const most = isAnalog ? Math.min(volts(limit, supply) ?? 0, at ?? 0) : volts(limit, supply)
  const least = isAnalog ? (at ?? 0) * LEAST_SPAN : (volts(threshold, supply) ?? Number.NaN) * MARGIN
  if ((!isOut && facts.direction !== 'in') || isI2c(use) || lineOf(use) !== undefined) return undefined
  if (high === undefined || most === undefined || Number.isNaN(least) || high <= most) return undefined
  return { high, least, most, isOut }
}

/** Two loose resistors that bring a level down to what the other side bears. */
function divide(wiring: Wiring, use: SignalUse, taken: Set<string>): Decision[] {
  const division = divisionOf(use)
  const ground = groundEnd(wiring, use.part)
  const [kind] = helpersFor(wiring.catalog, 'resistor')
  if (!division || !kind || ground === undefined) return []
  const { high, least, most, isOut } = division
  const loose = looseParts(wiring, kind.id).filter(({ ref }) => !taken.has(ref))
  const ohms = ({ options }: PartInstance): number => Number(options.ohms)
  const pairs = loose
    .flatMap((top) => loose.filter((bottom) => bottom !== top).map((bottom) => ({ top, bottom })))
    .map(({ top, bottom }) => ({ top, bottom, sum: ohms(top) + ohms(bottom) }))
    .filter(({ bottom, sum }) => {
      const out = (high * ohms(bottom)) / sum
      return sum >= DIVIDER.least && sum <= DIVIDER.most && out <= most && out >= least
    })
    .sort((x, y) => x.sum - y.sum)
  const [pair] = pairs
  if (!pair) return []
  taken.add(pair.top.ref).add(pair.bottom.ref)
  const [top, bottom] = [pair.top.ref, pair.bottom.ref]
  return [
    connect(use.end, `${top}.1`, `${high} V brought down by ${top} and ${bottom}`),
    connect(`${bottom}.1`, isOut ? `${top}.2` : use.end, 'middle of the divider'),
    connect(`${bottom}.2`, ground, 'foot of the divider'),
  ]
}
