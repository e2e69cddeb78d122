import { entryOf } from '../../base/entryOf.ts'
import type { Controller } from '../../catalog/boardControllers.ts'
import type { Board, Language } from '../../catalog/boardSchema.ts'

/** A controller of a bus, with the pins of each of its signals, the first the one that is taken where none is named. */
export interface UsualLines {
  readonly of: (signal: string) => string | undefined
  readonly all: (signal: string) => readonly string[]
}

/**
 * Pins of the bus object that a program begins without naming any: those that the platform begins it with, else the first
 * ones of the controller of that number, else of the one that comes there in the order of preference.
 */
export function usualLines(
  { programs, controllers }: Pick<Board, 'programs' | 'controllers'>,
  language: Language,
  name: string,
  kind: 'spi' | 'uart',
  number: number,
): UsualLines {
  const begun =
    programs.find((one) => one.as === language)?.begins[name] ?? programs.find((one) => one.as === 'cpp')?.begins[name]
  const own = controllers.filter((one) => one.kind === kind).sort((a, b) => a.rank - b.rank)
  // A serial line of a sketch of which the platform names no pins runs over USB.
  const isUsb = kind === 'uart' && language === 'cpp'
  const numbered = kind === 'uart' ? own.find(({ id }) => id === `${kind}${number}`) : undefined
  const controller = isUsb ? undefined : (numbered ?? own[number])
  const all = (signal: string): readonly string[] => (controller ? pinsOf(controller, signal) : [])
  return { all, of: (signal) => (begun ? entryOf(begun, signal) : all(signal)[0]) }
}

function pinsOf({ prefer, groups, pins }: Controller, signal: string): readonly string[] {
  const one = prefer?.pins[signal] ?? groups?.[0]?.[signal]
  return one === undefined ? (entryOf(pins, signal) ?? []) : [one]
}
