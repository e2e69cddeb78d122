import { expect, it } from 'vitest'
import { check } from '../rules/index.ts'
import { wiringOf } from '../testing/plans.ts'
import { fixesFor } from './fixes.ts'

const titles = (wires: string): string[] => {
  const wiring = wiringOf({
    mcu: 'esp8266-d1-mini',
    parts: { K: 'relay-1', R: { part: 'resistor', options: { ohms: 10_000 } } },
    wires: `K.VCC MCU.5V, K.GND MCU.GND, ${wires}`,
  })
  const findings = check(wiring)
  const strap = findings.find(({ rule }) => rule === 'boot-strap')
  return strap ? fixesFor(wiring, strap, findings).map(({ title }) => title) : []
}

it('two mends that come to the same are one', () => {
  // Alone on its pin, the signal and all on the pin are the same.
  expect(titles('K.IN MCU.D3')).toEqual(['Move K.IN to MCU.GPIO14', 'Move K.IN to MCU.GPIO12'])
  // With a resistor at the pin they are not: the resistor goes along, or stays.
  const both = titles('K.IN MCU.D8, R.1 MCU.D8, R.2 MCU.3V3')
  expect(both.some((title) => title.startsWith('Move K.IN'))).toBe(false)
  expect(both).toContain('Move all on MCU.GPIO15 to MCU.GPIO14')
})
