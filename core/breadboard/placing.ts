import { entryOf } from '../base/entryOf.ts'
import { splitEnd } from '../plan/ends.ts'
import type { BenchPlace } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { type Body, Ground } from './arrange.ts'
import { type Aside, type AsideSpot, asideOf, asideWanted, Margins, MovableAside, type Spot } from './aside.ts'
import { EndsOfNets } from './endsOfNets.ts'
import { boardOfHole, columnOf, type Grid, type Hole, isRail, type Node, rowOf } from './grid.ts'
import { type Legged, placeLegged } from './legged.ts'
import { MovableBody } from './movableBody.ts'
import { isRailsUnit } from './overRails.ts'
import { legsSeat, type Occupancy, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import { Settling } from './settle.ts'
import type { Unit } from './units.ts'

export interface Placing {
  readonly seats: readonly Seat[]
  /** Places of posts and leads beside the breadboards, by end. */
  readonly posts: ReadonlyMap<string, Spot>
  /** By reference where it lies. */
  readonly asides: ReadonlyMap<string, AsideSpot>
  readonly unplaced: readonly Unit[]
}

/** A way to place everything, so that others can be measured against ours. */
export type Placer = (room: Room) => Placing

/** What a placer works with: the bench with what the maker put down in its holes already. */
export interface Room {
  readonly wiring: Wiring
  readonly grid: Grid
  readonly occupancy: Occupancy
  /** Units that have no seat yet. */
  readonly open: readonly Unit[]
  /** Seats that the maker chose, and their units. */
  readonly fixed: readonly Seat[]
  readonly seated: readonly Unit[]
  readonly boardsFor: (ref: string) => readonly number[]
  readonly rails: ReadonlyMap<Node, number>
  /** Hole of every end that stands in one. */
  readonly holeOf: Map<string, Hole>
}

/** Rounds of improvement for each thing that may be moved, and at most. */
const ROUNDS_EACH = 150
const MOST_ROUNDS = 4000

/** Bodies and what lies beside, all somewhere: first settled, then moved one at a time by who knows what it is worth. */
export class Placement {
  readonly #room: Room
  readonly #ground: Ground
  readonly #margins: Margins
  readonly #ends: EndsOfNets
  readonly #bodies: readonly MovableBody[]
  readonly #asides: readonly MovableAside[]
  readonly #homeless: readonly Body[]

  constructor(room: Room, seed: number) {
    this.#room = room
    const { wiring, grid, occupancy, open, seated, fixed, boardsFor, rails } = room
    const isChosen = ({ ref }: Unit): boolean => asideWanted(entryOf(wiring.plan.bench?.places, ref)) !== undefined
    // Of what stands, the posts on other edges lie beside; what plugs over rails has none left.
    const lying = [...open, ...seated.filter((unit) => !isRailsUnit(unit))].flatMap((unit) => asideOf(unit) ?? [])
    const lay = (aside: Aside): { aside: Aside; spot: AsideSpot; isKept: boolean } => {
      const chosen = asideWanted(entryOf(wiring.plan.bench?.places, aside.unit.ref))
      const spot = chosen ?? this.#margins.first(aside)
      this.#margins.put(aside, spot)
      return { aside, spot, isKept: chosen !== undefined }
    }
    this.#margins = new Margins(grid, boardsFor)
    // What the maker laid down lies there first; then come the bodies, some of which hang far over the edge.
    const laid = lying.filter(({ unit }) => isChosen(unit)).map(lay)
    this.#ground = new Ground({
      grid,
      occupancy,
      margins: this.#margins,
      bodies: open.filter((unit): unit is Body => unit.kind === 'straddle' || unit.kind === 'row'),
      boardsFor,
      isWired: (end) => wiring.netOf(end).wired,
      spare: wiring.plan.bench?.spareRows ?? 1,
      seed,
    })
    for (const seat of fixed) {
      const body = seated.find(({ ref }) => ref === seat.ref)
      if (body?.kind === 'row') this.#ground.keep(body, seat)
    }
    this.#ends = new EndsOfNets(wiring, grid, rails, this.#legged)
    for (const seat of fixed) this.#ends.standStill(seat)
    const packed = [...this.#ground.pack()]
    this.#homeless = packed.flatMap(([body, spot]) => (spot ? [] : [body]))
    this.#bodies = packed.flatMap(([body, spot]) =>
      spot ? [new MovableBody(this.#ground, body, spot, this.#ends.of(body.ref, pinsInHoles(body)))] : [],
    )
    this.#asides = [...laid, ...lying.filter(({ unit }) => !isChosen(unit)).map(lay)].map(
      ({ aside, spot, isKept }) =>
        new MovableAside(this.#margins, aside, spot, this.#ends.of(aside.unit.ref, aside.pins), isKept),
    )
  }

  get #legged(): Legged[] {
    return this.#room.open.filter((unit): unit is Legged => unit.kind === 'legs')
  }

  /** The maker has put everything down that could be moved. */
  get isKept(): boolean {
    return this.#bodies.length === 0 && this.#asides.every(({ isKept }) => isKept)
  }

  get movables(): readonly (MovableBody | MovableAside)[] {
    return [...this.#bodies, ...this.#asides]
  }

  /** Moves everything until its wires are about as short as they get; what comes back moves one thing more. */
  settle(seed: number, watch: ((share: number) => void) | undefined): Settling {
    const { movables } = this
    const settling = new Settling({ movables, ...this.#ends.task })
    settling.run(Math.min(MOST_ROUNDS, ROUNDS_EACH * movables.length), seed, watch)
    return settling
  }

  /** Where everything is now in the holes of a room, and the parts on two legs put between it. */
  placeIn(room: Room): Placing {
    const { wiring, grid, occupancy, boardsFor, holeOf } = room
    const posts = new Map<string, Spot>(
      this.#asides.flatMap(({ aside, spot }) =>
        aside.pins.map((pin) => [`${aside.unit.ref}.${pin}`, this.#margins.postOf(aside, spot, pin)] as const),
      ),
    )
    const seats: Seat[] = []
    const sit = (seat: Seat): void => {
      seats.push(seat)
      occupancy.take(seat)
      for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
    }
    for (const { body, spot } of this.#bodies) sit(this.#ground.seat(body, spot)!)
    // Where the maker keeps things, rows that they stand in are shared: what is given back finds its place again.
    const unplaced: Unit[] = []
    for (const body of this.#homeless) {
      const seat = room.fixed.length > 0 ? this.#ground.squeezed(body, occupancy) : undefined
      if (seat) sit(seat)
      else unplaced.push(body)
    }
    const onLegs = placeLegged({
      grid,
      occupancy,
      units: this.#legged,
      lamps: [...room.open, ...room.seated].filter((unit): unit is Legged => unit.kind === 'legs' && unit.isLamp),
      boardsFor,
      netOf: (end) => wiring.netOf(end).index,
      endsOf: (net) => wiring.nets[net]!.all,
      mayShare: sharing(wiring, grid, holeOf),
      holeOf,
      pointsOf: pointsOf(wiring, grid, holeOf, posts),
    })
    const asides = new Map(this.#asides.map(({ aside, spot }) => [aside.unit.ref, spot]))
    return { seats: [...seats, ...onLegs.seats], posts, asides, unplaced: [...unplaced, ...onLegs.unplaced] }
  }
}

const pinsInHoles = (body: Body): string[] =>
  (body.kind === 'row' ? body.pins : [...body.left, ...body.right]).filter((pin) => pin !== null)

/** Where ends of a net are by now; worked out anew for a net when more of them have a hole. */
function pointsOf(
  wiring: Wiring,
  grid: Grid,
  holeOf: ReadonlyMap<string, Hole>,
  posts: ReadonlyMap<string, Spot>,
): (net: number) => readonly Spot[] {
  let known = new Map<number, readonly Spot[]>()
  let of = -1
  return (net) => {
    if (of !== holeOf.size) {
      of = holeOf.size
      known = new Map()
    }
    let points = known.get(net)
    if (!points) {
      points = wiring.nets[net]!.all.flatMap((end) => {
        const hole = holeOf.get(end)
        if (hole !== undefined) return [{ x: grid.x(hole), y: rowOf(hole) }]
        const post = posts.get(end)
        return post ? [post] : []
      })
      known.set(net, points)
    }
    return points
  }
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
