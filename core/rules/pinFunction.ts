import { rewire } from '../assign/rewire.ts'
import { counted } from '../base/counted.ts'
import { isLoad } from '../catalog/common.ts'
import { busNeed } from '../wiring/buses.ts'
import { isGradual } from '../wiring/libraryPulses.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { drives, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'

export const pinFunction: Rule = {
  meta: {
    id: 'pin-function',
    severities: ['fault', 'tip'],
    about: 'A pin lacks the function that its signal needs: analog, PWM, edge interrupt, DAC or touch.',
    messages: {
      lacks: '{signal} needs {need}, and {pin} has none.',
      onOff: '{signal} can only be switched on and off at {pin}, which has no PWM.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const use of wiring.signals) {
      if (busNeed(use.facts.needs)) continue
      for (const { host } of use.hosts) {
        if (meets(host, use) === 'orElse' && isGradual(use) && host.board && !servesSpeed(wiring, use))
          report({
            severity: 'tip',
            at: [use.end, host.end],
            message: 'onOff',
            data: { signal: use.end, pin: host.end },
            why: 'Speed and brightness come from pulses that a timer of the chip makes, on the pins to which it leads. Where full or nothing is enough, all is well.',
            numbers: {},
            propose: () => rewire(wiring, use),
          })
        if (meets(host, use) || lacksDirection(host.functions, use.facts.needs)) continue
        // Of expander pins, of loads straight on a pin and of the flash other rules speak.
        if (host.cautions.some((one) => ['flash', 'psram', 'crystal'].includes(one.id))) continue
        if (host.provider || isLoad(use.facts.needs)) continue
        const able = [...wiring.hosts.values()]
          .filter((one) => one.ref === host.ref && meets(one, use))
          .map((one) => one.end)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: 'lacks',
          data: { signal: use.end, need: needWords(use.facts.needs), pin: host.end },
          why: `${able.length === 0 ? `No pin of ${host.ref} can do this.` : `${counted(able.length, 'pin')} of ${host.ref} can: ${able.slice(0, 8).join(', ')}${able.length > 8 ? ' …' : ''}.`} The function is built into the chip pin by pin; software cannot add it.`,
          numbers: { able: able.length },
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}

/** Another input that moves the same load has PWM: by one of the two its speed is set in both directions. */
const servesSpeed = (wiring: Wiring, { part, end }: SignalUse): boolean => {
  const channels = part.part.channels.filter(({ inputs }) => inputs.some((pin) => `${part.ref}.${pin}` === end))
  const bridges = new Set(channels.flatMap(({ bridge }) => bridge ?? []))
  return part.part.channels.some(
    ({ bridge, inputs }) =>
      bridge !== undefined &&
      bridges.has(bridge) &&
      inputs.some((pin) => wiring.signal(`${part.ref}.${pin}`)?.hosts.some(({ host }) => host.functions.has('pwm'))),
  )
}

/** The pin fails in direction, of which `pin-direction` speaks. */
export function lacksDirection(functions: ReadonlySet<string>, need: string): boolean {
  return drives(need)
    ? !functions.has('digital-out') && functions.has('digital-in')
    : !functions.has('digital-in') && functions.has('digital-out')
}
