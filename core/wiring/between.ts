import { holds } from '../catalog/when.ts'
import { busNeed } from './buses.ts'
import type { SignalUse, Wiring } from './model.ts'
import { drives } from './needs.ts'

/**
 * A line from part to part that asks for no pin of a board: something else takes the signal in, or moves it, as a
 * motion sensor moves a relay, a shift register the next one, a knob the contrast of a display.
 */
export const isBetweenParts = (wiring: Wiring, use: SignalUse): boolean =>
  drives(use.facts.needs) ? isMoved(wiring, use) : isHeard(wiring, use)

/** Another part takes in what a board would have read. */
function isHeard(wiring: Wiring, use: SignalUse): boolean {
  if (use.facts.direction === 'in') return false
  return use.meets.some((end) => {
    const other = wiring.signal(end)
    return wiring.ties.some((tie) => tie.end === end) || (other !== undefined && isTakenIn(other))
  })
}

/** What another part puts out, or a contact or a knob, moves what a board would have driven. A bus wants its controller. */
function isMoved(wiring: Wiring, use: SignalUse): boolean {
  if (busNeed(use.facts.needs) !== undefined) return false
  return use.meets.some((end) => {
    const other = wiring.signal(end)
    return isBufferOutput(wiring, end) || (other !== undefined && !drives(other.facts.needs))
  })
}

const isTakenIn = ({ facts }: SignalUse): boolean =>
  facts.direction === 'in' || (drives(facts.needs) && facts.direction === 'passive')

/** The side of a buffer at which it puts out what it takes in. */
export function isBufferOutput(wiring: Pick<Wiring, 'terminal'>, end: string): boolean {
  const terminal = wiring.terminal(end)
  if (terminal?.owner.kind !== 'part') return false
  const { part, options } = terminal.owner
  return part.inner.some(
    (inner) =>
      inner.kind === 'buffer' && holds(inner.when, options) && inner.between[inner.back ? 0 : 1] === terminal.pin,
  )
}
