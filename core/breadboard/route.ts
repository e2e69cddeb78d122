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
  const needed = new Set(rails.filter((rail) => groups.some((group) => group.includes(rail))))
  const optional = rails.filter((rail) => !needed.has(rail))
  let best: Join[] | undefined
  let least = Number.POSITIVE_INFINITY
  // At most eight pieces a net in practice; beyond ten only all or each alone are tried.
  const masks =
    optional.length <= 10
      ? Array.from({ length: 2 ** optional.length }, (_, mask) => optional.filter((_, at) => (mask >> at) & 1))
      : [optional, ...optional.map((one) => [one])]
  for (const chosen of masks) {
    const used = [...needed, ...chosen]
    if (used.length === 0) continue
    const joins = star(groups, used, canBridge)
    if (!joins) continue
    const cost = priceOf(joins)
    if (cost < least) {
      best = joins
      least = cost
    }
  }
  return best
}

const priceOf = (joins: readonly Join[]): number => joins.reduce((sum, { a, b }) => sum + WIRE + reach(a, b), 0)

/** Distance, with a rail taken where it comes nearest. */
function reach(a: Point, b: Point): number {
  if (a.kind === 'rail' && b.kind === 'rail') return Math.abs(a.x - b.x) + (a.x === b.x ? 2 : 0)
  if (a.kind === 'rail' || b.kind === 'rail') return Math.abs(a.x - b.x)
  return apart(a, b)
}

function star(
  groups: readonly Group[],
  rails: readonly Point[],
  canBridge: (a: Point, b: Point) => boolean,
): Join[] | undefined {
  const joins: Join[] = []
  const free = new Map<Point, number>()
  const left = (point: Point): number => free.get(point) ?? point.free
  const use = (join: Join): void => {
    for (const point of [join.a, join.b]) free.set(point, left(point) - 1)
    joins.push(join)
  }
  // Holes of a rail may be scarce under modules: some are held back for bridges, and those groups choose first to which
  // it matters most.
  const heldBack = rails.length > 2 ? 2 : rails.length - 1
  const waiting = groups
    .filter((group) => !group.some((point) => rails.includes(point)))
    .map((group) => {
      const ways = rails
        .flatMap((b) => group.flatMap((a) => (a.free > 0 && canJoin(a, b) ? [{ a, b, cost: reach(a, b) }] : [])))
        .sort((one, two) => one.cost - two.cost)
      const other = ways.find(({ b }) => b !== ways[0]?.b)
      return { ways, gain: other ? other.cost - ways[0]!.cost : Number.POSITIVE_INFINITY }
    })
    .sort((one, two) => two.gain - one.gain)
  for (const { ways } of waiting) {
    const best = ways.find(({ a, b }) => left(a) > 0 && left(b) > heldBack)
    if (!best) return undefined
    use({ a: best.a, b: best.b })
  }
  // Bridges: the shortest tree over the pieces, joined where a group holds two of them already.
  const root = new Map(rails.map((rail) => [rail, rail]))
  const find = (rail: Point): Point => {
    let at = rail
    while (root.get(at) !== at) at = root.get(at)!
    return at
  }
  for (const group of groups) {
    const own = rails.filter((rail) => group.includes(rail))
    for (const rail of own) root.set(find(rail), find(own[0]!))
  }
  const pairs = rails.flatMap((a, at) => rails.slice(at + 1).map((b) => ({ a, b })))
  for (const join of pairs.sort((one, two) => reach(one.a, one.b) - reach(two.a, two.b))) {
    const [a, b] = [find(join.a), find(join.b)]
    if (a === b || !canBridge(join.a, join.b) || left(join.a) < 1 || left(join.b) < 1) continue
    root.set(a, b)
    use(join)
  }
  return rails.some((rail) => find(rail) !== find(rails[0]!)) ? undefined : joins
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
