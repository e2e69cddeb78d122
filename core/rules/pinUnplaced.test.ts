import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { pinUnplaced } from './pinUnplaced.ts'

const bridge = (wires: string) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 12 } },
  parts: { U: 'l293d', M: 'solenoid' },
  wires: `PACK.- MCU.GND, U.VSS MCU.5V, U.VS PACK.+, U.GND MCU.GND, U.GND.2 MCU.GND, U.GND.3 MCU.GND, U.GND.4 MCU.GND, ${wires}`,
})

testRule(pinUnplaced, {
  valid: [
    {
      title: 'the inputs of a bridge half that carries nothing',
      ...bridge('U.1A MCU.D6, U.EN12 MCU.D5, U.1Y M.+, M.- PACK.-'),
    },
    { title: 'everything wired', parts: { B: 'button' }, wires: 'B.1 MCU.D4, B.2 MCU.GND' },
    { title: 'left open on purpose', parts: { B: 'button' }, wires: 'B.2 MCU.GND', unused: ['B.1'] },
    { title: 'optional pins open', parts: { C: 'ds3231' }, wires: `${fed('C')}, C.SDA MCU.D21, C.SCL MCU.D22` },
  ],
  invalid: [
    {
      title: 'an input of a bridge half that carries a motor',
      ...bridge('U.1A MCU.D6, U.EN12 MCU.D5, U.1Y M.+, M.- U.2Y'),
      says: ['caution: U: 2A has no wire yet.'],
    },
    {
      title: 'one pin open',
      parts: { B: 'button' },
      wires: 'B.2 MCU.GND',
      says: ['caution: B: 1 has no wire yet.'],
      fix: 'Place what is open on B',
      changes: ['wire B.1 to MCU.GPIO32 added'],
    },
    {
      title: 'marked as left open by the fix',
      parts: { B: 'button' },
      wires: 'B.2 MCU.GND',
      says: ['caution: B: 1 has no wire yet.'],
      fix: 'Leave 1 open on purpose',
      changes: ['B.1 left open on purpose'],
    },
    {
      title: 'a lamp with nothing but itself gets its resistor too',
      parts: { L: 'led' },
      says: ['caution: L: A and K have no wire yet.'],
      fix: 'Place what is open on L',
      changes: [
        'part R1 added (resistor)',
        'wire L.A to R1.1 added',
        'wire L.K to MCU.GND added',
        'wire R1.2 to MCU.GPIO32 added',
      ],
    },
  ],
})
