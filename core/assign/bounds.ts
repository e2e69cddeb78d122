import { addressesOf } from '../wiring/i2c.ts'
import type { Filling, Fillings } from './fillings.ts'
import { type Lane, type Task, talks } from './lanes.ts'
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

/** What tasks must pay that no lane has been chosen for yet. */
export class Coming {
  readonly #tasks: readonly Task[]
  readonly #families: readonly Family[]
  /** By task: lanes that it could open, and what its parts have that keeps others with the same off its lane. */
  readonly #openings: readonly ReadonlyMap<Lane, Filling>[]
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
    this.#marks = problem.tasks.map(markOf)
    this.#markOf = new Map(problem.tasks.map((task, at) => [task, this.#marks[at]]))
    const families = new Map<string, Family & { tasks: number[] }>()
    problem.tasks.forEach((task, at) => {
      const key = `${task.part.home?.ref} ${task.kind}`
      const family = families.get(key) ?? {
        key,
        apart: task.kind !== 'i2c' && task.kind !== 'spi',
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
      const tasks = family.tasks.filter((at) => at >= from)
      if (tasks.length === 0) continue
      sum += family.apart ? this.#apart(prices, family, tasks, division) : this.#shared(prices, family, tasks, division)
    }
    return sum
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
  #shared(prices: Prices, { lanes }: Family, tasks: readonly number[], division: readonly Filling[]): number {
    const open = new Map(division.map((one) => [one.lane, one]))
    const isOpen = (lane: Lane): boolean => open.has(lane) || lane.given.size > 0
    let lost = 0
    const marked = new Map<string, number[]>()
    const alone: number[] = []
    for (const at of tasks) {
      const mark = this.#marks[at]
      if (this.#openings[at]?.size === 0) lost += this.#loss(at)
      else if (mark === undefined) alone.push(at)
      else marked.set(mark, [...(marked.get(mark) ?? []), at])
    }
    let opened = 0
    const openingOf = (at: number): number => {
      let least = this.#loss(at)
      for (const [lane, filling] of this.#openings[at] ?? [])
        least = Math.min(least, isOpen(lane) ? 0 : prices.of(filling))
      return least
    }
    for (const [mark, group] of marked) {
      const loss = Math.min(...group.map(this.#loss))
      const bearers = (lane: Lane): boolean =>
        open.get(lane)?.tasks.some((task) => this.#markOf.get(task) === mark) === true
      const left = lanes.filter((lane) => !bearers(lane) && group.some((at) => this.#openings[at]?.has(lane)))
      const placed = Math.min(group.length, left.length)
      lost += (group.length - placed) * loss
      if (placed === group.length) for (const at of group) opened = Math.max(opened, openingOf(at))
      const more = placed - left.filter(isOpen).length
      if (more <= 0) continue
      const costs = left
        .filter((lane) => !isOpen(lane))
        .map((lane) =>
          Math.min(
            loss,
            ...group.map((at) => {
              const opening = this.#openings[at]?.get(lane)
              return opening ? prices.of(opening) : loss
            }),
          ),
        )
        .sort((a, b) => a - b)
      opened = Math.max(
        opened,
        costs.slice(0, more).reduce((sum, one) => sum + one, 0),
      )
    }
    for (const at of alone) opened = Math.max(opened, openingOf(at))
    return lost + opened
  }
}

/** What two tasks must not both have on one lane: an address, or a hold on MISO. */
function markOf(task: Task): string | undefined {
  if (task.kind === 'i2c') {
    const [first] = addressesOf(task.part)
    return first && String(first.address)
  }
  return task.kind === 'spi' && task.part.mode?.spi?.releases === false && talks(task.part) ? 'holds MISO' : undefined
}
