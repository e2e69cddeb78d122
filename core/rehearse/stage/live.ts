import { circuitOf, type Element, type Port } from '../../circuit/circuit.ts'
import { outputOhms } from '../../circuit/elementOhms.ts'
import { type Branch, solve } from '../../electrical/network.ts'
import type { Host, PartInstance, Wiring } from '../../wiring/model.ts'
import {
  type Drive,
  type Driver,
  type Group,
  livePartsOf,
  type Movable,
  NO_WAY,
  type Pulse,
  type Relay,
  type Switch,
} from './liveGroups.ts'

/** Ohms of an output stage of which no source says them: enough to tell who works against whom. */
export const OUTPUT_OHMS = 25
/** Rounds in which drivers and shifters find their levels; what has not by then swings. */
const MOST_ROUNDS = 12
const RAIL = -1_000_000
/** Ohms from which on a drive is a pull. */
const STRONG_OHMS = 1000
/**
 * The circuit of a plan while a program runs on it: pins drive and let go, contacts close, knobs turn, and each change
 * solves only the nets that hang together with it.
 */
export class LiveCircuit {
  readonly wiring: Wiring
  readonly #groupOf = new Map<number, Group>()
  readonly #held: ReadonlyMap<number, number>
  readonly #drivers = new Map<string, Driver>()
  readonly #movables: ReadonlyMap<Element, Movable>
  readonly #inside: ReadonlyMap<string, Movable>
  readonly #switches: readonly Switch[]
  readonly #relays: readonly Relay[]
  readonly #dirty = new Set<Group>()
  readonly #moved = new Set<Group>()

  constructor(wiring: Wiring) {
    this.wiring = wiring
    const { held, groups, switches, relays, movables, inside } = livePartsOf(wiring)
    this.#held = held
    this.#switches = switches
    this.#relays = relays
    this.#movables = movables
    this.#inside = inside
    for (const group of groups) {
      for (const net of group.nets) this.#groupOf.set(net, group)
      this.#dirty.add(group)
    }
  }

  /** The ways that a contact or a sensing resistance can stand. */
  waysOf(element: Element): readonly string[] {
    return this.#movables.get(element)?.strands.map(({ is }) => is) ?? []
  }

  /** Puts a contact or a sensing resistance another way; `ohms` for one that senses, `way` by its number. */
  move(element: Element, way: number, ohms?: number): void {
    const movable = this.#movables.get(element)
    if (!movable) return
    movable.is = String(way)
    movable.ohms = ohms
    this.#touch(movable.strands.flatMap(({ strands }) => strands))
  }

  /** A switch of lines joins one way with its common line, or none; true where that is new. */
  choose(part: PartInstance, way: number | undefined): boolean {
    return this.#turn(part.ref, way)
  }

  /** A hand closes a contact of a part, by its number, or lets go of it. */
  press(part: PartInstance, contact: number, closed: boolean): void {
    this.#turn(`${part.ref} ${contact}`, closed ? 0 : undefined)
  }

  #turn(name: string, way: number | undefined): boolean {
    const movable = this.#inside.get(name)
    const is = way === undefined ? NO_WAY : String(way)
    if (!movable || movable.is === is) return false
    movable.is = is
    this.#touch(movable.strands.flatMap(({ strands }) => strands))
    return true
  }

  /** A pin drives its net, pulls at it, or lets go of it. */
  drive(
    end: string,
    net: number,
    drive: Drive | undefined,
    pulse?: { readonly low: Drive; readonly pulse: Pulse },
  ): void {
    const group = this.#groupOf.get(net)
    let driver = this.#drivers.get(end)
    if (!driver) {
      if (!drive) return
      driver = { end, net, drive: undefined, low: undefined, pulse: undefined }
      this.#drivers.set(end, driver)
      group?.drivers.push(driver)
    }
    if (driver.drive === drive && driver.pulse === pulse?.pulse) return
    driver.drive = drive
    driver.low = pulse?.low
    driver.pulse = pulse?.pulse
    if (group) this.#dirty.add(group)
  }

  #touch(strands: readonly Branch[]): void {
    for (const { a, b } of strands)
      for (const node of [a, b]) {
        const group = this.#groupOf.get(node)
        if (group) this.#dirty.add(group)
      }
  }

  /** Volts of a net; undefined while nothing holds it. */
  volts(net: number): number | undefined {
    const held = this.#held.get(net)
    if (held !== undefined) return held
    this.settle()
    return this.#groupOf.get(net)?.volts.get(net)
  }

  /** Milliamperes through an element, from its first leg to its second; of a pin those that it gives. */
  milliamps(what: Element | string): number {
    this.settle()
    const net = typeof what === 'string' ? this.#drivers.get(what)?.net : what.netA.index
    const other = typeof what === 'string' ? undefined : what.netB.index
    for (const one of [net, other]) {
      const found = one === undefined ? undefined : this.#groupOf.get(one)?.currents.get(what)
      if (found !== undefined) return found
    }
    return 0
  }

  /** True while what flows through an element comes in pulses. */
  isPulsed({ netA, netB }: Element): boolean {
    this.settle()
    return [netA, netB].some(({ index }) => this.#groupOf.get(index)?.pulsed !== undefined)
  }

  /** Ends that hold nets at a level by themselves, not by a pull. */
  drivenBy(nets: ReadonlySet<number>): string[] {
    return [...this.#drivers.values()]
      .filter(({ net, drive }) => drive && drive.ohms < STRONG_OHMS && nets.has(net))
      .map(({ end }) => end)
  }

  /** Share of time that a net is high, where a pin pulses it. */
  pulseAt(net: number): Pulse | undefined {
    return this.#groupOf.get(net)?.drivers.find((one) => one.net === net && one.pulse)?.pulse
  }

  /** True for a net of which nothing was solved anew since the last rest. */
  isStill(net: number): boolean {
    const group = this.#groupOf.get(net)
    return !group || !this.#moved.has(group)
  }

  rest(): void {
    this.#moved.clear()
  }

  /** Nets that hang together with one. */
  around(net: number): readonly number[] {
    return this.#groupOf.get(net)?.nets ?? []
  }

  /** Solves what has changed; drivers and shifters follow until all stands still. */
  settle(): void {
    if (this.#dirty.size === 0) return
    for (let round = 0; this.#dirty.size > 0 && round < MOST_ROUNDS; round += 1) {
      const groups = [...this.#dirty]
      this.#dirty.clear()
      for (const group of groups) {
        this.#solve(group)
        this.#moved.add(group)
      }
      for (const one of this.#switches) {
        const pulse = this.#pulseInto(one)
        const is = this.#positionOf(one, true)
        const isMeanwhile = pulse ? this.#positionOf(one, false) : is
        if (is === one.is && isMeanwhile === one.isMeanwhile && pulse === one.pulse) continue
        Object.assign(one, { is, isMeanwhile, pulse })
        this.#touch([...one.high, ...one.low])
      }
      for (const { movable, ways } of this.#relays) {
        const is = String(ways.findIndex((one) => this.#isClosed(one)))
        if (is === movable.is) continue
        movable.is = is
        this.#touch(movable.strands.flatMap(({ strands }) => strands))
      }
    }
    this.#dirty.clear()
  }

  #solve(group: Group): void {
    const pulsing = [...group.drivers, ...group.switches].find(({ pulse }) => pulse)
    const high = this.#state(group, true)
    group.pulsed = undefined
    if (!pulsing?.pulse) {
      group.volts = high.volts
      group.currents = high.currents
      return
    }
    const low = this.#state(group, false)
    const { duty } = pulsing.pulse
    group.pulsed = { pulse: pulsing.pulse, high: high.volts, low: low.volts }
    const blend = (a: number, b: number): number => a * duty + b * (1 - duty)
    group.volts = new Map([...high.volts].map(([net, at]) => [net, blend(at, low.volts.get(net) ?? at)]))
    group.currents = new Map([...high.currents].map(([what, one]) => [what, blend(one, low.currents.get(what) ?? 0)]))
  }

  /** One state: while pulses are high, or low. */
  #state(group: Group, whileHigh: boolean): { volts: Map<number, number>; currents: Map<Element | string, number> } {
    const held = new Map(this.#held)
    const branches: (Branch & { readonly what?: Element | string | undefined })[] = group.strands.map((strand) => ({
      ...strand,
      what: strand.element,
    }))
    let rail = RAIL
    const hold = (net: number, { volts, ohms }: Drive, what?: string): void => {
      rail -= 1
      held.set(rail, volts)
      branches.push({ a: rail, b: net, ohms, what })
    }
    for (const { end, net, drive, low, pulse } of group.drivers) {
      const now = pulse && !whileHigh ? low : drive
      if (now) hold(net, now, end)
    }
    for (const { element, strands, is, ohms } of group.movables) {
      const way = strands[Number(is)] ?? strands.find((one) => one.is === is)
      for (const strand of way?.strands ?? [])
        branches.push({ ...strand, ...(ohms === undefined ? {} : { ohms }), what: element })
    }
    for (const { is, isMeanwhile, high, low } of group.switches) {
      const now = whileHigh ? is : isMeanwhile
      if (now !== 'off') branches.push(...(now === 'high' ? high : low))
    }
    let solved = solve(branches, held)
    for (const { from, to, volts } of group.passages) {
      // A side that somebody pulls low takes the other one along; a strong one drives both ways.
      const there = solved.volts.get(from)
      const isLow = there !== undefined && there < 0.3 * (volts ?? 3.3)
      if (isLow) hold(to, { volts: 0, ohms: OUTPUT_OHMS })
      else if (there !== undefined && volts !== undefined && solved.volts.get(to) === undefined)
        hold(to, { volts, ohms: OUTPUT_OHMS })
    }
    if (group.passages.length > 0) solved = solve(branches, held)
    const currents = new Map<Element | string, number>()
    branches.forEach(({ what }, at) => {
      if (what !== undefined) currents.set(what, (currents.get(what) ?? 0) + (solved.amps[at] ?? 0) * 1000)
    })
    return {
      volts: new Map(
        group.nets.flatMap((net) => {
          const at = solved.volts.get(net)
          return at === undefined ? [] : [[net, at] as const]
        }),
      ),
      currents,
    }
  }

  /** Pulses at one of a driver's inputs. */
  #pulseInto({ channel: { inputs, enables } }: Switch): Pulse | undefined {
    for (const end of [...inputs, ...enables.map((one) => one.end)]) {
      const pulse = this.#groupOf.get(this.wiring.netOf(end).index)?.pulsed?.pulse
      if (pulse) return pulse
    }
    return undefined
  }

  /** An output of a driver follows its inputs: as they are, or while pulses are high or low. */
  #positionOf({ channel, high }: Switch, whileHigh: boolean): Switch['is'] {
    const { part, facts, inputs, enables } = channel
    const [first, ...rest] = inputs
    if (first === undefined) return 'off'
    const isHigh = (end: string): boolean | undefined => this.#isHigh(end, whileHigh)
    for (const { end, active, held } of enables) {
      const at = isHigh(end)
      if (at === undefined ? !held : at !== (active === 'high')) return 'off'
    }
    if (rest.some((end) => isHigh(end) === false)) return 'off'
    const at = isHigh(first)
    const pin = first.slice(part.ref.length + 1)
    const signal = [...part.part.signals, ...(part.mode?.signals ?? [])].find((one) => one.pin === pin)
    const active = signal?.activeLevel ?? 'high'
    const given = part.part.provides.find((one) => one.pins.includes(facts.output))
    if (at === undefined) return 'off'
    const on = at === (active === 'high')
    if (given?.does.includes('sink')) return on ? 'low' : 'off'
    if (given?.does.includes('source')) return on ? 'high' : 'off'
    return on ? (high.length > 0 ? 'high' : 'off') : 'low'
  }

  /** Whether a contact of a relay is closed: its part has its supply and its signal is active, or that is not so. */
  #isClosed({ part, moved }: Element): boolean {
    if (!moved) return false
    const active = this.wiring.signal(moved.by)?.facts.activeLevel ?? 'high'
    const isOn = part.logicVolts !== undefined && this.#isHigh(moved.by) === (active === 'high')
    return isOn === moved.whileActive
  }

  /** What an input of a part sees; undefined while nothing holds its net. */
  #isHigh(end: string, whileHigh?: boolean): boolean | undefined {
    const net = this.wiring.netOf(end)
    const group = this.#groupOf.get(net.index)
    const pulsed = whileHigh === undefined ? undefined : group?.pulsed?.[whileHigh ? 'high' : 'low']
    const at = this.#held.get(net.index) ?? (pulsed ?? group?.volts)?.get(net.index)
    if (at === undefined) return undefined
    const port: Port | undefined = circuitOf(this.wiring).ports.get(end)
    const logic = port?.high ?? 3.3
    // The gate of a transistor, or the input of a driver: above about a third of its logic, and above a junction.
    return at > Math.max(0.6, logic * 0.3)
  }
}

/** How a board's pin drives, high and low. */
export function driveOf(wiring: Wiring, host: Host, high: boolean): Drive {
  const port = circuitOf(wiring).ports.get(host.end)
  const ohms = port ? outputOhms(port) : 0
  return { volts: high ? (host.logicVolts ?? 3.3) : 0, ohms: ohms < 1 ? OUTPUT_OHMS : ohms }
}
