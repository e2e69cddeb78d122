import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import type { Net, PartInstance, SupplyInstance, Wiring } from './model.ts'

/** Something that gives current by itself: a supply of the plan, a battery, a socket. */
export interface Cell {
  readonly ref: string
  readonly plus: string
  readonly minus: readonly string[]
  readonly volts: number
  readonly limitMilliamps: number | undefined
  /** Is there for more than its current: the red lead of a serial cable mostly stays open. */
  readonly speaks: boolean
}

/** What stands below a cell in a row: the next one, the volts of all together, and the current that the weakest gives. */
export interface Stack {
  readonly ref: string
  readonly volts: number
  readonly limitMilliamps: number | undefined
}

/** Cells of a plan with a minus of their own. */
export function cellsOf(supplies: readonly SupplyInstance[], parts: readonly PartInstance[]): Cell[] {
  return [
    ...supplies.map(({ ref, entry: { volts, limitMilliamps } }) => ({
      ref,
      plus: `${ref}.+`,
      minus: [`${ref}.-`],
      volts,
      limitMilliamps,
      speaks: false,
    })),
    ...parts.flatMap(({ ref, part, options }): Cell[] => {
      const rail = part.rails.find(({ from }) => from === undefined)
      const volts = typeof rail?.volts === 'object' ? entryOf(options, rail.volts.option) : rail?.volts
      const minus = part.pins.filter(({ role }) => role === 'ground').map(({ id }) => `${ref}.${id}`)
      const isCell = part.build === 'component' && part.supplies.length === 0 && minus.length > 0
      const speaks = part.signals.length + part.modes.length > 0
      return rail && isCell && typeof volts === 'number'
        ? [{ ref, plus: `${ref}.${rail.pin}`, minus, volts, limitMilliamps: rail.milliamps, speaks }]
        : []
    }),
  ]
}

/**
 * Cells in a row: each whose minus lies on the plus of another gives its volts on top of that one's (Kirchhoff). Round in
 * a circle there is no lowest one, and none counts as standing on another; a plus on ground carries none either.
 */
export function stacksOf(
  supplies: readonly SupplyInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Net,
): ReadonlyMap<string, Stack> {
  const cells = cellsOf(supplies, parts)
  const below = (cell: Cell): Cell | undefined => {
    const nets = new Set(cell.minus.map(netOf))
    return cells.find((one) => one !== cell && nets.has(netOf(one.plus)) && !netOf(one.plus).ground)
  }
  return new Map(
    cells.flatMap((cell): [string, Stack][] => {
      const first = below(cell)
      let volts = 0
      let limitMilliamps: number | undefined
      const seen = new Set([cell])
      for (let one = first; one; one = below(one)) {
        if (seen.has(one)) return []
        seen.add(one)
        volts += one.volts
        limitMilliamps = weakest(limitMilliamps, one.limitMilliamps)
      }
      return first ? [[cell.ref, { ref: first.ref, volts, limitMilliamps }]] : []
    }),
  )
}

/** The smaller of two limits, of which either may not be known. */
export const weakest = (a: number | undefined, b: number | undefined): number | undefined =>
  a === undefined || b === undefined ? (a ?? b) : Math.min(a, b)

const above = memo(
  (nets: Wiring['nets']) => new Map(nets.flatMap(({ sources }) => sources.map((one) => [one.ref, one.above] as const))),
)

/** The cell on whose plus the minus of another lies; undefined for one that stands on none. */
export const standsOn = ({ nets }: Wiring, ref: string): string | undefined => above(nets).get(ref)

/** The lowest of the cells in a row on which a source stands: itself where it stands on none. */
export function lowestOf({ nets }: Wiring, ref: string): string {
  let lowest = ref
  for (let next = above(nets).get(ref); next !== undefined; next = above(nets).get(next)) lowest = next
  return lowest
}
