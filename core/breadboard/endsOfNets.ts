import { UnionFind } from '../base/unionFind.ts'
import type { Wiring } from '../wiring/model.ts'
import { columnOf, type Grid, holeAt, isRail, type Node, rowOf } from './grid.ts'
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
      const net = this.#nets.length
      const own = [...rails].filter(([, on]) => on === index).map(([node]) => node)
      this.#nets.push({
        rails:
          own.length === 0
            ? undefined
            : own.map((node) => ({ x: grid.x(node), rows: grid.boards[Math.floor(node / 1024)]!.rows })),
      })
      const joined = new UnionFind()
      const ends = mainEnds(wiring, index)
      for (const end of ends) for (const name of touch(end)) joined.join(end, name)
      const groups = new Map<string, number>()
      for (const end of ends) {
        const root = joined.find(end)
        if (!groups.has(root)) groups.set(root, groups.size)
        this.#places.set(end, [{ net, group: groups.get(root)! }])
      }
    }
    for (const unit of legged) this.#link(wiring, unit)
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
    const net = this.#nets.length
    this.#nets.push({ rails: undefined })
    ends.forEach((side, group) => {
      for (const end of side) this.#places.get(end)!.push({ net, group })
    })
  }

  /** Legs that stay where they are. */
  standStill({ ref, legs }: Seat): void {
    for (const { pin, hole } of legs) {
      if (isRail(hole)) continue
      const first = holeAt(Math.floor(hole / 1024), rowOf(hole), columnOf(hole) < 5 ? 0 : 5)
      const reach = { from: this.#grid.x(first), to: this.#grid.x(first) + 4, y: rowOf(hole) }
      for (const place of this.#places.get(`${ref}.${pin}`) ?? []) this.#still.push({ ...place, reach })
    }
  }

  /** Nets and what does not move. */
  get task(): Pick<SettleTask, 'nets' | 'still'> {
    return { nets: this.#nets, still: this.#still }
  }
}
