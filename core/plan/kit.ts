import { entryOf } from '../base/entryOf.ts'
import type { Board } from '../catalog/boardSchema.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { commonLegOf } from '../catalog/commonLeg.ts'
import { makesDivider } from '../catalog/filling.ts'
import type { KitItem } from '../catalog/kitText.ts'
import type { Companion, Part } from '../catalog/partSchema.ts'
import { boardOf } from '../catalog/variant.ts'
import { holds, withUsual } from '../catalog/when.ts'
import { carryEdits } from './carried.ts'
import { applyEdits, type Edit, toBuy } from './edit.ts'
import { isFilling, isTaken, keptFor, type Loose, looseIn } from './loose.ts'
import type { Plan, PlanPart } from './planSchema.ts'
import { freshRef } from './refs.ts'

/**
 * Edits that add so many of a part, named sensibly, on free addresses, with the companions it cannot do without. Where
 * such lie loose on the table already, or come with the same kit, none is added: which of them suits is for the
 * assignment to say.
 */
export function addParts(
  plan: Plan,
  catalog: Catalog,
  part: Part,
  count: number,
  given: Partial<PlanPart> = {},
  { loose = looseIn(plan), kept, inTurn = false, measures = true }: Beside = {},
): Edit[] {
  const edits: Edit[] = carryEdits(plan, catalog, 'parts', part.id)
  let now = applyEdits(plan, edits)
  for (const [at, ref] of freshRef(plan, part.stem, count).entries()) {
    const address = freeAddress(now, part)
    const options = { ...(address ?? {}), ...given.options }
    const entry: PlanPart = { part: part.id, ...given, ...(Object.keys(options).length > 0 ? { options } : {}) }
    const add: Edit[] = [{ do: 'add-part', ref, entry }]
    now = applyEdits(now, add)
    // A diode for a bare transistor is none for a bridge: where the way of driving is open, what belongs to one of them
    // comes with that.
    const mode = given.mode ?? (part.modes.length === 1 ? part.modes[0]?.id : undefined)
    const chosen = withUsual(part, options)
    const isWanted = (companion: Companion): boolean =>
      companion.required &&
      !(inTurn && at > 0) &&
      (companion.modes === undefined || (mode !== undefined && companion.modes.includes(mode))) &&
      holds(companion.when, chosen) &&
      !isTaken(loose, companion, kept) &&
      !(!measures && makesDivider(part, companion) && isFilling(loose, catalog))
    const companions = toBuy(companionEdits(now, catalog, ref, isWanted))
    now = applyEdits(now, companions)
    edits.push(...add, ...companions)
  }
  return edits
}

/** What parts find that are added. */
interface Beside {
  readonly loose?: Loose[]
  /** What of it has just the value that a companion has: others take the rest first. */
  readonly kept?: ReadonlyMap<Loose, Companion>
  /** They share their lines and are lit in turn, so the resistors of the first do for all. */
  readonly inTurn?: boolean
  /** Some pin of a board, or of a part that gives pins, measures volts. */
  readonly measures?: boolean
}

const isPassive = ({ helper, pins }: Part): boolean => helper !== undefined && pins.length === 2

/** Pieces of one item with the same values, with their amount. */
function alike(pieces: readonly Loose[]): [Loose['options'], number][] {
  const counts = new Map<string, [Loose['options'], number]>()
  for (const { options } of pieces) {
    const key = JSON.stringify(options ?? {})
    counts.set(key, [options, (counts.get(key)?.[1] ?? 0) + 1])
  }
  return [...counts.values()]
}

/** Edits that add a board with the features that are usually on. */
export function addBoard(plan: Plan, catalog: Catalog, board: Board): Edit[] {
  const uses = board.features.filter((feature) => feature.usual).map((feature) => feature.id)
  const ref = freshRef(plan, 'MCU', 1)[0] as string
  return [...carryEdits(plan, catalog, 'boards', board.id), { do: 'add-board', ref, entry: { board: board.id, uses } }]
}

/** Edits that add what was read of a maker's own words, boards first, and what of it has been understood. */
export function addKit(
  plan: Plan,
  catalog: Catalog,
  items: readonly KitItem<Board, Part>[],
): { readonly edits: readonly Edit[]; readonly added: readonly KitItem<Board, Part>[] } {
  const edits: Edit[] = []
  let now = plan
  const take = (more: readonly Edit[]): void => {
    now = applyEdits(now, more)
    edits.push(...more)
  }
  const loose = looseIn(plan)
  const onTable = Object.values(plan.parts).flatMap(({ part }): Counted[] => {
    const entry = catalog.parts.get(part)
    return entry ? [{ found: { kind: 'part', entry }, count: 1 }] : []
  })
  const pieces = items.map(({ found, count, options }) =>
    Array.from({ length: found?.kind === 'part' ? count : 0 }, (): Loose => {
      const part = found?.kind === 'part' ? found.entry.id : ''
      return { part, options: Object.keys(options).length > 0 ? options : undefined }
    }),
  )
  loose.push(...pieces.flat())
  const kept = keptFor(
    loose,
    items.flatMap(({ found, count }) =>
      found?.kind === 'part' ? Array.from({ length: count }, () => found.entry) : [],
    ),
  )
  for (const { found } of items) if (found?.kind === 'board') take(addBoard(now, catalog, found.entry))
  const measures =
    Object.values(now.boards).some(({ board }) => catalog.boards.get(board)?.analog.length !== 0) ||
    [...onTable, ...items].some(
      ({ found }) => found?.kind === 'part' && found.entry.provides.some(({ does }) => does.includes('analog-in')),
    )
  // What others ask for comes after them: `3 resistors` have the value that three lamps want.
  for (const helps of [false, true])
    for (const [at, { found }] of items.entries())
      if (found?.kind === 'part' && isPassive(found.entry) === helps)
        for (const [options, count] of alike(pieces[at] ?? []))
          take(
            addParts(now, catalog, found.entry, count, options ? { options } : {}, {
              loose,
              kept,
              inTurn: isInTurn([...onTable, ...items], found.entry, count),
              measures: measures || Object.keys(now.boards).length === 0,
            }),
          )
  take(radiosApart(plan, now, catalog))
  return { edits, added: items.filter(({ found }) => found?.kind === 'board' || found?.kind === 'part') }
}

type Counted = Pick<KitItem<Board, Part>, 'found' | 'count'>

/** As many digits as there are bare transistors beside what else asks for one and finds no relay. */
function isInTurn(items: readonly Counted[], part: Part, digits: number): boolean {
  if (digits < 2 || commonLegOf(part) === undefined) return false
  const sumOf = (each: (part: Part) => number): number =>
    items.reduce((sum, { found, count }) => sum + (found?.kind === 'part' ? each(found.entry) * count : 0), 0)
  const transistors = sumOf(({ build, channels }) => (build === 'component' && channels.length === 1 ? 1 : 0))
  const contacts = sumOf(
    ({ inner }) => inner.filter((one) => one.kind === 'switch' && one.moved?.closed === 'active').length,
  )
  const others = sumOf(({ build, channels }) => (build === 'component' && channels.length === 1 ? 0 : channels.length))
  // What only a bridge turns asks for no transistor.
  const loads = sumOf(({ category, signals, modes }) =>
    category === 'load' && [signals, ...modes.map((mode) => mode.signals)].flat().some(({ needs }) => needs === 'sink')
      ? 1
      : 0,
  )
  return transistors - Math.max(0, loads - contacts - others) >= digits
}

/**
 * Radios talk from board to board: as many of a kind as there are boards, or a transmitter and a receiver for two, go to
 * one each.
 */
function radiosApart(before: Plan, now: Plan, catalog: Catalog): Edit[] {
  const boards = Object.keys(now.boards)
  if (boards.length < 2) return []
  const groups = new Map<string, string[]>()
  for (const [ref, { part: id, on }] of Object.entries(now.parts)) {
    const part = catalog.parts.get(id)
    if (ref in before.parts || on !== undefined || part?.category !== 'radio') continue
    // What sends and what hears on one frequency are two halves of a pair.
    const kind = id.replace(/-(?:tx|rx)$/, '')
    groups.set(kind, [...(groups.get(kind) ?? []), ref])
  }
  return [...groups.values()].flatMap((refs) =>
    refs.length === boards.length
      ? refs.map((ref, at): Edit => ({ do: 'change-part', ref, entry: { on: boards[at] as string } }))
      : [],
  )
}

/** Edits that add one more of a part of the plan: its mode, board and options, on the next free address. */
export function duplicatePart(plan: Plan, catalog: Catalog, ref: string): Edit[] {
  const entry = entryOf(plan.parts, ref)
  const part = catalog.parts.get(entry?.part ?? '')
  if (!entry || !part) return []
  const addressed = part.options.filter((one) => differs(part, one)).map((one) => one.id)
  const options = Object.fromEntries(Object.entries(entry.options ?? {}).filter(([id]) => !addressed.includes(id)))
  const { mode, on, title } = entry
  const given: Partial<PlanPart> = {
    ...(title === undefined ? {} : { title: title.startsWith('for ') ? title : `${title.slice(0, 190)} (copy)` }),
    ...(mode === undefined ? {} : { mode }),
    ...(on === undefined ? {} : { on }),
    ...(Object.keys(options).length > 0 ? { options } : {}),
  }
  return addParts(plan, catalog, part, 1, given)
}

/** An option in which two of a kind have to differ: the address, and the half of a frame in which a microphone speaks. */
const differs = (part: Part, { id, kind }: Part['options'][number]): boolean =>
  kind === 'i2c-address' || (id === 'channel' && part.signals.some(({ needs }) => needs === 'i2s.din'))

/** The first address of a part's straps, or half of a frame, that no other part of the same kind has. */
function freeAddress(plan: Plan, part: Part): Record<string, string | number> | undefined {
  const option = part.options.find((one) => differs(part, one))
  if (!option) return undefined
  const taken = new Set(
    Object.values(plan.parts)
      .filter((one) => one.part === part.id)
      .map((one) => entryOf(one.options, option.id) ?? option.usual),
  )
  if (!taken.has(option.usual)) return undefined
  const free = option.values.find((one) => !taken.has(one.value))
  return free ? { [option.id]: free.value } : undefined
}

/**
 * Where a leg of a companion goes: a pin of the part, or its supply or ground; for a part without one, that of its
 * board. Undefined while there is no board.
 */
function companionEnd(plan: Plan, catalog: Catalog, ref: string, pin: string): string | undefined {
  const part = catalog.parts.get(entryOf(plan.parts, ref)?.part ?? '')
  if (pin !== 'supply' && pin !== 'ground') return `${ref}.${pin}`
  const own =
    part?.supplies[0]?.[pin === 'supply' ? 'pins' : 'ground'][0] ?? part?.pins.find((one) => one.role === pin)?.id
  if (own !== undefined) return `${ref}.${own}`
  const home = entryOf(plan.parts, ref)?.on ?? Object.keys(plan.boards)[0]
  const board = home === undefined ? undefined : boardOf(catalog, entryOf(plan.boards, home))
  const hole =
    pin === 'ground'
      ? board?.pins.find((one) => one.kind === 'ground')?.id
      : board?.rails.find((rail) => rail.logic)?.pins[0]
  return hole === undefined ? undefined : `${home}.${hole}`
}

/** Edits that add the companions of a part that has no wires yet: in series with a pin, or across two. */
export function companionEdits(
  plan: Plan,
  catalog: Catalog,
  ref: string,
  which: (companion: Companion) => boolean,
): Edit[] {
  const part = catalog.parts.get(entryOf(plan.parts, ref)?.part ?? '')
  const edits: Edit[] = []
  let now = plan
  for (const companion of part?.companions ?? []) {
    if (!which(companion)) continue
    const add = editsOfCompanion(now, catalog, ref, companion)
    now = applyEdits(now, add)
    edits.push(...add)
  }
  return edits
}

/**
 * Edits that put in one companion of a part, as the part asks for it the way it is wired. `there` is a loose part of the
 * plan that is taken instead of a new one.
 */
export function editsOfCompanion(
  plan: Plan,
  catalog: Catalog,
  ref: string,
  companion: Companion,
  there?: string,
): Edit[] {
  const facts = catalog.parts.get(companion.part)
  if (!facts) return []
  const name = there ?? (freshRef(plan, facts.stem, 1)[0] as string)
  const legs = facts.pins.map((pin) => `${name}.${pin.id}`)
  const add: Edit[] = []
  if (there === undefined)
    add.push({
      do: 'add-part',
      ref: name,
      entry: {
        part: facts.id,
        title: `for ${ref}`,
        ...(Object.keys(companion.options).length > 0 ? { options: companion.options } : {}),
      },
    })
  if (companion.series !== undefined) {
    const end = `${ref}.${companion.series}`
    // Whatever the pin is wired to moves behind the companion; what lies across the pin stays.
    for (const [from, to, facts] of plan.wires.filter((wire) => wire[0] === end || wire[1] === end)) {
      const other = from === end ? to : from
      add.push({ do: 'disconnect', from, to })
      add.push({ do: 'connect', from: legs[1] as string, to: other, ...(facts ? { facts } : {}) })
    }
    add.push({ do: 'connect', from: end, to: legs[0] as string })
  }
  companion.across?.forEach((pin, index) => {
    const to = companionEnd(plan, catalog, ref, pin)
    if (to !== undefined) add.push({ do: 'connect', from: legs[index] as string, to })
  })
  return add
}
