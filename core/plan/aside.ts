import * as v from 'valibot'
import type { Path } from '../base/yamlSource.ts'
import { type Aside, Plan } from './planSchema.ts'

/**
 * Setting aside. A plan outlives the catalogue: an entry of the maker's own is deleted, an id changes, a pin gets
 * another name. Such a plan opens all the same. The pieces that do not fit stand in the plan under `aside`, as they were
 * written and with the reason; each reading tries to put them back. So nothing is lost, and everything after reading
 * may rely on a plan that fits.
 */

export interface Misfit {
  readonly path: Path
  readonly message: string
}
export type Bound = { readonly plan: Plan } | { readonly misfits: readonly Misfit[] }

type Keys = readonly (string | number)[]

/**
 * Puts pieces back that were set aside and binds the plan; what does not fit is (again) set aside. Fails with the
 * misfits only when one of them is no piece that can be taken out, such as a reference that stands twice.
 */
export function setAside(plan: Plan, before: readonly Aside[], bind: (plan: Plan) => Bound): Bound {
  let { now, aside } = putBack(plan, before)
  // Taking a part out leaves its wires without an end: those follow in the next round.
  for (;;) {
    const bound = bind(now)
    if (!('misfits' in bound))
      return { plan: aside.length === 0 ? bound.plan : { ...bound.plan, aside: aside.map(short) } }
    const taken = takeOut(now, bound.misfits)
    if (!taken) return bound
    now = taken.plan
    aside = [...aside, ...taken.pieces]
  }
}

const short = (one: Aside): Aside => ({ ...one, because: one.because.slice(0, 500) })

/** The piece that a misfit's path lies in, and undefined when the plan cannot be without it. */
function pieceOf(path: Path): Keys | undefined {
  const [section, second, third] = path
  if (section === 'wires' || section === 'unused' || section === 'names') return path.slice(0, 2)
  if (section === 'rehearsal' && second === 'programs') return path.slice(0, 3)
  if (section === 'own' && path.length >= 3) return path.slice(0, 3)
  if (section === 'bench')
    return second === 'places' || second === 'via' ? path.slice(0, 3) : path.length >= 4 ? path.slice(0, 4) : undefined
  if ((section === 'boards' && third === 'board') || (section === 'parts' && third === 'part')) return path.slice(0, 2)
  if (section === 'boards' || section === 'parts') return path.length >= 3 ? path.slice(0, 4) : undefined
  return undefined
}

function takeOut(plan: Plan, misfits: readonly Misfit[]): { plan: Plan; pieces: Aside[] } | undefined {
  const reasons = new Map<string, { keys: Keys; because: string }>()
  for (const { path, message } of misfits) {
    const keys = pieceOf(path)
    if (!keys) return undefined
    if (!reasons.has(keys.join('\n'))) reasons.set(keys.join('\n'), { keys, because: message })
  }
  const all = [...reasons.values()]
  const inLists = all.filter(({ keys }) => typeof keys.at(-1) === 'number')
  const pieces = all.map(
    ({ keys, because }): Aside => ({
      at: keys.filter((key) => typeof key === 'string'),
      value: valueAt(plan, keys),
      because,
    }),
  )
  let now: unknown = plan
  // Items of lists from behind, so that the places of those before stay right.
  for (const { keys } of [
    ...all.filter((one) => !inLists.includes(one)),
    ...inLists.sort((one, two) => Number(two.keys.at(-1)) - Number(one.keys.at(-1))),
  ])
    now = without(now, keys)
  return { plan: now as Plan, pieces }
}

function putBack(plan: Plan, aside: readonly Aside[]): { now: Plan; aside: readonly Aside[] } {
  const shaped = (value: unknown): Plan | undefined => {
    const result = v.safeParse(Plan, value)
    return result.success ? result.output : undefined
  }
  const put = (one: unknown, piece: Aside): unknown => withPiece(one, piece.at, piece.value) ?? one
  // Mostly all of them have their places; each by itself is tried only when that is not so.
  const all = shaped(aside.reduce(put, plan))
  const kept = aside.filter((piece) => withPiece(plan, piece.at, piece.value) === undefined)
  if (all) return { now: all, aside: kept }
  if (aside.length > MOST_TRIED) return { now: plan, aside }
  let now = plan
  const left = aside.filter((piece) => {
    const next = withPiece(now, piece.at, piece.value)
    const fits = next === undefined ? undefined : shaped(next)
    now = fits ?? now
    return fits === undefined
  })
  return { now, aside: left }
}

/** Most pieces that are tried one by one. */
const MOST_TRIED = 200

const isMap = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

function valueAt(value: unknown, [key, ...rest]: Keys): unknown {
  if (key === undefined) return value
  const inner: unknown = Array.isArray(value) ? value[Number(key)] : isMap(value) ? value[key] : undefined
  return valueAt(inner, rest)
}

function without(value: unknown, [key, ...rest]: Keys): unknown {
  if (key === undefined) return value
  if (Array.isArray(value))
    return rest.length === 0
      ? value.filter((_, index) => index !== key)
      : value.map((one, index) => (index === key ? without(one, rest) : one))
  if (!isMap(value)) return value
  const entries = Object.entries(value)
  return Object.fromEntries(
    rest.length === 0
      ? entries.filter(([name]) => name !== key)
      : entries.map(([name, one]) => [name, name === key ? without(one, rest) : one]),
  )
}

/** Lists of a plan, to which a piece is added at the end; everything else is a map that must not have the key yet. */
const lists: ReadonlySet<string> = new Set(['wires', 'unused', 'uses'])
/** Maps that may be made for a piece that goes back. */
const optionalMaps: ReadonlySet<string> = new Set([
  'options',
  'clocks',
  'own',
  'bench',
  'places',
  'via',
  'boards',
  'parts',
  'names',
])

/** A value with a piece put in at its place; undefined when the place is gone or taken. */
function withPiece(value: unknown, [key, ...rest]: readonly string[], piece: unknown): unknown {
  if (key === undefined || !isMap(value)) return undefined
  const has = Object.hasOwn(value, key)
  if (rest.length === 0) {
    if (!lists.has(key)) return has ? undefined : { ...value, [key]: piece }
    const list = has ? value[key] : []
    return Array.isArray(list) ? { ...value, [key]: [...list, piece] } : undefined
  }
  if (!has && !optionalMaps.has(key)) return undefined
  const inner = withPiece(has ? value[key] : {}, rest, piece)
  return inner === undefined ? undefined : { ...value, [key]: inner }
}
