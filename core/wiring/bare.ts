import type { Part } from '../catalog/partSchema.ts'

/** A transistor without anything that it is as the switch of a load: what lies inside is said anew. */
export const bare = (part: Part): Part => ({
  ...part,
  pins: part.pins.map((pin) => ({ ...pin, role: 'passive' as const })),
  signals: [],
  ties: [],
  supplies: [],
  provides: [],
  channels: [],
  companions: [],
})
