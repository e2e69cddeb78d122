import { PITCH_MM } from '../catalog/common.ts'

/** What a wire carries at its two ends; `lead` for a lead of a part that goes in by itself. */
export type Ends = 'plug-plug' | 'plug-socket' | 'socket-socket' | 'lead'

/** Lengths in millimetres in which jumper wires are commonly sold, by their ends. */
export const stockLengths: Readonly<Record<Exclude<Ends, 'lead'>, readonly number[]>> = {
  'plug-plug': [65, 100, 150, 200, 250, 300],
  'plug-socket': [100, 150, 200, 300, 400],
  'socket-socket': [100, 150, 200, 300, 400],
}

/** What a wire needs beyond the straight way so that it can bow over parts, in millimetres. */
const SLACK_MM = 20
/** What lies beside a breadboard lies where there is room, not where it is drawn, in millimetres. */
const BESIDE_MM = 50

/** The shortest stock length in millimetres that reaches over so many pitches; the longest when none does. */
export function stockLength(ends: Exclude<Ends, 'lead'>, pitches: number, goesBeside: boolean): number {
  const lengths = stockLengths[ends]
  const needed = pitches * PITCH_MM + SLACK_MM + (goesBeside ? BESIDE_MM : 0)
  return lengths.find((length) => length >= needed) ?? lengths.at(-1)!
}
