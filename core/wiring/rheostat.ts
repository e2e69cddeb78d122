import type { Part } from '../catalog/partSchema.ts'
import type { Signal } from '../catalog/signalSchema.ts'
import type { Net, PartInstance, Terminal } from './model.ts'
import { isWirework } from './wirework.ts'

/** Kinds of parts through whose legs a current passes, and that ask nothing of what it comes from. */
const PASSED = new Set(['passive', 'light', 'load'])

interface Nets {
  readonly netOf: (end: string) => Net
  readonly terminal: (end: string) => Terminal | undefined
}

/**
 * True for three legs of which two are wired as a resistor: one end free or joined with the tap, and on one side nothing
 * but legs of lamps, loads and other resistors. A tap at a pin of a board is read, whatever its ends lack; so is one that
 * a single resistor leads to a pin, unless a lamp or load hangs on its end. A tap on a rail is no tap, nor is one beside
 * another resistance at the pin that reads both. With all three legs wired it is one as well where a signal comes in at an
 * end instead of a supply: of its tap comes a share of it, as with a knob for loudness.
 */
export function isRheostat({ ref }: PartInstance, facts: NonNullable<Part['rheostat']>, nets: Nets): boolean {
  const tap = `${ref}.${facts.tap}`
  const ends = facts.ends.map((pin) => `${ref}.${pin}`)
  const near = others(tap, nets)
  const far = ends.filter((end) => nets.netOf(end) !== nets.netOf(tap) && others(end, nets).length > 0)
  if (near.length === 0) return false
  if (far.length === 2) return takesSignal(tap, ends, nets)
  const away = far[0] === undefined ? [] : others(far[0], nets)
  if (away.length === 0) return false
  const isPassed = ({ owner }: Terminal): boolean =>
    owner.kind === 'part' && owner.part.build === 'component' && PASSED.has(owner.part.category)
  const resists = ({ owner }: Terminal): boolean =>
    owner.kind === 'part' && owner.part.build === 'component' && owner.part.inner.some(isResistance)
  const leadsToPin = (leg: Terminal): boolean =>
    leg.owner.kind === 'part' &&
    leg.owner.part.category === 'passive' &&
    legsBeside(leg).some((end) => others(end, nets).some(isPin))
  // A tap on a rail is read by nobody: the way from it to the one end is what counts.
  if (near.some(isRail)) return true
  // Beside another resistance at the pin that reads both it is the second one of a divider.
  if (near.some(isPin)) return near.some(resists) && away.some(isRail)
  if (away.every(isPassed)) return true
  return near.every(isPassed) && !near.some(leadsToPin)
}

const isResistance = ({ kind }: Part['inner'][number]): boolean => kind === 'resistance'
const isPin = ({ boardPin }: Terminal): boolean => boardPin?.kind === 'io'

/** A post of a supply or ground, of a board, a plan's supply, or a part that gives one. */
const isRail = ({ owner, boardPin, pin }: Terminal): boolean =>
  owner.kind === 'supply' ||
  (owner.kind === 'board'
    ? boardPin?.kind === 'ground' || owner.board.rails.some(({ pins }) => pins.includes(pin))
    : owner.part.rails.some((rail) => rail.pin === pin))

/** What meets an end, but for the part's own legs and what only carries wires on. */
function others(end: string, { netOf, terminal }: Nets): Terminal[] {
  const ref = end.slice(0, end.indexOf('.'))
  return netOf(end).ends.flatMap((one) => {
    const at = terminal(one)
    return at && at.ref !== ref && !(at.owner.kind === 'part' && isWirework(at.owner.part)) ? [at] : []
  })
}

const legsBeside = ({ owner, ref, end }: Terminal): string[] =>
  owner.kind === 'part' ? owner.part.pins.map(({ id }) => `${ref}.${id}`).filter((one) => one !== end) : []

/**
 * An end of a knob gets what the tap of another knob or an output of a part gives, maybe through resistors or capacitors;
 * or what a pin of a board gives, where a part listens at the tap.
 */
function takesSignal(tap: string, ends: readonly string[], nets: Nets): boolean {
  const isGiven = ({ owner, pin }: Terminal): boolean =>
    owner.kind === 'part' &&
    (owner.part.provides.some(({ pins, does }) => pins.includes(pin) && does.includes('analog-out')) ||
      signalsAt(owner.part, pin).some(({ direction, needs }) => direction === 'out' && needs === 'analog-in'))
  const isHeard = ({ owner, pin }: Terminal): boolean =>
    owner.kind === 'part' && signalsAt(owner.part, pin).some(({ direction }) => direction === 'in')
  const given = ends.flatMap((end) => reached(end, nets, new Set([nets.netOf(tap)])))
  return given.some(isGiven) || (given.some(isPin) && reached(tap, nets, new Set(ends.map(nets.netOf))).some(isHeard))
}

const signalsAt = (part: Part, pin: string): Signal[] =>
  [...part.signals, ...part.modes.flatMap(({ signals }) => signals)].filter((one) => one.pin === pin)

/** What meets an end, and what lies behind the resistors and capacitors there; nothing where a rail is met. */
function reached(end: string, nets: Nets, past: Set<Net>): Terminal[] {
  const net = nets.netOf(end)
  const met = others(end, nets)
  if (past.has(net) || met.some(isRail)) return []
  past.add(net)
  const legs = met.filter(({ owner }) => owner.kind === 'part' && owner.part.category === 'passive')
  return [...met, ...legs.flatMap((leg) => legsBeside(leg).flatMap((other) => reached(other, nets, past)))]
}
