import { testRule } from '../testing/rules.ts'
import { expanderLimit } from './expanderLimit.ts'

testRule(expanderLimit, {
  valid: [
    {
      title: 'a button and a relay on an expander',
      parts: { X: 'mcp23017', B: 'button', K: 'relay-1' },
      wires: 'B.1 X.GPA0, K.IN X.GPB0',
    },
    {
      title: 'the data of a scale on an expander, whose clock waits for it, and a trigger, which may be long',
      parts: { X: 'mcp23017', W: 'hx711', E: 'hc-sr04' },
      wires: 'W.DT X.GPA0, W.SCK MCU.GPIO26, E.TRIG X.GPA1, E.ECHO MCU.GPIO27',
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
      title: 'an echo on an expander',
      mcu: 'uno-r3',
      parts: { X: 'pcf8574', E: 'hc-sr04' },
      wires: 'E.TRIG MCU.D7, E.ECHO X.P2',
      says: ['fault: E.ECHO needs exact timing, and X.P2 is an expander pin.'],
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
