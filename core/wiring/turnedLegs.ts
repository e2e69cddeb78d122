import { memo } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'

/** Two legs of a part that may change places. */
interface Legs {
  readonly signal: string
  readonly other: string
}

/**
 * The facts of a part as it is wired. A button, a reed contact, a light-dependent resistor have two legs that are alike:
 * the one on a supply or ground is the side that is tied, and the other one carries the signal, whichever of the two the
 * entry names first.
 */
export function asWired(part: Part, onRail: (pin: string) => boolean): Part {
  const legs = alikeLegs(part)
  return legs && onRail(legs.signal) && !onRail(legs.other) ? turned(part) : part
}

/** A part with its two legs that are alike in each other's place. */
const turned = memo((part: Part): Part => {
  const legs = alikeLegs(part)
  if (!legs) return part
  const swap = <T>(pin: T): T => (pin === legs.signal ? legs.other : pin === legs.other ? legs.signal : pin) as T
  return {
    ...part,
    signals: part.signals.map((one) => ({ ...one, pin: swap(one.pin) })),
    ties: part.ties.map((one) => ({ ...one, pin: swap(one.pin) })),
    companions: part.companions.map((one) => ({
      ...one,
      ...(one.across ? { across: [swap(one.across[0]), swap(one.across[1])] } : {}),
      ...(one.series === undefined ? {} : { series: swap(one.series) }),
    })),
  }
})

/** The legs of a part that is one contact or one resistance with a signal at one side and a tie at the other. */
const alikeLegs = memo((part: Part): Legs | undefined => {
  const [element, ...more] = part.inner.filter(({ kind }) => kind !== 'join')
  const [signal, ...signals] = part.signals
  const [tie, ...ties] = part.ties
  if (!element || !signal || !tie || more.length + signals.length + ties.length + part.modes.length > 0)
    return undefined
  if (part.build !== 'component' || part.polarised || signal.direction !== 'passive') return undefined
  if (element.kind !== 'contact' && element.kind !== 'resistance') return undefined
  const joins = element.between.includes(signal.pin) && element.between.includes(tie.pin) && signal.pin !== tie.pin
  return joins ? { signal: signal.pin, other: tie.pin } : undefined
})
