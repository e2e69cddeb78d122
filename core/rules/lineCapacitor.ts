import { entryOf } from '../base/entryOf.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { type DrivenLine, linesOf } from '../circuit/lines.ts'
import { networkOf } from '../circuit/still.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import { isBufferOutput } from '../wiring/between.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Net, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { isTimed } from '../wiring/needs.ts'
import type { Report, Rule } from './finding.ts'
import { CLOCK_SECONDS, riseFactor } from './levelSlow.ts'
import { moveTo, takeOff } from './mend.ts'

/** Resistance of a strong output in ohms: half a volt lost at 20 mA (ATmega328P, typical characteristics). */
const OUTPUT_OHMS = 25
/** What charges a pin's worth of input in so short a time that no pin minds, in farads. */
const NOTHING_TO_CHARGE = 1e-6
/** Time in seconds in which a line of a four-wire bus, of I2C at 100 kHz (UM10204, t_r) and of CAN at 125 kbit/s must follow. */
const BUS_SECONDS = { spi: CLOCK_SECONDS, i2s: CLOCK_SECONDS, i2c: 1e-6, can: 8e-6, onewire: 15e-6 }
/** Shortest pulse of what is timed, and of what is clocked by a program, in seconds. */
const PULSE_SECONDS = 10e-6
/** So many times too slow nothing gets through; below, much hangs on how fast a program is. */
const CERTAIN = 10
/** A pulse whose length says something is known to a fiftieth of its period at the least. */
const SHARE_OF_PERIOD = 1 / 50

/** Time in seconds within which the level of a signal must have changed; undefined where nothing hurries. */
function secondsOf(wiring: Wiring, { facts, part }: SignalUse): number | undefined {
  // Of sound only the change matters, which a capacitor in its way leads on.
  if (facts.alternates) return undefined
  if (facts.pulseSeconds !== undefined) return facts.pulseSeconds
  const kind = busNeed(facts.needs)?.kind
  if (kind === 'uart') return 1 / Math.min(...(part.mode?.uart?.baud ?? [9600]))
  if (kind !== undefined) return BUS_SECONDS[kind]
  if (facts.hertz !== undefined) return SHARE_OF_PERIOD / facts.hertz
  if (facts.numbered) return BUS_SECONDS.onewire
  if (isTimed({ facts }) || facts.moves) return PULSE_SECONDS
  // What a part answers with goes with its clock.
  const isClocked = wiring.signals.some((other) => other.part === part && other.facts.moves)
  return isClocked && facts.direction !== 'in' ? PULSE_SECONDS : undefined
}

interface Hanging {
  readonly part: PartInstance
  readonly farads: number
  /** Its end on the line. */
  readonly leg: string
  /** Where the other one lies. */
  readonly other: Net
}

const isHeld = ({ ground, sources }: Net): boolean => ground || sources.length > 0

/** Capacitors from a net to anything else that is wired, by the leg on it; none on a supply or on ground. */
const hangingOn = (wiring: Wiring, net: Net): Hanging[] =>
  (isHeld(net) ? [] : circuitOf(wiring).on(net)).flatMap(({ kind, part, a, b, netA, netB }) => {
    const farads = entryOf(part.options, 'farads')
    if (kind !== 'capacitor' || typeof farads !== 'number' || netA === netB) return []
    const [leg, other] = netA === net ? [a, netB] : [b, netA]
    return other.ends.length > 1 ? [{ part, farads, leg, other }] : []
  })

export const lineCapacitor: Rule = {
  meta: {
    id: 'line-capacitor',
    severities: ['fault', 'caution'],
    about: 'A capacitor hangs on a line that must be quicker than it lets it, or on a pin that has to charge it.',
    messages: {
      slows: 'With {part} of {farads} on it the line of {end} takes {rise} to rise, and has {seconds}.',
      charged: '{pin} has to charge {part} of {farads} at each change, and is rated for {most}.',
    },
    limits: ['slows', 'charged'],
    local: true,
    fixable: true,
  },
  check(wiring, report) {
    const said = new Set<PartInstance>()
    saySlowed(wiring, said, report)
    for (const use of wiring.signals) sayCharged(wiring, use, said, report)
  },
}

/** t = R · C · ln(V / (V - VIH)), through what drives the line, or through the resistor that pulls it up. */
function saySlowed(wiring: Wiring, said: Set<PartInstance>, report: (one: Report) => void): void {
  for (const line of linesOf(wiring)) {
    const seconds = line.use && secondsOf(wiring, line.use)
    if (seconds === undefined) continue
    for (const net of new Set([wiring.netOf(line.receiver), wiring.netOf(line.driver)]))
      for (const { part, farads, leg } of hangingOn(wiring, net)) {
        const ohms = ohmsAt(wiring, line, net)
        if (ohms === undefined || said.has(part)) continue
        const rise = ohms * farads * factorOf(line)
        if (rise <= seconds) continue
        said.add(part)
        report({
          severity: rise > CERTAIN * seconds ? 'fault' : 'caution',
          at: [part.ref, line.use?.end ?? line.receiver],
          message: 'slows',
          data: {
            part: part.ref,
            farads: formatQuantity(farads, 'F'),
            end: line.use?.end ?? line.receiver,
            rise: formatQuantity(rough(rise), 's'),
            seconds: formatQuantity(rough(seconds), 's'),
          },
          why: `The capacitor has to be charged before the line is high and emptied before it is low, through ${formatQuantity(Math.round(ohms), 'Ω')} here (t = R · C · ln(V / (V − VIH))). Capacitors belong across supplies, where nothing shall change quickly.`,
          numbers: { farads, ohms: Math.round(ohms), rise: rough(rise), seconds: rough(seconds) },
          propose: () => [...toSupply(wiring, line.use as SignalUse, leg), ...takeOff(wiring, part)],
        })
      }
  }
}

/** Two digits of what is an estimate. */
const rough = (value: number): number => Number(value.toPrecision(2))

/** Ohms through which a net of a line is charged; undefined where nothing charges it. */
function ohmsAt(wiring: Wiring, { driver, openDrain, driverVolts, high }: DrivenLine, net: Net): number | undefined {
  if (openDrain) return networkOf(wiring).thevenin(net)?.ohms
  const from = wiring.netOf(driver)
  const volts = driverVolts ?? high
  if (net === from || volts === undefined) return OUTPUT_OHMS
  const network = networkOf(wiring)
  const near = network.joined(net)
  // Beyond a buffer it is that which drives.
  const driving = near.has(from.index)
    ? from
    : wiring.nets.find(({ index, ends }) => near.has(index) && ends.some((end) => isBufferOutput(wiring, end)))
  if (driving === net) return OUTPUT_OHMS
  const at = network.thevenin(net, { net: driving ?? from, volts })
  return at && at.ohms + OUTPUT_OHMS
}

/** The same for a line; with no figures the middle is taken. */
const factorOf = ({ high, driverVolts, vih }: DrivenLine): number => {
  const volts = high ?? driverVolts
  return volts === undefined || vih === undefined || vih >= volts ? Math.LN2 : riseFactor(volts, vih)
}

/** Where it was meant to be: its leg a hole beside, at the supply of the part. */
const toSupply = (wiring: Wiring, { part }: SignalUse, leg: string): Fix[] =>
  part.supplies.flatMap(({ source, pins }) => (source && pins[0] ? moveTo(wiring, leg, pins[0]) : [])).slice(0, 1)

/** A pin that charges a large capacitor at each change, with nothing but itself to limit the current. */
function sayCharged(
  wiring: Wiring,
  { facts, hosts }: SignalUse,
  said: Set<PartInstance>,
  report: (one: Report) => void,
): void {
  if (facts.direction !== 'in' || busNeed(facts.needs)?.kind === 'i2c') return
  for (const { host } of hosts) {
    const [volts, most] = [host.logicVolts, host.current?.absolute ?? host.current?.source]
    if (!host.board || volts === undefined || most === undefined) continue
    for (const { part, farads, other } of hangingOn(wiring, wiring.netOf(host.end))) {
      const peak = (volts / OUTPUT_OHMS) * 1000
      if (!isHeld(other) || said.has(part) || farads < NOTHING_TO_CHARGE || peak <= most) continue
      said.add(part)
      report({
        severity: 'caution',
        at: [part.ref, host.end],
        message: 'charged',
        data: {
          pin: host.end,
          part: part.ref,
          farads: formatQuantity(farads, 'F'),
          most: `${most} mA`,
        },
        why: `An empty capacitor is a short circuit until it is charged: at each change only the pin itself limits the current, to more than it is rated for. A resistor of ${formatQuantity(Math.ceil((volts / most) * 1000), 'Ω')} or more in between keeps to it.`,
        numbers: { farads, milliamps: most },
        propose: () => takeOff(wiring, part),
      })
    }
  }
}
