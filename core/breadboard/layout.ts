import { postPlace } from '../catalog/boardFacts.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { UnionFind } from '../wiring/unionFind.ts'
import { arrange, type Body, legPoints } from './arrange.ts'
import {
  boardOfHole,
  breadboardKinds,
  columnOf,
  Grid,
  type Hole,
  holeAt,
  isRail,
  type Node,
  railNames,
  rowOf,
} from './grid.ts'
import { placeLegged } from './legged.ts'
import type { Join, LaidWire, Point } from './points.ts'
import { assignRails, pinsOf } from './rails.ts'
import { routeOverRails, routeTree } from './route.ts'
import { legsSeat, Occupancy, rowSeat, type Seat, straddleSeat, straddles } from './seats.ts'
import { CROSSING, chooseHoles, countCrossings, lineOf } from './tidy.ts'
import { type Unit, unitsOf } from './units.ts'

/** A bench worked out: where everything stands and every wire with its holes. */
export interface Layout {
  readonly grid: Grid
  readonly units: readonly Unit[]
  readonly seats: ReadonlyMap<string, Seat>
  /** Units that stand where the maker put them. */
  readonly kept: ReadonlySet<string>
  /** Places of posts and leads beside the breadboards, in pitches, by end. */
  readonly posts: ReadonlyMap<string, { readonly x: number; readonly y: number }>
  readonly holeOf: ReadonlyMap<string, Hole>
  readonly wires: readonly LaidWire[]
  /** Net of every strip and rail in use. */
  readonly nodes: ReadonlyMap<Node, number>
  /** Rails with their net. */
  readonly rails: ReadonlyMap<Node, number>
  /** Units that find no place, and ends that no wire can reach. */
  readonly stray: readonly { readonly ref: string; readonly text: string }[]
  readonly blocked: readonly { readonly end: string; readonly text: string }[]
  /** Places of the maker's that cannot be kept. */
  readonly clashes: readonly {
    readonly ref: string
    readonly hole: string
    readonly text: string
    /** What is in the way. */
    readonly by: string | undefined
  }[]
  /** Rails used on both sides of a gap that is not bridged. */
  readonly gaps: readonly { readonly breadboard: string; readonly rail: string; readonly net: number }[]
  readonly stats: { readonly pitches: number; readonly crossings: number; readonly shared: number }
}

/** A layout without what can be made anew from the plan: plain data that crosses from one thread to another. */
export type LayoutData = Omit<Layout, 'grid' | 'units'>

const layouts = new WeakMap<Wiring, Layout>()

/** Takes over a layout that another thread has worked out for the same plan. */
export function adoptLayout(wiring: Wiring, data: LayoutData): Layout {
  const layout = { ...data, grid: new Grid(wiring.plan.bench?.breadboards ?? {}), units: unitsOf(wiring) }
  layouts.set(wiring, layout)
  return layout
}

export function layoutData(layout: Layout): LayoutData {
  const { grid: _, units: __, ...data } = layout
  return data
}

/** The layout of a plan with a bench; undefined for one without breadboards. The same wiring gives the same object. */
export function layoutOf(wiring: Wiring): Layout | undefined {
  const { bench } = wiring.plan
  if (!bench || Object.keys(bench.breadboards).length === 0) return undefined
  let layout = layouts.get(wiring)
  if (!layout) {
    layout = layOut(wiring)
    layouts.set(wiring, layout)
  }
  return layout
}

export interface Placing {
  readonly seats: readonly Seat[]
  readonly unplaced: readonly Unit[]
}

/** A way to place bodies and legged parts, so that others can be measured against ours. */
export type Placer = (room: Room) => Placing

/** What a placer works with. */
export interface Room {
  readonly wiring: Wiring
  readonly grid: Grid
  readonly occupancy: Occupancy
  readonly open: readonly Unit[]
  readonly fixed: readonly Seat[]
  readonly boardsFor: (ref: string) => readonly number[]
  readonly posts: ReadonlyMap<string, { readonly x: number; readonly y: number }>
  readonly rails: ReadonlyMap<Node, number>
  readonly holeOf: Map<string, Hole>
  readonly seed: number
  /** Hears how far it is, between 0 and 1. */
  readonly watch: ((share: number) => void) | undefined
}

/** Placings that are routed to the end, of which the best is taken; one less for a small bench. */
const ATTEMPTS = 4

/** Lays a bench out, with another placer only once. */
export function layOut(wiring: Wiring, placer?: Placer, watch?: (share: number) => void): Layout {
  if (placer) return attempt(wiring, placer, 0, watch)
  let best: Layout | undefined
  const attempts = wiring.parts.length > 12 ? ATTEMPTS : ATTEMPTS - 1
  for (let seed = 0; seed < attempts; seed += 1) {
    const one = attempt(wiring, placeAll, seed, (share) => watch?.((seed + share) / attempts))
    if (!best || priceOf(one) < priceOf(best)) best = one
    // Everything was put down by hand: there is nothing to choose.
    if (one.units.every(({ ref, kind }) => kind === 'legs' || one.kept.has(ref) || !one.seats.has(ref))) break
  }
  return best!
}

/** Pitches of wire, crossings counted as CROSSING more, and dearly what is not connected. */
const priceOf = ({ stats, stray, blocked }: Layout): number =>
  stats.pitches + CROSSING * stats.crossings + 2000 * (stray.length + blocked.length)

function attempt(wiring: Wiring, placer: Placer, seed: number, watch: Room['watch']): Layout {
  const bench = wiring.plan.bench!
  const grid = new Grid(bench.breadboards)
  const units = unitsOf(wiring)
  const netOf = (end: string): number => wiring.netOf(end).index
  const occupancy = new Occupancy(grid, netOf)
  const boardsFor = breadboardsByHome(wiring, grid)
  const rails = assignRails(wiring, grid, units, boardsFor)
  for (const [node, net] of rails) occupancy.claim(node, net)
  const boardPosts = postsOfBoards(units)
  const holeOf = new Map<string, Hole>()
  const keep = (seat: Seat): void => {
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
  }

  const clashes: Layout['clashes'][number][] = []
  const fixed: Seat[] = []
  for (const unit of units) {
    const place = bench.places[unit.ref]
    if (!place || place.beside) continue
    const wanted = wantedSeat(grid, unit, place)
    if (wanted === undefined) continue
    const refusal =
      typeof wanted === 'string' ? { text: wanted, hole: undefined, by: undefined } : occupancy.refusal(wanted)
    if (refusal || typeof wanted === 'string') {
      const hole =
        refusal?.hole === undefined ? (place.at ?? Object.values(place.legs ?? {})[0] ?? '') : grid.name(refusal.hole)
      clashes.push({ ref: unit.ref, hole, text: refusal?.text ?? '', by: refusal?.by })
      continue
    }
    occupancy.take(wanted)
    keep(wanted)
    fixed.push(wanted)
  }
  const seated = new Set(fixed.map((seat) => seat.ref))
  const open = units.filter((unit) => !seated.has(unit.ref))
  const placed = placer({
    wiring,
    grid,
    occupancy,
    open,
    fixed,
    boardsFor,
    posts: boardPosts,
    rails,
    holeOf,
    seed,
    watch,
  })
  const posts = new Map([...boardPosts, ...postsOfOthers(wiring, grid, units, boardPosts, rails, holeOf)])
  const seats = new Map([...fixed, ...placed.seats].map((seat) => [seat.ref, seat]))
  const stray = placed.unplaced.map((unit) => ({ ref: unit.ref, text: strayText(grid, unit) }))

  const router = new Router(wiring, grid, occupancy, units, holeOf, posts, rails, boardsFor)
  const drafts = wiring.nets.flatMap((net) => (net.wired ? router.route(net.index) : []))
  const wires = chooseHoles(grid, occupancy, drafts)
  const lines = wires.map((wire) => lineOf(grid, wire))
  return {
    grid,
    units,
    seats,
    posts,
    holeOf,
    wires,
    nodes: occupancy.nets,
    rails,
    stray,
    blocked: router.blocked,
    clashes,
    kept: seated,
    gaps: router.gaps,
    stats: {
      pitches: lines.reduce((sum, [x1, y1, x2, y2]) => sum + Math.hypot(x1 - x2, y1 - y2), 0),
      crossings: countCrossings(lines),
      shared: countShared(grid, holeOf),
    },
  }
}

/** Bodies first, then parts on two legs. */
export function placeAll(room: Room): Placing {
  const { wiring, grid, occupancy, open, fixed, boardsFor, posts, rails, holeOf, seed, watch } = room
  const netOf = (end: string): number => wiring.netOf(end).index
  const overRails = new Set(rails.values())
  const isWired = (end: string): boolean => wiring.netOf(end).wired
  const wiredNet = (end: string): number | undefined =>
    isWired(end) && !overRails.has(netOf(end)) ? netOf(end) : undefined
  const bodies = open.filter((unit): unit is Body => unit.kind === 'straddle' || unit.kind === 'row')
  const arranged = arrange({
    grid,
    occupancy,
    bodies,
    boardsFor,
    wiredNet,
    isWired,
    spare: wiring.plan.bench?.spareRows ?? 1,
    seed,
    watch,
    still: [
      ...legPoints(grid, fixed, wiredNet),
      ...[...posts].flatMap(([end, at]) => {
        const net = wiredNet(end)
        return net === undefined ? [] : [{ net, ...at }]
      }),
    ],
  })
  for (const seat of arranged.seats) {
    occupancy.take(seat)
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
  }
  const legged = placeLegged({
    grid,
    occupancy,
    units: open.filter((unit): unit is Unit & { kind: 'legs' } => unit.kind === 'legs'),
    boardsFor,
    netOf,
    endsOf: (net) => wiring.nets[net]!.ends,
    mayShare: sharing(wiring, grid, holeOf),
    holeOf,
    pointsOf: (net) =>
      wiring.nets[net]!.ends.flatMap((end) => {
        const hole = holeOf.get(end)
        if (hole !== undefined) return [{ x: grid.x(hole), y: rowOf(hole) }]
        const post = posts.get(end)
        return post ? [post] : []
      }),
  })
  return { seats: [...arranged.seats, ...legged.seats], unplaced: [...arranged.unplaced, ...legged.unplaced] }
}

/** The pin of a source keeps its strip to itself: what shares it would be live before the last step. */
function sharing(wiring: Wiring, grid: Grid, holeOf: ReadonlyMap<string, Hole>): (node: Node) => boolean {
  let live = new Set<Node>()
  let of = -1
  return (node) => {
    if (isRail(node)) return true
    if (of !== holeOf.size) {
      of = holeOf.size
      live = new Set(
        [...holeOf].flatMap(([end, hole]) => {
          const { ref } = splitEnd(end)
          return wiring.netOf(end).sources.some((source) => source.ref === ref) ? [grid.node(hole)] : []
        }),
      )
    }
    return !live.has(node)
  }
}

/** Breadboards on which a unit may stand: those of its board, else those of none in particular. */
function breadboardsByHome(wiring: Wiring, grid: Grid): (ref: string) => readonly number[] {
  const all = grid.boards.map((_, index) => index)
  const homes = new Map<string, string | undefined>([
    ...wiring.boards.map((board) => [board.ref, board.ref] as const),
    ...wiring.parts.map((part) => [part.ref, part.home?.ref] as const),
    ...wiring.supplies.map(({ ref }) => [ref, homeOfSupply(wiring, ref)] as const),
  ])
  const cache = new Map<string | undefined, readonly number[]>()
  return (ref) => {
    const home = homes.get(ref)
    const known = cache.get(home)
    if (known) return known
    const own = all.filter((index) => grid.boards[index]!.entry.for === home)
    const common = all.filter((index) => grid.boards[index]!.entry.for === undefined)
    const list = own.length > 0 ? own : common.length > 0 ? common : all
    cache.set(home, list)
    return list
  }
}

/** An outside supply belongs to the first board on its nets. */
function homeOfSupply(wiring: Wiring, ref: string): string | undefined {
  const ends = [...wiring.netOf(`${ref}.+`).ends, ...wiring.netOf(`${ref}.-`).ends]
  for (const end of ends) {
    const owner = wiring.terminal(end)?.owner
    if (owner?.kind === 'board') return owner.ref
    if (owner?.kind === 'part' && owner.home) return owner.home.ref
  }
  return undefined
}

type Place = NonNullable<Wiring['plan']['bench']>['places'][string]

/** The seat that the maker asked for; words where there is no such place; undefined where nothing was asked. */
function wantedSeat(grid: Grid, unit: Unit, place: Place): Seat | string | undefined {
  if (unit.kind === 'legs' && place.legs) {
    const [a, b] = unit.pins.map((pin) => grid.parse(place.legs?.[pin] ?? ''))
    if (a === undefined || b === undefined) return 'names no hole for each of its legs'
    return (
      legsSeat(grid, unit, a, b) ??
      `its legs cannot be bent to that span; they reach over ${unit.least} to ${unit.most} holes`
    )
  }
  if (place.at === undefined) return undefined
  const at = grid.parse(place.at)
  if (at === undefined) return `there is no hole ${place.at}`
  const turned = place.turned === true
  if (unit.kind === 'row') return rowSeat(grid, unit, at, turned) ?? 'it would stand over the end of the breadboard'
  if (unit.kind === 'straddle') {
    const columns = straddles(grid, boardOfHole(at), unit.rowsApart).find((one) => one.left === columnOf(at))
    if (!columns) return `its rows, ${unit.rowsApart} holes apart, find no place over the trench from there`
    return (
      straddleSeat(grid, unit, boardOfHole(at), columns, rowOf(at), turned) ??
      'it would stand over the end of the breadboard'
    )
  }
  return undefined
}

/** Posts of boards that lie beside the breadboards: to their left, one below the other. */
function postsOfBoards(units: readonly Unit[]): Map<string, Spot> {
  const places = new Map<string, Spot>()
  let top = 1
  for (const unit of units) {
    if (unit.kind !== 'beside' || unit.owner?.kind !== 'board') continue
    const { board, facts } = unit.owner
    const x = -15 - board.outline.width
    for (const pin of facts.pins) {
      const at = postPlace(pin)
      places.set(`${unit.ref}.${pin.id}`, { x: x + at.x, y: top + at.y })
    }
    top += board.outline.height + 4
  }
  return places
}

interface Spot {
  readonly x: number
  readonly y: number
}

/** Posts and leads of everything else beside the breadboards: to the right, in the order of what they are wired to. */
function postsOfOthers(
  wiring: Wiring,
  grid: Grid,
  units: readonly Unit[],
  boardPosts: ReadonlyMap<string, Spot>,
  rails: ReadonlyMap<Node, number>,
  holeOf: ReadonlyMap<string, Hole>,
): Map<string, Spot> {
  const overRails = new Set(rails.values())
  const wanted = units.flatMap((unit) => {
    if (unit.kind === 'beside' && unit.owner?.kind === 'board') return []
    const pins =
      unit.kind === 'beside' || unit.kind === 'leads'
        ? pinsOf(unit)
        : unit.kind === 'straddle'
          ? Object.keys(unit.apart)
          : []
    if (pins.length === 0) return []
    const heights = pins.flatMap((pin) => {
      const net = wiring.netOf(`${unit.ref}.${pin}`)
      if (overRails.has(net.index)) return []
      return net.ends.flatMap((end) => {
        const hole = holeOf.get(end)
        return hole === undefined ? (boardPosts.get(end)?.y ?? []) : rowOf(hole)
      })
    })
    const y = heights.length === 0 ? 0 : heights.reduce((sum, one) => sum + one, 0) / heights.length
    return [{ unit, pins, top: y - (pins.length - 1) / 2 }]
  })
  const places = new Map<string, Spot>()
  const x = (grid.boards.at(-1)?.x ?? 0) + 22
  let free = 1
  for (const { unit, pins, top } of wanted.sort((a, b) => a.top - b.top)) {
    const first = Math.max(free, Math.round(top))
    for (const [index, pin] of pins.entries()) places.set(`${unit.ref}.${pin}`, { x, y: first + index })
    free = first + pins.length + 2
  }
  return places
}

function strayText(grid: Grid, unit: Unit): string {
  const have = grid.boards.map(({ entry }) => breadboardKinds[entry.kind].title.toLowerCase()).join(' and ')
  if (unit.kind === 'straddle')
    return `needs ${Math.max(unit.left.length, unit.right.length)} free rows on both sides of the trench, its rows ${unit.rowsApart} holes apart; there is ${have}`
  if (unit.kind === 'row') return `needs ${unit.pins.length} free rows one below the other; there is ${have}`
  return `finds no two free holes within its reach; there is ${have}`
}

function countShared(grid: Grid, holeOf: ReadonlyMap<string, Hole>): number {
  const legs = new Map<Node, number>()
  for (const hole of holeOf.values()) legs.set(grid.node(hole), (legs.get(grid.node(hole)) ?? 0) + 1)
  return [...legs.values()].reduce((sum, count) => sum + count - 1, 0)
}

class Router {
  readonly blocked: { end: string; text: string }[] = []
  readonly gaps: { breadboard: string; rail: string; net: number }[] = []
  readonly #wiring: Wiring
  readonly #grid: Grid
  readonly #occupancy: Occupancy
  readonly #unitOf: ReadonlyMap<string, Unit>
  readonly #holeOf: ReadonlyMap<string, Hole>
  readonly #posts: ReadonlyMap<string, { x: number; y: number }>
  readonly #rails: ReadonlyMap<Node, number>
  readonly #boardsFor: (ref: string) => readonly number[]

  constructor(
    wiring: Wiring,
    grid: Grid,
    occupancy: Occupancy,
    units: readonly Unit[],
    holeOf: ReadonlyMap<string, Hole>,
    posts: ReadonlyMap<string, { x: number; y: number }>,
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
      if (terminal?.owner.kind === 'part')
        for (const inner of terminal.owner.part.inner)
          if (inner.kind === 'join' && inner.between.includes(terminal.pin))
            joined.join(end, `${ref}.${inner.between[inner.between[0] === terminal.pin ? 1 : 0]}`)
      const hole = this.#holeOf.get(end)
      const post = this.#posts.get(end)
      let key: string | undefined
      if (hole !== undefined) key = strip(this.#grid.node(hole), end)
      else if (post) {
        key = `post ${end}`
        const unit = this.#unitOf.get(ref)
        const fit =
          unit?.kind === 'beside'
            ? (unit.posts[splitEnd(end).pin] ?? 'plug')
            : unit?.kind === 'straddle'
              ? (unit.apart[splitEnd(end).pin] ?? 'plug')
              : unit?.kind === 'leads' && unit.ends === 'plug'
                ? 'lead'
                : 'plug'
        points.set(key, { kind: fit === 'lead' ? 'lead' : 'post', node: undefined, end, fit, ...post, free: 1 })
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
