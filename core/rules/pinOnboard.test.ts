import { testRule } from '../testing/rules.ts'
import { pinOnboard } from './pinOnboard.ts'

testRule(pinOnboard, {
  valid: [
    {
      title: 'an LED of one’s own beside the one on the board',
      mcu: 'uno-r3',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.13, L.K MCU.GND',
    },
    {
      title: 'a button where the LED of the board hangs behind an amplifier, which takes nothing',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.13, B.2 MCU.GND',
    },
    {
      title: 'a pin that the extra memory would take, without the memory',
      mcu: 'esp32-s3-devkitc-1',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.35, L.K MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a button where the LED of the board hangs',
      mcu: 'nano-v3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.13, B.2 MCU.GND',
      says: ['caution: B.1 shares MCU.D13 with an LED on the board.'],
      fix: 'Move B.1 to MCU.D8',
      changes: ['wire B.1 to MCU.D13 removed', 'wire B.1 to MCU.D8 added'],
    },
    {
      title: 'an output on the boot button',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      mcu: 'esp32-devkit-38',
      wires: 'L.A R.1, R.2 MCU.0, L.K MCU.GND',
      says: ['caution: L.A shares MCU.GPIO0 with a button on the board.'],
    },
    {
      title: 'a lamp on a pin of the flash',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      mcu: 'esp32-devkit-38',
      wires: 'L.A R.1, R.2 MCU.6, L.K MCU.GND',
      says: ['fault: L.A shares MCU.GPIO6 with the flash memory on the board.'],
      fix: 'Move L.A to MCU.GPIO32',
      changes: ['wire R.2 to MCU.GPIO6 removed', 'wire R.2 to MCU.GPIO32 added'],
    },
    {
      title: 'a lamp on a pin of the extra memory in use',
      mcu: 'esp32-s3-devkitc-1',
      uses: ['octal-psram'],
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.36, L.K MCU.GND',
      says: ['fault: L.A shares MCU.GPIO36 with the extra memory on the board.'],
      fix: 'Move L.A to MCU.GPIO47',
      changes: ['wire R.2 to MCU.GPIO36 removed', 'wire R.2 to MCU.GPIO47 added'],
    },
  ],
})
