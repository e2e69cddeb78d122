import { entryOf } from '../base/entryOf.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import type { Plan } from '../plan/planSchema.ts'

/** Kinds of parts through whose legs a current passes, and that ask nothing of what it comes from. */
const PASSED = new Set(['passive', 'light', 'load'])

/**
 * True for three legs of which two are wired as a resistor: one end free or joined with the tap, and on one side nothing
 * but legs of lamps, loads and other resistors. A tap at a pin of a board is read, whatever its ends lack; so is one that
 * a single resistor leads to a pin, unless a lamp or load hangs on its end. A tap on a rail is no tap, nor is one beside
 * another resistance at the pin that reads both.
 */
export function isRheostat(plan: Plan, catalog: Catalog, ref: string, facts: NonNullable<Part['rheostat']>): boolean {
  const tap = `${ref}.${facts.tap}`
  const ends = facts.ends.map((pin) => `${ref}.${pin}`)
  const at = (end: string): string[] => plan.wires.flatMap(([a, b]) => (a === end ? [b] : b === end ? [a] : []))
  const group = [tap, ...ends.filter((end) => at(end).includes(tap))]
  const beyond = (some: readonly string[]): string[] =>
    some.flatMap(at).filter((end) => !group.includes(end) && !ends.includes(end))
  const far = ends.filter((end) => !group.includes(end) && at(end).length > 0)
  const [near, away] = [beyond(group), beyond(far)]
  if (far.length !== 1 || near.length === 0 || away.length === 0) return false
  const partAt = (end: string): Part | undefined => {
    const id = entryOf(plan.parts, end.slice(0, end.indexOf('.')))?.part
    return id === undefined ? undefined : catalog.parts.get(id)
  }
  const isPassed = (end: string): boolean => {
    const part = partAt(end)
    return part?.build === 'component' && PASSED.has(part.category)
  }
  const isPin = (end: string): boolean => {
    const dot = end.indexOf('.')
    const board = entryOf(plan.boards, end.slice(0, dot))
    const pin = board && catalog.boards.get(board.board)?.pins.find(({ id }) => id === end.slice(dot + 1))
    return pin?.kind === 'io'
  }
  const isRail = (end: string): boolean => {
    const dot = end.indexOf('.')
    const [ref, id] = [end.slice(0, dot), end.slice(dot + 1)]
    if (entryOf(plan.supplies, ref)) return true
    const board = entryOf(plan.boards, ref)
    const facts = board && catalog.boards.get(board.board)
    return facts
      ? facts.pins.some((pin) => pin.id === id && pin.kind === 'ground') ||
          facts.rails.some(({ pins }) => pins.includes(id))
      : false
  }
  const resists = (end: string): boolean => {
    const part = partAt(end)
    return part?.build === 'component' && part.inner.some(({ kind }) => kind === 'resistance')
  }
  const leadsToPin = (end: string): boolean => {
    if (partAt(end)?.category !== 'passive') return false
    const ref = end.slice(0, end.indexOf('.') + 1)
    return plan.wires.some(([a, b]) => [a, b].some((leg) => leg.startsWith(ref) && leg !== end && at(leg).some(isPin)))
  }
  // A tap on a rail is read by nobody: the way from it to the one end is what counts.
  if (near.every(isRail)) return true
  // Beside another resistance at the pin that reads both it is the second one of a divider.
  const besides = [...near, ...near.filter(isPin).flatMap(at)].filter((end) => !group.includes(end))
  if (near.some(isPin) && besides.some(resists) && away.every(isRail)) return true
  if (near.some(isPin)) return false
  if (away.every(isPassed)) return true
  return near.every(isPassed) && !near.some(leadsToPin)
}
