import { memo } from '../base/memo.ts'
import type { Controller } from '../catalog/boardSchema.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf, excludes } from '../wiring/i2c.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { blockWords } from './blocks.ts'
import { hasMixedVolts, pulledTooHigh } from './busVolts.ts'
import { type Candidate, candidates, hostsFor, likenessOf, together } from './candidates.ts'
import { costs } from './costs.ts'
import { type Blocked, judgeBus, judgePin, type Verdict } from './judge.ts'
import { findLanes, type Lane, type Task, talks } from './lanes.ts'
import { scarcityOf } from './scarcity.ts'

/** One way to carry a line: a pin and its points beyond the hundred that every placed signal costs. */
export interface Choice {
  readonly host: Host
  readonly extra: number
}

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

/** What the pins of a wiring are worth to its signals: the same for every problem that is made of it. */
interface Judged {
  readonly likeness: Map<SignalUse, string>
  readonly pins: Map<string, Map<Host, Verdict | Blocked>>
  readonly alone: Map<string, readonly Choice[]>
}

const judgedOn = memo((_wiring: Wiring): Judged => ({ likeness: new Map(), pins: new Map(), alone: new Map() }))

function shared(known: Map<string, readonly Choice[]>, key: string, work: () => readonly Choice[]): readonly Choice[] {
  let choices = known.get(key)
  if (!choices) {
    choices = work()
    known.set(key, choices)
  }
  return choices
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
  /** Choices of signals that are alike, worked out once; the same list for all of them. */
  readonly #alike = new Map<string, readonly Choice[]>()
  readonly #busUses: ReadonlySet<SignalUse>
  readonly #taken = new Map<string, string>()

  constructor(wiring: Wiring, open: readonly SignalUse[]) {
    this.wiring = wiring
    this.#judged = judgedOn(wiring)
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
    this.lanes = findLanes(wiring, this.tasks)
    for (const lane of this.lanes) for (const end of lane.given.values()) this.#taken.set(end, lane.key)
    this.singles = open
      .filter((use) => !this.#busUses.has(use))
      .map((use) => ({
        name: use.end,
        uses: [use],
        choices: shared(this.#judged.alone, `${this.#likenessOf(use)} ${givesPins(use) ? use.end : 'alone'}`, () =>
          candidates(wiring, use)
            .filter((one) => one.blocked === undefined)
            .map((one) => ({ host: one.host, extra: one.cost - 100 })),
        ),
        none: NO_PIN,
      }))
  }

  #likenessOf(use: SignalUse): string {
    const { likeness: all } = this.#judged
    let likeness = all.get(use)
    if (likeness === undefined) {
      likeness = likenessOf(this.wiring, use)
      all.set(use, likeness)
    }
    return likeness
  }

  isBus(use: SignalUse): boolean {
    return this.#busUses.has(use)
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
    if (task.kind === 'uart' || task.kind === 'i2s' || task.kind === 'can')
      return `taken by ${rest.map((part) => part.ref).join(', ')}`
    if (task.kind === 'spi') {
      const talkers = [task.part, ...rest].filter(talks)
      const holder = talkers.find((part) => part.mode?.spi?.releases === false)
      return holder && talkers.length > 1 && talks(task.part) ? `${holder.ref} never lets go of MISO` : undefined
    }
    if (task.kind !== 'i2c') return undefined
    const mine = new Set(addressesOf(task.part).map((one) => one.address))
    for (const part of rest) {
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
    const addresses = parts
      .flatMap((part) => addressesOf(part).map((one) => one.address))
      .filter((one) => whole || coming.has(one))
    const volts = this.#mixed() ? parts.filter((part) => part.mode?.i2c).map((part) => part.ref) : []
    const holds = parts.some((part) => part.mode?.spi?.releases === false && talks(part))
    const switches = parts.filter((part) => part.part.controllers.length > 0).map((part) => part.ref)
    return `${volts.join(' ')} ${switches.join(' ')} ${addresses.sort((a, b) => a - b).join(' ')}${holds ? ' holds' : ''}${parts.some(talks) ? ' talks' : ''}`
  }

  /** Pins on which a lane can carry a signal; the one in use where there is one. */
  choicesOn(lane: Lane, use: SignalUse): readonly Choice[] {
    return shared(this.#alike, `${this.#likenessOf(use)} ${lane.key}`, () => this.#choicesOn(lane, use))
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
        given === undefined ? (this.#taken.get(host.end) ?? lane.key) === lane.key : host.end === given,
      )
      .flatMap((host) => {
        const pin = this.#judgedPin(use, host)
        if ('blocked' in pin) return []
        if (given !== undefined) return [{ host, extra: 0 }]
        return [{ host, extra: pin.points + judgeBus(this.wiring, use, host, lane.controller.id).points }]
      })
      .sort((a, b) => a.extra - b.extra)
  }

  /** A pin for a bus line on a controller. */
  judged(use: SignalUse, host: Host, controller: string): Candidate {
    return together(host, this.#judgedPin(use, host), () => judgeBus(this.wiring, use, host, controller))
  }

  /** What the pin itself makes of it, worked out once for signals that are alike. */
  #judgedPin(use: SignalUse, host: Host): Verdict | Blocked {
    const likeness = this.#likenessOf(use)
    const { pins } = this.#judged
    const byHost = pins.get(likeness) ?? new Map<Host, Verdict | Blocked>()
    pins.set(likeness, byHost)
    const pin = byHost.get(host) ?? judgePin(this.wiring, use, host, scarcityOf(this.wiring, use))
    byHost.set(host, pin)
    return pin
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
      const [first, ...rest] = uses.map((use) => this.choicesOn(lane, use))
      const choices = (first ?? []).flatMap(({ host, extra }) => {
        const others = rest.map((list) => list.find((one) => one.host === host))
        return others.some((one) => one === undefined)
          ? []
          : [{ host, extra: Math.max(extra, ...others.map((one) => one?.extra ?? 0)) }]
      })
      if (choices.length === 0) return undefined
      if (!lane.given.has(signal)) lines.push({ name: `${lane.key} ${signal}`, uses, choices, none: NO_PIN * 500 })
    }
    return lines
  }

  /** Points of a controller that is not the first choice, once for a lane that carried nothing yet. */
  rankExtra(lane: Lane): number {
    return lane.given.size > 0 ? 0 : lane.controller.rank * costs.controllerRank
  }

  /** Why a bus line finds no place: controller by controller. */
  refusals(use: SignalUse): string[] {
    const task = this.tasks.find((one) => one.uses.includes(use)) as Task
    const board = task.part.home as BoardInstance
    const all = board.board.controllers.filter((one) => one.kind === task.kind)
    if (all.length === 0) return [`${board.ref} has no ${task.kind.toUpperCase()} controller`]
    return all.map((one) => {
      const feature = board.features.find((each) => each.controllers.includes(one.id))?.title
      if (feature !== undefined) return `${one.title}: used by ${feature}`
      const lane = this.lanes.find((each) => each.board === board && !each.provider && each.controller.id === one.id)
      const clash = lane && this.clash(task, lane.parts)
      if (clash) return `${one.title}: ${clash}`
      const free = lane ? task.uses.every((each) => this.choicesOn(lane, each).length > 0) : false
      return `${one.title}: ${free ? 'taken by another part' : this.#blockedOn(use, board, one)}`
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

/** True for a signal of a part that gives pins to others: its own are no pins for it. */
const givesPins = ({ part: { part } }: SignalUse): boolean => part.provides.length > 0 || part.controllers.length > 0

const order: Record<Controller['kind'], number> = { uart: 0, i2c: 1, spi: 2, i2s: 3, can: 4, onewire: 5 }
