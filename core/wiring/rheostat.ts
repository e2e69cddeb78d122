import { entryOf } from '../base/entryOf.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import type { Plan } from '../plan/planSchema.ts'

/** Kinds of parts through whose legs a current passes, and that ask nothing of what it comes from. */
const PASSED = new Set(['passive', 'light', 'load'])

/**
 * True for three legs of which two are wired as a resistor: one end free or joined with the tap, and on one side nothing
 * but legs of lamps, loads and other resistors. A tap at a pin of a board is read, whatever its ends lack.
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
  const isPassed = (end: string): boolean => {
    const id = entryOf(plan.parts, end.slice(0, end.indexOf('.')))?.part
    const part = id === undefined ? undefined : catalog.parts.get(id)
    return part?.build === 'component' && PASSED.has(part.category)
  }
  const isOnPin = near.some((end) => {
    const dot = end.indexOf('.')
    const board = entryOf(plan.boards, end.slice(0, dot))
    const pin = board && catalog.boards.get(board.board)?.pins.find(({ id }) => id === end.slice(dot + 1))
    return pin?.kind === 'io'
  })
  return !isOnPin && (near.every(isPassed) || away.every(isPassed))
}
