import { entryOf } from '../base/entryOf.ts'
import { memo, memoIn } from '../base/memo.ts'
import type { Rail } from '../catalog/boardPower.ts'
import { isLoad, volts } from '../catalog/common.ts'
import { busNeed } from './buses.ts'
import { isBesideCharger, isOnCharger } from './cellPlaces.ts'
import { loadMilliamps } from './chosen.ts'

import { areAlike, levelsOf } from './levels.ts'
import { loadsBehind, misfitsOf } from './loadsBehind.ts'
import type { BoardInstance, PartInstance, Source, SupplyUse, Wiring } from './model.ts'

/** First ground hole of a board. */
export function groundPost(board: BoardInstance | undefined): string | undefined {
  const pin = board?.facts.pins.find((one) => one.kind === 'ground')
  return board && pin ? `${board.ref}.${pin.id}` : undefined
}

/** End to which a strap is tied for "ground": where the part's ground goes, else its board's first ground hole. */
export function groundEnd(wiring: Wiring, part: PartInstance): string | undefined {
  const net = part.supplies.find((use) => use.ground)?.ground
  const hole = net?.ends.find((end) => {
    const owner = wiring.terminal(end)
    return owner?.owner.kind !== 'part' && owner?.boardPin?.kind !== 'io'
  })
  if (hole) return hole
  return groundPost(part.home) ?? (wiring.supplies[0] ? `${wiring.supplies[0].ref}.-` : undefined)
}

/** A part that takes its current from its own line, its supply pin on ground. */
export const isByLine = (wiring: Pick<Wiring, 'netOf'>, { facts, pins }: SupplyUse): boolean =>
  facts.byLine && pins.every((end) => wiring.netOf(end).ground)

/** End to which a strap is tied for "supply": the source that feeds the part, else the one it would be given. */
export function supplyEnd(wiring: Wiring, part: PartInstance): string | undefined {
  const use = part.supplies[0]
  if (use?.source) return use.source.end
  if (use) return bestSource(wiring, part, use)?.end
  return part.home ? logicSource(wiring, part)?.end : undefined
}

/** The part whose strap a knob holds: its contrast lies between the rails of that part. */
function servedBy(wiring: Wiring, part: PartInstance): PartInstance | undefined {
  if (!part.part.rheostat) return undefined
  const own = new Set(part.part.pins.map(({ id }) => wiring.netOf(`${part.ref}.${id}`)))
  return wiring.ties.find(({ part: other, end }) => {
    const net = wiring.netOf(end)
    const isServed = !other.part.rheostat && other.supplies.length > 0
    return isServed && own.has(net) && !net.ground && net.sources.length === 0
  })?.part
}

/** What gives the logic of a part's board its volts: the board itself, or what feeds it at just that post. */
const logicSource = (wiring: Wiring, { home }: PartInstance): Source | undefined => {
  const rail = home?.board.rails.find((one) => one.logic)
  if (!rail || !home) return undefined
  const end = `${home.ref}.${rail.pins[0]}`
  return (
    sourcesOf(wiring).find((source) => source.end === end) ??
    wiring.netOf(end).sources.find(({ volts }) => areAlike(volts, rail.volts))
  )
}

/** Every source of the plan once, in order: outside supplies, then board rails, last those that come through their like. */
export function sourcesOf(wiring: Wiring): Source[] {
  const all = new Map<string, Source>()
  for (const net of wiring.nets) for (const source of net.sources) all.set(source.end, source)
  const place = (source: Source): number => {
    if (wiring.supplies.some((supply) => supply.ref === source.ref)) return 0
    return comesThrough(wiring, source)?.source.volts === source.volts ? 2 : 1
  }
  return [...all.values()].sort((a, b) => place(a) - place(b))
}

/**
 * The rail of the same board that the current of a rail comes through while both are given, and how much of it one
 * milliampere takes there: one behind a linear regulator or a diode, by the power behind a switching one.
 */
export const comesThrough = (wiring: Wiring, source: Source): Through | undefined => throughs(wiring).get(source.end)

interface Through {
  readonly source: Source
  readonly factor: number
}

const throughs = memo((wiring: Wiring): ReadonlyMap<string, Through> => {
  const sources = wiring.nets.flatMap((net) => net.sources)
  return new Map(
    sources.flatMap((source) => {
      const over = throughOf(wiring, source)
      return over ? [[source.end, over] as const] : []
    }),
  )
})

function throughOf(wiring: Wiring, source: Source): Through | undefined {
  const board = wiring.boards.find(({ ref }) => ref === source.ref)
  const endOf = ({ pins }: Rail): string => `${source.ref}.${pins[0]}`
  const rail = board?.board.rails.find((one) => endOf(one) === source.end)
  const over = board?.board.rails.find(({ id }) => id === rail?.through)
  const given = over && wiring.netOf(endOf(over)).sources.find(({ end }) => end === endOf(over))
  if (!rail || !given) return undefined
  return { source: given, factor: rail.efficiency === 'linear' ? 1 : source.volts / given.volts / rail.efficiency }
}

/** What is decided of other parts and not yet in the wiring: current drawn from sources, and volts of their logic. */
export interface Planned {
  /** Milliamperes at peaks, by the source's end. */
  readonly loads: Map<string, number>
  /** Volts by the part's reference. */
  readonly volts: Map<string, number>
}

/** Share of a source's limit below which a part is none of its worries. */
const SMALL_SHARE = 0.02

/** Share of a source's limit from which one part leaves too little to others. */
const MOST_SHARE = 0.5

const isLogicRail = ({ home }: PartInstance, { end, volts }: Source): boolean =>
  home?.board.rails.some(
    ({ logic, pins, volts: own }) => logic && own === volts && pins.some((pin) => end === `${home.ref}.${pin}`),
  ) ?? false

/** Milliamperes at peaks that parts take from each source, by its end. */
const peaks = memo((wiring: Wiring): ReadonlyMap<string, number> => {
  const all = new Map<string, number>()
  for (const { supplies } of wiring.parts)
    for (const { source, peakMilliamps = 0 } of supplies)
      if (source) all.set(source.end, (all.get(source.end) ?? 0) + peakMilliamps)
  return all
})

/** Sources whose voltage is in a part's range, best first, with the reason for the order. */
export function sourceChoices(wiring: Wiring, part: PartInstance, use: SupplyUse, planned?: Planned): Source[] {
  const { facts } = use
  const logic = part.home?.board.logicVolts
  const outside = (source: Source): boolean =>
    wiring.supplies.some((supply) => supply.ref === source.ref) ||
    wiring.parts.some((one) => one.ref === source.ref && one.part.category === 'power')
  // What a converter makes of its input: less than it, or more.
  const rail = part.part.rails.find((one) => one.from !== undefined && facts.pins.includes(one.from))
  const makes = rail && (typeof rail.volts === 'object' ? entryOf(part.options, rail.volts.option) : rail.volts)
  const suits = (source: Source): boolean => {
    if (source.ref === part.ref || isOnCharger(wiring, source.end)) return false
    if (!rail || typeof makes !== 'number') return true
    return rail.makes === 'more' ? source.volts < makes : source.volts >= makes + (rail.margin ?? 0)
  }
  const loadOf = (end: string): number => {
    let sum = (peaks(wiring).get(end) ?? 0) + (planned?.loads.get(end) ?? 0)
    for (const [inner, over] of throughs(wiring)) if (over.source.end === end) sum += loadOf(inner) * over.factor
    return sum
  }
  const behind = loadsBehind(wiring, part, use)
  const misfits = misfitsOf(wiring, part, behind)
  const takes = (use.peakMilliamps ?? 0) + behind.reduce((sum, load) => sum + (loadMilliamps(load) ?? 0), 0)
  const most = ({ limitMilliamps }: Source): number => limitMilliamps ?? Number.POSITIVE_INFINITY
  const hasStronger = (source: Source): boolean =>
    sourcesOf(wiring).some(
      (one) =>
        one.ref === source.ref &&
        one.end !== source.end &&
        !isLogicRail(part, one) &&
        most(one) >= most(source) &&
        one.volts >= facts.least &&
        one.volts <= facts.most,
    )
  const served = servedBy(wiring, part)
  const servedFrom = served && supplyEnd(wiring, served)
  // What is next to nothing beside the limit does not decide it, nor does what comes to a source that is overloaded anyway,
  // unless it is a motor, or too much by itself.
  const overloads = (source: Source, more: number): boolean => {
    const limit = source.limitMilliamps
    if (limit !== undefined && more > SMALL_SHARE * limit) {
      const before = loadOf(source.end)
      if ((before <= limit || more > limit || facts.heavy) && before + more > limit) return true
    }
    const over = comesThrough(wiring, source)
    return over !== undefined && overloads(over.source, more * over.factor)
  }
  // What takes the better part of a rail of the board comes from a supply that gives the same volts.
  const takesMost = (source: Source): boolean =>
    takes > MOST_SHARE * most(source) &&
    sourcesOf(wiring).some((one) => outside(one) && areAlike(one.volts, source.volts) && most(one) >= takes)
  const cost = (source: Source): number => {
    let points = 0
    if (servedFrom !== undefined && source.end !== servedFrom) points += 200
    if (source.ref !== part.home?.ref && !outside(source)) points += 100
    // A small regulator on a sensor's module makes no converter of it.
    if (facts.heavy || (rail && part.part.category === 'power')) points += outside(source) ? 0 : 50
    // What motors shake is not what the board itself runs on, where it has something else as strong.
    if (facts.heavy && isLogicRail(part, source) && hasStronger(source)) points += 20
    else if (outside(source)) points += 30
    if (overloads(source, takes)) points += 40
    if (takesMost(source) && !outside(source)) points += 35
    // A part with its own regulator keeps to its logic; others should run at the board's logic voltage, unless made for more.
    if (
      !facts.heavy &&
      logic !== undefined &&
      part.part.signals.length + (part.mode?.signals.length ?? 0) > 0 &&
      source.volts !== logic
    )
      points += facts.logicVolts !== undefined ? 5 : source.volts === facts.usual && source.volts > logic ? 0 : 20
    if (isDrivenTooHigh(wiring, part, source.volts, planned) || isOutOfReach(wiring, part, use, source.volts, planned))
      points += 60
    if (harmsBoard(wiring, part, use, source.volts)) points += 60
    points += 50 * misfits(source.volts)
    if (pullsTooHigh(wiring, part, use, source.volts, planned)) points += 60
    if (facts.usual !== undefined) points += Math.abs(source.volts - facts.usual)
    // A second cell beside one on its charger is there to go the same way.
    if (isBesideCharger(wiring, source)) points += 1
    return points
  }
  return sourcesOf(wiring)
    .filter((source) => source.volts >= facts.least && source.volts <= facts.most && suits(source))
    .map((source) => ({ source, points: cost(source) }))
    .sort((a, b) => a.points - b.points)
    .map(({ source }) => source)
}

/** Other parts of the same board that bring pull-ups to its I2C bus. */
export const pullingBeside = (wiring: Wiring, part: PartInstance): PartInstance[] =>
  wiring.parts.filter((one) => one !== part && one.home === part.home && one.mode?.i2c?.pullUpOhms !== undefined)

/** Volts of a part's logic as it is fed, as was decided, or as it can only be; undefined where that is still open. */
function likelyVolts(wiring: Wiring, part: PartInstance, planned?: Planned): number | undefined {
  return part.logicVolts ?? planned?.volts.get(part.ref) ?? onlyVolts(wiring, part)
}

const onlyVolts = memoIn((wiring: Wiring, { part }: PartInstance): number | undefined => {
  const supply = part.supplies[0]
  if (!supply || supply.logicVolts !== undefined) return supply?.logicVolts
  const fits = new Set(
    sourcesOf(wiring).flatMap((one) => (one.volts >= supply.least && one.volts <= supply.most ? [one.volts] : [])),
  )
  return fits.size === 1 ? [...fits][0] : undefined
})

/** True when the part's inputs, at so many volts of supply, would be driven too high by its own board. */
function isDrivenTooHigh(wiring: Wiring, part: PartInstance, fed: number, planned: Planned | undefined): boolean {
  const logic = part.home?.board.logicVolts
  if (logic === undefined || part.part.supplies[0]?.logicVolts !== undefined) return false
  // An I2C line rises through pull-ups: those of modules, where there are any, else the board's own.
  const pulling = pullingBeside(wiring, part)
  const own = part.mode?.i2c?.pullUpOhms !== undefined
  return wiring.signals.some((use) => {
    if (use.part !== part || use.facts.direction === 'out' || use.facts.direction === 'passive') return false
    // What may stay open is not driven, and an output that only pulls down is read.
    if (!use.facts.required && !use.hosts.length) return false
    if (use.facts.direction === 'open-drain' && busNeed(use.facts.needs) === undefined) return false
    const most = volts(levelsOf(use).most, fed)
    if (most === undefined) return false
    if (!use.facts.needs.startsWith('i2c.') || (!own && pulling.length === 0)) return most < logic
    return pulling.some((one) => {
      const at = likelyVolts(wiring, one, planned)
      return at !== undefined && most < at && at <= mostBorne(part)
    })
  })
}

/** Most volts that any pin of a part's board bears: what pulls higher is not let onto a bus of that board. */
function mostBorne({ home }: PartInstance): number {
  const all = Object.values(home?.board.levels ?? {}).map(({ most }) => volts(most, home?.board.logicVolts))
  return Math.max(0, ...all.map((most) => most ?? Number.POSITIVE_INFINITY))
}

/** True when the part's outputs and pull-ups, at so many volts of its supply, are more than any pin of its board bears. */
function harmsBoard(wiring: Wiring, part: PartInstance, use: SupplyUse, fed: number): boolean {
  if (!part.home || use.facts.logicVolts !== undefined || use.facts !== logicSupply(part)?.facts) return false
  const bears = mostBorne(part)
  return wiring.signals.some((one) => {
    // What is led over something else arrives as that makes it.
    if (one.part !== part || one.tail !== one.end || one.state === 'unused' || isLoad(one.facts.needs)) return false
    if (one.facts.needs.startsWith('i2c.')) return part.mode?.i2c?.pullUpOhms !== undefined && fed > bears
    // A pull-up of the module, or the one that it is to get, goes to its own supply.
    const pulls = part.part.companions.some(
      ({ across }) => across?.includes(one.facts.pin) && use.facts.pins.some((pin) => across.includes(pin)),
    )
    if (one.facts.pulledOhms !== undefined || pulls) return fed > bears
    const drives = one.facts.direction === 'out' || one.facts.direction === 'both'
    return drives && (volts(levelsOf(one).high, fed) ?? fed) > bears
  })
}

/**
 * True when the board's own high would not be read as one by the part's inputs, at so many volts of their supply; of a
 * bus that rises through the pull-ups of other modules, when those do not reach so high.
 */
function isOutOfReach(
  wiring: Wiring,
  part: PartInstance,
  use: SupplyUse,
  fed: number,
  planned: Planned | undefined,
): boolean {
  const logic = part.home?.board.logicVolts
  if (logic === undefined || use.facts.logicVolts !== undefined || use.facts !== logicSupply(part)?.facts) return false
  const pulled =
    part.mode?.i2c === undefined || part.mode.i2c.pullUpOhms !== undefined
      ? []
      : pullingBeside(wiring, part)
          .flatMap((one) => likelyVolts(wiring, one, planned) ?? [])
          .filter((at) => at <= mostBorne(part))
  return wiring.signals.some((one) => {
    if (one.part !== part) return false
    const isBus = one.facts.needs.startsWith('i2c.')
    if (one.facts.direction !== 'in' && !isBus) return false
    const least = volts(levelsOf(one).vih, fed)
    return least !== undefined && least > (isBus && pulled.length > 0 ? Math.max(...pulled) : logic)
  })
}

/** The supply to which a part's levels refer: the first that it must have; of several ways to be fed the one in use. */
export const logicSupply = ({ supplies }: Pick<PartInstance, 'supplies'>): SupplyUse | undefined =>
  supplies.find(({ facts }) => facts.required) ?? supplies.find(({ source }) => source) ?? supplies[0]

/** True when a module's bus pull-ups, fed with so many volts, would harm another part on the board's I2C bus. */
function pullsTooHigh(
  wiring: Wiring,
  part: PartInstance,
  use: SupplyUse,
  fed: number,
  planned: Planned | undefined,
): boolean {
  const bus = part.mode?.i2c
  if (bus?.pullUpOhms === undefined) return false
  // A regulator of the module's own feeds its pull-ups, unless they go to the supply itself.
  const straight =
    bus.pullUpTo === undefined ? use.facts.logicVolts === undefined : use.facts.pins.includes(bus.pullUpTo)
  if (!straight) return false
  return wiring.signals.some((other) => {
    if (other.part === part || other.part.home !== part.home || !other.facts.needs.startsWith('i2c.')) return false
    const supply = other.part.part.supplies[0]
    const most = volts(
      levelsOf(other).most,
      other.part.logicVolts ?? planned?.volts.get(other.part.ref) ?? supply?.logicVolts ?? supply?.most,
    )
    return most !== undefined && most < fed
  })
}

export const bestSource = (wiring: Wiring, part: PartInstance, use: SupplyUse, planned?: Planned): Source | undefined =>
  sourceChoices(wiring, part, use, planned)[0]
