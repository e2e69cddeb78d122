import { entryOf } from '../base/entryOf.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Part } from '../catalog/partSchema.ts'
import type { Signal } from '../catalog/signalSchema.ts'
import type { Plan } from '../plan/planSchema.ts'

/** Kinds of parts through whose legs a current passes, and that ask nothing of what it comes from. */
const PASSED = new Set(['passive', 'light', 'load'])

/**
 * True for three legs of which two are wired as a resistor: one end free or joined with the tap, and on one side nothing
 * but legs of lamps, loads and other resistors. A tap at a pin of a board is read, whatever its ends lack; so is one that
 * a single resistor leads to a pin, unless a lamp or load hangs on its end. A tap on a rail is no tap, nor is one beside
 * another resistance at the pin that reads both. With all three legs wired it is one as well where a signal comes in at an
 * end instead of a supply: of its tap comes a share of it, as with a knob for loudness.
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
  if (near.length === 0 || away.length === 0) return false
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
  if (far.length === 2) return takesSignal(tap, ends, { at, partAt, isRail, isPin })
  if (far.length !== 1) return false
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

interface Wires {
  readonly at: (end: string) => readonly string[]
  readonly partAt: (end: string) => Part | undefined
  readonly isRail: (end: string) => boolean
  readonly isPin: (end: string) => boolean
}

/**
 * An end of a knob gets what the tap of another knob or an output of a part gives, maybe through resistors or capacitors;
 * or what a pin of a board gives, where a part listens at the tap.
 */
function takesSignal(tap: string, ends: readonly string[], wires: Wires): boolean {
  const { partAt, isPin } = wires
  const isGiven = (end: string): boolean => {
    const part = partAt(end)
    const pin = pinOf(end)
    return (
      part?.provides.some(({ pins, does }) => pins.includes(pin) && does.includes('analog-out')) === true ||
      signalAt(part, pin).some(({ direction, needs }) => direction === 'out' && needs === 'analog-in')
    )
  }
  const isHeard = (end: string): boolean =>
    signalAt(partAt(end), pinOf(end)).some(({ direction }) => direction === 'in')
  const given = ends.flatMap((end) => reached([end], [tap], wires))
  return given.some(isGiven) || (given.some(isPin) && reached([tap], ends, wires).some(isHeard))
}

const pinOf = (end: string): string => end.slice(end.indexOf('.') + 1)

const signalAt = (part: Part | undefined, pin: string): Signal[] =>
  part ? [...part.signals, ...part.modes.flatMap(({ signals }) => signals)].filter((one) => one.pin === pin) : []

/** Ends that a wire joins with these, and those behind resistors and capacitors; nothing where a rail is met. */
function reached(from: readonly string[], without: readonly string[], { at, partAt, isRail }: Wires): string[] {
  const seen = new Set(from)
  for (const end of seen) for (const other of at(end)) if (!without.includes(other)) seen.add(other)
  if ([...seen].some((end) => isRail(end) || partAt(end)?.rails.some(({ pin }) => pin === pinOf(end)))) return []
  const legs = [...seen].filter((end) => !from.includes(end) && partAt(end)?.category === 'passive')
  const beyond = legs.flatMap((leg) => {
    const ref = leg.slice(0, leg.indexOf('.'))
    const others = (partAt(leg)?.pins ?? []).map(({ id }) => `${ref}.${id}`).filter((end) => !seen.has(end))
    return others.length === 1 ? reached(others, [...without, ...seen], { at, partAt, isRail, isPin: () => false }) : []
  })
  return [...seen, ...beyond]
}
