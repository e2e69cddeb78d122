import { memo } from '../base/memo.ts'
import { volts } from '../catalog/common.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { serialLines, serialRole, switchesLoad } from '../wiring/needs.ts'
import { mostBorneBy } from './bearing.ts'
import { type LineNetwork, networkOf } from './still.ts'

/** One way along a wire: who drives, who listens, and the voltages that arrive there. */
export interface DrivenLine {
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

/** Every driven line of the wiring with its levels at the far end, worked out once. */
export const linesOf = memo((wiring: Wiring): readonly DrivenLine[] => {
  const network = networkOf(wiring)
  return [...wiring.signals.flatMap((use) => linesOfSignal(wiring, use, network)), ...boardLinks(wiring, network)]
})

/** The lines of one signal of a part. */
export function linesOfSignal(wiring: Wiring, use: SignalUse, network = networkOf(wiring)): readonly DrivenLine[] {
  if (use.state === 'tied') return [tiedLine(wiring, use, network)]
  const { part, facts } = use
  const ownNet = wiring.netOf(use.end)
  const levels = levelsOf(use)
  const openDrain = facts.direction === 'open-drain'
  const bus = facts.needs.startsWith('i2c.')
  const listens = facts.direction === 'in' || facts.direction === 'both' || bus
  const drives = facts.direction !== 'passive' && facts.direction !== 'in'
  return use.hosts.flatMap(({ host }): DrivenLine[] => {
    if (switchesLoad(host.functions)) return []
    const hostNet = wiring.netOf(host.end)
    const lines: DrivenLine[] = []
    if (listens) {
      const at = network.driven(hostNet, ownNet, outputOf(host))
      const resting = network.resting(ownNet)
      lines.push({
        driver: host.end,
        receiver: use.end,
        high: bus ? resting : at.high,
        low: at.low,
        resting,
        ...limitsOf(wiring, use),
        driverVolts: host.logicVolts,
        receiverVolts: part.logicVolts,
        use,
        openDrain: bus,
      })
    }
    if (drives) {
      const drive = openDrain
        ? { high: undefined, low: volts(levels.vol, part.logicVolts) ?? 0 }
        : { high: volts(levels.high, part.logicVolts) ?? part.logicVolts, low: 0 }
      const at = network.driven(ownNet, hostNet, drive)
      const resting = network.resting(hostNet)
      lines.push({
        driver: use.end,
        receiver: host.end,
        high: openDrain ? resting : at.high,
        low: at.low,
        resting,
        ...inputOf(host, facts.needs === 'analog-in'),
        driverVolts: part.logicVolts,
        receiverVolts: host.logicVolts,
        use,
        openDrain,
      })
    }
    return lines
  })
}

/** A signal that is tied instead of run: only what it bears matters. */
function tiedLine(wiring: Wiring, use: SignalUse, network: LineNetwork): DrivenLine {
  const net = wiring.netOf(use.end)
  return {
    driver: net.sources[0]?.end ?? use.end,
    receiver: use.end,
    high: undefined,
    low: undefined,
    resting: network.resting(net),
    vih: undefined,
    vil: undefined,
    most: limitsOf(wiring, use).most,
    driverVolts: undefined,
    receiverVolts: use.part.logicVolts,
    use,
    openDrain: false,
  }
}

const limitsOf = (wiring: Wiring, use: SignalUse): Pick<DrivenLine, 'vih' | 'vil' | 'most'> => {
  const levels = levelsOf(use)
  const at = use.part.logicVolts
  return { vih: volts(levels.vih, at), vil: volts(levels.vil, at), most: mostBorneBy(wiring, use, at) }
}

/** Pins of other boards that each pin of a board reaches, by its end. */
export const hostsBeyond = memo((wiring: Wiring): ReadonlyMap<string, readonly Host[]> => {
  const beyond = new Map<string, Set<Host>>()
  for (const { use, driver, receiver } of linesOf(wiring)) {
    const ends = use ? [] : [driver, receiver].map((end) => wiring.hosts.get(end)!)
    for (const one of ends) {
      const others = beyond.get(one.end) ?? new Set()
      for (const other of ends) if (other !== one) others.add(other)
      beyond.set(one.end, others)
    }
  }
  return new Map([...beyond].map(([end, hosts]) => [end, [...hosts]]))
})

/** Pins of two boards that are joined, straight, through resistors or over a shifter: either may drive. */
function boardLinks(wiring: Wiring, network: LineNetwork): DrivenLine[] {
  if (wiring.boards.length < 2) return []
  const hosts = [...wiring.hosts.values()].filter((host) => host.board && wiring.netOf(host.end).wired)
  const joined = hosts.flatMap((driver) => {
    const from = wiring.netOf(driver.end)
    if (from.ground || from.sources.length > 0) return []
    const reached = network.reached(from)
    return hosts
      .filter((one) => one.ref !== driver.ref && reached.has(wiring.netOf(one.end).index))
      .map((receiver) => ({ driver, receiver, from, to: wiring.netOf(receiver.end) }))
  })
  // Of a wiring that was cut down only what a change touched is asked for, but a bus shows by both its lines.
  const near = new Set(wiring.nets)
  return joined.flatMap(({ driver, receiver, from, to }): DrivenLine[] => {
    if (!near.has(from) || onlyHears(driver, receiver) || isHeardBy(driver, receiver, joined)) return []
    const resting = network.pulled(to)
    const line = busLine(driver, receiver)
    const bus =
      line !== undefined &&
      resting !== undefined &&
      joined.some((one) => one.driver.ref === driver.ref && one.receiver.ref === receiver.ref && isOther(line, one))
    const levels = network.driven(from, to, outputOf(driver))
    return [
      {
        driver: driver.end,
        receiver: receiver.end,
        high: bus ? resting : levels.high,
        low: levels.low,
        resting: bus ? resting : undefined,
        ...inputOf(receiver),
        driverVolts: driver.logicVolts,
        receiverVolts: receiver.logicVolts,
        use: undefined,
        openDrain: bus,
      },
    ]
  })
}

/** The line of I2C that runs between two pins, where one of them can be no other line of it. */
function busLine(a: Host, b: Host): 'sda' | 'scl' | undefined {
  const can = (line: 'sda' | 'scl') => [a, b].map((host) => i2cRoles(host).includes(line))
  const both = (line: 'sda' | 'scl') => can(line).every(Boolean)
  return both('sda') && !both('scl') ? 'sda' : both('scl') && !both('sda') ? 'scl' : undefined
}

const i2cRoles = ({ functions }: Host): string[] =>
  [...functions].flatMap((one) => (one.startsWith('i2c') ? [one.slice(one.indexOf('.') + 1)] : []))

const isOther = (line: 'sda' | 'scl', { driver, receiver }: { driver: Host; receiver: Host }): boolean =>
  busLine(driver, receiver) === (line === 'sda' ? 'scl' : 'sda')

/**
 * True for a pin that a board has as the receiver of a serial port, joined with a pin that can be a transmitter: it never
 * drives that line. The converter of USB that shares some receivers sits behind its own resistor, and is said elsewhere.
 */
const onlyHears = (driver: Host, receiver: Host): boolean => {
  const [own, other] = [serialLines(driver), serialLines(receiver)]
  return (
    own.length > 0 &&
    own.every(({ line }) => line === 'rx') &&
    (other.length > 0 ? other.some(({ line }) => line === 'tx') : serialRole(receiver, 'tx'))
  )
}

/**
 * True for a pin without a serial port of its own that is joined with the transmitter of one whose receiver is joined with
 * the same board: its program reads that port by software, so it drives the other line.
 */
const isHeardBy = (
  driver: Host,
  receiver: Host,
  joined: readonly { readonly driver: Host; readonly receiver: Host }[],
): boolean => {
  if (serialLines(driver).length > 0) return false
  const ports = serialLines(receiver).flatMap(({ line, port }) => (line === 'tx' ? [port] : []))
  return joined.some(
    (one) =>
      one.driver.ref === driver.ref &&
      one.driver !== driver &&
      one.receiver.ref === receiver.ref &&
      serialLines(one.receiver).some(({ line, port }) => line === 'rx' && ports.includes(port)),
  )
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
