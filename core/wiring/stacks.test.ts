import { describe, expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { budgets } from '../circuit/budget.ts'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { resolve } from './resolve.ts'
import { lowestOf, standsOn } from './stacks.ts'

const box = (volts: number) => ({ part: 'battery-box', options: { volts } })
const faults = (short: Short): string[] =>
  check(wiringOf({ mcu: 'uno-r3', ...short }))
    .filter(({ severity }) => severity === 'fault')
    .map(({ message }) => message)
const atVin = (short: Short): number[] =>
  wiringOf({ mcu: 'uno-r3', ...short })
    .netOf('MCU.VIN')
    .sources.map(({ volts }) => volts)

describe('cells in a row', () => {
  it.each<[string, Short, number]>([
    ['two boxes', { parts: { A: box(4.5), B: box(4.5) }, wires: 'A.- MCU.GND, A.+ B.-, B.+ MCU.VIN' }, 9],
    [
      'three boxes, the lowest named last',
      { parts: { C: box(3), B: box(3), A: box(4.2) }, wires: 'B.+ C.-, A.+ B.-, C.+ MCU.VIN, A.- MCU.GND' },
      10.2,
    ],
    [
      'two supplies of the plan',
      { supplies: { A: { volts: 6 }, B: { volts: 3 } }, wires: 'A.- MCU.GND, A.+ B.-, B.+ MCU.VIN' },
      9,
    ],
    [
      'a box on a supply',
      { supplies: { A: { volts: 5 } }, parts: { B: box(4.5) }, wires: 'A.- MCU.GND, A.+ B.-, B.+ MCU.VIN' },
      9.5,
    ],
    ['one alone', { parts: { A: box(9), B: box(9) }, wires: 'A.- MCU.GND, B.- MCU.GND, A.+ MCU.VIN' }, 9],
  ])('%s give their sum', (_, short, volts) => {
    expect(atVin(short)).toEqual([volts])
    expect(faults(short)).toEqual([])
  })

  it('may be too much together', () => {
    expect(faults({ parts: { A: box(9), B: box(9) }, wires: 'A.- MCU.GND, A.+ B.-, B.+ MCU.VIN' })).toEqual([
      'MCU.VIN gets 18.0 V from B.+ and takes 7.0 V to 12.0 V.',
    ])
  })

  it.each([
    [500, undefined, 500],
    [500, 2000, 500],
    [2000, 500, 500],
    [undefined, 800, 800],
    [undefined, undefined, undefined],
  ])('give no more than the weakest: %s below %s', (below, own, most) => {
    const supplies = { A: { volts: 3, limitMilliamps: below }, B: { volts: 3, limitMilliamps: own } }
    const [source] = wiringOf({ mcu: 'uno-r3', supplies, wires: 'A.+ B.-, A.- MCU.GND' }).netOf('B.+').sources
    expect(source?.limitMilliamps).toBe(most)
  })

  it('are no stack where the lower plus lies on ground, or round in a circle', () => {
    const grounded = { parts: { A: box(4.5), B: box(6) }, wires: 'A.+ B.-, A.- MCU.GND, A.+ MCU.GND, B.+ MCU.VIN' }
    expect(atVin(grounded)).toEqual([6])
    const round = wiringOf({ mcu: 'uno-r3', parts: { A: box(6), B: box(6) }, wires: 'A.+ B.-, B.+ A.-' })
    expect([standsOn(round, 'A'), standsOn(round, 'B')]).toEqual([undefined, undefined])
  })

  it('come back through the lowest', () => {
    const short = {
      supplies: { A: { volts: 6 }, B: { volts: 6 } },
      parts: { L: 'lamp', D: 'nmos' },
      wires: 'A.+ B.-, B.+ L.+, L.- D.D, D.S MCU.GND, D.G MCU.D5',
    }
    expect(lowestOf(wiringOf({ mcu: 'uno-r3', ...short }), 'B')).toBe('A')
    expect(faults({ ...short, wires: `${short.wires}, A.- MCU.GND` })).toEqual([])
    expect(faults(short)).toEqual([
      'L is fed from B.+ and returns through another ground, but A.- and MCU.GND are not joined.',
    ])
    const boxes = { parts: { A: box(6), B: box(6), L: 'lamp', D: 'nmos' }, wires: short.wires }
    expect(faults(boxes)).toEqual(['What A.+ gives never comes back: A.- is open.'])
  })

  it.each<[string, Short]>([
    ['supplies', { supplies: { A: { volts: 6 }, B: { volts: 6 } }, parts: { L: 'lamp', D: 'nmos' } }],
    ['boxes', { parts: { A: box(6), B: box(6), L: 'lamp', D: 'nmos' } }],
  ])('are fed from the top and grounded at the bottom: %s', (_, short) => {
    const plan = planOf({ mcu: 'uno-r3', ...short, wires: 'A.+ B.-' })
    const after = resolve(applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits), catalog)
    expect(after.netOf('L.+').sources.map(({ volts }) => volts)).toEqual([12])
    expect(after.netOf('A.-')).toBe(after.netOf('MCU.GND'))
    expect(check(after).filter(({ severity }) => severity === 'fault')).toEqual([])
  })
})

describe('a ground that lies on a supply', () => {
  it.each<[string, Short, string[]]>([
    ['of a socket', { parts: { P: 'dc-socket' }, wires: 'P.- MCU.5V, P.+ MCU.VIN' }, ['P.-']],
    ['of a plug', { parts: { P: 'db9-breakout' }, wires: 'P.5 MCU.5V' }, ['P.5']],
    ['of a box on what a board gives', { parts: { P: box(6) }, wires: 'P.- MCU.3V3, P.+ MCU.VIN' }, ['P.-']],
    ['of a plug where it belongs', { parts: { P: 'db9-breakout' }, wires: 'P.5 MCU.GND' }, []],
  ])('%s', (_, short, ends) => {
    const said = check(wiringOf({ mcu: 'uno-r3', ...short })).filter(({ message }) =>
      message.endsWith('instead of ground.'),
    )
    expect(said.map(({ at }) => at[0])).toEqual(ends)
  })
})

it('each cell in a row gives what is drawn above it as well', () => {
  const short = {
    mcu: 'uno-r3',
    supplies: { A: { volts: 4.5 }, B: { volts: 4.5 } },
    parts: { S: 'servo-sg90', T: 'servo-sg90' },
    wires: 'A.- MCU.GND, A.+ B.-, B.+ MCU.VIN, S.VCC A.+, S.GND MCU.GND, T.VCC MCU.5V, T.GND MCU.GND',
  }
  const taken = (end: string): number =>
    budgets(wiringOf(short)).find(({ source }) => source.end === end)?.peakMilliamps ?? Number.NaN
  expect(taken('MCU.5V')).toBeGreaterThan(0)
  // The board takes 50 mA itself.
  expect(taken('B.+')).toBe(taken('MCU.5V') + 50)
  expect(taken('A.+')).toBe(taken('B.+') + taken('MCU.5V'))
})
