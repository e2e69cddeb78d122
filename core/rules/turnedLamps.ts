import { entryOf } from '../base/entryOf.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { isTurned } from '../circuit/lit.ts'
import { isBetween } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { setOption, swapWires } from './mend.ts'

export const turnedLampsMessages = {
  lampTurned: '{part} is the wrong way round: its cathode {b} lies up to {volts} above its anode {a}, and never below.',
  commonTurned: '{part} can never light: its common leg {shared} is on the wrong side for a common {leg}.',
}

/** Lamps of a part that no state lets light, since their cathode lies above their anode in the ones that are driven. */
export function turnedLamps(wiring: Wiring, part: PartInstance): Report | undefined {
  const verdicts = verdictsOf(wiring)
  const circuit = circuitOf(wiring)
  const turned = circuit.elements.filter((one) => {
    const flow = one.part === part && one.lights ? verdicts.through(one) : undefined
    return flow !== undefined && isTurned(flow) && isBetween(circuit, one)
  })
  const [first] = turned
  if (!first) return undefined
  const flow = verdicts.through(first)
  const shared = turned.length > 1 ? turned.map((one) => (one.a === first.a ? one.a : one.b))[1] : undefined
  const volts = formatVolts(flow?.under ?? 0)
  return {
    severity: 'fault',
    at: [...new Set(turned.flatMap((one) => [one.a, one.b]))],
    message: shared === undefined ? 'lampTurned' : 'commonTurned',
    data: { part: part.ref, b: first.b, volts, a: first.a, shared, leg: shared === first.a ? 'anode' : 'cathode' },
    why: 'A lamp of this kind conducts from its anode to its cathode only. The other way round it stays dark, and above about 5 V it is damaged.',
    numbers: { reverse: Math.round((flow?.under ?? 0) * 100) / 100 },
    propose: () => [...(shared === undefined ? swapWires(wiring, first.a, first.b) : []), ...otherKinds(wiring, part)],
  }
}

/** Other values of the options on which it depends which way a part's lamps lie. */
const otherKinds = (wiring: Wiring, part: PartInstance): Fix[] =>
  [...new Set(part.part.inner.flatMap((inner) => (inner.when ? [inner.when.option] : [])))].flatMap((id) => {
    const option = part.part.options.find((one) => one.id === id)
    return (option?.values ?? [])
      .filter(({ value }) => value !== entryOf(part.options, id))
      .map(({ value, title }) => ({
        title: `${part.ref} is one with ${option?.title.toLowerCase()}: ${title ?? value}`,
        edits: setOption(wiring, part, id, value),
      }))
  })

export const pinWords = (end: string): string => end.slice(end.indexOf('.') + 1)
