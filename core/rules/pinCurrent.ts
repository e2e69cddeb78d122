import { rewire } from '../assign/rewire.ts'
import type { PinCurrent } from '../catalog/common.ts'
import { litDiodes, pinLoads } from '../circuit/lit.ts'
import type { Host, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { setOhms } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'

export const pinCurrent: Rule = {
  meta: {
    id: 'pin-current',
    severities: ['fault', 'caution'],
    about:
      'Current through a pin, a group of pins or the whole chip: a fault above the absolute limit, a caution above what is recommended.',
    messages: {
      pin: '{pin} {gives} {milliamps} mA for {names}; {limit}.',
      group: '{group} of {board} carry {sum} mA together; {absolute} mA is the limit.',
      board: 'The pins of {board} carry {sum} mA together; {limit}.',
    },
    limits: ['pin', 'board'],
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
      for (const way of ['source', 'sink'] as const) {
        const milliamps = load[way]
        const absolute = limits[way] ?? limits.absolute
        const over = absolute !== undefined && milliamps > absolute * 1.001
        const much = limits.recommended !== undefined && milliamps > limits.recommended * 1.02
        if (!over && !much) continue
        // A lamp that itself gets too much is led-resistor's.
        if (load.parts.length > 0 && load.parts.every(isTooBright)) continue
        const names = listWords(load.parts)
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
    }
    for (const board of wiring.boards) {
      const mine = loads.filter((load) => load.host.board === board)
      for (const group of board.board.current.groups) {
        const on = mine.filter((load) => group.pins.includes(load.host.end.slice(board.ref.length + 1)))
        const ways: readonly ('source' | 'sink')[] = group.way === 'both' ? ['source', 'sink'] : [group.way]
        const sum = on.reduce((total, load) => total + ways.reduce((part, way) => part + load[way], 0), 0)
        if (sum <= group.absolute) continue
        report({
          severity: 'fault',
          at: on.map((load) => load.host.end),
          message: 'group',
          data: { group: group.title, board: board.ref, sum: shown(sum), absolute: group.absolute },
          why: `Pins of a group share the same supply lines inside the chip. Each may be within its own limit and all of them together above that of the group.`,
          numbers: { milliamps: twoDigits(sum), limit: group.absolute },
        })
      }
      const total = board.board.current.total
      const sum = mine.reduce((all, load) => all + Math.max(load.source, load.sink), 0)
      const over = total?.absolute !== undefined && sum > total.absolute
      const much = total?.recommended !== undefined && sum > total.recommended
      if (!over && !much) continue
      report({
        severity: over ? 'fault' : 'caution',
        at: [board.ref, ...mine.map((load) => load.host.end)],
        message: 'board',
        data: {
          board: board.ref,
          sum: shown(sum),
          limit: over ? `${total?.absolute} mA is the limit` : `${total?.recommended} mA is recommended`,
        },
        why: 'All of it flows through the supply pins of the chip. Larger series resistors, or a driver chip for the heavier ones, bring it down.',
        numbers: { milliamps: twoDigits(sum) },
      })
    }
  },
}

const shown = (milliamps: number): string => (milliamps < 10 ? milliamps.toFixed(1) : String(Math.round(milliamps)))

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
