import { expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { candidates } from './candidates.ts'
import { assignChoosing } from './choosing.ts'

/** What is held against a pin for a signal, and what it costs. */
function verdict(short: Short, end: string, pin: string) {
  const wiring = wiringOf(short)
  const found = candidates(wiring, wiring.signal(end)!).find(({ host }) => host.pin === pin)!
  return { against: found.against, cost: found.cost }
}

it('volts go to posts that are printed A where there are such, and a port is none of them', () => {
  const parts = { P: 'potentiometer' }
  const why = 'not printed as analog'
  expect(verdict({ mcu: 'leonardo-32u4', parts }, 'P.W', 'D8').against).toContain(why)
  expect(verdict({ mcu: 'leonardo-32u4', parts }, 'P.W', 'A0').against).not.toContain(why)
  expect(verdict({ mcu: 'stm32f103-bluepill', parts }, 'P.W', 'PB0').against).not.toContain(why)
})

it('a pin that is pulled at reset costs what it would switch on, and no more where it would not', () => {
  const board = 'esp8266-d1-mini'
  const [high, low] = [
    { mcu: board, parts: { Q: 'npn', R: { part: 'resistor', options: { ohms: 1000 } } } },
    { mcu: board, parts: { K: 'relay-2' } },
  ]
  const step = (short: Short, end: string): number =>
    verdict(short, end, 'GPIO0').cost - verdict(short, end, 'GPIO15').cost
  const active = (short: Short, end: string) => wiringOf(short).signal(end)!.facts
  expect([active(high, 'Q.B').activeLevel, active(low, 'K.IN1').activeLevel]).toEqual(['high', 'low'])
  // GPIO0 is pulled up, GPIO15 down: the dearer of the two is the one that switches on.
  expect(step(high, 'Q.B')).toBeGreaterThan(0)
  expect(step(low, 'K.IN1')).toBeLessThan(0)
})

it('of two boards that of the part which a converter feeds shares the ground of its socket', () => {
  const plan = planOf({
    boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } },
    parts: { C: 'buck', IN: { part: 'dc-socket', options: { volts: 9 } }, S: 'servo-sg90' },
    wires: 'S.SIG B.D9, A.GND B.GND',
  })
  const after = resolve(applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits), catalog)
  expect(after.netOf('IN.-').ground && after.netOf('IN.-') === after.netOf('B.GND')).toBe(true)
  expect(check(after).filter(({ rule }) => rule === 'common-ground')).toEqual([])
})
