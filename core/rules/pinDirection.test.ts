import { testRule } from '../testing/rules.ts'
import { pinDirection } from './pinDirection.ts'

testRule(pinDirection, {
  valid: [
    { title: 'a sensor on an input-only pin', parts: { S: 'hx711' }, wires: 'S.DT MCU.D34' },
    { title: 'a lamp on a pin that drives', parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1, R.2 MCU.D4' },
    {
      title: 'a lamp on the output-only pin of an expander',
      parts: { X: 'mcp23017', L: 'led', R: 'resistor' },
      wires: 'L.A R.1, R.2 X.GPA7',
    },
  ],
  invalid: [
    {
      title: 'a lamp from the supply to a pin that only reads',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A MCU.3V3, L.K R.1, R.2 MCU.34',
      says: ['fault: L.K needs a digital output, and MCU.GPIO34 is input only.'],
    },
    {
      title: 'a lamp on an input-only pin, through its resistor',
      parts: { L: 'led', R: 'resistor' },
      wires: 'L.A R.1, R.2 MCU.D35, L.K MCU.GND',
      says: ['fault: L.A needs a digital output, and MCU.GPIO35 is input only.'],
      fix: 'Move L.A to MCU.GPIO32',
      changes: ['wire R.2 to MCU.GPIO35 removed', 'wire R.2 to MCU.GPIO32 added'],
    },
    {
      title: 'a select line on an input-only pin',
      parts: { P: 'epaper-2in9' },
      wires: 'P.CS MCU.VP',
      says: ['fault: P.CS needs SPI CS, and MCU.GPIO36 is input only.'],
    },
    {
      title: 'a button on the output-only pin of an expander',
      parts: { X: 'mcp23017', B: 'button' },
      wires: 'B.1 X.GPB7, B.2 MCU.GND',
      says: ['fault: B.1 needs a digital input, and X.GPB7 is output only.'],
    },
  ],
})
