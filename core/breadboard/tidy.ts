import { type Grid, type Hole, type Node, rowOf } from './grid.ts'
import { apart, canJoin, type Join, type LaidWire, type Point } from './points.ts'
import type { Group } from './route.ts'
import type { Occupancy } from './seats.ts'
import { type Straight, straightCross } from './straight.ts'

/** A crossing is worth so many pitches of wire. */
export const CROSSING = 3
/** Holes of a rail that are looked at for one wire. */
const RAIL_CHOICE = 8
const PASSES = 2

interface Draft {
  readonly net: number
  a: Point
  b: Point
  /** Hole at `b` that the maker chose. */
  readonly chosen: Hole | undefined
  holeA: Hole | undefined
  holeB: Hole | undefined
}

/**
 * Gives every wire its holes: near ones first, then again and again those that cross fewer others. A wire that crosses
 * others still may join its net elsewhere, between the same two halves of it, where `groups` tell the points of each net
 * that hang together without a wire.
 */
export function chooseHoles(
  grid: Grid,
  occupancy: Occupancy,
  wires: readonly (Join & { readonly net: number })[],
  groups: ReadonlyMap<number, readonly Group[]> | undefined,
): LaidWire[] {
  const drafts = wires.map(
    ({ net, a, b, holeB }): Draft => ({ net, a, b, chosen: holeB, holeA: undefined, holeB: undefined }),
  )
  const byLength = [...drafts].sort((one, two) => rough(one) - rough(two))
  for (const draft of byLength) place(grid, occupancy, draft, [])
  const lines = new Map(drafts.map((draft) => [draft, lineOf(grid, draft)]))
  for (let pass = 0; pass < PASSES; pass += 1)
    for (const draft of byLength) {
      unplug(occupancy, draft)
      lines.delete(draft)
      const others = [...lines.values()]
      const cost = place(grid, occupancy, draft, others)
      const own = groups?.get(draft.net)
      if (pass > 0 && own && cost - lengthOf(lineOf(grid, draft)) >= CROSSING)
        leadElsewhere(grid, occupancy, draft, cost, { others, drafts, groups: own })
      lines.set(draft, lineOf(grid, draft))
    }
  return drafts
}

const lengthOf = ([x1, y1, x2, y2]: Straight): number => Math.hypot(x1 - x2, y1 - y2)

/** Joins the two halves of a net that a wire joins at other points of them, where that costs less. */
function leadElsewhere(
  grid: Grid,
  occupancy: Occupancy,
  draft: Draft,
  before: number,
  task: { readonly others: readonly Straight[]; readonly drafts: readonly Draft[]; readonly groups: readonly Group[] },
): void {
  const { others, groups } = task
  const rest = task.drafts.filter((one) => one.net === draft.net && one !== draft)
  // The maker's hole stays, as does a row of wires alone, and what bridges rails.
  if (draft.chosen !== undefined || isTied(draft.a) || isTied(draft.b)) return
  if (draft.a.kind === 'rail' && draft.b.kind === 'rail') return
  const [mine, theirs] = halves(groups, rest, draft)
  const was = { a: draft.a, b: draft.b, holeA: draft.holeA, holeB: draft.holeB }
  unplug(occupancy, draft)
  const ways: { readonly a: Point; readonly b: Point; readonly near: number }[] = []
  for (const a of mine)
    for (const b of theirs) {
      if ((a.kind === 'rail' && b.kind === 'rail') || !canJoin(a, b)) continue
      const near = a.kind === 'rail' || b.kind === 'rail' ? Math.abs(a.x - b.x) - 2 : apart(a, b)
      if (near < before) ways.push({ a, b, near })
    }
  let least = before
  let best = was
  for (const { a, b, near } of ways.sort((one, two) => one.near - two.near)) {
    if (near >= least) break
    draft.a = a
    draft.b = b
    const cost = find(grid, occupancy, draft, others, least)
    if (cost >= least - 0.01) continue
    least = cost
    best = { a, b, holeA: draft.holeA, holeB: draft.holeB }
  }
  Object.assign(draft, best)
  plug(occupancy, draft)
}

/** A row in which only wires meet. */
const isTied = (point: Point): boolean => point.kind === 'strip' && point.end === undefined

/** Points of a net that still take a wire, on either side of one that is taken away; none where it is no bridge. */
function halves(groups: readonly Group[], rest: readonly Draft[], { a, b }: Draft): readonly [Point[], Point[]] {
  const indexOf = new Map<Point, number>()
  groups.forEach((group, index) => {
    for (const point of group) indexOf.set(point, index)
  })
  const root = groups.map((_, index) => index)
  const rootOf = (point: Point): number => {
    let at = indexOf.get(point) ?? -1
    while (at >= 0 && root[at] !== at) at = root[at]!
    return at
  }
  const busy = new Set<Point>()
  for (const one of rest) {
    const [from, to] = [rootOf(one.a), rootOf(one.b)]
    if (from >= 0 && to >= 0) root[from] = to
    busy.add(one.a).add(one.b)
  }
  const [from, to] = [rootOf(a), rootOf(b)]
  if (from < 0 || to < 0 || from === to) return [[], []]
  const open = (side: number): Point[] =>
    groups.flatMap((group) =>
      group[0] && rootOf(group[0]) === side
        ? group.filter((point) => !isTied(point) && (point.node !== undefined || (point.free > 0 && !busy.has(point))))
        : [],
    )
  return [open(from), open(to)]
}

function unplug(occupancy: Occupancy, { holeA, holeB }: Draft): void {
  for (const hole of [holeA, holeB]) if (hole !== undefined) occupancy.unplug(hole)
}

function plug(occupancy: Occupancy, { a, b, holeA, holeB }: Draft): void {
  for (const hole of [holeA, holeB])
    if (hole !== undefined) occupancy.plug(hole, `a wire of ${a.end ?? b.end ?? 'a rail'}`)
}

const rough = ({ a, b }: Draft): number =>
  Math.abs(a.x - b.x) + (a.kind === 'rail' || b.kind === 'rail' ? 0 : Math.abs(a.y - b.y))

interface Choice {
  readonly hole: Hole | undefined
  readonly x: number
  readonly y: number
}

/** Plugs a wire where it costs least, and says what that is. */
function place(grid: Grid, occupancy: Occupancy, draft: Draft, others: readonly Straight[]): number {
  const cost = find(grid, occupancy, draft, others, Number.POSITIVE_INFINITY)
  plug(occupancy, draft)
  return cost
}

/** Looks for the holes of a wire that cost less than `most`; `most` where there are none. */
function find(grid: Grid, occupancy: Occupancy, draft: Draft, others: readonly Straight[], most: number): number {
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
  let least = most
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
  return least
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
