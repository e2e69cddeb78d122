import type { Breadboard } from '../plan/planSchema.ts'

/**
 * Solderless breadboards as data. Five holes of a half-row are one strip of metal; the holes of a rail are another, cut
 * in the middle on boards with split rails. Distances are in pitches of 2.54 mm; the trench is three pitches from `e`
 * to `f`, and the rail next to the strips lies three pitches beside `a` or `j`.
 */

export const columnLetters = 'abcdefghij'
export const railNames = ['L+', 'L-', 'R+', 'R-'] as const
export type RailName = (typeof railNames)[number]

interface KindFacts {
  readonly title: string
  readonly rows: number
  /** Row beside which the first rail hole lies; undefined where there are no rails. */
  readonly railFrom: number | undefined
}

export const breadboardKinds: Readonly<Record<Breadboard['kind'], KindFacts>> = {
  full: { title: 'Full breadboard, 63 rows', rows: 63, railFrom: 3 },
  half: { title: 'Half breadboard, 30 rows', rows: 30, railFrom: 1 },
  mini: { title: 'Mini breadboard, 17 rows, no rails', rows: 17, railFrom: undefined },
}

/** From one breadboard to that of another board, in pitches: what belongs to both lies between them. */
const HOUSE = 46

/** A hole as a number: breadboard, row and column packed; columns 10 to 13 are the rails in the order of `railNames`. */
export type Hole = number
/** A piece of metal: a strip or a piece of a rail. */
export type Node = number

export const holeAt = (board: number, row: number, column: number): Hole => (board * 64 + row) * 16 + column
export const columnOf = (hole: Hole): number => hole & 15
export const rowOf = (hole: Hole): number => (hole >> 4) & 63
export const boardOfHole = (hole: Hole): number => hole >> 10
export const isRail = (hole: Hole | Node): boolean => columnOf(hole) > 9

export interface GridBoard {
  readonly ref: string
  readonly entry: Breadboard
  readonly rows: number
  /** Where column `a` lies, in pitches from column `a` of the first breadboard. */
  readonly x: number
  /** Rails that it has: those between two joined breadboards are taken off. */
  readonly rails: readonly RailName[]
  /** Rows beside which rail holes lie. */
  readonly railRows: readonly number[]
  /** First row of the second piece of each rail; undefined where rails run through. */
  readonly gapAt: number | undefined
  /** Joined to the next one, to the one before. */
  readonly joinsNext: boolean
  readonly joinsBefore: boolean
}

/** Outer edges of a breadboard, in pitches: further out where it has rails. */
export const edgesOf = ({ x, rails }: GridBoard): { readonly left: number; readonly right: number } => ({
  left: x - (rails.some((name) => name.startsWith('L')) ? 5 : 1.5),
  right: x + 11 + (rails.some((name) => name.startsWith('R')) ? 5 : 1.5),
})

/** The breadboards of a bench side by side, and every hole's place and metal. */
export class Grid {
  readonly boards: readonly GridBoard[]
  readonly #byRef: ReadonlyMap<string, number>
  readonly #holes = new Map<Node, readonly Hole[]>()

  constructor(breadboards: Readonly<Record<string, Breadboard>>) {
    const entries = Object.entries(breadboards)
    let x = 0
    this.boards = entries.map(([ref, entry], index): GridBoard => {
      const { rows, railFrom } = breadboardKinds[entry.kind]
      const next = entries[index + 1]?.[1]
      const joinsNext = joinable(entry, next)
      const joinsBefore = joinable(entries[index - 1]?.[1], entry)
      const before = entries[index - 1]?.[1]
      if (before) x += joinsBefore ? 14 : before.for === entry.for ? 23 : HOUSE
      const railRows: number[] = []
      if (railFrom !== undefined)
        for (let row = railFrom; row + 4 <= rows; row += 6) for (let at = 0; at < 5; at += 1) railRows.push(row + at)
      const rails = railNames.filter(
        (name) => railFrom !== undefined && !(name.startsWith('L') ? joinsBefore : joinsNext),
      )
      const gapAt = entry.rails === 'split' ? railRows[Math.floor(railRows.length / 10) * 5] : undefined
      return { ref, entry, rows, x, rails, railRows, gapAt, joinsNext, joinsBefore }
    })
    this.#byRef = new Map(this.boards.map((board, index) => [board.ref, index]))
  }

  board(hole: Hole): GridBoard {
    return this.boards[boardOfHole(hole)]!
  }

  index(ref: string): number | undefined {
    return this.#byRef.get(ref)
  }

  /** Reads `BB1.c12` or `BB1.L+12`; undefined when there is no such hole. */
  parse(text: string): Hole | undefined {
    const found = /^(.+)\.(?:([a-j])|([LR][+-]))(\d{1,2})$/.exec(text)
    if (!found) return undefined
    const index = this.#byRef.get(found[1]!)
    if (index === undefined) return undefined
    const row = Number(found[4])
    const rail = found[3] as RailName | undefined
    const board = this.boards[index]!
    if (rail) {
      if (!board.rails.includes(rail) || !board.railRows.includes(row)) return undefined
      return holeAt(index, row, 10 + railNames.indexOf(rail))
    }
    return row >= 1 && row <= board.rows ? holeAt(index, row, columnLetters.indexOf(found[2]!)) : undefined
  }

  name(hole: Hole): string {
    const column = columnOf(hole)
    return `${this.board(hole).ref}.${column > 9 ? railNames[column - 10] : columnLetters[column]}${rowOf(hole)}`
  }

  /** True when a breadboard has a hole there. */
  has(hole: Hole): boolean {
    const { rows, rails, railRows } = this.board(hole)
    const column = columnOf(hole)
    if (column <= 9) return rowOf(hole) >= 1 && rowOf(hole) <= rows
    return rails.includes(railNames[column - 10]!) && railRows.includes(rowOf(hole))
  }

  /** Metal under a hole. */
  node(hole: Hole): Node {
    const column = columnOf(hole)
    if (column <= 9) return holeAt(boardOfHole(hole), rowOf(hole), column < 5 ? 0 : 5)
    const { gapAt } = this.board(hole)
    return holeAt(boardOfHole(hole), gapAt !== undefined && rowOf(hole) >= gapAt ? 1 : 0, column)
  }

  /** Every hole over a piece of metal, from the top and the left. */
  holes(node: Node): readonly Hole[] {
    const known = this.#holes.get(node)
    if (known) return known
    const found = this.#holesOf(node)
    this.#holes.set(node, found)
    return found
  }

  #holesOf(node: Node): Hole[] {
    const board = boardOfHole(node)
    const column = columnOf(node)
    if (column <= 9) return [0, 1, 2, 3, 4].map((at) => node + at)
    const { railRows, gapAt } = this.boards[board]!
    return railRows
      .filter((row) => gapAt === undefined || row >= gapAt === (rowOf(node) === 1))
      .map((row) => holeAt(board, row, column))
  }

  /** Pieces of rail of a breadboard, by name: one, or two where the rail is split. */
  pieces(board: number, rail: RailName): Node[] {
    const { rails, gapAt } = this.boards[board]!
    if (!rails.includes(rail)) return []
    const column = 10 + railNames.indexOf(rail)
    return gapAt === undefined ? [holeAt(board, 0, column)] : [holeAt(board, 0, column), holeAt(board, 1, column)]
  }

  /** Place in pitches; rows count downwards. */
  x(hole: Hole): number {
    const board = this.board(hole)
    return board.x + columnX(columnOf(hole), board.entry.plus ?? 'left')
  }

  /** `row 12, left half` or `left + rail`, for people. */
  nodeWords(node: Node): string {
    const column = columnOf(node)
    if (column > 9) {
      const name = railNames[column - 10]!
      const half = this.board(node).gapAt === undefined ? '' : rowOf(node) === 0 ? ', upper half' : ', lower half'
      return `${name.startsWith('L') ? 'left' : 'right'} ${name[1]} rail${half}`
    }
    return `row ${rowOf(node)} ${column === 0 ? 'a–e' : 'f–j'}`
  }
}

const joinable = (one: Breadboard | undefined, next: Breadboard | undefined): boolean =>
  one !== undefined && next?.joined === true && one.kind === next.kind

/** Place of a column or rail beside column `a`, in pitches. */
export function columnX(column: number, plus: NonNullable<Breadboard['plus']>): number {
  if (column <= 4) return column
  if (column <= 9) return column + 2
  const name = railNames[column - 10]!
  const isPlus = name[1] === '+'
  if (name.startsWith('L')) {
    const plusOutside = plus === 'left' || plus === 'outer'
    return isPlus === plusOutside ? -4 : -3
  }
  const plusOutside = plus === 'right' || plus === 'outer'
  return isPlus === plusOutside ? 15 : 14
}
