import { chosenFact, loadMilliamps } from '../wiring/chosen.ts'
import type { Net, PartInstance, Source, Wiring } from '../wiring/model.ts'
import { moverOf } from '../wiring/signals.ts'
import { type Circuit, circuitOf, type DriverChannel, type Element, railOf } from './circuit.ts'
import { verdictsOf } from './verdicts.ts'
import { wayTo } from './ways.ts'

/** A load that a driver switches, with the outputs that carry it and the source that its current comes from. */
export interface DrivenLoad {
  readonly element: Element
  readonly channels: readonly DriverChannel[]
  readonly source: Source | undefined
}

/** Windings and lamps on driver outputs. A motor between two halves of a bridge is one load of both. */
export function drivenLoads(circuit: Circuit): DrivenLoad[] {
  const byElement = new Map<Element, DriverChannel[]>()
  for (const channel of circuit.channels)
    for (const element of channel.loads) byElement.set(element, [...(byElement.get(element) ?? []), channel])
  return [...byElement].map(([element, channels]) => ({
    element,
    channels,
    source: sourceOf(circuit, element, channels),
  }))
}

function sourceOf({ wiring }: Circuit, element: Element, channels: readonly DriverChannel[]): Source | undefined {
  for (const net of [element.netA, element.netB]) {
    const source = railOf(net)?.source
    if (source) return source
  }
  for (const { part, facts } of channels) {
    const source = facts.supply === undefined ? undefined : wiring.netOf(`${part.ref}.${facts.supply}`).sources[0]
    if (source) return source
  }
  return undefined
}

/** What moves an output, as a text that is the same for outputs that always say the same. */
export const movedBy = (wiring: Wiring, { inputs, enables }: DriverChannel): string =>
  [...inputs, ...enables.map(({ end }) => end)].map((end) => moverOf(wiring, end)).join(' ')

/** What an output bears, from what it provides or from the model that is chosen. */
export interface OutputRating {
  /** Milliamperes for good, and at most for a moment. */
  readonly good: number | undefined
  readonly most: number | undefined
  readonly volts: number | undefined
}

export function ratingOf({ part, facts }: DriverChannel): OutputRating {
  const given = part.part.provides.find((one) => one.pins.includes(facts.output))
  const fact = (name: string): number | undefined => chosenFact(part, name)
  return {
    good: fact('mostMilliamps') ?? given?.current?.recommended,
    most: fact('mostMilliamps') ?? given?.current?.absolute ?? given?.current?.recommended,
    volts: fact('mostVolts') ?? given?.mostVolts,
  }
}

/** How many outputs of one part carry the load side by side, moved by the same inputs, on the leg that has fewest. */
function inParallel(wiring: Wiring, channels: readonly DriverChannel[]): number {
  const legs = new Map<Net, DriverChannel[]>()
  for (const one of channels) {
    const net = wiring.netOf(one.output)
    legs.set(net, [...(legs.get(net) ?? []), one])
  }
  return Math.min(
    ...[...legs.values()].map((group) =>
      group.every((one) => movedBy(wiring, one) === movedBy(wiring, group[0] as DriverChannel)) ? group.length : 1,
    ),
  )
}

/** What outputs of one part bear that carry a load: as many times one as lie side by side. */
export function ratingTogether(wiring: Wiring, channels: readonly DriverChannel[]): OutputRating {
  const { good, most, volts } = ratingOf(channels[0] as DriverChannel)
  const times = inParallel(wiring, channels)
  return { good: good && good * times, most: most && most * times, volts }
}

/** How much more than its rating a fuse bears for a moment. */
export const FUSE_PEAK = 2

/** Current in milliamperes that flows through a shunt, fuse or contact on the way to what hangs behind it. */
export function drawnThrough(
  circuit: Circuit,
  element: Element,
): { readonly typical: number; readonly peak: number; readonly names: readonly string[] } {
  const { wiring } = circuit
  const source = element.netA.sources[0] ?? element.netB.sources[0]
  if (!source || (element.netA.ground && element.netB.ground)) return { typical: 0, peak: 0, names: [] }
  const behind = (start: Net): Set<Net> => {
    const seen = new Set([start])
    const queue = [start]
    for (let net = queue.pop(); net; net = queue.pop())
      for (const one of circuit.on(net)) {
        if (one === element || !['shunt', 'contact', 'diode'].includes(one.kind)) continue
        const other = one.netA === net ? one.netB : one.netA
        if (seen.has(other) || other.ground || other.sources.length === 0) continue
        seen.add(other)
        queue.push(other)
      }
    return seen
  }
  const near = wiring.netOf(source.end)
  const far = [element.netA, element.netB].map(behind).find((nets) => !nets.has(near))
  if (!far) return { typical: 0, peak: 0, names: [] }
  let [typical, peak] = [0, 0]
  const names = new Set<string>()
  const add = (ref: string, runs: number | undefined, starts: number | undefined): void => {
    if (runs === undefined && starts === undefined) return
    typical += runs ?? 0
    peak += Math.max(starts ?? 0, runs ?? 0)
    names.add(ref)
  }
  for (const part of wiring.parts)
    for (const use of part.supplies)
      if (use.pins.some((end) => far.has(wiring.netOf(end)))) add(part.ref, use.typicalMilliamps, use.peakMilliamps)
  for (const one of drivenLoads(circuit)) {
    if (one.element.part.supplies.length > 0) continue
    const fed = [
      one.element.netA,
      one.element.netB,
      ...one.channels.flatMap(({ part, facts }) =>
        facts.supply === undefined ? [] : [wiring.netOf(`${part.ref}.${facts.supply}`)],
      ),
    ]
    if (fed.some((net) => far.has(net))) add(one.element.part.ref, one.element.runs, one.element.starts)
  }
  return { typical, peak, names: [...names] }
}

/** Volts that a supply pin gets through resistors, lamps or switches where no source holds it; undefined for none. */
export function fedThrough(
  wiring: Wiring,
  pins: readonly string[],
): { readonly end: string; readonly volts: number } | undefined {
  for (const end of pins) {
    const net = wiring.netOf(end)
    if (!net.wired || net.ground || net.sources.length > 0) continue
    const most = verdictsOf(wiring).of(net)?.most
    if (!most || most.volts < 0.3) continue
    const way = wayTo(circuitOf(wiring), most.state, verdictsOf(wiring).of(net)!.verdict.island, net, 'high')
    if (way && !way.port) return { end, volts: most.volts }
  }
  return undefined
}

/** Current of a load while it runs: of its windings or what else it is, or of its supply. */
export const runsOf = (load: PartInstance): number | undefined =>
  loadMilliamps(load) ?? load.supplies[0]?.typicalMilliamps

/** A load that does nothing but take its current: no servo, which its supply alone does not move. */
export const isPlainLoad = (wiring: Wiring, { kind, part }: Element): boolean =>
  (kind === 'winding' || kind === 'load') &&
  part.part.build === 'component' &&
  !wiring.signals.some((use) => use.part === part && use.facts.direction !== 'passive')
