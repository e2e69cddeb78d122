import type { Language } from '../../catalog/boardSchema.ts'
import type { Short } from '../plans.ts'

/** A program of our own, a plan that it fits, and changes after which it does not, each with what must be said. */
export interface ProgramCase {
  readonly title: string
  readonly plan: Short
  readonly language: Language
  /** Files of the program; the first is the main one. */
  readonly files: readonly (readonly [string, string])[]
  /** What is said of the program as it stands besides that it is the same. */
  readonly says?: readonly string[]
  /** Text that is replaced, by what, and what is said then. */
  readonly changes: readonly (readonly [string, string, readonly string[]])[]
}
