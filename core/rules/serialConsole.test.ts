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
    {
      title: 'boards joined at other pins',
      boards: { A: { board: 'mega-2560-r3' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.18 B.19, A.19 B.18, A.GND B.GND',
    },
    {
      title: 'another board that only listens to what is printed',
      boards: { A: { board: 'uno-r3' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.1 B.19, A.GND B.GND',
    },
    {
      title: 'boards joined at pins whose USB serial is switched off',
      boards: { A: { board: 'uno-r3', uses: [] }, B: { board: 'nano-v3', uses: [] } },
      wires: 'A.0 B.1, A.1 B.0, A.GND B.GND',
    },
  ],
  invalid: [
    {
      title: 'one board listens where the other uploads',
      boards: { A: { board: 'uno-r3' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.0 B.18, A.1 B.19, A.GND B.GND',
      says: ['caution: B.D18 of another board is joined with A.D0, which USB serial uses.'],
    },
    {
      title: 'a console of a single-board computer',
      boards: { A: { board: 'pi-40', uses: ['serial-console'] }, B: { board: 'pico' } },
      wires: 'A.GPIO14 B.GP1, A.GPIO15 B.GP0, A.GND B.GND',
      says: ['caution: B.GP0 of another board is joined with A.GPIO15, which the serial console uses.'],
      fix: 'Do without: Serial console',
      changes: ['A: uses serial-console becomes none'],
    },
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
