import { memo, memoIn } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'

/** Two legs of a part that may change places. */
interface Legs {
  readonly signal: string
  readonly other: string
}

/** What a leg is joined with: a supply, ground, a pin that gives or reads signals, anything else, or nothing. */
export type LegState = 'source' | 'ground' | 'pin' | 'wired' | 'open'

const isRail = (state: LegState): boolean => state === 'source' || state === 'ground'
const isLine = (state: LegState): boolean => state === 'pin' || state === 'wired'

/**
 * The facts of a part as it is wired. A button, a reed contact, a light-dependent resistor have two legs that are alike:
 * the one on a supply or ground is the side that is tied, and the other one carries the signal, whichever of the two the
 * entry names first, and so does the one at a pin while the other ends behind a resistor. Of a coil or a motor the leg on
 * a supply is the one that is fed, and the other is switched; the leg on ground is the latter. Of a change-over contact any leg may do either: the pole on a rail and one throw or both read, or
 * the pole read and one throw or both on rails. One that leads from rail to rail is as its entry says. A lamp or a buzzer
 * whose plus lies on a supply, straight or through a resistor, is switched at its other leg.
 */
export function asWired(
  part: Part,
  lies: (pin: string) => LegState,
  beyond: (pin: string) => readonly LegState[] = () => [],
): Part {
  const poles = switchedPoles(part)
  if (poles) {
    const way = sunkBy(lies, beyond, poles)
    if (way !== undefined) return sunk(part, way)
    const hasResistor = lies(poles.other) === 'wired' && beyond(poles.other).length > 0
    return hasResistor ? heldBehind(part) : part
  }
  const legs = alikeLegs(part)
  if (legs) {
    const [signal, other] = [lies(legs.signal), lies(legs.other)]
    return (isRail(signal) && !isRail(other)) || (signal === 'wired' && other === 'pin') ? turned(part) : part
  }
  const winding = switchedLegs(part)
  if (winding) {
    const [signal, other] = [lies(winding.signal), lies(winding.other)]
    const isTurned = (signal === 'source' && other !== 'source') || (other === 'ground' && signal !== 'ground')
    return isTurned ? turned(part) : part
  }
  const contact = changeOver(part)
  if (!contact) return part
  const { pole, rest, throws } = contact
  const read = throws.filter((pin) => isLine(lies(pin)))
  const isLed = throws.some((pin) => isRail(lies(pin)))
  if (!isLed && (isRail(lies(pole)) || (lies(pole) === 'open' && read.length > 0)))
    return thrown(part, `${pole} ${(read.length > 0 ? read : throws.slice(0, 1)).join(' ')}`)
  if (isRail(lies(pole)) && lies(rest) !== 'open') return part
  const led = throws.find((pin) => isRail(lies(pin))) ?? throws.find((pin) => isLine(lies(pin)))
  return lies(rest) === 'open' && led !== undefined ? thrown(part, `${led} ${pole}`) : part
}

/** A part with its two legs that are alike in each other's place. */
const turned = memo((part: Part): Part => {
  const legs = alikeLegs(part) ?? switchedLegs(part)
  if (!legs) return part
  const swap = <T>(pin: T): T => (pin === legs.signal ? legs.other : pin === legs.other ? legs.signal : pin) as T
  const roleOf = (pin: string) => part.pins.find(({ id }) => id === pin)!.role
  return {
    ...part,
    pins: part.pins.map((pin) => ({ ...pin, role: roleOf(swap(pin.id)) })),
    signals: part.signals.map((one) => ({ ...one, pin: swap(one.pin) })),
    modes: part.modes.map((mode) => ({
      ...mode,
      signals: mode.signals.map((one) => ({ ...one, pin: swap(one.pin) })),
    })),
    supplies: part.supplies.map((one) => ({ ...one, pins: one.pins.map(swap) })),
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

/** The legs of a coil or a motor that one switch moves: the one that is switched, and the one that its supply feeds. */
export const switchedLegs = memo((part: Part): Legs | undefined => {
  const [winding, ...more] = part.inner
  if (part.build !== 'component' || part.polarised || winding?.kind !== 'winding' || more.length > 0) return undefined
  const [signal, ...signals] = part.modes.find(({ id }) => id === 'switched')?.signals ?? []
  const fed = part.supplies[0]?.pins[0]
  if (!signal || signals.length > 0 || fed === undefined || fed === signal.pin) return undefined
  return winding.between.includes(fed) && winding.between.includes(signal.pin)
    ? { signal: signal.pin, other: fed }
    : undefined
})

/**
 * The poles of a part that a pin feeds and ground takes back, such as a lamp: the plus with its signal, the minus with its
 * tie. Both are all it has, so that a pin at the minus switches it as well.
 */
export const switchedPoles = memo((part: Part): Legs | undefined => {
  const [signal, ...signals] = part.signals
  const [tie, ...ties] = part.ties
  if (!signal || !tie || part.pins.length !== 2 || part.build !== 'component') return undefined
  if (signals.length + ties.length + part.modes.length + part.supplies.length > 0 || tie.to !== 'ground')
    return undefined
  const isFed = signal.direction === 'in' && signal.milliamps !== undefined && signal.activeLevel === 'high'
  return isFed ? { signal: signal.pin, other: tie.pin } : undefined
})

/** How a lamp's plus comes to a supply, so that its minus is what a pin moves; undefined where its plus is moved. */
function sunkBy(
  lies: (pin: string) => LegState,
  beyond: (pin: string) => readonly LegState[],
  { signal, other }: Legs,
): 'straight' | 'resistor' | undefined {
  const [plus, minus] = [lies(signal), lies(other)]
  const isMoved = minus === 'pin' || (minus === 'wired' && beyond(other).includes('pin'))
  if (minus === 'ground' || minus === 'source' || beyond(other).includes('ground')) return undefined
  if (plus === 'source') return 'straight'
  const far = plus === 'wired' ? beyond(signal) : []
  if (far.includes('source') && !far.includes('pin')) return 'resistor'
  if (!isMoved || far.includes('pin')) return undefined
  if (plus === 'open') return minus === 'pin' ? 'resistor' : 'straight'
  return plus === 'wired' && far.every((one) => one === 'open') ? 'resistor' : undefined
}

/** A lamp whose resistor stands at its minus, where it does as well. */
const heldBehind = memo((part: Part): Part => {
  const poles = switchedPoles(part)
  if (!poles) return part
  return { ...part, companions: part.companions.map((one) => inSeriesAt(one, poles.signal, poles.other)) }
})

const inSeriesAt = (one: Part['companions'][number], from: string, to: string): Part['companions'][number] =>
  one.series === from ? { ...one, series: to } : one

/** A lamp that lights while its minus is low. A resistor beside its plus stays there. */
const sunk = memoIn((part: Part, way: 'straight' | 'resistor'): Part => {
  const poles = switchedPoles(part)
  if (!poles) return part
  const { signal, other } = poles
  return {
    ...part,
    // Its levels count from its minus, which is no longer at ground.
    signals: part.signals.map(({ levels: _, ...one }) => ({
      ...one,
      pin: other,
      activeLevel: 'low',
      ...(one.text === undefined ? {} : { text: one.text.replace('while high', 'while low') }),
    })),
    ties: part.ties.map((one) => ({ ...one, pin: signal, to: 'supply' })),
    companions: way === 'straight' ? part.companions.map((one) => inSeriesAt(one, signal, other)) : part.companions,
  }
})

/** A part that is one change-over contact, its pole read and one of its throws tied. */
const changeOver = memo(
  (part: Part): { readonly pole: string; readonly rest: string; readonly throws: readonly string[] } | undefined => {
    const [signal, ...signals] = part.signals
    const [tie, ...ties] = part.ties
    if (!signal || !tie || signals.length + ties.length + part.modes.length > 0) return undefined
    if (part.build !== 'component' || signal.direction !== 'passive') return undefined
    const pole = signal.pin
    const isThrow = ({ kind, between }: Part['inner'][number]): boolean => kind === 'switch' && between[0] === pole
    if (part.inner.length < 2 || !part.inner.every(isThrow)) return undefined
    const throws = part.inner.map(({ between }) => between[1])
    return throws.includes(tie.pin) ? { pole, rest: tie.pin, throws } : undefined
  },
)

/** A change-over contact with other legs tied and read than its entry says: the tied one first, then those that are read. */
const thrown = memoIn((part: Part, key: string): Part => {
  const [tied, ...read] = key.split(' ') as [string, ...string[]]
  const words = (pin: string): { text?: string } => {
    const text = part.pins.find(({ id }) => id === pin)?.text
    return text === undefined ? {} : { text }
  }
  return {
    ...part,
    signals: part.signals.flatMap(({ text: _, ...facts }) => read.map((pin) => ({ ...facts, pin, ...words(pin) }))),
    ties: part.ties.map(({ text: _, ...facts }) => ({ ...facts, pin: tied, ...words(tied) })),
  }
})
