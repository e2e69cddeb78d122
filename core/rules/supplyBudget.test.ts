import type { Short } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { supplyBudget } from './supplyBudget.ts'

/** A lamp behind a regulator that heat limits. */
const lampBehind = (milliamps: number, volts: number, cooler: string) => ({
  supplies: { P: { volts, limitMilliamps: 5000 } },
  parts: {
    K: { part: 'regulator-5v', options: { cooler } },
    S: { part: 'lamp', options: { volts: 5, milliamps } },
  },
  wires: 'K.IN P.+, K.GND P.-, S.+ K.OUT, S.- P.-, P.- MCU.GND',
})

const pumpOn = (limitMilliamps: number) => ({
  supplies: { P: { volts: 5, limitMilliamps } },
  parts: { S: 'pump' },
  wires: 'S.+ P.+, S.- P.-, P.- MCU.GND',
})

/** A lamp on each of two rails of a board. */
const lampsOn = (low: string, lowMilliamps: number, high: string, highMilliamps: number) => ({
  parts: {
    A: { part: 'lamp', options: { volts: 5, milliamps: lowMilliamps } },
    B: { part: 'lamp', options: { volts: 5, milliamps: highMilliamps } },
  },
  wires: `A.+ MCU.${low}, A.- MCU.GND, B.+ MCU.${high}, B.- MCU.GND`,
})

/** So many red lamps from 3.3 V of an Uno over a resistor each, which pins pull low. */
const ledsOn = (count: number, ohms = 100): Short => {
  const each = Array.from({ length: count }, (_, at) => at)
  return {
    mcu: 'uno-r3',
    parts: Object.fromEntries(
      each.flatMap((at) => [
        [`L${at}`, 'led'],
        [`R${at}`, { part: 'resistor', options: { ohms } }],
      ]),
    ),
    wires: each.map((at) => `R${at}.1 MCU.3V3, R${at}.2 L${at}.A, L${at}.K MCU.D${at + 2}`).join(', '),
  }
}

testRule(supplyBudget, {
  valid: [
    { title: 'three lamps from a rail', ...ledsOn(3) },
    {
      title: 'a computer on a pack that is large enough',
      mcu: 'pi-40',
      supplies: { PACK: { volts: 5, limitMilliamps: 1200 } },
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
    },
    {
      title: 'a board fed from the strong rail of another one',
      boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.5V B.VIN, A.GND B.GND',
    },
    { title: 'lamps on two rails of one regulator, 280 of 350 mA together', ...lampsOn('3V3', 100, 'VIN', 180) },
    {
      title: 'the same where the regulator is a switching one: 78 and 240 mA',
      mcu: 'pico',
      ...lampsOn('3V3', 100, 'VBUS', 240),
    },
    {
      title: 'lamps on two rails of a board that a pack feeds',
      supplies: { PACK: { volts: 5, limitMilliamps: 1000 } },
      ...lampsOn('3V3', 220, 'VIN', 400),
      wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND, A.+ MCU.3V3, A.- MCU.GND, B.+ PACK.+, B.- MCU.GND',
    },
    {
      title: 'a few sensors on the board',
      parts: { A: 'bme280', O: 'ssd1306' },
      wires:
        'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22, O.VCC MCU.3V3, O.GND MCU.GND, O.SDA MCU.21, O.SCL MCU.22',
    },
    {
      title: 'a servo on a pack that is large enough',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.27',
    },
    {
      title: 'eight relays of which three are moved: 240 mA',
      mcu: 'uno-r3',
      parts: { K: 'relay-8' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.D4, K.IN2 MCU.D5, K.IN3 MCU.D6',
    },
    { title: 'a lamp behind a regulator at 9 V', ...lampBehind(200, 9, 'without') },
    { title: 'behind one with a cooler at 12 V', ...lampBehind(700, 12, 'with') },
  ],
  invalid: [
    {
      title: 'six lamps from a rail, which take more than it gives',
      ...ledsOn(6),
      says: ['fault: MCU.3V3 has to give 61 mA as a rule, and gives 50 mA at most.'],
    },
    {
      title: 'two lamps in a row, which take it once, ten times',
      mcu: 'uno-r3',
      supplies: { P: { volts: 9, limitMilliamps: 40 } },
      parts: { L: 'led', M: 'led', R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'P.- MCU.GND, R.1 P.+, R.2 L.A, L.K M.A, M.K P.-',
      says: ['fault: P.+ has to give 50 mA as a rule, and gives 40 mA at most.'],
    },
    {
      title: 'a computer on a small pack',
      mcu: 'pi-40',
      supplies: { PACK: { volts: 5, limitMilliamps: 1000 } },
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
      says: ['caution: PACK.+ has to give 1200 mA at peaks, and gives 1000 mA at most.'],
    },
    {
      title: 'a board fed from the weak rail of another one',
      boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.3V3 B.3V3, A.GND B.GND',
      says: ['fault: A.3V3 has to give 80 mA as a rule, and gives 50 mA at most.'],
    },
    {
      title: 'lamps on two rails of one regulator, each within its limit, 290 mA together',
      ...lampsOn('3V3', 100, 'VIN', 190),
      says: ['caution: MCU.VIN has to give 290 of its 350 mA as a rule.'],
    },
    {
      title: 'the same, and more than a USB port gives',
      ...lampsOn('3V3', 200, 'VIN', 200),
      says: ['fault: MCU.VIN has to give 400 mA as a rule, and gives 350 mA at most.'],
    },
    {
      title: 'too much on a rail is not said of the one that it comes through as well',
      ...lampsOn('3V3', 360, 'VIN', 1),
      says: ['fault: MCU.3V3 has to give 360 mA as a rule, and gives 300 mA at most.'],
    },
    {
      title: 'the input of a board that its socket feeds, where it comes through a diode',
      mcu: 'pico',
      ...lampsOn('3V3', 1, 'VSYS', 420),
      says: ['fault: MCU.VSYS has to give 421 mA as a rule, and gives 400 mA at most.'],
    },
    {
      title: 'by power behind a switching regulator: 78 and 260 mA',
      mcu: 'pico',
      ...lampsOn('3V3', 100, 'VBUS', 260),
      says: ['caution: MCU.VBUS has to give 338 of its 400 mA as a rule.'],
    },
    {
      title: 'a pack gives what both rails take, each once, and what the board takes itself',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 9, limitMilliamps: 250 } },
      ...lampsOn('3V3', 40, '5V', 150),
      wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND, A.+ MCU.3V3, A.- MCU.GND, B.+ MCU.5V, B.- MCU.GND',
      says: ['caution: PACK.+ has to give 240 of its 250 mA as a rule.'],
    },
    {
      title: 'the same lamp behind a regulator at 12 V, which heat limits further',
      ...lampBehind(200, 12, 'without'),
      says: ['fault: K.OUT has to give 200 mA as a rule, and gives 155 mA at most.'],
    },
    {
      title: 'volts past the last step hold to the last step',
      ...lampBehind(60, 25, 'without'),
      says: ['fault: K.OUT has to give 60 mA as a rule, and gives 57 mA at most.'],
    },
    {
      title: 'a strip of a hundred pixels on a small pack',
      supplies: { PACK: { volts: 5, limitMilliamps: 1000 } },
      parts: { P: { part: 'ws2812-strip', options: { pixels: 100 } } },
      wires: 'P.5V PACK.+, P.GND PACK.-, PACK.- MCU.GND, P.DIN MCU.27',
      says: ['fault: PACK.+ has to give 2000 mA as a rule, and gives 1000 mA at most.'],
    },
    {
      title: 'eight relays of which six are moved',
      mcu: 'uno-r3',
      parts: { K: 'relay-8' },
      wires:
        'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.D4, K.IN2 MCU.D5, K.IN3 MCU.D6, K.IN4 MCU.D7, K.IN5 MCU.D8, K.IN6 MCU.D9',
      says: ['caution: MCU.5V has to give 480 mA at peaks, and gives 400 mA at most.'],
    },
    {
      title: 'eight relays, and none is wired to be moved yet',
      mcu: 'uno-r3',
      parts: { K: 'relay-8' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND',
      says: ['caution: MCU.5V has to give 640 mA at peaks, and gives 400 mA at most.'],
    },
    {
      title: 'two servos on USB beside a pack',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { A: 'servo-sg90', B: 'servo-sg90' },
      wires: 'A.VCC MCU.5V, A.GND MCU.GND, B.VCC MCU.5V, B.GND MCU.GND, PACK.- MCU.GND, A.SIG MCU.9, B.SIG MCU.10',
      says: ['fault: MCU.5V has to give 440 mA as a rule, and gives 400 mA at most.'],
      fix: 'Feed A from PACK.+ and B from PACK.+',
      changes: [
        'wire A.VCC to MCU.5V removed',
        'wire B.VCC to MCU.5V removed',
        'wire A.VCC to PACK.+ added',
        'wire B.VCC to PACK.+ added',
      ],
    },
    {
      title: 'a motor behind a converter counts at the pack',
      supplies: { PACK: { volts: 12, limitMilliamps: 300 } },
      parts: { K: 'buck', P: { part: 'ws2812-strip', options: { pixels: 40 } } },
      wires: 'K.IN+ PACK.+, K.IN- PACK.-, K.OUT- MCU.GND, P.5V K.OUT+, P.GND K.OUT-, P.DIN MCU.27',
      says: [
        'fault: PACK.+ has to give 422 mA as a rule, and gives 300 mA at most.',
        'caution: K.OUT+ has to give 2400 mA at peaks, and gives 2000 mA at most.',
      ],
    },
  ],
  edges: [
    { says: 'over', because: '220 mA as a rule', at: pumpOn, said: 219, quiet: 220 },
    { says: 'near', because: '220 mA / 0.8 = 275 mA', at: pumpOn, said: 274, quiet: 275 },
    {
      says: 'overPeaks',
      because: 'a servo takes 650 mA when it starts',
      at: (limitMilliamps) => ({
        supplies: { P: { volts: 5, limitMilliamps } },
        parts: { S: 'servo-sg90' },
        wires: 'S.VCC P.+, S.GND P.-, P.- MCU.GND, S.SIG MCU.27',
      }),
      said: 649,
      quiet: 650,
    },
    {
      says: 'together',
      because: '700 mA for both rails, 60 mA a pixel at peaks: 11 of them',
      at: (pixels) => ({
        parts: { B: 'breadboard-supply', P: { part: 'ws2812-strip', options: { pixels } } },
        wires: 'P.5V B.5V, P.GND B.GND, B.GND MCU.GND, P.DIN MCU.27',
      }),
      said: 12,
      quiet: 11,
    },
    {
      says: 'takesMore',
      because: '2 A · 3.7 V · 0.85 / 5 V = 1258 mA, 20 mA a pixel: 62 of them',
      at: (pixels) => ({
        supplies: { W: { volts: 3.7, limitMilliamps: 9000 } },
        parts: { B: 'boost', P: { part: 'ws2812-strip', options: { pixels } } },
        wires: 'B.IN+ W.+, B.IN- W.-, P.5V B.OUT+, P.GND B.OUT-, B.OUT- MCU.GND, P.DIN MCU.27',
      }),
      said: 63,
      quiet: 62,
    },
  ],
})
