import type { Short } from './plans.ts'
import { cap, five, i2c, led, motor, ohms, pack } from './short.ts'

/** What is led over something: sound over capacitors, keys over resistors, loads over fuses, cells over switches. */

const amplifier = { A: 'pam8403', S: 'speaker' }
const amplified = 'A.VCC PACK.+, A.GND PACK.-, PACK.- MCU.GND, A.LOUT+ S.+, A.LOUT- S.-'
const keys = { B: 'button', C: 'button', D: 'button', U: ohms(10_000) }
const ladder = (one: number, two: number, three: number) => ({
  ...keys,
  R: ohms(one),
  S: ohms(two),
  T: ohms(three),
})
/** Each key with its own resistor to ground. */
const fan = (pin: string, rail: string): string =>
  `U.1 ${rail}, U.2 ${pin}, ${[...'BCD'].map((key, at) => `${key}.1 ${pin}, ${key}.2 ${'RST'[at]}.1, ${'RST'[at]}.2 MCU.GND`).join(', ')}`
const switched = {
  Q: { part: 'nmos', options: { model: 'irlz44n' } },
  M: { ...motor(), mode: 'switched' },
  R: ohms(10_000),
}
const driven = 'PACK.- MCU.GND, Q.S MCU.GND, Q.G MCU.5, R.1 Q.G, R.2 MCU.GND, PACK.+ M.M1'
const fuse = { part: 'fuse', options: { milliamps: 2000 } }
const registers = { X: '74hc595', Y: '74hc595', R: ohms(100), S: ohms(100) }
const shifting =
  'X.SER MCU.11, X.RCLK MCU.10, Y.RCLK MCU.10, Y.SER X.QHS, X.OE MCU.GND, Y.OE MCU.GND, X.SRCLR MCU.5V, Y.SRCLR MCU.5V'
const bridge = { H: 'l293d', M: motor(), R: ohms(1000) }
const bridged =
  'H.VCC1 MCU.5V, H.GND MCU.GND, H.VCC2 PACK.+, PACK.- MCU.GND, H.EN12 MCU.5V, H.1Y M.M1, H.2Y M.M2, H.1A MCU.5'

export const soundOver: readonly (Short & { title: string })[] = [
  {
    title: 'a loudspeaker over a capacitor and 100 Ω',
    mcu: 'uno-r3',
    parts: { S: 'speaker', C: cap(1e-4), R: ohms(100) },
    wires: 'S.+ C.2, C.1 R.1, R.2 MCU.9, S.- MCU.GND',
  },
  {
    title: 'a piezo disc over a capacitor',
    mcu: 'uno-r3',
    parts: { P: 'buzzer-passive', C: cap(1e-5) },
    wires: 'P.+ C.2, C.1 MCU.9, P.- MCU.GND',
  },
  {
    title: 'an amplifier over a resistor and a capacitor in series',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { ...amplifier, C: cap(1e-6), R: ohms(1000) },
    wires: `${amplified}, A.L C.2, C.1 R.1, R.2 MCU.9`,
  },
  {
    title: 'a knob for loudness between pin and amplifier',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { ...amplifier, K: 'potentiometer' },
    wires: `${amplified}, K.3 MCU.9, K.1 MCU.GND, K.W A.L`,
  },
  {
    title: 'a sound player into an amplifier, over a knob',
    parts: { ...amplifier, D: 'dfplayer', K: 'potentiometer', R: ohms(1000) },
    supplies: pack(5),
    wires: `${amplified}, D.VCC PACK.+, D.GND PACK.-, D.RX R.1, R.2 MCU.TX2, D.TX MCU.RX2, K.3 D.DAC_L, K.1 PACK.-, K.W A.L`,
  },
  {
    title: 'two knobs in a row, coarse and fine',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer', L: 'potentiometer' },
    wires: 'K.3 MCU.5V, K.1 MCU.GND, K.W L.3, L.1 MCU.GND, L.W MCU.A0',
  },
  {
    title: 'three keys at one analog pin',
    mcu: 'uno-r3',
    parts: ladder(1000, 2200, 4700),
    wires: fan('MCU.A0', 'MCU.5V'),
  },
  {
    title: 'three keys at one analog pin, the resistors in a row',
    parts: { ...keys, R: ohms(2200), S: ohms(4700) },
    wires:
      'U.1 MCU.3V3, U.2 MCU.34, B.1 MCU.34, B.2 MCU.GND, R.1 MCU.34, R.2 C.1, C.2 MCU.GND, S.1 C.1, S.2 D.1, D.2 MCU.GND',
  },
  {
    title: 'two end switches side by side at an analog pin',
    mcu: 'pico',
    parts: { A: 'limit-switch', B: 'limit-switch', U: ohms(10_000) },
    wires: 'U.1 MCU.3V3, U.2 MCU.GP26, A.COM MCU.GP26, A.NO MCU.GND, B.COM MCU.GP26, B.NO MCU.GND',
  },
  {
    title: 'an echo of 5 V held back by a diode',
    parts: { S: 'hc-sr04', D: 'diode', R: ohms(10_000) },
    wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.TRIG MCU.5, S.ECHO D.K, D.A MCU.18, R.1 MCU.3V3, R.2 MCU.18',
  },
  {
    title: 'a motor whose fuse lies before its transistor',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { ...switched, F: fuse, D: 'diode' },
    wires: `${driven}, M.M2 F.1, F.2 Q.D, D.A M.M2, D.K M.M1`,
  },
  {
    title: 'two registers, a resistor in each clock line',
    mcu: 'uno-r3',
    parts: registers,
    wires: `${five('X', 'Y')}, ${shifting}, X.SRCLK R.1, R.2 MCU.13, Y.SRCLK S.1, S.2 MCU.13`,
  },
  {
    title: 'a humidity sensor behind 100 Ω, the pull-up at the pin',
    parts: { T: 'dht22', R: ohms(10_000), S: ohms(100) },
    wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.DATA S.1, S.2 MCU.26, R.1 MCU.3V3, R.2 MCU.26',
  },
  {
    title: 'a switch between a cell and its charger',
    mcu: 'pico',
    supplies: pack(3.7),
    parts: { S: 'slide-switch', C: 'charger-tp4056' },
    wires: 'PACK.+ S.1, S.C C.B+, PACK.- C.B-, C.OUT+ MCU.VSYS, C.OUT- MCU.GND',
  },
  {
    title: 'a switch before the servo posts of a controller',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { S: 'slide-switch', P: 'pca9685', V: 'servo-sg90' },
    wires: `${five('P')}, ${i2c('A4', 'A5', 'P')}, PACK.- MCU.GND, PACK.+ S.3, S.C P.V+, P.V+ V.VCC, V.GND MCU.GND, V.SIG P.PWM0`,
  },
  {
    title: 'a pump over a relay, its leads the other way round',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { K: 'relay-1', M: 'pump', D: 'diode' },
    wires: `${five('K')}, K.IN MCU.5, PACK.- MCU.GND, PACK.+ K.COM, K.NO M.-, M.+ PACK.-, D.K M.-, D.A M.+`,
  },
]

export const mistakenOver: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'a loudspeaker over a capacitor alone',
    rule: 'driver-needed',
    mcu: 'uno-r3',
    parts: { S: 'speaker', C: cap(1e-4) },
    wires: 'S.+ C.2, C.1 MCU.9, S.- MCU.GND',
  },
  {
    title: 'a loudspeaker from an amplifier to ground',
    rule: 'load-return',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: amplifier,
    wires: 'A.VCC PACK.+, A.GND PACK.-, PACK.- MCU.GND, A.LOUT+ S.+, S.- PACK.-, A.L MCU.9',
  },
  {
    title: 'three keys, two with the same resistor',
    rule: 'level-logic',
    mcu: 'uno-r3',
    parts: ladder(1000, 4700, 4700),
    wires: fan('MCU.A0', 'MCU.5V'),
  },
  {
    title: 'three keys over resistors at a pin that only tells high from low',
    rule: 'level-logic',
    mcu: 'uno-r3',
    parts: ladder(1000, 6800, 10_000),
    wires: fan('MCU.4', 'MCU.5V'),
  },
  {
    title: 'a button whose resistor is at its ground leg and as large as the pull-up',
    rule: 'level-logic',
    mcu: 'pico',
    parts: { B: 'button', R: ohms(10_000), U: ohms(10_000) },
    wires: 'U.1 MCU.3V3, U.2 MCU.GP15, B.1 MCU.GND, B.2 R.1, R.2 MCU.GP15',
  },
  {
    title: 'an echo of 5 V through a diode that faces the pin',
    rule: 'level-damage',
    parts: { S: 'hc-sr04', D: 'diode', R: ohms(10_000) },
    wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.TRIG MCU.5, S.ECHO D.A, D.K MCU.18, R.1 MCU.GND, R.2 MCU.18',
  },
  ...(['fuse', 'ina219', 'slide-switch'] as const).map((id) => ({
    title: `a motor without its diode, a ${id} before the transistor`,
    rule: 'flyback',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { ...switched, F: id === 'fuse' ? fuse : id },
    wires: `${driven}, ${
      id === 'fuse'
        ? 'M.M2 F.1, F.2 Q.D'
        : id === 'ina219'
          ? `${five('F')}, ${i2c('A4', 'A5', 'F')}, M.M2 F.VIN+, F.VIN- Q.D`
          : 'M.M2 F.1, F.C Q.D'
    }`,
  })),
  {
    title: 'a solenoid without its diode, its leads the other way round',
    rule: 'flyback',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: switched.Q, R: ohms(10_000), F: 'solenoid' },
    wires: 'PACK.- MCU.GND, F.- PACK.+, F.+ Q.D, Q.S MCU.GND, Q.G MCU.4, R.1 Q.G, R.2 Q.S',
  },
  ...(['nano-v3', 'mega-2560-r3', 'pico', 'esp32-c3-supermini'] as const).map((mcu) => ({
    title: `a base straight on a pin of ${mcu}`,
    rule: 'pin-current',
    mcu,
    parts: { Q: 'npn', L: led(), S: ohms(220) },
    wires: `L.A S.1, S.2 MCU.${mcu === 'pico' || mcu === 'esp32-c3-supermini' ? '3V3' : '5V'}, L.K Q.C, Q.E MCU.GND, Q.B MCU.${mcu === 'pico' ? 'GP15' : mcu === 'esp32-c3-supermini' ? '4' : '9'}`,
  })),
  {
    title: 'both halves of a bridge on one pin, one of them over a resistor',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: bridge,
    wires: `${bridged}, R.1 MCU.5, R.2 H.2A`,
  },
  {
    title: 'a lamp on a column of the display of the board',
    rule: 'feature-conflict',
    mcu: 'microbit-v2',
    parts: { L: led(), R: ohms(470) },
    wires: 'L.A R.1, R.2 MCU.P3, L.K MCU.GND',
  },
]
