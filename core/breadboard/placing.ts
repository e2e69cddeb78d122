import { entryOf } from '../base/entryOf.ts'
import { splitEnd } from '../plan/ends.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { arrange, type Body, legPoints } from './arrange.ts'
import { boardOfHole, columnOf, type Grid, type Hole, isRail, type Node, rowOf } from './grid.ts'
import { placeLegged } from './legged.ts'
import type { Spot } from './posts.ts'
import { legsSeat, type Occupancy, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import type { Unit } from './units.ts'

export interface Placing {
  readonly seats: readonly Seat[]
  readonly unplaced: readonly Unit[]
}

/** A way to place bodies and legged parts, so that others can be measured against ours. */
export type Placer = (room: Room) => Placing

/** What a placer works with. */
export interface Room {
  readonly wiring: Wiring
  readonly grid: Grid
  readonly occupancy: Occupancy
  readonly open: readonly Unit[]
  readonly fixed: readonly Seat[]
  readonly boardsFor: (ref: string) => readonly number[]
  readonly posts: ReadonlyMap<string, Spot>
  readonly rails: ReadonlyMap<Node, number>
  readonly holeOf: Map<string, Hole>
  readonly seed: number
  /** Hears how far it is, between 0 and 1. */
  readonly watch: ((share: number) => void) | undefined
}

/** Bodies first, then parts on two legs. */
export function placeAll(room: Room): Placing {
  const { wiring, grid, occupancy, open, fixed, boardsFor, posts, rails, holeOf, seed, watch } = room
  const netOf = (end: string): number => wiring.netOf(end).index
  const overRails = new Set(rails.values())
  const isWired = (end: string): boolean => wiring.netOf(end).wired
  const wiredNet = (end: string): number | undefined =>
    isWired(end) && !overRails.has(netOf(end)) ? netOf(end) : undefined
  const bodies = open.filter((unit): unit is Body => unit.kind === 'straddle' || unit.kind === 'row')
  const arranged = arrange({
    grid,
    occupancy,
    bodies,
    boardsFor,
    wiredNet,
    isWired,
    spare: wiring.plan.bench?.spareRows ?? 1,
    seed,
    watch,
    still: [
      ...legPoints(grid, fixed, wiredNet),
      ...[...posts].flatMap(([end, at]) => {
        const net = wiredNet(end)
        return net === undefined ? [] : [{ net, ...at }]
      }),
    ],
  })
  for (const seat of arranged.seats) {
    occupancy.take(seat)
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
  }
  const legged = placeLegged({
    grid,
    occupancy,
    units: open.filter((unit): unit is Unit & { kind: 'legs' } => unit.kind === 'legs'),
    boardsFor,
    netOf,
    endsOf: (net) => wiring.nets[net]!.ends,
    mayShare: sharing(wiring, grid, holeOf),
    holeOf,
    pointsOf: (net) =>
      wiring.nets[net]!.ends.flatMap((end) => {
        const hole = holeOf.get(end)
        if (hole !== undefined) return [{ x: grid.x(hole), y: rowOf(hole) }]
        const post = posts.get(end)
        return post ? [post] : []
      }),
  })
  return { seats: [...arranged.seats, ...legged.seats], unplaced: [...arranged.unplaced, ...legged.unplaced] }
}

/** The pin of a source keeps its strip to itself: what shares it would be live before the last step. */
function sharing(wiring: Wiring, grid: Grid, holeOf: ReadonlyMap<string, Hole>): (node: Node) => boolean {
  let live = new Set<Node>()
  let of = -1
  return (node) => {
    if (isRail(node)) return true
    if (of !== holeOf.size) {
      of = holeOf.size
      live = new Set(
        [...holeOf].flatMap(([end, hole]) => {
          const { ref } = splitEnd(end)
          return wiring.netOf(end).sources.some((source) => source.ref === ref) ? [grid.node(hole)] : []
        }),
      )
    }
    return !live.has(node)
  }
}

/** The seat that the maker asked for; words where there is no such place; undefined where nothing was asked. */
export function wantedSeat(grid: Grid, unit: Unit, place: BenchPlace): Seat | string | undefined {
  if (unit.kind === 'legs' && place.legs) {
    const [a, b] = unit.pins.map((pin) => grid.parse(entryOf(place.legs, pin) ?? ''))
    if (a === undefined || b === undefined) return 'names no hole for each of its legs'
    return (
      legsSeat(grid, unit, a, b) ??
      `its legs cannot be bent to that span; they reach over ${unit.least} to ${unit.most} holes`
    )
  }
  if (place.at === undefined) return undefined
  const at = grid.parse(place.at)
  if (at === undefined) return `there is no hole ${place.at}`
  const turned = place.turned === true
  if (unit.kind === 'row') return rowSeat(grid, unit, at, turned) ?? 'it would stand over the end of the breadboard'
  if (unit.kind === 'straddle') {
    const columns = straddles(grid, boardOfHole(at), unit.rowsApart).find((one) => one.left === columnOf(at))
    if (!columns) return `its rows, ${unit.rowsApart} holes apart, find no place over the trench from there`
    return (
      straddleSeat(grid, unit, boardOfHole(at), columns, rowOf(at), turned) ??
      'it would stand over the end of the breadboard'
    )
  }
  return undefined
}
