import { rewire } from '../assign/rewire.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Host } from '../wiring/model.ts'
import { drives } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { usesByHost } from './shared.ts'

const words: Readonly<Record<string, string>> = {
  'onboard-led': 'an LED',
  'onboard-button': 'a button',
  flash: 'the flash memory',
  psram: 'the extra memory',
  crystal: 'the crystal',
}

export const pinOnboard: Rule = {
  meta: {
    id: 'pin-onboard',
    severities: ['fault', 'caution'],
    about:
      'The pin is also used on the board itself. A fault for flash, extra memory and crystal; a caution for an LED that loads an input and for a button.',
    messages: { shared: '{names} {names:shares/share} {pin} with {what} on the board.' },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      for (const caution of activeCautions(host)) {
        const what = words[caution.id]
        if (what === undefined) continue
        if (caution.buffered) continue
        // Lamps that the firmware itself drives at this pin are a conflict of their feature.
        if (caution.id === 'onboard-led' && isDriven(host, caution.feature)) continue
        const vital = !caution.id.startsWith('onboard-')
        // An LED lights along with an output and does no harm; it loads what has to be read.
        const touched =
          caution.id === 'onboard-led'
            ? uses.filter((use) => !drives(use.facts.needs) && use.facts.direction !== 'out')
            : uses
        if (touched.length === 0) continue
        const names = touched.map((use) => use.end)
        report({
          severity: vital ? 'fault' : 'caution',
          at: [host.end, ...names],
          message: 'shared',
          data: { names, pin: host.end, what },
          why: `${caution.text} ${
            vital
              ? 'The chip runs its program over this pin: anything else on it stops the board.'
              : caution.id === 'onboard-led'
                ? 'LED and resistor pull at the line, so a weak pull-up or a sensor with some resistance does not reach its level.'
                : 'Whoever presses the button pulls the line too.'
          }`,
          numbers: {},
          propose: () => [
            ...touched.flatMap((use) => rewire(wiring, use)),
            ...(caution.feature !== undefined && host.board ? withoutFeature(host.board, caution.feature) : []),
          ],
        })
      }
    }
  },
}

const isDriven = ({ board, pin }: Host, feature: string | undefined): boolean =>
  board?.features.some(({ id, pins }) => id === feature && pins.includes(pin)) === true
