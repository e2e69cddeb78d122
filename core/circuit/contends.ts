import type { Wiring } from '../wiring/model.ts'
import { verdictsOf } from './verdicts.ts'

/**
 * Most current in milliamperes that one output drives into another while one is high and the other low: without bound on
 * one net and where it is not known, none where diodes keep them apart.
 */
export function contention(wiring: Wiring, a: string, b: string): number {
  const net = wiring.netOf(a)
  if (net === wiring.netOf(b)) return Number.POSITIVE_INFINITY
  const verdict = verdictsOf(wiring).of(net)?.verdict
  const actors = verdict?.island.actors ?? []
  const [one, two] = [a, b].map((end) =>
    actors.findIndex(({ what }) => 'port' in what && what.port.terminal.end === end),
  ) as [number, number]
  if (!verdict || one < 0 || two < 0) return Number.POSITIVE_INFINITY
  let most: number | undefined
  for (const { positions, strands, amps } of verdict.states) {
    const [isOne, isTwo] = [positions[one]?.is, positions[two]?.is]
    if (!((isOne === 'high' && isTwo === 'low') || (isOne === 'low' && isTwo === 'high'))) continue
    // What leaves the one and enters the other: the less of both, since a third may take or give some of it.
    const through = [one, two].map((at) => {
      const own = positions[at]?.strands[0]
      return Math.abs(own ? (amps[strands.indexOf(own)] ?? 0) : 0)
    })
    most = Math.max(most ?? 0, Math.min(...through) * 1000)
  }
  return most ?? Number.POSITIVE_INFINITY
}
