import { holds } from '../catalog/when.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { isTurned } from '../circuit/lit.ts'
import { isBetween } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import { entryOf } from '../text/entryOf.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { setOption, swapWires } from './mend.ts'

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
      const crossed = crossedSwitch(wiring, part)
      if (crossed) {
        const [output, ground] = crossed
        report({
          severity: 'fault',
          at: [output, ground],
          message: `${pinWords(output)} and ${pinWords(ground)} of ${part.ref} are swapped: ${output} is on ground and ${ground} on the load.`,
          why: 'Such a transistor switches in one direction. Turned round it conducts all the time, or hardly at all.',
          numbers: {},
          propose: () => swapWires(wiring, output, ground),
        })
        continue
      }
      const legs = legsOf(part)
      const zener = zenerWrong(wiring, part)
      if (zener) {
        const [a, k] = part.part.inner.find((inner) => inner.kind === 'diode')!.between
        report({
          severity: 'fault',
          at: [`${part.ref}.${a}`, `${part.ref}.${k}`],
          message: `${part.ref} is the wrong way round: ${zener}.`,
          why: 'A Zener diode holds its voltage when it is driven backwards: the ring to the higher side. Forward it is a plain diode.',
          numbers: {},
          propose: () => swapWires(wiring, `${part.ref}.${a}`, `${part.ref}.${k}`),
        })
        continue
      }
      const converter = backToFront(wiring, part)
      if (converter) {
        const [input, output, source] = converter
        report({
          severity: 'fault',
          at: [output, input],
          message: `${part.ref} is the wrong way round: ${source} feeds its output ${pinWords(output)}, and its input ${pinWords(input)} gets nothing.`,
          why: 'A regulator or converter leads from its input to its output only. Fed from behind it gives nothing, and many are destroyed.',
          numbers: {},
          propose: () => swapWires(wiring, input, output),
        })
        continue
      }
      const wrong = turnedRound(wiring, part)
      const dark = wrong ? undefined : turnedLamps(wiring, part)
      if (dark) {
        report(dark)
        continue
      }
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
  if (diode && diode.reverse === undefined)
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

/** Input, output and feeder of a converter that is fed at its output. */
export function backToFront(wiring: Wiring, part: PartInstance): readonly [string, string, string] | undefined {
  for (const { pin, from } of part.part.rails) {
    if (from === undefined) continue
    const [input, output] = [`${part.ref}.${from}`, `${part.ref}.${pin}`]
    const source = wiring.netOf(output).sources.find((one) => one.ref !== part.ref)
    if (source && wiring.netOf(input).wired && wiring.netOf(input).sources.length === 0 && !wiring.netOf(input).ground)
      return [input, output, source.end]
  }
  return undefined
}

/** A transistor whose switched side lies on ground and whose ground leg does not. */
function crossedSwitch(wiring: Wiring, part: PartInstance): readonly [string, string] | undefined {
  if (part.part.build !== 'component') return undefined
  const ground = part.part.pins.find((pin) => pin.role === 'ground')
  for (const { output, supply } of part.part.channels) {
    if (!ground || supply !== undefined) continue
    const [out, low] = [output, ground.id].map((pin) => wiring.netOf(`${part.ref}.${pin}`))
    if (out?.ground && low && !low.ground && low.wired) return [`${part.ref}.${output}`, `${part.ref}.${ground.id}`]
  }
  return undefined
}

/** What tells that a Zener diode is turned: a current flows through it forward, and never backwards. */
function zenerWrong(wiring: Wiring, part: PartInstance): string | undefined {
  const element = circuitOf(wiring).elements.find((one) => one.part === part && one.zener !== undefined)
  const flow = element && verdictsOf(wiring).through(element)
  if (!element || !flow || flow.forward < 0.01 || flow.back > 0.001) return undefined
  return `its anode ${element.a} lies above its cathode ${element.b}, where it conducts at ${formatVolts(element.forward ?? 0.7)} instead of ${formatVolts(element.zener ?? 0)}`
}

/** Lamps of a part that no state lets light, since their cathode lies above their anode in the ones that are driven. */
function turnedLamps(wiring: Wiring, part: PartInstance): Report | undefined {
  const verdicts = verdictsOf(wiring)
  const circuit = circuitOf(wiring)
  const turned = circuit.elements.filter((one) => {
    const flow = one.part === part && one.lights ? verdicts.through(one) : undefined
    return flow !== undefined && isTurned(flow) && isBetween(circuit, one)
  })
  const [first] = turned
  if (!first) return undefined
  const flow = verdicts.through(first)
  const shared = turned.length > 1 ? turned.map((one) => (one.a === first.a ? one.a : one.b))[1] : undefined
  const volts = formatVolts(flow?.under ?? 0)
  return {
    severity: 'fault',
    at: [...new Set(turned.flatMap((one) => [one.a, one.b]))],
    message:
      shared === undefined
        ? `${part.ref} is the wrong way round: its cathode ${first.b} lies up to ${volts} above its anode ${first.a}, and never below.`
        : `${part.ref} can never light: its common leg ${shared} is on the wrong side for a common ${shared === first.a ? 'anode' : 'cathode'}.`,
    why: 'A lamp of this kind conducts from its anode to its cathode only. The other way round it stays dark, and above about 5 V it is damaged.',
    numbers: { reverse: Math.round((flow?.under ?? 0) * 100) / 100 },
    propose: () => [...(shared === undefined ? swapWires(wiring, first.a, first.b) : []), ...otherKinds(wiring, part)],
  }
}

/** Other values of the options on which it depends which way a part's lamps lie. */
const otherKinds = (wiring: Wiring, part: PartInstance): Fix[] =>
  [...new Set(part.part.inner.flatMap((inner) => (inner.when ? [inner.when.option] : [])))].flatMap((id) => {
    const option = part.part.options.find((one) => one.id === id)
    return (option?.values ?? [])
      .filter(({ value }) => value !== entryOf(part.options, id))
      .map(({ value, title }) => ({
        title: `${part.ref} is one with ${option?.title.toLowerCase()}: ${title ?? value}`,
        edits: setOption(wiring, part, id, value),
      }))
  })

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
