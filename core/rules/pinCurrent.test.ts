import { testRule } from '../testing/rules.ts'
import { pinCurrent } from './pinCurrent.ts'

testRule(pinCurrent, {
  valid: [
    {
      title: 'an LED that itself gets too much: led-resistor says it',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 56 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
    },
    {
      title: 'an LED with 330 Ω',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
    },
    {
      title: 'a base with 1 kΩ',
      mcu: 'uno-r3',
      parts: { T: 'npn', R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'T.B R.1, R.2 MCU.7, T.E MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'two LEDs on one pin, each within what it bears',
      mcu: 'uno-r3',
      parts: {
        L: { part: 'led', options: { colour: 'red' } },
        M: { part: 'led', options: { colour: 'red' } },
        R: { part: 'resistor', options: { ohms: 150 } },
        S: { part: 'resistor', options: { ohms: 150 } },
      },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND, M.A S.1, S.2 MCU.7, M.K MCU.GND',
      says: ['caution: MCU.D7 gives 29 mA for L and M; 20 mA is recommended.'],
    },
    {
      title: 'an LED with 100 Ω on a weak pin',
      mcu: 'pico',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'L.A R.1, R.2 MCU.GP2, L.K MCU.GND',
      says: ['fault: MCU.GP2 gives 13 mA for L; 12 mA is the limit.'],
      fix: 'Make R 330 Ω',
      changes: ['R: options ohms 100 becomes ohms 330'],
    },
    {
      title: 'a base with 68 Ω',
      mcu: 'stm32f103-bluepill',
      parts: { T: 'npn', R: { part: 'resistor', options: { ohms: 68 } } },
      wires: 'T.B R.1, R.2 MCU.PB12, T.E MCU.GND',
      says: ['fault: MCU.PB12 gives 38 mA for T; 25 mA is the limit.'],
    },
  ],
})
