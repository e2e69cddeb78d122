import { type Hole, isRail } from '../breadboard/grid.ts'
import { type Ends, stockLength } from '../breadboard/lengths.ts'
import { isRailsUnit } from '../breadboard/overRails.ts'
import type { Point } from '../breadboard/points.ts'
import { lineOf } from '../breadboard/tidy.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { footprintOf } from '../catalog/footprint.ts'
import { splitEnd } from '../plan/ends.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import type { Net, SignalUse, Terminal, Wiring } from '../wiring/model.ts'
import { plugsOf } from '../wiring/plugs.ts'

/** Where a wire ends: an end of the plan, a rail, or a row in which only wires meet. */
export interface LineEnd {
  readonly ref: string
  readonly pin: string
  readonly hole: string | null
  readonly terminal: Terminal | undefined
  /** How to find a place that is no pin. */
  readonly hint: string
}

/** One wire to plug in, its ends in reading order: from the part to the board or rail. */
export interface WireLine {
  readonly from: LineEnd
  readonly to: LineEnd
  readonly net: Net
  readonly facts: PlanWire[2]
  readonly use: SignalUse | undefined
  readonly order: number
  readonly ends: Ends
  readonly lengthMillimetres: number | null
  /** Touches the pin of a source, so that what hangs on it comes alive with it. */
  readonly feeds: boolean
}

/**
 * The wires of a plan without a breadboard, as the maker drew them; where a plug covers a post or stands for wires, they
 * lead to what it brings out.
 */
export function planLines(wiring: Wiring): WireLine[] {
  const instead = new Map(
    plugsOf(wiring).flatMap(({ kind, pairs }) =>
      pairs.map(([own, post]): [string, string] => (kind === 'header' ? [post, own] : [own, post])),
    ),
  )
  const drawn = new Set<string>()
  const isNeeded = (a: string, b: string): boolean => {
    const key = [a, b].sort().join(' ')
    const before = drawn.has(key)
    drawn.add(key)
    return instead.size === 0 || (a !== b && !before)
  }
  return wiring.plan.wires
    .map((wire) => ({ wire, a: instead.get(wire[0]) ?? wire[0], b: instead.get(wire[1]) ?? wire[1] }))
    .filter(({ a, b }) => isNeeded(a, b))
    .map(({ wire, a, b }) => {
      const [from, to] = inReadingOrder([endOf(wiring, a), endOf(wiring, b)])
      return {
        from,
        to,
        net: wiring.netOf(wire[0]),
        facts: wire[2],
        use: useOf(wiring, [from, to]),
        order: orderOf(wiring, from),
        ends: endsOf([from, to].map(sideOf)),
        lengthMillimetres: null,
        feeds: false,
      }
    })
}

/** The wires of a bench that is laid out, hole by hole. */
export function laidLines(wiring: Wiring, layout: Layout): WireLine[] {
  const standing = new Map<number, string[]>()
  const last = new Set(layout.units.filter(isRailsUnit).map(({ ref }) => ref))
  for (const [end, hole] of layout.holeOf) {
    // What goes over the rails last makes nothing live before.
    if (last.has(splitEnd(end).ref)) continue
    const node = layout.grid.node(hole)
    standing.set(node, [...(standing.get(node) ?? []), end])
  }
  const endsAt = (point: Point): readonly string[] =>
    point.node === undefined ? [point.end ?? ''] : (standing.get(point.node) ?? [])
  return layout.wires.map((wire) => {
    const net = wiring.nets[wire.net]!
    const [from, to] = inReadingOrder([
      laidEnd(wiring, layout, wire.a, wire.holeA),
      laidEnd(wiring, layout, wire.b, wire.holeB),
    ])
    const touched = [...endsAt(wire.a), ...endsAt(wire.b)]
    const ends = endsOf([wire.a.fit, wire.b.fit].map((fit) => (fit === 'hole' ? 'plug' : fit)))
    const [x1, y1, x2, y2] = lineOf(layout.grid, wire)
    const goesBeside = wire.a.node === undefined || wire.b.node === undefined
    return {
      from,
      to,
      net,
      facts: factsOf(wiring, net, touched),
      use: useOf(wiring, [from, to]) ?? wiring.signals.find(({ end }) => net.all.includes(end)),
      order: orderOf(wiring, from),
      ends,
      lengthMillimetres: ends === 'lead' ? null : stockLength(ends, Math.hypot(x1 - x2, y1 - y2), goesBeside),
      feeds: net.sources.some((source) => touched.some((end) => isSourcePin(wiring, net, source.ref, end))),
    }
  })
}

/** Pins of a source that are live with it: every hole of the net on the same board or part. */
const isSourcePin = (wiring: Wiring, net: Net, ref: string, end: string): boolean =>
  splitEnd(end).ref === ref && wiring.netOf(end) === net

function endOf(wiring: Wiring, end: string): LineEnd {
  const { ref, pin } = splitEnd(end)
  return { ref, pin, hole: null, terminal: wiring.terminal(end), hint: '' }
}

function laidEnd(wiring: Wiring, layout: Layout, point: Point, hole: Hole | undefined): LineEnd {
  const name = hole === undefined ? null : layout.grid.name(hole)
  if (point.end !== undefined) {
    const end = endOf(wiring, point.end)
    return { ...end, hole: name ?? (end.terminal?.owner.kind === 'board' ? point.end : null) }
  }
  const { ref } = layout.grid.board(hole!)
  const words = layout.grid.nodeWords(point.node!)
  const pin = isRail(hole!)
    ? name!.slice(ref.length + 1).replace(/\d+$/, '')
    : `row${words.slice(4).replace(/\s.*/, '')}`
  return { ref, pin, hole: name, terminal: undefined, hint: words }
}

/** Colour and note of the plan's wire that this one carries out. */
function factsOf(wiring: Wiring, net: Net, ends: readonly string[]): PlanWire[2] {
  const own = wiring.plan.wires.filter((wire) => wire[2] !== undefined && net.all.includes(wire[0]))
  const both = own.find((wire) => ends.includes(wire[0]) && ends.includes(wire[1]))
  return (both ?? own.find((wire) => ends.includes(wire[0]) || ends.includes(wire[1])))?.[2]
}

function inReadingOrder([a, b]: [LineEnd, LineEnd]): [LineEnd, LineEnd] {
  const weight = ({ terminal }: LineEnd): number => {
    if (!terminal) return 4
    if (terminal.owner.kind === 'board') return 3
    if (terminal.owner.kind === 'supply') return 2
    return terminal.partPin?.role === 'passive' || terminal.partPin?.role === 'output' ? 1 : 0
  }
  return weight(a) <= weight(b) ? [a, b] : [b, a]
}

function useOf(wiring: Wiring, ends: readonly LineEnd[]): SignalUse | undefined {
  const terminals = ends.flatMap(({ terminal }) => (terminal ? [terminal] : []))
  for (const { end } of terminals) {
    const use = wiring.signal(end)
    if (use) return use
  }
  for (const terminal of terminals) {
    const use = signalBehind(wiring, terminal)
    if (use) return use
  }
  return undefined
}

/** The signal that a resistor in series carries on. */
export function signalBehind(wiring: Wiring, terminal: Terminal): SignalUse | undefined {
  if (terminal.partPin?.role !== 'passive') return undefined
  return wiring.signals.find((use) => use.hosts.some(({ via }) => via.includes(terminal.ref)))
}

/** Parts in plan order, pins in cable order. */
function orderOf(wiring: Wiring, { terminal }: LineEnd): number {
  if (!terminal) return 2e6
  if (terminal.owner.kind !== 'part') return terminal.owner.kind === 'supply' ? -1 : 1e6
  const { part } = terminal.owner
  const cable = part.cable.length > 0 ? part.cable : part.pins.map((pin) => pin.id)
  return wiring.parts.indexOf(terminal.owner) * 100 + Math.max(0, cable.indexOf(terminal.pin))
}

function endsOf(sides: readonly ('plug' | 'socket' | 'lead')[]): Ends {
  if (sides.includes('lead')) return 'lead'
  return sides.includes('socket') ? (sides.includes('plug') ? 'plug-socket' : 'socket-socket') : 'plug-plug'
}

/** What the wire must carry at this end to fit: a plug goes into a hole or a socket, a socket onto a post. */
function sideOf({ terminal }: LineEnd): 'plug' | 'socket' | 'lead' {
  if (terminal?.owner.kind === 'board')
    return terminal.boardPin?.header.posts === 'plug' && terminal.owner.board.mounting.way === 'beside'
      ? 'socket'
      : 'plug'
  if (terminal?.owner.kind !== 'part') return 'plug'
  const footprint = footprintOf(terminal.owner.part, terminal.owner.options)
  const apart = 'apart' in footprint ? footprint.apart.find(({ pins }) => pins.includes(terminal.pin)) : undefined
  if (apart) return apart.posts === 'plug' ? 'socket' : 'plug'
  if (footprint.kind === 'leads') return footprint.ends === 'socket' ? 'plug' : 'lead'
  if (footprint.kind === 'beside')
    return footprint.terminals.includes(terminal.pin) || footprint.posts !== 'plug' ? 'plug' : 'socket'
  return 'plug'
}
