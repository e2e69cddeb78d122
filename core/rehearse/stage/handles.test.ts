import { expect, it } from 'vitest'
import { wiringOf } from '../../testing/plans.ts'
import { handlesOf } from './handles.ts'
import { LiveCircuit } from './live.ts'

const namesOf = (parts: Readonly<Record<string, string>>, wires: string): string[] => {
  const wiring = wiringOf({ mcu: 'uno-r3', parts, wires })
  return [...handlesOf(wiring, new LiveCircuit(wiring)).keys()].sort()
}

it('gives each key, knob and shaft one handle, also inside a module', () => {
  const fed = (ref: string): string => `${ref}.VCC MCU.5V, ${ref}.GND MCU.GND`
  expect(
    namesOf(
      { J: 'joystick', E: 'rotary-encoder', B: 'button' },
      `${fed('J')}, J.VRX MCU.A0, J.VRY MCU.A1, J.SW MCU.4, ${fed('E')}, E.CLK MCU.2, E.DT MCU.3, E.SW MCU.5, B.1 MCU.6, B.2 MCU.GND`,
    ),
  ).toEqual(['B', 'E', 'E.SW', 'J.SW', 'J.VRX', 'J.VRY'])
})

it('leaves out a key whose line has no wire', () => {
  expect(namesOf({ J: 'joystick' }, 'J.VCC MCU.5V, J.GND MCU.GND, J.VRX MCU.A0, J.VRY MCU.A1')).toEqual([
    'J.VRX',
    'J.VRY',
  ])
})
