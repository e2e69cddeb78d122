import type { ProgramCase } from './programs/case.ts'
import { cppPrograms } from './programs/cpp.ts'
import { firstPrograms } from './programs/first.ts'

export type { ProgramCase }

/** Programs of our own in every language, each with changes and what is said of them. */
export const programCases: readonly ProgramCase[] = [...firstPrograms, ...cppPrograms]
