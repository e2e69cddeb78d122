import { seeded } from '../base/random.ts'
import { type Straight, straightCross } from './straight.ts'
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
  /** By net: rails to which each group of it goes; undefined for a net whose groups are joined with each other. */
  readonly nets: readonly { readonly rails: readonly { readonly x: number; readonly rows: number }[] | undefined }[]
  /** What does not move. */
  readonly still: readonly { readonly net: number; readonly group: number; readonly reach: Reach }[]
  readonly rounds: number
  readonly seed: number
  readonly watch: ((share: number) => void) | undefined
}

interface Point {
  readonly group: number
  reach: Reach
}

/** Heat of the first round, in pitches of wire. */
const HEAT = 25

/**
 * Moves what may be moved until its wires are short and few of them cross, by simulated annealing: the wires of a net
 * are guessed as a shortest tree between its groups, or straight to the nearest rail, and crossings are counted between
 * them. The same task gives the same answer.
 */
export function settle(task: SettleTask): void {
  new Settling(task).run()
}

class Settling {
  readonly #task: SettleTask
  readonly #points: Point[][]
  /** By movable the points of its pins. */
  readonly #own: Point[][]
  readonly #netsOf: number[][]
  #wires: Straight[][]
  #lengths: number[]

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
    this.#wires = task.nets.map((_, net) => this.#guess(net))
    this.#lengths = this.#wires.map(lengthOf)
  }

  run(): void {
    const { movables, rounds, seed, watch } = this.#task
    const able = movables.flatMap((one, at) => (one.pins.length > 0 ? [at] : []))
    if (able.length === 0) return
    const random = seeded(movables.length * 7919 + 17 + seed)
    let cost = 0
    let least = 0
    let best = movables.map(({ spot }) => spot)
    for (let round = 0; round < rounds; round += 1) {
      if (round % 500 === 0) watch?.(round / rounds)
      const heat = HEAT * (1 - round / rounds) ** 2 + 0.01
      const at = able[Math.floor(random() * able.length)]!
      const swap = random() < 0.2 && able.length > 1 ? able[Math.floor(random() * able.length)]! : at
      const gain = swap === at ? this.#move(at, random, heat) : this.#swap(at, swap, random, heat)
      cost += gain
      if (cost >= least - 1e-6) continue
      least = cost
      best = movables.map(({ spot }) => spot)
    }
    for (const one of movables) one.leave()
    movables.forEach((one, at) => {
      one.stand(best[at])
    })
  }

  /** Change of cost; 0 for a move that was taken back. */
  #move(at: number, random: () => number, heat: number): number {
    const one = this.#task.movables[at]!
    const before = one.spot
    const spot = one.propose(random, this.#towards(at, random))
    if (spot === undefined) return 0
    one.leave()
    if (!one.isFree(spot)) {
      one.stand(before)
      return 0
    }
    one.stand(spot)
    const gain = this.#recount([at], random, heat, one.worth(spot) - one.worth(before))
    if (gain !== undefined) return gain
    one.leave()
    one.stand(before)
    return 0
  }

  #swap(at: number, other: number, random: () => number, heat: number): number {
    const [one, two] = [this.#task.movables[at]!, this.#task.movables[other]!]
    const [first, second] = [one.spot, two.spot]
    if (one.constructor !== two.constructor) return 0
    one.leave()
    two.leave()
    const back = (): number => {
      one.stand(first)
      two.stand(second)
      return 0
    }
    if (!one.isFree(second)) return back()
    one.stand(second)
    if (!two.isFree(first)) {
      one.leave()
      return back()
    }
    two.stand(first)
    const worth = one.worth(second) + two.worth(first) - one.worth(first) - two.worth(second)
    const gain = this.#recount([at, other], random, heat, worth)
    if (gain !== undefined) return gain
    one.leave()
    two.leave()
    return back()
  }

  /** Works out the wires of what was moved; undefined when that is not to be kept, and then they are as before. */
  #recount(moved: readonly number[], random: () => number, heat: number, worth: number): number | undefined {
    const nets = moved.length === 1 ? this.#netsOf[moved[0]!]! : [...new Set(moved.flatMap((at) => this.#netsOf[at]!))]
    const crossed = this.#crossings(nets)
    const wires = nets.map((net) => this.#wires[net]!)
    const lengths = nets.map((net) => this.#lengths[net]!)
    const reaches = moved.map((at) => this.#own[at]!.map(({ reach }) => reach))
    for (const at of moved) {
      const one = this.#task.movables[at]!
      this.#own[at]!.forEach((point, pin) => {
        point.reach = one.reachAt(one.spot, pin)
      })
    }
    let gain = worth
    nets.forEach((net, index) => {
      this.#wires[net] = this.#guess(net)
      this.#lengths[net] = lengthOf(this.#wires[net])
      gain += this.#lengths[net] - lengths[index]!
    })
    gain += CROSSING * (this.#crossings(nets) - crossed)
    if (gain <= 0 || random() < Math.exp(-gain / heat)) return gain
    nets.forEach((net, index) => {
      this.#wires[net] = wires[index]!
      this.#lengths[net] = lengths[index]!
    })
    moved.forEach((at, index) => {
      this.#own[at]!.forEach((point, pin) => {
        point.reach = reaches[index]![pin]!
      })
    })
    return undefined
  }

  /** Row of something that a wire of it goes to. */
  #towards(at: number, random: () => number): number | undefined {
    const { pins } = this.#task.movables[at]!
    const { net, group } = pins[Math.floor(random() * pins.length)]!
    if (this.#task.nets[net]!.rails) return undefined
    const others = this.#points[net]!.filter((point) => point.group !== group)
    return others[Math.floor(random() * others.length)]?.reach.y
  }

  #crossings(nets: readonly number[]): number {
    let count = 0
    for (const [index, net] of nets.entries())
      for (const one of this.#wires[net]!) {
        for (let other = 0; other < this.#wires.length; other += 1) {
          // Each pair of moved nets is counted once; two wires of one net never cross in a shortest tree.
          if (other === net || nets.indexOf(other) > index) continue
          for (const two of this.#wires[other]!) if (straightCross(one, two)) count += 1
        }
      }
    return count
  }

  /** Wires of a net as they will about lie. */
  #guess(net: number): Straight[] {
    const points = this.#points[net]!
    const { rails } = this.#task.nets[net]!
    if (rails) return toRails(points, rails)
    const wires: Straight[] = []
    const joined: Point[] = []
    const open = new Set(points)
    const add = (group: number): void => {
      for (const point of open)
        if (point.group === group) {
          open.delete(point)
          joined.push(point)
        }
    }
    if (points[0]) add(points[0].group)
    while (open.size > 0) {
      let least = Number.POSITIVE_INFINITY
      let nearest: [Point, Point] | undefined
      for (const one of open)
        for (const two of joined) {
          const far = distance(one.reach, two.reach)
          if (far >= least) continue
          least = far
          nearest = [one, two]
        }
      wires.push(lineBetween(nearest![0].reach, nearest![1].reach))
      add(nearest![0].group)
    }
    return wires
  }
}

function toRails(
  points: readonly Point[],
  rails: readonly { readonly x: number; readonly rows: number }[],
): Straight[] {
  const best = new Map<number, { far: number; line: Straight }>()
  for (const { group, reach } of points)
    for (const { x, rows } of rails) {
      const from = Math.min(Math.max(x, reach.from), reach.to)
      const y = Math.min(Math.max(reach.y, 1), rows)
      const far = Math.abs(from - x) + Math.abs(y - reach.y)
      const known = best.get(group)
      if (!known || far < known.far) best.set(group, { far, line: [from, reach.y, x, y] })
    }
  return [...best.values()].map(({ line }) => line)
}

const gapBetween = (one: Reach, two: Reach): number => Math.max(0, one.from - two.to, two.from - one.to)

const distance = (one: Reach, two: Reach): number => Math.hypot(gapBetween(one, two), one.y - two.y)

function lineBetween(one: Reach, two: Reach): Straight {
  if (one.to < two.from) return [one.to, one.y, two.from, two.y]
  if (two.to < one.from) return [one.from, one.y, two.to, two.y]
  const x = (Math.max(one.from, two.from) + Math.min(one.to, two.to)) / 2
  return [x, one.y, x, two.y]
}

const lengthOf = (wires: readonly Straight[]): number =>
  wires.reduce((sum, [x1, y1, x2, y2]) => sum + Math.hypot(x1 - x2, y1 - y2), 0)
