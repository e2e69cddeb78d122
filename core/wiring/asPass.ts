import { memo } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'
import { bare } from './bare.ts'
import { areAlike } from './levels.ts'
import type { Host, Net, PartInstance } from './model.ts'

/**
 * The facts of a transistor as it is wired. With its gate on the supply of the weaker side, its source on a line there and
 * its drain on the line of the stronger side it switches no load: it is one channel of a level shifter, and the resistors
 * beside it pull both lines up (AN10441, 2). Turned round, or with its gate on another supply, it is what it was.
 */
export function asPass(
  owner: PartInstance,
  netOf: (end: string) => Net,
  beyondResistors: (net: Net) => ReadonlySet<Net>,
  hostAt: (end: string) => Host | undefined,
): Part {
  const { part, ref } = owner
  if (!part.passes) return part
  const [gate, low, high] = [part.passes.gate, ...part.passes.between].map((pin) => netOf(`${ref}.${pin}`)) as [
    Net,
    Net,
    Net,
  ]
  const isLine = (net: Net): boolean => net.wired && !net.ground && net.sources.length === 0
  const held = gate.sources[0]?.volts
  if (held === undefined || gate.ground || low === high || !isLine(low) || !isLine(high)) return part
  const pulls = [...beyondResistors(low)].flatMap(({ sources }) => sources.map(({ volts }) => volts))
  const levels = pulls.length > 0 ? pulls : low.ends.flatMap((end) => hostAt(end)?.logicVolts ?? [])
  // With its sides exchanged it passes on too, through the diode inside (see `levelTurned.ts`).
  return levels.every((volts) => areAlike(volts, held)) || levels.every((volts) => volts > held) ? passing(part) : part
}

const passing = memo((part: Part): Part => {
  const between = part.passes?.between
  if (!between) return part
  return { ...bare(part), inner: [{ kind: 'shift', between, back: false, pulled: true }] }
})
