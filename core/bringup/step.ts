import type { Spot } from './metal.ts'

/** Parts of bring-up, in their order. */
export const phases = ['look', 'continuity', 'power', 'scan', 'signal'] as const
export type Phase = (typeof phases)[number]
export const phaseTitles: Readonly<Record<Phase, string>> = {
  look: 'Look before you measure',
  continuity: 'Before power: what must sound and what must stay silent',
  power: 'First power',
  scan: 'Who is on the bus',
  signal: 'Signal by signal',
}

/** What a step should give, in base units. */
export interface Predicted {
  readonly least: number
  readonly most: number
  readonly unit: 'V' | 'mA' | 'counts' | 'µs' | 'level'
}

/** One thing to do and see before, at and after the first power. */
export interface Step {
  /** Made of what it touches: a step whose wires did not change keeps its tick. */
  readonly id: string
  readonly phase: Phase
  readonly title: string
  /** What to do, in plain words. */
  readonly does: string
  /** Places that the meter's tips touch. */
  readonly spots: readonly Spot[]
  /** How the meter is set; undefined for a step without one. */
  readonly meter: string | undefined
  /** What must be seen or heard. */
  readonly expect: string
  readonly predicted: Predicted | undefined
  /** Where to look when it is otherwise, the likeliest first. */
  readonly otherwise: readonly string[]
  /** Done by the test program of this board; undefined for what hands and eyes do. */
  readonly board: string | undefined
}

/** A text as a sentence begins. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
