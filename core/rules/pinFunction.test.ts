import { testRule } from '../testing/rules.ts'
import { pinFunction } from './pinFunction.ts'

testRule(pinFunction, {
  valid: [
    { title: 'a knob on an analog pin', parts: { K: 'potentiometer' }, wires: 'K.W MCU.D34' },
    { title: 'a counted switch on an edge pin', mcu: 'uno-r3', parts: { H: 'hall-a3144' }, wires: 'H.OUT MCU.2' },
    {
      title: 'a polled switch anywhere',
      mcu: 'uno-r3',
      parts: { H: { part: 'hall-a3144', mode: 'level' } },
      wires: 'H.OUT MCU.7',
    },
    {
      title: 'a servo on a plain output: a library makes the pulses',
      mcu: 'uno-r3',
      parts: { S: 'servo-sg90' },
      wires: 'S.SIG MCU.7',
    },
    { title: 'a button on an expander', parts: { X: 'mcp23017', B: 'button' }, wires: 'B.1 X.GPA0' },
  ],
  invalid: [
    {
      title: 'a knob on a digital pin',
      parts: { K: 'potentiometer' },
      wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.D18',
      says: ['fault: K.W needs an analog input, and MCU.GPIO18 has none.'],
      fix: 'Move K.W to MCU.GPIO36',
      changes: ['wire K.W to MCU.GPIO18 removed', 'wire K.W to MCU.GPIO36 added'],
    },
    {
      title: 'a knob on a board without analog pins',
      mcu: 'pi-40',
      parts: { K: 'potentiometer' },
      wires: 'K.W MCU.GPIO17',
      says: ['fault: K.W needs an analog input, and MCU.GPIO17 has none.'],
    },
    {
      title: 'a counted switch without edge interrupt',
      mcu: 'uno-r3',
      parts: { H: 'hall-a3144' },
      wires: 'H.OUT MCU.7, H.VCC MCU.5V, H.GND MCU.GND',
      says: ['fault: H.OUT needs an edge interrupt, and MCU.D7 has none.'],
      fix: 'Move H.OUT to MCU.D2',
      changes: ['wire H.OUT to MCU.D7 removed', 'wire H.OUT to MCU.D2 added'],
    },
  ],
})
