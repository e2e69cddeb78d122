import type { Short } from './plans.ts'
import { five, i2c, led, ohms, pack } from './short.ts'

/** Wires that were forgotten or went one hole too far, where what is left still looks like a circuit. */

const divider = { P: 'ldr', R: ohms(10_000) }
const memory = { M: 'at24c256', U: ohms(4700), V: ohms(4700) }
const memoryFed = `${five('M')}, M.A0 MCU.GND, M.A1 MCU.GND, M.A2 MCU.GND, M.WP MCU.GND, U.1 M.SDA, U.2 MCU.5V, V.1 M.SCL, V.2 MCU.5V`
const dark = { P: 'ldr', R: ohms(10_000), Q: 'npn', L: 'led', S: ohms(330) }
const dimmed = { K: 'potentiometer', R: ohms(330), L: 'led' }
const display = 'D.VCC MCU.3V3, D.GND MCU.GND, D.SCK MCU.18, D.SDA MCU.19, D.A0 MCU.20, D.RESET MCU.21, D.LED MCU.3V3'
const converter =
  'A.VDD MCU.5V, A.VREF MCU.5V, A.AGND MCU.GND, A.DGND MCU.GND, A.CLK MCU.13, A.DOUT MCU.12, A.DIN MCU.11'

const pass = { Q: { part: 'nmos', options: { model: '2n7000' } }, R: ohms(10_000), T: ohms(10_000) }
/** A transistor between 3.3 V at its source and 5 V at its drain, as wires. */
const passes = (low: string, high: string): string => `Q.G ${low}, R.1 ${low}, R.2 Q.S, T.1 ${high}, T.2 Q.D`
const strip = { ...pass, S: { part: 'ws2812-strip', options: { pixels: 4 } } }
const stripFed = 'S.5V MCU.VIN, S.GND MCU.GND, Q.D S.DIN, Q.S MCU.16'
const echo = { ...pass, S: 'hc-sr04' }
const echoFed = 'S.VCC MCU.VIN, S.GND MCU.GND, S.TRIG MCU.19, Q.D S.ECHO, Q.S MCU.18'
const text = {
  ...pass,
  P: { part: 'nmos', options: { model: '2n7000' } },
  U: ohms(10_000),
  V: ohms(10_000),
  L: 'lcd-i2c',
}
const textFed =
  'L.VCC MCU.VIN, L.GND MCU.GND, Q.D L.SDA, Q.S MCU.21, P.D L.SCL, P.S MCU.22, P.G MCU.3V3, U.1 MCU.3V3, U.2 P.S'
const textPulled = `${textFed}, V.1 MCU.VIN, V.2 P.D`

export const soundForgotten: readonly (Short & { title: string })[] = [
  {
    title: 'a motion sensor that lights a lamp by itself, while a pin reads along',
    mcu: 'esp32-devkit-30',
    parts: { P: 'hc-sr501', Q: 'npn', R: ohms(1000), L: led(), S: ohms(470) },
    wires:
      'P.VCC MCU.VIN, P.GND MCU.GND, P.OUT MCU.GPIO34, P.OUT R.1, R.2 Q.B, Q.E MCU.GND, Q.C L.K, L.A S.1, S.2 MCU.3V3',
  },
  {
    title: 'two end switches that meet at their rests, which a third contact leads to ground',
    mcu: 'mega-2560-r3',
    parts: { L: 'limit-switch', M: 'limit-switch', B: 'slide-switch' },
    wires: 'L.COM MCU.22, M.COM MCU.23, L.NC M.NC, B.C L.NC, B.1 MCU.GND',
    unused: ['B.2'],
  },
  {
    title: 'two transistors turn the level of a switched battery line round twice',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { P: 'npn', Q: 'npn', B: 'reed-switch', R: ohms(22_000), S: ohms(10_000), T: ohms(10_000), U: ohms(10_000) },
    wires:
      'PACK.- MCU.GND, B.1 PACK.+, B.2 R.1, R.2 P.B, P.E MCU.GND, P.C S.1, S.2 MCU.5V, P.C T.1, T.2 Q.B, Q.E MCU.GND, Q.C MCU.7, U.1 MCU.7, U.2 MCU.5V',
  },
  {
    title: 'a lamp on a P-channel transistor, its resistor behind it',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', L: led(), R: ohms(10_000), S: ohms(330) },
    wires: 'Q.S MCU.5V, Q.D S.1, S.2 L.A, L.K MCU.GND, Q.G MCU.8, R.1 Q.G, R.2 Q.S',
  },
  {
    title: 'a battery that a P-channel transistor leads to a divider while it is measured',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'pmos', N: 'npn', B: ohms(4700), U: ohms(10_000), R: ohms(20_000), S: ohms(10_000) },
    wires:
      'Q.S PACK.+, PACK.- MCU.GND, U.1 Q.S, U.2 Q.G, N.C Q.G, N.E MCU.GND, N.B B.1, B.2 MCU.8, Q.D R.1, R.2 MCU.A0, S.1 R.2, S.2 MCU.GND',
  },
  {
    title: 'a pump on a P-channel transistor, its diode across it',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', Q: 'pmos', D: 'diode', R: ohms(10_000) },
    wires: 'Q.S PACK.+, Q.D M.+, M.- PACK.-, PACK.- MCU.GND, Q.G MCU.8, R.1 Q.G, R.2 Q.S, D.A M.-, D.K M.+',
  },
  {
    title: 'a pump between two outputs of a bridge',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', H: 'l9110s' },
    wires: 'H.VCC PACK.+, H.GND PACK.-, PACK.- MCU.GND, H.A-IA MCU.5, H.A-IB MCU.6, H.OA1 M.+, H.OA2 M.-',
  },
  {
    title: 'a serial cable whose red lead stays open, beside a board on its socket',
    mcu: 'pi-40',
    parts: { C: 'usb-ttl-cable' },
    wires: 'C.GND MCU.GND, C.RXD MCU.GPIO14, C.TXD MCU.GPIO15',
  },
  {
    title: 'a pump over the contact of a relay',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', K: 'relay-1' },
    wires: `${five('K')}, K.IN MCU.7, PACK.+ K.COM, K.NO M.+, M.- PACK.-`,
  },
  {
    title: 'the second relay of two alone, in the minus of a lamp',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { M: 'lamp', K: 'relay-2' },
    wires: `${five('K')}, K.IN2 MCU.7, PACK.+ M.+, M.- K.NO2, K.COM2 PACK.-`,
  },
  {
    title: 'two relays turn a motor both ways',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'dc-motor', K: 'relay-2' },
    wires: `${five('K')}, K.IN1 MCU.7, K.IN2 MCU.8, PACK.+ K.NO1, PACK.- K.NC1, PACK.+ K.NO2, PACK.- K.NC2, K.COM1 M.M1, K.COM2 M.M2`,
  },
  {
    title: 'a buzzer over the contact of a relay',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', K: 'relay-1' },
    wires: `${five('K')}, K.IN MCU.7, MCU.5V K.COM, K.NO M.+, M.- MCU.GND`,
  },
  {
    title: 'a buzzer that a button sounds',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', B: 'button' },
    wires: 'MCU.5V B.1, B.2 M.+, M.- MCU.GND',
  },
  {
    title: 'the same with the button in its minus',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', B: 'button' },
    wires: 'MCU.5V M.+, M.- B.1, B.2 MCU.GND',
  },
  {
    title: 'a buzzer on a transistor',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active', Q: 'npn', R: ohms(1000) },
    wires: 'MCU.5V M.+, M.- Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.8',
  },
  {
    title: 'a buzzer without a tone of its own on a transistor',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-passive', Q: 'npn', R: ohms(1000) },
    wires: 'MCU.5V M.+, M.- Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.9',
  },
  {
    title: 'a laser on a transistor',
    mcu: 'pico',
    parts: { M: 'laser-diode', Q: 'npn', R: ohms(1000) },
    wires: 'MCU.VBUS M.S, M.- Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.GP9',
  },
  {
    title: 'a transistor and two resistors lift the data of a strip to 5 V',
    mcu: 'esp32-devkit-30',
    parts: strip,
    wires: `${passes('MCU.3V3', 'MCU.VIN')}, ${stripFed}`,
  },
  {
    title: 'the same without the resistor on the side of the pin, which drives both ways',
    mcu: 'esp32-devkit-30',
    parts: { Q: strip.Q, T: strip.T, S: strip.S },
    wires: `Q.G MCU.3V3, T.1 MCU.VIN, T.2 Q.D, ${stripFed}`,
  },
  {
    title: 'a transistor and two resistors bring an echo of 5 V down',
    mcu: 'esp32-devkit-30',
    parts: echo,
    wires: `${passes('MCU.3V3', 'MCU.VIN')}, ${echoFed}`,
  },
  {
    title: 'the same without the resistor on the side of the echo, which drives both ways',
    mcu: 'esp32-devkit-30',
    parts: { Q: echo.Q, R: echo.R, S: echo.S },
    wires: `Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, ${echoFed}`,
  },
  {
    title: 'two transistors between a 3.3 V bus and a display at 5 V',
    mcu: 'esp32-devkit-30',
    parts: text,
    wires: `${passes('MCU.3V3', 'MCU.VIN')}, ${textPulled}`,
  },
  {
    title: 'the same where the module itself pulls its side up',
    mcu: 'esp32-devkit-30',
    parts: { Q: text.Q, R: text.R, P: text.P, U: text.U, L: text.L },
    wires: `Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, ${textFed}`,
  },
  {
    title: 'a transistor between a 5 V board and the ear of a 3.3 V radio',
    mcu: 'uno-r3',
    parts: { ...pass, H: 'hm-10' },
    wires: `H.VCC MCU.5V, H.GND MCU.GND, H.TXD MCU.2, ${passes('MCU.3V3', 'MCU.5V')}, Q.S H.RXD, Q.D MCU.3`,
  },
  {
    title: 'a transistor between the serial lines of two boards',
    boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
    parts: pass,
    wires: `A.GND B.GND, ${passes('B.3V3', 'A.5V')}, Q.D A.1, Q.S B.16`,
  },
  {
    title: 'a light sensor and its resistor, read in the middle',
    mcu: 'uno-r3',
    parts: divider,
    wires: 'P.1 MCU.5V, P.2 R.1, R.2 MCU.GND, P.2 MCU.A0',
  },
  {
    title: 'a light sensor that moves a transistor and nothing else',
    mcu: 'uno-r3',
    parts: dark,
    wires: 'P.1 MCU.5V, P.2 Q.B, R.1 Q.B, R.2 MCU.GND, Q.E MCU.GND, Q.C L.K, L.A S.1, S.2 MCU.5V',
  },
  {
    title: 'a button that lights a lamp without the board',
    mcu: 'uno-r3',
    parts: { B: 'button', R: ohms(330), L: 'led' },
    wires: 'B.1 MCU.5V, B.2 R.1, R.2 L.A, L.K MCU.GND',
  },
  {
    title: 'two legs of a knob dim a lamp',
    mcu: 'uno-r3',
    parts: dimmed,
    wires: 'K.1 MCU.5V, K.W R.1, R.2 L.A, L.K MCU.GND',
  },
  {
    title: 'the same with the third leg on the tap, from a pin',
    mcu: 'uno-r3',
    parts: dimmed,
    wires: 'K.1 MCU.9, K.W K.3, K.3 R.1, R.2 L.A, L.K MCU.GND',
  },
  {
    title: 'the same on the side of ground',
    mcu: 'uno-r3',
    parts: dimmed,
    wires: 'L.A MCU.9, L.K R.1, R.2 K.3, K.W MCU.GND',
  },
  {
    title: 'the same, its resistor between pin and tap',
    mcu: 'uno-r3',
    parts: dimmed,
    wires: 'R.1 MCU.9, R.2 K.W, K.3 L.A, L.K MCU.GND',
  },
  {
    title: 'the same, sunk by a pin behind lamp and resistor',
    mcu: 'uno-r3',
    parts: dimmed,
    wires: 'K.3 MCU.5V, K.W L.A, L.K R.1, R.2 MCU.9',
  },
  {
    title: 'a knob that is read through a resistor',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', R: ohms(1000) },
    wires: 'K.1 MCU.GND, K.3 MCU.5V, K.W R.1, R.2 MCU.A0',
  },
  {
    title: 'a knob that is read, its three legs wired',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.GND, K.3 MCU.5V, K.W MCU.A0',
  },
  {
    title: 'a switch in the minus of a battery',
    mcu: 'uno-r3',
    parts: { C: { part: 'battery-box', options: { volts: 9 } }, S: 'slide-switch' },
    wires: 'C.+ MCU.VIN, C.- S.C, S.1 MCU.GND',
  },
  {
    title: 'two batteries behind a diode each',
    mcu: 'uno-r3',
    supplies: { A: { volts: 9 }, B: { volts: 9 } },
    parts: { D: 'diode', E: 'diode' },
    wires: 'A.+ D.A, B.+ E.A, D.K MCU.VIN, E.K MCU.VIN, A.- MCU.GND, B.- MCU.GND',
  },
  {
    title: 'a sensor whose ground is switched, so that it sleeps',
    parts: { Q: 'nmos', S: 'soil-capacitive', R: ohms(10_000) },
    wires: 'S.VCC MCU.3V3, S.GND Q.D, Q.S MCU.GND, Q.G MCU.GPIO25, R.1 Q.G, R.2 MCU.GND, S.AOUT MCU.GPIO34',
  },
  {
    title: 'a bridge of four transistors',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5 } },
    parts: {
      P: 'pmos',
      S: 'pmos',
      N: 'nmos',
      T: 'nmos',
      M: 'dc-motor',
      A: ohms(1e4),
      B: ohms(1e4),
      C: ohms(1e4),
      D: ohms(1e4),
    },
    wires:
      'PACK.- MCU.GND, P.S PACK.+, S.S PACK.+, N.S MCU.GND, T.S MCU.GND, P.D M.M1, N.D M.M1, S.D M.M2, T.D M.M2, P.G MCU.5, N.G MCU.6, S.G MCU.9, T.G MCU.10, A.1 P.G, A.2 PACK.+, B.1 S.G, B.2 PACK.+, C.1 N.G, C.2 MCU.GND, D.1 T.G, D.2 MCU.GND',
  },
  {
    title: 'a lamp on the side of the supply, its transistor moved by another',
    supplies: { PACK: { volts: 12 } },
    parts: { P: 'pmos', Q: 'npn', B: ohms(4700), U: ohms(1e4), L: { part: 'lamp', options: { volts: 12 } } },
    wires:
      'P.S PACK.+, P.D L.+, L.- PACK.-, PACK.- MCU.GND, U.1 P.G, U.2 P.S, Q.C P.G, Q.E MCU.GND, Q.B B.1, B.2 MCU.GPIO25',
  },
  {
    title: 'a transistor turns a switched battery line round for a pin that reads',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12 } },
    parts: { Q: 'npn', B: 'button', R: ohms(22_000), U: ohms(10_000) },
    wires: 'PACK.+ B.1, B.2 R.1, R.2 Q.B, Q.E MCU.GND, PACK.- MCU.GND, Q.C MCU.4, U.1 MCU.4, U.2 MCU.5V',
  },
  {
    title: 'a bus on pins of one’s own choice',
    parts: { A: 'sht31' },
    wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO26, A.SCL MCU.GPIO25, A.ADDR MCU.GND',
  },
  {
    title: 'a memory with pull-ups, both lines wired',
    mcu: 'uno-r3',
    parts: memory,
    wires: `${memoryFed}, ${i2c('A4', 'A5', 'M')}`,
  },
  {
    title: 'a display selected for good, alone on its bus',
    mcu: 'pico',
    parts: { D: 'st7735' },
    wires: `${display}, D.CS MCU.GND`,
  },
  {
    title: 'of a flame sensor only the output of its threshold',
    parts: { F: 'flame-ir' },
    wires: 'F.VCC MCU.3V3, F.GND MCU.GND, F.DO MCU.32',
  },
  {
    title: 'of a line sensor only the analog output',
    mcu: 'uno-r3',
    parts: { L: 'line-tcrt5000' },
    wires: `${five('L')}, L.AO MCU.A0`,
  },
  {
    title: 'a colour sensor with a regulator of its own',
    mcu: 'uno-r3',
    parts: { C: 'as7341' },
    wires: `C.VIN MCU.3V3, C.GND MCU.GND, ${i2c('A4', 'A5', 'C')}`,
  },
]

export const mistakenForgotten: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'the base of a transistor straight on the output of a motion sensor',
    rule: 'pin-current',
    mcu: 'uno-r3',
    parts: { P: 'hc-sr501', Q: 'npn', L: led(), S: ohms(470) },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.OUT Q.B, Q.E MCU.GND, Q.C L.K, L.A S.1, S.2 MCU.5V',
  },
  {
    title: 'a sensor of light that went to the reference instead of the pin beside it',
    rule: 'pin-not-signal',
    mcu: 'nano-v3',
    parts: { L: 'ldr', R: ohms(10_000) },
    wires: 'L.1 MCU.5V, L.2 MCU.AREF, R.1 L.2, R.2 MCU.GND',
  },
  {
    title: 'the minus of a lamp one post beside ground, on the clock of a bus',
    rule: 'pin-shared',
    mcu: 'pi-40',
    parts: { A: 'ads1115', L: led(), R: ohms(470) },
    wires:
      'A.VDD MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO2, A.SCL MCU.GPIO3, A.ADDR MCU.GND, L.A R.1, R.2 MCU.GPIO17, L.K MCU.GPIO3',
  },
  {
    title: 'lamps and buttons on a row for ground that leads to no ground',
    rule: 'load-return',
    mcu: 'uno-r3',
    parts: { L: led(), M: led(), R: ohms(330), S: ohms(330), B: 'button', C: 'button' },
    wires: 'L.A R.1, R.2 MCU.8, M.A S.1, S.2 MCU.9, B.1 MCU.2, C.1 MCU.3, L.K M.K, M.K B.2, B.2 C.2',
  },
  {
    title: 'lamps and buttons on a row for the supply that leads to no supply',
    rule: 'load-return',
    mcu: 'pico',
    parts: { L: led(), M: led(), R: ohms(470), S: ohms(470), B: 'button' },
    wires: 'L.K R.1, R.2 MCU.GP8, M.K S.1, S.2 MCU.GP9, B.1 MCU.GP2, L.A M.A, M.A B.2',
  },
  {
    title: 'two end switches that meet at their rests, without ground',
    rule: 'level-logic',
    mcu: 'mega-2560-r3',
    parts: { L: 'limit-switch', M: 'limit-switch' },
    wires: 'L.COM MCU.22, M.COM MCU.23, L.NC M.NC',
  },
  {
    title: 'a valve whose transistor was put in with gate and source exchanged',
    rule: 'polarity',
    mcu: 'esp8266-d1-mini',
    supplies: pack(12),
    parts: { N: 'nmos', M: { part: 'solenoid', options: { volts: 12 } }, R: ohms(10_000), D: 'diode' },
    wires: 'PACK.- MCU.GND, M.+ PACK.+, M.- N.D, N.G MCU.GND, N.S MCU.D5, R.1 N.S, R.2 MCU.GND, D.K M.+, D.A M.-',
  },
  {
    title: 'a motor with a fuse before its transistor, its diode the wrong way round',
    rule: 'polarity',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { N: 'nmos', M: 'dc-motor', R: ohms(10_000), D: 'diode', F: 'fuse' },
    wires:
      'PACK.- MCU.GND, M.M1 PACK.+, M.M2 F.1, F.2 N.D, N.S MCU.GND, N.G MCU.6, R.1 N.G, R.2 MCU.GND, D.A M.M1, D.K M.M2',
  },
  {
    title: 'transistors between two levels, drain and source exchanged',
    rule: 'level-damage',
    mcu: 'esp32-devkit-30',
    parts: { Q: text.Q, R: text.R, P: text.P, U: text.U, L: text.L },
    wires:
      'Q.G MCU.3V3, P.G MCU.3V3, R.1 MCU.3V3, R.2 Q.D, U.1 MCU.3V3, U.2 P.D, L.VCC MCU.VIN, L.GND MCU.GND, Q.S L.SDA, Q.D MCU.21, P.S L.SCL, P.D MCU.22',
  },
  {
    title: 'a pump on an array of sinks, its other lead on ground',
    rule: 'load-return',
    mcu: 'esp32-devkit-30',
    supplies: pack(6),
    parts: { U: 'uln2803', M: { part: 'dc-motor', options: { milliamps: 200, stall: 400 } } },
    wires: 'PACK.- MCU.GND, U.GND MCU.GND, U.COM PACK.+, U.1B MCU.GPIO23, U.1C M.M1, M.M2 MCU.GND',
  },
  {
    title: 'a resistor meant to hold the output of a transistor high, on ground',
    rule: 'level-logic',
    mcu: 'nano-v3',
    supplies: pack(9),
    parts: { Q: 'npn', R: ohms(22_000), S: ohms(10_000), B: 'reed-switch' },
    wires: 'PACK.- MCU.GND, B.1 PACK.+, B.2 R.1, R.2 Q.B, Q.E MCU.GND, Q.C MCU.7, S.1 MCU.7, S.2 MCU.GND',
  },
  {
    title: 'a transistor read by a pin that has no pull inside',
    rule: 'pin-pull',
    mcu: 'esp32-devkit-38',
    supplies: pack(9),
    parts: { Q: 'npn', R: ohms(22_000), B: 'reed-switch' },
    wires: 'PACK.- MCU.GND, B.1 PACK.+, B.2 R.1, R.2 Q.B, Q.E MCU.GND, Q.C MCU.GPIO36',
  },
  {
    title: 'legs of an address joined with each other, without the wire to ground',
    rule: 'strap-needed',
    mcu: 'pico',
    parts: { X: 'mcp23017', U: ohms(4700), V: ohms(4700) },
    wires:
      'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.GP4, X.SCL MCU.GP5, X.RESET MCU.3V3, U.1 X.SDA, U.2 MCU.3V3, V.1 X.SCL, V.2 MCU.3V3, X.A0 X.A1, X.A1 X.A2',
  },
  {
    title: 'the row of contrast, write line and backlight of a display without its ground',
    rule: 'strap-needed',
    mcu: 'uno-r3',
    parts: { L: 'lcd-parallel' },
    wires:
      'L.VSS MCU.GND, L.VDD MCU.5V, L.RS MCU.2, L.E MCU.3, L.D4 MCU.4, L.D5 MCU.5, L.D6 MCU.6, L.D7 MCU.7, L.V0 L.RW, L.RW L.K, L.A MCU.5V',
  },
  {
    title: 'two buzzers whose minus legs meet, without ground',
    rule: 'load-return',
    mcu: 'uno-r3',
    parts: { L: 'buzzer-active', M: 'buzzer-active' },
    wires: 'L.+ MCU.2, M.+ MCU.3, L.- M.-',
  },
  {
    title: 'a buzzer and a lamp that meet with their minus sides',
    rule: 'load-return',
    mcu: 'uno-r3',
    parts: { L: 'buzzer-active', M: led(), R: ohms(330) },
    wires: 'L.+ MCU.2, M.A MCU.3, M.K R.1, R.2 L.-',
  },
  {
    rule: 'i2c-pullup',
    title: 'a memory behind two transistors, its own side without resistors',
    mcu: 'esp32-devkit-30',
    parts: { Q: pass.Q, R: pass.R, P: text.P, U: text.U, M: 'at24c256' },
    wires:
      'M.VCC MCU.VIN, M.GND MCU.GND, M.A0 MCU.GND, M.A1 MCU.GND, M.A2 MCU.GND, M.WP MCU.GND, Q.G MCU.3V3, P.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, U.1 MCU.3V3, U.2 P.S, Q.S MCU.21, P.S MCU.22, Q.D M.SDA, P.D M.SCL',
  },
  {
    rule: 'supply-missing',
    title: 'a converter whose input lies on ground',
    mcu: 'esp32-devkit-30',
    parts: { C: 'charger-tp4056', U: 'boost' },
    wires: 'C.OUT- MCU.GND, U.IN+ MCU.GND, U.IN- C.OUT-, U.OUT- C.OUT-, U.OUT+ MCU.VIN',
  },
  {
    rule: 'flyback',
    title: 'a pump on a P-channel transistor without a diode',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', Q: 'pmos', R: ohms(10_000) },
    wires: 'Q.S PACK.+, Q.D M.+, M.- PACK.-, PACK.- MCU.GND, Q.G MCU.8, R.1 Q.G, R.2 Q.S',
  },
  {
    rule: 'driver-idle',
    title: 'the second relay carries the pump, and the first one has the pin',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'pump', K: 'relay-2' },
    wires: `${five('K')}, K.IN1 MCU.7, PACK.+ K.COM2, K.NO2 M.+, M.- PACK.-`,
  },
  {
    rule: 'driver-idle',
    title: 'one of two relays that turn a motor has no pin',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'dc-motor', K: 'relay-2' },
    wires: `${five('K')}, K.IN1 MCU.7, PACK.+ K.NO1, PACK.- K.NC1, PACK.+ K.NO2, PACK.- K.NC2, K.COM1 M.M1, K.COM2 M.M2`,
  },
  {
    rule: 'supply-range',
    title: 'a pump of 5 V over a relay on 12 V',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { M: 'pump', K: 'relay-1' },
    wires: `${five('K')}, K.IN MCU.7, PACK.+ K.COM, K.NO M.+, M.- PACK.-`,
  },
  {
    rule: 'pin-on-rail',
    title: 'a buzzer without a tone of its own straight on the supply',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-passive' },
    wires: 'MCU.5V M.+, M.- MCU.GND',
  },
  {
    rule: 'pin-on-rail',
    title: 'a buzzer straight on the supply',
    mcu: 'uno-r3',
    parts: { M: 'buzzer-active' },
    wires: 'MCU.5V M.+, M.- MCU.GND',
  },
  {
    rule: 'input-floating',
    title: 'a transistor lifts the data of a strip, and nothing pulls that side up',
    mcu: 'esp32-devkit-30',
    parts: { Q: strip.Q, R: strip.R, S: strip.S },
    wires: `Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, ${stripFed}`,
  },
  {
    rule: 'input-floating',
    title: 'a transistor brings an echo down, and nothing pulls the side of the pin up',
    mcu: 'esp32-devkit-30',
    parts: { Q: echo.Q, T: echo.T, S: echo.S },
    wires: `Q.G MCU.3V3, T.1 MCU.VIN, T.2 Q.D, ${echoFed}`,
  },
  {
    rule: 'input-floating',
    title: 'two transistors before a display, and nothing pulls one line of the board up',
    mcu: 'esp32-devkit-30',
    parts: { Q: text.Q, T: text.T, P: text.P, U: text.U, V: text.V, L: text.L },
    wires: `Q.G MCU.3V3, T.1 MCU.VIN, T.2 Q.D, ${textPulled}`,
  },
  {
    rule: 'level-damage',
    title: 'a transistor between two levels, turned round',
    mcu: 'esp32-devkit-30',
    parts: echo,
    wires:
      'Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.D, T.1 MCU.VIN, T.2 Q.S, S.VCC MCU.VIN, S.GND MCU.GND, S.TRIG MCU.19, Q.S S.ECHO, Q.D MCU.18',
  },
  {
    rule: 'level-damage',
    title: 'a transistor between two levels, its gate on the stronger supply',
    mcu: 'esp32-devkit-30',
    parts: echo,
    wires: `Q.G MCU.VIN, R.1 MCU.3V3, R.2 Q.S, T.1 MCU.VIN, T.2 Q.D, ${echoFed}`,
  },
  {
    rule: 'level-damage',
    title: 'the same without the resistor of the weaker side',
    mcu: 'esp32-devkit-30',
    parts: { Q: echo.Q, T: echo.T, S: echo.S },
    wires: `Q.G MCU.VIN, T.1 MCU.VIN, T.2 Q.D, ${echoFed}`,
  },
  {
    title: 'a knob alone before a lamp, which turned down is none',
    rule: 'led-resistor',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', L: 'led' },
    wires: 'K.1 MCU.5V, K.W L.A, L.K MCU.GND',
  },
  {
    title: 'a knob that is read lacks an end',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.3 MCU.5V, K.W MCU.A0',
  },
  ...(['1', '3'] as const).map((end) => ({
    title: `a knob that is read through a resistor lacks end ${end}`,
    rule: 'supply-missing',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', R: ohms(1000) },
    wires: `K.${end} MCU.${end === '1' ? '5V' : 'GND'}, K.W R.1, R.2 MCU.A0`,
  })),
  {
    title: 'of a line sensor neither output',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: { L: 'line-tcrt5000' },
    wires: five('L'),
  },
  {
    title: 'nobody reads the middle of a divider',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: divider,
    wires: 'P.1 MCU.5V, P.2 R.1, R.2 MCU.GND',
  },
  {
    title: 'nobody reads a button with its pull-down',
    rule: 'pin-unplaced',
    mcu: 'pico',
    parts: { B: 'button', R: ohms(10_000) },
    wires: 'B.1 MCU.3V3, B.2 R.1, R.2 MCU.GND',
  },
  {
    title: 'the clock of a memory ends at its pull-up',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: memory,
    wires: `${memoryFed}, M.SDA MCU.A4`,
  },
  {
    title: 'the supply of a sensor with a regulator of its own is on ground',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    parts: { C: 'as7341' },
    wires: `C.VIN MCU.GND, C.GND MCU.GND, ${i2c('A4', 'A5', 'C')}`,
  },
  {
    title: 'the ground of a cable is on the supply',
    rule: 'supply-missing',
    mcu: 'mega-2560-r3',
    parts: { U: 'usb-ttl-cable' },
    wires: 'U.GND MCU.5V, U.TXD MCU.19, U.RXD MCU.18',
  },
  {
    title: 'the ground of a cable is on a pin',
    rule: 'supply-missing',
    mcu: 'mega-2560-r3',
    parts: { U: 'usb-ttl-cable' },
    wires: 'U.GND MCU.22, U.TXD MCU.19, U.RXD MCU.18',
  },
  {
    title: 'a converter that is selected for good never starts anew',
    rule: 'spi-select',
    mcu: 'uno-r3',
    parts: { A: 'mcp3008' },
    wires: `${converter}, A.CS MCU.GND`,
  },
  {
    title: 'the ear of a gas meter is on ground',
    rule: 'pin-on-rail',
    mcu: 'mega-2560-r3',
    parts: { G: 'mh-z19' },
    wires: 'G.VIN MCU.5V, G.GND MCU.GND, G.TX MCU.19, G.RX MCU.GND',
  },
  {
    title: 'a bus driver is told to be dominant for good',
    rule: 'pin-on-rail',
    parts: { T: 'sn65hvd230' },
    wires: 'T.3V3 MCU.3V3, T.GND MCU.GND, T.CTX MCU.GND, T.CRX MCU.GPIO16',
  },
  ...(['A.5V', 'A.GND'] as const).map((rail) => ({
    title: `one side of a shifter is on ${rail}, the other at a pin`,
    rule: 'pin-on-rail',
    boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
    parts: { S: 'shifter-bss138' },
    wires: `S.HV A.5V, S.LV B.3V3, S.GND A.GND, A.GND B.GND, S.LV1 B.GP2, S.HV1 ${rail}`,
  })),
  {
    title: 'the sender of a line converter is on ground',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { X: 'max3232' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.T1IN MCU.D1, X.T1OUT MCU.GND',
  },
  ...(['st7735', 'gc9a01'] as const).map((part) => ({
    title: `data or command of ${part} is on the supply`,
    rule: 'pin-on-rail',
    mcu: 'pico',
    parts: { D: part },
    wires:
      part === 'st7735'
        ? 'D.VCC MCU.3V3, D.GND MCU.GND, D.CS MCU.GP17, D.RESET MCU.GP21, D.A0 MCU.3V3, D.SDA MCU.GP19, D.SCK MCU.GP18, D.LED MCU.3V3'
        : 'D.VCC MCU.3V3, D.GND MCU.GND, D.CS MCU.GP17, D.RST MCU.GP21, D.DC MCU.3V3, D.SDA MCU.GP19, D.SCL MCU.GP18',
  })),
  {
    title: 'one relay of two is tied to the supply',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { K: 'relay-2' },
    wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.D4, K.IN2 MCU.5V',
  },
  {
    title: 'a way through a shifter that ends there',
    rule: 'pin-unplaced',
    boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
    parts: { S: 'shifter-bss138' },
    wires: 'S.HV A.5V, S.LV B.3V3, S.GND A.GND, A.GND B.GND, S.LV1 B.GP2',
  },
  {
    title: 'a converter of two grounds lacks one',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    parts: { A: 'mcp3008' },
    wires: `${converter.replace(/, A\.AGND [^,]*/, '')}, A.CS MCU.D10`,
  },
  {
    title: 'two boards talk through a divider and share no ground',
    rule: 'common-ground',
    boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
    parts: { R: ohms(1000), S: ohms(2000) },
    wires: 'A.D3 R.1, R.2 B.GPIO16, S.1 B.GPIO16, S.2 B.GND',
  },
  {
    title: 'a switch of the supply whose pack shares no ground with its board',
    rule: 'common-ground',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5 } },
    parts: { P: 'pmos', M: { part: 'lamp', options: { volts: 5 } }, R: ohms(10_000) },
    wires: 'P.S PACK.+, P.G MCU.D7, P.D M.+, M.- PACK.-, R.1 P.G, R.2 P.S',
  },
  {
    title: 'a pull-up whose other leg is forgotten',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: { B: 'button', U: ohms(10_000) },
    wires: 'B.1 MCU.D3, B.2 MCU.GND, U.1 MCU.D3',
  },
  {
    title: 'the usual pins of a bus, exchanged',
    rule: 'bus-pins',
    parts: { A: 'sht31' },
    wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO22, A.SCL MCU.GPIO21, A.ADDR MCU.GND',
  },
  {
    title: 'the usual pins of a serial port, exchanged',
    rule: 'bus-pins',
    parts: { G: 'gps-uart' },
    wires: 'G.VCC MCU.3V3, G.GND MCU.GND, G.TX MCU.GPIO17, G.RX MCU.GPIO16',
  },
  {
    title: 'an address leg hangs on a button',
    rule: 'strap-needed',
    parts: { X: 'mcp23008', B: 'button', P: ohms(4700), Q: ohms(4700) },
    wires:
      'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.GPIO21, X.SCL MCU.GPIO22, P.1 MCU.3V3, P.2 X.SDA, Q.1 MCU.3V3, Q.2 X.SCL, X.RESET MCU.3V3, X.A0 B.1, B.2 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND',
  },
  {
    title: 'a lamp on a P-channel transistor, its resistor forgotten',
    rule: 'led-resistor',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', L: led(), R: ohms(10_000) },
    wires: 'Q.S MCU.5V, Q.D L.A, L.K MCU.GND, Q.G MCU.8, R.1 Q.G, R.2 Q.S',
  },
  {
    title: 'the same with the lamp between the transistor and a pin',
    rule: 'led-resistor',
    parts: { Q: 'pmos', L: led(), R: ohms(10_000) },
    wires: 'Q.S MCU.3V3, Q.D L.A, L.K MCU.GPIO25, Q.G MCU.GPIO26, R.1 Q.G, R.2 Q.S',
  },
  {
    title: 'a transistor that would turn a battery line round, its collector forgotten',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12 } },
    parts: { Q: 'npn', B: 'button', R: ohms(22_000), U: ohms(10_000) },
    wires: 'PACK.+ B.1, B.2 R.1, R.2 Q.B, Q.E MCU.GND, PACK.- MCU.GND, U.1 MCU.4, U.2 MCU.5V',
  },
  {
    title: 'load and pin of a transistor exchanged',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12 } },
    parts: { Q: 'npn', R: ohms(1000), L: { part: 'lamp', options: { volts: 12 } } },
    wires: 'L.+ PACK.+, L.- Q.B, PACK.- MCU.GND, Q.E MCU.GND, Q.C R.1, R.2 MCU.5',
  },
  {
    title: 'the same with a small lamp behind its resistor',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12 } },
    parts: { Q: 'npn', R: ohms(1000), L: led(), S: ohms(680) },
    wires: 'L.A PACK.+, L.K S.1, S.2 Q.B, PACK.- MCU.GND, Q.E MCU.GND, Q.C R.1, R.2 MCU.5',
  },
  {
    title: 'a data line of a display is on ground',
    rule: 'pin-on-rail',
    mcu: 'uno-r3',
    parts: { D: 'ds1302' },
    wires: `${five('D')}, D.CLK MCU.5, D.DAT MCU.6, D.RST MCU.GND`,
  },
]
