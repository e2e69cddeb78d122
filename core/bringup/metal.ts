import { UnionFind } from '../base/unionFind.ts'
import { boardOfHole, columnOf, type Hole, type Node, rowOf } from '../breadboard/grid.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { countingHint } from '../catalog/boardFacts.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Net, Wiring } from '../wiring/model.ts'

/** A place where a meter's tip can touch: a leg, a post, or a strip at its free hole. */
export interface Spot {
  /** End of the plan, or the name of a hole. */
  readonly id: string
  /** Hole it lies in; undefined beside the breadboard and without one. */
  readonly hole: string | undefined
  /** End that it is, or one whose leg stands in the strip; of a strip that holds wires alone the post that feeds its net. */
  readonly end: string | undefined
  /** For people: `leg A of LAMP in BB1.a5`. */
  readonly words: string
}

/** A piece of metal: a strip, a rail, a leg, a post. */
export interface Piece {
  readonly index: number
  readonly net: Net
  readonly spot: Spot
  /** A rail of a breadboard, or its half. */
  readonly rail: boolean
}

/** Where two pieces touch: a leg in its hole, a wire with both its ends, or inside a board, where nothing can be loose. */
export interface Joint {
  readonly kind: 'leg' | 'wire' | 'inside'
  readonly a: number
  readonly b: number
  readonly words: string
}

/** Metal as it is built: pieces and joints of every net, and pieces of different nets that lie beside each other. */
export interface Metal {
  readonly pieces: readonly Piece[]
  readonly joints: readonly Joint[]
  /** Pairs of pieces that one slip joins: rows side by side, the rails of a pair, posts side by side. */
  readonly neighbours: readonly (readonly [number, number])[]
}

/** The metal of a plan: hole by hole where it is laid out on a bench, else by its wires alone. */
export function metalOf(wiring: Wiring, layout: Layout | undefined): Metal {
  return layout ? laidMetal(wiring, layout) : plannedMetal(wiring)
}

class Builder {
  readonly pieces: Piece[] = []
  readonly joints: Joint[] = []
  readonly neighbours: (readonly [number, number])[] = []
  readonly #byKey = new Map<string, number>()
  readonly #pairs = new Set<string>()
  readonly #wiring: Wiring

  constructor(wiring: Wiring) {
    this.#wiring = wiring
  }

  piece(key: string, net: Net, spot: () => Spot, rail = false): number {
    const known = this.#byKey.get(key)
    if (known !== undefined) return known
    const index = this.pieces.length
    this.#byKey.set(key, index)
    this.pieces.push({ index, net, spot: spot(), rail })
    return index
  }

  known(key: string): number | undefined {
    return this.#byKey.get(key)
  }

  join(kind: Joint['kind'], a: number, b: number, words: string): void {
    if (a !== b) this.joints.push({ kind, a, b, words })
  }

  beside(a: number | undefined, b: number | undefined): void {
    if (a === undefined || b === undefined || a === b) return
    if (this.pieces[a]?.net === this.pieces[b]?.net) return
    const key = a < b ? `${a} ${b}` : `${b} ${a}`
    if (this.#pairs.has(key)) return
    this.#pairs.add(key)
    this.neighbours.push([a, b])
  }

  /** Posts of one board that its own copper joins, as far as something is on them. */
  insideBoards(): void {
    for (const board of this.#wiring.boards) {
      const byNet = new Map<string, number[]>()
      for (const pin of board.facts.pins) {
        const piece = this.#byKey.get(`${board.ref}.${pin.id}`)
        if (piece !== undefined) byNet.set(pin.net, [...(byNet.get(pin.net) ?? []), piece])
      }
      for (const [first, ...others] of byNet.values())
        for (const other of others) if (first !== undefined) this.join('inside', first, other, `inside ${board.ref}`)
    }
  }

  /** Posts that stand side by side on a header, both in use. */
  postsBeside(): void {
    for (const board of this.#wiring.boards)
      for (const pin of board.facts.pins) {
        const step = pin.header.columns === 2 ? [1, 2] : [1]
        for (const by of step) {
          // In two columns odd and even positions stand beside each other, and the next but one follows.
          if (pin.header.columns === 2 && by === 1 && (pin.position - pin.header.numberedFrom) % 2 === 1) continue
          const next = board.facts.pins.find((one) => one.header === pin.header && one.position === pin.position + by)
          if (next) this.beside(this.#byKey.get(`${board.ref}.${pin.id}`), this.#byKey.get(`${board.ref}.${next.id}`))
        }
      }
  }
}

function plannedMetal(wiring: Wiring): Metal {
  const builder = new Builder(wiring)
  const piece = (end: string): number => builder.piece(end, wiring.netOf(end), () => endSpot(wiring, end, undefined))
  for (const [from, to] of wiring.plan.wires) builder.join('wire', piece(from), piece(to), `the wire ${from} to ${to}`)
  builder.insideBoards()
  builder.postsBeside()
  return builder
}

export function laidMetal(wiring: Wiring, layout: Layout): Metal {
  const builder = new Builder(wiring)
  const { grid, holeOf, wires, nodes } = layout
  const legs = legsIn(layout)
  const legIn = new Map(legs.map(([one, hole]) => [grid.node(hole), one]))
  const strip = (node: Node, net: Net): number =>
    builder.piece(
      `strip ${node}`,
      net,
      () => {
        const hole = freeHole(layout, node)
        return {
          id: grid.name(hole),
          hole: grid.name(hole),
          end: legIn.get(node) ?? net.ends.find((one) => wiring.terminal(one)?.owner.kind !== 'part'),
          words: `${grid.nodeWords(node)} of ${grid.board(hole).ref}, for example in ${grid.name(hole)}`,
        }
      },
      columnOf(node) > 9,
    )
  const end = (one: string): number =>
    builder.piece(one, wiring.netOf(one), () => {
      const hole = holeOf.get(one)
      return endSpot(wiring, one, hole === undefined ? undefined : grid.name(hole))
    })
  for (const [one, hole] of legs) {
    const node = grid.node(hole)
    // A leg that nothing is wired to is no joint.
    const net = wiring.netOf(one)
    if (!net.wired || nodes.get(node) !== net.index) continue
    builder.join('leg', end(one), strip(node, net), `${one} in ${grid.name(hole)}`)
  }
  for (const { net: index, a, b, holeA, holeB } of wires) {
    const net = wiring.nets[index]
    if (!net) continue
    const side = ({ node, end: own }: typeof a): number | undefined =>
      node !== undefined ? strip(node, net) : own === undefined ? undefined : end(own)
    const [one, two] = [side(a), side(b)]
    const name = (hole: typeof holeA, own: string | undefined): string =>
      hole === undefined ? (own ?? '') : grid.name(hole)
    if (one !== undefined && two !== undefined)
      builder.join('wire', one, two, `the wire ${name(holeA, a.end)} to ${name(holeB, b.end)}`)
  }
  builder.insideBoards()
  builder.postsBeside()
  for (const node of nodes.keys()) {
    const column = columnOf(node)
    const here = builder.known(`strip ${node}`)
    if (column <= 9) {
      // The next row of the same half.
      const next = node + 16
      if (boardOfHole(next) === boardOfHole(node) && rowOf(next) === rowOf(node) + 1)
        builder.beside(here, builder.known(`strip ${next}`))
    } else if (column % 2 === 0) builder.beside(here, builder.known(`strip ${node + 1}`))
  }
  return builder
}

/** Every leg in its hole, several where a pin has more than one. */
const legsIn = ({ seats }: Layout): (readonly [string, Hole])[] =>
  [...seats.values()].flatMap(({ ref, legs }) => legs.map(({ pin, hole }) => [`${ref}.${pin}`, hole] as const))

/** A hole of a strip that nothing fills, else its first. */
function freeHole(layout: Layout, node: Node): number {
  const taken = new Set([
    ...legsIn(layout).map(([, hole]) => hole),
    ...layout.wires.flatMap(({ holeA, holeB }) => [holeA, holeB]),
  ])
  const holes = layout.grid.holes(node)
  return holes.find((hole) => !taken.has(hole)) ?? holes[0] ?? node
}

function endSpot(wiring: Wiring, end: string, hole: string | undefined): Spot {
  const { ref, pin } = splitEnd(end)
  const terminal = wiring.terminal(end)
  const { boardPin } = terminal ?? {}
  const words = boardPin
    ? `${pin} of ${ref}${hole === undefined ? `, ${countingHint(boardPin)}` : ` in ${hole}`}`
    : terminal?.owner.kind === 'supply'
      ? `${pin} of ${ref}`
      : `leg ${pin} of ${ref}${hole === undefined ? '' : ` in ${hole}`}`
  return { id: end, hole, end, words }
}

/** Nets as they are joined by some of the joints: a piece's set. */
export function joinedBy(metal: Metal, joints: readonly Joint[]): UnionFind {
  const sets = new UnionFind()
  for (const { index } of metal.pieces) sets.add(String(index))
  for (const { a, b } of joints) sets.join(String(a), String(b))
  return sets
}
