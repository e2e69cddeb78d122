import { memo } from '../base/memo.ts'
import type { BoardInstance, PartInstance, Source, Wiring } from '../wiring/model.ts'
import { comesThrough, sourcesOf } from '../wiring/supply.ts'
import { circuitOf } from './circuit.ts'
import { litDiodes } from './lit.ts'
import { type DrivenLoad, drivenLoads } from './loads.ts'
import { behindResistors } from './reach.ts'

export interface BudgetItem {
  readonly title: string
  /** The part that takes it; undefined for a board, and for what is behind something. */
  readonly part: PartInstance | undefined
  /** The board that takes it itself. */
  readonly board?: BoardInstance
  readonly typicalMilliamps: number
  readonly peakMilliamps: number
}

/** Everything that a source has to give, in milliamperes. */
export interface Budget {
  readonly source: Source
  readonly typicalMilliamps: number
  readonly peakMilliamps: number
  readonly items: readonly BudgetItem[]
  /** Parts and boards on it that name no current. */
  readonly unknown: readonly string[]
}

/** Lamps that hang on a supply over resistors, each row once, with what they take while lit. */
function litOnRails(
  wiring: Wiring,
): { readonly source: Source; readonly part: PartInstance; readonly milliamps: number }[] {
  const circuit = circuitOf(wiring)
  return litDiodes(wiring).flatMap(({ part, anode, row, milliamps }) => {
    if (!Number.isFinite(milliamps) || (row.length > 1 && row[0]?.a !== anode)) return []
    const source = behindResistors(circuit, wiring.netOf(anode)).flatMap(({ sources }) => sources.slice(0, 1))[0]
    return source ? [{ source, part, milliamps }] : []
  })
}

/**
 * Loads of every source. A part that makes a supply for others takes in what they take: the same current through a
 * linear regulator, the same power over its efficiency through a switching one. A board takes what it needs
 * itself from what feeds it at a pin, and passes on what hangs on its rails: to the rail that they come through, or to that
 * feeder. The limits of its rails at its socket leave out what it takes itself. A cell in a row gives what those above it give.
 */
export const budgets = memo((wiring: Wiring): readonly Budget[] => {
  const sources = sourcesOf(wiring)
  // Loads that have no supply of their own and take their current through a driver.
  const driven = drivenLoads(circuitOf(wiring)).filter(
    ({ element, source, channels }) =>
      source !== undefined &&
      element.runs !== undefined &&
      element.part.supplies.length === 0 &&
      !channels.some((one) => one.facts.limits),
  )
  const lit = litOnRails(wiring)
  const drivenOf = (source: Source): Map<PartInstance, DrivenLoad[]> => {
    const found = new Map<PartInstance, DrivenLoad[]>()
    for (const one of driven)
      if (one.source?.end === source.end) found.set(one.element.part, [...(found.get(one.element.part) ?? []), one])
    return found
  }
  const done = new Map<string, { typical: number; peak: number; items: BudgetItem[]; unknown: string[] }>()
  const load = (
    source: Source,
    depth: number,
  ): { typical: number; peak: number; items: BudgetItem[]; unknown: string[] } => {
    const before = done.get(source.end)
    if (before) return before
    const items: BudgetItem[] = []
    const unknown: string[] = []
    for (const [part, driven] of drivenOf(source)) {
      const sum = (of: 'runs' | 'starts'): number => driven.reduce((total, one) => total + (one.element[of] ?? 0), 0)
      items.push({ title: part.ref, part: undefined, typicalMilliamps: sum('runs'), peakMilliamps: sum('starts') })
    }
    for (const { source: rail, part, milliamps } of lit)
      if (rail.end === source.end)
        items.push({ title: part.ref, part: undefined, typicalMilliamps: milliamps, peakMilliamps: milliamps })
    // What stands on a cell in a row draws its current through that cell as well.
    for (const upper of sources) {
      if (upper.above !== source.ref || depth > 6) continue
      const behind = load(upper, depth + 1)
      if (behind.peak > 0)
        items.push({
          title: `what hangs on ${upper.end}`,
          part: undefined,
          typicalMilliamps: behind.typical,
          peakMilliamps: behind.peak,
        })
    }
    for (const part of wiring.parts) {
      for (const use of part.supplies) {
        if (use.source?.end !== source.end) continue
        const typical = use.typicalMilliamps ?? 0
        const peak = Math.max(typical, use.peakMilliamps ?? typical)
        if (use.typicalMilliamps === undefined) unknown.push(part.ref)
        if (peak > 0) items.push({ title: part.ref, part, typicalMilliamps: typical, peakMilliamps: peak })
      }
      if (depth > 6) continue
      for (const rail of part.part.rails) {
        if (rail.from === undefined || wiring.netOf(`${part.ref}.${rail.from}`).sources[0]?.end !== source.end) continue
        const given = sources.find((one) => one.end === `${part.ref}.${rail.pin}`)
        if (!given || given.end === source.end) continue
        const behind = load(given, depth + 1)
        const factor = rail.efficiency === 'linear' ? 1 : given.volts / source.volts / rail.efficiency
        if (behind.peak > 0)
          items.push({
            title: `what hangs on ${given.end}`,
            part: undefined,
            typicalMilliamps: behind.typical * factor,
            peakMilliamps: behind.peak * factor,
          })
      }
    }
    const isFedFromHere = ({ ref, board, feed }: BoardInstance): boolean =>
      board.feeds.some(
        ({ id, pins }) =>
          id === feed && pins.some((pin) => wiring.netOf(`${ref}.${pin}`).sources[0]?.end === source.end),
      )
    for (const board of wiring.boards) {
      const { own } = board.board
      if (!isFedFromHere(board)) continue
      if (!own) {
        unknown.push(board.ref)
        continue
      }
      const peak = Math.max(own.peak, ...board.features.map((one) => one.peak ?? 0))
      items.push({
        title: `${board.ref} itself`,
        part: undefined,
        board,
        typicalMilliamps: own.typical,
        peakMilliamps: peak,
      })
    }
    if (depth <= 6)
      for (const board of wiring.boards)
        for (const given of sources) {
          if (given.ref !== board.ref || given.end === source.end) continue
          const over = comesThrough(wiring, given)
          if (over ? over.source.end !== source.end : !isFedFromHere(board)) continue
          const behind = load(given, depth + 1)
          const factor = over?.factor ?? 1
          if (behind.peak > 0)
            items.push({
              title: `what hangs on ${given.end}`,
              part: undefined,
              typicalMilliamps: behind.typical * factor,
              peakMilliamps: behind.peak * factor,
            })
        }
    const sum = {
      typical: items.reduce((total, one) => total + one.typicalMilliamps, 0),
      peak: items.reduce((total, one) => total + one.peakMilliamps, 0),
      items,
      unknown,
    }
    done.set(source.end, sum)
    return sum
  }
  return sources.map((source): Budget => {
    const { typical, peak, items, unknown } = load(source, 0)
    return { source, typicalMilliamps: typical, peakMilliamps: peak, items, unknown }
  })
})
