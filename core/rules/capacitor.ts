import { entryOf } from '../base/entryOf.ts'
import { circuitOf, type Element, railOf } from '../circuit/circuit.ts'
import { networkOf } from '../circuit/still.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { companionOffers, setOption, swapWires } from './mend.ts'
import { twoDigits } from './shared.ts'

/** Volts backwards that an electrolytic capacitor bears for good (IEC 60384-4). */
const BACKWARDS = 1
/** Rated volts that are sold, in volts. */
const SOLD = [6.3, 10, 16, 25, 35, 50, 63, 100, 160, 250, 400, 450]

export const capacitorRule: Rule = {
  meta: {
    id: 'capacitor',
    severities: ['fault', 'caution'],
    about:
      'An electrolytic capacitor is the wrong way round, a capacitor gets more than its rated volts, or one that a part must have is missing.',
    messages: {
      turned: '{part} is the wrong way round: its minus {b} lies {least} above its plus {a}.',
      alternating: 'The volts of {part} turn round: {b} lies up to {least} above {a}.',
      overRated: '{part} gets {highest} and is rated {rated}.',
      missing: '{part} lacks its capacitor: {why}.',
    },
    limits: ['overRated', 'turned'],
    lacking: ['missing'],
    fixable: true,
  },
  check(wiring, report) {
    for (const element of circuitOf(wiring).elements) {
      const { part, a, b } = element
      if (element.kind !== 'capacitor' || element.most === undefined) continue
      const over = across(wiring, element)
      if (!over) continue
      const electrolytic = entryOf(part.options, 'kind') === 'electrolytic'
      if (electrolytic && over.most <= 0 && over.least < -BACKWARDS)
        report({
          severity: 'fault',
          at: [a, b],
          message: 'turned',
          data: { part: part.ref, b, least: formatVolts(-over.least), a },
          why: 'An electrolytic capacitor turned round loses its insulation, gets hot, and bursts after seconds or days. The stripe marks the minus leg, the long leg is plus.',
          numbers: { volts: twoDigits(over.least) },
          propose: () => swapWires(wiring, a, b),
        })
      else if (electrolytic && over.least < -BACKWARDS)
        report({
          severity: 'fault',
          at: [a, b],
          message: 'alternating',
          data: { part: part.ref, b, least: formatVolts(-over.least), a },
          why: 'An electrolytic capacitor bears one direction only. Between outputs that change places a ceramic one is needed.',
          numbers: { volts: twoDigits(over.least) },
          propose: () => [{ title: `${part.ref} is ceramic`, edits: setOption(wiring, part, 'kind', 'ceramic') }],
        })
      const highest = Math.max(Math.abs(over.most), Math.abs(over.least))
      const rated = element.most
      if (highest <= rated) continue
      const better = SOLD.find((volts) => volts >= highest * 1.25)
      report({
        severity: 'fault',
        at: [a, b, part.ref],
        message: 'overRated',
        data: { part: part.ref, highest: formatVolts(highest), rated: formatVolts(rated) },
        why: 'Above its rated volts the insulation of a capacitor breaks through, often with a bang. A quarter more than what it gets is usual.',
        numbers: { volts: twoDigits(highest), rated },
        propose: () =>
          better === undefined
            ? []
            : [{ title: `Take a ${better} V one for ${part.ref}`, edits: setOption(wiring, part, 'volts', better) }],
      })
    }
    for (const part of wiring.parts) {
      if (!part.supplies.some((use) => use.source)) continue
      const missing = companionsOf(wiring, part, 'capacitor').find(({ facts, present }) => !present && facts.required)
      if (!missing) continue
      report({
        severity: 'caution',
        at: [part.ref],
        message: 'missing',
        data: { part: part.ref, why: missing.facts.why },
        why: 'Its data sheet asks for it, and modules of this kind do not carry it themselves.',
        numbers: {},
        propose: () => companionOffers(wiring, part, (facts) => facts === missing.facts),
      })
    }
  },
}

interface Range {
  readonly most: number
  readonly least: number
}

/** Most and least volts of a capacitor's first leg over its second; undefined while one of them is held by nothing. */
function across(wiring: Wiring, { netA, netB }: Element): Range | undefined {
  const solved = (net: Net): Range | undefined => {
    const rail = railOf(net)
    if (rail) return { most: rail.volts, least: rail.volts }
    const { most, least } = verdictsOf(wiring).of(net) ?? {}
    if (most && least) return { most: most.volts, least: least.volts }
    // What nothing but a winding or a resistor leads to a rail lies there, past what comes through the capacitor.
    const rests = highestAt(wiring, net) === 0 ? networkOf(wiring).resting(net) : undefined
    return rests === undefined ? undefined : { most: rests, least: rests }
  }
  const range = (net: Net, other: Net): Range | undefined => {
    const known = solved(net)
    const isStill = solved(other) !== undefined && highestAt(wiring, other) === 0
    const most = railOf(net) || !isStill ? 0 : highestAt(wiring, net)
    return most > (known?.most ?? 0) ? { most, least: 0 } : known
  }
  const [a, b] = [range(netA, netB), range(netB, netA)]
  return a && b && { most: a.most - b.least, least: a.least - b.most }
}

/** Volts up to which the pins and posts of boards bring a line, themselves or through resistors. */
function highestAt(wiring: Wiring, start: Net): number {
  const circuit = circuitOf(wiring)
  let highest = 0
  const seen = new Set([start])
  for (const net of seen) {
    if (railOf(net)) continue
    for (const { terminal } of circuit.at(net)) {
      const { boardPin, owner } = terminal
      if (owner.kind === 'board' && (boardPin?.kind === 'io' || boardPin?.kind === 'control'))
        highest = Math.max(highest, owner.board.logicVolts)
    }
    for (const { kind, netA, netB } of circuit.on(net)) if (kind === 'resistor') seen.add(netA === net ? netB : netA)
  }
  return highest
}
