import { holds } from '../catalog/when.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { swapWires } from './mend.ts'

export const polarity: Rule = {
  meta: {
    id: 'polarity',
    severities: ['fault'],
    about: 'A part with a plus and a minus, or a diode, is the wrong way round.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const part of wiring.parts) {
      const swapped = swappedSupply(wiring, part)
      if (swapped) {
        const [plus, minus] = swapped
        report({
          severity: 'fault',
          at: [plus, minus],
          message: `${pinWords(plus)} and ${pinWords(minus)} of ${part.ref} are swapped: ${plus} is on ground and ${minus} on a supply.`,
          why: 'Fed the wrong way round, most parts are destroyed within seconds, and some take their source along.',
          numbers: {},
          propose: () => swapWires(wiring, plus, minus),
        })
        continue
      }
      const legs = legsOf(part)
      const wrong = turnedRound(wiring, part)
      if (!legs || !wrong) continue
      report({
        severity: 'fault',
        at: [legs.plus, legs.minus],
        message: `${part.ref} is the wrong way round: ${wrong}.`,
        why: legs.diode
          ? `A diode conducts from its anode to its cathode only. ${legs.lights ? 'Turned round it stays dark, and above about 5 V it is damaged.' : 'Turned round it shorts what it should protect, as soon as the load is switched on.'}`
          : 'Turned round it does not work, and many parts are destroyed within seconds.',
        numbers: {},
        propose: () => swapWires(wiring, legs.plus, legs.minus),
      })
    }
  },
}

interface Legs {
  readonly plus: string
  readonly minus: string
  readonly diode: boolean
  readonly lights: boolean
}

function legsOf(part: PartInstance): Legs | undefined {
  const end = (pin: string): string => `${part.ref}.${pin}`
  const pins = part.part.pins.filter((pin) => pin.role !== 'free')
  if (pins.length !== 2) return undefined
  const diode = part.part.inner.find((inner) => inner.kind === 'diode' && holds(inner.when, part.options))
  // A Zener diode works the other way round on purpose.
  if (diode && part.part.id !== 'zener')
    return {
      plus: end(diode.between[0]),
      minus: end(diode.between[1]),
      diode: true,
      lights: diode.mostMilliamps !== undefined,
    }
  const plus = pins.find((pin) => pin.role === 'supply' || pin.id === '+')
  const minus = pins.find((pin) => pin !== plus)
  return part.part.polarised && plus && minus
    ? { plus: end(plus.id), minus: end(minus.id), diode: false, lights: false }
    : undefined
}

const pinWords = (end: string): string => end.slice(end.indexOf('.') + 1)

/** Supply and ground pin of a part, the one on ground and the other on a supply. */
function swappedSupply(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  if (part.part.polarised && part.part.pins.filter((pin) => pin.role !== 'free').length === 2) return undefined
  for (const { facts, pins, grounds } of part.supplies) {
    if (facts.either) continue
    const plus = pins.find((end) => wiring.netOf(end).ground)
    const minus = grounds.find((end) => wiring.netOf(end).sources.length > 0 && !wiring.netOf(end).ground)
    if (plus !== undefined && minus !== undefined) return [plus, minus]
  }
  return undefined
}

/** What tells that a part is turned round; undefined when nothing does. */
export function turnedRound(wiring: Wiring, part: PartInstance): string | undefined {
  if (swappedSupply(wiring, part)) return 'its supply and its ground are swapped'
  const legs = legsOf(part)
  return legs && (legs.diode ? diodeWrong(wiring, legs) : supplyWrong(wiring, legs))
}

/** What tells that a diode is turned round; undefined when nothing does. */
function diodeWrong(wiring: Wiring, { plus: anode, minus: cathode, lights }: Legs): string | undefined {
  const [a, k] = [wiring.netOf(anode), wiring.netOf(cathode)]
  if (lights) {
    const hostAtCathode = wiring.signal(cathode)?.hosts.length ?? 0
    if (a.ground && !k.ground && (k.wired || hostAtCathode > 0)) return `its anode ${anode} is on ground`
    if (k.sources.length > 0 && a.wired && a.sources.length === 0) return `its cathode ${cathode} is on a supply`
    return undefined
  }
  if (a.sources.length === 0) return undefined
  if (k.ground) return `its anode ${anode} is on the supply and its cathode ${cathode} on ground`
  const switched = k.ends.some((end) => {
    const functions = wiring.terminal(end)?.host?.functions
    return functions?.has('sink') === true && end !== cathode
  })
  return switched ? `its anode ${anode} is on the supply and its cathode ${cathode} on the switched side` : undefined
}

function supplyWrong(wiring: Wiring, { plus, minus }: Legs): string | undefined {
  if (wiring.netOf(plus).ground && wiring.netOf(minus).wired && !wiring.netOf(minus).ground)
    return `its plus ${plus} is on ground`
  if (wiring.netOf(minus).sources.length > 0 && wiring.netOf(plus).wired && wiring.netOf(plus).sources.length === 0)
    return `its minus ${minus} is on a supply`
  return undefined
}
