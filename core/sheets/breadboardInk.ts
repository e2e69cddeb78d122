import { columnLetters, columnX, edgesOf, type GridBoard, type RailName, railNames } from '../breadboard/grid.ts'
import type { Ink } from './ink.ts'
import type { Place } from './lanes.ts'

/** A breadboard: its plate, rails, strips and holes, their letters and numbers. */
export function breadboardInk(board: GridBoard): Ink[] {
  const { ref, rows, railRows, gapAt } = board
  const plus = board.entry.plus ?? 'left'
  const { left, right } = edgesOf(board)
  const columns = [...columnLetters].map((letter, at) => ({ letter, x: board.x + columnX(at, plus) }))
  const rails = board.rails.map((name) => ({ name, x: board.x + columnX(10 + railNames.indexOf(name), plus) }))
  const all = Array.from({ length: rows }, (_, at) => at + 1)
  const holes = [
    ...all.flatMap((y) => columns.map(({ x }): Place => ({ x, y }))),
    ...rails.flatMap(({ x }) => railRows.map((y): Place => ({ x, y }))),
  ]
  const railInk = ({ name, x }: { name: RailName; x: number }): Ink[] => {
    const sign = name.endsWith('+') ? 'plus' : 'minus'
    return [
      {
        is: 'strokes',
        role: sign,
        strokes: railRuns(railRows, gapAt).map(([from, to]) => [
          { x, y: from - 0.3 },
          { x, y: to + 0.3 },
        ]),
      },
      ...[railRows[0]! - 0.95, railRows.at(-1)! + 0.95].map(
        (y): Ink => ({
          is: 'text',
          role: 'sign',
          x,
          y,
          size: 0.95,
          text: sign === 'plus' ? '+' : '−',
          anchor: 'middle',
        }),
      ),
    ]
  }
  return [
    { is: 'box', role: 'plate', left, top: -0.9, width: right - left, height: rows + 2.6 },
    { is: 'text', role: 'name', x: left + 0.3, y: -1.5, size: 0.95, text: ref, anchor: 'start', along: true },
    {
      is: 'strokes',
      role: 'strip',
      strokes: all.flatMap((y) =>
        [0, 5].map((first): [Place, Place] => [
          { x: columns[first]!.x, y },
          { x: columns[first + 4]!.x, y },
        ]),
      ),
    },
    ...(board.entry.reserved ?? []).map(
      ([from, to]): Ink => ({
        is: 'strokes',
        role: 'reserved',
        // Slanting strokes over what is kept free.
        strokes: Array.from({ length: Math.max(0, Math.min(to, rows) - from + 1) }, (_, at) => from + at).flatMap((y) =>
          [0, 5].flatMap((first): [Place, Place][] =>
            [0, 1, 2, 3].map((column) => [
              { x: columns[first + column]!.x + 0.2, y: y + 0.4 },
              { x: columns[first + column]!.x + 0.8, y: y - 0.4 },
            ]),
          ),
        ),
      }),
    ),
    ...rails.flatMap(railInk),
    {
      is: 'strokes',
      role: 'hole',
      strokes: holes.map(({ x, y }) => [
        { x, y },
        { x: x + 0.001, y },
      ]),
    },
    ...columns.flatMap(({ letter, x }) =>
      [-0.1, rows + 1.1].map(
        (y): Ink => ({ is: 'text', role: 'letter', x, y, size: 0.6, text: letter, anchor: 'middle' }),
      ),
    ),
    ...all
      .filter((row) => row === 1 || row % 5 === 0)
      .map(
        (y): Ink => ({
          is: 'text',
          role: 'letter',
          x: columns[4]!.x + 1.5,
          y,
          size: 0.62,
          text: String(y),
          anchor: 'middle',
        }),
      ),
  ]
}

/** Runs of a rail, cut where the metal is. */
function railRuns(railRows: readonly number[], gapAt: number | undefined): [number, number][] {
  const [first, last] = [railRows[0]!, railRows.at(-1)!]
  if (gapAt === undefined) return [[first, last]]
  return [
    [first, railRows.filter((row) => row < gapAt).at(-1)!],
    [gapAt, last],
  ]
}
