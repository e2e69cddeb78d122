import { diodeAcross, switchedLoads, takesKick } from '../wiring/windings.ts'
import type { Rule } from './finding.ts'
import { companionOffers } from './mend.ts'

export const flyback: Rule = {
  meta: {
    id: 'flyback',
    severities: ['fault'],
    about:
      'A winding is switched by a bare transistor, or by a driver whose diodes are not connected, without a diode across it.',
    messages: {
      noDiode: '{part} is switched by {pin} without a diode across its winding.',
      noClamp: '{part} is switched by {pin}, whose diodes need {clamp} on the supply of the load.',
    },
    lacking: ['noDiode', 'noClamp'],
    fixable: true,
  },
  check(wiring, report) {
    for (const load of switchedLoads(wiring)) {
      if (load.clamped) continue
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
