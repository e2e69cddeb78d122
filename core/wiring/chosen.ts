import type { Part } from '../catalog/partSchema.ts'
import { holds } from '../catalog/when.ts'

const made = new WeakMap<Part, Map<string, Part>>()

/**
 * A part with the supplies, rails and given pins that it has with the options and the mode chosen; the same object for
 * the same choice.
 */
export function asChosen(
  part: Part,
  options: Readonly<Record<string, string | number>>,
  mode: string | undefined,
): Part {
  if (![...part.supplies, ...part.rails, ...part.provides].some((one) => one.when ?? ('modes' in one && one.modes)))
    return part
  const supplies = part.supplies.filter(
    (one) => holds(one.when, options) && (!one.modes || (mode !== undefined && one.modes.includes(mode))),
  )
  const rails = part.rails.filter((one) => holds(one.when, options))
  const provides = part.provides.filter((one) => holds(one.when, options))
  const key = [
    ...supplies.map((one) => part.supplies.indexOf(one)),
    '/',
    ...rails.map((one) => part.rails.indexOf(one)),
    '/',
    ...provides.map((one) => part.provides.indexOf(one)),
  ]
  const known = made.get(part) ?? new Map<string, Part>()
  made.set(part, known)
  const text = key.join(' ')
  const before = known.get(text)
  if (before) return before
  const chosen = { ...part, supplies, rails, provides }
  known.set(text, chosen)
  return chosen
}
