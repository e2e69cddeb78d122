import type { Edit } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import { asidePlace } from './aside.ts'
import { boardOfHole, columnOf, type Grid, type Hole, holeAt, rowOf } from './grid.ts'
import type { Layout } from './layout.ts'
import { legsSeat, Occupancy, placeOf, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import type { Unit } from './units.ts'

/** Moving by hand: what a bench looks like around one unit that is picked up, and where it may be put down. */
export class Hand {
  readonly #layout: Layout
  readonly #unit: Unit
  readonly #seat: Seat | undefined
  readonly #others: Occupancy

  constructor(wiring: Wiring, layout: Layout, ref: string) {
    this.#layout = layout
    this.#unit = layout.units.find((one) => one.ref === ref)!
    this.#seat = layout.seats.get(ref)
    this.#others = new Occupancy(layout.grid, (end) => wiring.netOf(end).index)
    for (const [node, net] of layout.rails) this.#others.claim(node, net)
    for (const seat of layout.seats.values()) if (seat.ref !== ref) this.#others.take(seat)
  }

  get canStand(): boolean {
    return this.#unit.kind === 'straddle' || this.#unit.kind === 'row' || this.#unit.kind === 'legs'
  }

  /** Its seat when its first place comes to lie nearest to a point, in pitches; undefined where it cannot stand. */
  seatNear(x: number, y: number, turned = this.#seat?.turned ?? false): Seat | undefined {
    const { grid } = this.#layout
    const unit = this.#unit
    const at = nearestHole(grid, x, y, unit.kind === 'legs')
    if (at === undefined) return undefined
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
    return this.#others.refusal(seat)?.text
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
    return this.seatNear(grid.x(seat.at!), rowOf(seat.at!), !seat.turned)
  }
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
