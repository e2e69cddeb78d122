import { testRule } from '../testing/rules.ts'
import { pinCurrent } from './pinCurrent.ts'

const base = (ohms: number) => ({
  mcu: 'uno-r3',
  parts: { T: 'npn', R: { part: 'resistor', options: { ohms } } },
  wires: 'T.B R.1, R.2 MCU.7, T.E MCU.GND',
})
/** Eight lamps on a register. */
const eightLamps = (ohms: number) => ({
  mcu: 'uno-r3',
  parts: {
    H: '74hc595',
    ...Object.fromEntries(
      [...'ABCDEFGH'].flatMap((name) => [
        [`L${name}`, { part: 'led', options: { colour: 'red' } }],
        [`R${name}`, { part: 'resistor', options: { ohms } }],
      ]),
    ),
  },
  wires: [
    'H.VCC MCU.5V, H.GND MCU.GND, H.OE MCU.GND, H.SRCLR MCU.5V, H.SER MCU.2, H.SRCLK MCU.3, H.RCLK MCU.4',
    ...[...'ABCDEFGH'].map((name) => `L${name}.A R${name}.1, R${name}.2 H.Q${name}, L${name}.K MCU.GND`),
  ].join(', '),
})
const sevenLamps = (ohms: number) => ({
  mcu: 'pico',
  parts: Object.fromEntries(
    [2, 3, 4, 5, 6, 7, 8].flatMap((pin) => [
      [`L${pin}`, { part: 'led', options: { colour: 'red' } }],
      [`R${pin}`, { part: 'resistor', options: { ohms } }],
    ]),
  ),
  wires: [2, 3, 4, 5, 6, 7, 8]
    .map((pin) => `L${pin}.A R${pin}.1, R${pin}.2 MCU.GP${pin}, L${pin}.K MCU.GND`)
    .join(', '),
})

/** A lamp on a transistor, and what may move that. */
const onBase = (wires: string) => ({
  mcu: 'uno-r3',
  parts: {
    P: 'hc-sr501',
    B: 'button',
    U: '74ahct125',
    Q: 'npn',
    L: 'led',
    R: { part: 'resistor', options: { ohms: 1000 } },
    S: { part: 'resistor', options: { ohms: 470 } },
  },
  wires: `P.VCC MCU.5V, P.GND MCU.GND, Q.E MCU.GND, Q.C L.K, L.A S.1, S.2 MCU.5V, ${wires}`,
})

testRule(pinCurrent, {
  valid: [
    { title: 'a base on the output of a motion sensor behind a resistor', ...onBase('P.OUT R.1, R.2 Q.B') },
    { title: 'a base at a button behind a resistor', ...onBase('B.1 MCU.5V, B.2 R.1, R.2 Q.B') },
    {
      title: 'an LED that itself gets too much: led-resistor says it',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 56 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
    },
    {
      title: 'an LED with 330 Ω',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
    },
    {
      title: 'a base with 1 kΩ',
      mcu: 'uno-r3',
      parts: { T: 'npn', R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'T.B R.1, R.2 MCU.7, T.E MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a base on the output of a motion sensor, without a resistor',
      ...onBase('P.OUT Q.B'),
      says: ['fault: P.OUT gives Q.B all that it can: nothing between them limits the current.'],
      fix: 'Add resistor 1 kΩ to Q',
      changes: [
        'part R2 added (resistor)',
        'wire P.OUT to Q.B removed',
        'wire R2.2 to P.OUT added',
        'wire Q.B to R2.1 added',
      ],
    },
    {
      title: 'a base at a button to the supply, without a resistor',
      ...onBase('B.1 MCU.5V, B.2 Q.B'),
      says: ['fault: MCU.5V gives Q.B all that it can: nothing between them limits the current.'],
    },
    {
      title: 'a base at a buffer, without a resistor',
      ...onBase('U.VCC MCU.5V, U.GND MCU.GND, U.1OE MCU.GND, U.1A MCU.3, U.1Y Q.B'),
      says: ['fault: U.1Y gives Q.B all that it can: nothing between them limits the current.'],
    },
    {
      title: 'eight outputs that give the same are said once',
      ...eightLamps(330),
      says: [
        'caution: H.QA, H.QB, H.QC, H.QD, H.QE, H.QF, H.QG and H.QH give 8.3 mA each for LA, LB, LC, LD, LE, LF, LG and LH; 6 mA is recommended.',
      ],
      fix: 'Make RA 560 Ω, and so on the other pins',
      changes: [...'ABCDEFGH'].map((name) => `R${name}: options ohms 330 becomes ohms 560`),
    },
    {
      title: 'two LEDs on one pin, each within what it bears',
      mcu: 'uno-r3',
      parts: {
        L: { part: 'led', options: { colour: 'red' } },
        M: { part: 'led', options: { colour: 'red' } },
        R: { part: 'resistor', options: { ohms: 150 } },
        S: { part: 'resistor', options: { ohms: 150 } },
      },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND, M.A S.1, S.2 MCU.7, M.K MCU.GND',
      says: ['caution: MCU.D7 gives 29 mA for L and M; 20 mA is recommended.'],
    },
    {
      title: 'an LED with 100 Ω on a weak pin',
      mcu: 'pico',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'L.A R.1, R.2 MCU.GP2, L.K MCU.GND',
      says: ['fault: MCU.GP2 gives 13 mA for L; 12 mA is the limit.'],
      fix: 'Make R 330 Ω',
      changes: ['R: options ohms 100 becomes ohms 330'],
    },
    {
      title: 'a base with 68 Ω',
      mcu: 'stm32f103-bluepill',
      parts: { T: 'npn', R: { part: 'resistor', options: { ohms: 68 } } },
      wires: 'T.B R.1, R.2 MCU.PB12, T.E MCU.GND',
      says: ['fault: MCU.PB12 gives 38 mA for T; 25 mA is the limit.'],
    },
  ],
  edges: [
    {
      says: 'pin',
      severity: 'caution',
      because: '(5 V − 0.7 V) / (20 mA · 1.1) − 27 Ω of the output = 168 Ω',
      at: base,
      said: 166,
      quiet: 170,
    },
    {
      says: 'pin',
      severity: 'fault',
      because: '(5 V − 0.7 V) / 40 mA − 27 Ω of the output = 80 Ω',
      at: base,
      said: 80,
      quiet: 82,
    },
    {
      says: 'pin',
      severity: 'fault',
      because: '5 V / 28 mA = 179 Ω on the far side of a transistor',
      at: (ohms) => ({
        parts: {
          Q: { part: 'nmos', options: { model: '2n7000' } },
          R: { part: 'resistor', options: { ohms: 10_000 } },
          T: { part: 'resistor', options: { ohms } },
          S: { part: 'ws2812-strip', options: { pixels: 4 } },
        },
        wires:
          'S.5V MCU.VIN, S.GND MCU.GND, Q.D S.DIN, Q.S MCU.16, Q.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, T.1 MCU.VIN, T.2 Q.D',
      }),
      said: 176,
      quiet: 183,
    },
    { says: 'outputs', because: '8 · (5 V − 2 V) / (R + 30 Ω) = 70 mA: 313 Ω', at: eightLamps, said: 310, quiet: 316 },
    { says: 'board', because: 'seven lamps at 50 mA together', at: sevenLamps, said: 180, quiet: 183 },
  ],
})
