import { circuitOf } from '../circuit/circuit.ts'
import { drivenLoads, ratingTogether } from '../circuit/loads.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { PartInstance } from '../wiring/model.ts'
import { driverHeatMessages, sayFuses, sayHot, sayHotZeners, sayWeakBases } from './driverHeat.ts'
import type { Report, Rule, Severity } from './finding.ts'
import { sayTogether, togetherMessages } from './loadsTogether.ts'
import type { MessageData } from './messages.ts'
import { ohmicLoadsMessages, sayOhmicLoads } from './ohmicLoads.ts'
import { isOverfed, listWords } from './shared.ts'
import { sayShunts, shuntMessages } from './shunts.ts'
import { sayStarved, starvedLoadsMessages } from './starvedLoads.ts'

/** Share of what an output is good for above which it is said. */
const NEAR = 0.8

export const driverRating: Rule = {
  meta: {
    id: 'driver-rating',
    severities: ['fault', 'caution'],
    about:
      'A load needs more current or volts than its transistor, driver or shunt bears: a fault over it, a caution above 80 % or where only starting goes over. Or a resistor leaves it next to nothing.',
    messages: {
      over: '{load} takes {takes} mA, and {part} gives {most} mA at most.',
      overGood:
        '{load} takes {takes} mA; {part} is good for {good} mA, and for {most} mA only for a moment or with a cooler.',
      starts: '{load} takes {starts} mA when it starts or is held fast, and {part} gives {most} mA at most.',
      near: '{load} takes {takes} of the {good} mA that {part} is good for.',
      volts: '{load} is fed with {volts}, and {part} bears {bears}.',
      ...togetherMessages,
      ...ohmicLoadsMessages,
      ...driverHeatMessages,
      ...shuntMessages,
      ...starvedLoadsMessages,
    },
    limits: [
      'over',
      'near',
      'ohmic',
      'overGood',
      'starts',
      'volts',
      'togetherOver',
      'togetherGood',
      'togetherStarts',
      'resistorHot',
      'fuseOver',
      'fusePeak',
      'weakBase',
      'shuntVolts',
      'starved',
    ],
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    // Windings of one motor on one driver are one matter.
    const said = new Map<string, { one: Report; at: Set<string>; outputs: Set<string>; part: PartInstance }>()
    for (const { element, channels, source } of drivenLoads(circuit)) {
      const { runs, starts, part: load } = element
      for (const [part, here] of byPart(channels)) {
        const { good, most, volts } = ratingTogether(wiring, here)
        const say = (severity: Severity, message: string, data: MessageData, numbers: Report['numbers']): void => {
          const key = [load.ref, part.ref, message].join(' ')
          const one = { severity, at: [], message, data: { load: load.ref, part: part.ref, ...data }, why: '', numbers }
          const known = said.get(key) ?? { one, at: new Set<string>(), outputs: new Set<string>(), part }
          said.set(key, known)
          for (const { output } of here) known.outputs.add(output)
          for (const end of [...here.map(({ output }) => output), element.a, element.b]) known.at.add(end)
        }
        if (runs !== undefined && most !== undefined && runs > most)
          say('fault', 'over', { takes: Math.round(runs), most }, { takes: runs, most })
        else if (runs !== undefined && good !== undefined && runs > good)
          say(
            'caution',
            'overGood',
            { takes: Math.round(runs), good, most: most ?? good },
            { takes: runs, good, most: most ?? good },
          )
        else if (starts !== undefined && most !== undefined && starts > most)
          say('caution', 'starts', { starts: Math.round(starts), most }, { starts, most })
        else if (runs !== undefined && good !== undefined && runs > good * NEAR && !here[0]!.facts.limits)
          say('caution', 'near', { takes: Math.round(runs), good }, { takes: runs, good })
        if (source && volts !== undefined && source.volts > volts && !isOverfed(part))
          say(
            'fault',
            'volts',
            { volts: formatVolts(source.volts), bears: formatVolts(volts) },
            { volts: source.volts, bears: volts },
          )
      }
    }
    for (const { one, at, outputs, part } of said.values())
      report({
        ...one,
        at: [...at],
        why: `What ${listWords([...outputs])} of ${part.title} ${outputs.size > 1 ? 'bear' : 'bears'} is a limit of its silicon: above it the output gets hot, switches itself off, or is destroyed. A larger driver, or a smaller load, is the way out.`,
      })
    sayTogether(wiring, report)
    sayOhmicLoads(wiring, report)
    sayWeakBases(wiring, report)
    sayHot(wiring, report)
    sayHotZeners(wiring, report)
    sayFuses(wiring, report)
    sayStarved(wiring, report)
    sayShunts(wiring, report)
  },
}

function byPart<T extends { readonly part: PartInstance }>(list: readonly T[]): Map<PartInstance, T[]> {
  const found = new Map<PartInstance, T[]>()
  for (const one of list) found.set(one.part, [...(found.get(one.part) ?? []), one])
  return found
}
