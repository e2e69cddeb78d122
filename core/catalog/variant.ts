import { memoIn } from '../base/memo.ts'
import type { Board, Variant } from './boardSchema.ts'
import type { Catalog } from './catalog.ts'

/** A board as one of its models: the same object for the same model; the board itself for an unknown or absent one. */
export const asVariant = memoIn((board: Board, id: string | undefined): Board => {
  const variant = board.variants.find((one) => one.id === id)
  return variant ? overlay(board, variant) : board
})

/** The board that a plan's entry names, as the model it names. */
export function boardOf(
  catalog: Catalog,
  entry: { readonly board: string; readonly variant?: string | undefined } | undefined,
): Board | undefined {
  const board = catalog.boards.get(entry?.board ?? '')
  return board && asVariant(board, entry?.variant)
}

function overlay(board: Board, variant: Variant): Board {
  const merge = <T extends { readonly id: string }>(own: readonly T[], other: readonly T[]): T[] => [
    ...own.map((one) => other.find((two) => two.id === one.id) ?? one),
    ...other.filter((two) => !own.some((one) => one.id === two.id)),
  ]
  return {
    ...board,
    title: `${board.title}: ${variant.title}`,
    mcu: variant.mcu ?? board.mcu,
    current: variant.current ? { ...board.current, pin: variant.current } : board.current,
    headers: merge(board.headers, variant.headers),
    pins: merge(board.pins, variant.pins),
    controllers: merge(board.controllers, variant.controllers).filter((one) => !variant.lacks.includes(one.id)),
    timers: merge(board.timers, variant.timers),
    analog: merge(board.analog, variant.analog),
    features: merge(board.features, variant.features),
    streams: variant.streams ?? board.streams,
    rails: merge(board.rails, variant.rails),
    feeds: merge(board.feeds, variant.feeds),
    notes: [...board.notes, ...variant.notes],
    variants: [],
  }
}
