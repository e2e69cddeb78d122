import { entryOf } from '../base/entryOf.ts'
import { boardFacts } from '../catalog/boardFacts.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part, PartSupply } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { withUsual } from '../catalog/when.ts'
import { catalogFor } from '../plan/carried.ts'
import type { Plan } from '../plan/planSchema.ts'
import { asGuard } from './asGuard.ts'
import { asPass } from './asPass.ts'
import { groupBuses } from './buses.ts'
import { asChosen } from './chosen.ts'
import { hostOfBoard, hostsOfPart, need } from './givenHosts.ts'
import { findHomes } from './homes.ts'
import { modeByWires, reachedBy } from './modeByWires.ts'
import type { BoardInstance, Host, Net, PartInstance, SupplyInstance, SupplyUse, Terminal, Wiring } from './model.ts'
import { NetBuilder } from './nets.ts'
import { headerPlug, type Plug } from './plugs.ts'
import { isRheostat } from './rheostat.ts'
import { findSignals } from './signals.ts'
import { type Mutable, placeSources } from './sources.ts'
import { cellsOf } from './stacks.ts'
import { logicSupply } from './supply.ts'
import { resistorLinks, setsNothing, tieUses, wiredAddress } from './tieUses.ts'
import { asWired, type LegState } from './turnedLegs.ts'
import { isWirework } from './wirework.ts'

/** What boards, supplies and parts bring along: their ends, joined inside, and pins that carry signals. */
interface Stock {
  readonly nets: NetBuilder
  readonly terminals: Map<string, Mutable<Terminal>>
  readonly hosts: Map<string, Host>
}

/** Joins a well-formed plan with the facts of its boards and parts. Never fails on a plan that `readPlan` let through. */
export function resolve(plan: Plan, base: Catalog): Wiring {
  const catalog = catalogFor(plan, base)
  const stock: Stock = { nets: new NetBuilder(), terminals: new Map(), hosts: new Map() }
  const { terminals, hosts } = stock
  const boards = takeBoards(plan, catalog, stock)
  const supplies = takeSupplies(plan, stock)
  const parts = takeParts(plan, catalog, boards, stock)
  for (const wire of plan.wires) stock.nets.wire(wire[0], wire[1])

  const built = stock.nets.build()
  const netOf = (end: string): Net => need(built.netOf.get(end), end)
  const terminal = (end: string): Terminal | undefined => terminals.get(end)
  const hasHost = (net: Net): boolean => net.ends.some((end) => terminals.get(end)?.host !== undefined)
  for (const board of boards) board.ground = netOf(groundEnd(board))
  for (const owner of parts) {
    const entry = need(entryOf(plan.parts, owner.ref), owner.ref)
    const facts = need(catalog.parts.get(entry.part), entry.part)
    const { rheostat } = facts
    if (
      rheostat &&
      entryOf(entry.options, rheostat.option) === undefined &&
      isRheostat(owner, rheostat, { netOf, terminal })
    ) {
      owner.options = { ...owner.options, [rheostat.option]: rheostat.value }
      owner.part = asChosen(facts, owner.options, owner.mode?.id)
    }
    if (entry.mode !== undefined || facts.modes.length < 2) continue
    owner.mode = modeByWires(
      facts,
      owner.options,
      reachedBy(owner, (end) => netOf(end).ends, terminals),
    )
    owner.part = asChosen(facts, owner.options, owner.mode?.id)
  }
  const become = (owner: Mutable<PartInstance>, part: Part): void => {
    owner.part = part
    for (const pin of part.pins) {
      const end = `${owner.ref}.${pin.id}`
      terminals.set(end, { ...need(terminals.get(end), end), partPin: pin })
    }
  }
  const cameFrom = placeSources(boards, supplies, parts, netOf, hasHost)
  const beyondResistors = resistorLinks(parts, netOf)
  const legState = (net: Net): LegState => {
    if (net.ground || net.sources.length > 0) return net.ground ? 'ground' : 'source'
    return net.wired ? (hasHost(net) ? 'pin' : 'wired') : 'open'
  }
  for (const owner of parts) {
    const at = (pin: string): Net => netOf(`${owner.ref}.${pin}`)
    const part = asWired(
      owner.part,
      (pin) => legState(at(pin)),
      (pin) => [...beyondResistors(at(pin))].map(legState),
    )
    if (part !== owner.part) become(owner, part)
    owner.mode = owner.part.modes.find(({ id }) => id === owner.mode?.id) ?? owner.mode
    wiredAddress(owner, plan, netOf)
  }
  const hostAt = (end: string): Host | undefined => terminals.get(end)?.host
  const minus = new Set(cellsOf(supplies, parts).flatMap((cell) => cell.minus.map(netOf)))
  for (const owner of parts) {
    const guard = asGuard(owner, { netOf, beyondResistors, hostAt, cameFrom, minus })
    const part = guard === owner.part ? asPass(owner, netOf, beyondResistors, hostAt) : guard
    if (part === owner.part) continue
    become(owner, part)
  }
  for (const owner of parts) {
    feedPart(owner, netOf)
    for (const host of hostsOfPart(owner)) {
      hosts.set(host.end, host)
      need(terminals.get(host.end), host.end).host = host
    }
  }

  const partial = {
    plan,
    catalog,
    boards,
    supplies,
    parts,
    nets: built.nets,
    terminal,
    netOf,
    hosts,
  }
  const signals = findSignals(partial)
  findHomes(plan, boards, parts, signals)
  const byEnd = new Map(signals.map((use) => [use.end, use]))
  const isIdle = setsNothing(parts)
  const wiring = {
    ...partial,
    signals,
    signal: (end: string) => byEnd.get(end),
    ties: parts.flatMap((owner) => tieUses(owner, netOf, plan, hasHost, beyondResistors, isIdle)),
    buses: [] as Wiring['buses'],
  }
  wiring.buses = groupBuses(wiring)
  return wiring
}

function takeBoards(plan: Plan, catalog: Catalog, { nets, terminals, hosts }: Stock): Mutable<BoardInstance>[] {
  return Object.entries(plan.boards).map(([ref, entry]) => {
    const board = need(boardOf(catalog, entry), entry.board)
    const owner: Mutable<BoardInstance> = {
      kind: 'board',
      ref,
      title: entry.title ?? board.title,
      facts: boardFacts(board),
      board,
      features: board.features.filter(({ id, usual }) => entry.uses?.includes(id) ?? usual),
      feed: undefined,
      ground: undefined as unknown as Net,
    }
    for (const pin of owner.facts.pins) {
      const end = `${ref}.${pin.id}`
      nets.join(end, `${ref}.${pin.net}`)
      const host = pin.kind === 'io' ? hostOfBoard(hosts, owner, pin.net) : undefined
      terminals.set(end, { end, ref, pin: pin.id, owner, boardPin: pin, partPin: undefined, host })
    }
    return owner
  })
}

const groundEnd = ({ ref, facts }: BoardInstance): string =>
  `${ref}.${
    need(
      facts.pins.find((pin) => pin.kind === 'ground'),
      'GND',
    ).id
  }`

function takeSupplies(plan: Plan, { nets, terminals }: Stock): SupplyInstance[] {
  return Object.entries(plan.supplies).map(([ref, entry]) => {
    const owner: SupplyInstance = { kind: 'supply', ref, title: entry.title ?? ref, entry }
    for (const pin of ['+', '-']) {
      const end = `${ref}.${pin}`
      nets.add(end)
      terminals.set(end, { end, ref, pin, owner, boardPin: undefined, partPin: undefined, host: undefined })
    }
    return owner
  })
}

function takeParts(
  plan: Plan,
  catalog: Catalog,
  boards: readonly BoardInstance[],
  { nets, terminals }: Stock,
): Mutable<PartInstance>[] {
  const plugs: Plug[] = []
  const parts = Object.entries(plan.parts).map(([ref, entry]): Mutable<PartInstance> => {
    const part = need(catalog.parts.get(entry.part), entry.part)
    const header = part.plugsOn.length > 0 ? headerPlug(ref, part, entry.on, boards, plugs) : undefined
    if (header) plugs.push(header)
    const options = withUsual(part, entry.options)
    const mode = part.modes.find(({ id }) => id === entry.mode) ?? part.modes[0]
    return {
      kind: 'part',
      ref,
      title: entry.title ?? part.title,
      part: asChosen(part, options, mode?.id),
      mode,
      options,
      supplies: [],
      logicVolts: undefined,
      home: undefined,
      header,
    }
  })
  for (const owner of parts) {
    const { ref } = owner
    for (const pin of owner.part.pins) {
      const end = `${ref}.${pin.id}`
      if (isWirework(owner.part)) nets.addMetal(end)
      else nets.add(end)
      terminals.set(end, { end, ref, pin: pin.id, owner, boardPin: undefined, partPin: pin, host: undefined })
    }
    for (const inner of owner.part.inner)
      if (inner.kind === 'join') nets.join(`${ref}.${inner.between[0]}`, `${ref}.${inner.between[1]}`)
  }
  for (const { pairs } of plugs) for (const [own, post] of pairs) nets.join(own, post)
  return parts
}

/** Supplies of a part where its wires bring them, and the voltage of its logic. */
function feedPart(owner: Mutable<PartInstance>, netOf: (end: string) => Net): void {
  owner.supplies = owner.part.supplies.map((facts) => supplyUse(owner, facts, netOf))
  const first = logicSupply(owner)
  // A part that may be fed either way round has its supply at the pin of its ground then.
  const turned = owner.supplies.find((use) => use.facts.either && use.pins.some((end) => netOf(end).ground))
  const volts = first?.source?.volts ?? turned?.grounds.map((end) => netOf(end).sources[0]?.volts).find(Boolean)
  owner.logicVolts =
    volts !== undefined
      ? (first?.facts.logicVolts ?? volts)
      : owner.supplies.find((use) => use.facts.logicVolts)?.facts.logicVolts
}

function supplyUse(owner: PartInstance, facts: PartSupply, netOf: (end: string) => Net): SupplyUse {
  const pins = facts.pins.map((pin) => `${owner.ref}.${pin}`)
  const grounds = facts.ground.map((pin) => `${owner.ref}.${pin}`)
  // While nothing is wired yet, all of them may come.
  const moved = facts.sharedBy.filter((pin) => netOf(`${owner.ref}.${pin}`).wired).length
  const share = moved === 0 ? 1 : moved / facts.sharedBy.length
  const amount = (given: PartSupply['typicalMilliamps']): number | undefined => {
    const value = typeof given === 'object' ? entryOf(owner.options, given.option) : given
    if (typeof value !== 'number') return undefined
    return (typeof given === 'object' ? value * (given.times ?? 1) : value) * share
  }
  return {
    facts,
    pins,
    grounds,
    source: pins.map((end) => netOf(end).sources[0]).find((source) => source !== undefined),
    ground: grounds.map(netOf).find((net) => net.ground),
    typicalMilliamps: amount(facts.typicalMilliamps),
    peakMilliamps: amount(facts.peakMilliamps),
  }
}
