import { UnionFind } from '../base/unionFind.ts'
import type { Wiring } from '../wiring/model.ts'
import { boardOfHole, columnOf, type Grid, holeAt, isRail, type Node, rowOf } from './grid.ts'
import type { Seat } from './seats.ts'
import type { SettleTask } from './settle.ts'
import { mainEnds, touching } from './touch.ts'
import type { Unit } from './units.ts'

interface Place {
  readonly net: number
  readonly group: number
}

/** Nets as `settle` counts them: those that wires must follow, each end in a group of ends that hang together. */
export class EndsOfNets {
  readonly #grid: Grid
  /** By end; one that a part on two legs hangs on has a second place, beside what hangs on its other leg. */
  readonly #places = new Map<string, Place[]>()
  readonly #nets: { readonly rails: { x: number; rows: number }[] | undefined }[] = []
  readonly #still: SettleTask['still'][number][] = []

  constructor(
    wiring: Wiring,
    grid: Grid,
    rails: ReadonlyMap<Node, number>,
    legged: readonly (Unit & { kind: 'legs' })[],
  ) {
    this.#grid = grid
    const touch = touching(wiring)
    for (const { index, wired } of wiring.nets) {
      if (!wired) continue
      const own = [...rails].filter(([, on]) => on === index).map(([node]) => node)
      const overRails = own.map((node) => ({ x: grid.x(node), rows: grid.boards[boardOfHole(node)]!.rows }))
      const whole = overRails.length === 0 ? this.#net(undefined) : undefined
      const joined = new UnionFind()
      const ends = mainEnds(wiring, index)
      for (const end of ends) for (const name of touch(end)) joined.join(end, name)
      const groups = new Map<string, number>()
      const ofRails = new Map<string, number>()
      for (const end of ends) {
        const root = joined.find(end)
        if (!groups.has(root)) groups.set(root, groups.size)
        const group = groups.get(root)!
        // What goes over rails goes there by itself: each group is a net of its own.
        if (whole === undefined && !ofRails.has(root)) ofRails.set(root, this.#net(overRails))
        this.#places.set(end, [{ net: whole ?? ofRails.get(root)!, group }])
      }
    }
    for (const unit of legged) this.#link(wiring, unit)
  }

  #net(rails: { x: number; rows: number }[] | undefined): number {
    this.#nets.push({ rails })
    return this.#nets.length - 1
  }

  /** Pins of a unit that wires must follow. */
  of(ref: string, pins: readonly string[]): { readonly pin: string; readonly net: number; readonly group: number }[] {
    return pins.flatMap((pin) => {
      const places = this.#places.get(`${ref}.${pin}`) ?? []
      return places.map((place) => ({ pin, ...place }))
    })
  }

  /** A part on two legs draws what hangs on one of them to what hangs on the other. */
  #link(wiring: Wiring, unit: Unit & { kind: 'legs' }): void {
    const sides = unit.pins.map((pin) => wiring.netOf(`${unit.ref}.${pin}`))
    if (sides.some(({ wired }) => !wired) || sides[0] === sides[1]) return
    const ends = sides.map(({ index }) => mainEnds(wiring, index).filter((end) => this.#places.has(end)))
    if (ends.flat().some((end) => this.#nets[this.#places.get(end)![0]!.net]!.rails)) return
    const net = this.#net(undefined)
    ends.forEach((side, group) => {
      for (const end of side) this.#places.get(end)!.push({ net, group })
    })
  }

  /** Legs that stay where they are. */
  standStill({ ref, legs }: Seat): void {
    for (const { pin, hole } of legs) {
      if (isRail(hole)) continue
      const first = holeAt(boardOfHole(hole), rowOf(hole), columnOf(hole) < 5 ? 0 : 5)
      const reach = { from: this.#grid.x(first), to: this.#grid.x(first) + 4, y: rowOf(hole) }
      for (const place of this.#places.get(`${ref}.${pin}`) ?? []) this.#still.push({ ...place, reach })
    }
  }

  /** Nets and what does not move. */
  get task(): Pick<SettleTask, 'nets' | 'still'> {
    return { nets: this.#nets, still: this.#still }
  }
}
