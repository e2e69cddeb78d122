import { volts } from '../catalog/common.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { switchesLoad } from '../wiring/needs.ts'
import { type LineNetwork, networkOf } from './still.ts'

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
