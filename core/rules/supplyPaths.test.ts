import { describe, expect, it } from 'vitest'
import { budgets } from '../circuit/budget.ts'
import { type Short, wiringOf } from '../testing/plans.ts'
import { allRules, check } from './index.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const loud = (short: Short): string[] =>
  check(wiringOf(short), allRules)
    .filter((one) => one.severity !== 'tip')
    .map((one) => `${one.severity} ${one.rule}: ${one.message}`)

describe('a supply goes on through what lies in its way', () => {
  it.each<[string, Short]>([
    [
      'a slide switch before a lamp',
      {
        mcu: 'uno-r3',
        supplies: pack,
        parts: { S: 'slide-switch', L: 'lamp' },
        wires: 'S.C PACK.+, S.1 L.+, L.- PACK.-, PACK.- MCU.GND',
      },
    ],
    [
      'a slide switch behind a lamp',
      {
        mcu: 'uno-r3',
        supplies: pack,
        parts: { S: 'slide-switch', L: 'lamp' },
        wires: 'L.+ PACK.+, L.- S.C, S.1 PACK.-, PACK.- MCU.GND',
      },
    ],
    [
      'a slide switch before a board',
      {
        mcu: 'uno-r3',
        supplies: { P: { volts: 9, limitMilliamps: 1000 } },
        parts: { S: 'slide-switch' },
        wires: 'S.C P.+, S.1 MCU.VIN, P.- MCU.GND',
      },
    ],
    [
      'a meter before a lamp',
      {
        mcu: 'uno-r3',
        supplies: pack,
        parts: { A: 'ina219', L: 'lamp' },
        wires:
          'A.VCC MCU.5V, A.GND MCU.GND, A.SDA MCU.A4, A.SCL MCU.A5, A.VIN+ PACK.+, A.VIN- L.+, L.- PACK.-, PACK.- MCU.GND',
      },
    ],
    [
      'a meter behind a lamp',
      {
        mcu: 'uno-r3',
        supplies: pack,
        parts: { A: 'ina219', L: 'lamp' },
        wires:
          'A.VCC MCU.5V, A.GND MCU.GND, A.SDA MCU.A4, A.SCL MCU.A5, L.+ PACK.+, L.- A.VIN+, A.VIN- PACK.-, PACK.- MCU.GND',
      },
    ],
    [
      'a charger on its cell, and a converter',
      {
        mcu: 'uno-r3',
        uses: [],
        parts: { A: 'charger-tp4056', B: { part: 'boost', options: { volts: 5 } } },
        wires: 'A.OUT+ B.IN+, A.OUT- B.IN-, B.OUT+ MCU.5V, B.OUT- MCU.GND',
      },
    ],
    [
      'a knob with its ends the other way round',
      { mcu: 'uno-r3', parts: { P: 'potentiometer' }, wires: 'P.1 MCU.5V, P.3 MCU.GND, P.W MCU.A0' },
    ],
  ])('%s is quiet', (_, short) => {
    expect(loud(short)).toEqual([])
  })

  it('and what is behind it counts at the source', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      supplies: pack,
      parts: { S: 'slide-switch', L: { part: 'lamp', options: { milliamps: 700 } } },
      wires: 'S.C PACK.+, S.1 L.+, L.- PACK.-, PACK.- MCU.GND',
    })
    expect(budgets(wiring).find((one) => one.source.end === 'PACK.+')?.typicalMilliamps).toBe(700)
  })

  it('and a motor behind a bridge counts once, at the supply of the bridge', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: { part: 'dc-motor', options: { milliamps: 400, stall: 1500 } } },
      wires: 'U.12V PACK.+, PACK.- MCU.GND, U.GND MCU.GND, U.IN1 MCU.D4, U.IN2 MCU.D5, M.M1 U.OUT1, M.M2 U.OUT2',
    })
    const own = 36
    expect(budgets(wiring).find((one) => one.source.end === 'PACK.+')?.typicalMilliamps).toBe(400 + own)
  })
})

describe('one cause is one finding', () => {
  it.each<[string, Short, RegExp]>([
    [
      'a sensor',
      {
        parts: { C: 'bme280' },
        wires: 'C.VCC MCU.GND, C.GND MCU.3V3, C.SDA MCU.GPIO21, C.SCL MCU.GPIO22, C.CSB MCU.3V3',
        unused: ['C.SDO'],
      },
      /^fault polarity: VCC and GND of C are swapped: C\.VCC is on ground and C\.GND on a supply\.$/,
    ],
    [
      'a servo',
      {
        mcu: 'uno-r3',
        supplies: { P: { volts: 5, limitMilliamps: 2000 } },
        parts: { S: 'servo-sg90' },
        wires: 'S.VCC P.-, S.GND P.+, S.SIG MCU.D9, P.- MCU.GND',
      },
      /^fault polarity: VCC and GND of S are swapped/,
    ],
  ])('%s with supply and ground exchanged', (_, short, said) => {
    const found = loud(short).filter((one) => one.startsWith('fault'))
    expect(found).toHaveLength(1)
    expect(found[0]).toMatch(said)
  })

  it('a lead without ground is a fault of the cable, not a pin that waits for a wire', () => {
    expect(
      loud({ mcu: 'pico', parts: { C: 'usb-ttl-cable' }, wires: 'C.RXD MCU.GP0, C.TXD MCU.GP1', unused: ['C.5V'] }),
    ).toContain('fault supply-missing: C has no ground at C.GND.')
  })
})

describe('what a converter and a supply module give together', () => {
  const boosted = (milliamps: number): Short => ({
    mcu: 'uno-r3',
    supplies: { CELL: { volts: 3.7, limitMilliamps: 5000 } },
    parts: { B: { part: 'boost', options: { volts: 12 } }, L: { part: 'lamp', options: { milliamps } } },
    wires: 'B.IN+ CELL.+, B.IN- CELL.-, L.+ B.OUT+, L.- CELL.-, CELL.- MCU.GND',
  })
  it('a converter takes in no more than it can: 12 V out of 3.7 V at 85 %', () => {
    // 500 mA · 12 V / 3.7 V / 0.85 = 1908 mA of 2000; 550 mA would be 2099 mA.
    expect(loud(boosted(500)).filter((one) => one.includes('would have to take'))).toEqual([])
    expect(loud(boosted(550))).toContain(
      'fault supply-budget: B would have to take 2099 mA from CELL.+, and takes 2000 mA at most.',
    )
  })
})
