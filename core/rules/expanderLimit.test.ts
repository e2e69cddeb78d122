import { testRule } from '../testing/rules.ts'
import { expanderLimit } from './expanderLimit.ts'

testRule(expanderLimit, {
  valid: [
    {
      title: 'a button and a relay on an expander',
      parts: { X: 'mcp23017', B: 'button', K: 'relay-1' },
      wires: 'B.1 X.GPA0, K.IN X.GPB0',
    },
  ],
  invalid: [
    {
      title: 'a knob on an expander',
      parts: { X: 'mcp23017', K: 'potentiometer' },
      wires: 'K.W X.GPA0',
      says: ['fault: K.W needs an analog input, and the expander pin X.GPA0 has none.'],
      fix: 'Move K.W to MCU.GPIO36',
      changes: ['wire K.W to X.GPA0 removed', 'wire K.W to MCU.GPIO36 added'],
    },
    {
      title: 'a strip on an expander',
      parts: { X: 'mcp23017', P: 'ws2812-strip' },
      wires: 'P.DIN X.GPA0',
      says: ['fault: P.DIN needs exact timing, and X.GPA0 is an expander pin.'],
      fix: 'Move P.DIN to MCU.GPIO32',
      changes: ['wire P.DIN to X.GPA0 removed', 'wire P.DIN to MCU.GPIO32 added'],
    },
    {
      title: 'a thermometer on an expander',
      mcu: 'uno-r3',
      parts: { X: 'pcf8574', T: 'ds18b20-probe', R: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'T.DQ X.P0, R.1 T.DQ, R.2 MCU.5V',
      says: ['fault: T.DQ needs exact timing, and X.P0 is an expander pin.'],
      fix: 'Move T.DQ to MCU.D8',
      changes: ['wire T.DQ to X.P0 removed', 'wire T.DQ to MCU.D8 added'],
    },
  ],
})
