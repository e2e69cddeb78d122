import { addressesOf } from '../wiring/i2c.ts'
import type { Filling, Fillings } from './fillings.ts'
import type { Lane, Task } from './lanes.ts'
import { Matching, type Row } from './matching.ts'
import type { PinTable } from './pinTable.ts'
import { NO_PIN, type SearchProblem } from './searchProblem.ts'

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

  constructor(values: Float64Array, pins: PinTable) {
    this.#values = values
    this.#pins = pins
    const held = pins.capacity.reduce((sum, room, column) => sum + room * (values[column] as number), 0)
    this.base = pins.singleRows.reduce((sum, { row, times }) => sum + times * this.#least(row), -held)
  }

  #least({ costs, none }: Row): number {
    let least = none
    for (let column = 0; column < costs.length; column += 1) {
      const points = (costs[column] as number) + (this.#values[column] as number)
      if (points < least) least = points
    }
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
  /** One of each kind of them. */
  readonly kinds: readonly number[]
  readonly loss: number
  readonly reach: readonly Lane[]
}

/** Tasks of a family from a position of the search on. */
interface Ahead {
  readonly tasks: readonly number[]
  /** Points of those that no lane takes. */
  readonly lost: number
  /** One of each kind of those that nothing keeps off any lane. */
  readonly alone: readonly number[]
  readonly marked: readonly Marked[]
}

/** What is ahead of a division, whatever the pins cost. */
export interface Outlook {
  /** Points of tasks that no lane is left for. */
  readonly lost: number
  /** Tasks that each take one of the lanes left. */
  readonly apart: readonly { readonly key: string; readonly tasks: readonly number[]; readonly free: readonly Lane[] }[]
  /** By family of tasks that can share: what must be opened for some of them. */
  readonly shared: readonly {
    /** Tasks of which each must have a lane, and whether one that it could go to is open. */
    readonly each: readonly { readonly at: number; readonly isAnyOpen: boolean }[]
    /** So many of these closed lanes must be opened for a group. */
    readonly groups: readonly { readonly of: Marked; readonly closed: readonly Lane[]; readonly more: number }[]
  }[]
  readonly isOpen: (lane: Lane) => boolean
}

/** What tasks must pay that no lane has been chosen for yet. */
export class Coming {
  readonly #tasks: readonly Task[]
  readonly #families: readonly Family[]
  /** By task: lanes that it could open, and what its parts have that keeps others with the same off its lane. */
  readonly #openings: readonly ReadonlyMap<Lane, Filling>[]
  /** By task: one of its lanes is wired already. */
  readonly #isGiven: readonly boolean[]
  /** By task: the first one that could open the same lanes at the same cost. */
  readonly #alike: readonly number[]
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
    const first = new Map<string, number>()
    this.#alike = this.#openings.map((openings, at) => {
      const shapes = [...openings.values()].map(({ index, shape }) => `${index} ${shape}`)
      const key = [this.#loss(at), ...shapes].join('; ')
      const before = first.get(key) ?? at
      first.set(key, before)
      return before
    })
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

  /** What is ahead of a division from a position of the search on. */
  outlook(from: number, division: readonly Filling[]): Outlook {
    const fillingOn = new Map(division.map((one) => [one.lane, one]))
    const isOpen = (lane: Lane): boolean => lane.given.size > 0 || fillingOn.has(lane)
    let lost = 0
    const apart: Outlook['apart'][number][] = []
    const shared: Outlook['shared'][number][] = []
    for (const family of this.#families) {
      const ahead = this.#aheadOf(family, from)
      if (ahead.tasks.length === 0) continue
      if (family.apart) {
        const free = family.lanes.filter((lane) => !fillingOn.has(lane))
        const taken = family.lanes.map((lane) => (fillingOn.has(lane) ? 1 : 0)).join('')
        const key = `${family.key} ${ahead.tasks.length} ${taken}`
        apart.push({ key, tasks: ahead.tasks, free })
        continue
      }
      const must = [...ahead.alone]
      const groups: Outlook['shared'][number]['groups'][number][] = []
      lost += ahead.lost
      for (const one of ahead.marked) {
        const bears = (lane: Lane): boolean =>
          fillingOn.get(lane)?.tasks.some((task) => this.#markOf.get(task) === one.mark) ?? false
        const left = one.reach.filter((lane) => !bears(lane))
        const placed = Math.min(one.tasks.length, left.length)
        lost += (one.tasks.length - placed) * one.loss
        if (placed === one.tasks.length) must.push(...one.kinds)
        const closed = left.filter((lane) => !isOpen(lane))
        const more = placed - (left.length - closed.length)
        if (more > 0) groups.push({ of: one, closed, more })
      }
      const each = must.map((at) => ({ at, isAnyOpen: this.#isAnyOpen(at, division) }))
      shared.push({ each, groups })
    }
    return { lost, apart, shared, isOpen }
  }

  #isAnyOpen(at: number, division: readonly Filling[]): boolean {
    return this.#isGiven[at] === true || division.some(({ lane }) => this.#openings[at]?.has(lane))
  }

  /** Least points of the tasks ahead, lost ones included. */
  least(prices: Prices, { lost, apart, shared, isOpen }: Outlook): number {
    let sum = lost
    for (const one of apart) sum += this.#apart(prices, one)
    // Of what must be opened for one of them the dearest is paid.
    for (const { each, groups } of shared) {
      let opened = 0
      for (const { at, isAnyOpen } of each) opened = Math.max(opened, this.#openingOf(prices, at, isAnyOpen, isOpen))
      for (const group of groups) opened = Math.max(opened, this.#openingAll(prices, group))
      sum += opened
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
    const kindsOf = (some: readonly number[]): number[] => {
      const seen = new Set<number | undefined>()
      return some.filter((at) => !seen.has(this.#alike[at]) && seen.add(this.#alike[at]))
    }
    return {
      tasks,
      lost,
      alone: kindsOf(alone),
      marked: [...marked].map(([mark, group]) => ({
        mark,
        tasks: group,
        kinds: kindsOf(group),
        loss: Math.min(...group.map(this.#loss)),
        reach: lanes.filter((lane) => group.some((at) => this.#openings[at]?.has(lane))),
      })),
    }
  }

  #loss = (at: number): number => (this.#tasks[at]?.uses.length ?? 1) * NO_PIN

  /** Each takes a lane of its own: a matching of tasks to lanes. */
  #apart(prices: Prices, { key, tasks, free }: Outlook['apart'][number]): number {
    return prices.kept(key, () => {
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

  /** Of tasks that keep each other off as many need a lane of their own as are open too few. */
  #openingAll(prices: Prices, { of, closed, more }: Outlook['shared'][number]['groups'][number]): number {
    const costs = closed.map((lane) =>
      prices.keptOn(of.tasks, lane, () =>
        of.tasks.reduce((least, at) => {
          const opening = this.#openings[at]?.get(lane)
          return opening ? Math.min(least, prices.of(opening)) : least
        }, of.loss),
      ),
    )
    if (more >= costs.length) return costs.reduce((sum, one) => sum + one, 0)
    if (more === 1) return Math.min(...costs)
    return costs
      .sort((a, b) => a - b)
      .slice(0, more)
      .reduce((sum, one) => sum + one, 0)
  }

  /** Least points of the lane that a task must have: nothing on one that is open already. */
  #openingOf(prices: Prices, at: number, isAnyOpen: boolean, isOpen: (lane: Lane) => boolean): number {
    const openings = this.#openings[at] as ReadonlyMap<Lane, Filling>
    const loss = this.#loss(at)
    // Whatever is open: no lane is cheaper than the cheapest of all.
    const least = prices.keptOn(openings, undefined, () => {
      let points = loss
      for (const filling of openings.values()) points = Math.min(points, prices.of(filling))
      return points
    })
    if (least > 0) return isAnyOpen ? 0 : least
    let points = loss
    for (const [lane, filling] of openings) points = Math.min(points, isOpen(lane) ? 0 : prices.of(filling))
    return points
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
