import { isRailsUnit, railWords } from '../breadboard/overRails.ts'
import type { Unit } from '../breadboard/units.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { footprintOf } from '../catalog/footprint.ts'
import { ownRailOf } from '../circuit/circuit.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { Bus, Source, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { plugsOf } from '../wiring/plugs.ts'
import type { WireLine } from './wireLines.ts'

export interface BuildStep {
  readonly title: string
  readonly text: string
  readonly lines: readonly WireLine[]
  /** Parts whose legs go into their holes here. */
  readonly places?: readonly string[]
  /** Nothing goes in here. */
  readonly onlyWords?: true
}

interface Kind {
  readonly key: string
  readonly title: string
  readonly text: string
  readonly rank: number
}

/** Rank from which steps bring a supply to what stands. */
const FEEDS = 6

/**
 * Build steps: grounds and supplies first, then straps, then bus by bus, then what is left part by part. On a
 * breadboard everything is put in its holes before the first wire, and the wires that touch the pin of a source come
 * last, so that no supply reaches a net before all of it stands.
 */
export function buildSteps(wiring: Wiring, lines: readonly WireLine[], layout: Layout | undefined): BuildStep[] {
  const groups = new Map<string, Kind & { lines: WireLine[] }>()
  for (const line of lines) {
    const kind = kindOf(wiring, line, layout)
    const group = groups.get(kind.key) ?? { ...kind, lines: [] }
    group.lines.push(line)
    groups.set(kind.key, group)
  }
  const over = new Set(plugsOf(wiring).flatMap(({ kind, onto }) => (kind === 'header' ? [onto] : [])))
  /** Comes when the header is covered: what another source feeds. */
  const isLast = ({ rank, lines: own }: Kind & { readonly lines: readonly WireLine[] }): boolean =>
    rank >= FEEDS && !own.some(({ net }) => net.sources.some(({ ref }) => over.has(ref)))
  const stepsOf = (last: boolean): BuildStep[] =>
    [...groups.values()]
      .filter((group) => isLast(group) === last)
      .sort((a, b) => a.rank - b.rank)
      .map(({ title, text, lines: own }) => ({ title, text, lines: own.sort(flatFirst) }))
  return [
    ...checkStep(wiring),
    ...(layout ? [placingStep(layout)] : []),
    ...plugStep(wiring),
    ...stepsOf(false),
    ...headerStep(wiring),
    ...stepsOf(true),
    ...(layout ? overRailsSteps(layout) : []),
  ]
}

/** Short wires lie flat and come first; what bows over them, and would be in the way of fingers, comes after. */
const flatFirst = (a: WireLine, b: WireLine): number =>
  (a.lengthMillimetres ?? 0) - (b.lengthMillimetres ?? 0) || a.order - b.order

/** What no entry can know of every specimen is looked up before anything goes in. */
function checkStep(wiring: Wiring): BuildStep[] {
  const checks = wiring.parts.flatMap((owner) => {
    const { check } = footprintOf(owner.part, owner.options)
    return check === undefined ? [] : [`${owner.ref}: ${check}`]
  })
  return checks.length === 0
    ? []
    : [{ title: 'Look at these first', text: checks.join(' '), lines: [], onlyWords: true }]
}

/** A part's own plug on posts stands for its wires. */
function plugStep(wiring: Wiring): BuildStep[] {
  const said = plugsOf(wiring)
    .filter(({ kind }) => kind === 'posts')
    .map(({ ref, onto, pairs }) => {
      const ways = pairs.map(([own, post]) => {
        const lead = wiring.terminal(own)?.partPin?.lead?.colour
        return `${lead ? `${lead} (${splitEnd(own).pin})` : splitEnd(own).pin} on ${splitEnd(post).pin}`
      })
      return `${ref} onto ${onto} with its own plug, no wires: ${ways.join(', ')}.`
    })
  return said.length === 0 ? [] : [{ title: 'Plugs', text: said.join(' '), lines: [] }]
}

/** What brings out a header brings its supplies too, and so goes on when all that hangs on it stands. */
function headerStep(wiring: Wiring): BuildStep[] {
  const said = plugsOf(wiring)
    .filter(({ kind }) => kind === 'header')
    .map(
      ({ ref, onto, header }) =>
        `${ref} over the ${header ?? 'header'} of ${onto}, position 1 on position 1 (the marked edge of its cable), with ${onto} switched off.`,
    )
  return said.length === 0 ? [] : [{ title: 'Over the header', text: said.join(' '), lines: [] }]
}

function placingStep(layout: Layout): BuildStep {
  const stands = ({ ref }: Unit): boolean => layout.seats.has(ref)
  const beside = layout.units.filter((unit) => unit.kind === 'beside' && !stands(unit)).map(({ ref }) => ref)
  return {
    title: 'Everything in its holes',
    text: `Nothing is plugged into a supply until the last wire is in. Put in what the leg table lists; legs that share a row or rail are joined by it and need no wire.${
      beside.length > 0 ? ` Beside the breadboard: ${beside.join(', ')}.` : ''
    }`,
    lines: [],
    places: layout.units.filter((unit) => stands(unit) && !isRailsUnit(unit)).map(({ ref }) => ref),
  }
}

/** A supply that feeds by being plugged on comes when every wire is in. */
function overRailsSteps(layout: Layout): BuildStep[] {
  return layout.units.flatMap((unit) => {
    const seat = isRailsUnit(unit) ? layout.seats.get(unit.ref) : undefined
    if (!seat) return []
    const { ref } = layout.grid.board(seat.at!)
    return [
      {
        title: `${unit.ref} over the rails`,
        text: `Nothing is plugged into ${unit.ref} yet. Its jumpers first: ${railWords(seat)}. Then push it over the rails at the ${seat.turned ? 'lower' : 'upper'} end of ${ref}, + over plus and - over minus on both sides.`,
        lines: [],
        places: [unit.ref],
      },
    ]
  })
}

const isOverRails = ({ units, seats }: Layout, ref: string): boolean =>
  seats.has(ref) && isRailsUnit(units.find((one) => one.ref === ref))

function kindOf(wiring: Wiring, line: WireLine, layout: Layout | undefined): Kind {
  const onBench = layout !== undefined
  if (line.feeds) {
    const source = line.net.sources[0]!
    return {
      key: `feed ${line.net.index}`,
      title: `Feed ${formatVolts(source.volts)} from ${source.end}`,
      text: 'Everything behind it stands now. The supply itself stays off until all steps are done.',
      rank: FEEDS + feedRank(wiring, source) + line.net.index / 1e6,
    }
  }
  const tied = [line.from, line.to].flatMap(({ terminal }) => (terminal ? [terminal.end] : []))
  const tie = wiring.ties.find((one) => tied.includes(one.end))
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
      text: onBench
        ? 'One common ground for all that exchanges signals, over the minus rails.'
        : 'Everything unplugged. One common ground for all that exchanges signals; wires that name the same hole meet on a rail of the breadboard.',
      rank: 0,
    }
  if (line.net.sources.length > 0) {
    const source = line.net.sources[0]!
    // Behind a contact, a diode or a shunt: no wire joins it with the supply.
    if (!ownRailOf(line.net))
      return {
        key: `led on ${source.end}`,
        title: `From ${source.end} through a part`,
        text: `What a contact, a diode or a shunt leads on from ${source.end}. The supply stays off.`,
        rank: 1.5,
      }
    return {
      key: `supply ${line.net.index}`,
      title: `Supply ${formatVolts(source.volts)} ${onBench ? 'to its parts' : `from ${source.end}`}`,
      text: onBench
        ? isOverRails(layout, source.ref)
          ? `Not yet joined with ${source.end}; that comes last.`
          : `Not yet joined with ${source.end}; that wire comes last.`
        : 'Still unplugged. Red is the supply of most parts, orange a second one.',
      rank: 1 + line.net.index / 1e6,
    }
  }
  const bus =
    line.use && busNeed(line.use.facts.needs) ? wiring.buses.find((one) => one.uses.includes(line.use!)) : undefined
  if (bus)
    return { key: `bus ${wiring.buses.indexOf(bus)}`, ...busText(bus), rank: 3 + wiring.buses.indexOf(bus) / 1e3 }
  return { key: 'singles', title: 'Single signals', text: 'Part by part, in the order of the kit.', rank: 5 }
}

/** What is fed by others comes before what feeds: parts, then boards, then outside supplies. */
function feedRank(wiring: Wiring, source: Source): number {
  const owner = wiring.terminal(source.end)?.owner.kind
  return owner === 'part' ? 0.1 : owner === 'board' ? 0.2 : 0.3
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
