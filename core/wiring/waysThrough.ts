import { holds } from '../catalog/when.ts'
import type { PartInstance } from './model.ts'

/** A way through a part on which a level comes out at its other side: of a buffer one way, of a shifter both. */
export interface WayThrough {
  readonly kind: 'buffer' | 'shift'
  /** Ends, of a buffer its input first. */
  readonly from: string
  readonly to: string
}

/** Ways through the level shifters and buffers of a part, as its options have it. */
export const waysThrough = ({ ref, part, options }: PartInstance): WayThrough[] =>
  part.inner.flatMap(({ kind, between, back, when }) => {
    if ((kind !== 'buffer' && kind !== 'shift') || !holds(when, options)) return []
    const [from, to] = (back ? [...between].reverse() : between).map((pin) => `${ref}.${pin}`) as [string, string]
    return [{ kind, from, to }]
  })
