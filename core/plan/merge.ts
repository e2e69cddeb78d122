import { splitEnd } from './ends.ts'
import { type Pieces, piecesOf, planOfPieces } from './pieces.ts'
import type { Plan, PlanWire } from './planSchema.ts'

export type Side = 'mine' | 'theirs'

/** Changes of two sides that touch each other: only one of them can hold. */
export interface Clash {
  /** Stays the same while both sides do. */
  readonly key: string
  /** Refs and ends that it is about. */
  readonly at: readonly string[]
  /** Ends that each side joins here, besides. */
  readonly ends: Readonly<Record<Side, readonly string[]>>
  /** The plan from which both went out, with the change of one side at this place only. */
  readonly only: Readonly<Record<Side, Plan>>
}

/** Two changed plans and the one that both come from, joined piece by piece. */
export interface Merge {
  readonly clashes: readonly Clash[]
  /** The joined plan; of each clash one side's, theirs where nothing is chosen. */
  readonly plan: (choices: ReadonlyMap<string, Side>) => Plan
}

/** The breadboards that a side has kept lie in another order. */
function isReordered(base: Plan, side: Plan): boolean {
  const [before, after] = [base, side].map((plan) => Object.keys(plan.bench?.breadboards ?? {}))
  const kept = before!.filter((ref) => after!.includes(ref))
  return kept.join(' ') !== after!.filter((ref) => kept.includes(ref)).join(' ')
}

/**
 * Joins what two sides made of one plan. What only one side changed is taken over; what both changed alike is taken
 * once. Changes touch each other when both change the same piece, when both join the same pin of a part to something
 * else, when both add a thing of the same name, and when one side removes what the other still works on.
 */
export function mergePlans(base: Plan, mine: Plan, theirs: Plan): Merge {
  const [was, my, their] = [piecesOf(base), piecesOf(mine), piecesOf(theirs)]
  const order = isReordered(base, mine) && !isReordered(base, theirs) ? [my, their, was] : [their, my, was]
  const keys = [...new Set(order.flatMap((side) => [...side.keys()]))]
  const same = (a: Pieces, b: Pieces, key: string): boolean => JSON.stringify(a.get(key)) === JSON.stringify(b.get(key))
  const changedBy = (side: Pieces): Set<string> => new Set(keys.filter((key) => !same(was, side, key)))
  const [mineChanged, theirsChanged] = [changedBy(my), changedBy(their)]
  const agreed = (key: string): boolean => same(my, their, key)

  const groups: { keys: Set<string>; at: Set<string> }[] = []
  const touch = (keysOf: readonly string[], at: readonly string[]): void => {
    const group = { keys: new Set(keysOf), at: new Set(at) }
    for (const other of groups.filter((one) => keysOf.some((key) => one.keys.has(key)))) {
      for (const key of other.keys) group.keys.add(key)
      for (const end of other.at) group.at.add(end)
      groups.splice(groups.indexOf(other), 1)
    }
    groups.push(group)
  }
  for (const key of keys)
    if (mineChanged.has(key) && theirsChanged.has(key) && !agreed(key)) touch([key], placesOf(key))

  const added = (side: Pieces, changed: ReadonlySet<string>): Map<string, string[]> =>
    byEnd([...changed].filter((key) => side.has(key) && isWire(key) && !agreed(key)))
  const [mineAt, theirsAt] = [added(my, mineChanged), added(their, theirsChanged)]
  for (const [end, wires] of mineAt) {
    const others = theirsAt.get(end)
    // Posts of boards and supplies are there for many; what a second wire means there, the checks say.
    if (others && isPart(splitEnd(end).ref, my, their)) touch([...wires, ...others], [end])
  }

  const changes = (ref: string, changed: ReadonlySet<string>): string[] =>
    [...changed].filter((key) => concerns(key, ref) && !agreed(key))
  for (const [one, other, changedOne, changedOther] of [
    [my, their, mineChanged, theirsChanged],
    [their, my, theirsChanged, mineChanged],
  ] as const)
    for (const key of keys) {
      const ref = entryRef(key)
      if (ref === undefined) continue
      const isGone = was.has(key) && !one.has(key) && other.has(key)
      const isTwice = one === my && !was.has(key) && one.has(key) && other.has(key)
      if (!isGone && !isTwice) continue
      const [here, there] = [changes(ref, changedOne), changes(ref, changedOther)]
      // A removal meets only what is built on the thing, not a wire that the other side took out as well.
      const builds = there.filter((one) => other.has(one))
      if (isGone ? builds.length > 0 : here.length + there.length > 0) touch([key, ...here, ...there], [ref])
    }

  const side = (key: string, which: Side): unknown => (which === 'mine' ? my : their).get(key)
  const clashOf = new Map(groups.flatMap((group) => [...group.keys].map((key) => [key, group] as const)))
  const nameOf = (group: { keys: ReadonlySet<string> }): string => [...group.keys].sort()[0]!
  /** A wire there that both took out or put in alike: without it neither side's change would be told whole. */
  const isNear = (key: string, at: ReadonlySet<string>): boolean =>
    isWire(key) && agreed(key) && endsOf(key).some((end) => at.has(end))
  const compose = (choose: (key: string) => unknown): Plan => {
    const pieces = new Map<string, unknown>()
    for (const key of keys) {
      const value = choose(key)
      if (value !== undefined) pieces.set(key, value)
    }
    return planOfPieces(withoutLoose(pieces))
  }
  return {
    clashes: groups.map((group) => ({
      key: nameOf(group),
      at: [...group.at],
      ends: { mine: joined(group.keys, my, mineChanged), theirs: joined(group.keys, their, theirsChanged) },
      only: {
        mine: compose((key) => (group.keys.has(key) || isNear(key, group.at) ? my.get(key) : was.get(key))),
        theirs: compose((key) => (group.keys.has(key) || isNear(key, group.at) ? their.get(key) : was.get(key))),
      },
    })),
    plan: (choices) =>
      compose((key) => {
        const group = clashOf.get(key)
        if (group) return side(key, choices.get(nameOf(group)) ?? 'theirs')
        return mineChanged.has(key) ? my.get(key) : their.get(key)
      }),
  }
}

/** Ends of the wires among some pieces that one side has and changed. */
const joined = (keys: ReadonlySet<string>, side: Pieces, changed: ReadonlySet<string>): string[] => [
  ...new Set([...keys].filter((key) => isWire(key) && side.has(key) && changed.has(key)).flatMap(endsOf)),
]

const isWire = (key: string): boolean => key.startsWith('wires/')
const endsOf = (key: string): string[] => key.slice('wires/'.length).split(' ')

const entryRef = (key: string): string | undefined => /^(?:boards|supplies|parts|breadboards)\/([^/]+)$/.exec(key)?.[1]

const isPart = (ref: string, ...sides: readonly Pieces[]): boolean => sides.some((one) => one.has(`parts/${ref}`))

function byEnd(wires: readonly string[]): Map<string, string[]> {
  const found = new Map<string, string[]>()
  for (const key of wires) for (const end of endsOf(key)) found.set(end, [...(found.get(end) ?? []), key])
  return found
}

/** True for a piece that cannot be without a ref: its fields, its wires and what is said of its pins. */
function concerns(key: string, ref: string): boolean {
  const [section = '', name = ''] = key.split('/')
  if (isWire(key)) return endsOf(key).some((end) => splitEnd(end).ref === ref)
  if (section === 'unused' || section === 'names') return splitEnd(key.slice(section.length + 1)).ref === ref
  return ['boards', 'supplies', 'parts', 'places', 'breadboards', 'programs'].includes(section) && name === ref
}

const placesOf = (key: string): string[] => {
  if (isWire(key)) return endsOf(key)
  const [section = '', name = ''] = key.split('/')
  return ['boards', 'supplies', 'parts', 'places', 'breadboards', 'unused', 'programs'].includes(section) ? [name] : []
}

/** Leaves out what hangs on a thing that is not there. */
function withoutLoose(pieces: Map<string, unknown>): Pieces {
  const has = (ref: string): boolean => ['boards', 'supplies', 'parts'].some((one) => pieces.has(`${one}/${ref}`))
  for (const [key, value] of pieces) {
    const [section = '', name = ''] = key.split('/')
    const loose =
      section === 'wires'
        ? !(value as PlanWire).slice(0, 2).every((end) => has(splitEnd(end as string).ref))
        : section === 'unused' || section === 'names'
          ? !has(splitEnd(key.slice(section.length + 1)).ref)
          : section === 'places' || section === 'programs'
            ? !has(name)
            : key.startsWith('parts/') && key.endsWith('/on')
              ? !pieces.has(`boards/${String(value)}`)
              : false
    if (loose) pieces.delete(key)
  }
  return pieces
}
