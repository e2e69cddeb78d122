import { testRule } from '../testing/rules.ts'
import { expanderLimit } from './expanderLimit.ts'

testRule(expanderLimit, {
  valid: [
    {
      title:
        'a knob, and a switch that reads a level, on one that leads to an analog input; a button on one that does not',
      parts: { X: 'mux-4067', Y: 'mux-4067', K: 'potentiometer', B: 'button', C: 'button' },
      wires: 'K.W X.C3, B.1 X.C4, X.SIG MCU.GPIO34, C.1 Y.C0, Y.SIG MCU.GPIO19',
    },
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
      title: 'a knob on a switch whose line leads to a pin that knows only high and low',
      parts: { X: 'mux-4067', K: 'potentiometer' },
      wires: 'K.W X.C3, X.SIG MCU.GPIO19',
      says: ['fault: K.W needs an analog input; X leads it on to MCU.GPIO19, which has none.'],
      fix: 'Move X.SIG to MCU.GPIO36',
      changes: ['wire X.SIG to MCU.GPIO19 removed', 'wire X.SIG to MCU.GPIO36 added'],
    },
    {
      title: 'a fan on a switch that writes, from a pin that only reads',
      parts: { X: { part: 'mux-4067', options: { way: 'write' } }, S: 'servo-sg90' },
      wires: 'S.SIG X.C3, X.SIG MCU.GPIO34',
      says: ['fault: S.SIG needs PWM; X leads it on to MCU.GPIO34, which has none.'],
    },
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
