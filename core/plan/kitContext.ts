import { entryOf } from '../base/entryOf.ts'
import type { Board } from '../catalog/boardSchema.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { isLoad } from '../catalog/common.ts'
import type { KitItem } from '../catalog/kitText.ts'
import type { Companion, Part } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { holds } from '../catalog/when.ts'
import { farFrom } from './loose.ts'
import type { Plan } from './planSchema.ts'

/** What the boards and drivers on the table can do. */
interface Table {
  readonly boards: readonly Board[]
  readonly parts: readonly Part[]
}

/**
 * Items as they are meant beside each other. Words that several parts answer to mean the one that works with what else
 * lies there: a stepper motor beside its driver, a microphone at a board without I2S, a light sensor at a board without
 * a converter. What was understood first is among the others then.
 */
export function inContext(
  items: readonly KitItem<Board, Part>[],
  plan: Plan,
  catalog: Catalog,
): KitItem<Board, Part>[] {
  const own = Object.values(plan.boards).flatMap((entry) => boardOf(catalog, entry) ?? [])
  const placed = Object.values(plan.parts).flatMap(({ part }) => catalog.parts.get(part) ?? [])
  const table: Table = {
    boards: [...own, ...items.flatMap(({ found }) => (found?.kind === 'board' ? [found.entry] : []))],
    parts: [...placed, ...items.flatMap(({ found }) => (found?.kind === 'part' ? [found.entry] : []))],
  }
  const sources = sourcesOn(items, plan, catalog)
  return items.map((item) => {
    const { found, others } = item
    const cells = cellsApart(item, table)
    if (cells) return cells
    const equipped = byCompanions(item, items, table)
    if (equipped) return meantAs(item, equipped)
    const switched = asSwitched(item, sources, table)
    const fed = asFed(switched ?? item, sources, table) ?? switched
    if (fed) return fed
    const on = found?.kind === 'part' ? carrierOf(item.text, found.entry, items, placed) : undefined
    if (on) return { ...item, found: { kind: 'outside', on } }
    if (found?.kind !== 'part' || works(found.entry, table)) return item
    const { category } = found.entry
    const better = others.find((one): one is Part => isPart(one) && one.category === category && works(one, table))
    return better ? meantAs(item, better) : item
  })
}

const meantAs = (item: KitItem<Board, Part>, meant: Part): KitItem<Board, Part> => ({
  ...item,
  found: { kind: 'part', entry: meant },
  options: {},
  others: [...(item.found?.kind === 'part' ? [item.found.entry] : []), ...item.others.filter((one) => one !== meant)],
})

/** Share by which a full battery may lie above the volts on the label of what it feeds: 12.6 V of three cells for 12 V. */
const FULL = 0.1

/** Labels of a part, and the volts of the one battery or adapter there is; a converter could make any others. */
function labelsAndVolts(part: Part, sources: readonly OnTable[]) {
  const label = part.options.find(({ id, values }) => id === 'volts' && values.length > 1)
  const [given, ...more] = new Set(sources.map(({ volts }) => volts))
  return !label || given === undefined || more.length > 0 ? undefined : { label, given }
}

interface Label {
  readonly id: string
  readonly volts: number
}

/** The label that says what the one supply gives. */
function labelOn(part: Part, sources: readonly OnTable[]): Label | undefined {
  const { label, given } = labelsAndVolts(part, sources) ?? {}
  const fits = (label?.values ?? []).flatMap(({ value }) =>
    typeof value === 'number' && given !== undefined && given >= value && given <= value * (1 + FULL) ? [value] : [],
  )
  const [volts] = fits.sort((a, b) => b - a)
  return label === undefined || volts === undefined ? undefined : { id: label.id, volts }
}

/** As {@link labelOn}, or of a part that bears what is on no label: 9 V are too much for a motor of 6 V, and run one of 12 V. */
function labelFor(part: Part, sources: readonly OnTable[]): Label | undefined {
  const said = labelOn(part, sources)
  const { label, given } = labelsAndVolts(part, sources) ?? {}
  if (said || !label || given === undefined) return said
  const takes = (value: number): boolean =>
    part.supplies.some(({ least, most, when }) => holds(when, { [label.id]: value }) && given >= least && given <= most)
  const volts = [label.usual, ...label.values.map(({ value }) => value)].find(
    (value): value is number => typeof value === 'number' && takes(value),
  )
  return volts === undefined ? undefined : { id: label.id, volts }
}

const isBridge = ({ does }: Part['provides'][number]): boolean => does.includes('bridge')

/**
 * A load of which nobody says for how many volts it is made, beside one supply that gives what such loads come for: a pump
 * with a 12 V adapter is one of 12 V.
 */
function asFed(
  item: KitItem<Board, Part>,
  sources: readonly OnTable[],
  { parts }: Table,
): KitItem<Board, Part> | undefined {
  const { found, options } = item
  if (found?.kind !== 'part' || (found.entry.category !== 'load' && found.entry.category !== 'light')) return undefined
  // A bridge keeps some of it, and others lower it by pulses.
  const isTurned = found.entry.modes[0]?.id === 'bridge' && parts.some(({ provides }) => provides.some(isBridge))
  const label = isTurned ? labelOn(found.entry, sources) : labelFor(found.entry, sources)
  const usual = found.entry.options.find(({ id }) => id === label?.id)?.usual
  return label && entryOf(options, label.id) === undefined && label.volts !== usual
    ? { ...item, options: { ...options, [label.id]: label.volts } }
    : undefined
}

/**
 * Lights with electronics of their own for which the one supply there is gives too much, beside a transistor: those that
 * go by the same words and are switched as a whole, such as a tape of lights of 12 V.
 */
function asSwitched(
  { found, others, ...item }: KitItem<Board, Part>,
  sources: readonly OnTable[],
  { parts }: Table,
): KitItem<Board, Part> | undefined {
  if (found?.kind !== 'part' || found.entry.category !== 'light' || found.entry.supplies.length === 0) return undefined
  if (sources.some(({ volts }) => volts === undefined || found.entry.supplies.every(({ most }) => volts <= most)))
    return undefined
  const isBare = ({ build, provides }: Part): boolean =>
    build === 'component' && provides.some(({ does }) => does.includes('sink'))
  const needsSwitch = ({ modes }: Part): boolean =>
    modes.some(({ signals }) => signals.some(({ needs }) => needs === 'sink'))
  const meant = others.find(
    (one): one is Part => isPart(one) && needsSwitch(one) && labelFor(one, sources) !== undefined,
  )
  return meant && parts.some(isBare) ? meantAs({ ...item, found, others }, meant) : undefined
}

/** Something that feeds others. */
interface OnTable {
  /** Undefined for what makes any of anything: a converter. */
  readonly volts: number | undefined
}

/** Batteries, adapters and converters of the kit and of the plan. */
function sourcesOn(items: readonly KitItem<Board, Part>[], { parts, supplies }: Plan, catalog: Catalog): OnTable[] {
  const sourceOf = ({ category, rails }: Part, options: KitItem<Board, Part>['options']): OnTable[] => {
    if (category !== 'power' || rails.length === 0) return []
    const volts = rails.some(({ from }) => from !== undefined) ? undefined : entryOf(options, 'volts')
    return [{ volts: typeof volts === 'number' ? volts : undefined }]
  }
  return [
    ...items.flatMap(({ found, options }) => (found?.kind === 'part' ? sourceOf(found.entry, options) : [])),
    ...Object.values(parts).flatMap(({ part: id, options }) => {
      const part = catalog.parts.get(id)
      return part ? sourceOf(part, options ?? {}) : []
    }),
    ...Object.values(supplies).map(({ volts }) => ({ volts })),
  ]
}

/** Cells in a row of so many volts are single ones beside a charger that takes one. */
function cellsApart(item: KitItem<Board, Part>, { parts }: Table): KitItem<Board, Part> | undefined {
  const { found, count, options, text } = item
  const { volts } = options
  if (found?.kind !== 'part' || typeof volts !== 'number' || !/18650/.test(text)) return undefined
  const cells = Math.round(volts / CELL_VOLTS)
  const isCharged = parts.some(({ pins }) => pins.some(({ outside }) => outside === 'a lithium cell'))
  return cells > 1 && isCharged
    ? { ...item, count: count * cells, options: { ...options, volts: CELL_VOLTS } }
    : undefined
}

/** A full lithium cell, in volts. */
const CELL_VOLTS = 4.2

/**
 * Of things that go by the same words the one whose own small parts come with the kit: a display of letters, and beside it
 * the knob for its contrast. A knob by itself may be there to be turned, unless its value is said, as it is in lists of
 * what a display needs, the resistor of its light is there as well, or the board reads no knobs.
 */
function byCompanions(
  item: KitItem<Board, Part>,
  items: readonly KitItem<Board, Part>[],
  { boards, parts }: Table,
): Part | undefined {
  const { found, others, text } = item
  if (found?.kind !== 'part' || BACKPACK.test(text)) return undefined
  const knobs = items.filter((one) => one.found?.kind === 'part' && one.found.entry.rheostat)
  const [knob] = knobs
  if (knob?.found?.kind !== 'part' || knobs.length > 1 || knob.count > 1) return undefined
  const { id } = knob.found.entry
  const wants = ({ companions }: Part): boolean => companions.some(({ part }) => part === id)
  if (wants(found.entry)) return undefined
  const meant = others.find((one): one is Part => isPart(one) && one.category === found.entry.category && wants(one))
  const isSaid =
    Object.keys(knob.options).length > 0 ||
    /contrast|trim/i.test(knob.text) ||
    (meant !== undefined && isSeriesThere(meant, items, parts))
  return isSaid || boards.every(({ analog }) => analog.length === 0) ? meant : undefined
}

/** The kit holds the value that a part wants in series, and nothing else in it that would take that. */
function isSeriesThere(meant: Part, items: readonly KitItem<Board, Part>[], parts: readonly Part[]): boolean {
  const others = parts.flatMap(({ companions }) => companions.filter(({ required }) => required))
  const series = meant.companions.filter((one) => one.series !== undefined)
  return items.some(({ found, options: has }) => {
    // A value that nobody said is that of whoever wants one.
    if (found?.kind !== 'part' || Object.keys(has).length === 0) return false
    const fits = (one: Companion): boolean => farFrom(one, found.entry.id, has) !== undefined
    return series.some(fits) && !others.some(fits)
  })
}

/** Words that say that a display brings its own electronics for the bus. */
const BACKPACK = /i2c|iic|twi|backpack|adapter|serial/i

/**
 * What the words name hangs outside of a part and is in no plan: a load cell, a thermocouple. By itself it means the part
 * that reads it; beside one that does, nothing more.
 */
function carrierOf(
  text: string,
  meant: Part,
  items: readonly KitItem<Board, Part>[],
  placed: readonly Part[],
): Part | undefined {
  // `a PT100 of two to four wires` goes by its first words.
  const outside = (part: Part): string[] =>
    part.pins.flatMap(({ outside: what }) => what?.toLowerCase().replace(/^an? | of .*$/g, '') ?? [])
  const words = text.toLowerCase()
  const hung = outside(meant).find((what) => words.includes(what))
  if (hung === undefined || words.includes(meant.id)) return undefined
  const others = items.flatMap(({ found, text: other }) =>
    found?.kind === 'part' && !other.toLowerCase().includes(hung) ? [found.entry] : [],
  )
  return [...others, ...placed].find((part) => outside(part).includes(hung))
}

const isPart = (entry: Board | Part): entry is Part => 'signals' in entry

/** Whether something on the table takes each required line of a part, as far as anything there is made for its kind. */
function works(part: Part, table: Table): boolean {
  const ways = part.modes.length > 0 ? part.modes.map(({ signals }) => [...part.signals, ...signals]) : [part.signals]
  return ways.some((signals) =>
    signals.every(({ needs, required, orElse }) => !required || orElse !== undefined || takes(needs, part, table)),
  )
}

function takes(need: string, part: Part, { boards, parts }: Table): boolean {
  const provided = parts.flatMap((one) => (one === part ? [] : one.provides))
  const isProvided = provided.some(
    ({ does, for: made }) => does.some((what) => what === need) && (made?.includes(part.id) ?? true),
  )
  // Without any driver nothing is known of how a load is to be driven, and without a board nothing of its lines.
  if (isLoad(need)) return isProvided || !provided.some(({ does }) => does.some(isLoad))
  if (isProvided || boards.length === 0) return true
  if (need === 'analog-in') return boards.some(({ analog }) => analog.length > 0)
  return !need.startsWith('i2s.') || boards.some(({ controllers }) => controllers.some(({ kind }) => kind === 'i2s'))
}
