import { memo } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'

/** A joint, a clamp, a terminal, a breakout: metal that carries wires on, and is nothing else. */
export const isWirework = memo(
  (part: Part): boolean =>
    part.inner.every(({ kind }) => kind === 'join') &&
    part.inner.length + part.plugsOn.length > 0 &&
    part.supplies.length + part.signals.length + part.modes.length + part.provides.length + part.rails.length === 0 &&
    part.channels.length + part.ties.length === 0,
)
