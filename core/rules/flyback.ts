import { circuitOf } from '../circuit/circuit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { DIODE_VOLTS, diodeAcross, diodesOf, switchedLoads, takesKick } from '../wiring/windings.ts'
import type { Rule } from './finding.ts'
import { companionOffers } from './mend.ts'

export const flyback: Rule = {
  meta: {
    id: 'flyback',
    severities: ['fault'],
    about:
      'A winding is switched by a bare transistor, or by a driver whose diodes are not connected, without a diode across it; or the diodes of a driver lead to less than the supply of its load.',
    messages: {
      noDiode: '{part} is switched by {pin} without a diode across its winding.',
      noClamp: '{part} is switched by {pin}, whose diodes need {clamp} on the supply of the load.',
      neverOff:
        '{part} never goes off: past {pins} its current goes through the diodes to {clamp} at {low}, below its {high}.',
    },
    limits: ['neverOff'],
    lacking: ['noDiode', 'noClamp'],
    fixable: true,
  },
  check(wiring, report) {
    const lit = litThroughDiodes(wiring)
    for (const { part, outputs, clamp, low, high, supply } of lit)
      report({
        severity: 'fault',
        at: [part.ref, ...outputs, clamp],
        message: 'neverOff',
        data: { part: part.ref, pins: outputs, clamp, low: formatVolts(low), high: formatVolts(high) },
        why: `Inside the driver a diode leads from each output to ${clamp}. While the output is off, the load draws it up to ${formatVolts(high)}, and through the diode the current goes on to where ${clamp} lies: the load is not off, and what it takes is pressed into that supply. ${clamp} belongs to the highest supply of the loads on the driver.`,
        numbers: { lowVolts: low, highVolts: high },
        propose: () => moveClamp(wiring, clamp, supply),
      })
    for (const load of switchedLoads(wiring)) {
      if (load.clamped || lit.some(({ part, outputs }) => part === load.use.part && outputs.includes(load.host.end)))
        continue
      const { use, host, clamp } = load
      // Between two outputs that pull to ground nothing flows, of which load-return speaks.
      if (clamp !== undefined && load.supply === undefined) continue
      // A diode that is there and turned round is polarity's.
      if (load.supply !== undefined && diodeAcross(wiring, load.supply, use.end)) continue
      report({
        severity: 'fault',
        at: clamp === undefined ? [use.end, host.end] : [use.end, host.end, clamp],
        message: clamp === undefined ? 'noDiode' : 'noClamp',
        data: { part: use.part.ref, pin: host.end, clamp },
        why: 'A winding keeps its current flowing for a moment after the switch has opened, and raises its voltage to a hundred volts and more to do so. A diode from the switched side to the supply gives that current a way; without it the transistor is destroyed.',
        numbers: {},
        propose: () =>
          clamp === undefined
            ? companionOffers(
                wiring,
                use.part,
                (one) => takesKick(wiring.catalog, one) && one.across?.includes(use.facts.pin) === true,
              )
            : load.supply === undefined
              ? []
              : [
                  {
                    title: `Join ${clamp} to ${load.supply}`,
                    edits: [{ do: 'connect', from: clamp, to: load.supply }],
                  },
                ],
      })
    }
  },
}

/** A load that gets current past outputs that are off: volts at its supply and at the pin where the diodes meet. */
interface Lit {
  readonly part: PartInstance
  readonly outputs: readonly string[]
  readonly clamp: string
  readonly low: number
  readonly high: number
  /** Where the load gets its current. */
  readonly supply: string
}

/** Loads on the outputs of arrays and bridges whose diodes lead to ground, or to a supply well below that of the load. */
function litThroughDiodes(wiring: Wiring): Lit[] {
  const found = new Map<string, Lit>()
  for (const { element, channels, source } of drivenLoads(circuitOf(wiring)))
    for (const { part, output } of channels) {
      const meet = diodesOf(wiring, part, output.slice(part.ref.length + 1))
      if (!meet || source === undefined || source.volts - meet.volts <= DIODE_VOLTS) continue
      const { end: clamp, volts: low } = meet
      const key = `${element.part.ref} ${clamp}`
      const outputs = [...(found.get(key)?.outputs ?? []), output]
      found.set(key, { part: element.part, outputs, clamp, low, high: source.volts, supply: source.end })
    }
  return [...found.values()]
}

/** Takes the pin of the diodes off where it lies, and to the supply of the load. */
function moveClamp(wiring: Wiring, clamp: string, supply: string): Fix[] {
  const wires = wiring.plan.wires.filter(([a, b]) => a === clamp || b === clamp)
  if (wires.length === 0 || wires.some((wire) => wire[2]?.locked)) return []
  return [
    {
      title: `Move ${clamp} to ${supply}`,
      edits: [
        ...wires.map(([from, to]): Edit => ({ do: 'disconnect', from, to })),
        { do: 'connect', from: clamp, to: supply },
      ],
    },
  ]
}
