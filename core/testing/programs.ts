import type { ProgramCase } from './programs/case.ts'
import { circuitpythonPrograms } from './programs/circuitpython.ts'
import { cppPrograms } from './programs/cpp.ts'
import { cppMorePrograms } from './programs/cppMore.ts'
import { firstPrograms } from './programs/first.ts'
import { micropythonPrograms } from './programs/micropython.ts'
import { pythonPrograms } from './programs/python.ts'

export type { ProgramCase }

/** Programs of our own in every language, each with changes and what is said of them. */
export const programCases: readonly ProgramCase[] = [
  ...firstPrograms,
  ...cppPrograms,
  ...cppMorePrograms,
  ...micropythonPrograms,
  ...circuitpythonPrograms,
  ...pythonPrograms,
]
