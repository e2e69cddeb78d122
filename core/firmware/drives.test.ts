import { describe, expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { drivesOf, readingsOf } from './drives.ts'

const drives = (short: Short): string[] =>
  drivesOf(wiringOf(short)).map(
    ({ part, does, when }) =>
      `${part.ref} ${does}: ${when.map(({ host, level }) => `${host.pin} ${level}`).join(', ') || 'always'}`,
  )
const readings = (short: Short): string[] =>
  readingsOf(wiringOf(short)).map(
    ({ use, contact, says, pull }) =>
      `${use.end} ${contact ? `high ${contact.high} low ${contact.low}` : says}${pull ? ` pull-${pull}` : ''}`,
  )
const uno = { mcu: 'uno-r3' }
const lamp = { LAMP: 'led', R1: 'resistor' }

describe('which level does what', () => {
  it.each<[string, Short, string[]]>([
    [
      'a lamp to ground',
      { ...uno, parts: lamp, wires: 'LAMP.A R1.1, R1.2 MCU.D4, LAMP.K MCU.GND' },
      ['LAMP lights: D4 high'],
    ],
    [
      'a lamp to the supply is active low',
      { ...uno, parts: lamp, wires: 'LAMP.A R1.1, R1.2 MCU.5V, LAMP.K MCU.D4' },
      ['LAMP lights: D4 low'],
    ],
    [
      'a buzzer to ground',
      { ...uno, parts: { B: 'buzzer-active' }, wires: 'B.+ MCU.D4, B.- MCU.GND' },
      ['B sounds: D4 high'],
    ],
    [
      'a buzzer to the supply',
      { ...uno, parts: { B: 'buzzer-active' }, wires: 'B.+ MCU.5V, B.- MCU.D4' },
      ['B sounds: D4 low'],
    ],
    [
      'a lamp on the rails',
      { ...uno, parts: lamp, wires: 'LAMP.A R1.1, R1.2 MCU.5V, LAMP.K MCU.GND' },
      ['LAMP lights: always'],
    ],
    [
      'a lamp turned round never lights',
      { ...uno, parts: lamp, wires: 'LAMP.K R1.1, R1.2 MCU.D4, LAMP.A MCU.GND' },
      [],
    ],
    [
      'a lamp behind a transistor',
      {
        ...uno,
        parts: { ...lamp, Q: 'npn', R2: 'resistor' },
        wires: 'LAMP.A R1.1, R1.2 MCU.5V, LAMP.K Q.C, Q.E MCU.GND, Q.B R2.1, R2.2 MCU.D4',
      },
      ['LAMP lights: D4 high'],
    ],
    [
      'a fan behind a MOSFET',
      {
        ...uno,
        supplies: { PACK: { volts: 5 } },
        parts: { FAN: 'fan', Q: 'nmos' },
        wires: 'FAN.+ PACK.+, FAN.- Q.D, Q.S PACK.-, PACK.- MCU.GND, Q.G MCU.D6',
      },
      ['FAN runs: D6 high'],
    ],
    [
      'a motor on a bridge: each way, and stop',
      {
        ...uno,
        supplies: { PACK: { volts: 7.4 } },
        parts: { M: 'dc-motor', D: 'l298n' },
        wires: 'D.12V PACK.+, D.GND PACK.-, D.GND MCU.GND, D.IN1 MCU.D7, D.IN2 MCU.D8, M.M1 D.OUT1, M.M2 D.OUT2',
      },
      ['M turns from M1 to M2: D7 high, D8 low', 'M turns from M2 to M1: D7 low, D8 high', 'M stops: D7 low, D8 low'],
    ],
    [
      'the same with its leads exchanged turns the other way',
      {
        ...uno,
        supplies: { PACK: { volts: 7.4 } },
        parts: { M: 'dc-motor', D: 'l298n' },
        wires: 'D.12V PACK.+, D.GND PACK.-, D.GND MCU.GND, D.IN1 MCU.D7, D.IN2 MCU.D8, M.M2 D.OUT1, M.M1 D.OUT2',
      },
      ['M turns from M1 to M2: D7 low, D8 high', 'M turns from M2 to M1: D7 high, D8 low', 'M stops: D7 low, D8 low'],
    ],
    [
      'a speed pin and a standby must be high as well',
      {
        ...uno,
        supplies: { PACK: { volts: 6 } },
        parts: { M: 'dc-motor', D: 'tb6612' },
        wires:
          'D.VM PACK.+, D.GND PACK.-, D.GND MCU.GND, D.VCC MCU.5V, D.AIN1 MCU.D7, D.AIN2 MCU.D8, D.PWMA MCU.D5, D.STBY MCU.D4, M.M1 D.AO1, M.M2 D.AO2',
      },
      [
        'M turns from M1 to M2: D7 high, D5 high, D4 high, D8 low',
        'M turns from M2 to M1: D7 low, D5 high, D4 high, D8 high',
        'M stops: D7 low, D5 high, D4 high, D8 low',
      ],
    ],
    [
      'a relay board that is active low',
      { ...uno, parts: { K: 'relay-1' }, wires: 'K.IN MCU.D3, K.VCC MCU.5V, K.GND MCU.GND' },
      ['K low switches on: D3 low'],
    ],
    [
      'a lamp on an expander',
      {
        parts: { ...lamp, EXP: 'pcf8574' },
        wires:
          'EXP.SDA MCU.GPIO21, EXP.SCL MCU.GPIO22, EXP.VDD MCU.3V3, EXP.VSS MCU.GND, LAMP.A R1.1, R1.2 MCU.3V3, LAMP.K EXP.P3',
      },
      ['LAMP lights: P3 low'],
    ],
  ])('%s', (_, short, said) => expect(drives(short)).toEqual(said))
})

describe('what a level that is read means', () => {
  const button = { B: 'button', R1: { part: 'resistor', options: { ohms: 10_000 } } }
  it.each<[string, Short, string[]]>([
    [
      'to ground, with the pin’s own pull-up',
      { ...uno, parts: button, wires: 'B.1 MCU.D4, B.2 MCU.GND' },
      ['B.1 high open low closed pull-up'],
    ],
    [
      'to ground, with a resistor',
      { ...uno, parts: button, wires: 'B.1 MCU.D4, B.2 MCU.GND, R1.1 MCU.D4, R1.2 MCU.5V' },
      ['B.1 high open low closed'],
    ],
    [
      'to the supply, with a resistor',
      { ...uno, parts: button, wires: 'B.1 MCU.D4, B.2 MCU.5V, R1.1 MCU.D4, R1.2 MCU.GND' },
      ['B.1 high closed low open'],
    ],
    [
      'to the supply, with the pin’s own pull-down',
      { mcu: 'pico', parts: button, wires: 'B.1 MCU.GP4, B.2 MCU.3V3' },
      ['B.1 high closed low open pull-down'],
    ],
    [
      'a sensor says itself what low means',
      { ...uno, parts: { H: 'hall-a3144' }, wires: 'H.OUT MCU.D2' },
      ['H.OUT low near a magnet pull-up'],
    ],
  ])('a button %s', (_, short, said) => expect(readings(short)).toEqual(said))
})
