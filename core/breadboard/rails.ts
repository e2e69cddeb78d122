import type { Wiring } from '../wiring/model.ts'
import type { Grid, Node, RailName } from './grid.ts'
import { isRailsUnit } from './overRails.ts'
import type { Unit } from './units.ts'

/** With so many places, or fewer, a net is better wired from hole to hole than over a rail. */
const FEW_PLACES = 2

/**
 * Which net each piece of rail carries. On the breadboards of one board: the ground with most places takes both minus
 * rails, the supply with most takes the plus rails, and a second supply the right plus rail; before all others those of
 * a module that plugs over the rails.
 */
export function assignRails(
  wiring: Wiring,
  grid: Grid,
  units: readonly Unit[],
  boardsFor: (ref: string) => readonly number[],
): Map<Node, number> {
  const rails = new Map<Node, number>()
  const groups = new Map<string, number[]>()
  grid.boards.forEach((board, index) => {
    const key = board.entry.for ?? ''
    groups.set(key, [...(groups.get(key) ?? []), index])
  })
  for (const boards of groups.values()) {
    const places = new Map<number, number>()
    /** Nets of a module that plugs over the rails. */
    const plugged = new Set<number>()
    for (const unit of units) {
      if (!boardsFor(unit.ref).some((index) => boards.includes(index))) continue
      const nets = new Map<number, number>()
      for (const end of wiredEnds(wiring, unit)) {
        const net = wiring.netOf(end)
        if (net.ground || net.sources.length > 0)
          // A board joins its own ground pins: one place, however many holes.
          nets.set(net.index, unit.owner?.kind === 'board' ? 1 : (nets.get(net.index) ?? 0) + 1)
      }
      for (const [net, count] of nets) places.set(net, (places.get(net) ?? 0) + count)
      if (isRailsUnit(unit)) for (const net of nets.keys()) plugged.add(net)
    }
    const ranked = [...places]
      .filter(([net, count]) => count > FEW_PLACES || plugged.has(net))
      .sort((a, b) => Number(plugged.has(b[0])) - Number(plugged.has(a[0])) || b[1] - a[1] || a[0] - b[0])
    const of = (ground: boolean): number[] =>
      ranked.map(([net]) => net).filter((net) => wiring.nets[net]!.ground === ground)
    const give = (left: RailName, right: RailName, [first, second]: readonly number[]): void => {
      for (const board of boards) {
        if (first !== undefined) for (const node of grid.pieces(board, left)) rails.set(node, first)
        const other = second ?? first
        if (other !== undefined) for (const node of grid.pieces(board, right)) rails.set(node, other)
      }
    }
    give('L-', 'R-', of(true))
    give('L+', 'R+', of(false))
  }
  return rails
}

/** Ends of a unit whose net joins them with something else. */
export function wiredEnds(wiring: Wiring, unit: Unit): string[] {
  return pinsOf(unit)
    .map((pin) => `${unit.ref}.${pin}`)
    .filter((end) => wiring.netOf(end).wired)
}

export function pinsOf(unit: Unit): string[] {
  const named = (pins: readonly (string | null)[]): string[] => pins.filter((pin) => pin !== null)
  switch (unit.kind) {
    case 'straddle':
      return [...named(unit.left), ...named(unit.right), ...Object.keys(unit.apart)]
    case 'row':
      return [...named(unit.pins), ...Object.keys(unit.apart)]
    case 'beside':
      return Object.keys(unit.posts)
    case 'legs':
    case 'leads':
      return [...unit.pins]
  }
}
