import type { Controller } from '../catalog/boardControllers.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf, excludes } from '../wiring/i2c.ts'
import type { BoardInstance, Host, Net, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { slotOf, speakAtOnce } from '../wiring/soundSlots.ts'
import { blockWords } from './block.ts'
import { hasMixedVolts, pulledTooHigh } from './busVolts.ts'
import { type Candidate, hostsFor, together } from './candidates.ts'
import { costs } from './costs.ts'
import { judgeBus } from './judge.ts'
import { type Choice, dearest, type Judged, judgedOn } from './judged.ts'
import { type Lane, laneAt, lanesOf, type Task } from './lanes.ts'

/** A single signal, or one line of a lane: takes one pin. */
export interface Claim {
  /** Signal end, or lane and line. */
  readonly name: string
  readonly uses: readonly SignalUse[]
  /** Cheapest first. */
  readonly choices: readonly Choice[]
  /** Points when it finds no pin: a bus with half its lines is none, so its lines cost more than its parts. */
  readonly none: number
}

/** Points for a signal left without a pin: more than any plan could otherwise cost. */
export const NO_PIN = 100_000

/**
 * What is open, as a problem to search: single signals with their pins, parts with bus lines and the controllers that
 * could carry them. Reads the wiring only; prices are worked out once.
 */
export class SearchProblem {
  readonly wiring: Wiring
  readonly singles: readonly Claim[]
  readonly tasks: readonly Task[]
  readonly lanes: readonly Lane[]
  /** Signals that are placed already and hold a timer, a PWM channel or an interrupt line. */
  readonly timed: readonly SignalUse[]
  readonly #judged: Judged
  readonly #coming: ReadonlySet<number>[] = []
  readonly #lanesOf = new Map<Task, readonly Lane[]>()
  readonly #reached = new Map<string, readonly Host[]>()
  readonly #busUses: ReadonlySet<SignalUse>
  /** Parts that a pin of their own can keep off their bus, or will when this is placed. */
  readonly #apart: ReadonlySet<PartInstance>
  /** Parts whose output to an SPI bus is wired, or will be; a display that is only written to leaves it open. */
  readonly #talking: ReadonlySet<PartInstance>

  constructor(wiring: Wiring, open: readonly SignalUse[]) {
    this.wiring = wiring
    this.#judged = judgedOn(wiring)
    const inUse = [...open, ...wiring.signals.filter(({ hosts }) => hosts.length > 0)]
    this.#apart = new Set(inUse.filter(keepsOff).map(({ part }) => part))
    this.#talking = new Set(inUse.filter(({ facts }) => facts.needs === 'spi.miso').map(({ part }) => part))
    const tasks = new Map<string, Task & { uses: SignalUse[] }>()
    for (const use of open) {
      const need = busNeed(use.facts.needs)
      if (!need || need.signal === 'cs' || !use.part.home) continue
      const key = `${use.part.ref} ${need.kind}`
      const task = tasks.get(key) ?? { part: use.part, kind: need.kind, uses: [] }
      task.uses.push(use)
      tasks.set(key, task)
    }
    // Kinds with few parts first: what they leave open is soon decided.
    const number = (task: Task): number => [...tasks.values()].filter((one) => one.kind === task.kind).length
    // What gives lanes to others comes before them: only then it is known what hears what.
    const gives = (task: Task): number => Number(task.part.part.controllers.some((one) => one.kind === task.kind))
    this.tasks = [...tasks.values()].sort(
      (a, b) =>
        number(a) - number(b) || order[a.kind] - order[b.kind] || gives(b) - gives(a) || b.uses.length - a.uses.length,
    )
    this.#busUses = new Set(this.tasks.flatMap((task) => task.uses))
    this.timed = wiring.signals.filter(
      (use) =>
        use.hosts.length > 0 &&
        (use.facts.needs === 'interrupt' || use.facts.needs === 'pwm' || use.facts.hertz !== undefined),
    )
    const wanted = new Set(this.tasks.map((task) => `${task.part.home?.ref} ${task.kind}`))
    this.lanes = lanesOf(wiring).filter(({ board, controller }) => wanted.has(`${board.ref} ${controller.kind}`))
    this.singles = byWire(
      wiring,
      open.filter((use) => !this.#busUses.has(use)),
    ).map((uses) => ({
      name: uses[0].end,
      uses,
      choices: dearest(uses.map((use) => this.#judged.alone(use))),
      none: NO_PIN * uses.length,
    }))
  }

  isBus(use: SignalUse): boolean {
    return this.#busUses.has(use)
  }

  isKeptApart(part: PartInstance): boolean {
    return this.#apart.has(part)
  }

  talks(part: PartInstance): boolean {
    return this.#talking.has(part)
  }

  /** Lanes that a part's lines may go to, those in use first. */
  lanesFor(task: Task): readonly Lane[] {
    let lanes = this.#lanesOf.get(task)
    if (!lanes) {
      const locked = this.lanes.find((lane) => lane.parts.includes(task.part) && lane.controller.kind === task.kind)
      lanes = this.lanes.filter(
        (lane) =>
          lane.board === task.part.home &&
          lane.controller.kind === task.kind &&
          lane.provider !== task.part &&
          (locked === undefined || lane === locked) &&
          task.uses.every((use) => this.choicesOn(lane, use).length > 0),
      )
      this.#lanesOf.set(task, lanes)
    }
    return lanes
  }

  /** What keeps a part off a lane that carries others: a UART carries one part, an I2C address answers once. */
  clash(task: Task, others: readonly PartInstance[]): string | undefined {
    const rest = others.filter((part) => part !== task.part)
    if (rest.length === 0) return undefined
    if (task.kind === 'i2s') {
      const other = rest.find((part) => speakAtOnce(task.part, part))
      return other && `${other.ref} speaks on its data line`
    }
    if (task.kind === 'uart' || task.kind === 'can') return `taken by ${rest.map((part) => part.ref).join(', ')}`
    if (task.kind === 'spi') {
      const talkers = [task.part, ...rest].filter((part) => this.talks(part))
      const holder = talkers.find((part) => part.mode?.spi?.releases === false)
      return holder && talkers.length > 1 && this.talks(task.part) ? `${holder.ref} never lets go of MISO` : undefined
    }
    if (task.kind !== 'i2c') return undefined
    const mine = new Set(addressesOf(task.part).map((one) => one.address))
    for (const part of rest) {
      // Of two of a kind one can be kept off the bus while the other is told its address.
      if (part.part.id === task.part.part.id && (this.#apart.has(part) || this.#apart.has(task.part))) continue
      const same = addressesOf(part).find((one) => mine.has(one.address) && excludes(task.part, part, one.address))
      if (same) return `${hexAddress(same.address)} is taken by ${part.ref}`
    }
    return this.#mixed() ? pulledTooHigh(this.wiring, [task.part, ...rest]) : undefined
  }

  #isMixed: boolean | undefined
  /** It matters for their pull-ups which parts share an I2C bus. */
  #mixed(): boolean {
    this.#isMixed ??= hasMixedVolts(
      this.wiring,
      this.wiring.parts.filter(({ mode }) => mode?.i2c !== undefined),
    )
    return this.#isMixed
  }

  /** Addresses of the tasks from a depth on. */
  #addressesFrom(depth: number): ReadonlySet<number> {
    this.#coming[depth] ??= new Set(
      this.tasks.slice(depth).flatMap((task) => addressesOf(task.part).map((one) => one.address)),
    )
    return this.#coming[depth]
  }

  /** What of the parts on a lane can still matter to the tasks from a depth on: addresses, and MISO that is held. */
  traceOf(parts: readonly PartInstance[], depth: number, whole = false): string {
    const coming = this.#addressesFrom(depth)
    const addresses = parts.flatMap((part) =>
      addressesOf(part)
        .filter(({ address }) => whole || coming.has(address))
        .map(({ address }) => `${address}${this.#apart.has(part) ? ' apart' : ''}`),
    )
    const volts = this.#mixed() ? parts.filter((part) => part.mode?.i2c).map((part) => part.ref) : []
    const slots = parts.flatMap((part) => slotOf(part) ?? [])
    const holds = parts.some((part) => part.mode?.spi?.releases === false && this.talks(part))
    const switches = parts.filter((part) => part.part.controllers.length > 0).map((part) => part.ref)
    return `${volts.join(' ')} ${slots.sort().join(' ')} ${switches.join(' ')} ${addresses.sort().join(' ')}${holds ? ' holds' : ''}${parts.some((part) => this.talks(part)) ? ' talks' : ''}`
  }

  /** Pins on which a lane can carry a signal; the one in use where there is one. */
  choicesOn(lane: Lane, use: SignalUse): readonly Choice[] {
    return this.#judged.onLane(use, lane, () => this.#choicesOn(lane, use))
  }

  /** Pins that the controller of a lane reaches with a signal. */
  #hostsOn(lane: Lane, signal: string): readonly Host[] {
    const key = `${lane.key} ${signal}`
    let hosts = this.#reached.get(key)
    if (!hosts) {
      const name = `${lane.controller.id}.${signal}`
      hosts = [...this.wiring.hosts.values()].filter(
        (host) =>
          (lane.provider ? host.provider === lane.provider : host.board === lane.board) && host.functions.has(name),
      )
      this.#reached.set(key, hosts)
    }
    return hosts
  }

  #choicesOn(lane: Lane, use: SignalUse): Choice[] {
    const signal = busNeed(use.facts.needs)!.signal
    const given = lane.given.get(signal)
    return this.#hostsOn(lane, signal)
      .filter((host) =>
        given === undefined ? (laneAt(this.wiring).get(host.end) ?? lane) === lane : host.end === given,
      )
      .flatMap((host) => {
        const pin = this.#judged.pin(use, host)
        if ('blocked' in pin) return []
        if (given !== undefined) return [{ host, extra: 0 }]
        return [{ host, extra: pin.points + judgeBus(this.wiring, use, host, lane.controller.id).points }]
      })
      .sort((a, b) => a.extra - b.extra)
  }

  /** A pin for a bus line on a controller. */
  judged(use: SignalUse, host: Host, controller: string): Candidate {
    return together(host, this.#judged.pin(use, host), () => judgeBus(this.wiring, use, host, controller))
  }

  /** Lines that a lane needs for the parts put on it, given pins left out; undefined when one finds no pin. */
  laneLines(lane: Lane, tasks: readonly Task[]): Claim[] | undefined {
    const bySignal = new Map<string, SignalUse[]>()
    for (const task of tasks)
      for (const use of task.uses) {
        const signal = busNeed(use.facts.needs)!.signal
        bySignal.set(signal, [...(bySignal.get(signal) ?? []), use])
      }
    const lines: Claim[] = []
    for (const [signal, uses] of bySignal) {
      const choices = dearest([...new Set(uses.map((use) => this.choicesOn(lane, use)))])
      if (choices.length === 0) return undefined
      if (!lane.given.has(signal)) lines.push({ name: `${lane.key} ${signal}`, uses, choices, none: NO_PIN * 500 })
    }
    return lines
  }

  /** Points of a controller that is not the first choice, once for a lane that carried nothing yet. */
  rankExtra(lane: Lane): number {
    return lane.given.size > 0 ? 0 : lane.controller.rank * costs.controllerRank
  }

  /** True when it is the pull-ups of parts on its bus that keep a line off, those placed in this answer included. */
  isPulledTooHigh(use: SignalUse, placed: readonly Placed[]): boolean {
    const task = this.tasks.find((one) => one.uses.includes(use))
    if (task?.kind !== 'i2c') return false
    return this.lanesFor(task).some(
      (lane) => pulledTooHigh(this.wiring, [task.part, ...partsOn(lane, placed)]) !== undefined,
    )
  }

  /** Why a bus line finds no place beside what this answer placed: controller by controller. */
  refusals(use: SignalUse, placed: readonly Placed[]): string[] {
    const task = this.tasks.find((one) => one.uses.includes(use)) as Task
    const board = task.part.home as BoardInstance
    const all = board.board.controllers.filter((one) => one.kind === task.kind)
    if (all.length === 0) return [`${board.ref} has no ${task.kind.toUpperCase()} controller`]
    return all.map((one) => {
      const feature = board.features.find((each) => each.controllers.includes(one.id))?.title
      if (feature !== undefined) return `${one.title}: used by ${feature}`
      const lane = this.lanes.find((each) => each.board === board && !each.provider && each.controller.id === one.id)
      const clash = lane && this.clash(task, partsOn(lane, placed))
      if (clash) return `${one.title}: ${clash}`
      const stuck = lane ? task.uses.filter((each) => this.choicesOn(lane, each).length === 0) : task.uses
      if (stuck.length === 0) return `${one.title}: taken by another part`
      // A line that itself would find a pin goes with the others of its part.
      return stuck.includes(use)
        ? `${one.title}: ${this.#blockedOn(use, board, one)}`
        : `${one.title}: goes with ${stuck.map(({ end }) => end).join(', ')}, without a pin`
    })
  }

  #blockedOn(use: SignalUse, board: BoardInstance, controller: Controller): string {
    const name = `${controller.id}.${busNeed(use.facts.needs)!.signal}`
    const reasons = hostsFor(this.wiring, use)
      .filter((host) => host.board === board && host.functions.has(name))
      .flatMap((host) => {
        const { blocked } = this.judged(use, host, controller.id)
        return blocked ? [blockWords(blocked)] : []
      })
    return [...new Set(reasons)].slice(0, 3).join(', ') || 'no free pins'
  }
}

/** True for a line that keeps its part off the bus while others are told their address. */
export const keepsOff = ({ part, facts }: SignalUse): boolean => part.mode?.i2c?.off === facts.pin

/** Signals that are one wire already take one pin between them; the one with most to ask for stands first. */
function byWire(wiring: Wiring, open: readonly SignalUse[]): (readonly [SignalUse, ...SignalUse[]])[] {
  const wires = new Map<Net, [SignalUse, ...SignalUse[]]>()
  for (const use of open) {
    const net = wiring.netOf(use.tail)
    const there = wires.get(net)
    if (!there) wires.set(net, [use])
    else if (use.facts.hertz !== undefined || use.facts.needs === 'interrupt') there.unshift(use)
    else there.push(use)
  }
  return [...wires.values()]
}

/** A line with the controller that it was placed on. */
interface Placed {
  readonly use: SignalUse
  readonly lane: Lane | undefined
}

/** Parts on a lane, wired or placed. */
const partsOn = (lane: Lane, placed: readonly Placed[]): PartInstance[] => [
  ...new Set([...lane.parts, ...placed.flatMap((one) => (one.lane === lane ? [one.use.part] : []))]),
]

const order: Record<Controller['kind'], number> = { uart: 0, i2c: 1, spi: 2, i2s: 3, can: 4, onewire: 5 }
