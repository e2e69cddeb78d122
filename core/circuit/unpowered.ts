import { volts } from '../catalog/common.ts'
import { levelsOf, PROTECTION_DIODE } from '../wiring/levels.ts'
import type { BoardInstance, Host, PartInstance, Source, Terminal, Wiring } from '../wiring/model.ts'
import { linesOfSignal } from './lines.ts'
import { networkOf } from './still.ts'

/** A line that goes on feeding a pin while the supply behind that pin is off. */
export interface FedWhileOff {
  readonly driver: string
  readonly receiver: string
  /** Ref of the part or board that is without supply meanwhile, and what would have to be off. */
  readonly ref: string
  readonly supply: string
  /** What flows through the protection diode of the pin, in milliamperes; without bound where nothing limits it. */
  readonly milliamps: number
}

/**
 * Lines between two things that live on different supplies, into a pin whose limit follows its own supply: without that
 * supply a diode leads from the pin to the empty rail. A pin that bears its volts whatever its supply has no such diode.
 */
export function fedWhileOff(wiring: Wiring): FedWhileOff[] {
  const known = new Map<string, ReadonlySet<string>>()
  const rootsOf = (owner: Owner): ReadonlySet<string> => {
    let roots = known.get(owner.ref)
    if (!roots) {
      roots = rootsAt(wiring, owner)
      known.set(owner.ref, roots)
    }
    return roots
  }
  const apart = (one: Owner, two: Owner): boolean => {
    const [a, b] = [rootsOf(one), rootsOf(two)]
    return a.size > 0 && b.size > 0 && [...b].every((root) => !a.has(root))
  }
  return wiring.signals
    .filter((use) => use.state !== 'tied' && use.hosts.some(({ host }) => apart(use.part, ownerOf(host))))
    .flatMap((use) => linesOfSignal(wiring, use).map((line) => ({ line, use })))
    .flatMap(({ use, line }): FedWhileOff[] => {
      const { driver, receiver, high, openDrain } = line
      const [from, to] = [driver, receiver].map((end) => wiring.terminal(end)?.owner)
      if (openDrain || high === undefined || !isOwner(from) || !isOwner(to) || !apart(from, to)) return []
      const limit = receiver === use.end ? levelsOf(use).most : wiring.terminal(receiver)?.host?.levels.most
      const unfed = volts(limit, 0)
      if (limit === undefined || limit.factor === 0 || unfed === undefined || high <= unfed + PROTECTION_DIODE)
        return []
      const [supply = ''] = rootsOf(to)
      const ohms = networkOf(wiring).thevenin(wiring.netOf(receiver), { net: wiring.netOf(driver), volts: high })?.ohms
      return [{ driver, receiver, ref: to.ref, supply, milliamps: ((high - PROTECTION_DIODE) / (ohms ?? 0)) * 1000 }]
    })
}

type Owner = BoardInstance | PartInstance

const ownerOf = (host: Host): Owner => (host.board ?? host.provider) as Owner

const isOwner = (owner: Terminal['owner'] | undefined): owner is Owner => owner !== undefined && owner.kind !== 'supply'

/** Supplies of the plan, or sockets of boards, from which something lives. */
function rootsAt(wiring: Wiring, owner: Owner): ReadonlySet<string> {
  const roots =
    owner.kind === 'board'
      ? [rootOfBoard(wiring, owner, new Set())]
      : owner.supplies.map(({ source }) => rootOf(wiring, source, new Set()))
  return new Set(roots.filter((one) => one !== undefined))
}

function rootOf(wiring: Wiring, source: Source | undefined, seen: Set<string>): string | undefined {
  if (!source || seen.has(source.ref)) return undefined
  seen.add(source.ref)
  const board = wiring.boards.find(({ ref }) => ref === source.ref)
  if (board) return rootOfBoard(wiring, board, seen)
  const part = wiring.parts.find(({ ref }) => ref === source.ref)
  return part ? rootOfPart(wiring, part, source, seen) : source.ref
}

function rootOfBoard(wiring: Wiring, board: BoardInstance, seen: Set<string>): string | undefined {
  const feed = board.board.feeds.find(({ id }) => id === board.feed)
  if (!feed || feed.pins.length === 0) return `${board.ref}'s socket`
  const nets = feed.pins.map((pin) => wiring.netOf(`${board.ref}.${pin}`))
  return rootOf(
    wiring,
    nets.flatMap(({ sources }) => sources).find((one) => one.ref !== board.ref),
    seen,
  )
}

function rootOfPart(wiring: Wiring, { ref, part }: PartInstance, source: Source, seen: Set<string>) {
  const rail = part.rails.find(({ pin }) => `${ref}.${pin}` === source.end)
  return rail?.from === undefined ? ref : rootOf(wiring, wiring.netOf(`${ref}.${rail.from}`).sources[0], seen)
}
