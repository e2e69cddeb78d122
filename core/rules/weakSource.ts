import { entryOf } from '../base/entryOf.ts'
import { boardPull } from '../circuit/boardPulls.ts'
import { circuitOf, type Port, railOf } from '../circuit/circuit.ts'
import { networkOf } from '../circuit/still.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const weakSourceMessages = {
  weak: 'What {pin} reads comes over {ohms}, and no capacitor lies beside it.',
}

/**
 * Ohms above which the sample of a converter does not fill in its time: 12 µs for 14 pF to within half of one of 1,024
 * steps, R = t / (C · ln 2048) = 112 kΩ (time and capacitance: data sheet of the ATmega328P, and much the same elsewhere).
 */
const MOST_OHMS = 112_000

/** Farads beside which what a converter takes for a sample is less than a step or two: 1,000 times its 14 pF. */
const LEAST_FARADS = 10e-9

/** A capacitor from a net to a rail from which a sample is filled at once. */
const isBuffered = (wiring: Wiring, net: Net): boolean =>
  circuitOf(wiring)
    .on(net)
    .some(({ kind, part, netA, netB }) => {
      const farads = entryOf(part.options, 'farads')
      const isLarge = typeof farads === 'number' && farads >= LEAST_FARADS
      return kind === 'capacitor' && isLarge && railOf(netA === net ? netB : netA) !== undefined
    })

/** Nothing but resistors leads to the pin: no output, no contact, and no resistor on its board. */
function isDivided(wiring: Wiring, { net, host }: Port): boolean {
  const circuit = circuitOf(wiring)
  const isDriven = circuit.at(net).some(({ high, host: other }) => other === undefined && high !== undefined)
  const isPulled = host?.cautions.some((one) => boardPull(host, one) !== undefined)
  return !isDriven && !isPulled && circuit.on(net).every(({ kind }) => kind !== 'contact' && kind !== 'diode')
}

/** A divider of so many ohms that the converter behind it reads what the last reading left. */
export function sayWeakSources(wiring: Wiring, report: (one: Report) => void): void {
  const network = networkOf(wiring)
  for (const port of circuitOf(wiring).ports.values()) {
    const { host, net } = port
    if (!host?.board || !host.functions.has('analog-in') || !net.wired || railOf(net)) continue
    const source = isDivided(wiring, port) ? network.thevenin(net) : undefined
    const top = host.logicVolts ?? 0
    // What a single resistor holds at a rail is no reading.
    if (!source || source.ohms <= MOST_OHMS || source.volts < 0.02 * top || isBuffered(wiring, net)) continue
    const resistors = circuitOf(wiring)
      .on(net)
      .filter(({ kind }) => kind === 'resistor')
    if (resistors.length < 2) continue
    report({
      severity: 'caution',
      at: [host.end, ...new Set(resistors.map(({ part }) => part.ref))],
      message: 'weak',
      data: { pin: host.end, ohms: formatQuantity(Math.round(source.ohms / 1000) * 1000, 'Ω') },
      why: 'For each reading the converter fills a small capacitor from the pin, within some microseconds. Over so many ohms it does not fill, and the reading follows the pin that was read before. 100 nF from the pin to ground fill it at once; smaller resistors do as well.',
      numbers: { ohms: Math.round(source.ohms), most: MOST_OHMS },
    })
  }
}
