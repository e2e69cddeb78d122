import { describe, expect, it } from 'vitest'
import { kits } from '../testing/kits.ts'
import { catalog, type Short, wiringOf } from '../testing/plans.ts'
import { led, ohms } from '../testing/short.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { candidates, hostsFor, judge } from './candidates.ts'
import { openSignals, prepare } from './preparing.ts'
import { scarcityOf } from './scarcity.ts'
import { SearchProblem } from './searchProblem.ts'

/** Every pin judged by itself: what is blocked, and what the others cost. */
const each = (wiring: Wiring, use: SignalUse): Record<string, unknown> =>
  Object.fromEntries(
    hostsFor(wiring, use).map((host) => {
      const { cost, blocked } = judge(wiring, use, host, scarcityOf(wiring, use))
      return [host.end, blocked ?? cost]
    }),
  )

/** Verdicts that are shared between pins, and lists that are shared between signals, against each judged by itself. */
function expectEqual(wiring: Wiring): void {
  const open = openSignals(wiring)
  for (const use of wiring.signals)
    expect([
      use.end,
      Object.fromEntries(candidates(wiring, use).map(({ host, cost, blocked }) => [host.end, blocked ?? cost])),
    ]).toEqual([use.end, each(wiring, use)])
  for (const { uses, choices } of new SearchProblem(wiring, open).singles) {
    if (uses.length > 1) continue
    const alone = Object.entries(each(wiring, uses[0]!)).filter(([, is]) => typeof is === 'number')
    const shared = choices.map(({ host, extra }) => [host.end, extra + 100])
    expect([uses[0]!.end, Object.fromEntries(shared)]).toEqual([uses[0]!.end, Object.fromEntries(alone)])
  }
}

/** Of everything two that look alike and are not: colours, resistors, chips, what is fed otherwise. */
const alike = (mcu: string, uses?: string[]): Short => ({
  mcu,
  ...(uses ? { uses } : {}),
  supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
  parts: {
    RED: led('red'),
    RED2: led('red'),
    BLUE: led('blue'),
    LOW: led('red'),
    BARE: led('red'),
    WARM: led('red'),
    R1: ohms(220),
    R2: ohms(220),
    R3: ohms(220),
    R4: ohms(1000),
    R5: ohms(220),
    R6: ohms(100),
    MORE: { part: 'mcp23017', options: {} },
    MORE2: 'mcp23017',
    ROW: '74hc595',
    KNOB: 'potentiometer',
    PUSH: 'button',
    PUSH2: 'button',
    SWAY: 'servo-sg90',
    GATE: { part: 'nmos', options: { model: 'irlz44n' } },
    GATE2: { part: 'nmos', options: { model: '2n7000' } },
    PUMP: 'pump',
    EYE: 'hall-a3144',
    PING: 'hc-sr04',
    CLIMATE: 'bme280',
    OLED: 'ssd1306',
    DIGITS: 'max7219',
    ROUND: '74hc4051',
    ROUND2: '74hc4051',
  },
  wires:
    'RED.A R1.1, RED2.A R2.1, BLUE.A R3.1, LOW.A R4.1, RED.K MCU.GND, RED2.K MCU.GND, BLUE.K MCU.GND, ' +
    'LOW.K MCU.GND, PACK.- MCU.GND, MORE2.VDD PACK.+, MORE2.VSS PACK.-, ' +
    'ROUND.COM MORE.GPA0, WARM.A R5.1, WARM.K MCU.GND, R5.2 R6.1, R6.2 PACK.+',
})

describe('verdicts shared between pins and signals are those of each by itself', () => {
  for (const mcu of catalog.boards.keys())
    it(`on ${mcu}`, () => {
      const wiring = wiringOf(alike(mcu))
      expectEqual(wiring)
      expectEqual(prepare(wiring).wiring)
      // With all that is on the board in use.
      expectEqual(
        wiringOf(
          alike(
            mcu,
            catalog.boards.get(mcu)!.features.map(({ id }) => id),
          ),
        ),
      )
    })
  it('for the kits of an experienced maker', () => {
    for (const kit of kits) {
      const wiring = wiringOf(kit)
      expectEqual(wiring)
      expectEqual(prepare(wiring).wiring)
    }
  }, 120_000)
})

it('a lamp with another resistor is another lamp', () => {
  const wiring = wiringOf(alike('uno-r3'))
  const lists = new SearchProblem(wiring, openSignals(wiring)).singles
  const of = (end: string) => lists.find(({ name }) => name === end)!.choices
  expect(of('RED2.A')).toBe(of('RED.A'))
  expect(of('BLUE.A')).not.toBe(of('RED.A'))
  expect(of('LOW.A')).not.toBe(of('RED.A'))
})
