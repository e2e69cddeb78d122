import type { Short } from './plans.ts'
import { cap, five, led, ohms } from './short.ts'

/** Everyday wirings in which a habit of makers or a fact of a board decides, right and with one mistake. */

const box = (volts: number) => ({ part: 'battery-box', options: { volts } })
const matrix = `${five('M')}, M.CS MCU.10`
const pump = 'P.+ B.+, P.- Q.D, Q.G MCU.26, R.1 Q.G, R.2 Q.S, D.K P.+, D.A P.-'
const pumping = { P: 'pump', Q: 'nmos', R: ohms(10_000), D: 'diode' }
const registers = { X: '74hc595', Y: '74hc595' }
const inRow = `${['X', 'Y'].map((ref) => `${five(ref)}, ${ref}.OE MCU.GND, ${ref}.SRCLR MCU.5V`).join(', ')}, X.SER MCU.8, X.SRCLK MCU.9, X.RCLK MCU.10`
const stepping = { M: 'l298n', N: 'stepper-bipolar', B: box(12) }
const bridged = 'M.12V B.+, M.GND B.-, M.GND MCU.GND, M.IN1 MCU.4, M.IN2 MCU.5, M.IN3 MCU.6, M.IN4 MCU.7'
const switched = `${five('X')}, X.EN MCU.GND, X.S0 MCU.4, X.S1 MCU.5, X.S2 MCU.6, X.S3 MCU.7`

export const soundEveryday: readonly (Short & { title: string })[] = [
  {
    title: 'dot matrix on the three pins that its library names',
    mcu: 'uno-r3',
    parts: { M: 'max7219' },
    wires: `${matrix}, M.DIN MCU.12, M.CLK MCU.11`,
  },
  {
    title: 'thermocouple on any three pins of a pico',
    mcu: 'pico',
    parts: { M: 'max6675' },
    wires: 'M.VCC MCU.3V3, M.GND MCU.GND, M.SO MCU.GP18, M.SCK MCU.GP20, M.CS MCU.GP22',
  },
  {
    title: 'servo battery with a switch in its minus lead',
    mcu: 'uno-r3',
    parts: { S: 'servo-sg90', W: 'slide-switch', B: box(6) },
    wires: 'S.VCC B.+, S.GND MCU.GND, B.- W.1, W.C MCU.GND, S.SIG MCU.9',
  },
  {
    title: 'sound player with the resistor that its data sheet asks for',
    mcu: 'mega-2560-r3',
    parts: { D: 'dfplayer', P: 'speaker', R: ohms(1000) },
    wires: `${five('D')}, D.TX MCU.19, D.RX R.1, R.2 MCU.18, P.+ D.SPK1, P.- D.SPK2`,
  },
  {
    title: 'one servo behind a slide switch',
    mcu: 'uno-r3',
    parts: { S: 'servo-sg90', W: 'slide-switch', B: box(6) },
    wires: 'W.C B.+, S.VCC W.1, S.GND B.-, B.- MCU.GND, S.SIG MCU.9',
  },
  {
    title: 'servo battery with a fuse in its minus lead',
    mcu: 'uno-r3',
    supplies: { B: { volts: 6, limitMilliamps: 2000 } },
    parts: { S: 'servo-sg90', F: { part: 'fuse', options: { milliamps: 2000 } } },
    wires: 'S.VCC B.+, S.GND MCU.GND, B.- F.1, F.2 MCU.GND, S.SIG MCU.9',
  },
  {
    title: 'servo battery with a meter in its minus lead',
    mcu: 'uno-r3',
    parts: { S: 'servo-sg90', W: 'ina219', B: box(6) },
    wires:
      'W.VCC MCU.5V, W.GND MCU.GND, W.SDA MCU.A4, W.SCL MCU.A5, S.VCC B.+, S.GND MCU.GND, B.- W.VIN-, W.VIN+ MCU.GND, S.SIG MCU.9',
  },
  {
    title: 'pump on a battery box, grounds joined',
    parts: { ...pumping, B: box(6) },
    wires: `${pump}, Q.S B.-, B.- MCU.GND`,
  },
  {
    title: 'two lamps side by side behind one resistor',
    mcu: 'uno-r3',
    parts: { L: led(), K: led(), R: ohms(220) },
    wires: 'R.1 MCU.5, R.2 L.A, R.2 K.A, L.K MCU.GND, K.K MCU.GND',
  },
  {
    title: 'loudspeaker behind a resistor that keeps to what a pin gives',
    mcu: 'uno-r3',
    parts: { Z: 'speaker', R: ohms(220) },
    wires: 'Z.+ R.1, R.2 MCU.8, Z.- MCU.GND',
  },
  {
    title: 'light sensor with a resistor before the input as well',
    mcu: 'uno-r3',
    parts: { L: 'ldr', R: ohms(10_000), S: ohms(1000) },
    wires: 'L.1 MCU.5V, L.2 R.1, R.2 MCU.GND, S.1 L.2, S.2 MCU.A0',
  },
  {
    title: 'presence sensor on its serial line alone',
    mcu: 'pico',
    parts: { L: 'ld2410' },
    wires: 'L.VCC MCU.VBUS, L.GND MCU.GND, L.TX MCU.GP1, L.RX MCU.GP0',
  },
  {
    title: 'register with a lamp at 6.4 mA',
    mcu: 'uno-r3',
    parts: {
      X: '74hc595',
      L: led(),
      R: ohms(470),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, X.SER MCU.4, X.SRCLK MCU.5, X.RCLK MCU.6, C.1 X.VCC, C.2 X.GND, X.QA R.1, R.2 L.A, L.K MCU.GND',
  },
  {
    title: 'battery box behind a switch and a fuse',
    mcu: 'uno-r3',
    parts: { B: box(9), S: 'slide-switch', F: 'fuse' },
    wires: 'B.+ S.C, S.1 F.1, F.2 MCU.VIN, B.- MCU.GND',
  },
  {
    title: 'battery box behind two switches and a diode',
    mcu: 'uno-r3',
    parts: { B: box(9), S: 'slide-switch', T: 'slide-switch', D: 'diode' },
    wires: 'B.+ S.C, S.1 T.C, T.1 D.A, D.K MCU.VIN, B.- MCU.GND',
  },
  {
    title: 'switch before the meter that measures what the board takes',
    mcu: 'uno-r3',
    parts: { B: box(9), S: 'slide-switch', M: 'ina219' },
    wires: `B.+ S.C, S.1 M.VIN+, M.VIN- MCU.VIN, B.- MCU.GND, ${five('M')}, M.SDA MCU.A4, M.SCL MCU.A5`,
  },
  {
    title: 'two buttons beside each other at the supply, read over a resistor',
    mcu: 'uno-r3',
    parts: { P: 'button', Q: 'button', R: ohms(1000), S: ohms(10_000) },
    wires: 'P.1 MCU.5V, P.2 R.1, Q.1 MCU.5V, Q.2 R.1, R.2 MCU.4, S.1 MCU.4, S.2 MCU.GND',
  },
  {
    title: 'transistor backwards in the plus of a battery, behind its switch',
    mcu: 'uno-r3',
    parts: { B: box(9), S: 'slide-switch', Q: 'pmos', R: ohms(100_000) },
    wires: 'B.+ S.C, S.1 Q.D, Q.S MCU.VIN, Q.G R.1, R.2 MCU.GND, B.- MCU.GND',
  },
  {
    title: 'transistor backwards in the minus of a battery',
    mcu: 'uno-r3',
    parts: { B: box(9), Q: 'nmos' },
    wires: 'B.+ MCU.VIN, B.- Q.D, Q.S MCU.GND, Q.G MCU.VIN',
  },
  {
    title: 'keys with a diode between two pins, held low where they are read',
    mcu: 'uno-r3',
    parts: { P: 'button', Q: 'button', D: 'diode', E: 'diode', R: ohms(10_000) },
    wires: 'P.1 MCU.2, P.2 D.A, D.K MCU.3, Q.1 MCU.4, Q.2 E.A, E.K MCU.3, R.1 MCU.3, R.2 MCU.GND',
  },
  {
    title: 'two registers in a row with a latch each',
    mcu: 'uno-r3',
    parts: registers,
    wires: `${inRow}, Y.SER X.QHS, Y.SRCLK MCU.9, Y.RCLK MCU.11`,
  },
  {
    title: 'motor whose kick runs through two diodes in a row',
    parts: { B: box(6), M: 'dc-motor', Q: 'nmos', R: ohms(10_000), D: 'diode', E: 'diode' },
    wires: 'M.M1 B.+, M.M2 Q.D, Q.S B.-, B.- MCU.GND, Q.G MCU.26, R.1 Q.G, R.2 Q.S, D.A Q.D, D.K E.A, E.K B.+',
  },
  {
    title: 'motor whose kick runs through a diode and a resistor',
    parts: { B: box(6), M: 'dc-motor', Q: 'nmos', R: ohms(10_000), D: 'diode', S: ohms(47) },
    wires: 'M.M1 B.+, M.M2 Q.D, Q.S B.-, B.- MCU.GND, Q.G MCU.26, R.1 Q.G, R.2 Q.S, D.A Q.D, D.K S.1, S.2 B.+',
  },
  {
    title: 'knob between two resistors that narrow its range',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', R: ohms(1000), S: ohms(1000) },
    wires: 'MCU.5V R.1, R.2 K.1, K.W MCU.A0, K.3 S.1, S.2 MCU.GND',
  },
  {
    title: 'two transistors of which one drives the base of the other',
    mcu: 'uno-r3',
    parts: { P: 'npn', Q: 'npn', R: ohms(10_000), M: 'fan', D: 'diode' },
    wires: 'MCU.5 R.1, R.2 P.B, P.E Q.B, P.C M.-, Q.C M.-, Q.E MCU.GND, M.+ MCU.5V, D.K M.+, D.A M.-',
  },
  {
    title: 'knob and converter on the same 3.3 V, brought to the reference pin',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.GND, K.3 MCU.3V3, K.W MCU.A0, MCU.AREF MCU.3V3',
  },
  {
    title: 'stepper with each winding on one bridge, the second turned round',
    mcu: 'uno-r3',
    parts: stepping,
    wires: `${bridged}, M.OUT1 N.A+, M.OUT2 N.A-, M.OUT3 N.B-, M.OUT4 N.B+`,
  },
  {
    title: 'motor between an output of a bridge and ground',
    mcu: 'uno-r3',
    parts: { M: 'l298n', N: { part: 'dc-motor', options: { volts: 12 } }, B: box(12) },
    wires: 'M.12V B.+, M.GND B.-, M.GND MCU.GND, M.IN1 MCU.4, M.OUT1 N.M1, N.M2 MCU.GND',
  },
  {
    title: 'buttons over a switch of lines, held by the pull of the pin behind it',
    mcu: 'uno-r3',
    parts: { X: 'mux-4067', B: 'button', C: 'button' },
    wires: `${switched}, X.SIG MCU.8, B.1 X.C0, B.2 MCU.GND, C.1 X.C1, C.2 MCU.GND`,
  },
  {
    title: 'buttons over a switch of lines, held by one resistor behind it, on a board without a converter',
    mcu: 'pi-40',
    parts: { X: 'mux-4067', B: 'button', R: ohms(10_000) },
    wires:
      'X.VCC MCU.3V3, X.GND MCU.GND, X.EN MCU.GND, X.S0 MCU.17, X.S1 MCU.27, X.S2 MCU.22, X.S3 MCU.23, X.SIG MCU.24, B.1 X.C0, B.2 MCU.GND, R.1 X.SIG, R.2 MCU.3V3',
  },
  {
    title: 'button on the five-volt side of a shifter',
    mcu: 'esp32-devkit-30',
    parts: { S: 'shifter-bss138', B: 'button' },
    wires: 'S.HV MCU.VIN, S.LV MCU.3V3, S.GND MCU.GND, S.LV1 MCU.13, S.HV1 B.1, B.2 MCU.GND',
  },
  {
    title: 'light sensor over a knob that serves as its resistor, its tap on ground',
    mcu: 'uno-r3',
    parts: { V: 'ldr', P: 'potentiometer' },
    wires: 'V.1 MCU.5V, V.2 MCU.A0, P.1 MCU.A0, P.W MCU.GND',
  },
  {
    title: 'light sensor over a knob that serves as its resistor, its tap at the pin',
    mcu: 'uno-r3',
    parts: { V: 'ldr', P: 'potentiometer' },
    wires: 'V.1 MCU.5V, V.2 P.W, P.W MCU.A0, P.1 MCU.GND',
  },
  {
    title: 'pump behind a fuse, with its diode before it',
    parts: { ...pumping, B: box(6), F: 'fuse' },
    wires: 'B.+ F.1, F.2 P.+, P.- Q.D, Q.S B.-, B.- MCU.GND, Q.G MCU.26, R.1 Q.G, R.2 Q.S, D.K B.+, D.A P.-',
  },
  {
    title: 'loudspeaker on a transistor',
    mcu: 'uno-r3',
    parts: { Z: 'speaker', Q: 'npn', R: ohms(1000), S: { part: 'resistor', options: { ohms: 33, watts: 1 } } },
    wires: 'MCU.5V Z.+, Z.- S.1, S.2 Q.C, Q.E MCU.GND, MCU.8 R.1, R.2 Q.B',
  },
]

export const mistakenEveryday: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'motion sensor, low at rest, on a pin that must be high at reset',
    rule: 'boot-strap',
    mcu: 'esp8266-d1-mini',
    parts: { U: 'hc-sr501' },
    wires: 'U.VCC MCU.5V, U.GND MCU.GND, U.OUT MCU.D3',
  },
  {
    title: 'knob on a switch of lines whose common one lies on a digital pin',
    rule: 'expander-limit',
    parts: { M: 'mux-4067', P: 'potentiometer' },
    wires:
      'M.VCC MCU.3V3, M.GND MCU.GND, M.EN MCU.GND, M.S0 MCU.25, M.S1 MCU.26, M.S2 MCU.27, M.S3 MCU.14, M.SIG MCU.19, P.1 MCU.GND, P.3 MCU.3V3, P.W M.C0',
  },
  {
    title: 'three lamps side by side behind one resistor that is too small for all',
    rule: 'led-resistor',
    mcu: 'uno-r3',
    parts: { L: led(), K: led(), M: led(), R: ohms(22) },
    wires: 'R.1 MCU.5, R.2 L.A, R.2 K.A, R.2 M.A, L.K MCU.GND, K.K MCU.GND, M.K MCU.GND',
  },
  {
    title: 'loudspeaker behind a resistor that is too small for a pin',
    rule: 'driver-needed',
    mcu: 'uno-r3',
    parts: { Z: 'speaker', R: ohms(100) },
    wires: 'Z.+ R.1, R.2 MCU.8, Z.- MCU.GND',
  },
  {
    title: 'light sensor whose resistor lies before the input, not at ground',
    rule: 'analog-range',
    mcu: 'uno-r3',
    parts: { L: 'ldr', R: ohms(10_000) },
    wires: 'L.1 MCU.5V, L.2 R.1, R.2 MCU.A0',
  },
  {
    title: 'card of an Uno sketch on a Mega',
    rule: 'bus-pins',
    mcu: 'mega-2560-r3',
    parts: { A: 'microsd' },
    wires: `${five('A')}, A.SCK MCU.13, A.MOSI MCU.11, A.MISO MCU.12, A.CS MCU.10`,
  },
  {
    title: 'card of an Uno sketch on a Leonardo',
    rule: 'bus-pins',
    mcu: 'leonardo-32u4',
    parts: { A: 'microsd' },
    wires: `${five('A')}, A.SCK MCU.13, A.MOSI MCU.11, A.MISO MCU.12, A.CS MCU.10`,
  },
  {
    title: 'clock and data of a dot matrix exchanged on the pins of the controller',
    rule: 'bus-pins',
    mcu: 'uno-r3',
    parts: { M: 'max7219' },
    wires: `${matrix}, M.DIN MCU.13, M.CLK MCU.11`,
  },
  {
    title: 'pump on a battery box, grounds apart',
    rule: 'common-ground',
    parts: { ...pumping, B: box(6) },
    wires: `${pump}, Q.S B.-`,
  },
  {
    title: 'sound player with too small a resistor before its line',
    rule: 'level-damage',
    mcu: 'mega-2560-r3',
    parts: { D: 'dfplayer', P: 'speaker', R: ohms(220) },
    wires: `${five('D')}, D.TX MCU.19, D.RX R.1, R.2 MCU.18, P.+ D.SPK1, P.- D.SPK2`,
  },
  {
    title: 'three servos behind a slide switch for 0.3 A',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    parts: { S: 'servo-sg90', T: 'servo-sg90', U: 'servo-sg90', W: 'slide-switch', B: box(6) },
    wires:
      'W.C B.+, S.VCC W.1, T.VCC W.1, U.VCC W.1, S.GND B.-, T.GND B.-, U.GND B.-, B.- MCU.GND, S.SIG MCU.9, T.SIG MCU.10, U.SIG MCU.11',
  },
  {
    title: 'motor driver on a battery box, grounds apart',
    rule: 'common-ground',
    mcu: 'uno-r3',
    parts: { D: 'l298n', M: 'dc-motor', B: box(7.4) },
    wires: 'D.12V B.+, D.GND B.-, D.IN1 MCU.5, D.IN2 MCU.6, D.OUT1 M.M1, D.OUT2 M.M2',
  },
  {
    title: 'diode turned behind the switch of a battery',
    rule: 'load-return',
    mcu: 'uno-r3',
    parts: { B: box(9), S: 'slide-switch', D: 'diode' },
    wires: 'B.+ S.C, S.1 D.K, D.A MCU.VIN, B.- MCU.GND',
  },
  {
    title: 'transistor the wrong way round in the plus of a battery: it guards nothing',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { B: box(9), Q: 'pmos' },
    wires: 'B.+ Q.S, Q.D MCU.VIN, Q.G MCU.GND, B.- MCU.GND',
  },
  {
    title: 'transistor the wrong way round in the minus of a battery',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { B: box(9), Q: 'nmos' },
    wires: 'B.+ MCU.VIN, B.- Q.S, Q.D MCU.GND, Q.G MCU.VIN',
  },
  {
    title: 'second register on an output of the first',
    rule: 'expander-limit',
    mcu: 'uno-r3',
    parts: registers,
    wires: `${inRow}, Y.SER X.QH, Y.SRCLK MCU.9, Y.RCLK MCU.10`,
  },
  {
    title: 'two registers in a row on two clocks',
    rule: 'expander-limit',
    mcu: 'uno-r3',
    parts: registers,
    wires: `${inRow}, Y.SER X.QHS, Y.SRCLK MCU.12, Y.RCLK MCU.10`,
  },
  {
    title: 'motor with a resistor across it and no diode',
    rule: 'flyback',
    parts: { B: box(6), M: 'dc-motor', Q: 'nmos', R: ohms(10_000), S: { part: 'resistor', options: { ohms: 470 } } },
    wires: 'M.M1 B.+, M.M2 Q.D, Q.S B.-, B.- MCU.GND, Q.G MCU.26, R.1 Q.G, R.2 Q.S, Q.D S.1, S.2 B.+',
  },
  {
    title: 'knob with both ends led up by resistors',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', R: ohms(1000), S: ohms(1000) },
    wires: 'MCU.5V R.1, R.2 K.1, K.W MCU.A0, K.3 S.1, S.2 MCU.5V',
  },
  {
    title: 'knob at 5 V, and 3.3 V at the reference pin',
    rule: 'analog-range',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.GND, K.3 MCU.5V, K.W MCU.A0, MCU.AREF MCU.3V3',
  },
  {
    title: 'windings of a stepper across the two bridges of a driver',
    rule: 'load-return',
    mcu: 'uno-r3',
    parts: stepping,
    wires: `${bridged}, M.OUT1 N.A+, M.OUT2 N.B+, M.OUT3 N.A-, M.OUT4 N.B-`,
  },
  {
    title: 'button over a switch of lines whose pin has no pull',
    rule: 'pin-pull',
    mcu: 'esp32-devkit-30',
    parts: { X: 'mux-4067', B: 'button' },
    wires:
      'X.VCC MCU.3V3, X.GND MCU.GND, X.EN MCU.GND, X.S0 MCU.13, X.S1 MCU.14, X.S2 MCU.27, X.S3 MCU.26, X.SIG MCU.34, B.1 X.C0, B.2 MCU.GND',
  },
  {
    title: 'pump whose diode leads to another supply',
    rule: 'flyback',
    mcu: 'uno-r3',
    parts: { ...pumping, B: box(6) },
    wires: 'B.+ P.+, P.- Q.D, Q.S B.-, B.- MCU.GND, Q.G MCU.5, R.1 Q.G, R.2 Q.S, D.K MCU.5V, D.A P.-',
  },
  {
    title: 'knob with its tap on ground and an end at the pin',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { P: 'potentiometer' },
    wires: 'P.W MCU.GND, P.1 MCU.5V, P.3 MCU.A0',
  },
]
