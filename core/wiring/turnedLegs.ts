import type { Part } from '../catalog/partSchema.ts'

/** Two legs of a part that may change places. */
interface Legs {
  readonly signal: string
  readonly other: string
}

const legsOf = new WeakMap<Part, Legs | undefined>()
const turnedParts = new WeakMap<Part, Part>()

/**
 * The facts of a part as it is wired. A button, a reed contact, a light-dependent resistor have two legs that are alike:
 * the one on a supply or ground is the side that is tied, and the other one carries the signal, whichever of the two the
 * entry names first.
 */
export function asWired(part: Part, onRail: (pin: string) => boolean): Part {
  if (!legsOf.has(part)) legsOf.set(part, alikeLegs(part))
  const legs = legsOf.get(part)
  if (!legs || !onRail(legs.signal) || onRail(legs.other)) return part
  const known = turnedParts.get(part)
  if (known) return known
  const swap = <T>(pin: T): T => (pin === legs.signal ? legs.other : pin === legs.other ? legs.signal : pin) as T
  const turned: Part = {
    ...part,
    signals: part.signals.map((one) => ({ ...one, pin: swap(one.pin) })),
    ties: part.ties.map((one) => ({ ...one, pin: swap(one.pin) })),
    companions: part.companions.map((one) => ({
      ...one,
      ...(one.across ? { across: [swap(one.across[0]), swap(one.across[1])] } : {}),
      ...(one.series === undefined ? {} : { series: swap(one.series) }),
    })),
  }
  turnedParts.set(part, turned)
  return turned
}

/** The legs of a part that is one contact or one resistance with a signal at one side and a tie at the other. */
function alikeLegs(part: Part): Legs | undefined {
  const [element, ...more] = part.inner.filter(({ kind }) => kind !== 'join')
  const [signal, ...signals] = part.signals
  const [tie, ...ties] = part.ties
  if (!element || !signal || !tie || more.length + signals.length + ties.length + part.modes.length > 0)
    return undefined
  if (part.build !== 'component' || part.polarised || signal.direction !== 'passive') return undefined
  if (element.kind !== 'contact' && element.kind !== 'resistance') return undefined
  const joins = element.between.includes(signal.pin) && element.between.includes(tie.pin) && signal.pin !== tie.pin
  return joins ? { signal: signal.pin, other: tie.pin } : undefined
}
