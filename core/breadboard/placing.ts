import { entryOf } from '../base/entryOf.ts'
import { splitEnd } from '../plan/ends.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { type Body, Ground, MovableBody } from './arrange.ts'
import { asideOf, Margins, MovableAside, type Spot } from './aside.ts'
import { EndsOfNets } from './endsOfNets.ts'
import { boardOfHole, columnOf, type Grid, type Hole, isRail, type Node, rowOf } from './grid.ts'
import { placeLegged } from './legged.ts'
import { legsSeat, type Occupancy, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import { settle } from './settle.ts'
import type { Unit } from './units.ts'

export interface Placing {
  readonly seats: readonly Seat[]
  /** Places of posts and leads beside the breadboards, by end. */
  readonly posts: ReadonlyMap<string, Spot>
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
  /** Units of those seats. */
  readonly seated: readonly Unit[]
  readonly boardsFor: (ref: string) => readonly number[]
  readonly rails: ReadonlyMap<Node, number>
  readonly holeOf: Map<string, Hole>
  readonly seed: number
  /** Hears how far it is, between 0 and 1. */
  readonly watch: ((share: number) => void) | undefined
}

/** Rounds of improvement for each thing that may be moved, and at most. */
const ROUNDS_EACH = 220
const MOST_ROUNDS = 4400

/** Bodies and what lies beside together, then parts on two legs. */
export function placeAll(room: Room): Placing {
  const { wiring, grid, occupancy, open, fixed, boardsFor, rails, holeOf, seed, watch } = room
  const netOf = (end: string): number => wiring.netOf(end).index
  const ground = new Ground({
    grid,
    occupancy,
    bodies: open.filter((unit): unit is Body => unit.kind === 'straddle' || unit.kind === 'row'),
    boardsFor,
    isWired: (end) => wiring.netOf(end).wired,
    spare: wiring.plan.bench?.spareRows ?? 1,
    seed,
  })
  const margins = new Margins(grid, boardsFor)
  const legged = open.filter((unit): unit is Unit & { kind: 'legs' } => unit.kind === 'legs')
  const ends = new EndsOfNets(wiring, grid, rails, legged)
  for (const seat of fixed) ends.standStill(seat)
  const unplaced: Unit[] = []
  const bodies = [...ground.pack()].flatMap(([body, spot]): MovableBody[] => {
    if (!spot) unplaced.push(body)
    return spot ? [new MovableBody(ground, body, spot, ends.of(body.ref, pinsInHoles(body)))] : []
  })
  const asides = [...open, ...room.seated].flatMap((unit): MovableAside[] => {
    const aside = asideOf(unit)
    if (!aside) return []
    const spot = margins.first(aside)
    margins.put(aside, spot)
    return [new MovableAside(margins, aside, spot, ends.of(unit.ref, aside.pins))]
  })
  const movables = [...bodies, ...asides]
  settle({
    movables,
    ...ends.task,
    rounds: Math.min(MOST_ROUNDS, ROUNDS_EACH * movables.length),
    seed,
    watch,
  })
  const seats = bodies.map(({ body, spot }) => ground.seat(body, spot)!)
  const posts = new Map<string, Spot>(
    asides.flatMap(({ aside, spot }) =>
      aside.pins.map((pin) => [`${aside.unit.ref}.${pin}`, margins.postOf(aside, spot, pin)] as const),
    ),
  )
  for (const seat of seats) {
    occupancy.take(seat)
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
  }
  const onLegs = placeLegged({
    grid,
    occupancy,
    units: legged,
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
  return { seats: [...seats, ...onLegs.seats], posts, unplaced: [...unplaced, ...onLegs.unplaced] }
}

const pinsInHoles = (body: Body): string[] =>
  (body.kind === 'row' ? body.pins : [...body.left, ...body.right]).filter((pin) => pin !== null)

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
