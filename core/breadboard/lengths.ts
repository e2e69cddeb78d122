import type { Ends } from '../sheets/sheet.ts'
import { PITCH_MM } from './grid.ts'

/** Lengths in millimetres in which jumper wires are commonly sold, by their ends. */
export const stockLengths: Readonly<Record<Exclude<Ends, 'lead'>, readonly number[]>> = {
  'plug-plug': [65, 100, 150, 200, 250, 300],
  'plug-socket': [100, 150, 200, 300, 400],
  'socket-socket': [100, 150, 200, 300, 400],
}

/** What a wire needs beyond the straight way so that it can bow over parts, in millimetres. */
const SLACK_MM = 20

/** The shortest stock length that reaches over so many pitches; the longest when none does. */
export function stockLength(ends: Exclude<Ends, 'lead'>, pitches: number): number {
  const lengths = stockLengths[ends]
  const needed = pitches * PITCH_MM + SLACK_MM
  return lengths.find((length) => length >= needed) ?? lengths.at(-1)!
}
