import { testRule } from '../testing/rules.ts'
import { resetGlitch } from './resetGlitch.ts'

testRule(resetGlitch, {
  valid: [
    { title: 'a relay on a quiet pin', parts: { K: 'relay-1' }, wires: 'K.VCC MCU.VIN, K.GND MCU.GND, K.IN MCU.27' },
    {
      title: 'a gate with its resistor',
      parts: { T: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'T.G MCU.27, T.S MCU.GND, R.1 T.G, R.2 T.S',
    },
    {
      title: 'a gate held low by the chip itself',
      mcu: 'pico',
      parts: { T: 'nmos' },
      wires: 'T.G MCU.GP2, T.S MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a gate that a resistor holds high',
      parts: { T: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'T.G MCU.27, T.S MCU.GND, R.1 T.G, R.2 MCU.3V3',
      says: ['caution: T.G moves while the board starts: a resistor holds it high and MCU.GPIO27 floats at reset.'],
    },
    {
      title: 'a gate that nothing holds while the pin floats',
      parts: { T: 'nmos' },
      wires: 'T.G MCU.27, T.S MCU.GND',
      says: ['caution: T.G may move while the board starts: MCU.GPIO27 floats at reset.'],
      fix: 'Add resistor 10 kΩ to T',
      changes: ['part R1 added (resistor)', 'wire R1.1 to T.G added', 'wire R1.2 to T.S added'],
    },
    {
      title: 'a gate on a pin that pulses at reset',
      mcu: 'esp32-devkit-38',
      parts: { T: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'T.G MCU.14, T.S MCU.GND, R.1 T.G, R.2 T.S',
      says: ['caution: T.G may move while the board starts: MCU.GPIO14 pulses at reset.'],
      fix: 'Move T.G to MCU.GPIO32',
      changes: ['wire T.G to MCU.GPIO14 removed', 'wire T.G to MCU.GPIO32 added'],
    },
    {
      title: 'a servo on the pin that prints messages',
      mcu: 'esp8266-d1-mini',
      uses: [],
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.SIG MCU.D4',
      says: ['caution: S.SIG may move while the board starts: MCU.GPIO2 sends messages at reset.'],
      fix: 'Move S.SIG to MCU.GPIO14',
      changes: ['wire S.SIG to MCU.GPIO2 removed', 'wire S.SIG to MCU.GPIO14 added'],
    },
  ],
})
