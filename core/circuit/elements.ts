import { entryOf } from '../base/entryOf.ts'
import { innerFact } from '../catalog/innerFact.ts'
import type { Inner } from '../catalog/innerSchema.ts'
import { holds } from '../catalog/when.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Element } from './circuit.ts'
import { otherLeg } from './reach.ts'

const kinds: Partial<Record<Inner['kind'], Element['kind']>> = {
  resistance: 'resistor',
  diode: 'diode',
  contact: 'contact',
  switch: 'contact',
  shunt: 'shunt',
  winding: 'winding',
  load: 'load',
  capacitance: 'capacitor',
}

/** A load of which only its current is known, in milliamperes while it runs and while it starts. */
const loadBetween = (
  wiring: Wiring,
  part: PartInstance,
  a: string,
  b: string,
  runs: number | undefined,
  starts = runs,
): Element => ({
  kind: 'load',
  oneWay: part.part.polarised,
  part,
  a,
  b,
  netA: wiring.netOf(a),
  netB: wiring.netOf(b),
  ohms: undefined,
  spread: undefined,
  forward: undefined,
  slight: undefined,
  zener: undefined,
  most: undefined,
  throws: false,
  moved: undefined,
  runs,
  starts,
  lights: false,
})

/** The key of a module, between its line and its ground. */
export const isKey = ({ kind, part, a }: Element): boolean =>
  kind === 'contact' && part.part.presses.some(([pin]) => a === `${part.ref}.${pin}`)

/** What lies between the pins of a part. */
export function elementsOf(wiring: Wiring, part: PartInstance): Element[] {
  const end = (pin: string): string => `${part.ref}.${pin}`
  const amount = (given: Inner['amount']): number | undefined => {
    const value = typeof given === 'object' ? entryOf(part.options, given.option) : given
    return typeof value === 'number' ? value : undefined
  }
  const inside = part.part.inner.flatMap((inner): Element[] => {
    const kind = kinds[inner.kind]
    if (!kind || !holds(inner.when, part.options)) return []
    const [a, b] = inner.between.map(end) as [string, string]
    const ohms = ['resistance', 'shunt', 'winding'].includes(inner.kind) ? amount(inner.amount) : undefined
    return [
      {
        kind,
        part,
        a,
        b,
        netA: wiring.netOf(a),
        netB: wiring.netOf(b),
        ohms,
        spread:
          inner.spread && ohms !== undefined
            ? { least: ohms * inner.spread.least, most: ohms * inner.spread.most }
            : undefined,
        runs: amount(inner.milliamps),
        starts: amount(inner.startMilliamps) ?? amount(inner.milliamps),
        oneWay: inner.kind === 'diode' && inner.reverse === undefined,
        lights: inner.kind === 'diode' && inner.mostMilliamps !== undefined,
        forward: inner.kind === 'diode' ? innerFact(part.part, part.options, inner.forward) : undefined,
        slight: inner.kind === 'diode' ? innerFact(part.part, part.options, inner.slight) : undefined,
        zener: inner.kind === 'diode' ? amount(inner.reverse) : undefined,
        most:
          inner.kind === 'capacitance'
            ? amount(inner.ratedVolts)
            : innerFact(part.part, part.options, inner.mostMilliamps),
        throws: inner.kind === 'switch',
        moved: inner.moved && { by: end(inner.moved.by), whileActive: inner.moved.closed === 'active' },
      },
    ]
  })
  // A lamp, a pump, a coil, a tape of lights: its supply pins are its legs.
  const isLoad =
    part.part.category === 'load' ||
    (part.part.category === 'light' && part.part.signals.every(({ direction }) => direction === 'passive'))
  const supplied =
    isLoad &&
    part.part.build === 'component' &&
    !inside.some((one) => one.kind === 'winding' || one.kind === 'load' || one.lights)
      ? part.supplies.flatMap((use): Element[] => {
          const a = use.pins[0]
          // The other leg is switched, and so a signal, where it is no ground.
          const b = use.grounds[0] ?? part.part.pins.map((pin) => end(pin.id)).find((one) => one !== a)
          if (a === undefined || b === undefined) return []
          return [loadBetween(wiring, part, a, b, use.typicalMilliamps, use.peakMilliamps)]
        })
      : []
  // A key of a module between its line and its ground.
  const pressed = part.part.presses.flatMap(([one, other]): Element[] =>
    part.part.pins.some(({ id, role }) => (id === one || id === other) && role === 'ground')
      ? [{ ...loadBetween(wiring, part, end(one), end(other), undefined), kind: 'contact' }]
      : [],
  )
  const own = part.part.signals.find(({ direction, milliamps }) => direction === 'in' && milliamps !== undefined)
  const leg = own && otherLeg({ owner: part, end: end(own.pin) })
  // Of a buzzer or a laser the leg that is driven and the other one.
  const [plus, minus] = own?.activeLevel === 'low' ? [leg, end(own.pin)] : [own && end(own.pin), leg]
  const fedByPin = own && plus && minus ? [loadBetween(wiring, part, plus, minus, own.milliamps)] : []
  const withSupply = part.supplies[0]
  return [
    ...fedByPin,
    ...inside.map((one) =>
      one.kind === 'winding' && one.runs === undefined && withSupply && part.part.category === 'load'
        ? { ...one, runs: withSupply.typicalMilliamps, starts: withSupply.peakMilliamps ?? withSupply.typicalMilliamps }
        : one,
    ),
    ...supplied,
    ...pressed,
  ]
}
