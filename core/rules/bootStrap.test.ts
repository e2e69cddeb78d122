import { testRule } from '../testing/rules.ts'
import { bootStrap } from './bootStrap.ts'

testRule(bootStrap, {
  valid: [
    {
      title: 'a pin whose level at reset changes the boot log only',
      parts: { Q: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'Q.G MCU.D15, Q.S MCU.GND, R.1 Q.G, R.2 Q.S',
    },
    { title: 'pins that are not read at reset', parts: { B: 'button' }, wires: 'B.1 MCU.D14' },
    {
      title: 'a board without straps',
      mcu: 'uno-r3',
      parts: { B: 'button', R: 'resistor' },
      wires: 'B.1 MCU.12, R.1 MCU.12, R.2 MCU.5V',
    },
  ],
  invalid: [
    {
      title: 'a select line on a strap that is high anyway',
      mcu: 'esp32-devkit-38',
      parts: { P: 'epaper-2in9' },
      wires: 'P.CS MCU.0',
      says: ['caution: MCU.GPIO0 is read at reset and must be high then; P.CS hangs on it.'],
    },
    {
      title: 'a pull-up where low is needed',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'B.1 MCU.D12, B.2 MCU.GND, R.1 MCU.D12, R.2 MCU.3V3',
      says: ['fault: B.1 brings MCU.GPIO12 to 2.7 V at reset, and it must be low then.'],
      fix: 'Move all on MCU.GPIO12 to MCU.GPIO32',
      changes: [
        'wire B.1 to MCU.GPIO12 removed',
        'wire R.1 to MCU.GPIO12 removed',
        'wire B.1 to MCU.GPIO32 added',
        'wire R.1 to MCU.GPIO32 added',
      ],
    },
    {
      title: 'a weak pull-up that the board still beats',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 470000 } } },
      wires: 'B.1 MCU.D12, R.1 MCU.D12, R.2 MCU.3V3',
      says: ['caution: MCU.GPIO12 is read at reset and must be low then; B.1 hangs on it.'],
    },
    {
      title: 'a gate pull-down where high is needed',
      mcu: 'esp32-devkit-38',
      parts: { Q: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'Q.G MCU.0, Q.S MCU.GND, R.1 Q.G, R.2 Q.S',
      says: ['fault: Q.G brings MCU.GPIO0 to 1.65 V at reset, and it must be high then.'],
    },
    {
      title: 'a pull-up on a pin that matters only for uploading',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'B.1 MCU.D2, B.2 MCU.GND, R.1 MCU.D2, R.2 MCU.3V3',
      says: ['caution: B.1 brings MCU.GPIO2 to 2.7 V at reset: no program can be uploaded with that.'],
    },
  ],
  edges: [
    {
      says: 'forced',
      because: '3.3 V · 45 kΩ / (45 kΩ + R) = 0.825 V: 135 kΩ',
      at: (ohms) => ({ parts: { R: { part: 'resistor', options: { ohms } } }, wires: 'R.1 MCU.12, R.2 MCU.3V3' }),
      said: 134000,
      quiet: 136000,
    },
  ],
})
