import type { Catalog } from '../../catalog/catalog.ts'
import { isLoad } from '../../catalog/common.ts'
import type { Part } from '../../catalog/partSchema.ts'
import { partsAt } from '../../wiring/i2c.ts'
import { lastOf } from '../source/callArguments.ts'
import type { At, SourceFile } from '../source/ir.ts'
import { type Fit, fitPins, type Wants, wantsOf } from './fitPins.ts'
import type { Gathered, GivenBus } from './gather.ts'
import { type GivenPin, type Reason, tellingReasons } from './given.ts'
import { partsCalled } from './partWords.ts'

/** A part that pins of a program may belong to. */
export interface Candidate {
  readonly part: Part
  readonly mode: string | undefined
  readonly fit: Fit
  readonly score: number
}

/** Pins or a bus of a program that belong together, and the parts that they may be. */
export interface PartGuess {
  /** Stays the same while the program has the same pins there. */
  readonly id: string
  /** As the program calls it. */
  readonly title: string
  readonly pins: readonly GivenPin[]
  readonly bus: GivenBus | undefined
  readonly addresses: readonly number[]
  readonly reasons: readonly Reason[]
  /** The likeliest first. */
  readonly candidates: readonly Candidate[]
  /** The first is meant with hardly a doubt; else the maker is asked. */
  readonly sure: boolean
  readonly at: At
}

/** Most parts that are offered for one guess. */
const OFFERED = 6
/** What names must say for a part to be taken without asking. */
const SURE = 1.6
/** By how much the first must be ahead of the next. */
const AHEAD = 0.35

/** What each kind of name counts. */
export const weights = { class: 3, name: 1.4, comment: 1, address: 1.2 } as const

/** What stands between a pin and a load that no pin can feed. */
const switches = ['relay-1', 'nmos', 'npn']

/** What a program says of parts, put into points, and parts into an order. */
export abstract class Scoring {
  protected readonly gathered: Gathered
  protected readonly catalog: Catalog
  protected readonly files: readonly SourceFile[]
  protected readonly found: PartGuess[] = []
  protected readonly busTaken = new Set<string>()

  constructor(gathered: Gathered, files: readonly SourceFile[]) {
    this.gathered = gathered
    this.catalog = gathered.catalog
    this.files = files
  }

  /** Adds what a name says; with `only` set, what it says of parts that are spoken for already. */
  protected add(points: Map<Part, number>, name: string, weight: number, only = false): boolean {
    let said = false
    for (const [part, tells] of partsCalled(this.catalog, name)) {
      if (only && !points.has(part)) continue
      points.set(part, (points.get(part) ?? 0) + tells * weight)
      said = true
    }
    return said
  }

  protected speaksFor(points: Map<Part, number>, reasons: Reason[], address: number): void {
    for (const part of partsAt(this.catalog, address)) {
      const usual =
        part.modes.some(({ i2c }) => i2c?.addresses.fixed.includes(address)) ||
        part.options.some((one) => one.usual === address)
      points.set(part, (points.get(part) ?? 0) + weights.address * (usual ? 1 : 0.6))
    }
    reasons.push({ kind: 'address', address })
  }

  /** What stands behind a line as a comment is said of what is in it. */
  protected comments(points: Map<Part, number>, reasons: Reason[], at: At, only: boolean): void {
    const text = this.files[at.file]?.text ?? ''
    const end = text.indexOf('\n', at.from)
    const line = text.slice(at.from, end < 0 ? undefined : end)
    const comment = /(?:\/\/|#\s|\/\*)\s*(.*?)\s*(?:\*\/)?$/.exec(line)?.[1] ?? ''
    if (comment !== '' && this.add(points, comment, weights.comment, only))
      reasons.push({ kind: 'comment', text: comment })
  }

  protected guess(
    title: string,
    pins: readonly GivenPin[],
    addresses: readonly number[],
    points: ReadonlyMap<Part, number>,
    reasons: readonly Reason[],
    at: At,
    buses: readonly string[] = [],
  ): boolean {
    const candidates: Candidate[] = []
    for (const [part, said] of this.#loads(points)) {
      if (part.helper === 'resistor' || said < 0.3) continue
      const tries = (part.modes.length > 0 ? part.modes.map(({ id }) => id) : [undefined]).flatMap((mode, at) => {
        const tried = this.#candidate(part, mode, said, pins, addresses, buses)
        return tried ? [{ ...tried, score: tried.score - 0.2 * at }] : []
      })
      const [best] = tries.sort((a, b) => b.score - a.score)
      if (best) candidates.push(best)
    }
    candidates.sort((a, b) => b.score - a.score || (a.part.id < b.part.id ? -1 : 1))
    this.#push(title, pins, addresses, candidates, reasons, at, buses, points)
    return candidates.length > 0
  }

  /** A part in one of its modes, where pins, bus and addresses allow it. */
  #candidate(
    part: Part,
    mode: string | undefined,
    said: number,
    pins: readonly GivenPin[],
    addresses: readonly number[],
    buses: readonly string[],
  ): Candidate | undefined {
    const wants = wantsOf(this.gathered, part, mode)
    if (wants.plain.length === 0 && !wants.bus) return undefined
    // What has an address is on I2C, and nowhere else.
    if (addresses.length > 0 && wants.bus?.kind !== 'i2c') return undefined
    if (wants.bus && this.busFor(wants, buses) === undefined) return undefined
    if (pins.length === 0 && !wants.bus) return undefined
    const fit = fitPins(wants, pins)
    if (pins.length > 0 && fit.pins.size === 0 && !wants.bus) return undefined
    const score = said + 0.35 * fit.score + (part.usual ? 0.25 : 0)
    return fit.score > -3 ? { part, mode, fit, score } : undefined
  }

  /** A load is nothing for a pin: what switches it is. */
  #loads(points: ReadonlyMap<Part, number>): Map<Part, number> {
    const all = new Map(points)
    for (const [part, said] of points) {
      if (!isLoadPart(part)) continue
      all.delete(part)
      for (const id of switches) {
        const one = this.catalog.parts.get(id)
        if (one) all.set(one, Math.max(all.get(one) ?? 0, said * 0.6))
      }
    }
    return all
  }

  #push(
    title: string,
    pins: readonly GivenPin[],
    addresses: readonly number[],
    candidates: readonly Candidate[],
    reasons: readonly Reason[],
    at: At,
    buses: readonly string[],
    points: ReadonlyMap<Part, number>,
  ): void {
    const [first, ...rest] = candidates
    // Another make of the same, which fewer people have, is no reason to ask.
    const rival = rest.find(({ part }) => part.usual || !first?.part.usual || part.category !== first.part.category)
    if (!first && pins.length === 0 && addresses.length === 0) return
    const bus = first && this.busFor(wantsOf(this.gathered, first.part, first.mode), buses)
    const said = first ? (points.get(first.part) ?? 0) : 0
    const sure =
      first !== undefined &&
      said + 0.5 * first.fit.named >= SURE &&
      first.score - (rival?.score ?? 0) >= AHEAD &&
      first.fit.lacks.length === 0 &&
      first.fit.left.every(({ uses }) => uses.every((use) => !use.sure))
    if (bus && bus.kind !== 'i2c' && bus.kind !== 'spi') this.busTaken.add(bus.object)
    this.found.push({
      id: `${title}:${pins.map(({ pin }) => pin.id).join('+')}${addresses.map((one) => `@${one}`).join('')}`,
      title,
      pins,
      bus,
      addresses,
      reasons: tellingReasons(reasons.length > 0 ? reasons : usesOfPins(pins)),
      candidates: candidates.slice(0, OFFERED),
      sure,
      at,
    })
  }

  /** The bus of a program that a part would hang on: the one that it is given, else the first of its kind. */
  protected busFor({ bus }: Wants, given: readonly string[]): GivenBus | undefined {
    if (!bus) return undefined
    const fitting = this.gathered.buses.filter(({ kind }) => kind === bus.kind)
    return (
      fitting.find(({ object }) => given.includes(object)) ??
      fitting.find(({ object }) => bus.kind !== 'uart' || !this.busTaken.has(object))
    )
  }
}

/** A part that takes current and nothing else of a pin: a lamp of 12 V, a pump, a motor. */
export const isLoadPart = (part: Part): boolean =>
  [...part.signals, ...(part.modes[0]?.signals ?? [])].some(({ needs }) => isLoad(needs)) ||
  (part.signals.length === 0 && part.modes.length === 0)

const usesOfPins = (pins: readonly GivenPin[]): Reason[] =>
  [...new Set(pins.flatMap(({ uses }) => uses.map(({ call }) => lastOf(call))))].map((name) => ({ kind: 'call', name }))
