import { entryOf } from '../base/entryOf.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Spot } from './aside.ts'
import { breadboardKinds, Grid, type Hole, type Node } from './grid.ts'
import { breadboardsByHome } from './homes.ts'
import { type Placer, placeAll, type Room, wantedSeat } from './placing.ts'
import type { LaidWire } from './points.ts'
import { assignRails } from './rails.ts'
import { Router } from './router.ts'
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
  /** Rails used on both sides of a gap that is not bridged. */
  readonly gaps: readonly { readonly breadboard: string; readonly rail: string; readonly net: number }[]
  readonly stats: { readonly pitches: number; readonly crossings: number; readonly shared: number }
}

/** A layout without what can be made anew from the plan: plain data that crosses from one thread to another. */
export type LayoutData = Omit<Layout, 'grid' | 'units'>

const layouts = new WeakMap<Wiring, Layout>()

/** Takes over a layout that another thread has worked out for the same plan. */
export function adoptLayout(wiring: Wiring, data: LayoutData): Layout {
  const layout = { ...data, grid: new Grid(wiring.plan.bench?.breadboards ?? {}), units: unitsOf(wiring) }
  layouts.set(wiring, layout)
  return layout
}

export function layoutData(layout: Layout): LayoutData {
  const { grid: _, units: __, ...data } = layout
  return data
}

/** The layout of a plan with a bench; undefined for one without breadboards. The same wiring gives the same object. */
export function layoutOf(wiring: Wiring): Layout | undefined {
  const { bench } = wiring.plan
  if (!bench || Object.keys(bench.breadboards).length === 0) return undefined
  let layout = layouts.get(wiring)
  if (!layout) {
    layout = layOut(wiring)
    layouts.set(wiring, layout)
  }
  return layout
}

/** Placings that are routed to the end, of which the best is taken; one less for a small bench. */
const ATTEMPTS = 4

/** Lays a bench out, with another placer only once. */
export function layOut(wiring: Wiring, placer?: Placer, watch?: (share: number) => void): Layout {
  if (placer) return attempt(wiring, placer, 0, watch)
  let best: Layout | undefined
  const attempts = wiring.parts.length > 12 ? ATTEMPTS : ATTEMPTS - 1
  for (let seed = 0; seed < attempts; seed += 1) {
    const one = attempt(wiring, placeAll, seed, (share) => watch?.((seed + share) / attempts))
    if (!best || priceOf(one) < priceOf(best)) best = one
    // Everything was put down by hand: there is nothing to choose.
    if (one.units.every(({ ref, kind }) => kind === 'legs' || one.kept.has(ref) || !one.seats.has(ref))) break
  }
  return best!
}

/** Pitches of wire, crossings counted as CROSSING more, and dearly what is not connected. */
const priceOf = ({ stats, stray, blocked }: Layout): number =>
  stats.pitches + CROSSING * stats.crossings + 2000 * (stray.length + blocked.length)

function attempt(wiring: Wiring, placer: Placer, seed: number, watch: Room['watch']): Layout {
  const bench = wiring.plan.bench!
  const grid = new Grid(bench.breadboards)
  const units = unitsOf(wiring)
  const netOf = (end: string): number => wiring.netOf(end).index
  const occupancy = new Occupancy(grid, netOf)
  const boardsFor = breadboardsByHome(wiring, grid)
  const rails = assignRails(wiring, grid, units, boardsFor)
  for (const [node, net] of rails) occupancy.claim(node, net)
  const holeOf = new Map<string, Hole>()
  const keep = (seat: Seat): void => {
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
  }

  const clashes: Layout['clashes'][number][] = []
  const fixed: Seat[] = []
  for (const unit of units) {
    const place = entryOf(bench.places, unit.ref)
    if (!place || place.beside) continue
    const wanted = wantedSeat(grid, unit, place)
    if (wanted === undefined) continue
    const refusal =
      typeof wanted === 'string' ? { text: wanted, hole: undefined, by: undefined } : occupancy.refusal(wanted)
    if (refusal || typeof wanted === 'string') {
      const hole =
        refusal?.hole === undefined ? (place.at ?? Object.values(place.legs ?? {})[0] ?? '') : grid.name(refusal.hole)
      clashes.push({ ref: unit.ref, hole, text: refusal?.text ?? '', by: refusal?.by })
      continue
    }
    occupancy.take(wanted)
    keep(wanted)
    fixed.push(wanted)
  }
  const seated = new Set(fixed.map((seat) => seat.ref))
  const open = units.filter((unit) => !seated.has(unit.ref))
  const placed = placer({
    wiring,
    grid,
    occupancy,
    open,
    fixed,
    seated: units.filter((unit) => seated.has(unit.ref)),
    boardsFor,
    rails,
    holeOf,
    seed,
    watch,
  })
  const { posts } = placed
  const seats = new Map([...fixed, ...placed.seats].map((seat) => [seat.ref, seat]))
  const stray = placed.unplaced.map((unit) => ({ ref: unit.ref, text: strayText(grid, unit) }))

  const router = new Router(wiring, grid, occupancy, units, holeOf, posts, rails, boardsFor)
  const drafts = wiring.nets.flatMap((net) => (net.wired ? router.route(net.index) : []))
  const wires = chooseHoles(grid, occupancy, drafts)
  const lines = wires.map((wire) => lineOf(grid, wire))
  return {
    grid,
    units,
    seats,
    posts,
    holeOf,
    wires,
    nodes: occupancy.nets,
    rails,
    stray,
    blocked: router.blocked,
    clashes,
    kept: seated,
    gaps: router.gaps,
    stats: {
      pitches: lines.reduce((sum, [x1, y1, x2, y2]) => sum + Math.hypot(x1 - x2, y1 - y2), 0),
      crossings: countCrossings(lines),
      shared: countShared(grid, holeOf),
    },
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
