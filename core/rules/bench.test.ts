import { describe, expect, it } from 'vitest'
import { fed, type Short, wiringOf } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { holeClash } from './holeClash.ts'
import { check, rules } from './index.ts'
import { noFreeHole } from './noFreeHole.ts'
import { railGap } from './railGap.ts'

const lamp = {
  mcu: 'nano-v3',
  parts: { LAMP: 'led', R1: 'resistor' },
  wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND',
}
const full = { BB1: { kind: 'full' } } as const

testRule(holeClash, {
  valid: [
    { title: 'no bench', ...lamp },
    { title: 'nothing put by hand', ...lamp, bench: { breadboards: full } },
    {
      title: 'a resistor in two free rows',
      ...lamp,
      bench: { breadboards: full, places: { R1: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } } } },
    },
    {
      title: 'a wire over an empty row',
      ...lamp,
      bench: {
        breadboards: full,
        places: { R1: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } } },
        via: { 'LAMP.K': 'BB1.c50' },
      },
    },
    {
      title: 'two legs of one net in one row',
      ...lamp,
      bench: {
        breadboards: full,
        places: {
          R1: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } },
          LAMP: { legs: { A: 'BB1.b40', K: 'BB1.b41' } },
        },
      },
    },
  ],
  invalid: [
    {
      title: 'a wire over a row that another net holds',
      ...lamp,
      bench: {
        breadboards: full,
        places: { R1: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } } },
        via: { 'LAMP.K': 'BB1.c44' },
      },
      says: ['fault: The wire of LAMP.K cannot be led over BB1.c44: row 44 a–e carries the net of MCU.D5.'],
    },
    {
      title: 'two legs in one hole',
      ...lamp,
      bench: {
        breadboards: full,
        places: {
          LAMP: { legs: { A: 'BB1.a40', K: 'BB1.a41' } },
          R1: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } },
        },
      },
      says: ['fault: R1 cannot stand where it was put: BB1.a40 holds LAMP.A already.'],
      fix: 'Let the program place R1',
      changes: ['R1 stands where the program puts it'],
    },
    {
      title: 'a row that joins what must stay apart',
      ...lamp,
      bench: {
        breadboards: full,
        places: {
          LAMP: { legs: { A: 'BB1.a40', K: 'BB1.a41' } },
          R1: { legs: { '1': 'BB1.b41', '2': 'BB1.b45' } },
        },
      },
      says: ['fault: R1 cannot stand where it was put: row 41 a–e would join R1.1 with LAMP.K.'],
      fix: 'Keep R1, let the program place LAMP',
      changes: ['LAMP stands where the program puts it'],
    },
    {
      title: 'legs that cannot be bent so far',
      ...lamp,
      bench: { breadboards: full, places: { R1: { legs: { '1': 'BB1.a10', '2': 'BB1.a40' } } } },
      says: [
        'fault: R1 cannot stand where it was put: its legs cannot be bent to that span; they reach over 4 to 10 holes.',
      ],
    },
    {
      title: 'a board that stands over the end',
      ...lamp,
      bench: { breadboards: full, places: { MCU: { at: 'BB1.b60' } } },
      says: ['fault: MCU cannot stand where it was put: it would stand over the end of the breadboard.'],
      fix: 'Let the program place MCU',
      changes: ['MCU stands where the program puts it'],
    },
  ],
})

const far = {
  mcu: 'uno-r3',
  parts: { A: 'led', B: 'led', RA: 'resistor', RB: 'resistor' },
  wires: 'A.A MCU.D5, A.K RA.1, RA.2 MCU.GND, B.A MCU.D6, B.K RB.1, RB.2 MCU.GND',
}
const ends = { RA: { legs: { '1': 'BB1.b5', '2': 'BB1.L-5' } }, RB: { legs: { '1': 'BB1.b60', '2': 'BB1.L-60' } } }

testRule(railGap, {
  valid: [
    { title: 'a rail that runs through', ...far, bench: { breadboards: full, places: ends } },
    {
      title: 'cut rails that the program bridges',
      ...far,
      bench: { breadboards: { BB1: { kind: 'full', rails: 'split' } }, places: ends },
    },
    {
      title: 'an open gap beside which all stands on one side',
      ...far,
      bench: {
        breadboards: { BB1: { kind: 'full', rails: 'split', bridged: false } },
        places: { RA: ends.RA, RB: { legs: { '1': 'BB1.b10', '2': 'BB1.L-10' } } },
      },
    },
  ],
  invalid: [
    {
      title: 'lamps on both sides of an open gap',
      ...far,
      bench: { breadboards: { BB1: { kind: 'full', rails: 'split', bridged: false } }, places: ends },
      says: ['fault: BB1: rail L- carries ground on both sides of its gap before row 33, and nothing bridges it.'],
      fix: 'Bridge the rails of BB1',
      changes: ['BB1: bridged false becomes unset'],
    },
  ],
})

const wide = {
  mcu: 'esp32-devkit-30',
  parts: { BROOD: 'bme280' },
  wires: `${fed('BROOD')}, BROOD.SDA MCU.D21, BROOD.SCL MCU.D22`,
}

testRule(noFreeHole, {
  valid: [
    { title: 'a narrow board', ...lamp, bench: { breadboards: full } },
    {
      title: 'a wide board over two breadboards',
      ...wide,
      bench: { breadboards: { BB1: { kind: 'half' }, BB2: { kind: 'half', joined: true } } },
    },
    {
      title: 'a wide board beside on jumpers',
      ...wide,
      bench: { breadboards: { BB1: { kind: 'half' } }, places: { MCU: { beside: true } } },
    },
  ],
  invalid: [
    {
      title: 'a wide board with wires on both sides',
      ...wide,
      wires: `${wide.wires}, BROOD.CSB MCU.D34`,
      bench: { breadboards: { BB1: { kind: 'half' } } },
      says: [
        'fault: MCU: GPIO34 gets no wire on the bench: every hole of its row is taken or covered, so that no wire reaches it.',
      ],
      fix: 'Clip a second breadboard to BB1',
      changes: ['breadboard BB2 added (half, clipped to the one before)'],
    },
    {
      title: 'more legs than rows',
      mcu: 'uno-r3',
      parts: { A: '74ahct125', B: '74ahct125', C: '74ahct125' },
      bench: { breadboards: { BB1: { kind: 'mini' } } },
      says: [
        'fault: C finds no place on the bench: it needs 7 free rows on both sides of the trench, its rows 3 holes apart; there is mini breadboard, 17 rows, no rails.',
      ],
      fix: 'Put another breadboard beside',
      changes: ['breadboard BB2 added (mini)'],
    },
  ],
})

describe('rules of the wiring', () => {
  it('say nothing of the bench, whose layout takes longer', () => {
    const bench = { breadboards: full, places: { MCU: { at: 'BB1.b60' } } }
    const said = (short: Short): string[] => check(wiringOf(short), rules).map((one) => one.message)
    expect(said({ ...lamp, bench })).toEqual(said(lamp))
  })
})
