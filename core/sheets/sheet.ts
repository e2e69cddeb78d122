import { type Left, staysInBox } from '../assign/left.ts'
import { entryOf } from '../base/entryOf.ts'
import { breadboardKinds } from '../breadboard/grid.ts'
import { layoutOf } from '../breadboard/layout.ts'
import { isRailsUnit } from '../breadboard/overRails.ts'
import type { Unit } from '../breadboard/units.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { countingHint, ordinal } from '../catalog/boardFacts.ts'
import { footprintOf } from '../catalog/footprint.ts'
import { holds } from '../catalog/when.ts'
import { type Budget, budgets } from '../circuit/budget.ts'
import { i2cViews } from '../circuit/busView.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatOptionAmount, formatVolts } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Breadboard } from '../plan/planSchema.ts'
import type { PartInstance, Terminal, Wiring } from '../wiring/model.ts'
import { plugsOf } from '../wiring/plugs.ts'
import { buildSteps } from './buildSteps.ts'
import { conventionalColour } from './colours.ts'
import { programRows, recordRows, rehearsalRows } from './programRows.ts'
import type {
  JumperRow,
  LeadRow,
  LegRow,
  NoteRow,
  PartRow,
  PinRow,
  Sheet,
  StepRow,
  SupplyRow,
  WireRow,
} from './rows.ts'
import { laidLines, planLines, signalBehind, type WireLine } from './wireLines.ts'

/** The sheet of a plan; with a layout of its bench every wire has its holes. */
export function makeSheet(wiring: Wiring, layout: Layout | undefined = layoutOf(wiring)): Sheet {
  const lines = layout ? laidLines(wiring, layout) : planLines(wiring)
  const left = staysInBox(wiring)
  const rows: WireRow[] = []
  const steps = buildSteps(wiring, lines, layout).map((step, index): StepRow => {
    const wires = step.lines.map((line) => {
      rows.push(wireRow(wiring, line, rows.length + 1, index + 1))
      return rows.length
    })
    const { title, text, places, onlyWords } = step
    return { number: index + 1, title, text, wires, ...(places ? { places } : {}), ...(onlyWords ? { onlyWords } : {}) }
  })
  return {
    title: wiring.plan.title,
    boards: wiring.boards.map((board) => `${board.ref}: ${board.title}, ${formatVolts(board.board.logicVolts)} logic`),
    breadboards: layout ? layout.grid.boards.map(({ ref, entry }) => `${ref}: ${breadboardWords(entry)}`) : [],
    missing: layout ? missingText(layout) : [],
    notes: noteRows(wiring, left),
    wiring: rows,
    legs: layout ? legRows(wiring, layout) : [],
    leads: leadRows(wiring, rows),
    plugs: plugsOf(wiring).map(({ ref, onto, pairs }) => ({
      ref,
      onto,
      pins: pairs.map(([own, post]) => ({ pin: splitEnd(own).pin, post: splitEnd(post).pin })),
    })),
    parts: wiring.parts.map((part) => partRow(wiring, part)),
    left: left.map(({ ref, why }) => ({ ref, why })),
    jumpers: countJumpers(rows),
    supplies: budgets(wiring)
      .filter(({ source }) => !left.some(({ ref }) => ref === source.ref))
      .map((budget) => supplyRow(wiring, budget)),
    addresses: i2cViews(wiring).flatMap((view) =>
      view.devices.flatMap(({ part, addresses, free }) =>
        addresses.map((address) => ({
          bus: view.title,
          ref: part.ref,
          title: part.title,
          address: hexAddress(address),
          others: free.map(({ value }) => hexAddress(value)),
        })),
      ),
    ),
    labels: rows.map((row) => ({ number: row.number, from: labelOf(row.from), to: labelOf(row.to) })),
    steps,
    pins: pinRows(wiring, rows),
    ...programRows(wiring),
    record: recordRows(wiring, layout),
    rehearsal: rehearsalRows(wiring),
  }
}

const labelOf = ({ ref, pin, hole }: { ref: string; pin: string; hole: string | null }): string =>
  hole === null || hole === `${ref}.${pin}` ? `${ref} ${pin}` : `${ref} ${pin} ${hole}`

/** `full breadboard, split rails, + right of −`. */
function breadboardWords(entry: Breadboard): string {
  const words = [breadboardKinds[entry.kind].title.toLowerCase()]
  if (entry.kind !== 'mini') {
    words.push(entry.rails === 'split' ? 'rails cut in the middle' : 'rails running through')
    const plus = {
      left: '+ left of − on both sides',
      right: '+ right of − on both sides',
      outer: '+ at the outer edge',
      inner: '+ next to the rows',
    }
    words.push(plus[entry.plus ?? 'left'])
  }
  if (entry.joined) words.push('clipped to the one before, without the rails between')
  return words.join(', ')
}

function missingText({ stray, blocked }: Layout): string[] {
  return [...stray.map(({ ref, text }) => `${ref} ${text}.`), ...blocked.map(({ end, text }) => `${end}: ${text}.`)]
}

function wireRow(wiring: Wiring, line: WireLine, number: number, step: number): WireRow {
  const { from, to } = line
  const tie = from.terminal ? wiring.ties.find((one) => one.end === from.terminal!.end) : undefined
  const findAt = ({ terminal, hint }: WireLine['from']): string =>
    terminal?.boardPin ? countingHint(terminal.boardPin) : hint
  const hint = findAt(to)
  // Of a strap on the wrong level its words would say what it does not do.
  const does = tie && tie.state !== 'wrong' ? (tie.facts.text ?? '') : ''
  const note = [hint, does, line.facts?.note ?? ''].filter((text) => text !== '').join('; ')
  return {
    number,
    step,
    from: {
      ref: from.ref,
      pin: from.pin,
      lead: leadOf(from.terminal),
      names: otherNames(from),
      find: findAt(from),
      hole: from.hole,
    },
    to: { ref: to.ref, pin: to.pin, lead: leadOf(to.terminal), names: otherNames(to), hole: to.hole },
    net: netName(wiring, line),
    colour: line.facts?.colour ?? conventionalColour(wiring, line.net, line.use),
    lengthMillimetres: line.lengthMillimetres,
    ends: line.ends,
    note,
  }
}

function noteRows(wiring: Wiring, left: readonly Left[]): NoteRow[] {
  const refs = new Map<string, string[]>()
  const owners = [
    ...wiring.boards.map(({ ref, board }) => ({ ref, notes: board.notes })),
    ...wiring.parts.flatMap(({ ref, part }) =>
      left.some((one) => one.ref === ref) ? [] : [{ ref, notes: part.notes }],
    ),
  ]
  for (const { ref, notes } of owners) for (const text of notes) refs.set(text, [...(refs.get(text) ?? []), ref])
  return [...refs].map(([text, own]) => ({ refs: own, text }))
}

/** What a pin is also called; what is printed beside it comes first. */
function otherNames({ terminal, pin }: WireLine['from']): readonly string[] {
  if (!terminal?.boardPin) return terminal?.partPin?.aliases ?? []
  const { label, allNames } = terminal.boardPin
  const others = allNames.filter((name) => name !== pin)
  return label === undefined || label === pin ? others : [label, ...others.filter((name) => name !== label)]
}

/** Colours in which makers know the lead of a pin. */
function leadOf(terminal: Terminal | undefined): string | null {
  const lead = terminal?.partPin?.lead
  return lead ? [lead.colour, ...lead.variants].join(' or ') : null
}

/** A net is named after its source, its ground, or the board pin on it. */
function netName(wiring: Wiring, { net }: WireLine): string {
  if (net.ground) return 'ground'
  const onBoard = net.ends.find((end) => wiring.terminal(end)?.owner.kind === 'board')
  return net.sources[0]?.end ?? onBoard ?? net.ends[0]!
}

function legRows(wiring: Wiring, layout: Layout): LegRow[] {
  return layout.units.flatMap((unit) => {
    const seat = layout.seats.get(unit.ref)
    return (seat?.legs ?? []).map(({ pin, hole }) => ({
      ref: unit.ref,
      title: unit.owner?.title ?? unit.ref,
      pin,
      ...legMark(wiring, unit, pin),
      names: wiring.terminal(`${unit.ref}.${pin}`)?.boardPin?.allNames.slice(0, 2) ?? [],
      hole: layout.grid.name(hole),
    }))
  })
}

/** Number of a chip's leg, and how the leg is told from the others. */
function legMark(wiring: Wiring, unit: Unit, pin: string): Pick<LegRow, 'number' | 'mark'> {
  const { ref } = unit
  if (isRailsUnit(unit)) return { number: null, mark: 'goes in last' }
  const owner = wiring.terminal(`${ref}.${pin}`)?.owner
  if (owner?.kind !== 'part') return { number: null, mark: '' }
  const { part } = owner
  const foot = footprintOf(part, owner.options)
  if (foot.kind === 'dual-in-line') {
    const number = foot.pins.indexOf(pin) + 1
    const isLeft = number <= foot.pins.length / 2
    const down = ordinal(isLeft ? number : foot.pins.length - number + 1)
    return { number, mark: `${isLeft ? 'left' : 'right'}, ${down} from the notch` }
  }
  if (foot.kind !== 'legs' || !part.polarised) return { number: null, mark: '' }
  const isLamp = part.category === 'light'
  if (pin === 'A') return { number: null, mark: isLamp ? 'the long leg' : 'without the ring' }
  if (pin === 'K') return { number: null, mark: isLamp ? 'the short leg, at the flat side' : 'at the ring' }
  if (pin === '+' || pin === '-') return { number: null, mark: pin === '+' ? 'the one marked +' : 'the other one' }
  return { number: null, mark: '' }
}

/** Leads of parts with a cable of their own, and where each goes. */
function leadRows(wiring: Wiring, rows: readonly WireRow[]): LeadRow[] {
  const posts = new Map(plugsOf(wiring).flatMap(({ pairs }) => pairs))
  return wiring.parts.flatMap((part) =>
    part.part.pins.flatMap((pin) => {
      const colour = leadOf(wiring.terminal(`${part.ref}.${pin.id}`))
      if (colour === null) return []
      const row = rows.find(({ from }) => from.ref === part.ref && from.pin === pin.id)
      const back = rows.find(({ to }) => to.ref === part.ref && to.pin === pin.id)
      const other = row?.to ?? back?.from
      const post = posts.get(`${part.ref}.${pin.id}`)
      return [
        {
          ref: part.ref,
          title: part.title,
          lead: colour,
          pin: pin.id,
          to: post ?? (other ? `${other.ref}.${other.pin}` : null),
          hole: other?.hole ?? null,
          wire: row?.number ?? back?.number ?? null,
        },
      ]
    }),
  )
}

function supplyRow(wiring: Wiring, budget: Budget): SupplyRow {
  return {
    source: budget.source.end,
    volts: budget.source.volts,
    limitMilliamps: budget.source.limitMilliamps ?? null,
    typicalMilliamps: Math.round(budget.typicalMilliamps * 10) / 10,
    peakMilliamps: Math.round(budget.peakMilliamps * 10) / 10,
    feeds: wiring.parts
      .filter((part) => part.supplies.some((use) => use.source?.end === budget.source.end))
      .map((part) => part.ref),
  }
}

function partRow(wiring: Wiring, part: PartInstance): PartRow {
  const values = part.part.options
    .filter((option) => option.kind !== 'amount' || (option.id !== 'tolerance' && option.id !== 'watts'))
    .map((option) => {
      const value = entryOf(part.options, option.id)
      if (option.kind === 'i2c-address') return hexAddress(Number(value))
      if (option.kind === 'amount') return formatOptionAmount(Number(value), option.unit)
      return option.values.find((one) => one.value === value)?.title ?? String(value)
    })
  const beside = part.part.category === 'passive' ? companionOf(wiring, part) : undefined
  return {
    ref: part.ref,
    title: part.title,
    part: part.part.title,
    value: [...values, ...contentsOf(wiring, part)].join(', '),
    for: beside ?? null,
    buy: entryOf(wiring.plan.parts, part.ref)?.buy === true,
  }
}

/** What a part that is built by hand holds: `with 12 × Push button`. */
function contentsOf({ catalog }: Wiring, { part, options }: PartInstance): string[] {
  const held = part.contains.flatMap(({ part: id, count, when }) => {
    const factors = typeof count === 'number' ? [count] : count.map((option) => Number(entryOf(options, option)))
    const number = factors.reduce((product, one) => product * one, 1)
    return holds(when, options) && number > 0 ? [`${number} × ${catalog.parts.get(id)?.title ?? id}`] : []
  })
  return held.length === 0 ? [] : [`with ${held.join(' and ')}`]
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

/** Every post with what hangs on it in the plan; on a breadboard the wires that reach it may start elsewhere. */
function pinRows(wiring: Wiring, rows: readonly WireRow[]): PinRow[] {
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
        wires: rows.flatMap(({ number, from, to }) =>
          [from, to].some((one) => one.ref === board.ref && one.pin === pin.id) ? [number] : [],
        ),
      }
    }),
  )
}
