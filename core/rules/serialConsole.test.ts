import { testRule } from '../testing/rules.ts'
import { serialConsole } from './serialConsole.ts'

testRule(serialConsole, {
  valid: [
    { title: 'other pins', mcu: 'uno-r3', parts: { B: 'button' }, wires: 'B.1 MCU.4' },
    {
      title: 'USB serial switched off',
      mcu: 'uno-r3',
      uses: [],
      parts: { H: { part: 'hall-a3144', mode: 'level' } },
      wires: 'H.OUT MCU.0',
    },
    { title: 'a board whose console is off', mcu: 'pi-40', parts: { B: 'button' }, wires: 'B.1 MCU.GPIO14' },
  ],
  invalid: [
    {
      title: 'a sensor that drives the upload line',
      mcu: 'uno-r3',
      parts: { H: { part: 'hall-a3144', mode: 'level' } },
      wires: 'H.OUT MCU.0, H.VCC MCU.5V, H.GND MCU.GND',
      says: ['fault: H.OUT works against USB serial on MCU.D0.'],
      fix: 'Move H.OUT to MCU.D8',
      changes: ['wire H.OUT to MCU.D0 removed', 'wire H.OUT to MCU.D8 added'],
    },
    {
      title: 'a lamp on the console output',
      parts: { L: 'led', R: 'resistor' },
      wires: 'L.A R.1, R.2 MCU.TX0',
      says: ['caution: L.A hangs on MCU.GPIO1, which USB serial uses.'],
    },
    {
      title: 'a button on the console input of a single-board computer',
      mcu: 'pi-40',
      uses: ['serial-console'],
      parts: { B: 'button' },
      wires: 'B.1 MCU.GPIO15, B.2 MCU.GND',
      says: ['caution: B.1 hangs on MCU.GPIO15, which the serial console uses.'],
      fix: 'Do without: Serial console',
      changes: ['MCU: uses serial-console becomes none'],
    },
  ],
})
