import { expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { ohms } from '../testing/short.ts'
import { check } from './index.ts'

it('faults come first, and what is accepted last, whatever it is', () => {
  const short = {
    mcu: 'uno-r3',
    parts: { D: 'dht22', L: 'led', R: ohms(10_000) },
    wires: 'D.VCC MCU.5V, D.GND MCU.GND, D.DATA MCU.D2, L.A R.1, R.2 MCU.D5, L.K MCU.GND',
  }
  const order = (accepted: { rule: string; at: string[]; because: string }[]) =>
    check(wiringOf({ ...short, accepted })).map(({ severity, rule }) => `${severity} ${rule}`)
  expect(order([])).toEqual(['fault onewire-pullup', 'caution led-resistor'])
  const fault = check(wiringOf(short)).find(({ rule }) => rule === 'onewire-pullup')!
  expect(order([{ rule: fault.rule, at: [...fault.at], because: 'the pin has one' }])).toEqual([
    'caution led-resistor',
    'fault onewire-pullup',
  ])
})
