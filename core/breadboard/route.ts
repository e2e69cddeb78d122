import { apart, canJoin, type Join, type Point } from './points.ts'

/** A wire more is worth so many pitches of length. */
const WIRE = 14

/** Points of one net in groups that hang together already: one board's pins, a part's joined pins. */
export type Group = readonly Point[]

/**
 * Joins the groups of a net that has rails: every group goes to its nearest piece, and pieces that are used are
 * bridged. Which pieces are used is tried out: fewer pieces need fewer bridges, more make shorter wires. Undefined when
 * some group finds no way.
 */
export function routeOverRails(
  groups: readonly Group[],
  rails: readonly Point[],
  canBridge: (a: Point, b: Point) => boolean,
): Join[] | undefined {
  const needed = rails.filter((rail) => groups.some((group) => group.includes(rail)))
  const optional = rails.filter((rail) => !needed.includes(rail))
  const known = facts(groups, needed, optional, canBridge)
  let best: Join[] | undefined
  let least = Number.POSITIVE_INFINITY
  // At most eight pieces a net in practice; beyond ten only all or each alone are tried.
  const masks =
    optional.length <= 10
      ? Array.from({ length: 2 ** optional.length }, (_, mask) => optional.filter((_, at) => (mask >> at) & 1))
      : [optional, ...optional.map((one) => [one])]
  for (const chosen of masks) {
    const used = new Set([...needed, ...chosen])
    if (used.size === 0 || leastPrice(known, used) >= least) continue
    const joins = star(known, used)
    if (!joins) continue
    const cost = priceOf(joins)
    if (cost < least) {
      best = joins
      least = cost
    }
  }
  return best
}

/** A way from a group to a piece of a rail. */
type Way = Join & { readonly cost: number }

/** What holds whichever pieces are used: worked out once for a net. */
interface Facts {
  /** Ways of each group that is on no rail by itself, the shortest first. */
  readonly ways: readonly (readonly Way[])[]
  /** Bridges that may be laid, the shortest first. */
  readonly bridges: readonly Join[]
  /** Pieces that hang together over a group, each after one that it hangs together with. */
  readonly together: readonly (readonly [Point, Point])[]
}

function facts(
  groups: readonly Group[],
  needed: readonly Point[],
  optional: readonly Point[],
  canBridge: (a: Point, b: Point) => boolean,
): Facts {
  const all = [...needed, ...optional]
  const ways = groups
    .filter((group) => !group.some((point) => needed.includes(point)))
    .map((group) =>
      all
        .flatMap((b) => group.flatMap((a) => (a.free > 0 && canJoin(a, b) ? [{ a, b, cost: reach(a, b) }] : [])))
        .sort((one, two) => one.cost - two.cost),
    )
  const bridges = all
    .flatMap((a, at) => all.slice(at + 1).map((b) => ({ a, b })))
    .filter(({ a, b }) => canBridge(a, b))
    .sort((one, two) => reach(one.a, one.b) - reach(two.a, two.b))
  const together = groups.flatMap((group) => {
    const [first, ...rest] = needed.filter((rail) => group.includes(rail))
    return rest.map((rail) => [rail, first!] as const)
  })
  return { ways, bridges, together }
}

/** What no set of joins over these pieces falls below: the shortest way of each group, and as many bridges as it takes. */
function leastPrice({ ways, together }: Facts, used: ReadonlySet<Point>): number {
  const shortest = ways.reduce(
    (sum, own) => sum + WIRE + (own.find(({ b }) => used.has(b))?.cost ?? Number.POSITIVE_INFINITY),
    0,
  )
  return shortest + WIRE * Math.max(0, used.size - 1 - together.length)
}

const priceOf = (joins: readonly Join[]): number => joins.reduce((sum, { a, b }) => sum + WIRE + reach(a, b), 0)

/** Distance, with a rail taken where it comes nearest. */
function reach(a: Point, b: Point): number {
  if (a.kind === 'rail' && b.kind === 'rail') return Math.abs(a.x - b.x) + (a.x === b.x ? 2 : 0)
  if (a.kind === 'rail' || b.kind === 'rail') return Math.abs(a.x - b.x)
  return apart(a, b)
}

function star({ ways: all, bridges, together }: Facts, rails: ReadonlySet<Point>): Join[] | undefined {
  const joins: Join[] = []
  const free = new Map<Point, number>()
  const left = (point: Point): number => free.get(point) ?? point.free
  const use = ({ a, b }: Join): void => {
    for (const point of [a, b]) free.set(point, left(point) - 1)
    joins.push({ a, b })
  }
  // Holes of a rail may be scarce under modules: some are held back for bridges, and those groups choose first to which
  // it matters most.
  const heldBack = rails.size > 2 ? 2 : rails.size - 1
  const waiting = all
    .map((own) => {
      const ways = own.filter(({ b }) => rails.has(b))
      const other = ways.find(({ b }) => b !== ways[0]?.b)
      return { ways, gain: other ? other.cost - ways[0]!.cost : Number.POSITIVE_INFINITY }
    })
    .sort((one, two) => two.gain - one.gain)
  for (const { ways } of waiting) {
    const best = ways.find(({ a, b }) => left(a) > 0 && left(b) > heldBack)
    if (!best) return undefined
    use(best)
  }
  // Bridges: the shortest tree over the pieces, joined where a group holds two of them already.
  const root = new Map([...rails].map((rail) => [rail, rail]))
  const find = (rail: Point): Point => {
    let at = rail
    while (root.get(at) !== at) at = root.get(at)!
    return at
  }
  for (const [one, other] of together) root.set(find(one), find(other))
  let pieces = new Set([...rails].map(find)).size
  for (const join of bridges) {
    if (pieces === 1) break
    if (!rails.has(join.a) || !rails.has(join.b)) continue
    const [a, b] = [find(join.a), find(join.b)]
    if (a === b || left(join.a) < 1 || left(join.b) < 1) continue
    root.set(a, b)
    pieces -= 1
    use(join)
  }
  return pieces === 1 ? joins : undefined
}

/**
 * Joins the groups of a net by a short tree of wires (Kruskal's way), with no more wires at a point than it takes.
 * Undefined when the holes do not suffice.
 */
export function routeTree(groups: readonly Group[]): Join[] | undefined {
  const home = new Map<Point, number>()
  for (const [index, group] of groups.entries()) for (const point of group) home.set(point, index)
  const root = groups.map((_, index) => index)
  const find = (index: number): number => (root[index] === index ? index : find(root[index]!))
  const capacity = groups.map((group) => group.reduce((sum, point) => sum + point.free, 0))
  const free = new Map<Point, number>()
  const left = (point: Point): number => free.get(point) ?? point.free
  const pairs: Join[] = []
  const points = groups.flat()
  for (const [at, a] of points.entries())
    for (const b of points.slice(at + 1)) if (home.get(a) !== home.get(b) && canJoin(a, b)) pairs.push({ a, b })
  pairs.sort((one, two) => apart(one.a, one.b) - apart(two.a, two.b))
  const joins: Join[] = []
  let open = groups.length
  for (const join of pairs) {
    const [a, b] = [find(home.get(join.a)!), find(home.get(join.b)!)]
    if (a === b || left(join.a) < 1 || left(join.b) < 1) continue
    const rest = capacity[a]! + capacity[b]! - 2
    if (rest < 1 && open > 2) continue
    root[a] = b
    capacity[b] = rest
    for (const point of [join.a, join.b]) free.set(point, left(point) - 1)
    joins.push(join)
    open -= 1
  }
  return open === 1 ? joins : undefined
}
