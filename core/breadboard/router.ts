import { UnionFind } from '../base/unionFind.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { coveredPosts } from '../wiring/plugs.ts'
import type { Spot } from './aside.ts'
import { boardOfHole, columnOf, type Grid, type Hole, holeAt, isRail, type Node, railNames, rowOf } from './grid.ts'
import type { Join, Point } from './points.ts'
import { type Group, routeOverRails, routeTree } from './route.ts'
import type { Occupancy, Seat } from './seats.ts'
import { mainEnds, touching } from './touch.ts'
import type { Unit } from './units.ts'

/** What stands in the hole over which the maker leads the wire of an end. */
export const wayOf = (end: string): string => `the wire of ${end}`

/** Finds the wires of one net after the other on a bench where everything stands, and says what it cannot reach. */
export class Router {
  readonly blocked: { end: string; text: string }[] = []
  readonly refused: { end: string; hole: string; text: string }[] = []
  readonly gaps: { breadboard: string; rail: string; net: number }[] = []
  /** By net its points, those together that hang together without a wire of ours; rails among them. */
  readonly groups = new Map<number, readonly Group[]>()
  readonly #wiring: Wiring
  readonly #grid: Grid
  readonly #occupancy: Occupancy
  readonly #unitOf: ReadonlyMap<string, Unit>
  /** Holes of every end that stands in one, mostly one. */
  readonly #holesOf = new Map<string, readonly Hole[]>()
  readonly #posts: ReadonlyMap<string, Spot>
  readonly #rails: ReadonlyMap<Node, number>
  readonly #boardsFor: (ref: string) => readonly number[]
  readonly #touching: (end: string) => readonly string[]
  readonly #covered: ReadonlySet<string>

  constructor(
    wiring: Wiring,
    grid: Grid,
    occupancy: Occupancy,
    units: readonly Unit[],
    seats: readonly Seat[],
    posts: ReadonlyMap<string, Spot>,
    rails: ReadonlyMap<Node, number>,
    boardsFor: (ref: string) => readonly number[],
  ) {
    this.#wiring = wiring
    this.#grid = grid
    this.#occupancy = occupancy
    this.#unitOf = new Map(units.map((unit) => [unit.ref, unit]))
    for (const { ref, legs } of seats)
      for (const { pin, hole } of legs) {
        const end = `${ref}.${pin}`
        this.#holesOf.set(end, [...(this.#holesOf.get(end) ?? []), hole])
      }
    this.#posts = posts
    this.#rails = rails
    this.#boardsFor = boardsFor
    this.#touching = touching(wiring)
    this.#covered = coveredPosts(wiring)
  }

  route(net: number): (Join & { net: number })[] {
    const rails = [...this.#rails].filter(([, on]) => on === net).map(([node]) => this.#nodePoint(node, undefined))
    const led = this.#leadOver(net, rails, this.#groups(net, rails))
    const { groups } = led
    if (groups.length < 2) return led.joins.map((join) => ({ net, ...join }))
    const able = groups.filter((group) => {
      if (group.some((point) => point.free > 0 || point.kind === 'rail')) return true
      this.#block(group, 'every hole of its row is taken or covered, so that no wire reaches it')
      return false
    })
    const joins = able.length < 2 ? [] : this.#joins(net, able, rails)
    const used = new Set(joins.flatMap(({ a, b }) => [a, b]))
    this.groups.set(net, [
      ...able,
      ...rails.filter((rail) => used.has(rail) && !able.flat().includes(rail)).map((rail) => [rail]),
    ])
    return [...led.joins, ...joins].map((join) => ({ net, ...join }))
  }

  /** Wires that the maker leads over a hole: what stood together with their ends is reached from there only. */
  #leadOver(
    net: number,
    rails: readonly Point[],
    groups: Point[][],
  ): { readonly groups: Point[][]; readonly joins: readonly Join[] } {
    const joins: Join[] = []
    const merged = new Map<Point[], Point[]>()
    for (const [end, hole] of this.#ways(net)) {
      const refuse = (text: string): void => {
        this.refused.push({ end, hole: this.#wiring.plan.bench!.via![end]!, text })
      }
      if (hole === undefined) {
        refuse('there is no such hole')
        continue
      }
      const node = this.#grid.node(hole)
      const at = this.#holesOf.get(end)?.[0]
      const own = groups
        .flat()
        .find((point) => (at === undefined ? point.end === end : point.node === this.#grid.node(at)))
      const group = own && groups.find((one) => one.includes(own))
      if (!own || !group || own.node === node) continue
      const held = this.#occupancy.net(node)
      const what = this.#occupancy.holds(hole)
      if (isRail(node) ? held !== net : held !== net && held !== undefined) {
        const { nets } = this.#wiring
        refuse(
          `${this.#grid.nodeWords(node)} ${held === undefined ? 'carries no net' : `carries the net of ${nets[held]!.ends[0]}`}`,
        )
      } else if (what !== undefined && what !== wayOf(end)) refuse(`${this.#grid.name(hole)} holds ${what} already`)
      else if (own.free < 1) refuse('every hole of its own row is taken or covered')
      else {
        const known = rails.find((one) => one.node === node) ?? groups.flat().find((one) => one.node === node)
        const point = known ?? this.#nodePoint(node, undefined)
        joins.push({ a: own, b: point, holeB: hole })
        own.free -= 1
        const into = merged.get(group) ?? []
        merged.set(group, [...into, point])
      }
    }
    if (merged.size === 0) return { groups, joins }
    const joined = new UnionFind()
    const indexOf = new Map(groups.flatMap((group, index) => group.map((point) => [point, `${index}`] as const)))
    const points = new Map<string, Point[]>()
    const free = new Set([...merged.values()].flat())
    for (const [index, group] of groups.entries()) {
      const over = merged.get(group)
      if (over) for (const point of group) if (!free.has(point)) point.free = 0
      joined.add(`${index}`)
      for (const point of over ?? []) {
        const key = indexOf.get(point) ?? `over ${point.node}`
        joined.join(`${index}`, key)
        if (!indexOf.has(point)) points.set(key, [point])
      }
      points.set(`${index}`, group)
    }
    const byRoot = new Map<string, Point[]>()
    for (const [key, own] of points) byRoot.set(joined.find(key), [...(byRoot.get(joined.find(key)) ?? []), ...own])
    return { groups: [...byRoot.values()], joins }
  }

  /** Ends of a net whose wire the maker leads, with the hole; undefined where there is none of that name. */
  #ways(net: number): [string, Hole | undefined][] {
    return Object.entries(this.#wiring.plan.bench?.via ?? {})
      .filter(([end]) => this.#wiring.netOf(end).index === net)
      .map(([end, hole]) => [end, this.#grid.parse(hole)])
  }

  #joins(net: number, groups: Point[][], rails: readonly Point[]): readonly Join[] {
    const direct = groups.length === 2 ? routeTree(groups) : undefined
    const onRail = groups.flat().some((point) => point.kind === 'rail')
    if (direct && !onRail) return direct
    if (rails.length > 0) {
      const over = routeOverRails(groups, rails, (a, b) => this.#openGap(a, b) === undefined)
      if (over) return over
      // Both sides of an open gap are used: what else is needed is joined, and the gap is said to be open.
      const across = routeOverRails(groups, rails, () => true)
      if (across)
        return across.filter(({ a, b }) => {
          const gap = this.#openGap(a, b)
          if (gap) this.gaps.push({ ...gap, net })
          return !gap
        })
    }
    const tree: Point[][] = [...groups]
    for (let tries = 0; tries < 4; tries += 1) {
      const joins = routeTree(tree)
      if (joins) return joins
      const junction = this.#junction(net, groups.flat())
      if (!junction) break
      tree.push([junction])
    }
    for (const group of groups.slice(1)) this.#block(group, 'no free row is left in which its wires could meet')
    return []
  }

  /** The gap between the upper and the lower rails of a breadboard that the maker keeps open. */
  #openGap(a: Point, b: Point): { breadboard: string; rail: string } | undefined {
    if (a.kind !== 'rail' || b.kind !== 'rail') return undefined
    const board = boardOfHole(a.node!)
    const { entry, ref } = this.#grid.boards[board]!
    if (board !== boardOfHole(b.node!) || rowOf(a.node!) === rowOf(b.node!) || entry.bridged !== false) return undefined
    return { breadboard: ref, rail: railNames[columnOf(a.node!) - 10]! }
  }

  #block(group: readonly Point[], text: string): void {
    const nodes = new Set(group.map(({ node }) => node))
    const ends = new Set(group.flatMap(({ end }) => (end === undefined ? [] : [end])))
    for (const [end, holes] of this.#holesOf) if (holes.some((hole) => nodes.has(this.#grid.node(hole)))) ends.add(end)
    for (const end of ends) this.blocked.push({ end, text })
  }

  /** An empty strip near the middle of the points, claimed for the net. */
  #junction(net: number, points: readonly Point[]): Point | undefined {
    const x = points.reduce((sum, point) => sum + point.x, 0) / points.length
    const y = points.reduce((sum, point) => sum + point.y, 0) / points.length
    const boards = new Set(points.flatMap(({ end }) => (end === undefined ? [] : this.#boardsFor(splitEnd(end).ref))))
    let best: Node | undefined
    let least = Number.POSITIVE_INFINITY
    for (const board of boards)
      for (let row = 1; row <= this.#grid.boards[board]!.rows; row += 1)
        for (const half of [0, 5]) {
          const node = holeAt(board, row, half)
          const away = Math.hypot(this.#grid.x(node) + 2 - x, row - y)
          if (away >= least || !this.#occupancy.isEmpty(node)) continue
          best = node
          least = away
        }
    if (best === undefined) return undefined
    this.#occupancy.claim(best, net)
    return this.#nodePoint(best, undefined)
  }

  #nodePoint(node: Node, end: string | undefined): Point {
    const free = this.#occupancy.free(node).length
    if (isRail(node)) return { kind: 'rail', node, end: undefined, fit: 'hole', x: this.#grid.x(node), y: 0, free }
    return { kind: 'strip', node, end, fit: 'hole', x: this.#grid.x(node) + 2, y: rowOf(node), free }
  }

  /** Points of a net, those together that hang together already. */
  #groups(net: number, rails: readonly Point[]): Point[][] {
    const joined = new UnionFind()
    const points = new Map<string, Point>()
    const strip = (node: Node, end: string): string => {
      const rail = rails.find((one) => one.node === node)
      const key = `node ${node}`
      if (!points.has(key)) points.set(key, rail ?? this.#nodePoint(node, end))
      return key
    }
    for (const end of mainEnds(this.#wiring, net)) {
      const { ref } = splitEnd(end)
      joined.add(end)
      for (const name of this.#touching(end)) joined.join(end, name)
      const holes = this.#holesOf.get(end)
      const spot = this.#posts.get(end)
      if (holes) for (const hole of holes) joined.join(end, strip(this.#grid.node(hole), end))
      else if (spot) {
        const key = `post ${end}`
        const unit = this.#unitOf.get(ref)
        const fit =
          unit?.kind === 'beside'
            ? (unit.posts[splitEnd(end).pin] ?? 'plug')
            : unit?.kind === 'straddle' || unit?.kind === 'row'
              ? (unit.apart[splitEnd(end).pin] ?? 'plug')
              : unit?.kind === 'leads' && unit.ends === 'plug'
                ? 'lead'
                : 'plug'
        points.set(key, {
          kind: fit === 'lead' ? 'lead' : 'post',
          node: undefined,
          end,
          fit,
          ...spot,
          free: this.#covered.has(end) ? 0 : 1,
        })
        joined.join(end, key)
      } else {
        const key = `nowhere ${end}`
        points.set(key, { kind: 'post', node: undefined, end, fit: 'plug', x: 0, y: 0, free: 0 })
        joined.join(end, key)
      }
    }
    const groups = new Map<string, Point[]>()
    for (const [key, point] of points) {
      const root = joined.find(key)
      const known = groups.get(root)
      if (known) known.push(point)
      else groups.set(root, [point])
    }
    return [...groups.values()]
  }
}
