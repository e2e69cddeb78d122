import { volts } from '../catalog/common.ts'
import { type AnalogSpan, analogSpan, analogUnitOf, dividedSpans } from '../circuit/analog.ts'
import { type Circuit, circuitOf, type Element, railOf } from '../circuit/circuit.ts'
import { restWith } from '../circuit/ways.ts'
import { preferredValue } from '../electrical/preferred.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import type { Host, Net, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { setOhms } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'
import { sayWeakSources, weakSourceMessages } from './weakSource.ts'

/**
 * Shares of the range in which a converter reads well: above the first the upper part of the span is lost for sure,
 * above the second the reading bends, below the third bits are wasted.
 */
const LOST = 1.4
const BENT = 1.05
const FAR_BELOW = 0.25
/** Share of the range below which hardly anything is read, even with a reference inside the chip of a fifth of the supply. */
const NEXT_TO_NOTHING = 0.05

export const analogRange: Rule = {
  meta: {
    id: 'analog-range',
    severities: ['fault', 'caution', 'tip'],
    about:
      'A sensor puts out more volts than the converter reads, or so few that most of its steps are wasted; or so many ohms lie before it that it reads wrong.',
    messages: {
      tooHigh: '{signal} reaches {most}, and {pin} reads up to {reads}.',
      bent: '{signal} reaches {most}, and {pin} reads well up to {reads}.',
      wasted: '{signal} reaches {most} of the {reads} that {pin} reads: {bits} of {of} bits are lost.',
      lifted:
        '{pin} never reads less than {least}: {part} and its resistor lie between {rails}, and neither leads to ground.',
      stuck: '{pin} always reads {less}, whatever {part} does.',
      crushed: '{pin} hardly sees {part}: between {less} and {more}, as {resistor} is far from its {ohms}.',
      ...weakSourceMessages,
    },
    limits: ['tooHigh', 'bent', 'wasted', 'crushed', 'weak'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    sayUnmoved(wiring, report)
    sayWeakSources(wiring, report)
    for (const use of wiring.signals) {
      const span = analogSpan(wiring, use)
      if (span) saySpan(use.end, [use.end], span, report)
    }
    for (const { top, bottom, span } of dividedSpans(wiring))
      saySpan(`What ${top.ref} and ${bottom.ref} divide`, [top.ref, bottom.ref], span, report)
  },
}

/** What a pin reads of something that reaches so many volts there. */
function saySpan(signal: string, from: readonly string[], span: AnalogSpan, report: (one: Report) => void): void {
  const { unit, most, host } = span
  const bits = Math.log2(unit.most / most)
  const at = [...from, host.end]
  // What would harm the pin is level-damage's business.
  if (most > (volts(host.levels.mostAnalog ?? host.levels.most, host.logicVolts) ?? most) + 0.01) return
  if (most > unit.most * LOST)
    report({
      severity: 'fault',
      at,
      message: 'tooHigh',
      data: { signal, most: formatVolts(most), pin: host.end, reads: formatVolts(unit.most) },
      why: `Everything from ${formatVolts(unit.most)} up reads as full scale: the upper ${Math.round((1 - unit.most / most) * 100)} % of the span is lost.${unit.note ? ` ${unit.note}` : ''} A divider brings the span into the range.`,
      numbers: { volts: twoDigits(most), range: unit.most },
      propose: () => span.divide(),
    })
  else if (most > unit.most * BENT)
    report({
      severity: 'tip',
      at,
      message: 'bent',
      data: { signal, most: formatVolts(most), pin: host.end, reads: formatVolts(unit.most) },
      why: `The upper ${Math.round((1 - unit.most / most) * 100)} % of the span bends towards full scale.${unit.note ? ` ${unit.note}` : ''} Where that matters, a divider brings the span into the range.`,
      numbers: { volts: twoDigits(most), range: unit.most },
      propose: () => span.divide(),
    })
  else if (most < unit.most * FAR_BELOW)
    report({
      severity: most < unit.most * NEXT_TO_NOTHING ? 'caution' : 'tip',
      at,
      message: 'wasted',
      data: {
        signal,
        most: formatVolts(most),
        reads: formatVolts(unit.most),
        pin: host.end,
        bits: bits.toFixed(1),
        of: unit.bits,
      },
      why: `One step is ${((unit.most / 2 ** unit.bits) * 1000).toFixed(2)} mV, so the whole span is ${Math.round((most / unit.most) * 2 ** unit.bits)} steps. A lower reference, another divider or an amplifier makes use of the rest.`,
      numbers: { volts: twoDigits(most), range: unit.most, bitsLost: twoDigits(bits) },
    })
}

/** Share of its volts by which a reading must change for a sensor to be read at all. */
const MOVES = 0.02

/** An analog input, and the net on which it lies. */
interface Read {
  readonly host: Host
  readonly net: Net
}

/** The analog input at a net, or behind the only resistor that leads on from there. */
function readAt(circuit: Circuit, near: Net): Read | undefined {
  const at = (net: Net) => circuit.at(net).find((port) => port.host?.functions.has('analog-in'))?.host
  const host = at(near)
  if (host) return { host, net: near }
  if (near.ground || near.sources.length > 0) return undefined
  for (const { kind, netA, netB, part } of circuit.on(near)) {
    if (kind !== 'resistor' || part.part.category !== 'passive' || netA === netB) continue
    const net = netA === near ? netB : netA
    const behind = net.ground || net.sources.length > 0 ? undefined : at(net)
    if (behind) return { host: behind, net }
  }
  return undefined
}

/** How far a sensing resistance is looked at from its middle, as a factor, where its own span is not narrower. */
const AROUND = 4

/** Share of the range below which what a divider shows of that is too little to be of use. */
const CRUSHED = 0.1

/**
 * A divider whose fixed resistor is of another decade than the sensing one: the reading moves in a corner of the range.
 * V = V0 · R / (R + Rs).
 */
function sayCrushed(wiring: Wiring, element: Element, near: Net, read: Read, report: (one: Report) => void): void {
  const { host, net } = read
  const { part, ohms = 0 } = element
  // A converter of its own reads up to its supply, or less.
  const range = host.board ? analogUnitOf(wiring, host)?.most : host.logicVolts
  const inner = part.part.inner.find((one) => one.kind === 'resistance')
  const spread = inner?.kind === 'resistance' ? inner.spread : undefined
  const [low, high] = [Math.max(1 / AROUND, spread?.least ?? 0), Math.min(AROUND, spread?.most ?? AROUND)]
  const seen = [restWith(wiring, net, element, low), restWith(wiring, net, element, high)]
  const [less, more] = [Math.min(...seen.map((one) => one ?? 0)), Math.max(...seen.map((one) => one ?? 0))]
  const fixed = circuitOf(wiring)
    .on(near)
    .filter(
      (one) =>
        one !== element &&
        one.kind === 'resistor' &&
        one.part.part.category === 'passive' &&
        railOf(one.netA === near ? one.netB : one.netA) !== undefined,
    )
  const [only, ...others] = fixed
  if (range === undefined || !only || others.length > 0 || more - less >= range * CRUSHED) return
  report({
    severity: 'caution',
    at: [part.ref, only.part.ref, host.end],
    message: 'crushed',
    data: {
      pin: host.end,
      part: part.ref,
      less: formatVolts(less),
      more: formatVolts(more),
      resistor: only.part.ref,
      ohms: formatQuantity(ohms, 'Ω'),
    },
    why: `A divider shows most of a sensor when both have about the same resistance. With ${formatQuantity(only.ohms ?? 0, 'Ω')} the reading moves by ${Math.round(((more - less) / range) * 100)} % of the range while ${part.ref} goes from ${formatQuantity(ohms * low, 'Ω')} to ${formatQuantity(ohms * high, 'Ω')}.`,
    numbers: { share: twoDigits((more - less) / range) },
    propose: () => setOhms(wiring, only.part, preferredValue(ohms, 'up')),
  })
}

/** Resistances that sense something, such as a light-dependent one, and whose change does not reach the pin. */
function sayUnmoved(wiring: Wiring, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const parts = new Set(wiring.parts)
  for (const element of circuit.elements) {
    const { part, netA, netB, ohms } = element
    if (element.kind !== 'resistor' || part.part.category === 'passive' || !parts.has(part) || ohms === undefined)
      continue
    // Of legs that are joined load-return speaks.
    if (netA === netB) continue
    for (const near of [netA, netB]) {
      const read = readAt(circuit, near)
      if (!read || !netA.wired || !netB.wired) continue
      const { host, net } = read
      const [less, more] = [restWith(wiring, net, element, 0.1), restWith(wiring, net, element, 10)]
      if (less === undefined || more === undefined) continue
      if (Math.abs(less - more) > MOVES * Math.max(less, more, 0.1)) {
        const far = circuit
          .on(net)
          .flatMap((one) => (one.kind === 'resistor' ? [one.netA === net ? one.netB : one.netA] : []))
        sayCrushed(wiring, element, near, read, report)
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
