import { memo } from '../base/memo.ts'
import { type Branch, solve } from '../electrical/network.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { circuitOf } from './circuit.ts'
import { groundworkOf, type Passage } from './groundwork.ts'

/** Node of a hold that is added for one question; no net and no supply inside a part has it. */
const HOLD_NODE = Number.MIN_SAFE_INTEGER

/** Volts while a net is driven high, and low. */
interface Ends {
  readonly high: number | undefined
  readonly low: number | undefined
}

const networks = memo((wiring: Wiring) => new LineNetwork(wiring))

/** The network of a wiring while nothing on it drives, made once. */
export const networkOf = (wiring: Wiring): LineNetwork => networks(wiring.whole ?? wiring)

/**
 * What lies between the nets of a wiring while no pin drives and every contact is open: resistors, lamps, loads, pulls
 * inside modules and boards. One question adds a pin that drives, or a weak hold.
 */
export class LineNetwork {
  readonly #fixed: ReadonlyMap<number, number>
  readonly #byNet = new Map<number, Branch[]>()
  readonly #internal = new Map<number, number>()
  readonly #passages: readonly Passage[]
  readonly #resting = new Map<Net, number | undefined>()
  readonly #driven = new Map<string, Ends>()

  constructor(wiring: Wiring) {
    const { held, strands, actors, passages } = groundworkOf(circuitOf(wiring))
    this.#fixed = held
    this.#passages = passages
    for (const strand of strands) this.#branch(strand)
    // A resistance that senses stands at its usual value.
    for (const { positions } of actors)
      for (const { is, strands: own } of positions) if (is === 'usual') for (const strand of own) this.#branch(strand)
    for (const use of wiring.signals) {
      const bus = use.facts.needs.startsWith('i2c.')
      if (use.facts.pull !== 'up' && !bus) continue
      for (const { host } of use.hosts)
        if (host.logicVolts !== undefined) this.#internal.set(wiring.netOf(host.end).index, host.logicVolts)
    }
  }

  #branch(branch: Branch): void {
    for (const node of [branch.a, branch.b]) {
      const known = this.#byNet.get(node)
      if (known) known.push(branch)
      else this.#byNet.set(node, [branch])
    }
  }

  /** Branches that hang together with a net without crossing a node that is held at a voltage. */
  #around(net: number): Branch[] {
    const found = new Set<Branch>()
    const seen = new Set([net])
    const queue = [net]
    for (let node = queue.pop(); node !== undefined; node = queue.pop())
      for (const branch of this.#byNet.get(node) ?? []) {
        found.add(branch)
        const other = branch.a === node ? branch.b : branch.a
        if (seen.has(other) || this.#fixed.has(other)) continue
        seen.add(other)
        queue.push(other)
      }
    return [...found]
  }

  /** Volts at a net while nobody drives; undefined when nothing holds it. */
  resting(net: Net): number | undefined {
    if (!this.#resting.has(net)) {
      const solved = this.#solve(net, undefined)
      const internal = this.#internal.get(net.index)
      const alone = solved ?? internal
      this.#resting.set(net, alone)
    }
    return this.#resting.get(net)
  }

  /** Volts that resistors alone give a net, pins' own pull-ups left out; undefined when none holds it. */
  pulled(net: Net): number | undefined {
    return this.#solve(net, undefined)
  }

  /**
   * What resistors do to a net, as one source behind one resistance (Thévenin's theorem): volts and ohms, with another
   * net driven to `volts` where given. Undefined when nothing holds the net.
   */
  thevenin(net: Net, drive?: { net: Net; volts: number }): { volts: number; ohms: number } | undefined {
    const driven = drive && { net: drive.net.index, volts: drive.volts }
    const open = this.#solve(net, driven)
    if (open === undefined) return undefined
    if (this.#fixed.has(net.index) || drive?.net === net) return { volts: open, ohms: 0 }
    const probe = { volts: open + 1, ohms: 1000 }
    const share = (this.#solve(net, driven, probe) ?? open) - open
    return { volts: open, ohms: (probe.ohms * share) / (1 - share) }
  }

  /** Volts to which a net comes when a weak hold, such as the pull of a boot-strap pin, works against the rest. */
  held(net: Net, hold: { volts: number; ohms: number }): number {
    return this.#solve(net, undefined, hold) ?? hold.volts
  }

  #solve(
    net: Net,
    drive: { net: number; volts: number } | undefined,
    hold?: { volts: number; ohms: number },
  ): number | undefined {
    const fixed = this.#fixed.get(net.index)
    if (fixed !== undefined) return fixed
    if (drive && drive.net === net.index) return drive.volts
    const own = this.#byNet.get(net.index)
    if (!own) return hold?.volts
    if (own[0] && own.length === 1 && own[0].drop === undefined) {
      // One resistor to a held node, as for most pull-ups: no current, or a divider with the hold.
      const { a, b, ohms } = own[0]
      const other = a === net.index ? b : a
      const at = drive?.net === other ? drive.volts : this.#fixed.get(other)
      if (at !== undefined) return hold ? at + ((hold.volts - at) * ohms) / (ohms + hold.ohms) : at
      if (this.#byNet.get(other)?.length === 1) return hold?.volts
    }
    const branches = this.#around(net.index)
    if (hold) branches.push({ a: net.index, b: HOLD_NODE, ohms: hold.ohms })
    if (branches.length === 0) return undefined
    const held = new Map<number, number>()
    for (const { a, b } of branches)
      for (const node of [a, b]) {
        const volts = this.#fixed.get(node)
        if (volts !== undefined) held.set(node, volts)
      }
    if (drive) held.set(drive.net, drive.volts)
    if (hold) held.set(HOLD_NODE, hold.volts)
    return solve(branches, held).volts.get(net.index)
  }

  /** Volts at one net while another is driven high, and low; asked for every pin of a board, and worked out once. */
  driven(from: Net, to: Net, drive: Ends): Ends {
    const key = `${from.index} ${to.index} ${drive.high} ${drive.low}`
    let known = this.#driven.get(key)
    if (!known) {
      known = this.#drive(from, to, drive)
      this.#driven.set(key, known)
    }
    return known
  }

  #drive(from: Net, to: Net, drive: Ends): Ends {
    const at = (net: number, volts: number | undefined): number | undefined =>
      volts === undefined ? undefined : this.#solve(to, { net, volts })
    if (!this.#hangTogether(from.index, to.index)) {
      const shift = this.#passages.find(
        (one) => this.#hangTogether(from.index, one.from) && this.#hangTogether(one.to, to.index),
      )
      if (shift)
        return {
          high: drive.high === undefined ? undefined : at(shift.to, shift.volts),
          low: drive.low === undefined ? undefined : at(shift.to, 0),
        }
    }
    return { high: at(from.index, drive.high), low: at(from.index, drive.low) }
  }

  /** Nets that hang together with one through resistors, itself included. */
  joined(net: Net): ReadonlySet<number> {
    return new Set([net.index, ...this.#around(net.index).flatMap(({ a, b }) => [a, b])])
  }

  /** Nets to which a driven level comes from one: those joined with it, and those over one shifter or buffer. */
  reached(net: Net): ReadonlySet<number> {
    const near = this.joined(net)
    const over = this.#passages.filter((one) => near.has(one.from))
    return new Set([...near, ...over.flatMap(({ to }) => [to, ...this.#around(to).flatMap(({ a, b }) => [a, b])])])
  }

  /** True when resistors, or nothing at all, lie between two nets. */
  #hangTogether(a: number, b: number): boolean {
    return a === b || (this.#byNet.has(a) && this.#around(a).some((branch) => branch.a === b || branch.b === b))
  }
}
