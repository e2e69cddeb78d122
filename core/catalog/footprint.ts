import type { Footprint, Part } from './partSchema.ts'
import { holds } from './when.ts'

/** How a part with these options is built: the order of its legs may depend on its model or kind. */
export function footprintOf(part: Part, options: Readonly<Record<string, string | number>>): Footprint {
  return part.footprints.find(({ when }) => holds(when, options))?.footprint ?? part.footprint
}

/** Legs that go into a breadboard or lie in one order, and places without a leg. */
export function legsOf(foot: Footprint): readonly (string | null)[] {
  return foot.kind === 'two-row' ? [...foot.left, ...foot.right] : foot.pins
}

/** Every pin of a footprint, with posts on other edges. */
export function footprintPins(foot: Footprint): readonly (string | null)[] {
  return 'apart' in foot ? [...legsOf(foot), ...foot.apart.flatMap(({ pins }) => pins)] : legsOf(foot)
}
