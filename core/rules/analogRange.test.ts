import type { Short } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { analogRange } from './analogRange.ts'

/** A knob on a supply of its own. */
const knob = (mcu: string, pin: string) => (volts: number) => ({
  mcu,
  supplies: { P: { volts } },
  parts: { K: 'potentiometer' },
  wires: `K.3 P.+, K.1 MCU.GND, P.- MCU.GND, K.W MCU.${pin}`,
})

/** A thermistor of 10 kΩ with a fixed resistor to ground. */
const divided = (ohms: number): Short => ({
  mcu: 'uno-r3',
  parts: { T: 'ntc', R: { part: 'resistor', options: { ohms } } },
  wires: 'T.1 MCU.5V, T.2 MCU.A0, R.1 MCU.A0, R.2 MCU.GND',
})

const megohms = { R: { part: 'resistor', options: { ohms: 1e6 } }, S: { part: 'resistor', options: { ohms: 1e6 } } }

/** Two resistors alike between a supply of 8 V and ground, and what lies beside them. */
const halved =
  (more: string, farads = 1e-7) =>
  (ohms: number): Short => ({
    mcu: 'uno-r3',
    supplies: { P: { volts: 8 } },
    parts: {
      R: { part: 'resistor', options: { ohms } },
      S: { part: 'resistor', options: { ohms } },
      C: { part: 'capacitor', options: { farads } },
    },
    wires: `P.- MCU.GND, R.1 P.+, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND${more}`,
  })

/** A pack of 12 V over 100 kΩ and another resistor. */
const measured = (ohms: number): Short => ({
  mcu: 'uno-r3',
  supplies: { P: { volts: 12 } },
  parts: { R: { part: 'resistor', options: { ohms: 100_000 } }, S: { part: 'resistor', options: { ohms } } },
  wires: 'P.- MCU.GND, R.1 P.+, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND',
})

testRule(analogRange, {
  valid: [
    {
      title: 'a megohm twice, with a capacitor that fills each sample',
      ...halved(', C.1 MCU.A0, C.2 MCU.GND', 1e-8)(1e6),
    },
    {
      title: 'a cell over 470 kΩ, which the resistors before the converter of the board divide',
      mcu: 'esp8266-d1-mini',
      supplies: { P: { volts: 3.7 } },
      parts: { R: { part: 'resistor', options: { ohms: 470_000 } } },
      wires: 'P.- MCU.GND, R.1 P.+, R.2 MCU.A0',
    },
    {
      title: 'the same with two resistors, before those of the board',
      mcu: 'esp8266-d1-mini',
      supplies: { P: { volts: 3.7 } },
      parts: {
        R: { part: 'resistor', options: { ohms: 680_000 } },
        S: { part: 'resistor', options: { ohms: 680_000 } },
      },
      wires: 'P.- MCU.GND, R.1 P.+, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND',
    },
    {
      title: 'an output that drives between two megohms',
      mcu: 'uno-r3',
      parts: {
        M: 'soil-capacitive',
        ...megohms,
      },
      wires: 'M.VCC MCU.5V, M.GND MCU.GND, M.AOUT MCU.A0, R.1 MCU.5V, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND',
    },
    {
      title: 'a button that pulls two megohms down',
      mcu: 'uno-r3',
      parts: {
        B: 'button',
        ...megohms,
      },
      wires: 'R.1 MCU.5V, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND, B.1 MCU.A0, B.2 MCU.GND',
    },
    {
      title: 'two megohms to ground alone',
      mcu: 'uno-r3',
      parts: megohms,
      wires: 'R.1 MCU.A0, R.2 MCU.GND, S.1 MCU.A0, S.2 MCU.GND',
    },
    {
      title: 'a button with a megohm on a pin that could read volts',
      mcu: 'uno-r3',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 1e6 } } },
      wires: 'R.1 MCU.5V, R.2 MCU.A0, B.1 MCU.A0, B.2 MCU.GND',
    },
    {
      title: 'a megohm that holds a free pin',
      mcu: 'uno-r3',
      parts: { R: { part: 'resistor', options: { ohms: 1e6 } } },
      wires: 'R.1 MCU.5V, R.2 MCU.A0',
    },
    {
      title: 'a sensor of which both legs are joined, of which load-return speaks',
      parts: { N: 'ntc', R: { part: 'resistor', options: { ohms: 10_000 } } },
      wires: 'N.1 MCU.GPIO34, N.1 N.2, R.1 N.2, R.2 MCU.GND',
    },
    {
      title: 'a light-dependent resistor in a divider',
      mcu: 'uno-r3',
      parts: { L: 'ldr', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'L.1 MCU.5V, L.2 MCU.A0, R.1 MCU.A0, R.2 MCU.GND',
    },
    {
      title: '5 V on a pin that does not bear it: level-damage says so',
      mcu: 'stm32f411-blackpill',
      parts: { S: 'current-acs712' },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.OUT MCU.PA1',
    },
    {
      title: 'a sensor within the range',
      mcu: 'uno-r3',
      parts: { G: 'gas-analog' },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.AO MCU.A0',
    },
    {
      title: 'a knob over the whole range',
      mcu: 'pico',
      parts: { K: 'potentiometer' },
      wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.GP26',
    },
  ],
  invalid: [
    {
      title: 'a pack divided to just under a twentieth of the range',
      ...measured(2100),
      says: ['caution: What R and S divide reaches 0.25 V of the 5.0 V that MCU.A0 reads: 4.3 of 10 bits are lost.'],
    },
    {
      title: 'a pack divided to just above a twentieth of the range',
      ...measured(2200),
      says: ['tip: What R and S divide reaches 0.26 V of the 5.0 V that MCU.A0 reads: 4.3 of 10 bits are lost.'],
    },
    {
      title: 'a megohm twice, with a capacitor too small to fill a sample',
      ...halved(', C.1 MCU.A0, C.2 MCU.GND', 9e-9)(1e6),
      says: ['caution: What MCU.A0 reads comes over 500 kΩ, and no capacitor lies beside it.'],
    },
    {
      title: 'a megohm twice, with a capacitor that leads nowhere',
      ...halved(', C.1 MCU.A0')(1e6),
      says: ['caution: What MCU.A0 reads comes over 500 kΩ, and no capacitor lies beside it.'],
    },
    {
      title: 'a resistor of another decade, and one before the input',
      mcu: 'uno-r3',
      parts: {
        T: 'ntc',
        R: { part: 'resistor', options: { ohms: 100 } },
        S: { part: 'resistor', options: { ohms: 1000 } },
      },
      wires: 'T.1 MCU.5V, T.2 S.1, S.2 MCU.A0, R.1 T.2, R.2 MCU.GND',
      says: ['caution: MCU.A0 hardly sees T: between 0.01 V and 0.19 V, as R is far from its 10 kΩ.'],
      fix: 'Make R 10 kΩ',
      changes: ['R: options ohms 100 becomes ohms 10000'],
    },
    {
      title: 'a light sensor and its resistor between two supplies',
      mcu: 'uno-r3',
      parts: { L: 'ldr', R: { part: 'resistor', options: { ohms: 10_000 } } },
      wires: 'L.1 MCU.5V, L.2 MCU.A0, R.1 L.2, R.2 MCU.3V3',
      says: [
        'caution: MCU.A0 never reads less than 3.3 V: L and its resistor lie between MCU.5V and MCU.3V3, and neither leads to ground.',
      ],
    },
    {
      title: 'a light-dependent resistor alone',
      mcu: 'uno-r3',
      parts: { L: 'ldr' },
      wires: 'L.1 MCU.5V, L.2 MCU.A0',
      says: ['fault: MCU.A0 always reads 5.0 V, whatever L does.'],
    },
    {
      title: 'an amplified sensor over more than the converter reads well',
      mcu: 'xiao-esp32c3',
      parts: { A: 'ml8511' },
      wires: 'A.VIN MCU.3V3, A.GND MCU.GND, A.OUT MCU.D0',
      says: ['tip: A.OUT reaches 2.8 V, and MCU.D0 reads well up to 2.5 V.'],
      fix: 'Put a divider of 180 Ω and 1.8 kΩ in the line',
      changes: [
        'part R1 added (resistor)',
        'part R2 added (resistor)',
        'wire A.OUT to MCU.D0 removed',
        'wire A.OUT to R1.1 added',
        'wire R1.2 to MCU.D0 added',
        'wire R2.1 to R1.2 added',
        'wire R2.2 to MCU.GND added',
      ],
    },
    {
      title: 'a knob over more than the converter reads well',
      parts: { K: 'potentiometer' },
      wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.34',
      says: ['tip: K.W reaches 3.3 V, and MCU.GPIO34 reads well up to 2.45 V.'],
    },
    {
      title: 'a divider that leaves next to nothing',
      mcu: 'uno-r3',
      parts: {
        G: 'gas-analog',
        A: { part: 'resistor', options: { ohms: 10000 } },
        B: { part: 'resistor', options: { ohms: 2200 } },
      },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.AO A.1, A.2 MCU.A0, B.1 MCU.A0, B.2 MCU.GND',
      // 5 V · 2.2 / 12.2, and log2(5 / 0.9)
      says: ['tip: G.AO reaches 0.9 V of the 5.0 V that MCU.A0 reads: 2.5 of 10 bits are lost.'],
    },
  ],
  edges: [
    {
      says: 'wasted',
      because: 'a quarter of 5 V: 12 V · S / (100 kΩ + S) at 11.6 kΩ',
      at: (ohms) => measured(ohms),
      said: 11_500,
      quiet: 11_800,
    },
    {
      says: 'weak',
      because: '12 µs / (14 pF · ln 2048) = 112 kΩ of two alike side by side',
      at: halved(''),
      said: 228_000,
      quiet: 222_000,
    },
    { says: 'tooHigh', because: '2.45 V · 1.4 = 3.43 V', at: knob('esp32-devkit-30', '34'), said: 3.45, quiet: 3.4 },
    { says: 'bent', because: '2.45 V · 1.05 = 2.57 V', at: knob('esp32-devkit-30', '34'), said: 2.6, quiet: 2.55 },
    { says: 'wasted', because: 'a quarter of 5 V', at: knob('uno-r3', 'A0'), said: 1.24, quiet: 1.26 },
    {
      says: 'crushed',
      because: 'R / (R + 2.5 kΩ) − R / (R + 40 kΩ) = 0.1 at 301 Ω',
      at: divided,
      said: 296,
      quiet: 306,
    },
    { says: 'crushed', because: 'and at 332 kΩ', at: divided, said: 340_000, quiet: 325_000 },
  ],
})
