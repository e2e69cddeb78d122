import { boardFacts } from '../catalog/boardFacts.ts'
import type { Feed } from '../catalog/boardSchema.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { forwardOf } from '../catalog/forward.ts'
import type { GivenRail, Part, PartSupply } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { holds } from '../catalog/when.ts'
import { catalogFor } from '../plan/carried.ts'
import type { Plan } from '../plan/planSchema.ts'
import { featuresInUse } from '../plan/readPlan.ts'
import { entryOf } from '../text/entryOf.ts'
import { groupBuses } from './buses.ts'
import type {
  BoardInstance,
  Host,
  Net,
  PartInstance,
  SignalUse,
  Source,
  SupplyInstance,
  SupplyUse,
  Terminal,
  TieUse,
  Wiring,
} from './model.ts'
import { findSignals } from './signals.ts'
import { UnionFind } from './unionFind.ts'

type Mutable<T> = { -readonly [K in keyof T]: T[K] }

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

  const parts = Object.entries(plan.parts).map(([ref, entry]): Mutable<PartInstance> => {
    const part = need(catalog.parts.get(entry.part), entry.part)
    const usual = Object.fromEntries(part.options.map((option) => [option.id, option.usual]))
    return {
      kind: 'part',
      ref,
      title: entry.title ?? part.title,
      part,
      mode: part.modes.find((mode) => mode.id === entry.mode) ?? part.modes[0],
      options: { ...usual, ...entry.options },
      supplies: [],
      logicVolts: undefined,
      home: undefined,
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

  for (const owner of parts) wiredAddress(owner, plan, netOf)
  for (const owner of parts) {
    owner.supplies = owner.part.supplies.map((facts) => supplyUse(owner, facts, netOf))
    const first = owner.supplies.find((use) => use.source)
    owner.logicVolts = first?.source
      ? (first.facts.logicVolts ?? first.source.volts)
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

/**
 * Marks grounds and sources. A board is fed by the first accepting pin whose net another source holds, else by its
 * socket; a pin that takes supply in gives none.
 */
function placeSources(
  boards: readonly Mutable<BoardInstance>[],
  supplies: readonly SupplyInstance[],
  parts: readonly PartInstance[],
  netOf: (end: string) => Mutable<Net>,
  hasHost: (net: Net) => boolean,
): void {
  const give = (net: Mutable<Net>, source: Source): void => {
    net.sources = [...net.sources, source]
  }
  for (const { ref, entry } of supplies) {
    give(netOf(`${ref}.+`), {
      end: `${ref}.+`,
      ref,
      volts: entry.volts,
      limitMilliamps: entry.limitMilliamps,
      why: entry.limitMilliamps === undefined ? 'no limit given' : 'as given in the plan',
    })
    netOf(`${ref}.-`).ground = true
  }
  for (const board of boards)
    for (const pin of board.facts.pins) if (pin.kind === 'ground') netOf(`${board.ref}.${pin.id}`).ground = true
  const rails = new Set(parts.flatMap((part) => part.part.rails.map((rail) => ({ part, rail }))))
  const asleep = new Set(boards)
  // What is fed by another source comes alive after it; a board that nothing feeds takes its socket.
  const wake = (board: Mutable<BoardInstance>, feed: Feed | undefined): void => {
    asleep.delete(board)
    feedBoard(board, feed, netOf, give)
  }
  const links = stiffLinks(boards, parts, netOf, hasHost)
  while (asleep.size > 0 || rails.size > 0) {
    const before = asleep.size + rails.size
    for (const { part, rail } of [...rails].filter(({ part, rail }) => railAlive(part, rail, netOf))) {
      rails.forEach((one) => {
        if (one.rail === rail && one.part === part) rails.delete(one)
      })
      const volts = typeof rail.volts === 'object' ? entryOf(part.options, rail.volts.option) : rail.volts
      const end = `${part.ref}.${rail.pin}`
      if (typeof volts === 'number')
        give(netOf(end), { end, ref: part.ref, volts, limitMilliamps: rail.milliamps, why: rail.why })
    }
    for (const { from, to, drop } of links) {
      const source = from.sources[0]
      const volts = source && Math.round((source.volts - drop) * 1000) / 1000
      if (source && volts !== undefined && volts > 0 && to.sources.length === 0 && !to.ground)
        give(to, drop === 0 ? source : { ...source, volts })
      if (drop === 0 && from.ground && !to.ground && to.sources.length === 0) to.ground = true
    }
    for (const board of [...asleep]) {
      const fed = board.board.feeds.find((feed) =>
        feed.pins.some((pin) => netOf(`${board.ref}.${pin}`).sources.length > 0),
      )
      if (fed) wake(board, fed)
    }
    if (asleep.size + rails.size < before) continue
    const wired = (board: BoardInstance): boolean =>
      board.board.feeds.some((feed) => feed.pins.some((pin) => netOf(`${board.ref}.${pin}`).wired))
    const next = [...asleep].find((board) => !wired(board)) ?? [...asleep][0]
    if (!next) return
    wake(
      next,
      next.board.feeds.find((feed) => feed.pins.length === 0),
    )
  }
}

/** Share of a rectifier's forward volts at its full current that it takes at the currents of a breadboard. */
const DROP_SHARE = 0.7

/**
 * What leads a supply on. Shunts, and contacts in the way of a supply, both ways: whatever holds one side holds the other
 * as well. A contact at a signal is none of these: there it makes a level, now one and now the other. A diode from its
 * anode on, less its volts.
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
  return parts.flatMap((owner) => {
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
    const nets = new Set(rail.pins.map((pin) => netOf(`${board.ref}.${pin}`)))
    for (const net of nets)
      give(net, {
        end: `${board.ref}.${first}`,
        ref: board.ref,
        volts: rail.volts,
        limitMilliamps: limit?.milliamps,
        why: limit?.why ?? 'no limit known',
      })
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

/**
 * Where the plan names no address, the wires decide it: the one value of the address option whose straps all lie as
 * they do. Straps that are open say what the part itself holds them at; one of which nothing is known decides nothing.
 */
function wiredAddress(owner: Mutable<PartInstance>, plan: Plan, netOf: (end: string) => Net): void {
  const id = owner.mode?.i2c?.addresses.option
  const option = owner.part.options.find((one) => one.id === id)
  if (id === undefined || !option || entryOf(entryOf(plan.parts, owner.ref)?.options, id) !== undefined) return
  const straps = [...owner.part.ties, ...(owner.mode?.ties ?? [])].flatMap(({ pin, to, held }) =>
    typeof to === 'object' && to.option === id ? [{ pin, values: to.values, held }] : [],
  )
  const net = (pin: string): Net => netOf(`${owner.ref}.${pin}`)
  if (straps.length === 0 || !straps.some(({ pin }) => net(pin).wired)) return
  const lies = (pin: string, held: string | undefined, to: string): boolean => {
    const at = net(pin)
    if (!at.wired) return held === to
    if (to === 'ground') return at.ground
    if (to === 'supply') return at.sources.length > 0 && !at.ground
    return at === net(to)
  }
  const fitting = option.values.filter(({ value }) =>
    straps.every(({ pin, values, held }) => lies(pin, held, entryOf(values, String(value)) ?? 'ground')),
  )
  const [only] = fitting
  if (only && fitting.length === 1) owner.options = { ...owner.options, [id]: only.value }
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

/** Nets that a resistor joins with one. */
function resistorLinks(parts: readonly PartInstance[], netOf: (end: string) => Net): (net: Net) => ReadonlySet<Net> {
  const links = new Map<Net, Set<Net>>()
  const link = (from: Net, to: Net): void => {
    const known = links.get(from)
    if (known) known.add(to)
    else links.set(from, new Set([to]))
  }
  for (const { ref, part } of parts) {
    if (part.category !== 'passive') continue
    for (const { kind, between } of part.inner) {
      if (kind !== 'resistance') continue
      const [a, b] = between.map((pin) => netOf(`${ref}.${pin}`)) as [Net, Net]
      link(a, b)
      link(b, a)
    }
  }
  return (net) => links.get(net) ?? new Set()
}

function tieUses(
  owner: PartInstance,
  netOf: (end: string) => Net,
  plan: Plan,
  hasHost: (net: Net) => boolean,
  beyondResistors: (net: Net) => ReadonlySet<Net>,
): TieUse[] {
  const ties = [...owner.part.ties, ...(owner.mode?.ties ?? [])].filter((tie) => holds(tie.when, owner.options))
  return ties.map((facts): TieUse => {
    const to =
      typeof facts.to === 'string'
        ? facts.to
        : (entryOf(facts.to.values, String(entryOf(owner.options, facts.to.option))) ?? 'ground')
    const end = `${owner.ref}.${facts.pin}`
    const net = netOf(end)
    const state = (): TieUse['state'] => {
      // What it switches is not in use: it may be left or held as one likes.
      if (facts.serves?.every((pin) => !netOf(`${owner.ref}.${pin}`).wired)) return net.wired ? 'right' : 'held'
      if (!net.wired)
        return plan.unused.includes(end)
          ? 'unused'
          : facts.held === to || (!facts.required && facts.held === undefined)
            ? 'held'
            : 'open'
      if (to === 'ground') return net.ground ? 'right' : net.sources.length > 0 ? 'wrong' : 'right'
      if (to === 'supply') return net.ground ? 'wrong' : 'right'
      const target = netOf(`${owner.ref}.${to}`)
      if (target === net) return 'right'
      // Held high where the other pin is high as well, or moved by the program, it is as good as bridged.
      const isHigh = (one: Net): boolean => one.sources.length > 0 && !one.ground
      const isDriven = (one: Net): boolean => one.wired && !one.ground && one.sources.length === 0 && hasHost(one)
      if (beyondResistors(net).has(target)) return 'right'
      const mutual = ties.some((one) => one.pin === to && one.to === facts.pin)
      // Each of two that belong together is judged by itself: what is wrong is the one that is held low.
      if (net.ground || target.ground)
        return (net.ground && target.ground) || (mutual && !net.ground && isHigh(net)) ? 'right' : 'wrong'
      return (isHigh(net) || isDriven(net)) && (mutual || isHigh(target)) ? 'right' : 'wrong'
    }
    return { end, part: owner, facts, to, state: state() }
  })
}
