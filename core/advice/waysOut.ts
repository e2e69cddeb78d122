import { type AssignResult, assign } from '../assign/assign.ts'
import { weakOnBus } from '../assign/busVolts.ts'
import type { Conflict } from '../assign/conflict.ts'
import { divisionOf, isI2c } from '../assign/leadOver.ts'
import { prepare } from '../assign/preparing.ts'
import { entryOf } from '../base/entryOf.ts'
import { helpersFor } from '../catalog/catalog.ts'
import { isLoad } from '../catalog/common.ts'
import { dividerFor } from '../electrical/divider.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { applyEdits, type Edit, EditError, toBuy } from '../plan/edit.ts'
import { addParts } from '../plan/kit.ts'
import { freshRef } from '../plan/refs.ts'
import { faultsIn, newFaults } from '../rules/faults.ts'
import { check, rules } from '../rules/index.ts'
import { listWords } from '../rules/shared.ts'
import { strapEdits } from '../wiring/i2c.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { resupply } from '../wiring/resupply.ts'
import { groundPost } from '../wiring/supply.ts'
import { fitBoards } from './fit.ts'
import { moveBoard } from './moveBoard.ts'

/** A way out of an impossible plan, tried by solving again. */
export interface WayOut {
  readonly title: string
  /** The change and all wires that can be placed after it. */
  readonly edits: readonly Edit[]
  /** Signals still without a pin. */
  readonly left: number
  /** What it changes of the maker's plan, new wires not counted. */
  readonly changes: number
}

/** Steps after which a trial takes the best so far: a way out has to help, not to be proven. */
export const soon = (steps: number): boolean => steps > 2000

/** Voltages in volts at which outside supplies are commonly sold. */
const SUPPLY_VOLTS = [3.3, 5, 6, 9, 12, 24] as const

/**
 * Ways out of what finds no place, fewest open ends left first, then those that change least: another address or mode,
 * a supply, a divider or a shifter, a transistor or a driver, a feature less, an expander or bus part more, another board.
 * Each was solved and the plan checked; one that does not help, or brings a fault, is not offered. `conflict` names the parts whose signals
 * collide; without one it is supplies that are missing.
 */
export function waysOut(
  wiring: Wiring,
  result: AssignResult,
  conflict: Pick<Conflict, 'parts'> | undefined,
  most = 6,
): WayOut[] {
  const before = result.unplaced.length
  const tried: WayOut[] = []
  const known = faultsIn(check(resolve(applyEdits(wiring.plan, result.edits), wiring.catalog), rules))
  const attempt = (title: string, edits: readonly Edit[], changes: number): void => {
    try {
      const plan = applyEdits(wiring.plan, edits)
      const answer = assign(resolve(plan, wiring.catalog), { shouldStop: soon })
      if (answer.unplaced.length >= before) return
      const after = check(resolve(applyEdits(plan, answer.edits), wiring.catalog), rules)
      // A way out may leave some ends open, and must bring no other fault.
      if (newFaults(known, after).every(({ rule }) => rule === 'pin-unplaced'))
        tried.push({ title, edits: [...toBuy(edits), ...answer.edits], left: answer.unplaced.length, changes })
    } catch (error) {
      if (!(error instanceof EditError)) throw error
    }
  }
  for (const { title, edits } of suppliesFor(wiring, result)) attempt(title, edits, 2)
  for (const { title, edits, changes } of levelWays(wiring, result)) attempt(title, edits, changes)
  for (const { title, edits } of partnersFor(wiring, result)) attempt(title, edits, 2)
  for (const { title, edits } of driversFor(wiring, result)) attempt(title, edits, 3)
  for (const part of conflict?.parts ?? []) {
    for (const { title, edits } of addressesFor(wiring, part)) attempt(title, edits, 1 + edits.length)
    for (const mode of part.part.modes)
      if (mode !== part.mode)
        attempt(
          `Wire ${part.ref} as: ${mode.title}`,
          [{ do: 'change-part', ref: part.ref, entry: { mode: mode.id } }],
          2,
        )
  }
  for (const board of conflict ? wiring.boards : [])
    for (const feature of board.features) {
      if (feature.pins.length + feature.controllers.length + feature.timers.length + feature.analog.length === 0)
        continue
      const uses = board.features.map((one) => one.id).filter((id) => id !== feature.id)
      attempt(`Do without: ${feature.title}`, [{ do: 'change-board', ref: board.ref, entry: { uses } }], 3)
    }
  // Parts that bring more pins or buses, tried one at a time.
  const helping = (['more-pins', 'more-analog', 'more-buses'] as const).flatMap((one) =>
    helpersFor(wiring.catalog, one),
  )
  for (const part of conflict ? helping : []) {
    const given = beside(wiring, conflict?.parts[0])
    attempt(`Add one more part: ${part.title}`, addParts(wiring.plan, wiring.catalog, part, 1, given), 5)
  }
  if (conflict && tried.length < most && wiring.boards.length === 1) {
    const board = wiring.boards[0]!
    for (const fit of fitBoards(wiring.plan, wiring.catalog).slice(0, 3)) {
      if (fit.board.id === board.board.id || fit.left.length >= before) continue
      const moved = moveBoard(wiring.plan, wiring.catalog, board.ref, fit.board.id)
      tried.push({
        title: `Take another board: ${fit.board.title}`,
        edits: moved.edits,
        left: moved.unplaced.length,
        changes: 20 + moved.replug.move.length,
      })
    }
  }
  return tried.sort((a, b) => a.left - b.left || a.changes - b.changes).slice(0, most)
}

/**
 * What helps lines that every pin refuses for their level: the part on a supply that the board's level allows, two
 * resistors in each line, a level shifter. The search leads the lines over what is added.
 */
function levelWays(
  wiring: Wiring,
  result: AssignResult,
): { readonly title: string; readonly edits: readonly Edit[]; readonly changes: number }[] {
  const refused = new Set(result.unplaced.flatMap(({ end, level }) => (level ? [end] : [])))
  if (refused.size === 0) return []
  const fed = prepare(wiring).wiring
  const stuck = fed.signals.filter(({ end }) => refused.has(end))
  const parts = [...new Set(stuck.map(({ part }) => part.ref))]
  // Of a bus with mixed pull-ups the parts that do not bear them go behind the shifter.
  const weak = stuck.some(isI2c) ? weakOnBus(fed) : new Set<PartInstance>()
  const led = weak.size === 0 ? stuck : fed.signals.filter((use) => weak.has(use.part) && isI2c(use))
  const lines = led.map(({ end }) => end).join(', ')
  const supplies = parts.flatMap((ref) => {
    const part = wiring.parts.find((one) => one.ref === ref)
    return part ? resupply(wiring, part, () => true).map(({ title, edits }) => ({ title, edits, changes: 1 })) : []
  })
  const [resistor] = helpersFor(wiring.catalog, 'resistor')
  // A line that is driven from both sides cannot be divided; the others are helped all the same.
  const dividers = stuck.flatMap((use) => {
    const division = divisionOf(use)
    const values = division && dividerFor(division.high, (division.least + division.most) / 2, division.most)
    return values && division.least <= values.volts ? [{ ...values, end: use.end }] : []
  })
  const refs = freshRef(wiring.plan, 'R', 2 * dividers.length)
  const divided = resistor &&
    dividers.length > 0 && {
      title: `Put a divider of two resistors into the line of ${dividers.map(({ end }) => end).join(', ')} (${dividers.map((one) => `${formatQuantity(one.top, 'Ω')} and ${formatQuantity(one.bottom, 'Ω')}`).join(', ')})`,
      edits: dividers.flatMap(({ top, bottom }, at): Edit[] =>
        [top, bottom].map((ohms, half) => ({
          do: 'add-part',
          ref: refs[2 * at + half] as string,
          entry: { part: resistor.id, options: { ohms } },
        })),
      ),
      changes: 2,
    }
  const [shifter] = helpersFor(wiring.catalog, 'level-shifter')
  const channels = shifter?.inner.filter(({ kind }) => kind === 'shift').length ?? 0
  const shifted = shifter &&
    channels > 0 && {
      title: `Lead ${lines} over a level shifter (${shifter.title})`,
      edits: addParts(wiring.plan, wiring.catalog, shifter, weak.size > 0 ? 1 : Math.ceil(stuck.length / channels)),
      changes: 4,
    }
  return [...supplies, ...(divided ? [divided] : []), ...(shifted ? [shifted] : [])]
}

/** The board that what is added belongs to, where there are several: that of the part which it helps. */
const beside = ({ boards }: Wiring, part: PartInstance | undefined): { on?: string } =>
  boards.length > 1 && part?.home ? { on: part.home.ref } : {}

/**
 * Transistors and drivers that makers have at hand, for loads that nothing drives and for what asks a pin for more current
 * than it gives.
 */
function driversFor(wiring: Wiring, result: AssignResult): { title: string; edits: Edit[] }[] {
  const open = new Set(result.unplaced.map(({ end }) => end))
  const stuck = prepare(wiring).wiring.signals.filter(({ end }) => open.has(end))
  const ways = [...wiring.catalog.parts.values()].filter(({ category, usual }) => category === 'driver' && usual)
  return ways.flatMap((part) => {
    const outputs = part.provides.filter(({ does }) => does.some(isLoad))
    const does = new Set<string>(outputs.flatMap((one) => one.does))
    const wants = ({ facts }: SignalUse): boolean =>
      does.has(facts.needs) || (does.has('sink') && facts.needs === 'digital-out' && facts.milliamps !== undefined)
    const loads = stuck.filter(wants)
    const channels = outputs.reduce((sum, { pins }) => sum + pins.length, 0)
    if (loads.length === 0 || channels === 0) return []
    const count = Math.ceil(loads.length / channels)
    const refs = [...new Set(loads.map((use) => use.part.ref))]
    const title = `Drive ${refs.join(', ')} over ${count === 1 ? '' : `${count} × `}${part.title}`
    return [{ title, edits: addParts(wiring.plan, wiring.catalog, part, count, beside(wiring, loads[0]?.part)) }]
  })
}

/**
 * Loads between two outputs for which there are too few: each turns with one of its kind that has found its place, in
 * parallel. Two and two, as the wheels of a car, the search puts together by itself (`sideBySide`); whether the driver
 * bears both is for the checks here.
 */
function partnersFor(wiring: Wiring, result: AssignResult): { title: string; edits: Edit[] }[] {
  const open = new Set(result.unplaced.map(({ end }) => end))
  const legs = wiring.signals.filter(({ facts }) => facts.needs === 'bridge')
  const isStuck = (part: PartInstance): boolean => legs.some((use) => use.part === part && open.has(use.end))
  const loads = [...new Set(legs.map(({ part }) => part))]
  const pairs = loads.filter(isStuck).map((load, at) => {
    const alike = loads.filter(
      (one) =>
        !isStuck(one) &&
        one.part === load.part &&
        one.mode === load.mode &&
        JSON.stringify(one.options) === JSON.stringify(load.options),
    )
    return { load, beside: alike[at % Math.max(1, alike.length)] }
  })
  if (pairs.length === 0 || pairs.some(({ beside: other }) => other === undefined)) return []
  const edits = pairs.flatMap(({ load, beside: other }) =>
    legs
      .filter(({ part }) => part === load)
      .map(({ end, facts }): Edit => ({ do: 'connect', from: end, to: `${other?.ref}.${facts.pin}` })),
  )
  const words = listWords(pairs.map(({ load, beside: other }) => `${load.ref} with ${other?.ref}`))
  return [{ title: `In parallel on one pair of outputs: ${words}`, edits }]
}

/** An outside supply of a common voltage for parts that find none, its ground joined with the board's. */
function suppliesFor(wiring: Wiring, result: AssignResult): { title: string; edits: Edit[] }[] {
  const open = new Set(result.unplaced.map(({ end }) => end))
  const hungry = wiring.parts.flatMap((part) =>
    part.supplies
      .filter((use) => use.source === undefined && use.pins.some((end) => open.has(end)))
      .map(({ facts }) => ({ ref: part.ref, facts })),
  )
  if (hungry.length === 0) return []
  const ref = freshRef(wiring.plan, 'PACK', 1)[0]!
  const ground = groundPost(wiring.boards[0])
  return SUPPLY_VOLTS.flatMap((volts) => {
    const fed = hungry.filter(({ facts }) => volts >= facts.least && volts <= facts.most)
    if (fed.length === 0) return []
    const edits: Edit[] = [{ do: 'add-supply', ref, entry: { volts } }]
    if (ground !== undefined) edits.push({ do: 'connect', from: `${ref}.-`, to: ground })
    const refs = [...new Set(fed.map((one) => one.ref))]
    return [{ title: `Add a supply of ${formatVolts(volts)} for ${refs.join(', ')}`, edits }]
  })
}

/** Other addresses of a part's straps, with the straps rewired. */
function addressesFor(wiring: Wiring, part: PartInstance): { title: string; edits: Edit[] }[] {
  const option = part.mode?.i2c?.addresses.option
  const facts = part.part.options.find((one) => one.id === option)
  if (option === undefined || !facts) return []
  return facts.values
    .filter((one) => one.value !== entryOf(part.options, option))
    .slice(0, 8)
    .flatMap(({ value, title }) => {
      const straps = strapEdits(wiring, part, option, String(value))
      if (!straps) return []
      const entry = entryOf(wiring.plan.parts, part.ref)
      return [
        {
          title: `Move ${part.ref} to ${hexAddress(Number(value))}${title ? ` (${title})` : ''}`,
          edits: [
            { do: 'change-part', ref: part.ref, entry: { options: { ...entry?.options, [option]: value } } } as Edit,
            ...straps,
          ],
        },
      ]
    })
}
