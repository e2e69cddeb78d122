import { entryOf } from '../base/entryOf.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { countsFilling } from '../catalog/filling.ts'
import type { Companion, Part } from '../catalog/partSchema.ts'
import { withUsual } from '../catalog/when.ts'
import type { Plan } from './planSchema.ts'

/** Something that lies loose on the table: what it is, and its values. */
export interface Loose {
  readonly part: string
  /** Undefined where nobody has said: it is what is wanted of it. */
  options: Readonly<Record<string, string | number>> | undefined
}

/** Parts of which no leg has a wire. */
export function looseIn({ parts, wires }: Plan): Loose[] {
  const refOf = (end: string): string => end.slice(0, end.indexOf('.'))
  const wired = new Set(wires.flatMap(([a, b]) => [refOf(a), refOf(b)]))
  return Object.entries(parts).flatMap(([ref, { part, options }]) => (wired.has(ref) ? [] : [{ part, options }]))
}

/** Values this many times larger or smaller may do as well; a ten times larger resistor is there for something else. */
const ALIKE = 5

/** How many times larger or smaller than wanted a part is, as the companion of another; undefined for what is none of it. */
export function farFrom({ part, options }: Companion, id: string, has: Loose['options']): number | undefined {
  const far = Math.max(
    1,
    ...Object.entries(options).map(([name, wanted]) => {
      const value = entryOf(has, name)
      return typeof value === 'number' && typeof wanted === 'number' ? Math.max(value / wanted, wanted / value) : 1
    }),
  )
  return part === id && far <= ALIKE ? far : undefined
}

/**
 * Takes what lies there and may be meant for a companion, the nearest in value; what is just right for another is kept for
 * that.
 */
export function isTaken(loose: Loose[], companion: Companion, kept?: ReadonlyMap<Loose, Companion>): boolean {
  const far = (one: Loose): number | undefined =>
    (kept?.get(one) ?? companion) === companion ? farFrom(companion, one.part, one.options) : undefined
  const [nearest] = loose
    .filter((one) => far(one) !== undefined)
    .sort((one, other) => (far(one) ?? 0) - (far(other) ?? 0))
  if (!nearest) return false
  loose.splice(loose.indexOf(nearest), 1)
  nearest.options ??= companion.options
  return true
}

/** Loose parts by the companion of a part of the kit whose value they have exactly. */
export function keptFor(loose: readonly Loose[], parts: readonly Part[]): ReadonlyMap<Loose, Companion> {
  const kept = new Map<Loose, Companion>()
  for (const part of parts)
    for (const companion of part.companions) {
      const isExact = (one: Loose): boolean =>
        one.options !== undefined && !kept.has(one) && farFrom(companion, one.part, one.options) === 1
      const found = companion.required && Object.keys(companion.options).length > 0 ? loose.find(isExact) : undefined
      if (found) kept.set(found, companion)
    }
  return kept
}

/** Takes a capacitor that lies there, for a resistance to fill. */
export function isFilling(loose: Loose[], catalog: Catalog): boolean {
  const at = loose.findIndex(({ part, options }) => {
    const facts = catalog.parts.get(part)
    return facts !== undefined && countsFilling(part, withUsual(facts, options ?? {}))
  })
  if (at < 0) return false
  loose.splice(at, 1)
  return true
}
