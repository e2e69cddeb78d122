import { entryOf } from '../base/entryOf.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { setOhms } from './mend.ts'

export const starvedLoadsMessages = {
  starved: '{part} takes {takes}, and {resistor} lets {gets} through to it.',
}

/** Shares of what a load takes below which it is weak, and is taken to do nothing: no motor starts, no relay pulls. */
const WEAK = 0.25
const DEAD = 0.1

const ohmsOf = ({ options }: PartInstance): number | undefined => {
  const ohms = entryOf(options, 'ohms')
  return typeof ohms === 'number' ? ohms : undefined
}

const isResistor = ({ part }: PartInstance): boolean => part.helper === 'resistor'

/** Loads and inputs that work by a current, behind a resistor that leaves next to nothing of it. */
export function sayStarved(wiring: Wiring, report: (one: Report) => void): void {
  const said = new Set<string>()
  const say = (part: PartInstance, resistor: PartInstance, takes: number, gets: number): void => {
    if (gets >= takes * WEAK || said.has(part.ref)) return
    said.add(part.ref)
    const ohms = ohmsOf(resistor)
    report({
      severity: gets < takes * DEAD ? 'fault' : 'caution',
      at: [part.ref, resistor.ref],
      message: 'starved',
      data: {
        part: part.ref,
        takes: formatQuantity(takes / 1000, 'A'),
        resistor: resistor.ref,
        gets: formatQuantity(gets / 1000, 'A'),
      },
      why: 'A resistor in series takes volts as the current through it grows. What works by its current, such as a motor, a coil or a buzzer, wants none, or one of a few ohms.',
      numbers: { takes, gets: Math.round(gets * 100) / 100 },
      propose: () => (ohms === undefined ? [] : setOhms(wiring, resistor, (ohms * gets) / takes)),
    })
  }
  for (const element of circuitOf(wiring).elements) {
    const { kind, part, runs, netA, netB } = element
    if ((kind !== 'winding' && kind !== 'load') || runs === undefined || netA === netB) continue
    // What a supply pin gets through what lies in its way, supply-range and supply-missing say; of a level level-logic.
    if (part.supplies.length > 0 || wiring.signals.some((use) => use.part === part && levelsOf(use).vih)) continue
    const flow = verdictsOf(wiring).through(element)
    const gets = flow ? Math.max(flow.forward, flow.back) : 0
    // Nothing at all is another matter.
    if (!flow || gets <= 0) continue
    const { strands, amps } = flow.state
    const series = strands.find(
      ({ element: one }, at) =>
        one?.kind === 'resistor' && isResistor(one.part) && Math.abs(amps[at] ?? 0) * 1000 > gets * 0.9,
    )
    if (series?.element) say(part, series.element.part, runs, gets)
  }
  for (const use of wiring.signals) {
    const resistor = resistorBefore(wiring, use)
    const { milliamps } = use.facts
    const volts = use.hosts[0]?.host.logicVolts
    const ohms = resistor && ohmsOf(resistor)
    if (!resistor || ohms === undefined || milliamps === undefined || volts === undefined) continue
    // What the input itself has of ohms, from what it takes of the pin's volts.
    say(use.part, resistor, milliamps, volts / (volts / milliamps + ohms / 1000))
  }
}

/** The resistor on the way to an input of a module or a driver that works by a current. Of bases weakBase speaks. */
function resistorBefore(wiring: Wiring, { part, facts, hosts }: SignalUse): PartInstance | undefined {
  if (facts.direction !== 'in' || part.part.category !== 'driver' || chosenFact(part, 'gain') !== undefined)
    return undefined
  return wiring.parts.find((one) => isResistor(one) && hosts[0]?.via.includes(one.ref))
}
