import type { PartInstance, Source } from '../wiring/model.ts'
import { type Circuit, type DriverChannel, type Element, railOf } from './circuit.ts'

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

/** A figure that goes with the chosen value of one of a part's options. */
function chosenFact(part: PartInstance, name: string): number | undefined {
  for (const option of part.part.options) {
    const value = option.values.find((one) => one.value === part.options[option.id])
    const facts = new Map(Object.entries(value?.facts ?? {}))
    const figure = facts.get(name)
    if (figure !== undefined) return figure
  }
  return undefined
}
