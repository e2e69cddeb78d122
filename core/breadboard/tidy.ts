import { type Grid, type Hole, rowOf } from './grid.ts'
import type { LaidWire, Point } from './points.ts'
import type { Occupancy } from './seats.ts'
import { type Straight, straightCross } from './straight.ts'

/** A crossing is worth so many pitches of wire. */
export const CROSSING = 6
/** Holes of a rail that are looked at for one wire. */
const RAIL_CHOICE = 8
const PASSES = 2

interface Draft {
  readonly net: number
  readonly a: Point
  readonly b: Point
  holeA: Hole | undefined
  holeB: Hole | undefined
}

/** Gives every wire its holes: near ones first, then again and again those that cross fewer others. */
export function chooseHoles(
  grid: Grid,
  occupancy: Occupancy,
  wires: readonly { net: number; a: Point; b: Point }[],
): LaidWire[] {
  const drafts = wires.map((wire): Draft => ({ ...wire, holeA: undefined, holeB: undefined }))
  const byLength = [...drafts].sort((one, two) => rough(one) - rough(two))
  for (const draft of byLength) place(grid, occupancy, draft, [])
  for (let pass = 0; pass < PASSES; pass += 1)
    for (const draft of byLength) {
      for (const hole of [draft.holeA, draft.holeB]) if (hole !== undefined) occupancy.unplug(hole)
      place(grid, occupancy, draft, drafts)
    }
  return drafts
}

const rough = ({ a, b }: Draft): number =>
  Math.abs(a.x - b.x) + (a.kind === 'rail' || b.kind === 'rail' ? 0 : Math.abs(a.y - b.y))

function place(grid: Grid, occupancy: Occupancy, draft: Draft, others: readonly Draft[]): void {
  const near = (point: Point, other: Point): (Hole | undefined)[] => {
    if (point.node === undefined) return [undefined]
    const free = occupancy.free(point.node)
    if (point.kind !== 'rail') return free
    return free.sort((a, b) => Math.abs(rowOf(a) - other.y) - Math.abs(rowOf(b) - other.y)).slice(0, RAIL_CHOICE)
  }
  const rail = draft.a.kind === 'rail' && draft.b.kind === 'rail'
  const from = near(draft.a, rail ? bridgeAnchor(grid, draft.b) : draft.b)
  const to = near(draft.b, rail ? bridgeAnchor(grid, draft.a) : draft.a)
  const crossing = others.filter((one) => one !== draft).map((one) => lineOf(grid, one))
  let least = Number.POSITIVE_INFINITY
  for (const holeA of from)
    for (const holeB of to) {
      const line = lineOf(grid, { ...draft, holeA, holeB })
      const length = Math.hypot(line[0] - line[2], line[1] - line[3])
      let cost = length
      for (let at = 0; at < crossing.length && cost < least; at += 1)
        if (straightCross(line, crossing[at]!)) cost += CROSSING
      if (cost >= least) continue
      least = cost
      draft.holeA = holeA
      draft.holeB = holeB
    }
  for (const hole of [draft.holeA, draft.holeB])
    if (hole !== undefined) occupancy.plug(hole, `a wire of ${draft.a.end ?? draft.b.end ?? 'a rail'}`)
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
