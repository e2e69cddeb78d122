import { volts } from '../catalog/common.ts'
import { analogSpan } from '../circuit/analog.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { restWith } from '../circuit/ways.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { listWords, twoDigits } from './shared.ts'

/**
 * Shares of the range in which a converter reads well: above the first the upper part of the span is lost for sure,
 * above the second the reading bends, below the third bits are wasted.
 */
const LOST = 1.35
const BENT = 1.05
const FAR_BELOW = 0.25

export const analogRange: Rule = {
  meta: {
    id: 'analog-range',
    severities: ['fault', 'caution', 'tip'],
    about: 'A sensor puts out more volts than the converter reads, or so few that most of its steps are wasted.',
    messages: {
      tooHigh: '{signal} reaches {most}, and {pin} reads up to {reads}.',
      bent: '{signal} reaches {most}, and {pin} reads well up to {reads}.',
      wasted: '{signal} reaches {most} of the {reads} that {pin} reads: {bits} of {of} bits are lost.',
      lifted:
        '{pin} never reads less than {least}: {part} and its resistor lie between {rails}, and neither leads to ground.',
      stuck: '{pin} always reads {less}, whatever {part} does.',
    },
    limits: ['tooHigh', 'bent', 'wasted'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayUnmoved(wiring, report)
    for (const use of wiring.signals) {
      const span = analogSpan(wiring, use)
      if (!span) continue
      const { unit, most, host } = span
      const bits = Math.log2(unit.most / most)
      // What would harm the pin is level-damage's business.
      if (most > (volts(host.levels.mostAnalog ?? host.levels.most, host.logicVolts) ?? most) + 0.01) continue
      if (most > unit.most * LOST)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: 'tooHigh',
          data: { signal: use.end, most: formatVolts(most), pin: host.end, reads: formatVolts(unit.most) },
          why: `Everything from ${formatVolts(unit.most)} up reads as full scale: the upper ${Math.round((1 - unit.most / most) * 100)} % of the sensor's span is lost.${unit.note ? ` ${unit.note}` : ''} A divider brings the span into the range.`,
          numbers: { volts: twoDigits(most), range: unit.most },
          propose: () => span.divide(),
        })
      else if (most > unit.most * BENT)
        report({
          severity: 'tip',
          at: [use.end, host.end],
          message: 'bent',
          data: { signal: use.end, most: formatVolts(most), pin: host.end, reads: formatVolts(unit.most) },
          why: `The upper ${Math.round((1 - unit.most / most) * 100)} % of the span bends towards full scale.${unit.note ? ` ${unit.note}` : ''} Where that matters, a divider brings the span into the range.`,
          numbers: { volts: twoDigits(most), range: unit.most },
          propose: () => span.divide(),
        })
      else if (most < unit.most * FAR_BELOW)
        report({
          severity: 'tip',
          at: [use.end, host.end],
          message: 'wasted',
          data: {
            signal: use.end,
            most: formatVolts(most),
            reads: formatVolts(unit.most),
            pin: host.end,
            bits: bits.toFixed(1),
            of: unit.bits,
          },
          why: `One step is ${((unit.most / 2 ** unit.bits) * 1000).toFixed(2)} mV, so the whole span is ${Math.round((most / unit.most) * 2 ** unit.bits)} steps. A lower reference or an amplifier makes use of the rest.`,
          numbers: { volts: twoDigits(most), range: unit.most, bitsLost: twoDigits(bits) },
        })
    }
  },
}

/** Share of its volts by which a reading must change for a sensor to be read at all. */
const MOVES = 0.02

/** Resistances that sense something, such as a light-dependent one, and whose change does not reach the pin. */
function sayUnmoved(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const parts = new Set(wiring.parts)
  for (const element of circuit.elements) {
    const { part, netA, netB, ohms } = element
    if (element.kind !== 'resistor' || part.part.category === 'passive' || !parts.has(part) || ohms === undefined)
      continue
    for (const net of [netA, netB]) {
      const host = circuit.at(net).find((port) => port.host?.functions.has('analog-in'))?.host
      if (!host || !netA.wired || !netB.wired) continue
      const [less, more] = [restWith(wiring, net, element, 0.1), restWith(wiring, net, element, 10)]
      if (less === undefined || more === undefined) continue
      if (Math.abs(less - more) > MOVES * Math.max(less, more, 0.1)) {
        const far = circuit
          .on(net)
          .flatMap((one) => (one.kind === 'resistor' ? [one.netA === net ? one.netB : one.netA] : []))
        const sources = far.flatMap((one) => (one.ground ? [] : one.sources.slice(0, 1)))
        // Between two supplies it swings in a small part of the range, and the higher one feeds the lower.
        if (sources.length < 2 || sources.length < far.length) continue
        const least = Math.min(...sources.map((one) => one.volts))
        report({
          severity: 'caution',
          at: [part.ref, host.end],
          message: 'lifted',
          data: {
            pin: host.end,
            least: formatVolts(least),
            part: part.ref,
            rails: listWords([...new Set(sources.map(({ end }) => end))]),
          },
          why: 'One of the two belongs to ground: then the reading goes from nought to the supply. Between two supplies a current also flows from the higher one into the lower.',
          numbers: { least: twoDigits(least) },
        })
        continue
      }
      report({
        severity: 'fault',
        at: [part.ref, host.end],
        message: 'stuck',
        data: { pin: host.end, less: formatVolts(less), part: part.ref },
        why: `${part.ref} only changes its resistance. For a voltage that changes it needs a fixed resistor to the other rail: the two divide the supply, and the pin reads the middle.`,
        numbers: { volts: twoDigits(less) },
      })
    }
  }
}
