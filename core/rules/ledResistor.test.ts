import { testRule } from '../testing/rules.ts'
import { ledResistor } from './ledResistor.ts'

/** Two lamps on two pins with one resistor to ground. */
const shared = (one: string, two: string) => ({
  mcu: 'uno-r3',
  parts: {
    L: { part: 'led', options: { colour: one } },
    M: { part: 'led', options: { colour: two } },
    R: { part: 'resistor', options: { ohms: 330 } },
  },
  wires: 'L.A MCU.3, M.A MCU.4, L.K R.1, M.K R.1, R.2 MCU.GND',
})

/** A lamp and its resistor across a supply. */
const lamp =
  (volts: number, colour = 'red') =>
  (ohms: number) => ({
    supplies: { P: { volts } },
    parts: { L: { part: 'led', options: { colour } }, R: { part: 'resistor', options: { ohms } } },
    wires: 'L.A R.1, R.2 P.+, L.K P.-, P.- MCU.GND',
  })

testRule(ledResistor, {
  valid: [
    { title: 'infrared at 47 mA', ...lamp(5, 'infrared')(81) },
    { title: 'two red lamps of two pins on one resistor', ...shared('red', 'red') },
    {
      title: 'red with 330 Ω at 3.3 V',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.27, L.K MCU.GND',
    },
    {
      title: 'blue with 220 Ω at 5 V',
      mcu: 'uno-r3',
      parts: { L: { part: 'led', options: { colour: 'blue' } }, R: { part: 'resistor', options: { ohms: 220 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
    },
    {
      title: 'lit by a low pin, from the supply',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.3V3, L.K MCU.27',
    },
  ],
  invalid: [
    {
      title: 'infrared that gets more than the weakest of its kind bears',
      ...lamp(5, 'infrared')(74),
      says: ['fault: L at A gets 51 mA and bears 50 mA.'],
    },
    {
      title: 'two side by side behind one resistor',
      mcu: 'uno-r3',
      parts: { L: 'led', K: 'led', R: { part: 'resistor', options: { ohms: 220 } } },
      wires: 'R.1 MCU.5, R.2 L.A, R.2 K.A, L.K MCU.GND, K.K MCU.GND',
      says: ['tip: L and K hang side by side on R: the one of fewer volts takes more of its current.'],
    },
    {
      title: 'a red one beside a blue one, which leaves all of the current to it',
      mcu: 'uno-r3',
      parts: {
        L: 'led',
        K: { part: 'led', options: { colour: 'blue' } },
        R: { part: 'resistor', options: { ohms: 100 } },
      },
      wires: 'R.1 MCU.5, R.2 L.A, R.2 K.A, L.K MCU.GND, K.K MCU.GND',
      says: ['fault: L at A gets 24 mA and bears 20 mA.', 'fault: K at A stays dark: 2.0 V is below its 3.2 V.'],
    },
    {
      title: 'the same with a resistor that is too small for both',
      mcu: 'uno-r3',
      parts: { L: 'led', K: 'led', R: { part: 'resistor', options: { ohms: 10 } } },
      wires: 'R.1 MCU.5, R.2 L.A, R.2 K.A, L.K MCU.GND, K.K MCU.GND',
      says: ['fault: L at A gets 41 mA and bears 20 mA.', 'fault: K at A gets 41 mA and bears 20 mA.'],
    },
    {
      title: 'a blue lamp beside a red one on one resistor, each with a pin of its own',
      ...shared('red', 'blue'),
      says: ['caution: M at A goes dark while L at A is lit: both hang on R.'],
    },
    {
      title: 'three colours of one lamp on the resistor at their common leg',
      mcu: 'uno-r3',
      parts: { L: 'rgb-led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.R MCU.3, L.G MCU.5, L.B MCU.6, L.COM R.1, R.2 MCU.GND',
      says: [
        'caution: L at B goes dark while L at R is lit: both hang on R.',
        'caution: L at G goes dark while L at R is lit: both hang on R.',
      ],
    },
    {
      title: 'none at all',
      parts: { L: 'led' },
      wires: 'L.A MCU.27, L.K MCU.GND',
      says: ['fault: Nothing limits the current of L at A.'],
      fix: 'Add resistor 330 Ω to L',
      changes: [
        'part R1 added (resistor)',
        'wire L.A to MCU.GPIO27 removed',
        'wire R1.2 to MCU.GPIO27 added',
        'wire L.A to R1.1 added',
      ],
    },
    {
      title: '47 Ω at 5 V',
      mcu: 'nano-v3',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 47 } } },
      wires: 'L.A R.1, R.2 MCU.7, L.K MCU.GND',
      says: ['fault: L at A gets 64 mA and bears 20 mA.'],
      fix: 'Make R 390 Ω',
      changes: ['R: options ohms 47 becomes ohms 390'],
    },
    {
      title: 'dim with 47 kΩ',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 47000 } } },
      wires: 'L.A R.1, R.2 MCU.27, L.K MCU.GND',
      says: ['caution: L at A gets 0.03 mA and will hardly be seen.'],
      fix: 'Make R 180 Ω',
      changes: ['R: options ohms 47000 becomes ohms 180'],
    },
    {
      title: 'white from too low a supply',
      boards: { MCU: { board: 'pico' } },
      supplies: { CELL: { volts: 3 } },
      parts: { L: { part: 'led', options: { colour: 'white' } }, R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'L.A R.1, R.2 CELL.+, L.K MCU.GND, CELL.- MCU.GND',
      says: ['caution: L at A stays dark: 3.0 V is below its 3.2 V.'],
    },
    {
      title: 'a resistor that grows hot',
      supplies: { BIG: { volts: 24 } },
      mcu: 'uno-r3',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 1200 } }, D: 'uln2003' },
      wires: 'R.1 BIG.+, R.2 L.A, L.K MCU.GND, BIG.- MCU.GND',
      says: ['caution: R turns 403 mW into heat and is rated 250 mW.'],
      fix: 'Take a 1 W resistor for R',
      changes: ['R: options ohms 1200 becomes ohms 1200, watts 1'],
    },
  ],
  edges: [
    { says: 'over', because: '(5 V − 2 V) / 20 mA = 150 Ω, and a thousandth', at: lamp(5), said: 149, quiet: 150 },
    { says: 'faint', because: '(5 V − 2 V) / 0.3 mA = 10 kΩ', at: lamp(5), said: 10100, quiet: 9900 },
    { says: 'hot', because: '(24 V − 2 V)² / 0.25 W = 1936 Ω', at: lamp(24), said: 1930, quiet: 1940 },
  ],
})
