import { entryOf } from '../base/entryOf.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { type AsideSpot, asideWanted, type Spot } from './aside.ts'
import { breadboardKinds, Grid, type Hole, holeAt, isRail, type Node } from './grid.ts'
import { breadboardsByHome } from './homes.ts'
import { isRailsUnit, overRailsSeatNear, overRailsSeats, type RailsUnit } from './overRails.ts'
import { type Placer, type Room, wantedSeat } from './placing.ts'
import type { LaidWire } from './points.ts'
import { assignRails } from './rails.ts'
import { Router, wayOf } from './router.ts'
import { Occupancy, type Seat } from './seats.ts'
import { countCrossings } from './straight.ts'
import { CROSSING, chooseHoles, lineOf } from './tidy.ts'
import { type Unit, unitsOf } from './units.ts'

/** A bench worked out: where everything stands and every wire with its holes. */
export interface Layout {
  readonly grid: Grid
  readonly units: readonly Unit[]
  readonly seats: ReadonlyMap<string, Seat>
  /** Units that stand where the maker put them. */
  readonly kept: ReadonlySet<string>
  /** Places of posts and leads beside the breadboards, in pitches, by end. */
  readonly posts: ReadonlyMap<string, Spot>
  /** Where what has no hole lies, by reference. */
  readonly asides: ReadonlyMap<string, AsideSpot>
  /** Hole of every end that stands in one; of a pin with several legs that of one of them: `seats` has all. */
  readonly holeOf: ReadonlyMap<string, Hole>
  readonly wires: readonly LaidWire[]
  /** Net of every strip and rail in use. */
  readonly nodes: ReadonlyMap<Node, number>
  /** Rails with their net. */
  readonly rails: ReadonlyMap<Node, number>
  /** Units that find no place, and ends that no wire can reach. */
  readonly stray: readonly { readonly ref: string; readonly text: string }[]
  readonly blocked: readonly { readonly end: string; readonly text: string }[]
  /** Places of the maker's that cannot be kept. */
  readonly clashes: readonly {
    readonly ref: string
    readonly hole: string
    readonly text: string
    /** What is in the way. */
    readonly by: string | undefined
  }[]
  /** Wires that cannot be led over the hole that the maker chose. */
  readonly refused: readonly { readonly end: string; readonly hole: string; readonly text: string }[]
  /** Rails used on both sides of a gap that is not bridged. */
  readonly gaps: readonly { readonly breadboard: string; readonly rail: string; readonly net: number }[]
  readonly stats: { readonly pitches: number; readonly crossings: number; readonly shared: number }
}

/** Pitches of wire, crossings counted as CROSSING more, and dearly what is not connected. */
export const priceOf = ({ stats, stray, blocked }: Layout): number =>
  stats.pitches + CROSSING * stats.crossings + 2000 * (stray.length + blocked.length)

/** What of a layout does not depend on where things are placed: holes, rails, what the maker put down. */
export class Workbench {
  readonly #wiring: Wiring
  readonly #grid: Grid
  readonly #units: readonly Unit[]
  readonly #boardsFor: (ref: string) => readonly number[]
  readonly #rails: ReadonlyMap<Node, number>
  readonly #fixed: Seat[] = []
  /** Supply modules that the program plugs over the rails. */
  readonly #plugged: Seat[] = []
  readonly #clashes: Layout['clashes'][number][] = []
  readonly #kept: ReadonlySet<string>

  /** `overRails`: supply modules may go over rails where the maker has not put them. */
  constructor(wiring: Wiring, overRails = true) {
    this.#wiring = wiring
    const bench = wiring.plan.bench!
    this.#grid = new Grid(bench.breadboards)
    this.#units = unitsOf(wiring)
    this.#boardsFor = breadboardsByHome(wiring, this.#grid)
    this.#rails = assignRails(wiring, this.#grid, this.#units, this.#boardsFor)
    const occupancy = this.#occupancy()
    for (const unit of this.#units) {
      const place = entryOf(bench.places, unit.ref)
      if (!place || place.beside) continue
      const wanted = isRailsUnit(unit) ? this.#wantedOverRails(unit, place) : wantedSeat(this.#grid, unit, place)
      if (wanted === undefined) continue
      const refusal =
        typeof wanted === 'string' ? { text: wanted, hole: undefined, by: undefined } : occupancy.refusal(wanted, true)
      if (refusal || typeof wanted === 'string') {
        const named = place.at ?? Object.values(place.legs ?? {})[0] ?? ''
        const hole = refusal?.hole === undefined ? named : this.#grid.name(refusal.hole)
        this.#clashes.push({ ref: unit.ref, hole, text: refusal?.text ?? '', by: refusal?.by })
        continue
      }
      occupancy.take(wanted)
      this.#fixed.push(wanted)
    }
    this.#kept = new Set(this.#fixed.map(({ ref }) => ref))
    this.#keepFree(occupancy)
    for (const unit of this.#units) {
      if (!overRails || !isRailsUnit(unit) || this.#kept.has(unit.ref)) continue
      // Where the maker has laid it beside it stays.
      if (asideWanted(entryOf(bench.places, unit.ref))) continue
      const boards = this.#boardsFor(unit.ref)
      const isLower = this.#units.some(
        (one) => one.kind === 'straddle' && one.cable === 'bottom' && this.#boardsFor(one.ref)[0] === boards[0],
      )
      const seat = overRailsSeats(wiring, this.#grid, unit, boards, this.#rails, !isLower).find(
        (one) => occupancy.refusal(one) === undefined,
      )
      if (!seat) continue
      occupancy.take(seat)
      this.#plugged.push(seat)
    }
  }

  /** A supply module goes on without a word from the maker. */
  get plugs(): boolean {
    return this.#plugged.length > 0
  }

  #wantedOverRails(unit: RailsUnit, { at }: BenchPlace): Seat | string | undefined {
    if (at === undefined) return undefined
    const hole = this.#grid.parse(at)
    if (hole === undefined || !isRail(hole)) return `there is no rail hole ${at}`
    return (
      overRailsSeatNear(this.#wiring, this.#grid, unit, hole, this.#rails) ??
      'the rails there are not those that it would feed'
    )
  }

  #occupancy(): Occupancy {
    const occupancy = new Occupancy(this.#grid, (end) => this.#wiring.netOf(end).index)
    for (const [node, net] of this.#rails) occupancy.claim(node, net)
    for (const seat of [...this.#fixed, ...this.#plugged]) occupancy.take(seat)
    return occupancy
  }

  /** Rows that the maker keeps for later, and holes over which wires are to be led. */
  #keepFree(occupancy: Occupancy): void {
    for (const [end, name] of Object.entries(this.#wiring.plan.bench?.via ?? {})) {
      const hole = this.#grid.parse(name)
      if (hole === undefined) continue
      const node = this.#grid.node(hole)
      const net = this.#wiring.netOf(end).index
      if (!occupancy.isFree(hole) || (occupancy.net(node) ?? net) !== net || (isRail(node) && !this.#rails.has(node)))
        continue
      occupancy.claim(node, net)
      occupancy.plug(hole, wayOf(end))
    }
    this.#grid.boards.forEach(({ entry, rows }, board) => {
      for (const [from, to] of entry.reserved ?? [])
        for (let row = from; row <= Math.min(to, rows); row += 1)
          for (const column of [0, 5]) occupancy.reserve(holeAt(board, row, column))
    })
  }

  /** The bench before anything is placed. */
  room(): Room {
    const occupancy = this.#occupancy()
    this.#keepFree(occupancy)
    const stands = new Set([...this.#kept, ...this.#plugged.map(({ ref }) => ref)])
    return {
      wiring: this.#wiring,
      grid: this.#grid,
      occupancy,
      open: this.#units.filter(({ ref }) => !stands.has(ref)),
      seated: this.#units.filter(({ ref }) => this.#kept.has(ref)),
      fixed: this.#fixed,
      boardsFor: this.#boardsFor,
      rails: this.#rails,
      holeOf: new Map(
        [...this.#fixed, ...this.#plugged].flatMap(({ ref, legs }) =>
          legs.map(({ pin, hole }) => [`${ref}.${pin}`, hole] as const),
        ),
      ),
    }
  }

  /** Everything placed, and every wire led to its holes; `elsewhere`: one that crosses others may join its net elsewhere. */
  complete(placer: Placer, elsewhere = true): Layout {
    const wiring = this.#wiring
    const grid = this.#grid
    const room = this.room()
    const { occupancy, holeOf } = room
    const { seats, posts, asides, unplaced } = placer(room)
    const held = [...this.#fixed, ...this.#plugged, ...seats]
    const router = new Router(wiring, grid, occupancy, this.#units, held, posts, this.#rails, this.#boardsFor)
    const drafts = wiring.nets.flatMap((net) => (net.wired ? router.route(net.index) : []))
    const wires = chooseHoles(grid, occupancy, drafts, elsewhere ? router.groups : undefined)
    const lines = wires.map((wire) => lineOf(grid, wire))
    return {
      grid,
      units: this.#units,
      seats: new Map(held.map((seat) => [seat.ref, seat])),
      posts,
      asides,
      holeOf,
      wires,
      nodes: occupancy.nets,
      rails: this.#rails,
      stray: unplaced.map((unit) => ({ ref: unit.ref, text: strayText(grid, unit) })),
      blocked: router.blocked,
      clashes: this.#clashes,
      kept: this.#kept,
      refused: router.refused,
      gaps: router.gaps,
      stats: {
        pitches: lines.reduce((sum, [x1, y1, x2, y2]) => sum + Math.hypot(x1 - x2, y1 - y2), 0),
        crossings: countCrossings(lines),
        shared: countShared(grid, holeOf),
      },
    }
  }
}

function strayText(grid: Grid, unit: Unit): string {
  const have = grid.boards.map(({ entry }) => breadboardKinds[entry.kind].title.toLowerCase()).join(' and ')
  if (unit.kind === 'straddle')
    return `needs ${Math.max(unit.left.length, unit.right.length)} free rows on both sides of the trench, its rows ${unit.rowsApart} holes apart; there is ${have}`
  if (unit.kind === 'row') return `needs ${unit.pins.length} free rows one below the other; there is ${have}`
  return `finds no two free holes within its reach; there is ${have}`
}

function countShared(grid: Grid, holeOf: ReadonlyMap<string, Hole>): number {
  const legs = new Map<Node, number>()
  for (const hole of holeOf.values()) legs.set(grid.node(hole), (legs.get(grid.node(hole)) ?? 0) + 1)
  return [...legs.values()].reduce((sum, count) => sum + count - 1, 0)
}
