import { circuitOf } from '../circuit/circuit.ts'
import { isCell } from '../circuit/reach.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { swapWires } from './mend.ts'

export const meterTurnedMessages = {
  meterTurned: '{part} counts what is taken as negative: the current comes in at {comesIn} and leaves at {leaves}.',
}

/** Meters whose shunt the current runs through from its load side to its source side. */
export function sayMetersTurned(wiring: Wiring, report: (one: Report) => void): void {
  for (const { kind, part, a, b, netA, netB } of circuitOf(wiring).elements) {
    if (kind !== 'shunt' || part.supplies.length === 0 || netA === netB) continue
    const [plus, minus] = [ownSide(wiring, netA), ownSide(wiring, netB)]
    const fromBehind = minus === 'plus' && plus === undefined && netA.wired
    const fromGround = plus === 'minus' && minus === undefined && netB.wired
    if (!fromBehind && !fromGround) continue
    report({
      severity: 'tip',
      at: [a, b],
      message: 'meterTurned',
      data: { part: part.ref, comesIn: b, leaves: a },
      why: `${a} is the side of the source, ${b} that of the load. The other way round nothing is harmed, but every reading has its sign turned.`,
      numbers: {},
      propose: () => swapWires(wiring, a, b),
    })
  }
}

/** The pole of a source that lies on a net itself, and is not led to it. */
function ownSide(wiring: Wiring, net: Net): 'plus' | 'minus' | undefined {
  if (!net.ground && net.sources.some(({ end }) => net.ends.includes(end))) return 'plus'
  const isMinus = (end: string): boolean => {
    const terminal = wiring.terminal(end)
    if (!terminal) return false
    const { owner, boardPin, partPin, pin } = terminal
    if (owner.kind === 'part') return partPin?.role === 'ground' && isCell(owner)
    return owner.kind === 'board' ? boardPin?.kind === 'ground' : pin === '-'
  }
  return net.ends.some(isMinus) ? 'minus' : undefined
}
