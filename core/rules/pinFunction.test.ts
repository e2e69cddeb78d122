import { testRule } from '../testing/rules.ts'
import { pinFunction } from './pinFunction.ts'

const timed = {
  mcu: 'pi-40',
  parts: {
    L: 'ldr',
    C: { part: 'capacitor', options: { farads: 1e-7 } },
    R: { part: 'resistor', options: { ohms: 10_000 } },
  },
} as const
const unread = ['fault: L.2 needs an analog input, and MCU.GPIO17 has none.']

/** A driver whose speed comes over a line of its own, and one whose speed comes over either input. */
const driven = (wires: string) => ({
  mcu: 'uno-r3',
  supplies: { P: { volts: 6 } },
  parts: { T: 'tb6612', D: 'drv8833' },
  wires: `P.- MCU.GND, T.VM P.+, T.GND P.-, T.VCC MCU.5V, D.VCC P.+, D.GND P.-, ${wires}`,
})

testRule(pinFunction, {
  valid: [
    { title: 'the speed of a driver on a pin with PWM', ...driven('T.PWMA MCU.3, T.AIN1 MCU.4, T.AIN2 MCU.7') },
    { title: 'one input of a bridge with PWM, the other without', ...driven('D.IN1 MCU.5, D.IN2 MCU.4') },
    {
      title: 'the back light of a display, which is on or off as well',
      mcu: 'nano-v3',
      parts: { D: 'st7735' },
      wires: 'D.LED MCU.4',
    },
    {
      title: 'a servo on any pin, for which the library makes the pulses',
      mcu: 'uno-r3',
      parts: { S: 'servo-sg90' },
      wires: 'S.SIG MCU.4',
    },
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
    {
      title: 'a resistance that fills a capacitor from the supply',
      ...timed,
      wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17, C.1 L.2, C.2 MCU.GND',
    },
    { title: 'one that empties it to ground', ...timed, wires: 'L.1 MCU.GND, L.2 MCU.GPIO17, C.1 L.2, C.2 MCU.3V3' },
    {
      title: 'one whose capacitor lies at the far leg, as the pin sees it',
      ...timed,
      wires: 'L.2 MCU.GPIO17, L.1 C.1, C.2 MCU.GND, R.1 L.1, R.2 MCU.GPIO18',
    },
  ],
  invalid: [
    { title: 'a resistance without a capacitor', ...timed, wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17', says: unread },
    {
      title: 'one whose capacitor leads to the same rail, so that nothing fills it',
      ...timed,
      wires: 'L.1 MCU.GND, L.2 MCU.GPIO17, C.1 L.2, C.2 MCU.GND',
      says: unread,
    },
    {
      title: 'one that a second resistor makes a divider of',
      ...timed,
      wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17, C.1 L.2, C.2 MCU.GND, R.1 L.2, R.2 MCU.GND',
      says: unread,
    },
    {
      title: 'one whose capacitor leads nowhere',
      ...timed,
      wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17, C.1 L.2',
      says: unread,
    },
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
      title: 'the speed of a driver on a pin without PWM',
      ...driven('T.PWMA MCU.7, T.AIN1 MCU.4, T.AIN2 MCU.8'),
      says: ['tip: T.PWMA can only be switched on and off at MCU.D7, which has no PWM.'],
      fix: 'Move T.PWMA to MCU.D9',
      changes: ['wire T.PWMA to MCU.D7 removed', 'wire T.PWMA to MCU.D9 added'],
    },
    {
      title: 'both inputs of a bridge without PWM',
      ...driven('D.IN1 MCU.4, D.IN2 MCU.7'),
      says: [
        'tip: D.IN1 can only be switched on and off at MCU.D4, which has no PWM.',
        'tip: D.IN2 can only be switched on and off at MCU.D7, which has no PWM.',
      ],
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
