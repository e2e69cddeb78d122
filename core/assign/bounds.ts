import { addressesOf } from '../wiring/i2c.ts'
import type { Filling, Fillings } from './fillings.ts'
import type { Lane, Task } from './lanes.ts'
import { Matching, type Row } from './matching.ts'
import type { PinTable } from './pinTable.ts'
import { type Claim, NO_PIN, type SearchProblem } from './searchProblem.ts'

/**
 * A price for each pin, and with it a bound: what lines cost when each takes its cheapest pin and pays the price of it,
 * less the prices of all pins, is never more than what they cost when no two may take one (Lagrangian relaxation). Any
 * prices will do; those of a least-cost matching make the bound exact for the lines that were matched.
 */
export class Prices {
  readonly #values: Float64Array
  readonly #pins: PinTable
  readonly #fillings = new Map<Filling, number>()
  readonly #apart = new Map<string, number>()
  /** Least points of the single signals, less all prices. */
  readonly base: number

  constructor(values: Float64Array, pins: PinTable, singles: readonly Claim[]) {
    this.#values = values
    this.#pins = pins
    const held = pins.capacity().reduce((sum, room, column) => sum + room * (values[column] as number), 0)
    const known = new Map<Row, number>()
    this.base = -held
    for (const line of singles) {
      const row = pins.row(line)
      const least = known.get(row) ?? this.#least(row)
      known.set(row, least)
      this.base += least
    }
  }

  #least({ costs, none }: Row): number {
    let least = none
    for (let column = 0; column < costs.length; column += 1)
      least = Math.min(least, (costs[column] as number) + (this.#values[column] as number))
    return least
  }

  /** Least points of a filling with its controller. */
  of(filling: Filling): number {
    let points = this.#fillings.get(filling)
    if (points === undefined) {
      points = filling.lines.reduce((sum, line) => sum + this.#least(this.#pins.row(line)), filling.rank)
      this.#fillings.set(filling, points)
    }
    return points
  }

  /** Points of something on a lane, or of it anywhere, kept by what is asked about. */
  readonly #keptOn = new Map<object, Map<Lane | undefined, number>>()
  keptOn(of: object, lane: Lane | undefined, work: () => number): number {
    let known = this.#keptOn.get(of)
    if (!known) {
      known = new Map()
      this.#keptOn.set(of, known)
    }
    let points = known.get(lane)
    if (points === undefined) {
      points = work()
      known.set(lane, points)
    }
    return points
  }

  /** Answers of one kind of question, kept. */
  kept(key: string, work: () => number): number {
    let points = this.#apart.get(key)
    if (points === undefined) {
      points = work()
      this.#apart.set(key, points)
    }
    return points
  }
}

/** Tasks of one kind on one board, which compete for the same lanes. */
interface Family {
  readonly key: string
  /** Each takes a lane of its own, as a UART does. */
  readonly apart: boolean
  /** Positions in the order of the search. */
  readonly tasks: readonly number[]
  readonly lanes: readonly Lane[]
}

/** Tasks that keep each other off one lane, and the lanes that some of them could open. */
interface Marked {
  readonly mark: string
  readonly tasks: readonly number[]
  readonly loss: number
  readonly reach: readonly Lane[]
}

/** Tasks of a family from a position of the search on. */
interface Ahead {
  readonly tasks: readonly number[]
  /** Points of those that no lane takes. */
  readonly lost: number
  readonly alone: readonly number[]
  readonly marked: readonly Marked[]
}

/** What tasks must pay that no lane has been chosen for yet. */
export class Coming {
  readonly #tasks: readonly Task[]
  readonly #families: readonly Family[]
  /** By task: lanes that it could open, and what its parts have that keeps others with the same off its lane. */
  readonly #openings: readonly ReadonlyMap<Lane, Filling>[]
  /** By task: one of its lanes is wired already. */
  readonly #isGiven: readonly boolean[]
  readonly #marks: readonly (string | undefined)[]
  readonly #markOf: ReadonlyMap<Task, string | undefined>

  constructor(problem: SearchProblem, fillings: Fillings) {
    this.#tasks = problem.tasks
    this.#openings = problem.tasks.map(
      (task) =>
        new Map(
          problem.lanesFor(task).flatMap((lane): [Lane, Filling][] => {
            const filling = problem.clash(task, lane.parts) === undefined ? fillings.open(lane, task) : undefined
            return filling ? [[lane, filling]] : []
          }),
        ),
    )
    this.#isGiven = this.#openings.map((openings) => [...openings.keys()].some(({ given }) => given.size > 0))
    this.#marks = problem.tasks.map((task) => markOf(problem, task))
    this.#markOf = new Map(problem.tasks.map((task, at) => [task, this.#marks[at]]))
    const families = new Map<string, Family & { tasks: number[] }>()
    problem.tasks.forEach((task, at) => {
      const key = `${task.part.home?.ref} ${task.kind}`
      const family = families.get(key) ?? {
        key,
        apart: task.kind !== 'i2c' && task.kind !== 'spi' && task.kind !== 'i2s',
        tasks: [],
        lanes: problem.lanes.filter((lane) => lane.board === task.part.home && lane.controller.kind === task.kind),
      }
      family.tasks.push(at)
      families.set(key, family)
    })
    this.#families = [...families.values()]
  }

  /** Least points of the tasks from a position on, lost ones included. */
  least(prices: Prices, from: number, division: readonly Filling[]): number {
    let sum = 0
    for (const family of this.#families) {
      const ahead = this.#aheadOf(family, from)
      if (ahead.tasks.length === 0) continue
      sum += family.apart ? this.#apart(prices, family, ahead.tasks, division) : this.#shared(prices, ahead, division)
    }
    return sum
  }

  readonly #ahead = new Map<Family, Ahead[]>()
  #aheadOf(family: Family, from: number): Ahead {
    const known = this.#ahead.get(family) ?? []
    this.#ahead.set(family, known)
    known[from] ??= this.#workOutAhead(family, from)
    return known[from] as Ahead
  }

  #workOutAhead({ tasks: all, lanes }: Family, from: number): Ahead {
    const tasks = all.filter((at) => at >= from)
    let lost = 0
    const marked = new Map<string, number[]>()
    const alone: number[] = []
    for (const at of tasks) {
      const mark = this.#marks[at]
      if (this.#openings[at]?.size === 0) lost += this.#loss(at)
      else if (mark === undefined) alone.push(at)
      else marked.set(mark, [...(marked.get(mark) ?? []), at])
    }
    return {
      tasks,
      lost,
      alone,
      marked: [...marked].map(([mark, group]) => ({
        mark,
        tasks: group,
        loss: Math.min(...group.map(this.#loss)),
        reach: lanes.filter((lane) => group.some((at) => this.#openings[at]?.has(lane))),
      })),
    }
  }

  #loss = (at: number): number => (this.#tasks[at]?.uses.length ?? 1) * NO_PIN

  /** Each takes a lane of its own: a matching of tasks to lanes. */
  #apart(prices: Prices, { key, lanes }: Family, tasks: readonly number[], division: readonly Filling[]): number {
    const taken = new Set(division.map((one) => one.lane))
    const free = lanes.filter((lane) => !taken.has(lane))
    return prices.kept(`${key} ${tasks.length} ${free.map((lane) => lane.key).join(' ')}`, () => {
      const matching = Matching.empty(free.map(() => 1))
      for (const at of tasks) {
        const costs = Float64Array.from(free, (lane) => {
          const opening = this.#openings[at]?.get(lane)
          return opening ? prices.of(opening) : Number.POSITIVE_INFINITY
        })
        matching.add({ costs, none: this.#loss(at) })
      }
      return matching.total()
    })
  }

  /**
   * Tasks that can share: those without a lane are lost; of those that keep each other off, as many as there are lanes
   * too few; and the dearest of what must be opened for one of them is paid.
   */
  #shared(prices: Prices, ahead: Ahead, division: readonly Filling[]): number {
    const isOpen = (lane: Lane): boolean => lane.given.size > 0 || division.some((one) => one.lane === lane)
    let { lost } = ahead
    let opened = 0
    for (const { mark, tasks: group, loss, reach } of ahead.marked) {
      const bears = (lane: Lane): boolean =>
        division.some((one) => one.lane === lane && one.tasks.some((task) => this.#markOf.get(task) === mark))
      const left = reach.filter((lane) => !bears(lane))
      const placed = Math.min(group.length, left.length)
      lost += (group.length - placed) * loss
      if (placed === group.length)
        for (const at of group) opened = Math.max(opened, this.#openingOf(prices, at, division))
      const closed = left.filter((lane) => !isOpen(lane))
      const more = placed - (left.length - closed.length)
      if (more <= 0) continue
      const costs = closed
        .map((lane) =>
          prices.keptOn(group, lane, () =>
            group.reduce((least, at) => {
              const opening = this.#openings[at]?.get(lane)
              return opening ? Math.min(least, prices.of(opening)) : least
            }, loss),
          ),
        )
        .sort((a, b) => a - b)
      opened = Math.max(
        opened,
        costs.slice(0, more).reduce((sum, one) => sum + one, 0),
      )
    }
    for (const at of ahead.alone) opened = Math.max(opened, this.#openingOf(prices, at, division))
    return lost + opened
  }

  /** Least points of the lane that a task must have: nothing on one that is open already. */
  #openingOf(prices: Prices, at: number, division: readonly Filling[]): number {
    const openings = this.#openings[at] as ReadonlyMap<Lane, Filling>
    const loss = this.#loss(at)
    // Whatever is open: no lane is cheaper than the cheapest of all.
    const least = prices.keptOn(openings, undefined, () => {
      let points = loss
      for (const filling of openings.values()) points = Math.min(points, prices.of(filling))
      return points
    })
    if (least <= 0) {
      let points = loss
      for (const [lane, filling] of openings) {
        const isOpen = lane.given.size > 0 || division.some((one) => one.lane === lane)
        points = Math.min(points, isOpen ? 0 : prices.of(filling))
      }
      return points
    }
    const isAnyOpen = division.some(({ lane }) => openings.has(lane)) || this.#isGiven[at] === true
    return isAnyOpen ? 0 : least
  }
}

/** What two tasks must not both have on one lane: an address, or a hold on MISO. */
function markOf(problem: SearchProblem, task: Task): string | undefined {
  if (task.kind === 'i2c') {
    if (problem.isKeptApart(task.part)) return undefined
    const [first] = addressesOf(task.part)
    return first && String(first.address)
  }
  return task.kind === 'spi' && task.part.mode?.spi?.releases === false && problem.talks(task.part)
    ? 'holds MISO'
    : undefined
}
