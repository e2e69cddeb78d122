import type { Wiring } from '../wiring/model.ts'
import type { Grid } from './grid.ts'

/** Breadboards on which a unit may stand: those of its board, else those of none in particular. */
export function breadboardsByHome(wiring: Wiring, grid: Grid): (ref: string) => readonly number[] {
  const all = grid.boards.map((_, index) => index)
  const homes = new Map<string, string | undefined>([
    ...wiring.boards.map((board) => [board.ref, board.ref] as const),
    ...wiring.parts.map((part) => [part.ref, part.home?.ref] as const),
    ...wiring.supplies.map(({ ref }) => [ref, homeOfSupply(wiring, ref)] as const),
  ])
  const cache = new Map<string | undefined, readonly number[]>()
  return (ref) => {
    const home = homes.get(ref)
    const known = cache.get(home)
    if (known) return known
    const own = all.filter((index) => grid.boards[index]!.entry.for === home)
    const common = all.filter((index) => grid.boards[index]!.entry.for === undefined)
    const list = own.length > 0 ? own : common.length > 0 ? common : all
    cache.set(home, list)
    return list
  }
}

/** An outside supply belongs to the first board on its nets. */
function homeOfSupply(wiring: Wiring, ref: string): string | undefined {
  const ends = [...wiring.netOf(`${ref}.+`).ends, ...wiring.netOf(`${ref}.-`).ends]
  for (const end of ends) {
    const owner = wiring.terminal(end)?.owner
    if (owner?.kind === 'board') return owner.ref
    if (owner?.kind === 'part' && owner.home) return owner.home.ref
  }
  return undefined
}
