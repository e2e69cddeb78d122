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
    ['two of which one is behind the other take what one takes', behind(600, 'P1.- P2.+, P2.- Q.C'), []],
  ] as const)('%s', (_, short, expected) => {
    expect(said(short)).toEqual(expected)
  })
})
