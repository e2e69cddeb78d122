import { circuitOf } from '../circuit/circuit.ts'
import { type LitDiode, litDiodes } from '../circuit/lit.ts'
import { deadLegs } from '../circuit/reach.ts'
import { preferredValue } from '../electrical/preferred.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { companionOffers, setOhms, setOption } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'

/** Current to aim at and least current at which an indicator is still seen by day, in milliamperes. */
const AIM = 8
const DIM = 0.3
/** Share of its typical forward volts below which no specimen lights. */
const SURELY_DARK = 0.85

const findsNoWay = (wiring: Wiring, { anode, cathode }: LitDiode): boolean => {
  const circuit = circuitOf(wiring)
  return circuit.elements.some((one) => one.a === anode && one.b === cathode && deadLegs(circuit, one).size > 0)
}

export const ledResistor: Rule = {
  meta: {
    id: 'led-resistor',
    severities: ['fault', 'caution', 'tip'],
    about:
      'The series resistor of an LED is missing or too small; or the LED stays dark or dim, or the resistor takes more than its rating.',
    messages: {
      bare: 'Nothing limits the current of {names}.',
      over: '{names} {names:gets/get} {milliamps} mA and {names:bears/bear} {most} mA.',
      rowDark: '{names} stay dark: in a row they need {need} and get {volts}.',
      dark: '{names} stays dark: {volts} is below its {forward}.',
      faint: '{names} {names:gets/get} {milliamps} mA and will hardly be seen.',
      darkened: '{names} goes dark while {other} is lit: both hang on {resistor}.',
      shared: '{names} hang side by side on {resistor}: the one of fewer volts takes more of its current.',
      hot: '{resistor} turns {watts} into heat and is rated {rating}.',
    },
    limits: ['over', 'faint', 'hot'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const all = litDiodes(wiring)
    for (const one of all) {
      // Of a row the first speaks for all.
      if (one.row.length > 1 && one.row[0]?.a !== one.anode) continue
      const ohms = ((one.volts - one.forward) / aimOf(one)) * 1000
      const names = one.row.length > 1 ? one.row.map(({ part }) => part.ref) : [legWords(ownLeg(one, all))]
      const need = one.row.reduce((sum, { forward = 0 }) => sum + forward, 0)
      const isDark = one.milliamps < DIM && one.volts <= need
      const sum = `${formatVolts(one.volts)} less ${formatVolts(one.forward)} over ${formatQuantity(one.ohms, 'Ω')}`
      const at = [one.anode, one.cathode]
      const take = one.volts > one.forward ? formatQuantity(preferredValue(ohms, 'up'), 'Ω') : ''
      if (one.outside < 0.5 && one.milliamps > one.most)
        report({
          severity: 'fault',
          at,
          message: 'bare',
          data: { names },
          why: `An LED takes whatever it is given: between ${formatVolts(one.volts)} and its own ${formatVolts(one.forward)} only the pin's resistance is left, and that is not made for it. ${take} brings ${aimOf(one)} mA: R = (V − Vf) / I.`,
          numbers: { volts: twoDigits(one.volts), forward: one.forward },
          propose: () =>
            companionOffers(wiring, one.part, ({ part }) => wiring.catalog.parts.get(part)?.helper === 'resistor'),
        })
      else if (one.milliamps > one.most * 1.001)
        report({
          severity: 'fault',
          at,
          message: 'over',
          data: { names, milliamps: one.milliamps.toFixed(0), most: one.most },
          why: `${sum} makes ${one.milliamps.toFixed(0)} mA: I = (V − Vf) / R. Take ${take} or more.`,
          numbers: { milliamps: twoDigits(one.milliamps), most: one.most, ohms: Math.round(one.ohms) },
          propose: () => resize(wiring, one, ohms),
        })
      // Of one whose current finds no way back load-return speaks.
      else if (one.milliamps < DIM && !findsNoWay(wiring, one))
        report({
          severity: isDark && one.volts < need * SURELY_DARK ? 'fault' : 'caution',
          at,
          message: isDark ? (one.row.length > 1 ? 'rowDark' : 'dark') : 'faint',
          data: {
            names,
            need: formatVolts(need),
            volts: formatVolts(one.volts),
            forward: formatVolts(one.forward),
            milliamps: one.milliamps.toFixed(2),
          },
          why: isDark
            ? `An LED lights only above its forward voltage. Another colour, or a transistor that switches it from a higher supply, helps.`
            : `${sum} makes ${one.milliamps.toFixed(2)} mA. With ${take} it gets ${aimOf(one)} mA.`,
          numbers: { milliamps: twoDigits(one.milliamps), volts: twoDigits(one.volts), forward: one.forward },
          propose: () => (isDark ? [] : resize(wiring, one, ohms)),
        })
      else sayShared(wiring, one, names, report)
      sayHot(wiring, one, report)
    }
  },
}

/** The leg by which a lamp is told from the others of its part: the one that they do not share. */
const ownLeg = ({ part, anode, cathode }: LitDiode, all: readonly LitDiode[]): string =>
  all.filter((one) => one.part === part && one.anode === anode).length > 1 ? cathode : anode

/** A leg in words: the part, and its pin. */
const legWords = (end: string): string => {
  const [ref, ...pin] = end.split('.')
  return `${ref} at ${pin.join('.')}`
}

/** Several lamps hang on one resistor. */
function sayShared(wiring: Wiring, one: LitDiode, names: readonly string[], report: (one: Report) => void): void {
  const at = [one.anode, one.cathode]
  if (one.darkenedBy && one.resistor)
    report({
      severity: 'caution',
      at,
      message: 'darkened',
      data: { names, other: legWords(one.darkenedBy), resistor: one.resistor.ref },
      why: `The lamp with fewer volts holds the resistor's end down, and ${formatVolts(one.forward)} are not left for this one. Each lamp needs a resistor of its own.`,
      numbers: { forward: one.forward },
    })
  else if (one.resistor && one.twins.length > 0 && wiring.parts.indexOf(one.part) < firstOf(wiring, one.twins))
    report({
      severity: 'tip',
      at: [one.part.ref, ...one.twins.map(({ ref }) => ref)],
      message: 'shared',
      data: { names: listWords([one.part.ref, ...one.twins.map(({ ref }) => ref)]), resistor: one.resistor.ref },
      why: `No two lamps have the same forward voltage: they glow unequally, and should one fail, the others take its share. A resistor for each parts the current fairly.`,
      numbers: {},
    })
}

/** The resistor takes more power than it is rated for: P = I² · R. */
function sayHot(wiring: Wiring, one: LitDiode, report: (one: Report) => void): void {
  const rating = one.resistor?.options.watts
  const watts = (one.milliamps / 1000) ** 2 * one.ohms
  if (one.resistor && typeof rating === 'number' && Number.isFinite(watts) && watts > rating * 1.001)
    report({
      severity: 'caution',
      at: [one.resistor.ref],
      message: 'hot',
      data: { resistor: one.resistor.ref, watts: formatQuantity(watts, 'W'), rating: formatQuantity(rating, 'W') },
      why: `P = I² · R with ${one.milliamps.toFixed(1)} mA through ${formatQuantity(one.ohms, 'Ω')}. A resistor above its rating scorches the breadboard; a larger value or a bigger body keeps it cool.`,
      numbers: { watts: twoDigits(watts), rating },
      propose: () => {
        const { resistor } = one
        return resistor
          ? [1, 2, 5]
              .filter((size) => size > watts)
              .slice(0, 1)
              .map((size) => ({
                title: `Take a ${size} W resistor for ${resistor.ref}`,
                edits: setOption(wiring, resistor, 'watts', size),
              }))
          : []
      },
    })
}

const firstOf = (wiring: Wiring, parts: LitDiode['twins']): number =>
  Math.min(...parts.map((part) => wiring.parts.indexOf(part)))

/** What pin and LED both bear at ease. */
const aimOf = (one: LitDiode): number => Math.min(AIM, one.most, one.host?.current?.recommended ?? AIM)

const resize = (wiring: Wiring, one: LitDiode, ohms: number) =>
  one.resistor ? setOhms(wiring, one.resistor, Math.max(1, ohms)) : []
