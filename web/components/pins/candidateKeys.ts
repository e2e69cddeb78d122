import type { BoardInstance } from '../../../core/wiring/model.ts'

/** Candidates that get a key. */
export const MOST_KEYS = 6

/** Letters that open a place of the plan; they are no keys for pins. */
const PLACES = 'kpbwsu'

/**
 * Keys that put the picked signal on its best pins: digits, or on a board whose pins are called by numbers letters with
 * which no pin begins, so that "4" is pin 4 there and "A0" can be typed.
 */
export function candidateKeys(board: BoardInstance | undefined): readonly string[] {
  const digits = Array.from({ length: MOST_KEYS }, (_, index) => `${index + 1}`)
  if (!board) return digits
  const { pins, names } = board.facts
  const numbered = digits.filter((digit) => names.find(digit).length === 1)
  if (numbered.length === 0) return digits
  const io = pins.filter(({ kind }) => kind === 'io').flatMap(({ allNames }) => allNames)
  const first = new Set(io.map((name) => name[0]?.toLowerCase()))
  return [...'qeyfghjvznxclmotrdia']
    .filter((letter) => !first.has(letter) && !PLACES.includes(letter))
    .slice(0, MOST_KEYS)
}
