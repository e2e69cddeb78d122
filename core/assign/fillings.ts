import { slotOf } from '../wiring/soundSlots.ts'
import { costs } from './costs.ts'
import type { Lane, Task } from './lanes.ts'
import type { PinTable } from './pinTable.ts'
import type { Claim, SearchProblem } from './searchProblem.ts'

/** A lane with the tasks put on it, and the lines that it then needs. */
export interface Filling {
  readonly lane: Lane
  /** Position of the lane among those of the problem. */
  readonly index: number
  readonly tasks: readonly Task[]
  readonly lines: readonly Claim[]
  /** Points of the controller. */
  readonly rank: number
  /** The same for fillings that the matching cannot tell apart. */
  readonly shape: string
}

/** Every filling of the lanes, worked out once. */
export class Fillings {
  readonly #problem: SearchProblem
  readonly #pins: PinTable
  readonly #index: ReadonlyMap<Lane, number>
  readonly #opened = new Map<Lane, Map<Task, Filling | undefined>>()
  readonly #next = new Map<Filling, Map<Task, Filling | undefined>>()

  constructor(problem: SearchProblem, pins: PinTable) {
    this.#problem = problem
    this.#pins = pins
    this.#index = new Map(problem.lanes.map((lane, index) => [lane, index]))
  }

  /** A lane with its first task; undefined when one of its lines finds no pin. */
  open(lane: Lane, task: Task): Filling | undefined {
    return this.#known(this.#opened, lane, lane, [], task)
  }

  /** A filling with one more task. */
  with(filling: Filling, task: Task): Filling | undefined {
    return this.#known(this.#next, filling, filling.lane, filling.tasks, task)
  }

  #known<K>(
    cache: Map<K, Map<Task, Filling | undefined>>,
    key: K,
    lane: Lane,
    before: readonly Task[],
    task: Task,
  ): Filling | undefined {
    const known = cache.get(key) ?? new Map<Task, Filling | undefined>()
    cache.set(key, known)
    if (!known.has(task)) known.set(task, this.#fill(lane, [...before, task]))
    return known.get(task)
  }

  #fill(lane: Lane, tasks: readonly Task[]): Filling | undefined {
    const lines = this.#problem.laneLines(lane, tasks)
    if (!lines) return undefined
    // Programs that send sound and hear it have a controller for each, where there are two.
    const parts = lane.controller.kind === 'i2s' ? [...lane.parts, ...tasks.map(({ part }) => part)] : []
    const isBothWays = new Set(parts.map((part) => slotOf(part) !== undefined)).size > 1
    const rank = this.#problem.rankExtra(lane) + (isBothWays ? costs.sharedClock : 0)
    return {
      lane,
      index: this.#index.get(lane) as number,
      tasks,
      lines,
      rank,
      shape: `${rank} ${lines.map((line) => this.#pins.shapeOf(line)).join(' ')}`,
    }
  }
}
