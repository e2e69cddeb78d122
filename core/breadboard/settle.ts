import { seeded } from '../base/random.ts'
import { Wires } from './guessedWires.ts'
import type { Straight } from './straight.ts'
import { CROSSING } from './tidy.ts'

/** A place where wires of a net may end: holes of a strip from `from` to `to`, or one post where both are the same. */
export interface Reach {
  readonly from: number
  readonly to: number
  readonly y: number
}

/** Something that may be moved, with the nets of its pins; what it stands on it knows itself. */
export interface Movable<Spot> {
  readonly spot: Spot
  /** Where its pins reach from a spot, in the order of `nets`. */
  reachAt(spot: Spot, pin: number): Reach
  /** For each pin that wires must follow the net and the group of pins that hang together, as `settle` counts them. */
  readonly pins: readonly { readonly net: number; readonly group: number }[]
  /** Another spot to be tried, where `towards` is a row that one of its wires comes from; undefined when it has none. */
  propose(random: () => number, towards: number | undefined): Spot | undefined
  /** Every spot that it could take. */
  all(): readonly Spot[]
  /** Nothing stands in the way there; asked while it stands nowhere. */
  isFree(spot: Spot): boolean
  stand(spot: Spot): void
  leave(): void
  /** What a spot costs besides its wires. */
  worth(spot: Spot): number
}

export interface SettleTask {
  // biome-ignore lint/suspicious/noExplicitAny: each movable has spots of its own kind
  readonly movables: readonly Movable<any>[]
  /** By net: rails to the nearest of which it goes; undefined for a net whose groups are joined with each other. */
  readonly nets: readonly { readonly rails: readonly { readonly x: number; readonly rows: number }[] | undefined }[]
  /** What does not move. */
  readonly still: readonly { readonly net: number; readonly group: number; readonly reach: Reach }[]
}

/** A move that was made: what it costs more, in pitches, and how it is taken back. */
interface Made {
  readonly gain: number
  readonly undo: () => void
}

interface Point {
  readonly group: number
  reach: Reach
}

/** Heat of the first round, in pitches of wire. */
const HEAT = 40

/**
 * Moves what may be moved until its wires are short and few of them cross, by simulated annealing: the wires of a net
 * are guessed as a shortest tree between its groups, or straight to the nearest rail, and crossings are counted between
 * them. The same task gives the same answer.
 */
export class Settling {
  readonly #task: SettleTask
  readonly #points: Point[][]
  /** By movable the points of its pins. */
  readonly #own: Point[][]
  readonly #netsOf: number[][]
  readonly #wires: Wires
  /** Movables that any wire goes to. */
  readonly #able: readonly number[]

  constructor(task: SettleTask) {
    this.#task = task
    this.#points = task.nets.map(() => [])
    for (const { net, group, reach } of task.still) this.#points[net]!.push({ group, reach })
    this.#own = task.movables.map((one) =>
      one.pins.map(({ net, group }, at) => {
        const point = { group, reach: one.reachAt(one.spot, at) }
        this.#points[net]!.push(point)
        return point
      }),
    )
    this.#netsOf = task.movables.map((one) => [...new Set(one.pins.map(({ net }) => net))])
    this.#able = task.movables.flatMap((one, at) => (one.pins.length > 0 ? [at] : []))
    this.#wires = new Wires(this.#points.map((points) => points.length))
    for (let net = 0; net < task.nets.length; net += 1) this.#guess(net)
  }

  /** Lets everything find its place; `rounds` moves are tried. */
  run(rounds: number, seed: number, watch: ((share: number) => void) | undefined): void {
    const { movables } = this.#task
    if (this.#able.length === 0) return
    const random = seeded(movables.length * 7919 + 17 + seed)
    let cost = 0
    let least = 0
    let best = movables.map(({ spot }) => spot)
    for (let round = 0; round < rounds; round += 1) {
      if (round % 500 === 0) watch?.(round / rounds)
      const heat = HEAT * (1 - round / rounds) ** 2 + 0.01
      const made = this.move(random, heat * -Math.log(random() + 1e-12))
      if (!made) continue
      cost += made.gain
      if (cost >= least - 1e-6) continue
      least = cost
      best = movables.map(({ spot }) => spot)
    }
    for (const one of movables) one.leave()
    movables.forEach((one, at) => {
      one.stand(best[at])
    })
    this.#reread(movables.map((_, at) => at))
    for (let net = 0; net < this.#task.nets.length; net += 1) this.#guess(net)
  }

  /** Moves one thing, or swaps two; undefined when there was no room or it would cost more than `most` pitches. */
  move(random: () => number, most: number): Made | undefined {
    const able = this.#able
    if (able.length === 0) return undefined
    const at = able[Math.floor(random() * able.length)]!
    const other = random() < 0.2 && able.length > 1 ? able[Math.floor(random() * able.length)]! : at
    return other === at ? this.#shift(at, random, most) : this.#swap(at, other, most)
  }

  #shift(at: number, random: () => number, most: number): Made | undefined {
    const one = this.#task.movables[at]!
    const before = one.spot
    const spot = one.propose(random, this.#towards(at, random))
    if (spot === undefined) return undefined
    const back = (): void => {
      one.leave()
      one.stand(before)
    }
    one.leave()
    if (!one.isFree(spot)) {
      one.stand(before)
      return undefined
    }
    one.stand(spot)
    return this.#recount([at], this.#netsOf[at]!, most, one.worth(spot) - one.worth(before), back)
  }

  #swap(at: number, other: number, most: number): Made | undefined {
    const [one, two] = [this.#task.movables[at]!, this.#task.movables[other]!]
    const [first, second] = [one.spot, two.spot]
    if (one.constructor !== two.constructor) return undefined
    one.leave()
    two.leave()
    const isFirst = one.isFree(second)
    if (isFirst) one.stand(second)
    if (!isFirst || !two.isFree(first)) {
      if (isFirst) one.leave()
      one.stand(first)
      two.stand(second)
      return undefined
    }
    two.stand(first)
    const worth = one.worth(second) + two.worth(first) - one.worth(first) - two.worth(second)
    const nets = [...new Set([...this.#netsOf[at]!, ...this.#netsOf[other]!])]
    return this.#recount([at, other], nets, most, worth, () => {
      one.leave()
      two.leave()
      one.stand(first)
      two.stand(second)
    })
  }

  /** Works out the wires of what was moved; where they cost more than allowed, all is as before. */
  #recount(
    moved: readonly number[],
    nets: readonly number[],
    most: number,
    worth: number,
    back: () => void,
  ): Made | undefined {
    const before = this.#wires.length(nets) + CROSSING * this.#wires.crossings(nets)
    this.#wires.keep(nets)
    this.#reread(moved)
    for (const net of nets) this.#guess(net)
    const length = this.#wires.length(nets) + worth
    const after = length > before + most ? length : length + CROSSING * this.#wires.crossings(nets)
    // Taken back before anything else is moved.
    const undo = (): void => {
      back()
      this.#wires.restore(nets)
      this.#reread(moved)
    }
    if (after <= before + most) return { gain: after - before, undo }
    undo()
    return undefined
  }

  #reread(moved: readonly number[]): void {
    for (const at of moved) {
      const one = this.#task.movables[at]!
      const points = this.#own[at]!
      for (let pin = 0; pin < points.length; pin += 1) points[pin]!.reach = one.reachAt(one.spot, pin)
    }
  }

  /** Row of something that a wire of it goes to. */
  #towards(at: number, random: () => number): number | undefined {
    const { pins } = this.#task.movables[at]!
    const { net, group } = pins[Math.floor(random() * pins.length)]!
    if (this.#task.nets[net]!.rails) return undefined
    const points = this.#points[net]!
    const other = points[Math.floor(random() * points.length)]!
    return other.group === group ? undefined : other.reach.y
  }

  /** Lays the wires of a net as they will about lie. */
  #guess(net: number): void {
    const points = this.#points[net]!
    const { rails } = this.#task.nets[net]!
    this.#wires.clear(net)
    if (points.length === 0) return
    if (rails) {
      this.#wires.add(net, toRail(points, rails))
      return
    }
    const open = [...points]
    const joined: Point[] = []
    const add = (group: number): void => {
      for (let at = open.length - 1; at >= 0; at -= 1) if (open[at]!.group === group) joined.push(...open.splice(at, 1))
    }
    add(points[0]!.group)
    while (open.length > 0) {
      let least = Number.POSITIVE_INFINITY
      let from = open[0]!
      let to = joined[0]!
      for (const one of open)
        for (const two of joined) {
          const far = distance(one.reach, two.reach)
          if (far >= least) continue
          least = far
          from = one
          to = two
        }
      this.#wires.add(net, lineBetween(from.reach, to.reach))
      add(from.group)
    }
  }
}

function toRail(points: readonly Point[], rails: readonly { readonly x: number; readonly rows: number }[]): Straight {
  let least = Number.POSITIVE_INFINITY
  let best: Straight = [0, 0, 0, 0]
  for (const { reach } of points)
    for (const { x, rows } of rails) {
      const from = Math.min(Math.max(x, reach.from), reach.to)
      const y = Math.min(Math.max(reach.y, 1), rows)
      const far = Math.abs(from - x) + Math.abs(y - reach.y)
      if (far >= least) continue
      least = far
      best = [from, reach.y, x, y]
    }
  return best
}

const gapBetween = (one: Reach, two: Reach): number => Math.max(0, one.from - two.to, two.from - one.to)

function distance(one: Reach, two: Reach): number {
  const gap = gapBetween(one, two)
  return Math.sqrt(gap * gap + (one.y - two.y) ** 2)
}

function lineBetween(one: Reach, two: Reach): Straight {
  if (one.to < two.from) return [one.to, one.y, two.from, two.y]
  if (two.to < one.from) return [one.from, one.y, two.to, two.y]
  const x = (Math.max(one.from, two.from) + Math.min(one.to, two.to)) / 2
  return [x, one.y, x, two.y]
}
