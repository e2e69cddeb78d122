import { entryOf } from '../base/entryOf.ts'
import type { Feed } from '../catalog/boardPower.ts'
import { innerFact } from '../catalog/innerFact.ts'
import type { GivenRail } from '../catalog/partSchema.ts'
import { bodyDiodes } from './asGuard.ts'
import type { BoardInstance, Net, PartInstance, Source, SupplyInstance } from './model.ts'
import { cellsOf, stacksOf, weakest } from './stacks.ts'
import { switchedLegs } from './turnedLegs.ts'

export type Mutable<T> = { -readonly [K in keyof T]: T[K] }

/**
 * Marks grounds and sources. A board is fed by the first accepting pin whose net another source holds, else by its
 * socket; a pin that takes supply in gives none. Returns, of nets to which a part leads a supply on, the net it comes from.
 */
export function placeSources(
  boards: readonly Mutable<BoardInstance>[],
  supplies: readonly SupplyInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Mutable<Net>,
  hasHost: (net: Net) => boolean,
): ReadonlyMap<Net, Net> {
  const cameFrom = new Map<Net, Net>()
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
  const links = stiffLinks(parts, netOf, hasHost)
  const leads = inLead(links, fedNets(boards, parts, netOf), hasHost)
  const isAcross = acrossCoils(parts, netOf)
  const lead = (): boolean => {
    let more = false
    // Where several supplies lead to one net, over diodes or a switch that chooses, the highest counts.
    const reach = ({ from, drop }: (typeof links)[number]): number => (from.sources[0]?.volts ?? 0) - drop
    for (const link of links.toSorted((a, b) => reach(b) - reach(a))) {
      const { from, to, drop } = link
      if (drop > 0 && isAcross(from, to)) continue
      const source = from.sources[0]
      const volts = source && Math.round((source.volts - drop) * 1000) / 1000
      if (!source || volts === undefined || volts <= 0 || to.sources.length > 0 || to.ground || !leads(link)) continue
      give(to, drop === 0 ? source : { ...source, volts })
      cameFrom.set(to, from)
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
    for (const link of links)
      if (link.drop === 0 && link.from.ground && !link.to.ground && link.to.sources.length === 0 && leads(link)) {
        link.to.ground = true
        more = true
      }
  }
  return cameFrom
}

/** Share of a rectifier's forward volts at its full current that it takes at the currents of a breadboard. */
const DROP_SHARE = 0.7

/** A way on which a part leads a supply on, less the volts that it drops. */
interface Link {
  readonly part: PartInstance
  readonly from: Mutable<Net>
  readonly to: Mutable<Net>
  readonly drop: number
  /** Leads only to what a supply feeds: straight, or through more parts in the same lead. */
  readonly onlyFed: boolean
}

/**
 * What leads a supply on. Shunts, and contacts in the way of a supply, both ways: whatever holds one side holds the other
 * as well. An output that only ever joins its load with a supply does so as a contact. A contact at a signal is none of
 * these: there it makes a level, now one and now the other. A diode from its anode on, less its volts, and the body diode
 * of a transistor whose channel takes over.
 */
function stiffLinks(
  parts: readonly PartInstance[],
  netOf: (end: string) => Mutable<Net>,
  hasHost: (net: Net) => boolean,
): Link[] {
  const highSides = parts.flatMap((owner) => {
    const { ref, part } = owner
    return part.channels.flatMap(({ output, supply }): Link[] => {
      const does = part.provides.filter(({ pins }) => pins.includes(output)).flatMap((one) => one.does)
      if (supply === undefined || does.length === 0 || does.some((one) => one !== 'source')) return []
      const [from, to] = [netOf(`${ref}.${supply}`), netOf(`${ref}.${output}`)]
      return [{ part: owner, from, to, drop: 0, onlyFed: true }]
    })
  })
  const inner = parts.flatMap((owner) => {
    const { ref, part } = owner
    return part.inner
      .filter(
        (inner) =>
          ['shunt', 'contact', 'switch'].includes(inner.kind) ||
          (inner.kind === 'diode' && inner.mostMilliamps === undefined && inner.reverse === undefined),
      )
      .flatMap(({ kind, between: [a, b], forward }): Link[] => {
        const [one, two] = [netOf(`${ref}.${a}`), netOf(`${ref}.${b}`)]
        if (one === two || !one.wired || !two.wired) return []
        const onlyFed = kind !== 'shunt'
        const drop = kind === 'diode' ? (innerFact(part, owner.options, forward) ?? 0) * DROP_SHARE : 0
        const on = { part: owner, from: one, to: two, drop, onlyFed }
        return kind === 'diode' ? [on] : [on, { ...on, from: two, to: one }]
      })
  })
  const guards = bodyDiodes(parts, netOf, hasHost).map((one): Link => ({ ...one, drop: 0, onlyFed: true }))
  return [...highSides, ...inner, ...guards]
}

/**
 * Says whether a link lies in the way of a supply: at its far side, or behind more parts in the same lead, something takes
 * a supply that has none yet. No pin that speaks lies on the way.
 */
function inLead(
  links: readonly Link[],
  fed: ReadonlySet<Net>,
  hasHost: (net: Net) => boolean,
): (link: Link) => boolean {
  const from = new Map<Net, Link[]>()
  for (const link of links) {
    const known = from.get(link.from)
    if (known) known.push(link)
    else from.set(link.from, [link])
  }
  const isFree = (net: Net): boolean => !net.ground && net.sources.length === 0 && !hasHost(net)
  // Each link once: contacts in rows and columns have more ways through than anybody could follow.
  const feeds = (link: Link): boolean => {
    const seen = new Set([link])
    for (const at of seen)
      for (const next of from.get(at.to) ?? []) {
        if (next.part === at.part || next.part === link.part || !isFree(next.to)) continue
        if (fed.has(next.to)) return true
        seen.add(next)
      }
    return false
  }
  return (link) => !link.onlyFed || (!hasHost(link.to) && (fed.has(link.to) || feeds(link)))
}

/** Nets at which a board or a part takes a supply. */
const fedNets = (
  boards: readonly BoardInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Net,
): ReadonlySet<Net> =>
  new Set<Net>([
    ...boards.flatMap((board) =>
      board.board.feeds.flatMap((feed) => feed.pins.map((pin) => netOf(`${board.ref}.${pin}`))),
    ),
    ...parts.flatMap(({ ref, part }) => {
      // A coil is fed at either leg.
      const legs = switchedLegs(part)
      const pins = legs ? [legs.other, legs.signal] : part.supplies.flatMap((use) => [...use.pins, ...use.ground])
      return pins.map((pin) => netOf(`${ref}.${pin}`))
    }),
  ])

/** Between the two legs of a coil lies the diode that takes its kick: that feeds nothing. */
const acrossCoils = (parts: readonly PartInstance[], netOf: (end: string) => Net): ((a: Net, b: Net) => boolean) => {
  const pairs = parts.flatMap(({ ref, part }) => {
    const legs = switchedLegs(part)
    return legs ? [[netOf(`${ref}.${legs.other}`), netOf(`${ref}.${legs.signal}`)] as const] : []
  })
  return (a, b) => pairs.some(([one, two]) => (one === a && two === b) || (one === b && two === a))
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
