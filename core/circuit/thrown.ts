import type { Host, Net, SignalUse, Wiring } from '../wiring/model.ts'
import { circuitOf } from './circuit.ts'
import { networkOf } from './still.ts'

/** What a pin reads of a change-over contact in each of its positions. */
export interface ThrownLevels {
  readonly host: Host
  /** Volts in each position in which the contact leads to a rail. */
  readonly led: readonly number[]
  /** Some position leads nowhere; the line is then held by resistors, by the pin's own pull, or by nothing. */
  readonly opens: boolean
  /** Volts of the line in such a position; undefined while nothing holds it. */
  readonly rest: number | undefined
  /** The pull inside the pin that holds it there, where no resistor does. */
  readonly inside: 'pull-up' | 'pull-down' | undefined
}

/**
 * Levels that a change-over contact makes at the pin which reads its pole or one of its throws. Undefined where a
 * position leads to something else than a rail, of which the contact itself says nothing, and where none leads to one.
 */
export function thrownLevels(wiring: Wiring, use: SignalUse): ThrownLevels | undefined {
  const host = use.hosts[0]?.host
  if (!host) return undefined
  const ways = circuitOf(wiring).elements.filter(({ part, throws }) => part === use.part && throws)
  const farOf = ({ a, b, netA, netB }: (typeof ways)[number]): Net | undefined =>
    a === use.end ? netB : b === use.end ? netA : undefined
  const far = ways.map(farOf).filter((net) => net !== undefined)
  if (far.length === 0) return undefined
  const isPole = ways.some(({ a }) => a === use.end)
  const volts = (net: Net): number | undefined => (net.ground ? 0 : net.sources[0]?.volts)
  if (far.some((net) => net.wired && volts(net) === undefined)) return undefined
  const led = far.map(volts).filter((at) => at !== undefined)
  const [first] = led
  if (first === undefined) return undefined
  const opens = !isPole || led.length < far.length
  const pulled = networkOf(wiring).pulled(wiring.netOf(host.end))
  const way = first === 0 ? 'pull-up' : 'pull-down'
  const inside = opens && pulled === undefined && host.functions.has(way) ? way : undefined
  const own = inside === 'pull-up' ? host.logicVolts : inside === 'pull-down' ? 0 : undefined
  return { host, led, opens, rest: opens ? (pulled ?? own) : undefined, inside }
}
