import type { Short } from './plans.ts'
import { cap, gnd, i2c, led, ohms, pack } from './short.ts'

/** What hangs on posts that are no signals, and pins that are fixed, each kind of post with each kind of thing. */

const sound = { T: 'pam8403', S: 'speaker' }
const amplified = 'T.VCC MCU.5V, T.GND MCU.GND, T.LOUT+ S.+, T.LOUT- S.-'
const serial = 'F.VCC MCU.VCC, F.GND MCU.GND, F.TX MCU.D0, F.RX MCU.D1'

export const soundPosts: readonly (Short & { title: string })[] = [
  {
    title: 'an adapter that feeds a board and uploads to it',
    mcu: 'pro-mini-3v3',
    parts: { F: 'ft232', L: led(), R: ohms(330) },
    wires: `${serial}, F.DTR MCU.DTR, L.A R.1, R.2 MCU.4, L.K MCU.GND`,
  },
  {
    title: 'the clear to send of an adapter on ground, as the header has it',
    mcu: 'pro-mini-3v3',
    parts: { F: 'ft232' },
    wires: `${serial}, F.DTR MCU.DTR, F.CTS MCU.GND`,
  },
  {
    title: 'a switch that turns a board off',
    mcu: 'pico',
    parts: { S: 'slide-switch' },
    wires: 'S.C MCU.3V3_EN, S.1 MCU.GND',
    unused: ['S.3'],
  },
  {
    title: 'the side of an amplifier that is not used is quiet on ground',
    mcu: 'mega-2560-r3',
    parts: sound,
    supplies: pack(5),
    wires: `${gnd}, T.VCC PACK.+, T.GND PACK.-, T.LOUT+ S.+, T.LOUT- S.-, T.L MCU.9, T.R MCU.GND`,
  },
  {
    title: 'a translator switched on from the higher side',
    parts: { T: 'txs0108e', D: 'tm1637' },
    wires:
      'T.VA MCU.3V3, T.VB MCU.VIN, T.GND MCU.GND, T.OE MCU.VIN, T.A1 MCU.GPIO32, T.A2 MCU.GPIO33, T.B1 D.CLK, T.B2 D.DIO, D.VCC MCU.VIN, D.GND MCU.GND',
  },
  {
    title: 'inputs of a register on rails',
    mcu: 'uno-r3',
    parts: { D: '74hc165' },
    wires:
      'D.VCC MCU.5V, D.GND MCU.GND, D.INH MCU.GND, D.SER MCU.GND, D.QH MCU.12, D.CLK MCU.13, D.PL MCU.10, D.A MCU.GND, D.B MCU.5V',
  },
  {
    title: 'a pin that pulls up weakly on ground',
    mcu: 'uno-r3',
    parts: { D: 'pcf8574-module' },
    wires: `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}, D.P0 MCU.GND`,
  },
  {
    title: 'a converter that is read back',
    mcu: 'uno-r3',
    parts: { D: 'mcp4725' },
    wires: `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}, D.OUT MCU.A0`,
  },
  {
    title: 'a piezo disc between a pin and a higher supply',
    parts: { B: 'buzzer-passive' },
    wires: 'B.- MCU.GPIO25, B.+ MCU.VIN',
  },
]

export const mistakenPosts: readonly (Short & { title: string; rule: string })[] = [
  {
    rule: 'control-post',
    title: 'a lamp at what switches the board on and off',
    mcu: 'pico-w',
    parts: { L: led(), R: ohms(330) },
    wires: 'R.1 MCU.3V3_EN, R.2 L.A, L.K MCU.GND',
  },
  {
    rule: 'control-post',
    title: 'a button at the reference, a post beside its pin',
    mcu: 'nano-v3',
    parts: { B: 'button' },
    wires: 'B.1 MCU.AREF, B.2 MCU.GND',
  },
  {
    rule: 'control-post',
    title: 'the pull-down of a gate at the reset, a post beside its pin',
    mcu: 'mega-2560-r3',
    parts: { Q: 'nmos', R: ohms(10_000), P: { part: 'strip-12v' } },
    supplies: pack(12),
    wires: `${gnd}, P.+ PACK.+, P.- Q.D, Q.S MCU.GND, Q.G MCU.4, R.1 MCU.RESET, R.2 MCU.GND`,
  },
  {
    rule: 'control-post',
    title: 'the base of a transistor at the reset',
    mcu: 'esp8266-d1-mini',
    parts: { Q: 'npn', R: ohms(1000) },
    wires: 'Q.E MCU.GND, Q.B R.1, R.2 MCU.RST',
    unused: ['Q.C'],
  },
  {
    rule: 'control-post',
    title: 'a button at the boot post, to the side where it lies',
    mcu: 'nucleo-f446re',
    parts: { B: 'button' },
    wires: 'B.1 MCU.BOOT0, B.2 MCU.GND',
  },
  {
    rule: 'pin-on-rail',
    title: 'the boot post on the supply for good',
    mcu: 'nucleo-f446re',
    parts: { L: led(), R: ohms(330) },
    wires: 'L.A R.1, R.2 MCU.D4, L.K MCU.GND, MCU.BOOT0 MCU.3V3',
  },
  {
    rule: 'pin-on-rail',
    title: 'the enable of a sensor on the motor supply',
    mcu: 'uno-r3',
    parts: { S: 'ml8511' },
    supplies: pack(12),
    wires: `${gnd}, S.VIN MCU.5V, S.GND MCU.GND, S.OUT MCU.A0, S.EN PACK.+`,
  },
  {
    rule: 'pin-on-rail',
    title: 'the enable of a translator on the motor supply',
    parts: { T: 'txs0108e' },
    supplies: pack(12),
    wires: `${gnd}, T.VA MCU.3V3, T.VB MCU.VIN, T.GND MCU.GND, T.OE PACK.+`,
  },
  {
    rule: 'pin-on-rail',
    title: 'the input of an amplifier on a supply',
    mcu: 'mega-2560-r3',
    parts: sound,
    wires: `${amplified}, T.L MCU.5V`,
  },
  {
    rule: 'pin-on-rail',
    title: 'the input of an amplifier in use on ground',
    mcu: 'mega-2560-r3',
    parts: sound,
    wires: `${amplified}, T.L MCU.GND`,
  },
  {
    rule: 'level-damage',
    title: 'a loudspeaker from a pin, over its resistor, to a higher supply',
    parts: { S: 'speaker', R: ohms(220) },
    wires: 'S.+ R.1, R.2 MCU.GPIO25, S.- MCU.VIN',
  },
  {
    rule: 'load-return',
    title: 'the key of a joystick on its ground',
    mcu: 'uno-r3',
    parts: { J: 'joystick' },
    wires: 'J.VCC MCU.5V, J.GND MCU.GND, J.VRX MCU.A0, J.VRY MCU.A1, J.SW MCU.GND',
  },
  {
    rule: 'pin-not-signal',
    title: 'the aerial of a radio on ground',
    mcu: 'uno-r3',
    parts: { S: 'ask-433-tx' },
    wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.DATA MCU.12, S.ANT MCU.GND',
  },
  {
    rule: 'pin-not-signal',
    title: 'a line to other transceivers on the supply',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.RO MCU.19, X.DI MCU.18, X.DE MCU.7, X.RE MCU.7, X.A MCU.5V',
  },
  {
    rule: 'pin-on-rail',
    title: 'the output of a converter on ground',
    mcu: 'uno-r3',
    parts: { D: 'mcp4725' },
    wires: `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}, D.OUT MCU.GND`,
  },
  {
    rule: 'pin-on-rail',
    title: 'an output of a register on a supply',
    mcu: 'uno-r3',
    parts: { D: '74hc595', C: cap(1e-7, 'ceramic') },
    wires:
      'D.VCC MCU.5V, D.GND MCU.GND, D.OE MCU.GND, D.SRCLR MCU.5V, D.SER MCU.11, D.SRCLK MCU.13, D.RCLK MCU.10, D.QA MCU.5V, C.1 D.VCC, C.2 D.GND',
  },
  {
    rule: 'pin-on-rail',
    title: 'a pin that pulls up weakly, and down strongly, on a supply',
    mcu: 'uno-r3',
    parts: { D: 'pcf8574-module' },
    wires: `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}, D.P0 MCU.5V`,
  },
  {
    rule: 'pin-on-rail',
    title: 'a pin of an expander on ground',
    mcu: 'uno-r3',
    parts: { D: 'mcp23017-module' },
    wires: `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}, D.GPA0 MCU.GND`,
  },
]
