import type { Controller } from '../catalog/boardSchema.ts'
import { hexAddress } from '../plan/readPlan.ts'
import { busNeed, busPins } from '../wiring/buses.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { costs, hostsFor, judge, Scarcity } from './candidates.ts'

/** The open bus lines of one part, chip select left out: they go to one controller together. */
interface Task {
  readonly part: PartInstance
  readonly board: BoardInstance
  readonly kind: Controller['kind']
  readonly uses: readonly SignalUse[]
}

export interface Arrangement {
  readonly cost: number
  readonly placed: readonly { readonly use: SignalUse; readonly to: string; readonly why: string }[]
  /** Host ends that are no longer free. */
  readonly taken: ReadonlySet<string>
}

/** A controller in use: its pins by signal, and the devices on it. */
interface Lane {
  readonly pins: Map<string, string>
  readonly parts: PartInstance[]
}

interface PinSet {
  readonly cost: number
  readonly placed: readonly { readonly use: SignalUse; readonly to: string; readonly why: string }[]
}

/** Pin sets looked at for one free controller; more are cut off and the answer is then not called optimal. */
const MOST_PIN_SETS = 48
/** Steps of the search in all. */
const MOST_STEPS = 600
/** Points for bus lines left without a controller, a line. */
const UNPLACED = 100_000

/** Searches the ways to hang the open bus parts on the boards' controllers, with backtracking. */
export class BusSearch {
  truncated = false
  readonly #wiring: Wiring
  readonly #tasks: readonly Task[]
  readonly #lanes = new Map<string, Lane>()
  readonly #pinCosts = new Map<string, { cost: number; why: string } | undefined>()
  readonly #least: readonly number[]
  readonly #freshSets = new Map<string, readonly PinSet[]>()
  readonly #scarcity = new Map<string, Scarcity>()
  #steps = 0

  constructor(wiring: Wiring, open: readonly SignalUse[]) {
    this.#wiring = wiring
    const tasks = new Map<
      string,
      { part: PartInstance; board: BoardInstance; kind: Controller['kind']; uses: SignalUse[] }
    >()
    for (const use of open) {
      const need = busNeed(use.facts.needs)
      const board = use.part.home
      if (!need || need.signal === 'cs' || !board) continue
      const key = `${use.part.ref} ${need.kind}`
      const task = tasks.get(key) ?? { part: use.part, board, kind: need.kind, uses: [] }
      task.uses.push(use)
      tasks.set(key, task)
    }
    this.#tasks = [...tasks.values()].sort((a, b) => order[a.kind] - order[b.kind] || b.uses.length - a.uses.length)
    for (const bus of wiring.buses) {
      if (!bus.board || bus.controller === undefined) continue
      const pins = new Map([...busPins(bus)].map(([signal, on]) => [signal, [...on][0] as string]))
      this.#lanes.set(laneKey(bus.board, bus.controller), { pins, parts: [...bus.parts] })
    }
    // Least that the tasks from each depth on can cost: a shared line costs 100, a line of a fresh controller its pin.
    const least = this.#tasks.map((task) => {
      const fresh = this.#controllers(task).map((one) => this.#fresh(task, one)[0]?.cost ?? Number.POSITIVE_INFINITY)
      return Math.min(task.uses.length * 100, ...fresh)
    })
    this.#least = [...least.map((_, depth) => least.slice(depth).reduce((sum, cost) => sum + cost, 0)), 0]
  }

  /** True when a signal is placed here and not by matching. */
  carries(use: SignalUse): boolean {
    return this.#tasks.some((task) => task.uses.includes(use))
  }

  /** Least that the bus lines can cost. */
  get leastCost(): number {
    return this.#least[0] as number
  }

  /** Visits arrangements, cheap ones first; `visit` returns false to stop. True when nothing was left out. */
  each(visit: (arrangement: Arrangement) => boolean, limit: () => number): boolean {
    return this.#descend(0, 0, [], new Set(), visit, limit)
  }

  #descend(
    depth: number,
    cost: number,
    placed: Arrangement['placed'],
    taken: ReadonlySet<string>,
    visit: (arrangement: Arrangement) => boolean,
    limit: () => number,
  ): boolean {
    if (cost + (this.#least[depth] as number) >= limit()) return true
    const task = this.#tasks[depth]
    if (!task) return visit({ cost, placed, taken })
    this.#steps += 1
    if (this.#steps > MOST_STEPS) {
      this.truncated = true
      return false
    }
    for (const option of this.#options(task, taken)) {
      const key = laneKey(task.board, option.controller)
      const before = this.#lanes.get(key)
      const pins = new Map(before?.pins)
      for (const { use, to } of option.placed) pins.set(busNeed(use.facts.needs)!.signal, pinOf(to))
      this.#lanes.set(key, { pins, parts: [...(before?.parts ?? []), task.part] })
      const now = new Set([...taken, ...option.placed.map(({ to }) => to)])
      const goOn = this.#descend(depth + 1, cost + option.cost, [...placed, ...option.placed], now, visit, limit)
      if (before) this.#lanes.set(key, before)
      else this.#lanes.delete(key)
      if (!goOn) return false
    }
    return this.#descend(depth + 1, cost + UNPLACED * task.uses.length, placed, taken, visit, limit)
  }

  /** Ways to carry one part: lanes in use first come out cheapest, since they take no new pins. */
  #options(task: Task, taken: ReadonlySet<string>): (PinSet & { controller: string })[] {
    return this.#controllers(task)
      .flatMap((controller) => {
        const lane = this.#lanes.get(laneKey(task.board, controller.id))
        if (lane && this.#clash(task, lane) !== undefined) return []
        const sets = lane
          ? this.#pinSets(task, controller, lane, taken)
          : this.#fresh(task, controller).filter((set) => set.placed.every(({ to }) => !taken.has(to)))
        return sets.map((set) => ({ ...set, controller: controller.id }))
      })
      .sort((a, b) => a.cost - b.cost)
  }

  #controllers(task: Task): Controller[] {
    return task.board.board.controllers.filter(
      (one) =>
        one.kind === task.kind && this.#lockedTo(task, one.id) && this.#feature(task.board, one.id) === undefined,
    )
  }

  /** Pin sets on a controller that carries nothing yet, cheapest first, worked out once. */
  #fresh(task: Task, controller: Controller): readonly PinSet[] {
    const key = `${task.part.ref} ${controller.id}`
    let sets = this.#freshSets.get(key)
    if (!sets) {
      const rank = controller.rank * costs.controllerRank
      sets = this.#pinSets(task, controller, undefined, new Set()).map((set) => ({ ...set, cost: set.cost + rank }))
      this.#freshSets.set(key, sets)
    }
    return sets
  }

  /** A part some of whose lines are wired already stays with the controller that carries them. */
  #lockedTo(task: Task, controller: string): boolean {
    const bus = this.#wiring.buses.find(
      (one) =>
        one.kind === task.kind &&
        one.parts.includes(task.part) &&
        one.controller !== undefined &&
        one.board === task.board &&
        busPins(one).size > 0,
    )
    return bus === undefined || bus.controller === controller
  }

  #feature(board: BoardInstance, controller: string): string | undefined {
    return board.features.find((feature) => feature.controllers.includes(controller))?.title
  }

  /** What keeps a part off a lane: a UART carries one part, and an I2C address answers once. */
  #clash(task: Task, lane: Lane): string | undefined {
    if (task.kind === 'uart')
      return lane.parts.includes(task.part) ? undefined : `taken by ${lane.parts.map((part) => part.ref).join(', ')}`
    if (task.kind === 'spi') {
      const others = lane.parts.filter((part) => part !== task.part && talks(part))
      const holder = talks(task.part)
        ? [task.part, ...others].find((part) => part.mode?.spi?.releases === false)
        : undefined
      return holder && others.length > 0 ? `${holder.ref} never lets go of MISO` : undefined
    }
    if (task.kind !== 'i2c') return undefined
    const mine = new Set(addressesOf(task.part).map((one) => one.address))
    for (const part of lane.parts) {
      if (part === task.part) continue
      const same = addressesOf(part).find((one) => mine.has(one.address))
      if (same) return `${hexAddress(same.address)} is taken by ${part.ref}`
    }
    return undefined
  }

  #pinSets(task: Task, controller: Controller, lane: Lane | undefined, taken: ReadonlySet<string>): PinSet[] {
    const hosts = hostsFor(this.#wiring, task.uses[0]!).filter((host) => host.board === task.board)
    let sets: PinSet[] = [{ cost: 0, placed: [] }]
    for (const use of task.uses) {
      const signal = busNeed(use.facts.needs)!.signal
      const given = lane?.pins.get(signal)
      const options = hosts
        .filter(
          (host) =>
            host.functions.has(`${controller.id}.${signal}`) &&
            (given === undefined
              ? !taken.has(host.end) && !this.#elsewhere(task, controller, pinOf(host.end))
              : pinOf(host.end) === given),
        )
        .flatMap((host) => {
          const price = this.#price(use, host, controller.id, given !== undefined)
          return price ? [{ use, to: host.end, ...price }] : []
        })
        .sort((a, b) => a.cost - b.cost)
      if (options.length > MOST_PIN_SETS) this.truncated ||= controller.matrix === undefined
      sets = sets
        .flatMap((set) =>
          options
            .slice(0, MOST_PIN_SETS)
            .filter((option) => !set.placed.some((one) => one.to === option.to))
            .map((option) => ({
              cost: set.cost + option.cost,
              placed: [...set.placed, { use, to: option.to, why: option.why }],
            })),
        )
        .filter((set) => inOneGroup(controller, lane, set.placed))
        .sort((a, b) => a.cost - b.cost)
      if (sets.length > MOST_PIN_SETS) {
        this.truncated = true
        sets = sets.slice(0, MOST_PIN_SETS)
      }
    }
    return sets
  }

  /** True when another controller's bus lies on a pin. */
  #elsewhere(task: Task, controller: Controller, pin: string): boolean {
    for (const [key, lane] of this.#lanes)
      if (key.startsWith(`${task.board.ref} `) && key !== laneKey(task.board, controller.id))
        for (const other of lane.pins.values()) if (other === pin) return true
    return false
  }

  #price(use: SignalUse, host: Host, controller: string, shared: boolean): { cost: number; why: string } | undefined {
    const key = `${use.end} ${host.end} ${controller} ${shared}`
    if (!this.#pinCosts.has(key)) {
      const judged = judge(this.#wiring, use, host, this.#scarcityOf(use), controller)
      const words = [...judged.for, ...judged.against.map((one) => `(${one})`)].join(', ')
      this.#pinCosts.set(
        key,
        judged.blocked === undefined
          ? {
              cost: shared ? 100 : judged.cost,
              why: shared ? `shares ${controller.toUpperCase()}` : words || controller.toUpperCase(),
            }
          : undefined,
      )
    }
    return this.#pinCosts.get(key)
  }

  /** What stands on the pins to which a controller could take a line. */
  #blocked(use: SignalUse, task: Task, controller: Controller): string {
    const name = `${controller.id}.${busNeed(use.facts.needs)!.signal}`
    const reasons = hostsFor(this.#wiring, use)
      .filter((host) => host.board === task.board && host.functions.has(name))
      .map((host) => judge(this.#wiring, use, host, this.#scarcityOf(use), controller.id).blocked)
      .filter((reason) => reason !== undefined)
    return [...new Set(reasons)].slice(0, 3).join(', ') || 'no free pins'
  }

  #scarcityOf(use: SignalUse): Scarcity {
    const key = use.part.home?.ref ?? ''
    const known = this.#scarcity.get(key) ?? new Scarcity(this.#wiring, use)
    this.#scarcity.set(key, known)
    return known
  }

  /** Why a bus line found no place: controller by controller. */
  refusals(use: SignalUse): string[] {
    const task = this.#tasks.find((one) => one.uses.includes(use))!
    const controllers = task.board.board.controllers.filter((one) => one.kind === task.kind)
    if (controllers.length === 0) return [`${task.board.ref} has no ${task.kind.toUpperCase()} controller`]
    return controllers.map((one) => {
      const feature = this.#feature(task.board, one.id)
      if (feature) return `${one.title}: used by ${feature}`
      const lane = this.#lanes.get(laneKey(task.board, one.id))
      const clash = lane && this.#clash(task, lane)
      if (clash) return `${one.title}: ${clash}`
      return `${one.title}: ${this.#pinSets(task, one, lane, new Set()).length > 0 ? 'taken by another part' : this.#blocked(use, task, one)}`
    })
  }
}

/** True for a part that drives MISO. */
const talks = (part: PartInstance): boolean =>
  part.mode?.signals.some((one) => one.needs === 'spi.miso') === true ||
  part.part.signals.some((one) => one.needs === 'spi.miso')

const order: Record<Controller['kind'], number> = { uart: 0, i2c: 1, spi: 2, i2s: 3, can: 4, onewire: 5 }

const laneKey = (board: BoardInstance, controller: string): string => `${board.ref} ${controller}`

const pinOf = (end: string): string => end.slice(end.indexOf('.') + 1)

/** Pins of a controller whose pins move in groups all come from one group. */
function inOneGroup(
  controller: Controller,
  lane: Lane | undefined,
  placed: readonly { use: SignalUse; to: string }[],
): boolean {
  if (!controller.groups) return true
  const wanted = new Map([
    ...(lane?.pins ?? []),
    ...placed.map(({ use, to }) => [busNeed(use.facts.needs)!.signal, pinOf(to)] as const),
  ])
  return controller.groups.some((group) => [...wanted].every(([signal, pin]) => group[signal] === pin))
}
