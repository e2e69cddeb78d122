import type { Wiring } from '../wiring/model.ts'
import { boardOfHole, columnOf, type Grid, type Hole, holeAt, isRail, type Node, railNames, rowOf } from './grid.ts'
import type { Seat } from './seats.ts'
import type { Unit } from './units.ts'

/** A supply module that may plug over the rails. */
export type RailsUnit = Unit & { kind: 'beside'; overRails: NonNullable<(Unit & { kind: 'beside' })['overRails']> }

export const isRailsUnit = (unit: Unit | undefined): unit is RailsUnit =>
  unit?.kind === 'beside' && unit.overRails !== undefined

/** Rows under its body from its pins towards the middle of the breadboard; makes differ by so many more. */
const UNDER = 4
const MAKES_DIFFER = 2

/** Where its pins stand in the rails: at the upper end of a breadboard, or turned round at the lower one. */
const rowAtEnd = (grid: Grid, board: number, turned: boolean): number | undefined =>
  grid.boards[board]!.railRows.at(turned ? -1 : 0)

/**
 * A module over the rails at one end of a breadboard: its ground in both minus rails, and in each plus rail the output
 * whose net that rail carries. Where a plus rail carries another net, the module's jumper for that side stands at off.
 * Undefined where there are no rails on both sides, where a minus rail carries another net, or where it would feed none.
 */
export function overRailsSeat(
  wiring: Wiring,
  grid: Grid,
  unit: RailsUnit,
  board: number,
  turned: boolean,
  rails: ReadonlyMap<Node, number>,
): Seat | undefined {
  const row = rowAtEnd(grid, board, turned)
  if (row === undefined || grid.boards[board]!.rails.length < railNames.length) return undefined
  const netOf = (pin: string): number => wiring.netOf(`${unit.ref}.${pin}`).index
  const legs: Seat['legs'][number][] = []
  for (const [at, name] of railNames.entries()) {
    const hole = holeAt(board, row, 10 + at)
    const net = rails.get(grid.node(hole))
    const pins = name.endsWith('-') ? [unit.overRails.minus] : unit.overRails.plus
    const pin = pins.find((one) => netOf(one) === net)
    if (pin !== undefined) legs.push({ pin, hole })
    else if (name.endsWith('-')) return undefined
  }
  if (legs.every(({ pin }) => pin === unit.overRails.minus)) return undefined
  const inwards = turned ? -1 : 1
  const rowsOf = (from: number, to: number): Hole[] =>
    Array.from({ length: to - from + 1 }, (_, at) => row + inwards * (from + at)).flatMap((one) =>
      Array.from({ length: 14 }, (_, column) => holeAt(board, one, column)).filter((hole) => grid.has(hole)),
    )
  const own = new Set(legs.map(({ hole }) => hole))
  const beyond = turned ? grid.boards[board]!.rows - row : row - 1
  return {
    ref: unit.ref,
    legs,
    covers: rowsOf(-beyond, UNDER).filter((hole) => !own.has(hole)),
    shades: rowsOf(UNDER + 1, UNDER + MAKES_DIFFER),
    turned,
    at: holeAt(board, row, 10),
  }
}

/** The seat at the end of the breadboard that is nearer to a hole. */
export const overRailsSeatNear = (
  wiring: Wiring,
  grid: Grid,
  unit: RailsUnit,
  hole: Hole,
  rails: ReadonlyMap<Node, number>,
): Seat | undefined =>
  overRailsSeat(wiring, grid, unit, boardOfHole(hole), rowOf(hole) * 2 > grid.board(hole).rows, rails)

/** Both ends of the breadboards on which it may stand, first those where no board has its cable: `turned` for the lower. */
export const overRailsSeats = (
  wiring: Wiring,
  grid: Grid,
  unit: RailsUnit,
  boards: readonly number[],
  rails: ReadonlyMap<Node, number>,
  turnedFirst: boolean,
): Seat[] =>
  [turnedFirst, !turnedFirst].flatMap((turned) =>
    boards.flatMap((board) => overRailsSeat(wiring, grid, unit, board, turned, rails) ?? []),
  )

/** What a seat over the rails feeds, side by side, for people: `left plus rail 5V, right plus rail off`. */
export function railWords({ legs }: Seat): string {
  const side = (name: string): string => {
    const leg = legs.find(({ hole }) => isRail(hole) && railNames[columnOf(hole) - 10] === name)
    return `${name.startsWith('L') ? 'left' : 'right'} plus rail ${leg?.pin ?? 'off'}`
  }
  return `${side('L+')}, ${side('R+')}`
}
