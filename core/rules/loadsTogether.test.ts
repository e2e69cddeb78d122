import { describe, expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { gnd, motor, ohms, pack } from '../testing/short.ts'
import { allRules, check } from './index.ts'

/** What is said of drivers and their loads. */
const said = (short: Short): string[] =>
  check(wiringOf(short), allRules).flatMap(({ rule, severity, message }) =>
    rule === 'driver-rating' ? [`${severity}: ${message}`] : [],
  )

/** Two motors between the same two outputs of a bridge that is good for 1.5 A, and for 2 A for a moment. */
const side = (milliamps: number, stall: number, wires = 'M2.M1 M1.M1, M2.M2 M1.M2'): Short => ({
  mcu: 'uno-r3',
  supplies: pack(6, 9000),
  parts: { D: 'drv8833', M1: motor(milliamps, stall), M2: motor(milliamps, stall) },
  wires: `${gnd}, D.VCC PACK.+, D.GND MCU.GND, D.EEP MCU.5V, D.IN1 MCU.5, D.IN2 MCU.6, D.IN3 MCU.9, D.IN4 MCU.10, D.AOUT1 M1.M1, D.AOUT2 M1.M2, ${wires}`,
})
const own = 'M2.M1 D.BOUT1, M2.M2 D.BOUT2'

/** Two fans on outputs of an array, each good for 300 mA and for 500 mA for a moment. */
const array = (milliamps: number, outputs: string): Short => {
  const fan = { part: 'fan', options: { volts: 12, milliamps } }
  return {
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'uln2003', F1: fan, F2: fan },
    wires: `${gnd}, D.GND MCU.GND, D.COM PACK.+, D.1B MCU.5, F1.+ PACK.+, F2.+ PACK.+, F1.- D.1C, F2.- D.1C${outputs}`,
  }
}
const tied = ', D.2B MCU.5, D.2C D.1C'

/** Two pumps behind one bare transistor that bears 800 mA. */
const behind = (milliamps: number, wires: string): Short => ({
  mcu: 'uno-r3',
  supplies: pack(5),
  parts: {
    Q: { part: 'npn', options: { model: 'tip120' } },
    R: ohms(470),
    P1: { part: 'pump', options: { milliamps } },
    P2: { part: 'pump', options: { milliamps } },
    X: 'diode',
  },
  wires: `${gnd}, Q.E MCU.GND, R.1 MCU.5, R.2 Q.B, X.K PACK.+, X.A Q.C, P1.+ PACK.+, ${wires}`,
})

const fans = (count: number): Short => {
  const fan = { part: 'fan', options: { volts: 12, milliamps: 140 } }
  const refs = Array.from({ length: count }, (_, at) => `F${at + 1}`)
  return {
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'npn', R: ohms(2700), ...Object.fromEntries(refs.map((ref) => [ref, fan])) },
    wires: `${gnd}, Q.E MCU.GND, R.1 MCU.5, R.2 Q.B, ${refs.map((ref) => `${ref}.+ PACK.+, ${ref}.- Q.C`).join(', ')}`,
  }
}

const near = (takes: number, good: number): string[] =>
  ['F1', 'F2'].map((fan) => `caution: ${fan} takes ${takes} of the ${good} mA that D is good for.`)

describe('loads side by side on one output', () => {
  it.each([
    [
      'a fault where they run over it',
      side(1100, 1100),
      ['fault: M1 and M2 take 2200 mA together, and D gives 2000 mA at most.'],
    ],
    ['two motors with outputs of their own are each looked at alone', side(1100, 1100, own), []],
    [
      'a caution where it is only good for less',
      side(900, 900),
      [
        'caution: M1 and M2 take 1800 mA together; D is good for 1500 mA, and for 2000 mA only for a moment or with a cooler.',
      ],
    ],
    [
      'and where they start over it',
      side(600, 1100),
      ['caution: M1 and M2 take 2200 mA when they start together, and D gives 2000 mA at most.'],
    ],
    ['nothing of what it bears', side(600, 1000), []],
    [
      'what is too much by itself is said of that alone',
      side(2200, 2200),
      [
        'fault: M1 takes 2200 mA, and D gives 2000 mA at most.',
        'fault: M2 takes 2200 mA, and D gives 2000 mA at most.',
      ],
    ],
    [
      'two pumps behind one transistor',
      behind(600, 'P1.- Q.C, P2.+ PACK.+, P2.- Q.C'),
      ['fault: P1 and P2 take 1200 mA together, and Q gives 1000 mA at most.'],
    ],
    [
      'two fans on one output of an array',
      array(290, ''),
      ['fault: F1 and F2 take 580 mA together, and D gives 500 mA at most.', ...near(290, 300)],
    ],
    ['on two that move together they have twice as much', array(230, tied), []],
    ['two of which one is behind the other take what one takes', behind(600, 'P1.- P2.+, P2.- Q.C'), []],
  ] as const)('%s', (_, short, expected) => {
    expect(said(short)).toEqual(expected)
  })
})

/** Lamps, or a pull-up that is read, at the collector of a transistor whose base is driven over a resistor. */
const lit = (base: number, wires: string): Short => ({
  mcu: 'uno-r3',
  parts: { Q: 'npn', R: ohms(base), L1: 'led', L2: 'led', R1: ohms(220), R2: ohms(220), U: ohms(10_000) },
  wires: `Q.E MCU.GND, R.1 MCU.5, R.2 Q.B, ${wires}`,
})
const lamps = 'R1.1 MCU.5V, R1.2 L1.A, L1.K Q.C, R2.1 MCU.5V, R2.2 L2.A, L2.K Q.C'
const turned = 'L1.A MCU.5V, L1.K R1.1, R1.2 Q.C, L2.A MCU.5V, L2.K R2.1, R2.2 Q.C'

describe('what a base has to carry', () => {
  it.each([
    [
      'one fan that it nearly carries',
      fans(1),
      ['caution: The base of Q gets 1.58 mA, enough for 158 mA; F1 takes 140 mA.'],
    ],
    ['two that it does not', fans(2), ['fault: The base of Q gets 1.58 mA, enough for 158 mA; F1 and F2 take 280 mA.']],
    [
      'lamps behind a base resistor far too large',
      lit(100_000, lamps),
      ['fault: The base of Q gets 0.04 mA, enough for 4 mA; L1 and L2 take 27 mA.'],
    ],
    [
      'lamps with their resistors at the collector',
      lit(100_000, turned),
      ['fault: The base of Q gets 0.04 mA, enough for 4 mA; R1 and R2 take 27 mA.'],
    ],
    ['lamps behind one that does', lit(4700, lamps), []],
    ['a lamp that it puts out', lit(10_000, 'R1.1 MCU.5V, R1.2 Q.C, L1.A Q.C, L1.K MCU.GND'), []],
    ['a pull-up that is read', lit(100_000, 'U.1 MCU.5V, U.2 Q.C, Q.C MCU.7'), []],
  ] as const)('%s', (_, short, expected) => {
    expect(said(short)).toEqual(expected)
  })
})
