import { boardOfHole, columnOf, type Grid, type Hole, holeAt, isRail, type Node, rowOf } from './grid.ts'
import { legsSeat, type Occupancy, type Seat } from './seats.ts'
import type { Unit } from './units.ts'

export type Legged = Unit & { kind: 'legs' }

export interface LeggedTask {
  readonly grid: Grid
  readonly occupancy: Occupancy
  readonly units: readonly Legged[]
  /** All lamps of the bench, also those that stand already. */
  readonly lamps: readonly Legged[]
  readonly boardsFor: (ref: string) => readonly number[]
  readonly netOf: (end: string) => number
  /** Ends of a net that must be joined. */
  readonly endsOf: (net: number) => readonly string[]
  /** Nodes in which legs of others may stand: not those of a source, which would come alive too early. */
  readonly mayShare: (node: Node) => boolean
  /** Hole of an end that stands in one. */
  readonly holeOf: Map<string, Hole>
  readonly pointsOf: (net: number) => readonly { readonly x: number; readonly y: number }[]
}

/** A wire that a leg saves is worth so many pitches of length. */
const WIRE = 14
/** A lamp is so many pitches broad (5 mm), and two of them closer together cost so much. */
const LAMP = 2
const CROWDED = 60
/** Taking the last hole of a strip that still needs one. */
const LAST_HOLE = 400

/** Places two-legged parts one after the other, those first that touch what is placed; a leg shares a strip where it can. */
export function placeLegged(task: LeggedTask): { seats: Seat[]; unplaced: Legged[] } {
  const { occupancy, netOf, holeOf } = task
  const seats: Seat[] = []
  const unplaced: Legged[] = []
  const left = [...task.units]
  const touching = (unit: Legged): number =>
    unit.pins.filter((pin) => task.pointsOf(netOf(`${unit.ref}.${pin}`)).length > 0).length
  while (left.length > 0) {
    const next = left.reduce((best, unit) => (touching(unit) > touching(best) ? unit : best))
    left.splice(left.indexOf(next), 1)
    const seat = bestSeat(task, next)
    if (!seat) {
      unplaced.push(next)
      continue
    }
    occupancy.take(seat)
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
    seats.push(seat)
  }
  return { seats, unplaced }
}

function bestSeat(task: LeggedTask, unit: Legged): Seat | undefined {
  const { grid, occupancy, netOf } = task
  const nets = unit.pins.map((pin) => netOf(`${unit.ref}.${pin}`)) as [number, number]
  if (nets[0] === nets[1]) return onFirstBoards(task, unit, nets, (board) => emptyHoles(task, board))
  const own = (net: number): Hole[] => nodesOf(task, unit, net).flatMap((node) => occupancy.free(node))
  const anchors = nets.map(own) as [Hole[], Hole[]]
  const pairs = [
    ...pairsFrom(task, unit, anchors[0]),
    ...pairsFrom(task, unit, anchors[1]).map(([a, b]): [Hole, Hole] => [b, a]),
  ]
  return (
    bestOf(task, unit, nets, pairs) ??
    onFirstBoards(task, unit, nets, (board) => emptyHoles(task, board)) ??
    // A rail or strip of its own is full or out of reach: anywhere that is legal.
    onFirstBoards(task, unit, nets, (board) => allHoles(grid, board))
  )
}

/** Breadboards that are looked at together; further ones only when none of these has room. */
const BOARDS_AT_ONCE = 4

/** The best seat from given first holes, on the first breadboards that have one. */
function onFirstBoards(
  task: LeggedTask,
  unit: Legged,
  nets: readonly [number, number],
  holesOf: (board: number) => readonly Hole[],
): Seat | undefined {
  const boards = task.boardsFor(unit.ref)
  for (let at = 0; at < boards.length; at += BOARDS_AT_ONCE) {
    const firsts = boards.slice(at, at + BOARDS_AT_ONCE).flatMap(holesOf)
    const seat = bestOf(task, unit, nets, pairsFrom(task, unit, firsts))
    if (seat) return seat
  }
  return undefined
}

function bestOf(
  task: LeggedTask,
  unit: Legged,
  nets: readonly [number, number],
  pairs: readonly [Hole, Hole][],
): Seat | undefined {
  let best: Seat | undefined
  let least = Number.POSITIVE_INFINITY
  for (const [a, b] of pairs) {
    const cost = priceOf(task, nets, a, b)
    if (cost >= least) continue
    const seat = legsSeat(task.grid, unit, a, b)
    if (!seat || task.occupancy.refusal(seat)) continue
    const total = cost + LAST_HOLE * squeezed(task, seat) + (unit.isLamp ? CROWDED * crowded(task, seat) : 0)
    if (total >= least) continue
    best = seat
    least = total
  }
  return best
}

/** Other lamps on which one would press there. */
function crowded({ grid, lamps, holeOf }: LeggedTask, { ref, legs }: Seat): number {
  const middle = (a: Hole, b: Hole): readonly [number, number] => [
    (grid.x(a) + grid.x(b)) / 2,
    (rowOf(a) + rowOf(b)) / 2,
  ]
  const [x, y] = middle(legs[0]!.hole, legs[1]!.hole)
  return lamps.filter((lamp) => {
    const [a, b] = lamp.pins.map((pin) => holeOf.get(`${lamp.ref}.${pin}`))
    if (lamp.ref === ref || a === undefined || b === undefined) return false
    const [otherX, otherY] = middle(a, b)
    return Math.hypot(otherX - x, otherY - y) < LAMP
  }).length
}

/** Strips that need a wire yet and would be left without a free hole. */
function squeezed(task: LeggedTask, seat: Seat): number {
  const { grid, occupancy } = task
  const gone = new Set([...seat.legs.map(({ hole }) => hole), ...seat.covers])
  let count = 0
  for (const node of new Set([...gone].map((hole) => grid.node(hole)))) {
    const leg = seat.legs.find(({ hole }) => grid.node(hole) === node)
    const net = leg ? task.netOf(`${seat.ref}.${leg.pin}`) : occupancy.net(node)
    if (net === undefined || isRail(node)) continue
    if (!occupancy.free(node).some((hole) => !gone.has(hole)) && hasMoreThan(task, net, node)) count += 1
  }
  return count
}

function priceOf(task: LeggedTask, nets: readonly [number, number], a: Hole, b: Hole): number {
  const { grid, occupancy } = task
  if (grid.node(a) === grid.node(b)) return Number.POSITIVE_INFINITY
  let cost = Math.abs(rowOf(a) - rowOf(b)) / 8 + Math.abs(grid.x(a) - grid.x(b)) / 8
  for (let index = 0; index < 2; index += 1) {
    const hole = index === 0 ? a : b
    const node = grid.node(hole)
    const net = nets[index]!
    const held = occupancy.net(node)
    if (held !== undefined && (held !== net || !task.mayShare(node))) return Number.POSITIVE_INFINITY
    const elsewhere = task.endsOf(net).length > 1
    if (held === undefined) {
      if (isRail(node)) return Number.POSITIVE_INFINITY
      if (elsewhere) cost += WIRE + nearest(task, net, hole)
    }
  }
  return cost
}

/** The net has ends besides this one that do not stand in the strip. */
const hasMoreThan = (task: LeggedTask, net: number, node: Node): boolean =>
  task.endsOf(net).filter((end) => {
    const hole = task.holeOf.get(end)
    return hole === undefined || task.grid.node(hole) !== node
  }).length > 1

function nearest(task: LeggedTask, net: number, hole: Hole): number {
  const [left, row] = [task.grid.x(hole), rowOf(hole)]
  let least = 60 * 60
  for (const { x, y } of task.pointsOf(net)) least = Math.min(least, (x - left) ** 2 + (y - row) ** 2)
  return Math.sqrt(least)
}

/** Nodes that carry the net and may be shared. */
function nodesOf(task: LeggedTask, unit: Legged, net: number): Node[] {
  const found = new Set<Node>()
  for (const end of task.endsOf(net)) {
    const hole = task.holeOf.get(end)
    if (hole !== undefined && task.mayShare(task.grid.node(hole))) found.add(task.grid.node(hole))
  }
  for (const board of task.boardsFor(unit.ref))
    for (const rail of task.grid.boards[board]!.rails)
      for (const node of task.grid.pieces(board, rail)) if (task.occupancy.net(node) === net) found.add(node)
  return [...found]
}

/** Middle holes of strips that hold nothing. */
const emptyHoles = (task: LeggedTask, board: number): Hole[] =>
  allHoles(task.grid, board).filter(
    (hole) => (columnOf(hole) === 2 || columnOf(hole) === 7) && task.occupancy.isEmpty(task.grid.node(hole)),
  )

function allHoles(grid: Grid, board: number): Hole[] {
  const holes: Hole[] = []
  for (let row = 1; row <= grid.boards[board]!.rows; row += 1)
    for (let column = 0; column < 10; column += 1) holes.push(holeAt(board, row, column))
  return holes
}

/** Pairs of holes from given first holes: along the column, over the trench, or to a rail beside it. */
function pairsFrom(task: LeggedTask, unit: Legged, firsts: readonly Hole[]): [Hole, Hole][] {
  const { grid } = task
  const pairs: [Hole, Hole][] = []
  const most = Math.floor(unit.most)
  for (const first of firsts) {
    const board = boardOfHole(first)
    const { rows } = grid.boards[board]!
    if (!isRail(first))
      for (let span = Math.ceil(unit.least); span <= most; span += 1)
        for (const row of [rowOf(first) - span, rowOf(first) + span])
          if (row >= 1 && row <= rows) pairs.push([first, holeAt(board, row, columnOf(first))])
    for (let column = 0; column < 14; column += 1) {
      const other = holeAt(board, rowOf(first), column)
      if (!grid.has(other) || grid.node(other) === grid.node(first)) continue
      const span = Math.abs(grid.x(first) - grid.x(other))
      if (span >= unit.least && span <= unit.most) pairs.push([first, other])
    }
  }
  return pairs
}
