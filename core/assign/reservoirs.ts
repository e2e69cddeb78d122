import { entryOf } from '../base/entryOf.ts'
import { circuitOf } from '../circuit/circuit.ts'
import type { PartInstance, Source, Wiring } from '../wiring/model.ts'
import { returnEnd } from './feeding.ts'
import { connect, type Decision } from './progress.ts'
import { looseParts } from './spares.ts'

/** From so many farads on a capacitor is there to carry a start or a step of current; less keeps a chip's supply steady. */
const LEAST_FARADS = 47e-6

/**
 * Puts each large capacitor that no part has asked for across a supply from which motors, servos or strips take their
 * current, the hungriest first: it gives what they ask for in the moment in which they start. One that is rated for less
 * than that supply stays in the box, and so it does where nothing heavy hangs on any.
 */
export function placeReservoirs(built: Wiring, wanted: (ref: string) => boolean): readonly Decision[] {
  const large = looseParts(built, 'capacitor').flatMap((part) =>
    wanted(part.ref) && amountOf(part, 'farads') >= LEAST_FARADS ? [{ part, rated: amountOf(part, 'volts') }] : [],
  )
  if (large.length === 0) return []
  const peaks = new Map<Source, number>()
  for (const { facts, source, peakMilliamps } of built.parts.flatMap(({ supplies }) => supplies))
    if (facts.heavy && source) peaks.set(source, (peaks.get(source) ?? 0) + (peakMilliamps ?? 0))
  const circuit = circuitOf(built)
  const hasOne = ({ end }: Source): boolean =>
    circuit
      .on(built.netOf(end))
      .some(({ kind, part }) => kind === 'capacitor' && amountOf(part, 'farads') >= LEAST_FARADS)
  const hungry = [...peaks].sort(([, a], [, b]) => b - a).flatMap(([source]) => (hasOne(source) ? [] : [source]))
  return hungry.flatMap((source) => {
    const at = large.findIndex(({ rated }) => rated >= source.volts)
    const minus = returnEnd(built, source.end)
    if (at < 0 || minus === undefined) return []
    const [{ part }] = large.splice(at, 1) as [(typeof large)[number]]
    const [plus, other] = part.part.pins.map(({ id }) => `${part.ref}.${id}`) as [string, string]
    return [
      connect(plus, source.end, `gives what starts on ${source.end} its first moment of current`),
      connect(other, minus, 'the minus of the same supply'),
    ]
  })
}

const amountOf = ({ options }: PartInstance, option: string): number => {
  const amount = entryOf(options, option)
  return typeof amount === 'number' ? amount : 0
}
