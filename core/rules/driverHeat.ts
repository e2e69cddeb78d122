import { entryOf } from '../base/entryOf.ts'
import { BASE_RESERVE, baseDrives, UNLIMITED } from '../circuit/bases.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { litDiodes } from '../circuit/lit.ts'
import { drawnThrough, FUSE_PEAK } from '../circuit/loads.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { twoDigits } from './shared.ts'

export const driverHeatMessages = {
  resistorHot: '{part} turns {watts} into heat and is rated {rated}.',
  zenerBare: '{part} holds {zener} between {a} and {b}, where more comes with nothing before it that takes the rest.',
  fuseOver: '{part} carries {typical} mA for {names} and is made for {most} mA.',
  fusePeak: '{part} carries up to {peak} mA for a moment and is made for {most} mA.',
  weakBase: 'The base of {part} gets {forward} mA, enough for {carries} mA; {load} {load:takes/take} {runs} mA.',
}

/**
 * Switches by hand come in many sizes, and one that is rated closely still works: only above twice its rating, or
 * several times it for a moment, it is worth a word.
 */
const CONTACT_SLACK = 2
const CONTACT_PEAK = 6

/** Resistors that turn more power into heat than they are rated for; of those before a lamp led-resistor speaks. */
export function sayHot(wiring: Wiring, report: (one: Report) => void): void {
  const lamps = new Set(litDiodes(wiring).map((one) => one.resistor))
  const verdicts = verdictsOf(wiring)
  for (const element of circuitOf(wiring).elements) {
    const { part, ohms, kind } = element
    const rated = entryOf(part.options, 'watts')
    if (kind !== 'resistor' || ohms === undefined || typeof rated !== 'number' || lamps.has(part)) continue
    const flow = verdicts.through(element)
    if (!flow) continue
    const amps = Math.max(flow.forward, flow.back) / 1000
    const watts = amps ** 2 * ohms
    if (watts <= rated * 1.001) continue
    report({
      severity: watts > rated * 1.5 ? 'fault' : 'caution',
      at: [element.a, element.b, part.ref],
      message: 'resistorHot',
      data: { part: part.ref, watts: formatQuantity(watts, 'W'), rated: formatQuantity(rated, 'W') },
      why: `P = I² · R with ${formatQuantity(amps, 'A')} through ${formatQuantity(ohms, 'Ω')}. Above its rating it scorches what it touches and in the end burns through.`,
      numbers: { watts: twoDigits(watts), rated, milliamps: twoDigits(amps * 1000) },
    })
  }
}

/** Zener diodes that turn more power into heat than they are rated for: P = Vz · I, as nothing before them takes the rest. */
export function sayHotZeners(wiring: Wiring, report: (one: Report) => void): void {
  const verdicts = verdictsOf(wiring)
  for (const element of circuitOf(wiring).elements) {
    const { part, zener } = element
    const rated = entryOf(part.options, 'watts')
    const back = zener === undefined ? undefined : verdicts.through(element)?.back
    if (zener === undefined || back === undefined || typeof rated !== 'number') continue
    const watts = (zener * back) / 1000
    if (watts <= rated * 1.001) continue
    const isBare = back > UNLIMITED
    report({
      severity: watts > rated * 1.5 ? 'fault' : 'caution',
      at: [element.a, element.b, part.ref],
      message: isBare ? 'zenerBare' : 'resistorHot',
      data: isBare
        ? { part: part.ref, zener: formatVolts(zener), a: element.a, b: element.b }
        : { part: part.ref, watts: formatQuantity(watts, 'W'), rated: formatQuantity(rated, 'W') },
      why: `A Zener diode keeps its ${formatVolts(zener)} only behind a resistor, which takes the rest of the voltage: P = V · I. Without one it burns through, or the supply breaks down.`,
      numbers: isBare ? { zener, rated } : { watts: twoDigits(watts), rated, milliamps: twoDigits(back) },
    })
  }
}

/** Fuses and contacts that are smaller than what flows through them for good. */
export function sayFuses(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  for (const element of circuit.elements) {
    const isContact = element.kind === 'contact'
    const most = isContact ? element.most : element.kind === 'shunt' ? element.runs : undefined
    if (most === undefined) continue
    const { typical, peak, names } = drawnThrough(circuit, element)
    const [slack, moment] = isContact ? [CONTACT_SLACK, CONTACT_PEAK] : [1, FUSE_PEAK]
    if (typical <= most * slack && peak <= most * moment) continue
    report({
      severity: typical > most && !isContact ? 'fault' : 'caution',
      at: [element.a, element.b, element.part.ref],
      message: typical > most * slack ? 'fuseOver' : 'fusePeak',
      data: { part: element.part.ref, typical: Math.round(typical), names, most, peak: Math.round(peak) },
      why: isContact
        ? 'A contact that carries more than it is made for grows warm, and each time that it opens a spark burns some of it away; in the end it sticks or stays open.'
        : 'What opens at its rating opens in use as well: the sum of what hangs behind it has to stay below.',
      numbers: { milliamps: Math.round(typical), peak: Math.round(peak), most },
    })
  }
}

/** Transistors whose base gets too little for what they switch. */
export function sayWeakBases(wiring: Wiring, report: (one: Report) => void): void {
  for (const { channel, loads, gain, forward, runs } of baseDrives(wiring)) {
    const { part, inputs, output } = channel
    const carries = forward * gain
    if (carries >= runs * BASE_RESERVE) continue
    report({
      severity: carries < runs ? 'fault' : 'caution',
      at: [output, inputs[0] as string, ...loads.map(({ ref }) => ref)],
      message: 'weakBase',
      data: {
        part: part.ref,
        forward: forward.toFixed(2),
        carries: Math.round(carries),
        load: loads.map(({ ref }) => ref),
        runs: Math.round(runs),
      },
      why: `A transistor carries at most its gain, here ${gain} at least, times the current into its base. To conduct fully it wants several times that: a smaller base resistor, as far as the pin bears it, or a MOSFET.`,
      numbers: { base: twoDigits(forward), gain, load: runs },
    })
  }
}
