import { type Grid, type Hole, type Node, rowOf } from './grid.ts'
import type { Join, LaidWire, Point } from './points.ts'
import type { Occupancy } from './seats.ts'
import { type Straight, straightCross } from './straight.ts'

/** A crossing is worth so many pitches of wire. */
export const CROSSING = 3
/** Holes of a rail that are looked at for one wire. */
const RAIL_CHOICE = 8
const PASSES = 2

interface Draft {
  readonly net: number
  readonly a: Point
  readonly b: Point
  /** Hole at `b` that the maker chose. */
  readonly chosen: Hole | undefined
  holeA: Hole | undefined
  holeB: Hole | undefined
}

/** Gives every wire its holes: near ones first, then again and again those that cross fewer others. */
export function chooseHoles(
  grid: Grid,
  occupancy: Occupancy,
  wires: readonly (Join & { readonly net: number })[],
): LaidWire[] {
  const drafts = wires.map(
    ({ net, a, b, holeB }): Draft => ({ net, a, b, chosen: holeB, holeA: undefined, holeB: undefined }),
  )
  const byLength = [...drafts].sort((one, two) => rough(one) - rough(two))
  for (const draft of byLength) place(grid, occupancy, draft, [])
  const lines = new Map(drafts.map((draft) => [draft, lineOf(grid, draft)]))
  for (let pass = 0; pass < PASSES; pass += 1)
    for (const draft of byLength) {
      for (const hole of [draft.holeA, draft.holeB]) if (hole !== undefined) occupancy.unplug(hole)
      lines.delete(draft)
      place(grid, occupancy, draft, [...lines.values()])
      lines.set(draft, lineOf(grid, draft))
    }
  return drafts
}

const rough = ({ a, b }: Draft): number =>
  Math.abs(a.x - b.x) + (a.kind === 'rail' || b.kind === 'rail' ? 0 : Math.abs(a.y - b.y))

interface Choice {
  readonly hole: Hole | undefined
  readonly x: number
  readonly y: number
}

function place(grid: Grid, occupancy: Occupancy, draft: Draft, others: readonly Straight[]): void {
  const near = (point: Point, other: Point): Choice[] => {
    if (point.node === undefined) return [{ hole: undefined, x: point.x, y: point.y }]
    const free = point.kind === 'rail' ? nearestFree(grid, occupancy, point.node, other.y) : occupancy.free(point.node)
    return free.map((hole) => ({ hole, x: grid.x(hole), y: rowOf(hole) }))
  }
  const rail = draft.a.kind === 'rail' && draft.b.kind === 'rail'
  const from = near(draft.a, rail ? bridgeAnchor(grid, draft.b) : draft.b)
  const { chosen } = draft
  const to =
    chosen === undefined
      ? near(draft.b, rail ? bridgeAnchor(grid, draft.a) : draft.a)
      : [{ hole: chosen, x: grid.x(chosen), y: rowOf(chosen) }]
  const xs = [...from, ...to].map(({ x }) => x)
  const ys = [...from, ...to].map(({ y }) => y)
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const inTheWay = others.filter(
    ([x1, y1, x2, y2]) =>
      Math.max(x1, x2) >= left && Math.min(x1, x2) <= right && Math.max(y1, y2) >= top && Math.min(y1, y2) <= bottom,
  )
  let least = Number.POSITIVE_INFINITY
  for (const a of from)
    for (const b of to) {
      let cost = Math.hypot(a.x - b.x, a.y - b.y)
      if (cost >= least) continue
      const line: Straight = [a.x, a.y, b.x, b.y]
      for (let at = 0; at < inTheWay.length && cost < least; at += 1)
        if (straightCross(line, inTheWay[at]!)) cost += CROSSING
      if (cost >= least) continue
      least = cost
      draft.holeA = a.hole
      draft.holeB = b.hole
    }
  for (const hole of [draft.holeA, draft.holeB])
    if (hole !== undefined) occupancy.plug(hole, `a wire of ${draft.a.end ?? draft.b.end ?? 'a rail'}`)
}

/** Free holes of a rail around a row, the nearest first. */
function nearestFree(grid: Grid, occupancy: Occupancy, node: Node, row: number): Hole[] {
  const holes = grid.holes(node)
  let below = holes.findIndex((hole) => rowOf(hole) >= row)
  if (below < 0) below = holes.length
  let above = below - 1
  const found: Hole[] = []
  while (found.length < RAIL_CHOICE && (above >= 0 || below < holes.length)) {
    const up = above >= 0 ? row - rowOf(holes[above]!) : Number.POSITIVE_INFINITY
    const down = below < holes.length ? rowOf(holes[below]!) - row : Number.POSITIVE_INFINITY
    const next = up < down ? holes[above--]! : holes[below++]!
    if (occupancy.isFree(next)) found.push(next)
  }
  return found
}

/** Where a bridge starts: the gap between the pieces, or the end of the breadboard. */
function bridgeAnchor(grid: Grid, other: Point): Point {
  const { gapAt } = grid.board(other.node!)
  return { ...other, y: gapAt ?? 1 }
}

export function lineOf(grid: Grid, wire: Pick<LaidWire, 'a' | 'b' | 'holeA' | 'holeB'>): Straight {
  const at = (point: Point, hole: Hole | undefined): [number, number] =>
    hole === undefined ? [point.x, point.y] : [grid.x(hole), rowOf(hole)]
  return [...at(wire.a, wire.holeA), ...at(wire.b, wire.holeB)]
}
