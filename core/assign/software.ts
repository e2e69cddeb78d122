import { busNeed } from '../wiring/buses.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { canListen, isOnController, softwareBus } from '../wiring/softwareBus.ts'
import { blockWords } from './block.ts'
import { candidates } from './candidates.ts'
import { connect, type Decision } from './progress.ts'

/** Serial lines that programs make, and what keeps others from it, by end. */
export interface BySoftware {
  readonly decisions: readonly Decision[]
  readonly refusals: ReadonlyMap<string, string>
}

/**
 * Serial lines for which no controller is left, on plain pins, where programs of the board can make them: one a board,
 * since a program listens to one at a time, and only where its part speaks slowly enough.
 */
export function bySoftware(wiring: Wiring, left: readonly SignalUse[]): BySoftware {
  const busy = new Map<BoardInstance, string>(
    wiring.buses.flatMap((bus) =>
      softwareBus(bus) && bus.board ? [[bus.board, bus.parts.map(({ ref }) => ref).join(', ')] as const] : [],
    ),
  )
  const byPart = new Map<PartInstance, SignalUse[]>()
  for (const { end } of left) {
    const use = wiring.signal(end)
    if (use && busNeed(use.facts.needs)?.kind === 'uart') byPart.set(use.part, [...(byPart.get(use.part) ?? []), use])
  }
  const decisions: Decision[] = []
  const refusals = new Map<string, string>()
  for (const [part, uses] of byPart) {
    const board = part.home
    const way = board?.board.software.find(({ kind }) => kind === 'uart')
    if (!board || !way) continue
    const refuse = (why: string): void => {
      for (const { end } of uses) refusals.set(end, `by software: ${why}`)
    }
    const baud = part.mode?.uart?.baud
    const listened = busy.get(board)
    if (baud && !baud.some((one) => one <= way.most)) {
      refuse(`${Math.min(...baud)} baud, and ${way.most} at most`)
      continue
    }
    if (listened !== undefined) {
      refuse(`a program listens to one line at a time, and ${listened} has it`)
      continue
    }
    const taken = new Set<Host>()
    const found = uses.map((use) => {
      const pin = pinFor(wiring, board, use, taken)
      if (pin.host) taken.add(pin.host)
      return { use, ...pin }
    })
    const without = found.filter(({ host }) => host === undefined)
    if (without.length > 0) {
      const others = without.map(({ use }) => use.end).join(', ')
      for (const { use, host, refused } of found)
        refusals.set(use.end, `by software: ${host === undefined ? refused : `goes with ${others}, without a pin`}`)
      continue
    }
    busy.set(board, part.ref)
    for (const { use, host } of found) if (host) decisions.push(connect(use.tail, host.end, `by software: ${way.note}`))
  }
  return { decisions, refusals }
}

/** The cheapest plain pin for a line, one that hears an edge where the program listens; or what keeps it off most pins. */
function pinFor(
  wiring: Wiring,
  board: BoardInstance,
  use: SignalUse,
  taken: ReadonlySet<Host>,
): { readonly host: Host | undefined; readonly refused: string } {
  const listens = use.facts.direction === 'out'
  const { orElse: _, ...facts } = use.facts
  const plain: SignalUse = { ...use, facts: { ...facts, needs: listens ? 'digital-in' : 'digital-out' } }
  const own = candidates(wiring, plain).filter(({ host }) => host.board === board)
  const host = own.find(
    ({ blocked, host: one }) =>
      blocked === undefined &&
      !taken.has(one) &&
      !isOnController(board, 'uart', one.pin) &&
      (!listens || canListen(board, one.pin)),
  )?.host
  const blocks = own.flatMap(({ blocked }) => (blocked ? [blockWords(blocked)] : []))
  const count = (word: string): number => blocks.filter((one) => one === word).length
  const [most] = [...new Set(blocks)].sort((a, b) => count(b) - count(a))
  return { host, refused: most ?? 'no free pin' }
}
