import { testRule } from '../testing/rules.ts'
import { endMismatch } from './endMismatch.ts'

testRule(endMismatch, {
  valid: [
    { title: 'a header pin', mcu: 'teensy-4-1', parts: { B: 'button' }, wires: 'B.1 MCU.D2, B.2 MCU.GND' },
    { title: 'a breakout over its header', mcu: 'pi-40', parts: { X: 'breakout-40' } },
  ],
  invalid: [
    {
      title: 'a breakout for another header',
      mcu: 'uno-r3',
      parts: { X: 'breakout-40', B: 'button' },
      wires: 'B.1 MCU.D2, B.2 X.GND',
      says: ['caution: X plugs over a header of 40 posts in two rows; no board of the plan has one free.'],
    },
    {
      title: 'a pad underneath',
      mcu: 'teensy-4-1',
      parts: { B: 'button' },
      wires: 'B.1 MCU.D42, B.2 MCU.GND',
      says: ['caution: MCU.D42 is a solder pad: no jumper fits it.'],
      fix: 'Move B.1 to MCU.D30',
      changes: ['wire B.1 to MCU.D42 removed', 'wire B.1 to MCU.D30 added'],
    },
  ],
})
