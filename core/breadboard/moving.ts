import { entryOf } from '../base/entryOf.ts'
import type { Edit } from '../plan/edit.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { type AsideSpot, asidePlace, mayTurnAside } from './aside.ts'
import { boardOfHole, columnOf, edgesOf, type Grid, type Hole, holeAt, rowOf } from './grid.ts'
import { breadboardsByHome } from './homes.ts'
import { isRailsUnit, overRailsSeat, overRailsSeatNear } from './overRails.ts'
import { legsSeat, Occupancy, placeOf, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import type { Unit } from './units.ts'
import type { Layout } from './workbench.ts'

/** Moving by hand: what a bench looks like around one unit that is picked up, and where it may be put down. */
export class Hand {
  readonly #wiring: Wiring
  readonly #layout: Layout
  readonly #unit: Unit
  readonly #seat: Seat | undefined
  readonly #others: Occupancy

  constructor(wiring: Wiring, layout: Layout, ref: string) {
    this.#wiring = wiring
    this.#layout = layout
    this.#unit = layout.units.find((one) => one.ref === ref)!
    this.#seat = layout.seats.get(ref)
    this.#others = new Occupancy(layout.grid, (end) => wiring.netOf(end).index)
    for (const [node, net] of layout.rails) this.#others.claim(node, net)
    for (const seat of layout.seats.values()) if (seat.ref !== ref) this.#others.take(seat)
  }

  get canStand(): boolean {
    const { kind } = this.#unit
    return kind === 'straddle' || kind === 'row' || kind === 'legs' || isRailsUnit(this.#unit)
  }

  /** Its seat when its first place comes to lie nearest to a point, in pitches; undefined where it cannot stand. */
  seatNear(x: number, y: number, turned = this.#seat?.turned ?? false): Seat | undefined {
    const { grid } = this.#layout
    const unit = this.#unit
    const at = nearestHole(grid, x, y, unit.kind === 'legs' || isRailsUnit(unit))
    if (at === undefined) return undefined
    if (isRailsUnit(unit)) return overRailsSeatNear(this.#wiring, grid, unit, at, this.#layout.rails)
    if (unit.kind === 'row') return rowSeat(grid, unit, at, turned)
    if (unit.kind === 'straddle') {
      const columns = straddles(grid, boardOfHole(at), unit.rowsApart).sort(
        (a, b) => Math.abs(a.left - columnOf(at)) - Math.abs(b.left - columnOf(at)),
      )[0]
      return columns && straddleSeat(grid, unit, boardOfHole(at), columns, rowOf(at), turned)
    }
    if (unit.kind !== 'legs' || !this.#seat) return undefined
    const [a, b] = this.#seat.legs.map(({ hole }) => hole) as [Hole, Hole]
    const second = nearestHole(grid, x + grid.x(b) - grid.x(a), y + rowOf(b) - rowOf(a), true)
    return second === undefined ? undefined : legsSeat(grid, unit, at, second)
  }

  refusal(seat: Seat): string | undefined {
    return this.#others.refusal(seat, true)?.text
  }

  /** The next place in a direction that it can take, steps in pitches; undefined when there is none. */
  next(dx: number, dy: number): Seat | undefined {
    if (!this.#seat) return undefined
    const from = this.#seat.at ?? this.#seat.legs[0]!.hole
    const { grid } = this.#layout
    const start = placeName(grid, this.#seat)
    for (let steps = 1; steps <= 80; steps += 1) {
      const seat = this.seatNear(grid.x(from) + dx * steps, rowOf(from) + dy * steps)
      if (seat && placeName(grid, seat) !== start && !this.refusal(seat)) return seat
    }
    return undefined
  }

  /** The same place with its other end up, or its two legs swapped. */
  turned(): Seat | undefined {
    const seat = this.#seat
    if (!seat) return undefined
    const { grid } = this.#layout
    if (this.#unit.kind === 'legs') return legsSeat(grid, this.#unit, seat.legs[1]!.hole, seat.legs[0]!.hole)
    if (isRailsUnit(this.#unit))
      return overRailsSeat(this.#wiring, grid, this.#unit, boardOfHole(seat.at!), !seat.turned, this.#layout.rails)
    return this.seatNear(grid.x(seat.at!), rowOf(seat.at!), !seat.turned)
  }
}

/** Pitches beyond the rails from which on a thing is let go beside the breadboards. */
const BEYOND = 2

/** Laying by hand beside the breadboards. */
export class AsideHand {
  readonly #layout: Layout
  readonly #ref: string
  readonly #stands: boolean
  readonly #boardsFor: (ref: string) => readonly number[]
  readonly #left: number
  readonly #right: number

  constructor(wiring: Wiring, layout: Layout, ref: string) {
    this.#layout = layout
    this.#ref = ref
    this.#stands = layout.seats.has(ref)
    const { grid } = layout
    this.#boardsFor = breadboardsByHome(wiring, grid)
    const own = this.#boardsFor(ref)
    this.#left = edgesOf(grid.boards[Math.min(...own)]!).left
    this.#right = edgesOf(grid.boards[Math.max(...own)]!).right
  }

  /** The spot at a point of the bench, in pitches; what lies beside already moves by `dy` rows. */
  spotAt({ x, y }: { readonly x: number; readonly y: number }, dy: number | undefined): AsideSpot | undefined {
    const unit = this.#layout.units.find(({ ref }) => ref === this.#ref)
    const now = this.#layout.asides.get(this.#ref)
    if (this.#stands) {
      if (unit?.kind !== 'straddle' && unit?.kind !== 'row' && !isRailsUnit(unit)) return undefined
      if (x > this.#left - BEYOND && x < this.#right + BEYOND) return undefined
      return { side: x < this.#left ? 'left' : 'right', row: Math.round(y), turned: false }
    }
    if (!now) return undefined
    const side = x < (this.#left + this.#right) / 2 ? 'left' : 'right'
    return { ...now, side, row: now.row + Math.round(dy ?? 0) }
  }

  /** Rows that a thing takes there. */
  #rows(ref: string, row: number): readonly [number, number] {
    const ends = [...this.#layout.posts].filter(([end]) => end.startsWith(`${ref}.`)).map(([, { y }]) => y)
    const seat = this.#layout.seats.get(ref)
    const long = seat ? seat.legs.length / 2 : Math.max(...ends) - Math.min(...ends)
    return [row, row + Math.max(0, long)]
  }

  /** What is in the way there; undefined when nothing is. */
  refusal({ side, row }: AsideSpot): string | undefined {
    const [from, to] = this.#rows(this.#ref, row)
    for (const [ref, other] of this.#layout.asides) {
      // What belongs to another board lies beside other breadboards.
      if (ref === this.#ref || other.side !== side || this.#boardsFor(ref)[0] !== this.#boardsFor(this.#ref)[0])
        continue
      const [first, last] = this.#rows(ref, other.row)
      if (from <= last + 1 && to >= first - 1) return `${ref} lies there`
    }
    return row < -40 || row > 140 ? 'it is too far away' : undefined
  }

  /** About the middle of it there, in pitches. */
  middle({ side, row }: AsideSpot): { readonly x: number; readonly y: number } {
    const [from, to] = this.#rows(this.#ref, row)
    return { x: side === 'left' ? this.#left - 9 : this.#right + 9, y: (from + to) / 2 }
  }
}

/** The place of a thing with its other end up, or its two legs swapped; words where it cannot be turned. */
export function turnedPlace(wiring: Wiring, layout: Layout, ref: string): BenchPlace | string {
  const aside = layout.seats.has(ref) ? undefined : layout.asides.get(ref)
  const unit = layout.units.find((one) => one.ref === ref)
  if (aside && unit && mayTurnAside(unit))
    return asidePlace({ ...aside, turned: !aside.turned }, entryOf(wiring.plan.bench?.places, ref))
  const hand = layout.seats.has(ref) ? new Hand(wiring, layout, ref) : undefined
  const seat = hand?.turned()
  if (!hand || !seat) return `${ref} cannot be turned.`
  const refusal = hand.refusal(seat)
  return refusal === undefined ? placeOf(layout.grid, seat) : `${ref} cannot be turned there: ${refusal}.`
}

/** True for what stands in holes and could lie beside, on jumper wires. */
export function mayLieBeside(layout: Layout, ref: string): boolean {
  const unit = layout.units.find((one) => one.ref === ref)
  return layout.seats.has(ref) && (unit?.kind === 'straddle' || unit?.kind === 'row' || isRailsUnit(unit))
}

const placeName = (grid: Grid, seat: Seat): string => JSON.stringify(placeOf(grid, seat))

/** The hole nearest to a point, within two pitches; rails only where asked for. */
export function nearestHole(grid: Grid, x: number, y: number, rails: boolean): Hole | undefined {
  let best: Hole | undefined
  let least = 2
  grid.boards.forEach((board, index) => {
    const row = Math.round(y)
    for (let column = 0; column < (rails ? 14 : 10); column += 1)
      for (const at of column > 9 ? [row - 1, row, row + 1] : [row]) {
        const hole = holeAt(index, at, column)
        if (at < 1 || at > board.rows || grid.parse(grid.name(hole)) === undefined) continue
        const away = Math.hypot(grid.x(hole) - x, at - y)
        if (away >= least) continue
        best = hole
        least = away
      }
  })
  return best
}

/** Edits that keep everything where it stands now, except what is named: so that a change moves nothing else. */
export function keepPlaces(wiring: Wiring, layout: Layout, except?: string): Edit[] {
  const kept = wiring.plan.bench?.places ?? {}
  const clashing = new Set(layout.clashes.map(({ ref }) => ref))
  const seats = [...layout.seats.values()].flatMap((seat): Edit[] =>
    seat.ref === except || (kept[seat.ref] && !clashing.has(seat.ref))
      ? []
      : [{ do: 'place', ref: seat.ref, place: placeOf(layout.grid, seat) }],
  )
  const asides = [...layout.asides].flatMap(([ref, spot]): Edit[] =>
    ref === except || layout.seats.has(ref) || kept[ref]?.row !== undefined
      ? []
      : [{ do: 'place', ref, place: asidePlace(spot, kept[ref]) }],
  )
  return [...seats, ...asides]
}
