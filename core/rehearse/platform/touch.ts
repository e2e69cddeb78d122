import type { Board } from '../../catalog/boardSchema.ts'
import type { NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'

/** What a platform's call gives for a touch pin, at rest and under a finger. */
export interface TouchCounts {
  readonly rest: number
  readonly touched: number
  /** GPIO numbers of `T0`, `T1` and so on; undefined for a number that the chip does not have. */
  readonly pins: readonly (number | undefined)[]
}

/**
 * Touch pins by chip, as their technical reference manuals number them; of the first chips the count falls under a finger,
 * of the later ones it rises. The counts themselves depend on wire and pad: these are of the usual order.
 */
export function touchCountsOf({ family }: Board): TouchCounts | undefined {
  if (family === 'esp32') return { rest: 70, touched: 12, pins: [4, 0, 2, 15, 13, 12, 14, 27, 33, 32] }
  if (family === 'esp32s3' || family === 'esp32s2')
    return { rest: 28_000, touched: 65_000, pins: Array.from({ length: 15 }, (_, at) => (at === 0 ? undefined : at)) }
  return undefined
}

/** Calls for touch pins, of boards whose chip has some. */
export function touchFunctions(
  hardware: Hardware,
  { rest, touched }: TouchCounts,
  { int, count }: Readonly<Record<'int' | 'count', Type>>,
): [string, NativeFunction][] {
  return [
    [
      'touchRead',
      {
        params: [int],
        returns: count,
        run: (_, [pin], _types, at) => {
          hardware.wait(500, at)
          return hardware.touched(pin, at) ? touched : rest
        },
      },
    ],
    [
      'touchAttachInterrupt',
      {
        params: [int, 'any', int],
        returns: VOID,
        run: (_, [pin, handler], _types, at) => {
          hardware.touched(pin, at, handler instanceof Callable ? () => void handler.call([]) : undefined)
        },
      },
    ],
  ]
}
