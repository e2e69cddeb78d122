import type { PythonBoard } from '../native.ts'
import type { PinCalls } from '../pinCalls.ts'
import type { PyClass } from '../values.ts'
import { inputClasses } from './inputs.ts'
import { zeroKit } from './kit.ts'
import { lampClasses } from './lamps.ts'
import { moverClasses } from './movers.ts'

/** Classes by which programs of single-board computers speak of what hangs on their pins, as their documentation has them. */
export function zeroClasses(board: PythonBoard, calls: PinCalls): [string, PyClass][] {
  const kit = zeroKit(board, calls)
  return [...lampClasses(calls, kit), ...inputClasses(board, calls, kit), ...moverClasses(calls, kit)]
}
