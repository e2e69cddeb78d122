import { seeded } from '../base/random.ts'
import { columnX, type Grid, holeAt, isRail, rowOf } from './grid.ts'
import { type Occupancy, rowSeat, type Seat, type Straddle, straddleSeat, straddles } from './seats.ts'
import type { Unit } from './units.ts'

export type Body = Extract<Unit, { kind: 'straddle' | 'row' }>

export interface ArrangeTask {
  readonly grid: Grid
  readonly occupancy: Occupancy
  readonly bodies: readonly Body[]
  /** Breadboards that a unit may stand on, best first. */
  readonly boardsFor: (ref: string) => readonly number[]
  /** Net of an end that wires must follow; undefined for open pins and for nets that go over rails. */
  readonly wiredNet: (end: string) => number | undefined
  /** True for a pin that needs a wire of any kind. */
  readonly isWired: (end: string) => boolean
  /** Points that do not move, by net: posts beside the breadboard and legs that are placed. */
  readonly still: readonly { readonly net: number; readonly x: number; readonly y: number }[]
  /** Rows left free between bodies. */
  readonly spare: number
  /** Another one gives another arrangement. */
  readonly seed: number
  /** Hears how far it is, between 0 and 1. */
  readonly watch: ((share: number) => void) | undefined
}

/** Rounds of improvement for each body. */
const ROUNDS_PER_BODY = 80
const MOST_ROUNDS = 2400
/** Cost of a body that finds no room, in pitches of wire. */
const NO_ROOM = 2000

interface Spot {
  readonly board: number
  readonly half: 0 | 1
  readonly row: number
  readonly turned: boolean
}

/** Lane and way of a body as one number that the search changes. */
const GENES = 128
const isTurned = (gene: number): boolean => gene >= GENES / 2
/** A chip or a component stands either way; a board keeps its socket outside, a module hangs over the edge. */
const mayTurn = (body: Body): boolean => (body.kind === 'straddle' ? !body.isBoard : !body.hangsOver)

/**
 * Places everything that has a body: boards at the top in plan order, the rest in rows below and beside them, first
 * fit along an order that simulated annealing improves. What is made short is the half-perimeter of each net's box;
 * rails are near everywhere and do not count. The same input gives the same answer.
 */
export function arrange(task: ArrangeTask): { seats: Seat[]; unplaced: Body[] } {
  const { bodies } = task
  const packer = new Packer(task)
  const boards = bodies.flatMap((body, index) => (body.kind === 'straddle' && body.isBoard ? [index] : []))
  const rest = bodies.flatMap((_, index) => (boards.includes(index) ? [] : [index]))
  let order = [...boards, ...rest]
  let lanes = bodies.map((body, index) => (body.kind === 'straddle' && body.isBoard ? 0 : index))
  let best = packer.cost(order, lanes)
  let bestOrder = order
  let bestLanes = lanes
  const random = seeded(bodies.length * 7919 + 17 + task.seed)
  const rounds = rest.length < 2 ? rest.length * 8 : Math.min(MOST_ROUNDS, ROUNDS_PER_BODY * rest.length)
  let now = best
  for (let round = 0; round < rounds; round += 1) {
    if (round % 500 === 0) task.watch?.(round / rounds)
    const heat = 30 * (1 - round / rounds) ** 2 + 0.01
    const nextOrder = [...order]
    const nextLanes = [...lanes]
    const pick = boards.length + Math.floor(random() * rest.length)
    const dice = random()
    if (dice < 0.35 && rest.length > 1) {
      const other = boards.length + Math.floor(random() * rest.length)
      ;[nextOrder[pick], nextOrder[other]] = [nextOrder[other]!, nextOrder[pick]!]
    } else if (dice < 0.65 && rest.length > 1) {
      const [moved] = nextOrder.splice(pick, 1)
      nextOrder.splice(boards.length + Math.floor(random() * rest.length), 0, moved!)
    } else nextLanes[nextOrder[pick]!] = Math.floor(random() * GENES)
    const cost = packer.cost(nextOrder, nextLanes)
    if (cost > now && random() >= Math.exp((now - cost) / heat)) continue
    order = nextOrder
    lanes = nextLanes
    now = cost
    if (cost < best - 1e-9) {
      best = cost
      bestOrder = order
      bestLanes = lanes
    }
  }
  const spots = packer.pack(bestOrder, bestLanes)
  const seats: Seat[] = []
  const unplaced: Body[] = []
  bodies.forEach((body, index) => {
    const spot = spots[index]
    const seat = spot && packer.seat(body, spot)
    if (seat) seats.push(seat)
    else unplaced.push(body)
  })
  return { seats, unplaced }
}

type Ranked = Straddle & { readonly worth: number }

class Packer {
  readonly #task: ArrangeTask
  /** Rows that something stands in, by half. */
  readonly #busyBefore: Uint8Array
  readonly #columns: readonly (readonly (Ranked | undefined)[])[]
  readonly #pins: readonly { slot: number; row: number; side: 0 | 1 }[][]
  readonly #lanes: readonly (readonly { board: number; half: 0 | 1 }[])[]
  readonly #box: Float64Array
  readonly #boxBefore: Float64Array

  constructor(task: ArrangeTask) {
    this.#task = task
    const { grid, occupancy, bodies } = task
    this.#busyBefore = new Uint8Array(grid.boards.length * 128)
    grid.boards.forEach((board, index) => {
      for (let row = 1; row <= board.rows; row += 1)
        for (const half of [0, 1] as const)
          if (!occupancy.isEmpty(holeAt(index, row, half * 5))) this.#busyBefore[(index * 2 + half) * 64 + row] = 1
    })
    this.#columns = bodies.map((body) =>
      body.kind === 'straddle' ? grid.boards.map((_, board) => this.#bestColumns(body, board)) : [],
    )
    this.#lanes = bodies.map((body, index) => {
      const found = task.boardsFor(body.ref).flatMap((board) => {
        const { joinsBefore, joinsNext } = grid.boards[board]!
        if (body.kind === 'straddle') return [{ board, half: 0 as const }]
        // A module between two joined breadboards would lie over the other one's holes.
        return ([0, 1] as const)
          .filter((half) => !body.hangsOver || !(half === 0 ? joinsBefore : joinsNext))
          .map((half) => ({ board, half }))
      })
      // Breadboards on which its pins keep free holes come first.
      const worth = ({ board }: { board: number }): number => this.#columns[index]?.[board]?.worth ?? 0
      return body.kind === 'straddle' ? found.sort((a, b) => worth(b) - worth(a)) : found
    })
    const slots = new Map<number, number>()
    const slot = (net: number): number => {
      const known = slots.get(net)
      if (known !== undefined) return known
      slots.set(net, slots.size)
      return slots.size - 1
    }
    this.#pins = bodies.map((body) => {
      const list: { slot: number; row: number; side: 0 | 1 }[] = []
      const add = (pins: readonly (string | null)[], side: 0 | 1): void =>
        pins.forEach((pin, row) => {
          const net = pin === null ? undefined : task.wiredNet(`${body.ref}.${pin}`)
          if (net !== undefined) list.push({ slot: slot(net), row, side })
        })
      if (body.kind === 'straddle') {
        add(body.left, 0)
        add(body.right, 1)
      } else add(body.pins, 0)
      return list
    })
    const still = task.still.map((one) => ({ ...one, slot: slot(one.net) }))
    this.#boxBefore = new Float64Array(slots.size * 4)
    for (let at = 0; at < slots.size; at += 1) this.#boxBefore.set([1e9, -1e9, 1e9, -1e9], at * 4)
    this.#box = new Float64Array(slots.size * 4)
    for (const { slot: at, x, y } of still) grow(this.#boxBefore, at, x, y)
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

  seat(body: Body, spot: Spot): Seat | undefined {
    const { grid } = this.#task
    if (body.kind === 'row')
      return rowSeat(grid, body, holeAt(spot.board, spot.row, rowColumn(body, spot.half)), spot.turned)
    const columns = this.#columns[this.#task.bodies.indexOf(body)]?.[spot.board]
    return columns && straddleSeat(grid, body, spot.board, columns, spot.row, spot.turned)
  }

  pack(order: readonly number[], lanes: readonly number[]): (Spot | undefined)[] {
    const busy = this.#busyBefore.slice()
    const spots: (Spot | undefined)[] = Array.from({ length: order.length })
    for (const index of order) spots[index] = this.#place(index, lanes[index]!, busy)
    return spots
  }

  #place(index: number, gene: number, busy: Uint8Array): Spot | undefined {
    const { grid, bodies, spare } = this.#task
    const body = bodies[index]!
    const lanes = this.#lanes[index]!
    const length = lengthOf(body)
    const gap = body.kind === 'row' && !body.hangsOver ? 0 : spare
    for (let turn = 0; turn < lanes.length; turn += 1) {
      const { board, half } = lanes[(gene + turn) % lanes.length]!
      const halves = this.#halves(index, board, half)
      if (!halves) continue
      const rows = grid.boards[board]!.rows
      const first = this.#firstFit(busy, halves, rows, length, gap)
      if (first === undefined) continue
      for (const at of halves) busy.fill(1, at * 64 + first, at * 64 + first + length)
      return { board, half, row: first, turned: isTurned(gene) && mayTurn(body) }
    }
    return undefined
  }

  /** First row of a run that is free on all halves, with a gap before and after it that may lie outside. */
  #firstFit(
    busy: Uint8Array,
    halves: readonly number[],
    rows: number,
    length: number,
    gap: number,
  ): number | undefined {
    let start = 1 - gap
    for (let row = 1; row <= rows; row += 1) {
      for (const at of halves)
        if (busy[at * 64 + row] === 1) {
          start = row + 1
          break
        }
      const last = row === rows ? row + gap : row
      if (last - start + 1 >= length + 2 * gap) return start + gap
    }
    return undefined
  }

  #halves(index: number, board: number, half: 0 | 1): number[] | undefined {
    if (this.#task.bodies[index]!.kind === 'row') return [board * 2 + half]
    const columns = this.#columns[index]![board]
    if (!columns) return undefined
    return columns.over === 0 ? [board * 2, board * 2 + 1] : [board * 2, board * 2 + 1, board * 2 + 2]
  }

  cost(order: readonly number[], lanes: readonly number[]): number {
    const { grid, bodies } = this.#task
    const spots = this.pack(order, lanes)
    this.#box.set(this.#boxBefore)
    let cost = 0
    bodies.forEach((body, index) => {
      const spot = spots[index]
      if (!spot) {
        cost += NO_ROOM
        return
      }
      const x = grid.boards[spot.board]!.x
      const columns = body.kind === 'straddle' ? this.#columns[index]![spot.board]! : undefined
      const left = x + columnX(columns ? columns.left : rowColumn(body as Body & { kind: 'row' }, spot.half), 'left')
      const right = columns ? x + columns.over * 14 + columnX(columns.right, 'left') : left
      const last = spot.row + lengthOf(body) - 1
      for (const pin of this.#pins[index]!)
        if (spot.turned) grow(this.#box, pin.slot, pin.side === 0 ? right : left, last - pin.row)
        else grow(this.#box, pin.slot, pin.side === 0 ? left : right, spot.row + pin.row)
    })
    for (let at = 0; at < this.#box.length; at += 4)
      if (this.#box[at + 1]! > -1e9)
        cost += this.#box[at + 1]! - this.#box[at]! + this.#box[at + 3]! - this.#box[at + 2]!
    return cost
  }
}

const lengthOf = (body: Body): number =>
  body.kind === 'row' ? body.pins.length : Math.max(body.left.length, body.right.length)

const rowColumn = (body: Body & { kind: 'row' }, half: 0 | 1): number =>
  body.hangsOver ? (half === 0 ? 0 : 9) : half === 0 ? 2 : 7

function grow(box: Float64Array, slot: number, x: number, y: number): void {
  const at = slot * 4
  if (x < box[at]!) box[at] = x
  if (x > box[at + 1]!) box[at + 1] = x
  if (y < box[at + 2]!) box[at + 2] = y
  if (y > box[at + 3]!) box[at + 3] = y
}

/** Legs of seats as still points. */
export const legPoints = (
  grid: Grid,
  seats: readonly Seat[],
  wiredNet: (end: string) => number | undefined,
): { net: number; x: number; y: number }[] =>
  seats.flatMap((seat) =>
    seat.legs.flatMap(({ pin, hole }) => {
      const net = wiredNet(`${seat.ref}.${pin}`)
      return net === undefined || isRail(hole) ? [] : [{ net, x: grid.x(hole), y: rowOf(hole) }]
    }),
  )
