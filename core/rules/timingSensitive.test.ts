import { testRule } from '../testing/rules.ts'
import { timingSensitive } from './timingSensitive.ts'

testRule(timingSensitive, {
  valid: [
    { title: 'a strip on a small board', parts: { P: 'ws2812-strip' }, wires: 'P.DIN MCU.27' },
    { title: 'a probe read by the kernel', mcu: 'pi-40', parts: { T: 'ds18b20-probe' }, wires: 'T.DQ MCU.GPIO4' },
  ],
  invalid: [
    {
      title: 'a humidity sensor on a single-board computer',
      mcu: 'pi-40',
      parts: { T: 'dht22', R: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.DATA MCU.GPIO4, R.1 T.DATA, R.2 MCU.3V3',
      says: ['caution: T.DATA needs pulses timed to microseconds, and programs on MCU are interrupted.'],
    },
    {
      title: 'a strip on a module',
      mcu: 'jetson-nano-40',
      parts: { P: 'ws2812-strip' },
      wires: 'P.DIN MCU.GPIO12',
      says: ['caution: P.DIN needs pulses timed to microseconds, and programs on MCU are interrupted.'],
    },
  ],
})
