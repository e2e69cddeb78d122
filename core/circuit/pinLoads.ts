import { memo } from '../base/memo.ts'
import type { Host, Net, Wiring } from '../wiring/model.ts'
import { circuitOf, type Element, type Port } from './circuit.ts'
import { otherLeg } from './reach.ts'
import { networkOf } from './still.ts'
import { CONDUCTS, type IslandVerdict, type State, verdictsOf } from './verdicts.ts'

/**
 * How far above what is recommended a current may lie before it is worth a word: a recommended current is no cliff, and
 * a resistor of 5 % with a lamp whose voltage scatters by a tenth moves it by more than that.
 */
export const RECOMMENDED_SLACK = 1.1

/** What one pin carries: milliamperes, which way, and whose they are. */
export interface PinLoad {
  readonly host: Host
  readonly source: number
  readonly sink: number
  readonly parts: readonly string[]
}

/** Current above which a pin is shorted, which other rules say. */
const SHORTED = 2000

/** Pins on lines of which what they take is the matter of their pull-ups: those of I2C, and where the part says what it sinks. */
const onPulledLines = memo(
  (wiring: Wiring): ReadonlySet<Host> =>
    new Set(
      wiring.signals.flatMap(({ facts, hosts }) =>
        facts.needs.startsWith('i2c.') || facts.sinkMilliamps !== undefined ? hosts.map(({ host }) => host) : [],
      ),
    ),
)

/** What flows at most through each pin that drives alone, over elements; lines that are shorted are left out. */
const flowsOf = memo((wiring: Wiring): readonly Worst[] => {
  const pulled = onPulledLines(wiring)
  return verdictsOf(wiring).islands.flatMap((verdict) => {
    const ports = verdict.island.actors.flatMap(({ what }) =>
      'port' in what &&
      what.port.host &&
      what.port.role !== 'either' &&
      (what.port.role !== 'open-drain' || !pulled.has(what.port.host))
        ? [what.port]
        : [],
    )
    // Pins that work against each other are said as such.
    const alone = ports.filter((port) => !ports.some((one) => one !== port && one.net === port.net))
    if (alone.length === 0) return []
    return [...worstOf(verdict, new Set(alone))].filter(
      ({ port, way, state, milliamps }) => !isShorted(state, port.net.index, way, port.high, milliamps),
    )
  })
})

/** A pin that a junction takes all from, such as the base of a transistor: nothing but the pin itself limits the current. */
export interface Unlimited {
  readonly host: Host
  readonly way: 'source' | 'sink'
  readonly parts: readonly string[]
}

/** Pins of which it is not known what they give at most, with a junction straight on them. Of lamps led-resistor speaks. */
export const unlimitedPins = (wiring: Wiring): Unlimited[] =>
  flowsOf(wiring).flatMap(({ port, way, milliamps, state }) => {
    const heads = milliamps > SHORTED ? headsIn(state, milliamps).filter(({ kind }) => kind === 'diode') : []
    return heads.length === 0 || heads.some(({ lights }) => lights)
      ? []
      : [{ host: port.host as Host, way, parts: heads.map(({ part }) => part.ref) }]
  })

/** Current of each pin that carries any: what flows through elements, and what the facts of a signal say. */
export const pinLoads = memo((wiring: Wiring): readonly PinLoad[] => {
  const byHost = new Map<Host, { source: number; sink: number; parts: Set<string> }>()
  const add = (host: Host, way: 'source' | 'sink', milliamps: number, parts: Iterable<string>): void => {
    if (milliamps < CONDUCTS || milliamps > SHORTED) return
    const load = byHost.get(host) ?? { source: 0, sink: 0, parts: new Set<string>() }
    load[way] += milliamps
    for (const one of parts) load.parts.add(one)
    byHost.set(host, load)
  }
  const flowing = new Set<Host>()
  for (const { port, way, milliamps, state } of flowsOf(wiring)) {
    const host = port.host as Host
    flowing.add(host)
    add(host, way, milliamps, namesIn(state, milliamps))
  }
  for (const { host, milliamps } of beyondTransistors(wiring)) add(host, 'sink', milliamps, ['a resistor'])
  for (const use of wiring.signals) {
    const { milliamps, direction, activeLevel } = use.facts
    if (milliamps === undefined || direction !== 'in') continue
    for (const { host } of use.hosts) {
      if (flowing.has(host)) continue
      add(host, activeLevel === 'low' ? 'sink' : 'source', milliamps, [use.part.ref])
    }
    // Its plus on a supply and a pin at its other leg: the same current, into the pin.
    const leg = use.state === 'tied' ? otherLeg({ owner: use.part, end: use.end }) : undefined
    if (leg === undefined || wiring.netOf(use.end).ground) continue
    for (const { host } of circuitOf(wiring).at(wiring.netOf(leg)))
      if (host?.board && !flowing.has(host)) add(host, 'sink', milliamps, [use.part.ref])
  }
  return [...byHost].map(([host, load]): PinLoad => ({ host, ...load, parts: [...load.parts] }))
})

/**
 * What a pin that pulls low takes from the far side of a converter that only passes lows on, in milliamperes. Of bus lines
 * their pull-ups speak.
 */
function beyondTransistors(wiring: Wiring): { host: Host; milliamps: number }[] {
  const network = networkOf(wiring)
  const pulled = onPulledLines(wiring)
  const pins = [...circuitOf(wiring).ports.values()].flatMap(({ host, net, role }) =>
    host?.board && role !== 'in' && !pulled.has(host) ? [{ host, net }] : [],
  )
  return wiring.parts.flatMap((part) =>
    part.part.inner.flatMap((inner) => {
      if (inner.kind !== 'shift' || (!inner.pulled && typeof inner.amount !== 'number')) return []
      const [a, b] = inner.between.map((pin) => wiring.netOf(`${part.ref}.${pin}`)) as [Net, Net]
      const sides = [
        [a, b],
        [b, a],
      ] as const
      return sides.flatMap(([near, far]) => {
        const held = far.wired ? network.thevenin(far) : undefined
        const joined = network.joined(near)
        return held && near.wired
          ? pins.flatMap(({ host, net }) =>
              joined.has(net.index) ? [{ host, milliamps: (held.volts / held.ohms) * 1000 }] : [],
            )
          : []
      })
    }),
  )
}

interface Worst {
  readonly port: Port
  readonly way: 'source' | 'sink'
  readonly milliamps: number
  readonly state: State
}

/** The same by place, for all islands of one form. */
interface WorstAt {
  readonly actor: number
  readonly way: 'source' | 'sink'
  readonly milliamps: number
  readonly state: number
}

/** What each of the pins gives, and takes, in the state in which that is most. */
function worstOf(verdict: IslandVerdict, ports: ReadonlySet<Port>): Worst[] {
  const { island, states, memo } = verdict
  let known = memo.get('worst') as readonly WorstAt[] | undefined
  if (!known) {
    known = findWorst(verdict)
    memo.set('worst', known)
  }
  return known.flatMap(({ actor, way, milliamps, state }) => {
    const what = island.actors[actor]?.what
    const port = what && 'port' in what ? what.port : undefined
    return port && ports.has(port) ? [{ port, way, milliamps, state: states[state] as State }] : []
  })
}

function findWorst({ island, states }: IslandVerdict): WorstAt[] {
  const byPort = new Map(island.actors.map(({ what }, index) => ['port' in what ? what.port : undefined, index]))
  const worst = new Map<string, WorstAt>()
  states.forEach(({ amps, strands }, state) => {
    strands.forEach(({ port, a }, index) => {
      const actor = port && a < 0 ? byPort.get(port) : undefined
      if (actor === undefined) return
      const flows = (amps[index] ?? 0) * 1000
      const milliamps = Math.abs(flows)
      if (milliamps <= CONDUCTS) return
      const way = flows > 0 ? 'source' : 'sink'
      const key = `${way} ${actor}`
      if (milliamps > (worst.get(key)?.milliamps ?? 0)) worst.set(key, { actor, way, milliamps, state })
    })
  })
  return [...worst.values()].sort((one, two) => (one.way === two.way ? 0 : one.way === 'source' ? -1 : 1))
}

/** The pin drives against a rail itself, or over a closed contact; a resistor of next to nothing is the pin's matter. */
const isShorted = (
  state: State,
  net: number,
  way: 'source' | 'sink',
  high: number | undefined,
  milliamps: number,
): boolean => {
  if (flowingIn(state, milliamps).some(({ kind, part }) => kind === 'resistor' && part.part.build === 'component'))
    return false
  const at = state.volts(net)
  return at !== undefined && high !== undefined && (way === 'source' ? at < 0.1 * high : at > 0.9 * high)
}

/** Whose current flows in a state: lamps, junctions and loads, else resistors. */
function namesIn(state: State, milliamps: number): readonly string[] {
  const heads = headsIn(state, milliamps)
  if (heads.length > 0) return heads.map((one) => one.part.ref)
  return flowingIn(state, milliamps).length > 0 ? ['a resistor'] : []
}

const headsIn = (state: State, milliamps: number): Element[] =>
  flowingIn(state, milliamps).filter(({ kind }) => kind === 'diode' || kind === 'winding' || kind === 'load')

const flowingIn = ({ strands, amps }: State, milliamps: number): Element[] =>
  strands.flatMap(({ element }, index) =>
    element && Math.abs(amps[index] ?? 0) * 1000 > milliamps * 0.02 ? [element] : [],
  )
