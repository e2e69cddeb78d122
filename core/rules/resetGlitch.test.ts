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
    {
      title: 'a relay on a port that holds it off from power-up on',
      parts: { X: 'pcf8574-module', K: 'relay-1' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, K.VCC MCU.VIN, K.GND MCU.GND, K.IN X.P0',
    },
    {
      title: 'a servo on a chip that gives nothing at first',
      parts: { X: 'pca9685', S: 'servo-sg90' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, S.VCC MCU.VIN, S.GND MCU.GND, S.SIG X.PWM0',
    },
    {
      title: 'a gate that a resistor holds down at a port which hardly holds it up',
      parts: { X: 'pcf8574-module', T: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, T.G X.P0, T.S MCU.GND, R.1 T.G, R.2 T.S',
    },
    {
      title: 'a gate with its resistor at a port that listens at first',
      parts: { X: 'mcp23017-module', T: 'nmos', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, T.G X.GPA0, T.S MCU.GND, R.1 T.G, R.2 T.S',
    },
  ],
  invalid: [
    {
      title: 'a gate at a port that is high from power-up on',
      parts: { X: 'pcf8574-module', T: 'nmos' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, T.G X.P0, T.S MCU.GND',
      says: ['caution: T.G may move while the board starts: X.P0 is high from power-up on.'],
    },
    {
      title: 'a relay that a resistor holds on at a port which listens at first',
      parts: { X: 'mcp23017-module', K: 'relay-1', R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, K.VCC MCU.5V, K.GND MCU.GND, K.IN X.GPA0, R.1 K.IN, R.2 MCU.GND',
      mcu: 'uno-r3',
      says: ['caution: K.IN moves while the board starts: a resistor holds it low and X.GPA0 floats at reset.'],
    },
    {
      title: 'a gate that nothing holds at a port which listens at first',
      parts: { X: 'mcp23017-module', T: 'nmos' },
      wires: 'X.VCC MCU.3V3, X.GND MCU.GND, T.G X.GPA0, T.S MCU.GND',
      says: ['caution: T.G may move while the board starts: X.GPA0 floats at reset.'],
    },
    {
      title: 'a relay on a register, which may hold anything at power-up',
      mcu: 'uno-r3',
      parts: { X: '74hc595', K: 'relay-1' },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, K.VCC MCU.5V, K.GND MCU.GND, K.IN X.QA',
      says: ['tip: K.IN may move while the board starts: X.QA is high or low at power-up.'],
    },
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
