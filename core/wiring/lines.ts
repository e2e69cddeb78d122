import { type Levels, volts } from '../catalog/common.ts'
import { holds } from '../catalog/when.ts'
import { type Branch, solve } from '../electrical/network.ts'
import { entryOf } from '../text/entryOf.ts'
import type { Host, Net, PartInstance, SignalUse, Wiring } from './model.ts'
import { switchesLoad } from './needs.ts'

/** One way along a wire: who drives, who listens, and the voltages that arrive there. */
export interface Line {
  /** Ends of driver and receiver. */
  readonly driver: string
  readonly receiver: string
  /** Volts at the receiver while the driver is high, low, and while nobody drives. */
  readonly high: number | undefined
  readonly low: number | undefined
  readonly resting: number | undefined
  /** What the receiver needs and bears, in volts; absent facts are undefined. */
  readonly vih: number | undefined
  readonly vil: number | undefined
  readonly most: number | undefined
  readonly driverVolts: number | undefined
  readonly receiverVolts: number | undefined
  /** The part's signal; undefined for a link between two boards. */
  readonly use: SignalUse | undefined
  /** Only pulls low; something else makes the high level. */
  readonly openDrain: boolean
}

/** Level set of a part's signal: by name, or by the value of an option. */
export function levelsOf(use: SignalUse): Levels {
  const { part, options } = use.part
  const named = use.facts.levels
  const name = typeof named === 'object' ? entryOf(named.sets, String(entryOf(options, named.option))) : named
  return entryOf(part.levels, name ?? '') ?? {}
}

const lines = new WeakMap<Wiring, readonly Line[]>()

/** Every driven line of the wiring with its levels at the far end, worked out once. */
export function linesOf(wiring: Wiring): readonly Line[] {
  const known = lines.get(wiring) ?? findLines(wiring)
  lines.set(wiring, known)
  return known
}

function findLines(wiring: Wiring): Line[] {
  const network = networkOf(wiring)
  const lines: Line[] = []
  for (const use of wiring.signals) {
    const part = use.part
    const levels = levelsOf(use)
    const own = {
      vih: volts(levels.vih, part.logicVolts),
      vil: volts(levels.vil, part.logicVolts),
      most: volts(levels.most, part.logicVolts),
    }
    const ownNet = wiring.netOf(use.end)
    if (use.state === 'tied') {
      lines.push({
        driver: ownNet.sources[0]?.end ?? use.end,
        receiver: use.end,
        high: undefined,
        low: undefined,
        resting: network.resting(ownNet),
        vih: undefined,
        vil: undefined,
        most: own.most,
        driverVolts: undefined,
        receiverVolts: part.logicVolts,
        use,
        openDrain: false,
      })
      continue
    }
    for (const { host } of use.hosts) {
      if (switchesLoad(host.functions)) continue
      const hostNet = wiring.netOf(host.end)
      const openDrain = use.facts.direction === 'open-drain'
      const bus = use.facts.needs.startsWith('i2c.')
      const resting = { part: network.resting(ownNet), host: network.resting(hostNet) }
      if (use.facts.direction === 'in' || use.facts.direction === 'both' || bus) {
        const drive = outputOf(host)
        const at = network.driven(hostNet, ownNet, drive)
        lines.push({
          driver: host.end,
          receiver: use.end,
          high: bus ? resting.part : at.high,
          low: at.low,
          resting: resting.part,
          ...own,
          driverVolts: host.logicVolts,
          receiverVolts: part.logicVolts,
          use,
          openDrain: bus,
        })
      }
      if (use.facts.direction !== 'passive' && use.facts.direction !== 'in') {
        const drive = openDrain
          ? { high: undefined, low: volts(levels.vol, part.logicVolts) ?? 0 }
          : { high: volts(levels.high, part.logicVolts) ?? part.logicVolts, low: 0 }
        const at = network.driven(ownNet, hostNet, drive)
        lines.push({
          driver: use.end,
          receiver: host.end,
          high: openDrain ? resting.host : at.high,
          low: at.low,
          resting: resting.host,
          ...inputOf(host, use.facts.needs === 'analog-in'),
          driverVolts: part.logicVolts,
          receiverVolts: host.logicVolts,
          use,
          openDrain,
        })
      }
    }
  }
  return [...lines, ...boardLinks(wiring, network)]
}

/** Pins of two boards that are joined, straight or through resistors: either may drive. */
function boardLinks(wiring: Wiring, network: LineNetwork): Line[] {
  if (wiring.boards.length < 2) return []
  const hosts = [...wiring.hosts.values()].filter((host) => host.board && wiring.netOf(host.end).wired)
  const near = new Set(wiring.nets)
  return hosts.flatMap((driver) => {
    const from = wiring.netOf(driver.end)
    if (!near.has(from) || from.ground || from.sources.length > 0) return []
    const joined = network.joined(from)
    return hosts.flatMap((receiver): Line[] => {
      const to = wiring.netOf(receiver.end)
      if (driver.ref === receiver.ref || !joined.has(to.index)) return []
      return [
        {
          driver: driver.end,
          receiver: receiver.end,
          ...network.driven(from, to, outputOf(driver)),
          resting: undefined,
          ...inputOf(receiver),
          driverVolts: driver.logicVolts,
          receiverVolts: receiver.logicVolts,
          use: undefined,
          openDrain: false,
        },
      ]
    })
  })
}

/**
 * Levels of a pin that drives nothing but inputs: its supply and 0 V. VOH and VOL hold at the rated current, which an
 * input never takes; only an open drain works against pull-ups, and its VOL counts.
 */
const outputOf = (host: Host): { high: number | undefined; low: number } => ({
  high: volts(host.levels.high, host.logicVolts) ?? host.logicVolts,
  low: 0,
})

const inputOf = (host: Host, analog = false) => ({
  vih: volts(host.levels.vih, host.logicVolts),
  vil: volts(host.levels.vil, host.logicVolts),
  most: volts((analog ? host.levels.mostAnalog : undefined) ?? host.levels.most, host.logicVolts),
})

/** Node of a hold that is added for one question; nets count from 0, module supplies from -2 down. */
const HOLD_NODE = -1

const networks = new WeakMap<Wiring, LineNetwork>()

/** The resistive network of a wiring, made once. */
export function networkOf(given: Wiring): LineNetwork {
  const wiring = given.whole ?? given
  let network = networks.get(wiring)
  if (!network) {
    network = new LineNetwork(wiring)
    networks.set(wiring, network)
  }
  return network
}

/** The resistors of a wiring, pull-ups inside modules and boards included, as networks to solve. */
export class LineNetwork {
  readonly #fixed = new Map<number, number>()
  readonly #byNet = new Map<number, Branch[]>()
  readonly #internal = new Map<number, number>()
  /** Level shifters and buffers: a level at one net comes out at another, at that side's supply. */
  readonly #shifts: { from: number; to: number; volts: number | undefined }[] = []
  readonly #resting = new Map<Net, number | undefined>()
  #virtual = -1

  constructor(wiring: Wiring) {
    for (const net of wiring.nets) {
      const volts = net.ground ? 0 : net.sources[0]?.volts
      if (volts !== undefined) this.#fixed.set(net.index, volts)
    }
    for (const part of wiring.parts) {
      if (part.part.category === 'passive') this.#addResistors(wiring, part)
      this.#addShifters(wiring, part)
      this.#addModulePulls(wiring, part)
    }
    for (const host of wiring.hosts.values()) {
      const fixed = host.cautions.find((caution) => caution.id === 'fixed-pull-up')
      if (fixed?.heldOhms !== undefined && host.logicVolts !== undefined)
        this.#pull(wiring.netOf(host.end), host.logicVolts, fixed.heldOhms)
    }
    for (const use of wiring.signals) {
      const bus = use.facts.needs.startsWith('i2c.')
      if (use.facts.pull !== 'up' && !bus) continue
      for (const { host } of use.hosts)
        if (host.logicVolts !== undefined) this.#internal.set(wiring.netOf(host.end).index, host.logicVolts)
    }
  }

  #addResistors(wiring: Wiring, part: PartInstance): void {
    for (const inner of part.part.inner) {
      if (inner.kind !== 'resistance') continue
      const ohms = typeof inner.amount === 'object' ? entryOf(part.options, inner.amount.option) : inner.amount
      if (typeof ohms !== 'number') continue
      const [a, b] = inner.between.map((pin) => wiring.netOf(`${part.ref}.${pin}`).index) as [number, number]
      if (a !== b) this.#branch({ a, b, ohms })
    }
  }

  #addShifters(wiring: Wiring, part: PartInstance): void {
    for (const inner of part.part.inner) {
      if ((inner.kind !== 'shift' && inner.kind !== 'buffer') || !holds(inner.when, part.options)) continue
      const nets = inner.between.map((pin) => wiring.netOf(`${part.ref}.${pin}`)) as [Net, Net]
      const rails = (inner.rails ?? []).map((pin) => wiring.netOf(`${part.ref}.${pin}`).sources[0]?.volts)
      const [a, b] = nets
      const [voltsA, voltsB] = inner.rails ? rails : [part.logicVolts, part.logicVolts]
      if (!inner.back) this.#shifts.push({ from: a.index, to: b.index, volts: voltsB })
      if (inner.kind === 'buffer' && !inner.back) continue
      this.#shifts.push({ from: b.index, to: a.index, volts: voltsA })
      if (inner.kind === 'buffer' || typeof inner.amount !== 'number') continue
      if (voltsA !== undefined) this.#pull(a, voltsA, inner.amount)
      if (voltsB !== undefined) this.#pull(b, voltsB, inner.amount)
    }
  }

  #addModulePulls(wiring: Wiring, part: PartInstance): void {
    const bus = part.mode?.i2c
    if (bus?.pullUpOhms === undefined) return
    const to =
      bus.pullUpTo === undefined ? part.logicVolts : wiring.netOf(`${part.ref}.${bus.pullUpTo}`).sources[0]?.volts
    if (to === undefined) return
    for (const use of wiring.signals)
      if (use.part === part && use.facts.needs.startsWith('i2c.')) this.#pull(wiring.netOf(use.end), to, bus.pullUpOhms)
  }

  #pull(net: Net, volts: number, ohms: number): void {
    this.#virtual -= 1
    this.#fixed.set(this.#virtual, volts)
    this.#branch({ a: net.index, b: this.#virtual, ohms })
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
    if (own[0] && own.length === 1) {
      // One resistor to a held node, as for most lamps and pull-ups: no current, or a divider with the hold.
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

  /** Volts at one net while another is driven high, and low. */
  driven(
    from: Net,
    to: Net,
    drive: { high: number | undefined; low: number | undefined },
  ): { high: number | undefined; low: number | undefined } {
    const at = (net: number, volts: number | undefined): number | undefined =>
      volts === undefined ? undefined : this.#solve(to, { net, volts })
    if (!this.#hangTogether(from.index, to.index)) {
      const shift = this.#shifts.find(
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

  /** True when resistors, or nothing at all, lie between two nets. */
  #hangTogether(a: number, b: number): boolean {
    return a === b || (this.#byNet.has(a) && this.#around(a).some((branch) => branch.a === b || branch.b === b))
  }
}
