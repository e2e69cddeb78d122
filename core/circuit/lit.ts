import { memo } from '../base/memo.ts'
import { solve } from '../electrical/network.ts'
import type { Host, Net, PartInstance, Wiring } from '../wiring/model.ts'
import { circuitOf, type Element } from './circuit.ts'
import { behindResistors, isLed } from './reach.ts'
import { CONDUCTS, type Flow, type State, verdictsOf } from './verdicts.ts'

/** A diode that lights, in the state of its island in which it gets the most. */
export interface LitDiode {
  readonly part: PartInstance
  readonly anode: string
  readonly cathode: string
  /** Pin that switches it: gives the current when it is on the anode's side, else takes it. */
  readonly host: Host | undefined
  readonly way: 'source' | 'sink'
  /** Volts over diode and resistance together while it is on, and over the diode alone. */
  readonly volts: number
  readonly forward: number
  /** Resistance in series with it, in ohms, that of the pin included; and what of it is wired. */
  readonly ohms: number
  readonly outside: number
  /** Current in milliamperes; infinite without a resistance. */
  readonly milliamps: number
  /** Most that it bears, in milliamperes. */
  readonly most: number
  /** Resistor on its path. */
  readonly resistor: PartInstance | undefined
  /** All that lie in a row with it, itself included, in the order of the current. */
  readonly row: readonly Element[]
  /** Other diodes that the same resistor feeds in that state. */
  readonly beside: readonly PartInstance[]
  /** Parts whose diodes lie beside it, leg by leg. */
  readonly twins: readonly PartInstance[]
  /** Leg of its own of a diode of fewer volts on the same resistor, which takes all the current while both are on. */
  readonly darkenedBy: string | undefined
}

/** Resistance in ohms put in series to find out what lies there already. */
const PROBE_OHMS = 1000

/** Every diode that lights, with both sides led to something that can drive a current through it. I = (V − Vf) / R. */
export const litDiodes = memo((wiring: Wiring): readonly LitDiode[] => {
  const mine = wiring.whole ? new Set(wiring.parts) : undefined
  return circuitOf(wiring)
    .elements.filter((one) => one.lights && (!mine || mine.has(one.part)))
    .flatMap((element) => lightOf(wiring, element) ?? [])
})

/** A diode that never conducts, and whose cathode lies above its anode in some state: it is turned round. */
export function isTurned({ forward, over, under }: Flow): boolean {
  return forward < CONDUCTS && over < 0.1 && under > 1
}

function lightOf(wiring: Wiring, element: Element): LitDiode | undefined {
  const { forward, most } = element
  const flow = verdictsOf(wiring).through(element)
  if (!flow || forward === undefined || most === undefined) return undefined
  const row = rowOf(wiring, element)
  const base = {
    part: element.part,
    anode: element.a,
    cathode: element.b,
    forward,
    most,
    beside: [],
    twins: [],
    row,
    darkenedBy: undefined,
  }
  if (flow.forward < CONDUCTS) {
    // Driven, but never above its own volts: it stays dark. Of a row that holds a turned one polarity speaks.
    if (flow.over <= 0.1 || !isLed(circuitOf(wiring), element)) return undefined
    if (row.some((one) => isTurned(verdictsOf(wiring).through(one) ?? flow))) return undefined
    // On a post that is no signal nothing drives it at all.
    if ([element.netA, element.netB].some((net) => isOnControl(wiring, net))) return undefined
    const ports = flow.state.strands.flatMap(({ port }) => port?.host ?? [])
    return {
      ...base,
      host: ports[0],
      way: 'source',
      volts: row.length > 1 ? overRow(row, flow) : flow.over,
      ohms: 0,
      outside: 0,
      milliamps: 0,
      resistor: undefined,
    }
  }
  const { state } = flow
  const twins = circuitOf(wiring)
    .on(element.netA)
    .filter((one) => one !== element && one.lights && one.netA === element.netA && one.netB === element.netB)
  const together = behind(state, flow, element, twins)
  const { volts, ohms } = together
  const driver = driverOf(state, together.milliamps)
  const inside = driver ? (state.strands[driver.index]?.ohms ?? 0) : 0
  const resistor = resistorOf(state, element, together.milliamps)
  const others = state.strands.flatMap((strand, index) =>
    strand.element?.lights && strand.element !== element && (state.amps[index] ?? 0) * 1000 > CONDUCTS
      ? [strand.element]
      : [],
  )
  return {
    ...base,
    host: driver?.host,
    way: driver?.way ?? 'source',
    volts: volts + forward,
    ohms,
    outside: Math.max(0, ohms - inside),
    milliamps:
      ohms - inside < 0.5 && ohms < 1 ? Number.POSITIVE_INFINITY : together.milliamps / (sharing(element, twins) + 1),
    twins: twins.map(({ part }) => part),
    resistor,
    beside: others
      .filter((one) => one.netA === element.netA || one.netB === element.netB)
      .filter((one) => resistor !== undefined && resistor === resistorOf(state, one, 0))
      .map((one) => one.part),
    darkenedBy: resistor && driver && darkenedBy(wiring, flow, element, driver.host),
  }
}

const isOnControl = (wiring: Wiring, start: Net): boolean =>
  behindResistors(circuitOf(wiring), start).some((net) =>
    net.ends.some((end) => wiring.terminal(end)?.boardPin?.kind === 'control'),
  )

/** How many of those beside a diode take part in its current: what needs clearly fewer volts takes all of it. */
function sharing({ forward = 0 }: Element, twins: readonly Element[]): number {
  return twins.filter((one) => Math.abs((one.forward ?? 0) - forward) <= APART).length
}

/** Volts by which two diodes on one resistor must differ for the one with more to go dark. */
const APART = 0.25

/** The leg of a diode beside this one that keeps it dark in some state in which its own pin is as when it lights. */
function darkenedBy(wiring: Wiring, flow: Flow, element: Element, host: Host): string | undefined {
  const { island, states } = flow.verdict
  const rivals = circuitOf(wiring)
    .on(element.netA)
    .concat(circuitOf(wiring).on(element.netB))
    .filter((one) => one.lights && one !== element && (one.forward ?? 0) < (element.forward ?? 0) - APART)
  const actor = island.actors.findIndex(({ what }) => 'port' in what && what.port.host === host)
  if (rivals.length === 0 || actor < 0) return undefined
  const on = flow.state.positions[actor]?.is
  const through = ({ strands, amps }: State, one: Element): number =>
    (amps[strands.findIndex((strand) => strand.element === one)] ?? 0) * 1000
  for (const state of states) {
    if (state.positions[actor]?.is !== on || through(state, element) > flow.forward * 0.05) continue
    const rival = rivals.find((one) => through(state, one) > 0.1)
    if (rival) return rival.netA === element.netA ? rival.b : rival.a
  }
  return undefined
}

/** Diodes that one current must pass one after the other: between them lie nets with two legs only. */
function rowOf(wiring: Wiring, element: Element): readonly Element[] {
  const circuit = circuitOf(wiring)
  const row = [element]
  const onward = (net: Net, from: Element): Element | undefined => {
    const legs = circuit.on(net)
    const other = legs.find((one) => one !== from)
    return legs.length === 2 && !net.ground && net.sources.length === 0 && circuit.at(net).length === 2
      ? other
      : undefined
  }
  /** Adds what follows on one side, as long as each leads the current on. */
  const follow = (out: 'netA' | 'netB', into: 'netA' | 'netB', add: (next: Element) => void): void => {
    let head = element
    for (let next = onward(head[out], head); next?.lights && next[into] === head[out]; next = onward(head[out], head)) {
      if (row.includes(next)) return
      add(next)
      head = next
    }
  }
  follow('netB', 'netA', (next) => row.push(next))
  follow('netA', 'netB', (next) => row.unshift(next))
  return row
}

/** Most volts over a whole row. */
function overRow(row: readonly Element[], { verdict }: Flow): number {
  const [first, last] = [row[0] as Element, row.at(-1) as Element]
  const over = verdict.states.flatMap((state) => {
    const [a, b] = [state.volts(first.netA.index), state.volts(last.netB.index)]
    return a === undefined || b === undefined ? [] : [a - b]
  })
  return Math.max(0, ...over)
}

interface Behind {
  readonly volts: number
  readonly ohms: number
  /** Current in milliamperes that drives the diode and those that lie beside it leg by leg. */
  readonly milliamps: number
}

/** Resistance in ohms that takes a diode out of a circuit. */
const OUT_OHMS = 1e9

/**
 * What drives a conducting diode, as volts behind a resistance: found with a resistance more in series, and with those
 * taken out that lie beside it leg by leg, which would take over what it loses.
 */
function behind(state: State, flow: Flow, element: Element, twins: readonly Element[]): Behind {
  const index = state.strands.findIndex((one) => one.element === element)
  const key = `behind ${state.index} ${index}`
  const { memo } = flow.verdict
  const known = memo.get(key) as Behind | undefined
  if (known) return known
  const { held } = flow.verdict.island
  const alone =
    twins.length === 0
      ? state.strands
      : state.strands.map((one) => (one.element && twins.includes(one.element) ? { ...one, ohms: OUT_OHMS } : one))
  const strands = alone.map((one) =>
    one.element === element && one.drop !== undefined ? { ...one, ohms: one.ohms + PROBE_OHMS } : one,
  )
  const now = twins.length === 0 ? flow.forward / 1000 : Math.max(0, solve(alone, held).amps[index] ?? 0)
  const less = Math.max(0, solve(strands, held).amps[index] ?? 0)
  const ohms = now - less < 1e-12 ? 0 : (PROBE_OHMS * less) / (now - less)
  const found = { volts: now * ohms, ohms, milliamps: now * 1000 }
  memo.set(key, found)
  return found
}

/** Pin that gives or takes a current of so many milliamperes: one that gives it first. */
function driverOf(
  { strands, amps }: State,
  milliamps: number,
): { readonly host: Host; readonly way: 'source' | 'sink'; readonly index: number } | undefined {
  const share = milliamps * 0.4
  const found = strands.flatMap((strand, index) => {
    const host = strand.port?.host
    const flows = (amps[index] ?? 0) * 1000
    if (!host || Math.abs(flows) < share) return []
    return [{ host, way: flows > 0 ? ('source' as const) : ('sink' as const), index }]
  })
  return found.find((one) => one.way === 'source') ?? found[0]
}

/** Resistor through which the current of a diode flows: one at its legs before one further off. */
function resistorOf({ strands, amps }: State, element: Element, milliamps: number): PartInstance | undefined {
  const found = strands.flatMap((strand, index) =>
    strand.element?.kind === 'resistor' && Math.abs(amps[index] ?? 0) * 1000 >= Math.max(milliamps * 0.9, CONDUCTS)
      ? [strand.element]
      : [],
  )
  const touches = ({ netA, netB }: Element): boolean =>
    [netA, netB].some(
      (net) => (net === element.netA || net === element.netB) && !net.ground && net.sources.length === 0,
    )
  return (found.find(touches) ?? found[0])?.part
}
