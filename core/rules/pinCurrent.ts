import { rewire } from '../assign/rewire.ts'
import type { PinCurrent } from '../catalog/common.ts'
import { litDiodes, pinLoads, RECOMMENDED_SLACK } from '../circuit/lit.ts'
import type { Host, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { setOhms } from './mend.ts'
import { pinTotalsMessages, sayTotals, shown } from './pinTotals.ts'
import { listWords, twoDigits, usesByHost } from './shared.ts'

export const pinCurrent: Rule = {
  meta: {
    id: 'pin-current',
    severities: ['fault', 'caution'],
    about:
      'Current through a pin, a group of pins or the whole chip: a fault above the absolute limit, a caution above what is recommended.',
    messages: {
      ...pinTotalsMessages,
      pin: '{pin} {gives} {milliamps} mA for {names}; {limit}.',
    },
    limits: ['pin', 'board', 'outputs'],
    fixable: true,
  },
  check(wiring, report) {
    const loads = pinLoads(wiring)
    // Asked for only where a pin is over its limit.
    const isTooBright = (ref: string): boolean =>
      litDiodes(wiring).some((one) => one.milliamps > one.most * 1.001 && one.row.some(({ part }) => part.ref === ref))
    for (const load of loads) {
      const limits = load.host.current
      if (!limits) continue
      const overs = (['source', 'sink'] as const).flatMap((way) => {
        const milliamps = load[way]
        const absolute = limits[way] ?? limits.absolute
        const over = absolute !== undefined && milliamps > absolute * 1.001
        const much = limits.recommended !== undefined && milliamps > limits.recommended * RECOMMENDED_SLACK
        return over || much ? [{ way, milliamps, absolute, over }] : []
      })
      // Where both ways are too much the worse is said; a lamp that itself gets too much is led-resistor's.
      const worst = overs.find(({ over }) => over) ?? overs[0]
      if (!worst || (load.parts.length > 0 && load.parts.every(isTooBright))) continue
      const { way, milliamps, absolute, over } = worst
      // Where no load takes it, a pull-up does: that of what hangs on the pin.
      const on = usesByHost(wiring).get(load.host) ?? []
      const names = listWords(load.parts.length > 0 ? load.parts : on.map((use) => use.end))
      report({
        severity: over ? 'fault' : 'caution',
        at: [load.host.end, ...load.parts.filter((one) => one !== 'a resistor')],
        message: 'pin',
        data: {
          pin: load.host.end,
          gives: way === 'source' ? 'gives' : 'takes',
          milliamps: shown(milliamps),
          names,
          limit: over ? `${absolute} mA is the limit` : `${limits.recommended} mA is recommended`,
        },
        why: `${limitWords(limits)} ${over ? 'Above the limit the output stage is destroyed, at once or after some weeks.' : 'It will live, but its levels sag and the chip grows warm.'}`,
        numbers: { milliamps: twoDigits(milliamps), ...numbersOf(limits) },
        propose: () => lighter(wiring, load.host, limits),
      })
    }
    sayTotals(wiring, report)
  },
}

const limitWords = (limits: PinCurrent): string =>
  [
    limits.recommended === undefined ? '' : `${limits.recommended} mA is recommended`,
    limits.absolute === undefined ? '' : `${limits.absolute} mA must not be passed`,
  ]
    .filter((one) => one !== '')
    .join(', ')
    .concat('.')

const numbersOf = ({ recommended, absolute }: PinCurrent): Record<string, number> => ({
  ...(recommended === undefined ? {} : { recommended }),
  ...(absolute === undefined ? {} : { absolute }),
})

/** Larger resistors for what lights on this pin, or other pins for the rest. */
function lighter(wiring: Wiring, host: Host, limits: PinCurrent) {
  const wanted = limits.recommended ?? limits.absolute
  const lights = litDiodes(wiring).filter((one) => one.host === host)
  const share = wanted === undefined ? undefined : wanted / Math.max(1, lights.length)
  return [
    ...lights.flatMap((one) =>
      one.resistor && share !== undefined && one.milliamps > share
        ? setOhms(wiring, one.resistor, ((one.volts - one.forward) / share) * 1000)
        : [],
    ),
    ...wiring.signals.flatMap((use) => {
      const series = wiring.parts.find(
        (part) => part.part.helper === 'resistor' && use.hosts[0]?.via.includes(part.ref),
      )
      const volts = host.logicVolts
      return series && volts !== undefined && wanted !== undefined && use.hosts[0]?.host === host && lights.length === 0
        ? setOhms(wiring, series, (volts / wanted) * 1000)
        : []
    }),
    ...wiring.signals
      .filter((use) => use.hosts.some((one) => one.host === host))
      .slice(1)
      .flatMap((use) => rewire(wiring, use)),
  ]
}
