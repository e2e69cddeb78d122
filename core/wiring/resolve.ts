import { boardFacts } from '../catalog/boardFacts.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part, PartSupply } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { catalogFor } from '../plan/carried.ts'
import type { Plan } from '../plan/planSchema.ts'
import { featuresInUse } from '../plan/readPlan.ts'
import { entryOf } from '../text/entryOf.ts'
import { groupBuses } from './buses.ts'
import { asChosen } from './chosen.ts'
import type {
  BoardInstance,
  Host,
  Net,
  PartInstance,
  SignalUse,
  SupplyInstance,
  SupplyUse,
  Terminal,
  TieUse,
  Wiring,
} from './model.ts'
import { headerPlug, type Plug } from './plugs.ts'
import { findSignals } from './signals.ts'
import { type Mutable, placeSources } from './sources.ts'
import { logicSupply } from './supply.ts'
import { resistorLinks, tieUses, wiredAddress } from './tieUses.ts'
import { asWired } from './turnedLegs.ts'
import { UnionFind } from './unionFind.ts'

/** Joins a well-formed plan with the facts of its boards and parts. Never fails on a plan that `readPlan` let through. */
export function resolve(plan: Plan, base: Catalog): Wiring {
  const catalog = catalogFor(plan, base)
  const nets = new NetBuilder()
  const terminals = new Map<string, Mutable<Terminal>>()
  const hosts = new Map<string, Host>()

  const boards = Object.entries(plan.boards).map(([ref, entry]): Mutable<BoardInstance> => {
    const board = need(boardOf(catalog, entry), entry.board)
    const inUse = featuresInUse(plan, ref, catalog)
    return {
      kind: 'board',
      ref,
      title: entry.title ?? board.title,
      facts: boardFacts(board),
      board,
      features: board.features.filter((feature) => inUse.includes(feature.id)),
      feed: undefined,
      ground: undefined as unknown as Net,
    }
  })
  for (const owner of boards) {
    for (const pin of owner.facts.pins) {
      const end = `${owner.ref}.${pin.id}`
      nets.join(end, `${owner.ref}.${pin.net}`)
      const host = pin.kind === 'io' ? hostOfBoard(hosts, owner, pin.net) : undefined
      terminals.set(end, { end, ref: owner.ref, pin: pin.id, owner, boardPin: pin, partPin: undefined, host })
    }
  }
  const supplies = Object.entries(plan.supplies).map(
    ([ref, entry]): SupplyInstance => ({ kind: 'supply', ref, title: entry.title ?? ref, entry }),
  )
  for (const owner of supplies)
    for (const pin of ['+', '-']) {
      const end = `${owner.ref}.${pin}`
      nets.add(end)
      terminals.set(end, { end, ref: owner.ref, pin, owner, boardPin: undefined, partPin: undefined, host: undefined })
    }

  const plugs: Plug[] = []
  const parts = Object.entries(plan.parts).map(([ref, entry]): Mutable<PartInstance> => {
    const part = need(catalog.parts.get(entry.part), entry.part)
    const header = part.plugsOn.length > 0 ? headerPlug(ref, part, entry.on, boards, plugs) : undefined
    if (header) plugs.push(header)
    const options = { ...Object.fromEntries(part.options.map((one) => [one.id, one.usual])), ...entry.options }
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
    for (const pin of owner.part.pins) {
      const end = `${owner.ref}.${pin.id}`
      nets.add(end)
      terminals.set(end, {
        end,
        ref: owner.ref,
        pin: pin.id,
        owner,
        boardPin: undefined,
        partPin: pin,
        host: undefined,
      })
    }
    for (const inner of owner.part.inner)
      if (inner.kind === 'join') nets.join(`${owner.ref}.${inner.between[0]}`, `${owner.ref}.${inner.between[1]}`)
  }
  for (const { pairs } of plugs) for (const [own, post] of pairs) nets.join(own, post)
  for (const wire of plan.wires) nets.wire(wire[0], wire[1])

  const built = nets.build()
  const netOf = (end: string): Net => need(built.netOf.get(end), end)
  for (const board of boards)
    board.ground = netOf(
      `${board.ref}.${
        need(
          board.facts.pins.find((pin) => pin.kind === 'ground'),
          'GND',
        ).id
      }`,
    )
  placeSources(boards, supplies, parts, netOf, (net) => net.ends.some((end) => terminals.get(end)?.host !== undefined))

  for (const owner of parts) {
    owner.part = asWired(owner.part, (pin) => {
      const net = netOf(`${owner.ref}.${pin}`)
      return net.ground || net.sources.length > 0
    })
    wiredAddress(owner, plan, netOf)
  }
  for (const owner of parts) {
    owner.supplies = owner.part.supplies.map((facts) => supplyUse(owner, facts, netOf))
    const first = logicSupply(owner)
    // A part that may be fed either way round has its supply at the pin of its ground then.
    const turned = owner.supplies.find((use) => use.facts.either && use.pins.some((end) => netOf(end).ground))
    const volts = first?.source?.volts ?? turned?.grounds.map((end) => netOf(end).sources[0]?.volts).find(Boolean)
    owner.logicVolts =
      volts !== undefined
        ? (first?.facts.logicVolts ?? volts)
        : owner.supplies.find((use) => use.facts.logicVolts)?.facts.logicVolts
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
    terminal: (end: string) => terminals.get(end),
    netOf,
    hosts,
  }
  const signals = findSignals(partial)
  findHomes(plan, boards, parts, signals)
  const byEnd = new Map(signals.map((use) => [use.end, use]))
  const wiring = {
    ...partial,
    signals,
    signal: (end: string) => byEnd.get(end),
    ties: [] as TieUse[],
    buses: [] as Wiring['buses'],
  }
  const beyondResistors = resistorLinks(parts, netOf)
  wiring.ties = parts.flatMap((owner) =>
    tieUses(
      owner,
      netOf,
      plan,
      (net) => net.ends.some((end) => terminals.get(end)?.host !== undefined),
      beyondResistors,
    ),
  )
  wiring.buses = groupBuses(wiring)
  return wiring
}

function need<T>(value: T | undefined, what: string): T {
  if (value === undefined) throw new Error(`resolve: ${what} is missing; the plan was not bound to this catalogue`)
  return value
}

function hostOfBoard(hosts: Map<string, Host>, owner: BoardInstance, net: string): Host {
  const end = `${owner.ref}.${net}`
  const known = hosts.get(end)
  if (known) return known
  const first = need(owner.facts.pin(net), end)
  const host: Host = {
    end,
    ref: owner.ref,
    functions: first.functions,
    cautions: first.cautions,
    levels: first.levels,
    current: first.current,
    board: owner,
    provider: undefined,
    note: first.note,
    logicVolts: owner.board.logicVolts,
  }
  hosts.set(end, host)
  return host
}

type Given = Pick<Host, 'functions' | 'levels' | 'current' | 'note'> & { readonly pin: string }
const givenBy = new WeakMap<Part, readonly Given[]>()

/** Pins that a part gives to others, its `provides` and the pins of its bus controllers; the same for all of a kind. */
function givenPins(part: Part): readonly Given[] {
  const known = givenBy.get(part)
  if (known) return known
  const buses = new Map<string, string[]>()
  for (const controller of part.controllers)
    for (const [signal, pin] of Object.entries(controller.pins))
      buses.set(pin, [...(buses.get(pin) ?? []), `${controller.id}.${signal}`])
  const given = new Map(part.provides.flatMap((one) => one.pins.map((pin) => [pin, one] as const)))
  const pins = [...new Set([...given.keys(), ...buses.keys()])].map((pin): Given => {
    const facts = given.get(pin)
    return {
      pin,
      functions: new Set<string>([...(facts?.does ?? []), ...(buses.get(pin) ?? [])]),
      levels: entryOf(part.levels, facts?.levels ?? 'logic') ?? {},
      current: facts?.current,
      note: facts?.note,
    }
  })
  givenBy.set(part, pins)
  return pins
}

const none: readonly never[] = []

// Written out name by name: this runs for every pin of every expander at every change, and spreading costs a fifth of it.
const hostsOfPart = (owner: PartInstance): Host[] =>
  givenPins(owner.part).map((given) => ({
    end: `${owner.ref}.${given.pin}`,
    ref: owner.ref,
    functions: given.functions,
    cautions: none,
    levels: given.levels,
    current: given.current,
    board: undefined,
    provider: owner,
    note: given.note,
    logicVolts: owner.logicVolts,
  }))

class NetBuilder {
  readonly #sets = new UnionFind()
  readonly #wired = new Set<string>()
  add(end: string): void {
    this.#sets.add(end)
  }
  join(a: string, b: string): void {
    this.#sets.join(a, b)
  }
  wire(a: string, b: string): void {
    this.#sets.join(a, b)
    this.#wired.add(a).add(b)
  }
  build(): { nets: Mutable<Net>[]; netOf: Map<string, Mutable<Net>> } {
    const nets: (Mutable<Net> & { ends: string[] })[] = []
    const byRoot = new Map<string, Mutable<Net> & { ends: string[] }>()
    const netOf = new Map<string, Mutable<Net>>()
    for (const end of this.#sets.members()) {
      const root = this.#sets.find(end)
      let net = byRoot.get(root)
      if (!net) {
        net = { index: nets.length, ends: [], sources: [], ground: false, wired: false }
        nets.push(net)
        byRoot.set(root, net)
      }
      net.ends.push(end)
      if (this.#wired.has(end)) net.wired = true
      netOf.set(end, net)
    }
    return { nets, netOf }
  }
}

function supplyUse(owner: PartInstance, facts: PartSupply, netOf: (end: string) => Net): SupplyUse {
  const pins = facts.pins.map((pin) => `${owner.ref}.${pin}`)
  const grounds = facts.ground.map((pin) => `${owner.ref}.${pin}`)
  const amount = (given: PartSupply['typicalMilliamps']): number | undefined => {
    const value = typeof given === 'object' ? entryOf(owner.options, given.option) : given
    if (typeof value !== 'number') return undefined
    return typeof given === 'object' ? value * (given.times ?? 1) : value
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

/** A part belongs to the board it names, else to the one that its wires reach, else to the plan's first. */
function findHomes(
  plan: Plan,
  boards: readonly BoardInstance[],
  parts: readonly Mutable<PartInstance>[],
  signals: readonly SignalUse[],
): void {
  const byRef = new Map(boards.map((board) => [board.ref, board]))
  const reached = new Map<string, string>()
  for (const use of signals)
    for (const { host } of use.hosts) if (!reached.has(use.part.ref)) reached.set(use.part.ref, host.ref)
  const partsByRef = new Map(parts.map((part) => [part.ref, part]))
  const home = (ref: string, depth: number): BoardInstance | undefined => {
    const named = entryOf(plan.parts, ref)?.on
    if (named !== undefined) return byRef.get(named)
    const at = reached.get(ref)
    if (at === undefined || depth > 8) return undefined
    return byRef.get(at) ?? (partsByRef.has(at) ? home(at, depth + 1) : undefined)
  }
  for (const part of parts) part.home = home(part.ref, 0) ?? boards[0]
}
