import type { PlanPart } from '../plan/planSchema.ts'
import type { Short } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { driverRating } from './driverRating.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const motor = (milliamps: number, stall: number, mode?: string): PlanPart => ({
  part: 'dc-motor',
  options: { milliamps, stall },
  ...(mode ? { mode } : {}),
})

const switched = 'M.M1 PACK.+, M.M2 T.D, T.S MCU.GND, PACK.- MCU.GND, T.G MCU.D5, R.1 T.G, R.2 T.S'
const onFet = (milliamps: number, stall: number, model: string) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: { M: motor(milliamps, stall, 'switched'), T: { part: 'nmos', options: { model } }, R: ohms(10_000) },
  wires: switched,
})
/** Two motors in parallel on one half of a double bridge. */
const twoMotors = (milliamps: number, stall: number) => {
  const motor = { part: 'dc-motor', options: { milliamps, stall } }
  return {
    supplies: { P: { volts: 6, limitMilliamps: 9000 } },
    parts: { D: 'drv8833', M: motor, N: motor },
    wires:
      'D.VCC P.+, D.GND MCU.GND, P.- MCU.GND, D.EEP MCU.3V3, D.IN1 MCU.25, D.IN2 MCU.26, D.AOUT1 M.M1, D.AOUT2 M.M2, N.M1 M.M1, N.M2 M.M2',
  }
}
const metered = (volts: number, more: string) => ({
  mcu: 'uno-r3',
  supplies: { P: { volts, limitMilliamps: 2000 } },
  parts: { A: 'ina219', L: 'lamp' },
  wires: `A.VCC MCU.5V, A.GND MCU.GND, A.SDA MCU.A4, A.SCL MCU.A5, P.- MCU.GND, ${more}`,
})
/** A lamp on two outputs of an array that are joined. */
const onArray = (milliamps: number, one: string, two: string) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: { D: 'uln2003', L: { part: 'lamp', options: { milliamps } } },
  wires: `PACK.- MCU.GND, D.E MCU.GND, D.COM PACK.+, D.1B ${one}, D.2B ${two}, D.1C L.-, D.2C L.-, L.+ PACK.+`,
})
/** A motor on a transistor with a resistor in front of its base. */
const onTransistor = (given: { milliamps?: number; stall?: number; volts?: number; ohms?: number }) => {
  const { milliamps = 200, volts = 6, ohms = 330 } = given
  return {
    supplies: { P: { volts } },
    parts: {
      T: 'npn',
      R: { part: 'resistor', options: { ohms } },
      M: { part: 'dc-motor', options: { milliamps, stall: given.stall ?? milliamps } },
    },
    wires: 'T.B R.1, R.2 MCU.27, T.E MCU.GND, P.- MCU.GND, M.M1 P.+, M.M2 T.C',
  }
}
const fused = (milliamps: number) => ({
  supplies: { P: { volts: 5, limitMilliamps: 3000 } },
  parts: { F: { part: 'fuse', options: { milliamps } }, S: 'servo-sg90' },
  wires: 'F.1 P.+, F.2 S.VCC, S.GND P.-, P.- MCU.GND, S.SIG MCU.27',
})

/** A resistor of some ohms and 50 W as a heater at 12 V, on a transistor. */
const heater = (value: number) => ({
  mcu: 'uno-r3',
  supplies: pack,
  parts: {
    H: { part: 'resistor', options: { ohms: value, watts: 50 } },
    Q: { part: 'npn', options: { model: 'bc337' } },
    R: ohms(220),
  },
  wires: 'PACK.- MCU.GND, H.1 PACK.+, H.2 Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.3',
})

const buzzerBehind = (ohms: number): Short => ({
  mcu: 'uno-r3',
  parts: { B: 'buzzer-active', R: { part: 'resistor', options: { ohms } } },
  wires: 'B.+ R.1, R.2 MCU.8, B.- MCU.GND',
})
const relayBehind = (ohms: number): Short => ({
  mcu: 'uno-r3',
  parts: { K: 'relay-1', R: { part: 'resistor', options: { ohms } } },
  wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN R.1, R.2 MCU.8',
})

testRule(driverRating, {
  valid: [
    {
      title: 'a fan behind a resistor, of whose supply supply-range speaks',
      mcu: 'uno-r3',
      supplies: { P: { volts: 5 } },
      parts: { F: 'fan', R: { part: 'resistor', options: { ohms: 300, watts: 1 } } },
      wires: 'P.- MCU.GND, F.+ R.1, R.2 P.+, F.- MCU.GND',
    },
    {
      title: 'a loudspeaker on a transistor behind a resistor',
      mcu: 'uno-r3',
      parts: { Z: 'speaker', Q: 'npn', R: ohms(1000), S: { part: 'resistor', options: { ohms: 33, watts: 1 } } },
      wires: 'Z.+ MCU.5V, Z.- S.1, S.2 Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.3',
    },
    { title: 'a motor well under its transistor', ...onFet(300, 900, 'irlz44n') },
    { title: 'exactly four fifths', ...onFet(160, 200, '2n7000') },
    {
      title: 'a stepper at the current that its driver is set to',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { D: 'a4988', M: { part: 'stepper-bipolar', options: { milliamps: 1000 } } },
      wires: 'D.VMOT PACK.+, D.GND PACK.-, D.VDD MCU.5V, D.GND.2 MCU.GND, M.A+ D.1A, M.A- D.1B, M.B+ D.2A, M.B- D.2B',
    },
    { title: 'a lamp on two outputs side by side', ...onArray(480, 'MCU.D8', 'MCU.D8') },
    { title: 'a shunt in the way of a lamp', ...metered(24, 'A.VIN+ P.+, A.VIN- L.+, L.- MCU.GND') },
  ],
  invalid: [
    {
      title: 'a motor between a supply and ground, behind a resistor for a lamp',
      mcu: 'uno-r3',
      supplies: { P: { volts: 6 } },
      parts: { M: 'dc-motor', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'P.- MCU.GND, M.M1 R.1, R.2 P.+, M.M2 MCU.GND',
      // 6 V / 355 Ω
      says: ['fault: M takes 200 mA, and R lets 16.9 mA through to it.'],
      fix: 'Make R 33 Ω',
      changes: ['R: options ohms 330 becomes ohms 33'],
    },
    {
      title: 'a resistor that heats, too much for its transistor',
      ...heater(6),
      says: ['fault: H takes 1967 mA by its ohms, and Q gives 800 mA at most.'],
    },
    {
      title: 'a loudspeaker on an array, without a resistor',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { Z: 'speaker', U: 'uln2803' },
      wires: 'PACK.- MCU.GND, Z.+ PACK.+, Z.- U.1C, U.GND MCU.GND, U.COM PACK.+, U.1B MCU.3',
      says: ['fault: Z takes 1481 mA by its ohms, and U gives 500 mA at most.'],
    },
    {
      title: 'over its transistor',
      ...onFet(300, 900, '2n7000'),
      says: ['fault: M takes 300 mA, and T gives 200 mA at most.'],
    },
    {
      title: 'just over four fifths',
      ...onFet(161, 200, '2n7000'),
      says: ['caution: M takes 161 of the 200 mA that T is good for.'],
    },
    {
      title: 'only its start is too much',
      ...onFet(100, 201, '2n7000'),
      says: ['caution: M takes 201 mA when it starts or is held fast, and T gives 200 mA at most.'],
    },
    {
      title: 'a large stepper on a small driver',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { D: 'a4988', M: { part: 'stepper-bipolar', options: { milliamps: 2800 } } },
      wires: 'D.VMOT PACK.+, D.GND PACK.-, D.VDD MCU.5V, D.GND.2 MCU.GND, M.A+ D.1A, M.A- D.1B, M.B+ D.2A, M.B- D.2B',
      says: ['fault: M takes 2800 mA, and D gives 2000 mA at most.'],
    },
    {
      title: 'a lamp on two outputs side by side that different pins move',
      ...onArray(560, 'MCU.D8', 'MCU.D9'),
      says: ['fault: L takes 560 mA, and D gives 500 mA at most.'],
    },
    {
      title: 'too much for two outputs side by side',
      ...onArray(1001, 'MCU.D8', 'MCU.D8'),
      says: ['fault: L takes 1001 mA, and D gives 1000 mA at most.'],
    },
    {
      title: 'a shunt at more volts than it bears',
      ...metered(27, 'A.VIN+ P.+, A.VIN- L.+, L.- MCU.GND'),
      says: ['fault: A bears 26.0 V at its shunt and gets 27.0 V.'],
    },
    {
      title: 'a shunt across a supply',
      ...metered(12, 'A.VIN+ P.+, A.VIN- MCU.GND, L.+ P.+, L.- MCU.GND'),
      says: ['fault: A joins 12.0 V with ground through its shunt of 0.1 Ω.'],
    },
  ],
  edges: [
    {
      says: 'starved',
      severity: 'caution',
      because: 'a quarter of 30 mA: 5 V / 7.5 mA less 167 Ω of the buzzer and 27 Ω of the output: 473 Ω',
      at: buzzerBehind,
      said: 480,
      quiet: 466,
    },
    {
      says: 'starved',
      severity: 'fault',
      because: 'a tenth of 30 mA: 5 V / 3 mA less the same: 1473 Ω',
      at: buzzerBehind,
      said: 1490,
      quiet: 1455,
    },
    {
      says: 'starved',
      severity: 'caution',
      because: 'a quarter of 3 mA: 3 · 5 V / 3 mA = 5 kΩ',
      at: relayBehind,
      said: 5100,
      quiet: 4900,
    },
    {
      says: 'starved',
      severity: 'fault',
      because: 'a tenth of 3 mA: 9 · 5 V / 3 mA = 15 kΩ',
      at: relayBehind,
      said: 15_300,
      quiet: 14_700,
    },
    { says: 'ohmic', because: 'BC337: 800 mA at 12 V', at: heater, said: 14.6, quiet: 14.9 },
    { says: 'over', because: 'BC337: 800 mA', at: (milliamps) => onTransistor({ milliamps }), said: 801, quiet: 800 },
    { says: 'near', because: '80 % of 800 mA', at: (milliamps) => onTransistor({ milliamps }), said: 641, quiet: 640 },
    { says: 'starts', because: 'BC337: 800 mA', at: (stall) => onTransistor({ stall }), said: 801, quiet: 800 },
    { says: 'volts', because: 'BC337: 45 V', at: (volts) => onTransistor({ volts }), said: 45.5, quiet: 45 },
    {
      says: 'weakBase',
      severity: 'fault',
      because: '(3.3 V − 0.7 V) · 100 / 200 mA = 1300 Ω, less 33 Ω of the output',
      at: (ohms) => onTransistor({ ohms }),
      said: 1280,
      quiet: 1250,
    },
    {
      says: 'weakBase',
      severity: 'caution',
      because: 'half as much again: 867 Ω, less 33 Ω of the output',
      at: (ohms) => onTransistor({ ohms }),
      said: 850,
      quiet: 820,
    },
    {
      says: 'overGood',
      because: 'one channel is good for 300 mA',
      at: (milliamps) => ({
        supplies: { P: { volts: 6 } },
        parts: { T: 'uln2003', M: { part: 'dc-motor', options: { milliamps, stall: milliamps } } },
        wires: 'T.1B MCU.27, T.GND MCU.GND, P.- MCU.GND, M.M1 P.+, M.M2 T.1C, T.COM P.+',
      }),
      said: 301,
      quiet: 300,
    },
    {
      says: 'togetherOver',
      because: 'twice 1000 mA, which DRV8833 bears for a moment',
      at: (milliamps) => twoMotors(milliamps, milliamps),
      said: 1001,
      quiet: 1000,
    },
    {
      says: 'togetherGood',
      because: 'twice 750 mA, for which DRV8833 is good',
      at: (milliamps) => twoMotors(milliamps, milliamps),
      said: 751,
      quiet: 750,
    },
    {
      says: 'togetherStarts',
      because: 'twice 1000 mA',
      at: (stall) => twoMotors(500, stall),
      said: 1001,
      quiet: 1000,
    },
    {
      says: 'resistorHot',
      because: '(5 V)² / 0.25 W = 100 Ω',
      at: (value) => ({
        supplies: { P: { volts: 5 } },
        parts: { R: { part: 'resistor', options: { ohms: value } } },
        wires: 'R.1 P.+, R.2 P.-, P.- MCU.GND',
      }),
      said: 99,
      quiet: 100,
    },
    {
      says: 'resistorHot',
      because: 'a Zener diode of 5.1 V and 0.5 W bears 98 mA: (12 V - 5.1 V) / 70.4 Ω',
      at: (ohms) => ({
        supplies: { P: { volts: 12 } },
        parts: {
          R: { part: 'resistor', options: { ohms, watts: 5 } },
          Z: { part: 'zener', options: { volts: 5.1 } },
        },
        wires: 'R.1 P.+, R.2 Z.K, Z.A P.-, P.- MCU.GND',
      }),
      said: 70,
      quiet: 71,
    },
    { says: 'fuseOver', because: 'a servo takes 220 mA as a rule', at: fused, said: 219, quiet: 220 },
    { says: 'fusePeak', because: 'a servo takes 650 mA when it starts, twice 325', at: fused, said: 324, quiet: 325 },
    {
      says: 'shuntVolts',
      because: 'INA219: 26 V',
      at: (volts) => ({
        supplies: { P: { volts } },
        parts: { I: 'ina219', M: { part: 'dc-motor', options: { milliamps: 200, stall: 300 } } },
        wires:
          'I.VCC MCU.3V3, I.GND MCU.GND, I.SDA MCU.21, I.SCL MCU.22, I.VIN+ P.+, I.VIN- M.M1, M.M2 P.-, P.- MCU.GND',
      }),
      said: 26.5,
      quiet: 26,
    },
  ],
})
