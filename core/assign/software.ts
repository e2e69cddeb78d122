import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { softwareBus } from '../wiring/softwareBus.ts'
import { candidates } from './candidates.ts'
import { connect, type Decision } from './feedAndTie.ts'

/**
 * Serial lines for which no controller is left, on plain pins, where programs of the board can make them: one a board,
 * since a program listens to one at a time, and only where its part speaks slowly enough.
 */
export function bySoftware(wiring: Wiring, left: readonly SignalUse[]): Decision[] {
  const busy = new Set(wiring.buses.flatMap((bus) => (softwareBus(bus) && bus.board ? [bus.board] : [])))
  const byPart = new Map<PartInstance, SignalUse[]>()
  for (const { end } of left) {
    const use = wiring.signal(end)
    if (use && busNeed(use.facts.needs)?.kind === 'uart') byPart.set(use.part, [...(byPart.get(use.part) ?? []), use])
  }
  const decisions: Decision[] = []
  for (const [part, uses] of byPart) {
    const board = part.home
    const way = board?.board.software.find(({ kind }) => kind === 'uart')
    const baud = part.mode?.uart?.baud
    if (!board || !way || busy.has(board) || (baud && !baud.some((one) => one <= way.most))) continue
    const taken = new Set<Host>()
    const found = uses.flatMap((use): Decision[] => {
      const host = pinFor(wiring, board, use, taken)
      if (!host) return []
      taken.add(host)
      return [connect(use.tail, host.end, `by software: ${way.note}`)]
    })
    if (found.length < uses.length) continue
    busy.add(board)
    decisions.push(...found)
  }
  return decisions
}

/** The cheapest plain pin for a line; one that hears an edge where the program listens. */
function pinFor(wiring: Wiring, board: BoardInstance, use: SignalUse, taken: ReadonlySet<Host>): Host | undefined {
  const listens = use.facts.direction === 'out'
  const { orElse: _, ...facts } = use.facts
  const plain: SignalUse = { ...use, facts: { ...facts, needs: listens ? 'digital-in' : 'digital-out' } }
  const hears = ({ functions }: Host): boolean => functions.has('interrupt') || functions.has('pin-change')
  return candidates(wiring, plain)
    .filter(({ blocked }) => blocked === undefined)
    .map(({ host }) => host)
    .find(
      (host) =>
        host.board === board &&
        !taken.has(host) &&
        ![...host.functions].some((name) => name.startsWith('uart')) &&
        (!listens || hears(host)),
    )
}
