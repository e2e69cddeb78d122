import { seeded } from '../base/random.ts'
import { AWAY, type Margins } from './aside.ts'
import { boardOfHole, columnOf, edgesOf, type Grid, holeAt, rowOf } from './grid.ts'
import { type Occupancy, rowSeat, rowsOver, type Seat, type Straddle, straddleSeat, straddles } from './seats.ts'
import type { Unit } from './units.ts'

export type Body = Extract<Unit, { kind: 'straddle' | 'row' }>

/** Where a body stands: breadboard, half, first row, and whether its other end is up. */
export interface BodySpot {
  readonly board: number
  readonly half: 0 | 1
  readonly row: number
  readonly turned: boolean
}

export interface ArrangeTask {
  readonly grid: Grid
  readonly occupancy: Occupancy
  /** The ground beside, over which deep modules hang. */
  readonly margins: Margins
  readonly bodies: readonly Body[]
  /** Breadboards that a unit may stand on, best first. */
  readonly boardsFor: (ref: string) => readonly number[]
  /** True for a pin that needs a wire of any kind. */
  readonly isWired: (end: string) => boolean
  /** Rows left free between bodies. */
  readonly spare: number
  /** Another one gives another arrangement. */
  readonly seed: number
}

/** Orders in which bodies are put down until all find room. */
const MOST_ORDERS = 20

/** A chip or a component stands either way; a board keeps its socket outside, a module hangs over the edge. */
export const mayTurn = (body: Body): boolean => (body.kind === 'straddle' ? !body.isBoard : !body.hangsOver)

type Ranked = Straddle & { readonly worth: number }
interface Lane {
  readonly board: number
  readonly half: 0 | 1
}

/** The half-rows of a bench and what stands in them. */
export class Ground {
  readonly #task: ArrangeTask
  /** By row of each half: what has legs there or lies over the whole of it; what was there before counts, too. */
  readonly #rows: Uint8Array
  /** By row of each half: outlines over its outermost hole. */
  readonly #outlines: Uint8Array
  readonly #columns: ReadonlyMap<Body, readonly (Ranked | undefined)[]>
  readonly lanes: ReadonlyMap<Body, readonly Lane[]>

  constructor(task: ArrangeTask) {
    this.#task = task
    const { grid, occupancy, bodies } = task
    this.#rows = new Uint8Array(grid.boards.length * 128)
    this.#outlines = new Uint8Array(grid.boards.length * 128)
    grid.boards.forEach((board, index) => {
      for (let row = 1; row <= board.rows; row += 1)
        for (const half of [0, 1] as const) {
          const at = (index * 2 + half) * 64 + row
          if (!occupancy.isEmpty(holeAt(index, row, half * 5))) this.#rows[at] = 1
          if (!occupancy.isFree(holeAt(index, row, half * 9))) this.#outlines[at] = 1
        }
    })
    this.#columns = new Map(
      bodies.map((body) => [
        body,
        body.kind === 'straddle' ? grid.boards.map((_, board) => this.#bestColumns(body, board)) : [],
      ]),
    )
    this.lanes = new Map(bodies.map((body) => [body, this.#lanesOf(body)]))
  }

  #lanesOf(body: Body): Lane[] {
    const { grid, boardsFor } = this.#task
    const found = boardsFor(body.ref).flatMap((board): Lane[] => {
      const { joinsBefore, joinsNext } = grid.boards[board]!
      if (body.kind === 'straddle') return this.columns(body, board) ? [{ board, half: 0 }] : []
      // A module between two joined breadboards would lie over the other one's holes, as would a deep one.
      const reaches = (half: 0 | 1): boolean => {
        const other = grid.boards[half === 0 ? board - 1 : board + 1]
        if (!other) return false
        const [near, far] =
          half === 0 ? [edgesOf(other).right, grid.boards[board]!.x] : [edgesOf(other).left, grid.boards[board]!.x + 11]
        return (half === 0 ? joinsBefore : joinsNext) || (body.deep ?? 0) > Math.abs(near - far)
      }
      return ([0, 1] as const).filter((half) => !body.hangsOver || !reaches(half)).map((half) => ({ board, half }))
    })
    // Breadboards on which its pins keep free holes come first.
    const worth = ({ board }: Lane): number => this.columns(body, board)?.worth ?? 0
    return body.kind === 'straddle' ? found.sort((a, b) => worth(b) - worth(a)) : found
  }

  /** The columns that leave holes where wires are needed, and as many as can be besides. */
  #bestColumns(body: Body & { kind: 'straddle' }, board: number): Ranked | undefined {
    const count = (pins: readonly (string | null)[]): number =>
      pins.filter((pin) => pin !== null && this.#task.isWired(`${body.ref}.${pin}`)).length
    const wired = { left: count(body.left), right: count(body.right) }
    const worth = (free: number, wires: number): number =>
      free === 0 ? -100 * wires : Math.min(free, 2) * wires + free / 8
    const score = (one: Straddle): number =>
      worth(one.freeLeft, wired.left) + worth(one.freeRight, wired.right) - one.over
    return straddles(this.#task.grid, board, body.rowsApart)
      .map((one) => ({ ...one, worth: score(one) }))
      .sort((a, b) => b.worth - a.worth)[0]
  }

  columns(body: Body, board: number): Ranked | undefined {
    return this.#columns.get(body)?.[board]
  }

  get grid(): Grid {
    return this.#task.grid
  }

  seat(body: Body, spot: BodySpot): Seat | undefined {
    const { grid } = this.#task
    if (body.kind === 'row')
      return rowSeat(grid, body, holeAt(spot.board, spot.row, rowColumn(body, spot.half)), spot.turned)
    const columns = this.columns(body, spot.board)
    return columns && straddleSeat(grid, body, spot.board, columns, spot.row, spot.turned)
  }

  /** The first seat that nothing forbids, in rows in which others stand already. */
  squeezed(body: Body, occupancy: Occupancy): Seat | undefined {
    const ways = mayTurn(body) ? [false, true] : [false]
    for (const lane of this.lanes.get(body)!)
      for (let row = 1; row + lengthOf(body) - 1 <= this.grid.boards[lane.board]!.rows; row += 1)
        for (const turned of ways) {
          const spot = { ...lane, row, turned }
          const seat = this.seat(body, spot)
          if (seat && !occupancy.refusal(seat) && this.#isClearBeside(body, spot)) return seat
        }
    return undefined
  }

  #halves(body: Body, { board, half }: Lane): readonly number[] {
    if (body.kind === 'row') return [board * 2 + half]
    return this.columns(body, board)?.over === 0
      ? [board * 2, board * 2 + 1]
      : [board * 2, board * 2 + 1, board * 2 + 2]
  }

  /** A spot is free when nothing stands there, and nothing in the rows next to it that are to stay free. */
  isFree(body: Body, spot: BodySpot): boolean {
    const last = spot.row + lengthOf(body) - 1
    if (spot.row < 1 || last > this.#task.grid.boards[spot.board]!.rows) return false
    return this.#inTheWay(body, spot) === 0 && this.#isClearBeside(body, spot)
  }

  /** The last row in which something is in the way of a spot; 0 for none. */
  #inTheWay(body: Body, spot: BodySpot): number {
    const last = spot.row + lengthOf(body) - 1
    const { rows } = this.#task.grid.boards[spot.board]!
    const { above, below } = rowsOver(body, spot.turned)
    const stands = body.kind === 'row' && !body.hangsOver
    const gap = stands ? 0 : this.#task.spare
    const [over, under] = body.kind === 'straddle' ? [Math.max(gap, above), Math.max(gap, below)] : [gap, gap]
    let found = 0
    for (const half of this.#halves(body, spot)) {
      for (let row = Math.min(rows, last + under); row >= Math.max(1, spot.row - over) && row > found; row -= 1)
        if (this.#rows[half * 64 + row]! > 0) found = row
      if (stands) continue
      for (let row = Math.min(rows, last + below); row >= Math.max(1, spot.row - above) && row > found; row -= 1)
        if (this.#outlines[half * 64 + row]! > 0) found = row
    }
    return found
  }

  /** What hangs far over the edge is in nobody's way that lies beside. */
  #isClearBeside(body: Body, spot: BodySpot): boolean {
    const beyond = this.#beyond(body, spot)
    return beyond === undefined || this.#task.margins.isClear(beyond.board, beyond.side, beyond.from, beyond.to)
  }

  /** Rows beside the breadboards that a deep module takes there. */
  #beyond(
    body: Body,
    { board, half, row, turned }: BodySpot,
  ): { board: number; side: 'left' | 'right'; from: number; to: number } | undefined {
    if (body.kind !== 'row' || !body.hangsOver || body.deep === undefined) return undefined
    const { x } = this.#task.grid.boards[board]!
    const { left, right } = edgesOf(this.#task.grid.boards[board]!)
    if (body.deep <= (half === 0 ? x - left : right - x - 11) + AWAY - 1) return undefined
    const { above, below } = rowsOver(body, turned)
    return { board, side: half === 0 ? 'left' : 'right', from: row - above, to: row + lengthOf(body) - 1 + below }
  }

  /** What the maker seated hangs over the ground beside as well. */
  keep(body: Body, seat: Seat): void {
    if (seat.at === undefined) return
    const spot: BodySpot = {
      board: boardOfHole(seat.at),
      half: columnOf(seat.at) < 5 ? 0 : 1,
      row: rowOf(seat.at),
      turned: seat.turned,
    }
    const beyond = this.#beyond(body, spot)
    if (beyond) this.#task.margins.hang(beyond.board, beyond.side, beyond.from, beyond.to, 1)
  }

  put(body: Body, spot: BodySpot, by: 1 | -1): void {
    const last = spot.row + lengthOf(body) - 1
    const { above, below } = rowsOver(body, spot.turned)
    const stands = body.kind === 'row' && !body.hangsOver
    const [over, under] = body.kind === 'straddle' ? [above, below] : [0, 0]
    const { rows } = this.#task.grid.boards[spot.board]!
    for (const half of this.#halves(body, spot)) {
      for (let row = Math.max(1, spot.row - over); row <= Math.min(rows, last + under); row += 1)
        this.#rows[half * 64 + row]! += by
      if (stands) continue
      for (let row = Math.max(1, spot.row - above); row <= Math.min(rows, last + below); row += 1)
        this.#outlines[half * 64 + row]! += by
    }
    const beyond = this.#beyond(body, spot)
    if (beyond) this.#task.margins.hang(beyond.board, beyond.side, beyond.from, beyond.to, by)
  }

  /** For a board with its cable at the lower end the last free spot on a lane, else the first. */
  #endFit(body: Body, lane: Lane): BodySpot | undefined {
    if (body.kind === 'row' || body.cable === 'top') return this.firstFit(body, lane)
    for (let row = this.#task.grid.boards[lane.board]!.rows - lengthOf(body) + 1; row >= 1; row -= 1) {
      const spot = { ...lane, row, turned: false }
      if (this.isFree(body, spot)) return spot
    }
    return undefined
  }

  /** The first free spot from the top on a lane. */
  firstFit(body: Body, lane: Lane): BodySpot | undefined {
    const { rows } = this.#task.grid.boards[lane.board]!
    const length = lengthOf(body)
    // Nothing before the lowest row that is in the way can be free.
    for (let row = 1; row + length - 1 <= rows; ) {
      const spot = { ...lane, row, turned: false }
      const busy = this.#inTheWay(body, spot)
      if (busy === 0 && this.#isClearBeside(body, spot)) return spot
      row = Math.max(row + 1, busy + 1)
    }
    return undefined
  }

  /**
   * Puts everything down that has a body, so that as much as possible finds room: boards in plan order at the ends at
   * which their cables come in, the rest into the first rows that are free, in the order given and, while that leaves
   * something over, in others.
   */
  pack(): Map<Body, BodySpot | undefined> {
    const { bodies, seed } = this.#task
    const random = seeded(bodies.length * 104729 + seed)
    const boards = bodies.flatMap((body, index) => (body.kind === 'straddle' && body.isBoard ? [index] : []))
    let rest = bodies.flatMap((_, index) => (boards.includes(index) ? [] : [index]))
    let best: (BodySpot | undefined)[] = []
    let most = -1
    for (let tries = 0; tries < MOST_ORDERS; tries += 1) {
      const spots: (BodySpot | undefined)[] = bodies.map(() => undefined)
      for (const index of [...boards, ...rest]) {
        const body = bodies[index]!
        const lanes = this.lanes.get(body)!
        const from = boards.includes(index) ? 0 : Math.floor(random() * lanes.length)
        for (let turn = 0; turn < lanes.length && !spots[index]; turn += 1)
          spots[index] = this.#endFit(body, lanes[(from + turn) % lanes.length]!)
        if (spots[index]) this.put(body, spots[index], 1)
      }
      spots.forEach((spot, index) => {
        if (spot) this.put(bodies[index]!, spot, -1)
      })
      const found = spots.filter((spot) => spot).length
      if (found > most) {
        most = found
        best = spots
      }
      if (found === bodies.length) break
      // Long ones first, then by chance.
      rest =
        tries === 0
          ? [...rest].sort((a, b) => lengthOf(bodies[b]!) - lengthOf(bodies[a]!))
          : rest
              .map((index) => ({ index, key: random() }))
              .sort((a, b) => a.key - b.key)
              .map(({ index }) => index)
    }
    best.forEach((spot, index) => {
      if (spot) this.put(bodies[index]!, spot, 1)
    })
    return new Map(bodies.map((body, index) => [body, best[index]]))
  }
}

/** Rows that a body covers. */
export const lengthOf = (body: Body): number =>
  body.kind === 'row' ? body.pins.length : Math.max(body.left.length, body.right.length)

const rowColumn = (body: Body & { kind: 'row' }, half: 0 | 1): number =>
  body.hangsOver ? (half === 0 ? 0 : 9) : half === 0 ? 2 : 7
