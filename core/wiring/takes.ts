import { memo } from '../base/memo.ts'
import type { Controller } from '../catalog/boardControllers.ts'
import { busNeed } from './buses.ts'
import type { BoardInstance, Host, SignalUse, Wiring } from './model.ts'
import { drives } from './needs.ts'

/**
 * Some controllers take all their pins once they are switched on, whether the bus uses them or not. Source of the ways:
 * the tables of pin overrides of the chips' data sheets.
 */
export type Way = NonNullable<Controller['takes']>[string]

/** True when a signal that is no line of the controller's bus cannot be on a pin taken in this way. */
export function collides(way: Way, use: SignalUse): boolean {
  const isRead = !drives(use.facts.needs) || use.facts.direction === 'open-drain'
  if (way === 'in') return drives(use.facts.needs)
  return way === 'whole' || isRead
}

/** Kinds of buses that the parts of each board need, wired or not. */
const kindsOn = memo((wiring: Wiring): ReadonlyMap<BoardInstance, ReadonlySet<string>> => {
  const kinds = new Map<BoardInstance, Set<string>>()
  for (const { part, facts, state } of wiring.signals) {
    const kind = busNeed(facts.needs)?.kind
    if (kind === undefined || state === 'unused' || !part.home) continue
    const there = kinds.get(part.home) ?? new Set()
    kinds.set(part.home, there.add(kind))
  }
  return kinds
})

/** The controller that will take a pin, as far as the parts need buses of its kind, and that this signal cannot bear. */
export function takerOf(wiring: Wiring, use: SignalUse, { board, pin }: Host): Controller | undefined {
  if (!board) return undefined
  const bus = busNeed(use.facts.needs)
  return board.board.controllers.find(
    (one) =>
      one.takes !== undefined &&
      kindsOn(wiring).get(board)?.has(one.kind) &&
      (bus?.kind !== one.kind || bus.signal === 'cs') &&
      Object.entries(one.takes).some(([signal, way]) => one.pins?.[signal]?.includes(pin) && collides(way, use)),
  )
}
