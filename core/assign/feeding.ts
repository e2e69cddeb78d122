import { UnionFind } from '../base/unionFind.ts'
import type { Feed } from '../catalog/boardPower.ts'
import { isCell } from '../circuit/reach.ts'
import { CELL_VOLTS, cellPlaceOf, isOnCharger } from '../wiring/cellPlaces.ts'
import { areAlike } from '../wiring/levels.ts'
import type { BoardInstance, Source, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
import { bestSource, groundEnd, groundPost, logicSupply, type Planned } from '../wiring/supply.ts'
import { openEnds } from './openEnds.ts'
import { after, connect, type Decision, type Progress, type Refusal } from './progress.ts'
import { isLoose } from './spares.ts'
import { Work } from './work.ts'

/** Feeds boards without a socket and the converters, one after the other: what these give can feed all others. */
export function feedConverters(wiring: Wiring, chosen: (ref: string) => boolean): Progress {
  const work = new Work(wiring)
  const refused: Refusal[] = []
  work.add(cellsToTheirPlace(work.now, chosen))
  work.add(feedUnfed(work.now))
  for (const { ref, part } of wiring.parts) {
    if (!chosen(ref) || part.category !== 'power') continue
    work.add(feedPart(work.now, ref, refused))
  }
  work.add(feedUnfed(work.now))
  // What comes with a line from a computer feeds what nothing else does.
  work.add(feedUnfed(work.now, true))
  return { wiring: work.now, decisions: work.decisions, refused }
}

/**
 * Loose lithium cells go to the chargers of the kit, plus and minus, and to what reads the state of a cell. What a
 * charger gives is taken from its output then, behind its protection.
 */
function cellsToTheirPlace(wiring: Wiring, chosen: (ref: string) => boolean): Decision[] {
  const loose = new Set(wiring.parts.filter((part) => isLoose(wiring, part)).map(({ ref }) => ref))
  const cells = cellsOf([], wiring.parts).filter(
    ({ ref, volts }) => chosen(ref) && volts >= CELL_VOLTS.least && volts <= CELL_VOLTS.most && loose.has(ref),
  )
  const free = [...cells]
  return wiring.parts.flatMap((part) => {
    const place = chosen(part.ref) ? cellPlaceOf(part) : undefined
    if (!place?.isCharger) {
      const [cell] = cells
      return place && cell && !wiring.netOf(place.plus).wired
        ? [connect(place.plus, cell.plus, 'reads the state of the cell')]
        : []
    }
    const isFree = [place.plus, place.minus].every((end) => end !== undefined && !wiring.netOf(end).wired)
    const cell = isFree ? free.shift() : undefined
    const [minus] = cell?.minus ?? []
    if (!cell || minus === undefined || place.minus === undefined) return []
    return [
      connect(cell.plus, place.plus, 'the cell that it charges'),
      connect(minus, place.minus, 'its minus goes to the protection, not to ground'),
    ]
  })
}

/** Feeds every other part that is open, and joins the grounds. */
export function feed(wiring: Wiring, chosen: (ref: string) => boolean): Progress {
  const usual = feedParts(wiring, chosen)
  const spare = feedFromSpare(after(wiring, usual.decisions), wiring, chosen)
  // What feeds a board decides what its rails give: with that known the parts choose once more.
  const { decisions, refused } = spare.length === 0 ? usual : feedParts(after(wiring, spare), chosen)
  const work = new Work(wiring)
  work.add([...decisions, ...spare])
  const moved = toIdleConverters(work.now, work.decisions, chosen)
  if (moved !== work.decisions) work.replace(moved)
  work.add(joinGrounds(work.now))
  return { wiring: work.now, decisions: work.decisions, refused }
}

/** Wires of the supplies and grounds of all parts that make none for others, each knowing what was decided before it. */
function feedParts(
  wiring: Wiring,
  chosen: (ref: string) => boolean,
): { readonly decisions: readonly Decision[]; readonly refused: Refusal[] } {
  const work = new Work(wiring)
  const refused: Refusal[] = []
  const planned: Planned = { loads: new Map(), volts: new Map() }
  work.add(
    wiring.parts.flatMap(({ ref, part }) =>
      chosen(ref) && part.category !== 'power' ? feedPart(wiring, ref, refused, planned) : [],
    ),
  )
  // What a part gives that was fed just now, the 5 V of a motor driver, feeds those that found nothing.
  for (const { ref, part } of refused.length > 0 ? wiring.parts : []) {
    const mine = refused.filter(({ end }) => end.startsWith(`${ref}.`))
    if (mine.length === 0 || part.category === 'power') continue
    const again: Refusal[] = []
    const found = feedPart(work.now, ref, again)
    if (again.length >= mine.length) continue
    refused.splice(0, refused.length, ...refused.filter((one) => !mine.includes(one)), ...again)
    work.add(found)
  }
  return { decisions: withoutRounds(wiring, work.decisions), refused }
}

/** Wires that join what is not joined by wires yet: a knob whose foot is on a display goes to ground over that. */
function withoutRounds({ plan }: Wiring, decisions: readonly Decision[]): readonly Decision[] {
  const sets = new UnionFind()
  for (const [from, to] of plan.wires) sets.join(from, to)
  return decisions.filter(({ from, to }) => {
    sets.add(from)
    sets.add(to)
    const isNew = sets.find(from) !== sets.find(to)
    sets.join(from, to)
    return isNew
  })
}

/**
 * A converter of the kit that would feed nothing is there for what takes its volts: of the parts that were to take the
 * same from a board, the one that asks for most.
 */
function toIdleConverters(
  fed: Wiring,
  decisions: readonly Decision[],
  chosen: (ref: string) => boolean,
): readonly Decision[] {
  const isBoard = (ref: string): boolean => fed.boards.some((board) => board.ref === ref)
  const supplies = fed.parts.flatMap(({ supplies, ref }) =>
    supplies.map(({ source, pins, peakMilliamps }) => ({ source, pins, ref, peak: peakMilliamps ?? 0 })),
  )
  return fed.parts.reduce<readonly Decision[]>((sofar, { ref, part, supplies: own }) => {
    const [rail, ...more] = part.rails
    if (part.category !== 'power' || rail?.from === undefined || more.length > 0 || !chosen(ref)) return sofar
    const out = `${ref}.${rail.pin}`
    const [gives] = fed.netOf(out).sources
    // What a board has is not raised to what it has as well.
    if (rail.makes === 'more' && fed.boards.some((board) => comesFrom(fed, ref, board.ref))) return sofar
    if (fed.netOf(out).wired || !gives || !own.every(({ source }) => source)) return sofar
    const [most] = supplies
      .filter(
        ({ source, peak }) =>
          source && isBoard(source.ref) && areAlike(source.volts, gives.volts) && peak <= (gives.limitMilliamps ?? 0),
      )
      .filter(({ pins }) => sofar.some(({ from }) => pins.includes(from)))
      .sort((a, b) => b.peak - a.peak)
    const back = returnEnd(fed, out)
    if (!most || back === undefined) return sofar
    return sofar.map((one) => {
      if (most.pins.includes(one.from)) return connect(one.from, out, `${gives.volts} V, which ${ref} is there to give`)
      const isGround = one.from.startsWith(`${most.ref}.`) && fed.netOf(one.from).ground
      return isGround ? connect(one.from, back, one.why) : one
    })
  }, decisions)
}

/** Wires of a part's own supplies and grounds; what finds none is added to `refused`, what is taken to `planned`. */
function feedPart(now: Wiring, ref: string, refused: Refusal[], planned?: Planned): Decision[] {
  const part = now.parts.find((one) => one.ref === ref)!
  const wanted: Decision[] = []
  for (const open of openEnds(now, part)) {
    if (wanted.some((one) => one.from === open.end)) continue
    if (open.kind === 'supply') {
      const use = part.supplies.find((one) => one.pins.includes(open.end))!
      const source = bestSource(now, part, use, planned)
      if (!source) {
        refused.push({
          end: open.end,
          needs: `${use.facts.least} to ${use.facts.most} V`,
          reasons: ['no supply of the plan gives that voltage'],
        })
        continue
      }
      const { facts } = use
      wanted.push(
        connect(
          open.end,
          source.end,
          `${source.volts} V, in its range of ${facts.least} to ${facts.most} V${facts.heavy ? '; kept off the logic supply where there is another' : ''}`,
        ),
      )
      planned?.loads.set(source.end, (planned.loads.get(source.end) ?? 0) + (use.peakMilliamps ?? 0))
      if (use.facts === logicSupply(part)?.facts) planned?.volts.set(ref, facts.logicVolts ?? source.volts)
    } else if (open.kind === 'ground' && open.required) {
      const fed = wanted.find((one) => part.supplies.some((use) => use.pins.includes(one.from)))
      const target = (fed && returnEnd(now, fed.to)) ?? groundEnd(now, part)
      if (target) wanted.push(connect(open.end, target, 'ground of what feeds it'))
      else refused.push({ end: open.end, needs: 'ground', reasons: ['the plan has no board and no supply'] })
    }
  }
  return wanted
}

/** Feeds boards that have no socket of their own from the first source that suits one of their pins. */
function feedUnfed(wiring: Wiring, byAdapters = false): Decision[] {
  const sources = [
    ...(byAdapters ? [] : wiring.supplies.map(({ ref }) => `${ref}.+`)),
    ...wiring.parts.flatMap((one) => {
      const gives = byAdapters ? isCell(one) && one.part.category !== 'power' : one.part.category === 'power'
      return gives ? one.part.rails.map(({ pin }) => `${one.ref}.${pin}`) : []
    }),
  ]
    // A cell on its charger feeds through the output of that.
    .filter((end) => !isOnCharger(wiring, end))
    .flatMap((end) => wiring.netOf(end).sources)
  return wiring.boards.flatMap((board) =>
    (board.feed === undefined ? feedFrom(wiring, board, sources) : []).slice(0, 1),
  )
}

/**
 * Feeds a board that stands on its socket from a battery, a socket or a converter of the kit that feeds nothing else, the
 * converter before what feeds it. A supply of the plan is taken for a plan without wires; what the maker wired stays.
 */
function feedFromSpare(now: Wiring, before: Wiring, chosen: (ref: string) => boolean): Decision[] {
  const gives = now.parts.flatMap(({ ref, part }) =>
    chosen(ref) && part.category === 'power' && part.rails.length === 1
      ? part.rails.flatMap(({ pin, from }) => ({ end: `${ref}.${pin}`, isMade: from !== undefined }))
      : [],
  )
  const supplies =
    before.plan.wires.length === 0 ? now.supplies.map(({ ref }) => ({ end: `${ref}.+`, isMade: false })) : []
  const spare = [...gives, ...supplies]
    .filter(({ end }) => !now.netOf(end).wired)
    .sort((a, b) => Number(b.isMade) - Number(a.isMade))
    .flatMap(({ end }) => now.netOf(end).sources)
  const used = new Set<string>()
  return now.boards.flatMap((board) => {
    const { feeds } = board.board
    if (feeds.find(({ id }) => id === board.feed)?.pins.length !== 0) return []
    const [found] = feedFrom(
      now,
      board,
      spare.filter(({ end, ref }) => !used.has(end) && !comesFrom(now, ref, board.ref)),
    )
    const own = found ?? cellFor(now, board, gives)
    if (own) used.add(own.from)
    return own ? [own] : []
  })
}

/** A lithium cell of the kit goes to the board that charges it, whatever else hangs on that cell. */
function cellFor(
  now: Wiring,
  { ref, board }: BoardInstance,
  gives: readonly { readonly end: string; readonly isMade: boolean }[],
): Decision | undefined {
  const feed = board.feeds.find(({ charges }) => charges)
  const [pin] = feed?.pins ?? []
  if (!feed || pin === undefined || now.netOf(`${ref}.${pin}`).wired) return undefined
  const cell = gives
    .filter(({ end, isMade }) => !isMade && !isOnCharger(now, end))
    .flatMap(({ end }) => now.netOf(end).sources)
    .find(({ volts }) => volts >= feed.least && volts <= feed.most)
  return cell && connect(cell.end, `${ref}.${pin}`, 'the cell that the board charges and runs from')
}

/** Whether what a converter gives is made of what a board gives, through others or straight: it cannot feed that board. */
function comesFrom(wiring: Wiring, ref: string, board: string, seen = new Set<string>()): boolean {
  const part = wiring.parts.find((one) => one.ref === ref)
  if (!part || seen.has(ref)) return ref === board
  seen.add(ref)
  return part.supplies.some(({ source }) => source !== undefined && comesFrom(wiring, source.ref, board, seen))
}

/** Wires from sources to pins at which a board takes them, best first: one that leaves its socket free before others. */
function feedFrom(wiring: Wiring, board: BoardInstance, sources: readonly Source[]): Decision[] {
  return sources
    .flatMap((source) =>
      feedsFor(board, source.volts)
        // A supply that was not bought for the board is not tied to a pin at which it may meet that of USB.
        .filter(({ alone }) => !alone || wiring.supplies.every(({ ref }) => ref !== source.ref))
        .filter((feed) => railsLost(wiring, board, feed, source.volts).length === 0)
        .map((feed) => ({ source, feed })),
    )
    .sort((a, b) => Number(a.feed.alone ?? false) - Number(b.feed.alone ?? false))
    .map(({ source, feed }) =>
      connect(source.end, `${board.ref}.${feed.pins[0]}`, `${source.volts} V suits ${feed.title}`),
    )
}

/** Where a board takes so many volts in at its pins. */
export const feedsFor = ({ board }: BoardInstance, volts: number): readonly Feed[] =>
  board.feeds.filter(({ pins, least, most }) => pins.length > 0 && volts >= least && volts <= most)

/** Posts of a board from which something takes its supply, and that give nothing, or other volts, while it is fed there. */
export const railsLost = ({ netOf }: Wiring, { ref, board }: BoardInstance, feed: Feed, at: number): string[] =>
  board.rails
    .filter(({ id, pins, volts }) =>
      pins.some((pin) => feed.pins.includes(pin)) ? !areAlike(at, volts) : !feed.rails.includes(id),
    )
    .flatMap(({ pins }) => pins.map((pin) => `${ref}.${pin}`).filter((end) => netOf(end).wired))

/** The ground that belongs to a source: a supply's own minus, a converter's own, or its board's first ground hole. */
export function returnEnd(wiring: Wiring, source: string): string | undefined {
  const ref = lowestOf(wiring, source.slice(0, source.indexOf('.')))
  if (wiring.supplies.some((one) => one.ref === ref)) return `${ref}.-`
  // Of a converter with a ground on either side the last is that of its output.
  const own = wiring.parts.find((one) => one.ref === ref)?.part.pins.findLast((pin) => pin.role === 'ground')
  if (own) return `${ref}.${own.id}`
  return groundPost(wiring.boards.find((one) => one.ref === ref))
}

/** A supply, and the converters that it feeds, through others or straight. */
function refsBehind(wiring: Wiring, supply: string): ReadonlySet<string> {
  const refs = new Set([supply])
  for (const ref of refs)
    for (const part of wiring.parts)
      if (part.part.rails.length > 0 && part.supplies.some(({ source }) => source?.ref === ref)) refs.add(part.ref)
  return refs
}

/** Joins the minus of every supply in use with the ground of the board whose parts it feeds. */
function joinGrounds(wiring: Wiring): Decision[] {
  const decisions: Decision[] = []
  for (const supply of cellsOf(wiring.supplies, wiring.parts)) {
    const [end] = supply.minus
    // Of cells in a row only the lowest lies on ground.
    if (end === undefined || lowestOf(wiring, supply.ref) !== supply.ref) continue
    const minus = wiring.netOf(end)
    const behind = refsBehind(wiring, supply.ref)
    const isFrom = (source: Source | undefined): boolean =>
      source !== undefined && (behind.has(source.ref) || lowestOf(wiring, source.ref) === supply.ref)
    const fed = wiring.parts.find((part) => part.supplies.some((use) => isFrom(use.source)))
    const board =
      fed?.home ??
      wiring.boards.find((one) =>
        one.board.feeds.some((feed) => feed.pins.some((pin) => wiring.netOf(`${one.ref}.${pin}`).sources.some(isFrom))),
      )
    const hole = groundPost(board)
    if (!board || hole === undefined || board.ground === minus) continue
    decisions.push({
      edits: [{ do: 'connect', from: end, to: hole }],
      from: end,
      to: hole,
      why: 'common ground of supply and board',
    })
  }
  return decisions
}
