import { memo } from '../base/memo.ts'
import type { Board } from '../catalog/boardSchema.ts'

/** Most posts of a block of two columns beside the rows of a board. */
const BLOCK = 6

/** Pins that come out at a small block alone, such as that for programming the chip, and not at one of the rows. */
export const pinsAside = memo((board: Board): ReadonlySet<string> => {
  const isRow = ({ pins, columns }: Board['headers'][number]): boolean => columns === 1 || pins.length > BLOCK
  const inRows = new Set(board.headers.flatMap((one) => (isRow(one) ? one.pins : [])))
  const all = inRows.size === 0 ? [] : board.headers.flatMap(({ pins }) => pins)
  return new Set(all.filter((pin) => !inRows.has(pin)))
})
