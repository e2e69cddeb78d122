import type { PlanPart } from '../plan/planSchema.ts'
import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { levelLogic } from './levelLogic.ts'

const pack = { PACK: { volts: 5 } }
/** A 5 V output behind a divider of 1 kΩ and so many ohms. */
const divided = (value: number) => ({
  parts: { S: 'hx711', R: ohms(1000), T: ohms(value) },
  wires: 'S.VCC MCU.VIN, S.GND MCU.GND, S.DT R.1, R.2 MCU.D4, T.1 R.2, T.2 MCU.GND',
})

/** A button moves a transistor that a pin reads. */
const turnedRound = (
  wires: string,
  parts: Readonly<Record<string, PlanPart | string>> = {},
  rest = 'B.1 MCU.5V, B.2 T.1, T.2 Q.B, Q.E MCU.GND, R.1 Q.C, Q.C MCU.5',
) => ({
  mcu: 'uno-r3',
  parts: { Q: 'npn', T: ohms(10_000), R: ohms(10_000), B: 'button', ...parts },
  wires: `${rest}, ${wires}`,
})

testRule(levelLogic, {
  valid: [
    {
      title: 'two keys at one pin that pulls up inside, one over a resistor',
      mcu: 'uno-r3',
      parts: { A: 'button', B: 'button', R: { part: 'resistor', options: { ohms: 2000 } } },
      wires: 'A.1 MCU.A0, A.2 MCU.GND, R.1 MCU.A0, R.2 B.1, B.2 MCU.GND',
    },
    {
      title: 'an input that another part drives, and a button to the side of its resistor',
      mcu: 'uno-r3',
      parts: { K: 'relay-1', P: 'hc-sr501', B: 'button', R: { part: 'resistor', options: { ohms: 10_000 } } },
      wires:
        'K.VCC MCU.5V, K.GND MCU.GND, P.VCC MCU.5V, P.GND MCU.GND, P.OUT K.IN, B.1 K.IN, B.2 MCU.GND, R.1 K.IN, R.2 MCU.GND',
    },
    {
      title: 'an input on ground, of which pin-on-rail speaks, and a button to ground',
      mcu: 'uno-r3',
      parts: { K: 'relay-1', B: 'button' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.GND, B.1 K.IN, B.2 MCU.GND',
    },
    { title: 'a transistor read by a pin, its resistor at the supply', ...turnedRound('R.2 MCU.5V') },
    {
      title: 'the same, held a little above a low while it does not conduct',
      ...turnedRound('R.2 MCU.5V, S.1 Q.C, S.2 MCU.GND', { S: ohms(4700) }),
    },
    { title: 'the same without a resistor, which is another matter', ...turnedRound('R.2 MCU.4') },
    {
      title: 'a P-channel transistor read by a pin, its resistor at ground',
      ...turnedRound('R.2 MCU.GND', { Q: 'pmos' }, 'Q.G MCU.3, Q.S MCU.5V, R.1 Q.D, Q.D MCU.5'),
    },
    {
      title: 'a transistor that a lamp hangs on as well',
      ...turnedRound('R.2 MCU.GND, L.K Q.C, L.A S.1, S.2 MCU.5V', { L: 'led', S: ohms(1000) }),
    },
    {
      title: 'a transistor whose line leads on to the next one',
      ...turnedRound('R.2 MCU.GND, S.1 Q.C, S.2 N.B, N.E MCU.GND', { N: 'npn', S: ohms(1000) }),
    },
    {
      title: 'a transistor that is on or off for good',
      ...turnedRound('R.2 MCU.GND', {}, 'Q.B MCU.5V, Q.E MCU.GND, R.1 Q.C, Q.C MCU.5'),
    },
    {
      title: 'a strap on the supply of a board, of a part that gets far too much itself',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 9 } },
      parts: { X: 'mcp23008' },
      wires: 'X.VDD PACK.+, X.VSS MCU.GND, PACK.- MCU.GND, X.RESET MCU.5V',
    },
    {
      title: '3.3 V into a 5 V board that takes 3.0 V',
      mcu: 'uno-r3',
      parts: { S: 'hx711' },
      wires: 'S.VCC MCU.3V3, S.GND MCU.GND, S.DT MCU.7',
    },
    { title: 'a gate that opens at 2.5 V', parts: { Q: 'nmos' }, wires: 'Q.G MCU.D4, Q.S MCU.GND' },
    {
      title: 'a gate that wants 4 V on a 5 V board',
      mcu: 'uno-r3',
      parts: { Q: { part: 'nmos', options: { model: 'irlz44n' } } },
      wires: 'Q.G MCU.7, Q.S MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a transistor read by a pin, its resistor at ground',
      ...turnedRound('R.2 MCU.GND'),
      says: ['fault: MCU.D5 reads low whether Q conducts or not.'],
    },
    {
      title: 'the same, held just at a low while it does not conduct',
      ...turnedRound('R.2 MCU.5V, S.1 Q.C, S.2 MCU.GND', { S: ohms(4300) }),
      says: ['fault: MCU.D5 reads low whether Q conducts or not.'],
    },
    {
      title: 'a P-channel transistor read by a pin, its resistor at the supply',
      ...turnedRound('R.2 MCU.5V', { Q: 'pmos' }, 'Q.G MCU.3, Q.S MCU.5V, R.1 Q.D, Q.D MCU.5'),
      says: ['fault: MCU.D5 reads high whether Q conducts or not.'],
    },
    {
      title: 'a gate that wants 4 V on a 3.3 V board',
      parts: { Q: { part: 'nmos', options: { model: 'irlz44n' } } },
      wires: 'Q.G MCU.D4, Q.S MCU.GND',
      says: ['caution: Q.G wants 4.0 V for a high and gets 3.3 V from MCU.GPIO4.'],
      fix: 'Take AO3400A on an adapter, gate 2.5 V for Q',
      changes: ['Q: options model irlz44n becomes model ao3400a'],
    },
    {
      title: '3.3 V into an expander at 5 V',
      parts: { X: 'mcp23017' },
      wires: 'X.VDD MCU.VIN, X.VSS MCU.GND, X.SDA MCU.D21',
      says: ['caution: X.SDA wants 4.0 V for a high and gets 3.3 V from MCU.GPIO21.'],
      fix: 'Feed X from MCU.3V3 (3.3 V)',
      changes: ['wire X.VDD to MCU.VIN removed', 'wire X.VDD to MCU.3V3 added'],
    },
    {
      title: 'a strip behind the resistor of another decade',
      mcu: 'uno-r3',
      parts: { P: 'ws2812-strip', R: ohms(33_000) },
      wires: 'P.5V MCU.5V, P.GND MCU.GND, R.1 MCU.6, R.2 P.DIN',
      says: ['fault: P.DIN is high only 1.19 µs after its pin, behind 33 kΩ; its shortest pulse is 400 ns.'],
      fix: 'Make R 330 Ω',
      changes: ['R: options ohms 33000 becomes ohms 330'],
    },
    {
      title: 'a slide switch with one rail at both sides',
      mcu: 'uno-r3',
      parts: { S: 'slide-switch' },
      wires: 'S.C MCU.7, S.1 MCU.5V, S.3 MCU.5V',
      says: ['fault: MCU.D7 reads high in every position of S.'],
    },
    {
      title: 'a divider that leaves too little',
      mcu: 'uno-r3',
      parts: { S: 'hx711', R: ohms(10000), T: ohms(4700) },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.DT R.1, R.2 MCU.7, T.1 R.2, T.2 MCU.GND',
      says: ['fault: MCU.D7 wants 3.0 V for a high and gets 1.6 V from S.DT.'],
    },
    {
      title: 'a threshold that nobody publishes',
      supplies: pack,
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.D4',
      says: ['tip: The input threshold of S.SIG is not known; it gets 3.3 V and runs at 5.0 V.'],
    },
  ],
  edges: [
    {
      says: 'lowHigh',
      severity: 'caution',
      because: 'a strap: 0.8 · 5 V = 4 V',
      at: (value) => ({
        mcu: 'uno-r3',
        supplies: { LOW: { volts: value } },
        parts: { X: 'mcp23008' },
        wires: 'X.VDD MCU.5V, X.VSS MCU.GND, LOW.- MCU.GND, X.RESET LOW.+',
      }),
      said: 3.95,
      quiet: 4,
    },
    {
      says: 'slow',
      because: 'R · 30 pF · ln(5 V / 1.5 V) = 0.4 µs: 11.07 kΩ',
      at: (value) => ({
        mcu: 'uno-r3',
        parts: { P: 'ws2812-strip', R: ohms(value) },
        wires: 'P.5V MCU.5V, P.GND MCU.GND, R.1 MCU.6, R.2 P.DIN',
      }),
      said: 11200,
      quiet: 10900,
    },
    {
      says: 'slow',
      severity: 'caution',
      because: 'half of 1 MHz, R · 30 pF · ln(5 V / 1.5 V) = 0.5 µs: 13.8 kΩ',
      at: (value) => ({
        mcu: 'uno-r3',
        parts: { P: 'mcp3008', R: ohms(value) },
        wires:
          'P.VDD MCU.5V, P.VREF MCU.5V, P.AGND MCU.GND, P.DGND MCU.GND, P.CS MCU.10, P.DOUT MCU.12, P.DIN MCU.11, R.1 MCU.13, R.2 P.CLK',
      }),
      said: 14000,
      quiet: 13700,
    },
    {
      says: 'lowHigh',
      severity: 'caution',
      because: '5 V · R / (R + 1 kΩ) = 2.475 V: 980 Ω',
      at: divided,
      said: 970,
      quiet: 985,
    },
    {
      says: 'lowHigh',
      severity: 'fault',
      because: 'the middle of 0.825 V and 2.475 V: 493 Ω',
      at: divided,
      said: 490,
      quiet: 495,
    },
    {
      says: 'highLow',
      because: '5 V · R / (R + 10 kΩ) = 1.5 V: 4.3 kΩ',
      at: (value) => ({
        mcu: 'uno-r3',
        parts: { P: 'hx711', R: ohms(value), Q: ohms(10000) },
        wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.DT R.1, R.2 MCU.7, Q.1 MCU.7, Q.2 MCU.5V',
      }),
      said: 4320,
      quiet: 4280,
    },
    {
      says: 'between',
      because: '10 kΩ and 45 kΩ inside are 8.2 kΩ, 5 V · R / (R + 8.2 kΩ) = 1.5 V: 3.5 kΩ',
      at: (value) => ({
        mcu: 'uno-r3',
        parts: { S: 'button', R: ohms(value), Q: ohms(10000) },
        wires: 'S.1 MCU.7, S.2 R.1, R.2 MCU.GND, Q.1 MCU.7, Q.2 MCU.5V',
      }),
      said: 3550,
      quiet: 3490,
    },
    {
      says: 'lowHigh',
      because: '5 V · R / (R + 10 kΩ) = 3 V either way: 15 kΩ',
      at: (value) => ({
        boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } },
        parts: { R: ohms(10000), Q: ohms(value), S: ohms(10000) },
        wires: 'A.GND B.GND, A.7 R.1, R.2 S.1, S.2 B.7, Q.1 R.2, Q.2 B.GND',
      }),
      said: 14900,
      quiet: 15000,
    },
  ],
})
