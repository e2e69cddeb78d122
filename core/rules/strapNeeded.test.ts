import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { strapNeeded } from './strapNeeded.ts'

testRule(strapNeeded, {
  valid: [
    {
      title: 'the wiper of a knob where no level is meant, and a pin of the board that says an address',
      mcu: 'uno-r3',
      parts: { L: 'lcd-parallel', X: 'mcp23008', K: 'potentiometer' },
      wires:
        'L.VDD MCU.5V, L.VSS MCU.GND, L.V0 K.W, L.RW MCU.GND, L.A MCU.5V, L.K MCU.GND, K.1 MCU.GND, K.3 MCU.5V, X.VDD MCU.5V, X.VSS MCU.GND, X.A0 MCU.4, X.A1 MCU.GND, X.A2 MCU.GND, X.RESET MCU.5V',
    },
    {
      title: 'all straps as chosen',
      parts: { B: 'bme280' },
      wires: 'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.21, B.SCL MCU.22, B.SDO MCU.GND, B.CSB MCU.3V3',
    },
    {
      title: 'a strap that the module holds by itself',
      parts: { L: 'bh1750' },
      wires: 'L.VCC MCU.3V3, L.GND MCU.GND, L.SDA MCU.21, L.SCL MCU.22',
    },
    {
      title: 'straps that wait together, with one wire for all',
      mcu: 'uno-r3',
      parts: { X: 'mcp23008' },
      wires: 'X.VDD MCU.5V, X.VSS MCU.GND, X.A0 X.A1, X.A1 X.A2, X.A2 MCU.GND, X.RESET MCU.5V',
    },
    {
      title: 'straps that two modules hold by themselves, joined with each other',
      parts: { B: 'bme280', C: 'bme280' },
      wires:
        'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.21, B.SCL MCU.22, C.VCC MCU.3V3, C.GND MCU.GND, C.SDA MCU.21, C.SCL MCU.22, B.CSB C.CSB',
    },
    {
      title: 'a strap that a resistor holds, with a capacitor',
      mcu: 'uno-r3',
      parts: { X: '74hc595', C: { part: 'capacitor', options: { farads: 1e-7 } }, R: ohms(10_000) },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR C.1, C.2 MCU.GND, R.1 X.SRCLR, R.2 MCU.5V',
    },
    { title: 'a part that has no wire yet', parts: { B: 'bme280' } },
  ],
  invalid: [
    {
      title: 'straps that are joined with each other alone',
      mcu: 'uno-r3',
      parts: { X: 'mcp23008' },
      wires: 'X.VDD MCU.5V, X.VSS MCU.GND, X.A0 X.A1, X.A1 X.A2, X.RESET MCU.5V',
      says: ['fault: X.A0 is wired to X.A1 and X.A2 alone and must go to ground for address 0x20.'],
      fix: 'Join X.A0 to MCU.GND',
      changes: ['wire X.A0 to MCU.GND added'],
    },
    {
      title: 'a strap on a capacitor',
      mcu: 'uno-r3',
      parts: { X: '74hc595', C: { part: 'capacitor', options: { farads: 1e-7 } } },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR C.1, C.2 MCU.GND',
      says: ['fault: X.SRCLR is wired to C alone and must go to its supply.'],
      fix: 'Join X.SRCLR to MCU.5V',
      changes: ['wire X.SRCLR to MCU.5V added'],
    },
    {
      title: 'two straps joined of which one is for high and one for low',
      mcu: 'uno-r3',
      parts: { X: '74hc595' },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.OE X.SRCLR',
      says: [
        'fault: X.OE is wired to X.SRCLR alone and must go to ground.',
        'fault: X.SRCLR is wired to X.OE alone and must go to its supply.',
      ],
      fix: 'Join X.OE to MCU.GND',
      changes: ['wire X.OE to X.SRCLR removed', 'wire X.OE to MCU.GND added'],
    },
    {
      title: 'a strap joined with inputs that wait as well',
      mcu: 'uno-r3',
      parts: { D: '74hc165' },
      wires: 'D.VCC MCU.5V, D.GND MCU.GND, D.SER MCU.GND, D.INH D.A, D.A D.B, D.QH MCU.12, D.CLK MCU.13, D.PL MCU.10',
      says: ['fault: D.INH is wired to D.A and D.B alone and must go to ground.'],
    },
    {
      title: 'a display of which the backlight is left out, which is a choice',
      mcu: 'uno-r3',
      parts: { L: 'lcd-parallel' },
      wires: 'L.VDD MCU.5V, L.VSS MCU.GND, L.V0 MCU.GND, L.RW MCU.GND',
      says: ['tip: L.A is open and must go to its supply.'],
    },
    {
      title: 'a backlight with half of its wires',
      mcu: 'uno-r3',
      parts: { L: 'lcd-parallel' },
      wires: 'L.VDD MCU.5V, L.VSS MCU.GND, L.V0 MCU.GND, L.RW MCU.GND, L.K MCU.GND',
      says: ['caution: L.A is open and must go to its supply.'],
    },
    {
      title: 'the wiper of a knob on an address pin',
      mcu: 'uno-r3',
      parts: { X: 'mcp23008', K: 'potentiometer' },
      wires:
        'X.VDD MCU.5V, X.VSS MCU.GND, X.A0 K.W, X.A1 MCU.GND, X.A2 MCU.GND, K.1 MCU.GND, K.3 MCU.5V, X.RESET MCU.5V',
      says: ['fault: X.A0 is moved by K.W and must go to ground for address 0x20.'],
      fix: 'Join X.A0 to MCU.GND',
      changes: ['wire X.A0 to K.W removed', 'wire X.A0 to MCU.GND added'],
    },
    {
      title: 'the strap open for the address that the module does not hold',
      parts: { B: { part: 'bme280', options: { address: 119 } } },
      wires: 'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.21, B.SCL MCU.22, B.CSB MCU.3V3',
      says: ['fault: B.SDO is open and must go to its supply for address 0x77.'],
      fix: 'Join B.SDO to MCU.3V3',
      changes: ['wire B.SDO to MCU.3V3 added'],
    },
    {
      title: 'the address strap on the other side',
      parts: { B: { part: 'bme280', options: { address: 119 } } },
      wires: 'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.21, B.SCL MCU.22, B.CSB MCU.3V3, B.SDO MCU.GND',
      says: ['fault: B.SDO is on ground and must go to its supply for address 0x77.'],
      fix: 'Join B.SDO to MCU.3V3',
      changes: ['wire B.SDO to MCU.GND removed', 'wire B.SDO to MCU.3V3 added'],
    },
    {
      title: 'a reset input of a chip open',
      mcu: 'pi-40',
      parts: { X: 'mcp23017' },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.GPIO2, X.SCL MCU.GPIO3, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND',
      says: ['fault: X.RESET is open and must go to its supply.'],
      fix: 'Join X.RESET to MCU.3V3',
      changes: ['wire X.RESET to MCU.3V3 added'],
    },
    {
      title: 'the enable of a shift register on the supply',
      mcu: 'uno-r3',
      parts: { S: '74hc595' },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.OE MCU.5V, S.SRCLR MCU.5V, S.SER MCU.11, S.SRCLK MCU.13, S.RCLK MCU.10',
      says: ['fault: S.OE is on a supply and must go to ground.'],
      fix: 'Join S.OE to MCU.GND',
      changes: ['wire S.OE to MCU.5V removed', 'wire S.OE to MCU.GND added'],
    },
  ],
})
