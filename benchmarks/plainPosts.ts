import type { Spot } from '../core/breadboard/aside.ts'
import { type Grid, type Hole, type Node, rowOf } from '../core/breadboard/grid.ts'
import { pinsOf } from '../core/breadboard/rails.ts'
import type { Unit } from '../core/breadboard/units.ts'
import { postPlace } from '../core/catalog/boardFacts.ts'
import type { Wiring } from '../core/wiring/model.ts'

/** Posts of boards that lie beside the breadboards: to their left, one below the other. */
export function postsOfBoards(units: readonly Unit[]): Map<string, Spot> {
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

/** Posts and leads of everything else beside the breadboards: to the right, in the order of what they are wired to. */
export function postsOfOthers(
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
        : unit.kind === 'straddle' || unit.kind === 'row'
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
