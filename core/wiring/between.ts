import { busNeed } from './buses.ts'
import type { SignalUse, Wiring } from './model.ts'
import { drives } from './needs.ts'
import { waysThrough } from './waysThrough.ts'

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
    return wiring.ties.some((tie) => tie.end === end) || other?.facts.direction === 'in'
  })
}

/**
 * What another part puts out, or a contact or a knob, moves what a board would have driven. A bus wants its controller,
 * and what reads the length of pulses, as a servo does, somebody who makes them.
 */
function isMoved(wiring: Wiring, use: SignalUse): boolean {
  const { needs, hertz, alternates, serial } = use.facts
  // Behind a USB cable sits a computer, which is a partner on a serial line as a board is.
  if (busNeed(needs)?.kind === 'uart')
    return use.meets.some((end) => {
      const other = wiring.signal(end)
      const isUart = other?.facts.direction === 'out' && busNeed(other.facts.needs)?.kind === 'uart'
      return isUart && [use, other].some(({ part }) => part.part.rails.some(({ from }) => from === undefined))
    })
  if (busNeed(needs) !== undefined || (needs === 'pwm' && hertz !== undefined && !alternates)) return false
  return use.meets.some((end) => {
    const other = wiring.signal(end)
    // Bits one after the other come from a controller, or from the one before in a chain.
    return passesOn(wiring, end) || (other !== undefined && !serial && !drives(other.facts.needs))
  })
}

/** The output of a register or a strip at which what came in at its data pin goes on to the next one. */
function passesOn(wiring: Wiring, end: string): boolean {
  const input = bufferInto(wiring, end)
  return input !== undefined && wiring.signal(input) !== undefined
}

/** The side of a buffer at which it puts out what it takes in. */
export const isBufferOutput = (wiring: Pick<Wiring, 'terminal'>, end: string): boolean =>
  bufferInto(wiring, end) !== undefined

/** Where a buffer takes in what it puts out at an end. */
function bufferInto(wiring: Pick<Wiring, 'terminal'>, end: string): string | undefined {
  const terminal = wiring.terminal(end)
  if (terminal?.owner.kind !== 'part') return undefined
  return waysThrough(terminal.owner).find(({ kind, to }) => kind === 'buffer' && to === end)?.from
}
