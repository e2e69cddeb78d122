import { entryOf } from '../base/entryOf.ts'
import type { Feed } from '../catalog/boardSchema.ts'
import { forwardOf } from '../catalog/forward.ts'
import type { GivenRail } from '../catalog/partSchema.ts'
import type { BoardInstance, Net, PartInstance, Source, SupplyInstance } from './model.ts'
import { cellsOf, stacksOf, weakest } from './stacks.ts'

export type Mutable<T> = { -readonly [K in keyof T]: T[K] }

/**
 * Marks grounds and sources. A board is fed by the first accepting pin whose net another source holds, else by its
 * socket; a pin that takes supply in gives none.
 */
export function placeSources(
  boards: readonly Mutable<BoardInstance>[],
  supplies: readonly SupplyInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Mutable<Net>,
  hasHost: (net: Net) => boolean,
): void {
  const give = (net: Mutable<Net>, source: Source): void => {
    net.sources = [...net.sources, source]
  }
  for (const board of boards)
    for (const pin of board.facts.pins) if (pin.kind === 'ground') netOf(`${board.ref}.${pin.id}`).ground = true
  const stacks = stacksOf(supplies, parts, netOf)
  const onTop = <T extends Pick<Source, 'volts' | 'limitMilliamps' | 'why'>>(ref: string, own: T): T => {
    const below = stacks.get(ref)
    if (!below) return own
    const limitMilliamps = weakest(own.limitMilliamps, below.limitMilliamps)
    return {
      ...own,
      volts: Math.round((own.volts + below.volts) * 1000) / 1000,
      above: below.ref,
      limitMilliamps,
      why: limitMilliamps === own.limitMilliamps ? own.why : `no more than what ${ref} stands on gives`,
    }
  }
  for (const { ref, entry } of supplies) {
    const why = entry.limitMilliamps === undefined ? 'no limit given' : 'as given in the plan'
    const own = { end: `${ref}.+`, ref, volts: entry.volts, limitMilliamps: entry.limitMilliamps, why }
    give(netOf(`${ref}.+`), onTop(ref, own))
    if (!stacks.has(ref)) netOf(`${ref}.-`).ground = true
  }
  const rails = new Set(parts.flatMap((part) => part.part.rails.map((rail) => ({ part, rail }))))
  const asleep = new Set(boards)
  // What is fed by another source comes alive after it; a board that nothing feeds takes its socket.
  const wake = (board: Mutable<BoardInstance>, feed: Feed | undefined): void => {
    asleep.delete(board)
    feedBoard(board, feed, netOf, give)
  }
  const links = stiffLinks(boards, parts, netOf, hasHost)
  const lead = (): boolean => {
    let more = false
    for (const { from, to, drop } of links) {
      const source = from.sources[0]
      const volts = source && Math.round((source.volts - drop) * 1000) / 1000
      if (!source || volts === undefined || volts <= 0 || to.sources.length > 0 || to.ground) continue
      give(to, drop === 0 ? source : { ...source, volts })
      more = true
    }
    return more
  }
  const wired = (board: BoardInstance): boolean =>
    board.board.feeds.some((feed) => feed.pins.some((pin) => netOf(`${board.ref}.${pin}`).wired))
  for (;;) {
    let more = lead()
    for (const one of [...rails].filter(({ part, rail }) => railAlive(part, rail, netOf))) {
      const { part, rail } = one
      rails.delete(one)
      more = true
      const volts = typeof rail.volts === 'object' ? entryOf(part.options, rail.volts.option) : rail.volts
      const end = `${part.ref}.${rail.pin}`
      if (typeof volts === 'number')
        give(
          netOf(end),
          onTop(part.ref, {
            end,
            ref: part.ref,
            volts,
            limitMilliamps: byInput(
              rail,
              rail.from === undefined ? undefined : netOf(`${part.ref}.${rail.from}`).sources[0]?.volts,
            ),
            why: rail.why,
          }),
        )
    }
    for (const board of [...asleep]) {
      const fed = board.board.feeds.find((feed) =>
        feed.pins.some((pin) => netOf(`${board.ref}.${pin}`).sources.length > 0),
      )
      if (!fed) continue
      wake(board, fed)
      more = true
    }
    if (more) continue
    const next = [...asleep].find((board) => !wired(board)) ?? [...asleep][0]
    if (!next) break
    wake(
      next,
      next.board.feeds.find((feed) => feed.pins.length === 0),
    )
  }
  // A battery stands on its own minus, whether a board is on it or not.
  for (const { ref, minus, speaks } of cellsOf([], parts))
    for (const net of minus.map(netOf))
      if (!speaks && !stacks.has(ref) && net.wired && net.sources.length === 0 && !hasHost(net)) net.ground = true
  // A throw to ground beside one to a supply changes between the two: what is fed through it is fed.
  for (let more = true; more; ) {
    more = false
    for (const { from, to, drop } of links)
      if (drop === 0 && from.ground && !to.ground && to.sources.length === 0) {
        to.ground = true
        more = true
      }
  }
}

/** Share of a rectifier's forward volts at its full current that it takes at the currents of a breadboard. */
const DROP_SHARE = 0.7

/**
 * What leads a supply on. Shunts, and contacts in the way of a supply, both ways: whatever holds one side holds the other
 * as well. An output that only ever joins its load with a supply does so as a contact. A contact at a signal is none of
 * these: there it makes a level, now one and now the other. A diode from its anode on, less its volts.
 */
function stiffLinks(
  boards: readonly BoardInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Mutable<Net>,
  hasHost: (net: Net) => boolean,
): { readonly from: Mutable<Net>; readonly to: Mutable<Net>; readonly drop: number }[] {
  const fed = new Set<Net>([
    ...boards.flatMap((board) =>
      board.board.feeds.flatMap((feed) => feed.pins.map((pin) => netOf(`${board.ref}.${pin}`))),
    ),
    ...parts.flatMap(({ ref, part }) =>
      part.supplies.flatMap((use) => [...use.pins, ...use.ground].map((pin) => netOf(`${ref}.${pin}`))),
    ),
  ])
  const highSides = parts.flatMap(({ ref, part }) =>
    part.channels.flatMap(({ output, supply }) => {
      const does = part.provides.filter(({ pins }) => pins.includes(output)).flatMap((one) => one.does)
      if (supply === undefined || does.length === 0 || does.some((one) => one !== 'source')) return []
      const [from, to] = [netOf(`${ref}.${supply}`), netOf(`${ref}.${output}`)]
      return fed.has(to) && !hasHost(to) ? [{ from, to, drop: 0 }] : []
    }),
  )
  const inner = parts.flatMap((owner) => {
    const { ref, part } = owner
    return part.inner
      .filter(
        (inner) =>
          ['shunt', 'contact', 'switch'].includes(inner.kind) ||
          (inner.kind === 'diode' && inner.mostMilliamps === undefined && inner.reverse === undefined),
      )
      .flatMap(({ kind, between: [a, b], forward }) => {
        const [one, two] = [netOf(`${ref}.${a}`), netOf(`${ref}.${b}`)]
        if (one === two || !one.wired || !two.wired) return []
        const leads = (to: Net): boolean => kind === 'shunt' || (fed.has(to) && !hasHost(to))
        const drop = kind === 'diode' ? (forwardOf(part, owner.options, forward) ?? 0) * DROP_SHARE : 0
        return [
          ...(leads(two) ? [{ from: one, to: two, drop }] : []),
          ...(leads(one) && kind !== 'diode' ? [{ from: two, to: one, drop }] : []),
        ]
      })
  })
  return [...highSides, ...inner]
}

/** The limit of a rail at the volts that feed it: past the last step the last one holds. */
function byInput(
  limit: { readonly milliamps?: number | undefined; readonly byInput: GivenRail['byInput'] },
  volts: number | undefined,
): number | undefined {
  if (volts === undefined) return limit.milliamps
  return (limit.byInput.find(({ upTo }) => volts <= upTo) ?? limit.byInput.at(-1))?.milliamps ?? limit.milliamps
}

/** A regulator gives its voltage while its input is fed; a socket or a cell always does. */
const railAlive = (part: PartInstance, rail: GivenRail, netOf: (end: string) => Net): boolean =>
  rail.from === undefined || netOf(`${part.ref}.${rail.from}`).sources.length > 0

function feedBoard(
  board: Mutable<BoardInstance>,
  feed: Feed | undefined,
  netOf: (end: string) => Mutable<Net>,
  give: (net: Mutable<Net>, source: Source) => void,
): void {
  board.feed = feed?.id
  for (const rail of board.board.rails) {
    if (!feed?.rails.includes(rail.id) || rail.pins.some((pin) => feed.pins.includes(pin))) continue
    const first = rail.pins[0] as string
    const limit = rail.limits.find((one) => one.feed === feed.id) ?? rail.limits.find((one) => one.feed === 'any')
    const fedAt = feed.pins.flatMap((pin) => netOf(`${board.ref}.${pin}`).sources)[0]?.volts
    const milliamps = limit && byInput(limit, fedAt)
    const nets = new Set(rail.pins.map((pin) => netOf(`${board.ref}.${pin}`)))
    for (const net of nets)
      give(net, {
        end: `${board.ref}.${first}`,
        ref: board.ref,
        volts: rail.volts,
        limitMilliamps: milliamps,
        why: limit?.why ?? 'no limit known',
      })
  }
}
