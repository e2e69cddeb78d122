import { circuitOf, type DriverChannel, type Element, railOf } from '../circuit/circuit.ts'
import { contactLevels } from '../circuit/contactLevels.ts'
import { litDiodes } from '../circuit/lit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import { networkOf } from '../circuit/still.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { drives } from '../wiring/needs.ts'
import { linesOf } from './lines.ts'

export type Level = 'high' | 'low'

/** A pin at a level. */
export interface PinLevel {
  readonly host: Host
  readonly level: Level
}

/** What a thing does while the pins that move it have these levels. */
export interface Drive {
  readonly part: PartInstance
  /** What happens: `lights`, `turns from M1 to M2`, `closes`. */
  readonly does: string
  /** Pins and levels that all must hold; none when it does so whatever the program does. */
  readonly when: readonly PinLevel[]
  /** True where a pulse width or its share of time sets how much. */
  readonly dimmed: boolean
}

/** How a pin that is read stands: what each level means, and whether the program must switch a pull on inside the pin. */
export interface Reading {
  readonly use: SignalUse
  readonly host: Host
  /** What each level of a contact means. */
  readonly contact: { readonly high: 'open' | 'closed'; readonly low: 'open' | 'closed' } | undefined
  /** What the part says of its line. */
  readonly says: string | undefined
  /** Pull that the program must switch on, since nothing outside holds the line. */
  readonly pull: 'up' | 'down' | undefined
}

const other = (level: Level): Level => (level === 'high' ? 'low' : 'high')

/**
 * Pins and levels that bring a host to a level: itself on a board or an expander; of a driver's output the inputs that
 * move it and the enables that a pin holds. Undefined for an output that no level of a pin moves, such as a serial one.
 */
export function levelsFor(wiring: Wiring, host: Host, level: Level, depth = 0): PinLevel[] | undefined {
  const channel = circuitOf(wiring).channels.find(({ output }) => output === host.end)
  if (!channel) return [{ host, level }]
  if (depth > 4) return undefined
  const inner = inputLevel(channel, level)
  if (inner === undefined) return undefined
  const [first, ...rest] = channel.inputs
  if (first === undefined) return undefined
  const wanted: (readonly [string, Level])[] = [
    [first, inner],
    ...rest.map((end) => [end, 'high'] as const),
    ...channel.enables.map(({ end, active }) => [end, active] as const),
  ]
  const found: PinLevel[] = []
  for (const [end, is] of wanted) {
    const at = hostAt(wiring, end)
    if (!at) {
      // Tied to a rail, or held inside: no pin moves it.
      if (end === first && wiring.netOf(end).sources.length === 0 && !wiring.netOf(end).ground) return undefined
      continue
    }
    const deeper = levelsFor(wiring, at, is, depth + 1)
    if (!deeper) return undefined
    found.push(...deeper)
  }
  return found
}

/** Level of a channel's input that brings its output to a level; undefined where it does not follow a level. */
function inputLevel({ part, facts, inputs }: DriverChannel, level: Level): Level | undefined {
  const [first] = inputs
  const pin = first?.slice(part.ref.length + 1)
  const input = [...part.part.signals, ...(part.mode?.signals ?? [])].find((one) => one.pin === pin)
  if (!input || facts.limits || (input.needs !== 'digital-out' && input.needs !== 'pwm')) return undefined
  const given = part.part.provides.find((one) => one.pins.includes(facts.output))
  const active = input.activeLevel
  if (given?.does.includes('sink')) return level === 'low' ? active : other(active)
  if (given?.does.includes('source')) return level === 'high' ? active : other(active)
  return level === 'high' ? active : other(active)
}

/** The pin that moves an end. */
function hostAt(wiring: Wiring, end: string): Host | undefined {
  const use = wiring.signal(end)
  if (use) return use.hosts[0]?.host
  return wiring.netOf(end).ends.flatMap((one) => wiring.terminal(one)?.host ?? [])[0]
}

/** Which levels do what: lamps, loads behind drivers, and whatever moves or switches something by itself. */
export function drivesOf(wiring: Wiring): Drive[] {
  return [...lamps(wiring), ...loads(wiring), ...actuators(wiring)]
}

function lamps(wiring: Wiring): Drive[] {
  return litDiodes(wiring).flatMap(({ part, host, way, milliamps, anode, cathode }): Drive[] => {
    if (part.part.category !== 'light' && part.part.category !== 'display') return []
    if (milliamps <= 0) return []
    const pin = anode.slice(part.ref.length + 1)
    const several = part.part.inner.filter(({ kind }) => kind === 'diode').length > 1
    const does = several ? `${pin} lights` : 'lights'
    const own = host ? levelsFor(wiring, host, way === 'source' ? 'high' : 'low') : []
    const others = switchesOf(wiring, anode, cathode).map(([output, level]) => levelsFor(wiring, output, level))
    if (!own || !others.every((one) => one !== undefined)) return []
    const when = merged([...own, ...others.flat()])
    return [{ part, does, when, dimmed: isDimmed(when) }]
  })
}

/** Outputs of drivers through which the current of a lamp goes while it is brightest, with their levels then. */
function switchesOf(wiring: Wiring, anode: string, cathode: string): (readonly [Host, Level])[] {
  const element = circuitOf(wiring).elements.find(({ a, b, lights }) => lights && a === anode && b === cathode)
  const flow = element && verdictsOf(wiring).through(element)
  if (!flow) return []
  const { verdict, state, forward } = flow
  const amps = new Map(state.strands.map((strand, index) => [strand, Math.abs(state.amps[index] ?? 0) * 1000]))
  return verdict.island.actors.flatMap(({ what }, index): (readonly [Host, Level])[] => {
    const position = state.positions[index]
    if (!('channel' in what) || !position || (position.is !== 'high' && position.is !== 'low')) return []
    const carries = position.strands.some((strand) => (amps.get(strand) ?? 0) > forward * 0.4)
    return carries ? [[outputHost(wiring, what.channel), position.is]] : []
  })
}

const isDimmed = (when: readonly PinLevel[]): boolean => when.some(({ host }) => host.functions.has('pwm'))

function loads(wiring: Wiring): Drive[] {
  return drivenLoads(circuitOf(wiring)).flatMap(({ element, channels }): Drive[] => {
    const { part } = element
    const [one, two] = channels
    if (!one) return []
    const towards = (from: string, to: string): string => `${verb(part)} from ${from} to ${to}`
    const [a, b] = [element.a, element.b].map((end) => end.slice(part.ref.length + 1)) as [string, string]
    if (two) {
      const at = (channel: DriverChannel, level: Level): PinLevel[] | undefined =>
        levelsFor(wiring, outputHost(wiring, channel), level)
      // The first channel of the driver is told first, whichever lead hangs on it.
      const [from, to] = hangsOn(wiring, one, element, 'a') ? [a, b] : [b, a]
      const ways = [
        [towards(from, to), at(one, 'high'), at(two, 'low')] as const,
        [towards(to, from), at(one, 'low'), at(two, 'high')] as const,
      ]
      return [...(from === a ? ways : ways.reverse()), ['stops', at(one, 'low'), at(two, 'low')] as const].flatMap(
        ([does, first, second]): Drive[] =>
          first && second ? [{ part, does, when: merged([...first, ...second]), dimmed: does !== 'stops' }] : [],
      )
    }
    const far = hangsOn(wiring, one, element, 'a') ? element.netB : element.netA
    const rail = railOf(far)
    if (!rail) return []
    // The side that the driver holds must differ from the other.
    const level: Level = rail.source && rail.volts > 0 ? 'low' : 'high'
    const when = levelsFor(wiring, outputHost(wiring, one), level)
    const coil = part.part.inner.filter(({ kind }) => kind === 'winding').length > 1
    const pin = hangsOn(wiring, one, element, 'a') ? a : b
    return when ? [{ part, does: coil ? `coil ${pin} pulls` : verb(part), when, dimmed: isDimmed(when) }] : []
  })
}

const outputHost = (wiring: Wiring, { output }: DriverChannel): Host => {
  const host = wiring.hosts.get(output)
  if (!host) throw new Error(`${output} is an output of a driver and no host`)
  return host
}

const hangsOn = (wiring: Wiring, { output }: DriverChannel, element: Element, leg: 'a' | 'b'): boolean =>
  (leg === 'a' ? element.netA : element.netB) === wiring.netOf(output)

const verb = ({ part }: PartInstance): string =>
  part.category === 'light' || part.id === 'lamp' ? 'lights' : part.stem === 'MOTOR' ? 'turns' : 'runs'

/** Two inputs on one pin are said once. */
const merged = (when: readonly PinLevel[]): PinLevel[] =>
  when.filter((one, at) => when.findIndex((two) => two.host === one.host && two.level === one.level) === at)

/** Inputs that move something by themselves, and are no part of a driver whose loads are told already. */
function actuators(wiring: Wiring): Drive[] {
  const moving = new Set(circuitOf(wiring).channels.flatMap(({ inputs }) => inputs))
  const lit = new Set(litDiodes(wiring).map(({ part }) => part))
  return linesOf(wiring).flatMap(({ use, host }): Drive[] => {
    const { facts, part, end } = use
    if (moving.has(end) || lit.has(part) || busNeed(facts.needs)) return []
    if (!drives(facts.needs) || facts.direction === 'out') return []
    if (facts.off !== undefined && !facts.actuator) {
      const what = facts.offOf ?? facts.offWhat
      const when = offWhen(wiring, use, host)
      return when ? [{ part, does: `is off${what === undefined ? '' : ` (${what})`}`, when, dimmed: false }] : []
    }
    if (!facts.actuator || facts.hertz !== undefined) return []
    // At which level it does so is said beside it.
    const does =
      facts.text?.replace(/ while (?:high|low)$/, '') ??
      (part.part.category === 'driver' ? `${facts.pin} switches on` : 'runs')
    return levelsFor(wiring, host, facts.activeLevel)?.length
      ? [{ part, does, when: levelsFor(wiring, host, facts.activeLevel) ?? [], dimmed: false }]
      : []
  })
}

/** Levels at which an input switches its part off; nothing for the second of two that do so together. */
function offWhen(wiring: Wiring, { facts, part, end }: SignalUse, host: Host): readonly PinLevel[] | undefined {
  if (facts.off === undefined) return undefined
  const mine: PinLevel = { host, level: facts.off }
  if (facts.offWith === undefined) return [mine]
  const other = wiring.signal(`${part.ref}.${facts.offWith}`)
  const second = other?.hosts[0]?.host
  if (!other?.facts.off || !second || other.end < end) return undefined
  return merged([mine, { host: second, level: other.facts.off }])
}

/** What the levels of each pin that a program reads mean. */
export function readingsOf(wiring: Wiring): Reading[] {
  return linesOf(wiring).flatMap(({ use, host, bus }): Reading[] => {
    const { facts } = use
    if (bus || drives(facts.needs) || facts.needs === 'analog-in') return []
    const levels = contactLevels(wiring, use)[0]
    const pulled = networkOf(wiring).pulled(wiring.netOf(host.end))
    const way = facts.pull
    const far = levels && (levels.contact.netA === wiring.netOf(host.end) ? levels.contact.netB : levels.contact.netA)
    const asked = way === undefined ? undefined : far && far.sources.length > 0 && !far.ground ? 'down' : way
    const pull = asked !== undefined && pulled === undefined ? asked : undefined
    if (levels && levels.open !== undefined && levels.closed !== undefined && levels.open !== levels.closed) {
      const closedHigh = levels.closed > levels.open
      const contact = closedHigh
        ? ({ high: 'closed', low: 'open' } as const)
        : ({ high: 'open', low: 'closed' } as const)
      return [{ use, host, contact, says: undefined, pull }]
    }
    return [{ use, host, contact: undefined, says: facts.text, pull }]
  })
}
