import { splitEnd } from '../plan/ends.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import { boardOfHole, columnOf, columnX, type Grid, type Hole, holeAt, isRail, type Node, rowOf } from './grid.ts'
import type { Unit } from './units.ts'

/** A unit in its holes. */
export interface Seat {
  readonly ref: string
  readonly legs: readonly { readonly pin: string; readonly hole: Hole }[]
  /** Holes under the body, in which nothing can be plugged. */
  readonly covers: readonly Hole[]
  /** Holes under what its outline reaches beyond its own rows: nothing of ours goes there, the maker's own places may. */
  readonly shades: readonly Hole[]
  readonly turned: boolean
  /** Hole of the top left place, as the plan names it; undefined for two legs, which the plan names one by one. */
  readonly at: Hole | undefined
}

/** A seat as the plan keeps it. */
export function placeOf(grid: Grid, { at, legs, turned }: Seat): BenchPlace {
  if (at === undefined) return { legs: Object.fromEntries(legs.map(({ pin, hole }) => [pin, grid.name(hole)])) }
  return { at: grid.name(at), ...(turned ? { turned } : {}) }
}

/** What is in every hole, what lies over it, and which net a strip belongs to. */
export class Occupancy {
  readonly grid: Grid
  readonly #netOf: (end: string) => number
  readonly #used = new Map<Hole, string>()
  readonly #covered = new Map<Hole, string>()
  readonly #shaded = new Map<Hole, string>()
  readonly #nets = new Map<Node, number>()

  constructor(grid: Grid, netOf: (end: string) => number) {
    this.grid = grid
    this.#netOf = netOf
  }

  isFree(hole: Hole): boolean {
    return !this.#used.has(hole) && !this.#covered.has(hole) && !this.#shaded.has(hole)
  }

  free(node: Node): Hole[] {
    return this.grid.holes(node).filter((hole) => this.isFree(hole))
  }

  net(node: Node): number | undefined {
    return this.#nets.get(node)
  }

  /** Nothing at all is in the strip, and something can be plugged there. */
  isEmpty(node: Node): boolean {
    if (this.#nets.has(node)) return false
    const holes = this.grid.holes(node)
    return (
      holes.every((hole) => !this.#used.has(hole) && !this.#covered.has(hole)) &&
      holes.some((hole) => !this.#shaded.has(hole))
    )
  }

  get nets(): ReadonlyMap<Node, number> {
    return this.#nets
  }

  claim(node: Node, net: number): void {
    this.#nets.set(node, net)
  }

  /** What is plugged into a hole. */
  holds(hole: Hole): string | undefined {
    return this.#used.get(hole)
  }

  /** Leaves what is empty of a row to the maker. */
  reserve(node: Node): void {
    if (!this.isEmpty(node)) return
    for (const hole of this.grid.holes(node)) this.#covered.set(hole, 'the room that you keep free')
  }

  plug(hole: Hole, what: string): void {
    this.#used.set(hole, what)
  }

  unplug(hole: Hole): void {
    this.#used.delete(hole)
  }

  /**
   * Why a seat cannot be taken, where, and what is in the way; undefined when it can. `byHand`: outlines of modules
   * differ from make to make, so where one only reaches over its neighbour's rows the maker's own place counts.
   */
  refusal(seat: Seat, byHand = false): { text: string; hole: Hole; by: string | undefined } | undefined {
    const own = new Map<Node, number>()
    for (const { pin, hole } of seat.legs) {
      const end = `${seat.ref}.${pin}`
      const name = this.grid.name(hole)
      const node = this.grid.node(hole)
      const used = this.#used.get(hole)
      if (used !== undefined) return { text: `${name} holds ${used} already`, hole, by: splitEnd(used).ref }
      const over = this.#covered.get(hole) ?? (byHand ? undefined : this.#shaded.get(hole))
      if (over !== undefined) return { text: `${name} lies under ${over}`, hole, by: over }
      const net = this.#netOf(end)
      const held = this.#nets.get(node)
      if (held !== undefined && held !== net) {
        const other = [...this.#used].find(([at]) => this.grid.node(at) === node)?.[1]
        const what = other ?? 'the net that runs over it'
        return {
          text: `${this.grid.nodeWords(node)} would join ${end} with ${what}`,
          hole,
          by: other === undefined ? undefined : splitEnd(other).ref,
        }
      }
      const known = own.get(node)
      if (known !== undefined && known !== net)
        return { text: `${this.grid.nodeWords(node)} would join two of its own legs`, hole, by: undefined }
      own.set(node, net)
    }
    for (const hole of byHand ? seat.covers : [...seat.covers, ...seat.shades]) {
      const used = this.#used.get(hole)
      if (used !== undefined)
        return { text: `its body would lie over ${used} in ${this.grid.name(hole)}`, hole, by: splitEnd(used).ref }
      const over = this.#covered.get(hole) ?? (byHand ? undefined : this.#shaded.get(hole))
      if (over !== undefined && !isRail(hole))
        return { text: `its body would lie over ${over} at ${this.grid.name(hole)}`, hole, by: over }
    }
    return undefined
  }

  take(seat: Seat): void {
    for (const { pin, hole } of seat.legs) {
      this.#used.set(hole, `${seat.ref}.${pin}`)
      this.#nets.set(this.grid.node(hole), this.#netOf(`${seat.ref}.${pin}`))
    }
    for (const hole of seat.covers) this.#covered.set(hole, seat.ref)
    for (const hole of seat.shades) this.#shaded.set(hole, seat.ref)
  }
}

/** Columns that a unit over the trench can take, and how many holes of each strip it leaves free. */
export interface Straddle {
  readonly left: number
  readonly right: number
  /** 1 where the right row stands on the next, joined breadboard. */
  readonly over: 0 | 1
  readonly freeLeft: number
  readonly freeRight: number
}

export function straddles(grid: Grid, board: number, rowsApart: number): Straddle[] {
  const found: Straddle[] = []
  const here = grid.boards[board]!
  for (let left = 0; left <= 9; left += 1)
    for (const over of here.joinsNext ? ([0, 1] as const) : ([0] as const))
      for (let right = 0; right <= 9; right += 1) {
        if (over === 0 ? left > 4 || right < 5 : right > 4) continue
        if (over * 14 + columnX(right, 'left') - columnX(left, 'left') !== rowsApart) continue
        found.push({ left, right, over, freeLeft: left % 5, freeRight: 4 - (right % 5) })
      }
  return found
}

/** Seats a unit over the trench with its top row at `row`. Undefined when it would stand over the end. */
export function straddleSeat(
  grid: Grid,
  unit: Unit & { kind: 'straddle' },
  board: number,
  columns: Straddle,
  row: number,
  turned: boolean,
): Seat | undefined {
  const rows = Math.max(unit.left.length, unit.right.length)
  if (row < 1 || row + rows - 1 > grid.boards[board]!.rows) return undefined
  const padded = (pins: readonly (string | null)[]): (string | null)[] =>
    Array.from({ length: rows }, (_, index) => pins[index] ?? null)
  const [left, right] = turned
    ? [padded(unit.right).reverse(), padded(unit.left).reverse()]
    : [padded(unit.left), padded(unit.right)]
  const legs: { pin: string; hole: Hole }[] = []
  const covers: Hole[] = []
  for (let at = 0; at < rows; at += 1) {
    const cover = (on: number, from: number, to: number): void => {
      for (let column = from; column <= to; column += 1) covers.push(holeAt(on, row + at, column))
    }
    const hole = {
      left: holeAt(board, row + at, columns.left),
      right: holeAt(board + columns.over, row + at, columns.right),
    }
    for (const [pin, place] of [
      [left[at], hole.left],
      [right[at], hole.right],
    ] as const)
      if (pin) legs.push({ pin, hole: place })
      else covers.push(place)
    if (columns.over === 0) cover(board, columns.left + 1, columns.right - 1)
    else {
      cover(board, columns.left + 1, 9)
      cover(board + 1, 0, columns.right - 1)
    }
  }
  const shades = rowsBeyond(grid, unit, board, row, rows, turned).flatMap((beyond) =>
    columns.over === 0
      ? span(board, beyond, columns.left, columns.right)
      : [...span(board, beyond, columns.left, 9), ...span(board + 1, beyond, 0, columns.right)],
  )
  return { ref: unit.ref, legs, covers, shades, turned, at: holeAt(board, row, columns.left) }
}

const span = (board: number, row: number, from: number, to: number): Hole[] =>
  Array.from({ length: to - from + 1 }, (_, at) => holeAt(board, row, from + at))

/** Half a hole, in pitches: what reaches so near to its middle covers it. */
const HOLE = 0.2

/** Whole rows that the outline of a unit covers above its first row and below its last, as it stands. */
export function rowsOver(
  { over }: Unit & { kind: 'straddle' | 'row' },
  turned: boolean,
): { readonly above: number; readonly below: number } {
  const [first, last] = [Math.floor(over[0] + HOLE), Math.floor(over[1] + HOLE)]
  return turned ? { above: last, below: first } : { above: first, below: last }
}

/** Rows of a breadboard under what a unit's outline reaches beyond its own. */
function rowsBeyond(
  grid: Grid,
  unit: Unit & { kind: 'straddle' | 'row' },
  board: number,
  row: number,
  rows: number,
  turned: boolean,
): number[] {
  const { above, below } = rowsOver(unit, turned)
  return [
    ...Array.from({ length: above }, (_, at) => row - 1 - at),
    ...Array.from({ length: below }, (_, at) => row + rows + at),
  ].filter((at) => at >= 1 && at <= grid.boards[board]!.rows)
}

/** Seats a row of legs downwards from a hole; a module's body hangs outwards and covers the rails there. */
export function rowSeat(grid: Grid, unit: Unit & { kind: 'row' }, at: Hole, turned: boolean): Seat | undefined {
  const board = boardOfHole(at)
  const column = columnOf(at)
  const row = rowOf(at)
  if (column > 9 || row < 1 || row + unit.pins.length - 1 > grid.boards[board]!.rows) return undefined
  const pins = turned ? [...unit.pins].reverse() : unit.pins
  const legs: { pin: string; hole: Hole }[] = []
  const covers: Hole[] = []
  const left = column < 5
  const reach = unit.hangsOver ? (unit.deep ?? Number.POSITIVE_INFINITY) : 0
  /** Columns and rails between the posts and the outer edge, as far as the body reaches. */
  const outwards = [...(left ? [0, 1, 2, 3, 4, 10, 11] : [5, 6, 7, 8, 9, 12, 13])].filter((other) => {
    const away = (grid.x(holeAt(board, row, other)) - grid.x(at)) * (left ? -1 : 1)
    return away > 0 && away <= reach + HOLE
  })
  pins.forEach((pin, index) => {
    const hole = holeAt(board, row + index, column)
    if (pin !== null) legs.push({ pin, hole })
    for (const other of outwards) covers.push(holeAt(board, row + index, other))
  })
  const shades = unit.hangsOver
    ? rowsBeyond(grid, unit, board, row, pins.length, turned).flatMap((beyond) =>
        [column, ...outwards].map((other) => holeAt(board, beyond, other)),
      )
    : []
  return { ref: unit.ref, legs, covers, shades, turned, at }
}

/** Seats two legs in two holes. Undefined when they cannot be bent to that span. */
export function legsSeat(grid: Grid, unit: Unit & { kind: 'legs' }, a: Hole, b: Hole): Seat | undefined {
  const span = Math.hypot(grid.x(a) - grid.x(b), rowOf(a) - rowOf(b))
  if (span < unit.least - 0.01 || span > unit.most + 0.01) return undefined
  return {
    ref: unit.ref,
    legs: [
      { pin: unit.pins[0], hole: a },
      { pin: unit.pins[1], hole: b },
    ],
    covers: between(a, b),
    shades: [],
    turned: false,
    at: undefined,
  }
}

/** Holes over which a part lies that is bent along a column or a row. */
function between(a: Hole, b: Hole): Hole[] {
  const [first, last] = a < b ? [a, b] : [b, a]
  const board = boardOfHole(a)
  if (board !== boardOfHole(b) || isRail(a) || isRail(b)) return []
  const covers: Hole[] = []
  if (columnOf(a) === columnOf(b))
    for (let row = rowOf(first) + 1; row < rowOf(last); row += 1) covers.push(holeAt(board, row, columnOf(a)))
  else if (rowOf(a) === rowOf(b))
    for (let column = columnOf(first) + 1; column < columnOf(last); column += 1)
      covers.push(holeAt(board, rowOf(a), column))
  return covers
}
