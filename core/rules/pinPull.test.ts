import { testRule } from '../testing/rules.ts'
import { pinPull } from './pinPull.ts'

/** A button at the input of a buffer, and what else is wired. */
const buffered = (wires: string) => ({
  mcu: 'uno-r3',
  parts: { S: '74ahct125', B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
  wires: `S.VCC MCU.5V, S.GND MCU.GND, S.1OE MCU.GND, S.1A B.1, B.2 MCU.GND, S.1Y MCU.D4, R.1 ${wires}, R.2 MCU.5V`,
})

testRule(pinPull, {
  valid: [
    {
      title: 'a transistor on a pin with a pull of its own',
      parts: { Q: 'npn', T: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'T.1 MCU.27, T.2 Q.B, Q.E MCU.GND, Q.C MCU.25',
    },
    {
      title: 'a P-channel transistor on a pin that pulls down',
      parts: { Q: 'pmos' },
      wires: 'Q.G MCU.27, Q.S MCU.3V3, Q.D MCU.25',
    },
    { title: 'a button before a buffer, held by a resistor there', ...buffered('B.1') },
    {
      title: 'a button beyond a shifter that brings resistors',
      mcu: 'esp32-devkit-30',
      parts: { S: 'shifter-bss138', B: 'button' },
      wires: 'S.HV MCU.VIN, S.LV MCU.3V3, S.GND MCU.GND, S.LV1 MCU.D13, S.HV1 B.1, B.2 MCU.GND',
    },
    { title: 'a button on a pin with its own pull-up', parts: { B: 'button' }, wires: 'B.1 MCU.27, B.2 MCU.GND' },
    {
      title: 'a button with a resistor on an input-only pin',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'B.1 MCU.34, B.2 MCU.GND, R.1 MCU.34, R.2 MCU.3V3',
    },
    {
      title: 'an open drain with a resistor',
      parts: { H: { part: 'hall-a3144', mode: 'level' }, R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'H.VCC MCU.VIN, H.GND MCU.GND, H.OUT MCU.35, R.1 MCU.35, R.2 MCU.3V3',
    },
    {
      title: 'a button that closes to 3.3 V on a pin that the board pulls down',
      mcu: 'esp8266-d1-mini',
      parts: { B: 'button' },
      wires: 'B.1 MCU.D8, B.2 MCU.3V3',
    },
  ],
  invalid: [
    {
      title: 'a transistor on a pin without a pull inside',
      parts: { Q: 'npn', T: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'T.1 MCU.27, T.2 Q.B, Q.E MCU.GND, Q.C MCU.34',
      says: ['fault: Q.C relies on a pull-up, and MCU.GPIO34 has none inside.'],
      fix: 'Add 10 kΩ from Q.C to MCU.3V3',
      changes: ['part R1 added (resistor)', 'wire R1.1 to Q.C added', 'wire R1.2 to MCU.3V3 added'],
    },
    {
      title: 'a P-channel transistor on a pin that only pulls up',
      mcu: 'uno-r3',
      parts: { Q: 'pmos' },
      wires: 'Q.G MCU.3, Q.S MCU.5V, Q.D MCU.5',
      says: ['fault: Q.D relies on a pull-down, and MCU.D5 has none inside.'],
      fix: 'Add 10 kΩ from Q.D to MCU.GND',
      changes: ['part R1 added (resistor)', 'wire R1.1 to Q.D added', 'wire R1.2 to MCU.GND added'],
    },
    {
      title: 'a button before a buffer, with the resistor behind it',
      ...buffered('S.1Y'),
      says: ['fault: B.1 relies on a pull-up, and between it and MCU.D4 lies S, through which none comes.'],
      fix: 'Add 10 kΩ from B.1 to MCU.5V',
      changes: ['part R2 added (resistor)', 'wire R2.1 to B.1 added', 'wire R2.2 to MCU.5V added'],
    },
    {
      title: 'a button on an input-only pin',
      parts: { B: 'button' },
      wires: 'B.1 MCU.34, B.2 MCU.GND',
      says: ['fault: B.1 relies on a pull-up, and MCU.GPIO34 has none inside.'],
      fix: 'Add 10 kΩ from B.1 to MCU.3V3',
      changes: ['part R1 added (resistor)', 'wire R1.1 to B.1 added', 'wire R1.2 to MCU.3V3 added'],
    },
    {
      title: 'a button on the level-shifted posts of a module',
      mcu: 'jetson-nano-40',
      parts: { B: 'button' },
      wires: 'B.1 MCU.GPIO12, B.2 MCU.GND',
      says: ['fault: B.1 relies on a pull-up, and MCU.GPIO12 has none inside.'],
      fix: 'Add 10 kΩ from B.1 to MCU.3V3',
      changes: ['part R1 added (resistor)', 'wire R1.1 to B.1 added', 'wire R1.2 to MCU.3V3 added'],
    },
    {
      title: 'a reed switch on a pin that the board pulls down',
      mcu: 'esp8266-d1-mini',
      parts: { B: 'reed-switch' },
      wires: 'B.1 MCU.D8, B.2 MCU.GND',
      says: ['caution: B.1 needs a pull-up, and MCU.GPIO15 is pulled the other way on the board.'],
      fix: 'Move B.1 to MCU.GPIO14',
      changes: ['wire B.1 to MCU.GPIO15 removed', 'wire B.1 to MCU.GPIO14 added'],
    },
  ],
})
