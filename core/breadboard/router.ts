import { UnionFind } from '../base/unionFind.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { coveredPosts, plugsOf } from '../wiring/plugs.ts'
import { boardOfHole, columnOf, type Grid, type Hole, holeAt, isRail, type Node, railNames, rowOf } from './grid.ts'
import type { Join, Point } from './points.ts'
import type { Spot } from './posts.ts'
import { routeOverRails, routeTree } from './route.ts'
import type { Occupancy } from './seats.ts'
import type { Unit } from './units.ts'

/** Finds the wires of one net after the other on a bench where everything stands, and says what it cannot reach. */
export class Router {
  readonly blocked: { end: string; text: string }[] = []
  readonly gaps: { breadboard: string; rail: string; net: number }[] = []
  readonly #wiring: Wiring
  readonly #grid: Grid
  readonly #occupancy: Occupancy
  readonly #unitOf: ReadonlyMap<string, Unit>
  readonly #holeOf: ReadonlyMap<string, Hole>
  readonly #posts: ReadonlyMap<string, Spot>
  readonly #rails: ReadonlyMap<Node, number>
  readonly #boardsFor: (ref: string) => readonly number[]
  readonly #plugged: ReadonlyMap<string, string>
  readonly #covered: ReadonlySet<string>

  constructor(
    wiring: Wiring,
    grid: Grid,
    occupancy: Occupancy,
    units: readonly Unit[],
    holeOf: ReadonlyMap<string, Hole>,
    posts: ReadonlyMap<string, Spot>,
    rails: ReadonlyMap<Node, number>,
    boardsFor: (ref: string) => readonly number[],
  ) {
    this.#wiring = wiring
    this.#grid = grid
    this.#occupancy = occupancy
    this.#unitOf = new Map(units.map((unit) => [unit.ref, unit]))
    this.#holeOf = holeOf
    this.#posts = posts
    this.#rails = rails
    this.#boardsFor = boardsFor
    this.#plugged = new Map(plugsOf(wiring).flatMap(({ pairs }) => pairs))
    this.#covered = coveredPosts(wiring)
  }

  route(net: number): { net: number; a: Point; b: Point }[] {
    const rails = [...this.#rails].filter(([, on]) => on === net).map(([node]) => this.#nodePoint(node, undefined))
    const groups = this.#groups(net, rails)
    if (groups.length < 2) return []
    const able = groups.filter((group) => {
      if (group.some((point) => point.free > 0 || point.kind === 'rail')) return true
      this.#block(group, 'every hole of its row is taken or covered, so that no wire reaches it')
      return false
    })
    const joins = able.length < 2 ? [] : this.#joins(net, able, rails)
    return joins.map((join) => ({ net, ...join }))
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
    for (const [end, hole] of this.#holeOf) if (nodes.has(this.#grid.node(hole))) ends.add(end)
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

  /**
   * Ends of a net, of a board's joined holes only those of the name that the plan uses (no reference pin instead of
   * `5V`), and none on a small side header where a long one has it too.
   */
  #mainEnds(net: number): readonly string[] {
    const { ends } = this.#wiring.nets[net]!
    const used = new Set(this.#wiring.plan.wires.flatMap(([a, b]) => [withoutNumber(a), withoutNumber(b)]))
    const onBoard = ends.filter((end) => this.#wiring.terminal(end)?.boardPin)
    const header = (end: string) => this.#wiring.terminal(end)!.boardPin!.header
    const isNamed = (end: string): boolean => used.has(withoutNumber(end))
    const isLong = (end: string): boolean => header(end).columns === 1 || header(end).pins.length >= 10
    const best = (own: readonly string[]): readonly string[] => {
      const named = own.some(isNamed) ? own.filter(isNamed) : own
      return named.some(isLong) ? named.filter(isLong) : named
    }
    const joined = new Map<string, string[]>()
    for (const end of onBoard) {
      const key = `${splitEnd(end).ref} ${this.#wiring.terminal(end)!.boardPin!.net}`
      joined.set(key, [...(joined.get(key) ?? []), end])
    }
    const kept = new Set([...joined.values()].flatMap(best))
    return ends.filter((end) => kept.has(end) || !onBoard.includes(end))
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
    for (const end of this.#mainEnds(net)) {
      const { ref } = splitEnd(end)
      const terminal = this.#wiring.terminal(end)
      const inside = terminal?.boardPin ? `${ref} inside ${terminal.boardPin.net}` : end
      joined.add(end)
      joined.join(end, inside)
      const post = this.#plugged.get(end)
      if (post !== undefined) {
        const pin = this.#wiring.terminal(post)?.boardPin
        joined.join(end, pin ? `${splitEnd(post).ref} inside ${pin.net}` : post)
      }
      if (terminal?.owner.kind === 'part')
        for (const inner of terminal.owner.part.inner)
          if (inner.kind === 'join' && inner.between.includes(terminal.pin))
            joined.join(end, `${ref}.${inner.between[inner.between[0] === terminal.pin ? 1 : 0]}`)
      const hole = this.#holeOf.get(end)
      const spot = this.#posts.get(end)
      let key: string | undefined
      if (hole !== undefined) key = strip(this.#grid.node(hole), end)
      else if (spot) {
        key = `post ${end}`
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
      } else {
        key = `nowhere ${end}`
        points.set(key, { kind: 'post', node: undefined, end, fit: 'plug', x: 0, y: 0, free: 0 })
      }
      if (key !== undefined) joined.join(end, key)
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

/** `MCU.GND.2` is one of the holes of `MCU.GND`. */
const withoutNumber = (end: string): string => end.replace(/\.\d+$/, '')
