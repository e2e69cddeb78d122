import type { Board } from '../catalog/boardSchema.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { reserveOf } from '../circuit/reserve.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { check } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'
import { moveBoard } from './moveBoard.ts'

/** How a board carries the parts of a plan. */
export interface Fit {
  readonly board: Board
  /** Signals that find no pin. */
  readonly left: readonly string[]
  readonly faults: number
  readonly cautions: number
  /** Lines that would need their level shifted. */
  readonly shifts: number
  /** Output pins that stay free. */
  readonly spare: number
  readonly cost: number
  readonly proven: boolean
}

/**
 * Every board of the catalogue with the parts of a plan of one board wired to it: those that carry all come first,
 * then those with fewer faults, fewer lines to shift, fewer cautions, and the cheaper pins. `each` hears of every
 * board and may stop the rest by answering true.
 */
export function fitBoards(plan: Plan, catalog: Catalog, each?: (done: number, of: number) => boolean): Fit[] {
  const ref = Object.keys(plan.boards)[0]
  const boards = [...catalog.boards.values()]
  const fits: Fit[] = []
  for (const [index, board] of boards.entries()) {
    if (each?.(index, boards.length) === true) break
    const base: Plan = ref === undefined ? { ...plan, boards: { MCU: { board: board.id } } } : plan
    const moved = moveBoard(base, catalog, ref ?? 'MCU', board.id)
    const wiring = resolve(applyEdits(base, moved.edits), catalog)
    const found = check(wiring).filter((one) => one.accepted === undefined)
    const count = (severity: string): number => found.filter((one) => one.severity === severity).length
    fits.push({
      board,
      left: moved.unplaced.map((one) => one.end),
      faults: found.filter((one) => one.severity === 'fault' && one.rule !== 'pins-short').length,
      cautions: count('caution'),
      shifts: moved.unplaced.filter((one) => one.level).length,
      spare: reserveOf(wiring, wiring.boards[0]).kinds.find((kind) => kind.id === 'digital-out')?.free ?? 0,
      cost: moved.cost,
      proven: moved.proven,
    })
  }
  return fits.sort(
    (a, b) =>
      a.left.length - b.left.length ||
      a.faults - b.faults ||
      a.shifts - b.shifts ||
      a.cautions - b.cautions ||
      a.cost - b.cost,
  )
}
