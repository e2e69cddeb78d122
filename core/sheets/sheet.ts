import { countingHint } from '../catalog/boardFacts.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import { hexAddress } from '../plan/readPlan.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { Bus, Net, PartInstance, SignalUse, Terminal, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { conventionalColour } from './colours.ts'

export type Ends = 'plug-plug' | 'plug-socket' | 'socket-socket' | 'lead'

export interface WireRow {
  readonly number: number
  readonly step: number
  readonly from: {
    readonly ref: string
    readonly pin: string
    readonly lead: string | null
    readonly hole: string | null
  }
  readonly to: {
    readonly ref: string
    readonly pin: string
    readonly names: readonly string[]
    readonly hole: string | null
  }
  readonly net: string
  readonly colour: string
  /** Null until the plan has a breadboard. */
  readonly lengthMillimetres: number | null
  readonly ends: Ends
  /** Counting hint and anything else that helps to find the place. */
  readonly note: string
}

export interface PartRow {
  readonly ref: string
  readonly title: string
  readonly part: string
  readonly value: string
  /** The part that this one accompanies. */
  readonly for: string | null
}

export interface JumperRow {
  readonly ends: Ends
  readonly colour: string
  readonly lengthMillimetres: number | null
  readonly count: number
}

export interface StepRow {
  readonly number: number
  readonly title: string
  readonly text: string
  readonly wires: readonly number[]
}

export interface PinRow {
  readonly board: string
  readonly header: string
  readonly position: number
  readonly pin: string
  readonly names: readonly string[]
  readonly find: string
  readonly carries: readonly string[]
}

/** Everything that goes to the workbench, as data; the writers only lay it out. */
export interface Sheet {
  readonly title: string
  readonly boards: readonly string[]
  readonly wiring: readonly WireRow[]
  readonly parts: readonly PartRow[]
  readonly jumpers: readonly JumperRow[]
  readonly steps: readonly StepRow[]
  readonly pins: readonly PinRow[]
}

/** Build steps: grounds and supplies first, then straps, then bus by bus, then what is left part by part. */
export function makeSheet(wiring: Wiring): Sheet {
  const lines = wiring.plan.wires.map((wire) => sortLine(wiring, wire))
  const groups = new Map<string, { title: string; text: string; rank: number; lines: Line[] }>()
  for (const line of lines) {
    const { key, title, text, rank } = stepOf(wiring, line)
    const group = groups.get(key) ?? { title, text, rank, lines: [] }
    group.lines.push(line)
    groups.set(key, group)
  }
  const ordered = [...groups.values()].sort((a, b) => a.rank - b.rank)
  const rows: WireRow[] = []
  const steps = ordered.map((group, index): StepRow => {
    const wires = group.lines
      .sort((a, b) => a.order - b.order)
      .map((line) => {
        rows.push(wireRow(wiring, line, rows.length + 1, index + 1))
        return rows.length
      })
    return { number: index + 1, title: group.title, text: group.text, wires }
  })
  return {
    title: wiring.plan.title,
    boards: wiring.boards.map((board) => `${board.ref}: ${board.title}, ${formatVolts(board.board.logicVolts)} logic`),
    wiring: rows,
    parts: wiring.parts.map((part) => partRow(wiring, part)),
    jumpers: countJumpers(rows),
    steps,
    pins: pinRows(wiring),
  }
}

/** A wire with its ends put in reading order: from the part to the board. */
interface Line {
  readonly from: Terminal
  readonly to: Terminal
  readonly net: Net
  readonly facts: PlanWire[2]
  readonly use: SignalUse | undefined
  readonly order: number
}

function sortLine(wiring: Wiring, wire: PlanWire): Line {
  const [a, b] = [wire[0], wire[1]].map((end) => wiring.terminal(end) as Terminal) as [Terminal, Terminal]
  const weight = (terminal: Terminal): number =>
    terminal.owner.kind === 'board'
      ? 3
      : terminal.owner.kind === 'supply'
        ? 2
        : terminal.partPin?.role === 'passive' || terminal.partPin?.role === 'output'
          ? 1
          : 0
  const [from, to] = weight(a) <= weight(b) ? [a, b] : [b, a]
  const net = wiring.netOf(from.end)
  const use = wiring.signal(from.end) ?? wiring.signal(to.end) ?? signalBehind(wiring, from) ?? signalBehind(wiring, to)
  return { from, to, net, facts: wire[2], use, order: orderOf(wiring, from) }
}

/** The signal that a resistor in series carries on. */
function signalBehind(wiring: Wiring, terminal: Terminal): SignalUse | undefined {
  if (terminal.partPin?.role !== 'passive') return undefined
  return wiring.signals.find((use) => use.hosts.some(({ via }) => via.includes(terminal.ref)))
}

/** Parts in plan order, pins in cable order. */
function orderOf(wiring: Wiring, terminal: Terminal): number {
  if (terminal.owner.kind !== 'part') return terminal.owner.kind === 'supply' ? -1 : 1e6
  const { part } = terminal.owner
  const cable = part.cable.length > 0 ? part.cable : part.pins.map((pin) => pin.id)
  return wiring.parts.indexOf(terminal.owner) * 100 + Math.max(0, cable.indexOf(terminal.pin))
}

function stepOf(wiring: Wiring, line: Line): { key: string; title: string; text: string; rank: number } {
  const tie = wiring.ties.find((one) => one.end === line.from.end || one.end === line.to.end)
  const isTie = tie !== undefined && (line.net.ground || line.net.sources.length > 0 || line.from.ref === line.to.ref)
  if (isTie && tie.part.part.category !== 'light' && tie.part.part.category !== 'input')
    return {
      key: 'straps',
      title: 'Straps',
      text: 'Pins that choose an address or a mode. They must not float.',
      rank: 2,
    }
  if (line.net.ground)
    return {
      key: 'grounds',
      title: 'Grounds',
      text: 'Everything unplugged. One common ground for all that exchanges signals; wires that name the same hole meet on a rail of the breadboard.',
      rank: 0,
    }
  if (line.net.sources.length > 0) {
    const source = line.net.sources[0]!
    return {
      key: `supply ${line.net.index}`,
      title: `Supply ${formatVolts(source.volts)} from ${source.end}`,
      text: 'Still unplugged. Red is the supply of most parts, orange a second one.',
      rank: 1 + line.net.index / 1e6,
    }
  }
  const bus =
    line.use && busNeed(line.use.facts.needs) ? wiring.buses.find((one) => one.uses.includes(line.use!)) : undefined
  if (bus)
    return { key: `bus ${wiring.buses.indexOf(bus)}`, ...busText(bus), rank: 3 + wiring.buses.indexOf(bus) / 1e3 }
  return { key: 'singles', title: 'Single signals', text: 'Part by part, in the order of the kit.', rank: 5 }
}

function busText(bus: Bus): { title: string; text: string } {
  const kind = needWords(`${bus.kind}.x`).split(' ')[0] ?? bus.kind
  const refs = bus.parts.map((part) => part.ref).join(', ')
  const addresses =
    bus.kind === 'i2c'
      ? bus.parts.flatMap((part) => addressesOf(part).map(({ address }) => address)).sort((a, b) => a - b)
      : []
  return {
    title: `${kind}${bus.controller ? ` on ${bus.controller.toUpperCase()}` : ''}: ${refs}`,
    text:
      addresses.length > 0
        ? `Addresses ${addresses.map(hexAddress).join(', ')}.`
        : bus.kind === 'spi'
          ? 'Shared lines, and a select line for each part.'
          : 'TX of one side goes to RX of the other.',
  }
}

function wireRow(wiring: Wiring, line: Line, number: number, step: number): WireRow {
  const { from, to } = line
  const lead = from.partPin?.lead
  const tie = wiring.ties.find((one) => one.end === from.end)
  const hint = to.boardPin ? countingHint(to.boardPin) : ''
  const note = [hint, tie?.facts.text ?? '', line.facts?.note ?? ''].filter((text) => text !== '').join('; ')
  const leadText = lead ? [lead.colour, ...lead.variants].join(' or ') : null
  return {
    number,
    step,
    from: { ref: from.ref, pin: from.pin, lead: leadText, hole: null },
    to: {
      ref: to.ref,
      pin: to.pin,
      names: to.boardPin ? to.boardPin.allNames.filter((name) => name !== to.pin) : (to.partPin?.aliases ?? []),
      hole: null,
    },
    net: netName(line),
    colour: line.facts?.colour ?? conventionalColour(wiring, line.net, line.use),
    lengthMillimetres: null,
    ends: endsOf(from, to),
    note,
  }
}

/** A net is named after its source, its ground, or the host pin on it. */
function netName(line: Line): string {
  if (line.net.ground) return 'ground'
  return line.net.sources[0]?.end ?? (line.to.owner.kind === 'board' ? line.to.end : line.from.end)
}

function endsOf(from: Terminal, to: Terminal): Ends {
  const sides = [from, to].map(sideOf)
  if (sides.includes('lead')) return 'lead'
  return sides.includes('socket') ? (sides.includes('plug') ? 'plug-socket' : 'socket-socket') : 'plug-plug'
}

/** What the wire must carry at this end to fit: a plug goes into a hole or a socket, a socket onto a post. */
function sideOf(terminal: Terminal): 'plug' | 'socket' | 'lead' {
  if (terminal.owner.kind === 'board')
    return terminal.boardPin?.header.posts === 'plug' && terminal.owner.board.mounting.way === 'beside'
      ? 'socket'
      : 'plug'
  if (terminal.owner.kind !== 'part') return 'plug'
  const { footprint } = terminal.owner.part
  if (footprint.kind === 'leads') return footprint.ends === 'socket' ? 'plug' : 'lead'
  if (footprint.kind === 'beside')
    return footprint.terminals.includes(terminal.pin) || footprint.posts !== 'plug' ? 'plug' : 'socket'
  return 'plug'
}

function partRow(wiring: Wiring, part: PartInstance): PartRow {
  const values = part.part.options
    .filter((option) => option.kind !== 'amount' || (option.id !== 'tolerance' && option.id !== 'watts'))
    .map((option) => {
      const value = part.options[option.id]
      const units = { ohm: 'Ω', farad: 'F', milliamp: 'mA' } as Readonly<Record<string, string>>
      if (option.kind === 'i2c-address') return hexAddress(Number(value))
      if (option.kind === 'amount' && option.unit === 'milliamp') return `${value} mA`
      if (option.kind === 'amount') return formatQuantity(Number(value), units[option.unit ?? ''] ?? '')
      return option.values.find((one) => one.value === value)?.title ?? String(value)
    })
  const beside = part.part.category === 'passive' ? companionOf(wiring, part) : undefined
  return { ref: part.ref, title: part.title, part: part.part.title, value: values.join(', '), for: beside ?? null }
}

/** The part beside a passive one: the first on its nets that is neither passive nor a rail. */
function companionOf(wiring: Wiring, part: PartInstance): string | undefined {
  for (const pin of part.part.pins) {
    const net = wiring.netOf(`${part.ref}.${pin.id}`)
    if (net.ground || net.sources.length > 0) continue
    const other = net.ends
      .map((end) => wiring.terminal(end))
      .find((one) => one?.owner.kind === 'part' && one.ref !== part.ref && one.partPin?.role !== 'passive')
    if (other) return other.ref
  }
  return undefined
}

function countJumpers(rows: readonly WireRow[]): JumperRow[] {
  const tally = new Map<string, { row: WireRow; count: number }>()
  for (const row of rows) {
    const key = `${row.ends} ${row.colour} ${row.lengthMillimetres}`
    const known = tally.get(key)
    if (known) known.count += 1
    else tally.set(key, { row, count: 1 })
  }
  return [...tally.values()]
    .map(({ row, count }) => ({ ends: row.ends, colour: row.colour, lengthMillimetres: row.lengthMillimetres, count }))
    .sort((a, b) => (a.ends < b.ends ? -1 : a.ends > b.ends ? 1 : b.count - a.count))
}

function pinRows(wiring: Wiring): PinRow[] {
  return wiring.boards.flatMap((board) =>
    board.facts.pins.map((pin): PinRow => {
      const end = `${board.ref}.${pin.id}`
      const wired = wiring.plan.wires.flatMap((wire) =>
        wire[0] === end ? [wire[1]] : wire[1] === end ? [wire[0]] : [],
      )
      const carries = wired.map((other) => {
        const terminal = wiring.terminal(other)
        const behind = terminal ? signalBehind(wiring, terminal) : undefined
        return behind ? `${behind.end} through ${splitEnd(other).ref}` : other
      })
      return {
        board: board.ref,
        header: pin.header.title,
        position: pin.position,
        pin: pin.id,
        names: pin.allNames.filter((name) => name !== pin.id),
        find: countingHint(pin),
        carries,
      }
    }),
  )
}
