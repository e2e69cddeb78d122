import { entryOf } from '../base/entryOf.ts'
import { boardFacts } from '../catalog/boardFacts.ts'
import { type Catalog, partNames } from '../catalog/catalog.ts'
import { normaliseName } from '../catalog/names.ts'
import { boardOf } from '../catalog/variant.ts'
import type { Plan } from './planSchema.ts'

/** Splits `REF.PIN` at the first dot; a pin id may hold dots itself (`GND.2`). */
export function splitEnd(end: string): { ref: string; pin: string } {
  const dot = end.indexOf('.')
  return { ref: end.slice(0, dot), pin: end.slice(dot + 1) }
}

export type EndResult = { readonly ok: true; readonly end: string } | { readonly ok: false; readonly message: string }

/**
 * Brings an end to its canonical form: the plan's own spelling of the reference and the pin's id.
 * A name that fits no pin or two pins gives a message that lists what was expected.
 */
export function canonicalEnd(
  plan: Pick<Plan, 'boards' | 'supplies' | 'parts'>,
  catalog: Catalog,
  end: string,
): EndResult {
  const { ref: writtenRef, pin } = splitEnd(end)
  const ref = findRef(plan, writtenRef)
  if (ref === undefined) {
    const known = [...Object.keys(plan.boards), ...Object.keys(plan.supplies), ...Object.keys(plan.parts)]
    const list =
      known.length === 0
        ? 'the plan has none'
        : `known are ${known.slice(0, 12).join(', ')}${known.length > 12 ? ' …' : ''}`
    return { ok: false, message: `"${end}" names no board, supply or part of this plan; ${list}` }
  }
  if (entryOf(plan.supplies, ref)) {
    if (pin === '+' || pin === '-') return { ok: true, end: `${ref}.${pin}` }
    return { ok: false, message: `"${end}": a supply has the pins + and -` }
  }
  const board = boardOf(catalog, entryOf(plan.boards, ref))
  const part = catalog.parts.get(entryOf(plan.parts, ref)?.part ?? '')
  const names = board ? boardFacts(board).names : part ? partNames(part) : undefined
  if (!names) return { ok: false, message: `"${end}": the catalogue has no entry for ${ref}` }
  const fits = names.find(pin)
  if (fits.length === 1) return { ok: true, end: `${ref}.${fits[0]}` }
  const what = board?.id ?? part?.id
  if (fits.length > 1)
    return {
      ok: false,
      message: `"${end}" fits ${fits.length} pins of ${what}: ${fits.map((id) => `${ref}.${id}`).join(' and ')}; name one of them`,
    }
  const near = names.suggest(pin)
  const hint = near.length > 0 ? `; did you mean ${near.join(' or ')}?` : ''
  return { ok: false, message: `"${end}": ${what} has no pin "${pin}"${hint}` }
}

function findRef(plan: Pick<Plan, 'boards' | 'supplies' | 'parts'>, ref: string): string | undefined {
  const own = (map: object): boolean => Object.hasOwn(map, ref)
  if (own(plan.boards) || own(plan.supplies) || own(plan.parts)) return ref
  const wanted = normaliseName(ref)
  const fits = [plan.boards, plan.supplies, plan.parts]
    .flatMap((map) => Object.keys(map))
    .filter((one) => normaliseName(one) === wanted)
  return fits.length === 1 ? fits[0] : undefined
}
