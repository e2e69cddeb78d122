import { describe, expect, it } from 'vitest'
import { check } from '../rules/index.ts'
import { type Short, wiringOf } from '../testing/plans.ts'

const R = { part: 'resistor', options: { ohms: 10_000 } }
const said = (short: Short): string[] =>
  check(wiringOf(short))
    .filter(({ severity }) => severity !== 'tip')
    .map(({ severity, rule, message }) => `${severity} ${rule}: ${message}`)
const held = (pin: string) =>
  `fault input-floating: S closes to the supply, and nothing holds ${pin} low while it is open.`
const stands = (pin: string, level: string) => `fault level-logic: ${pin} reads ${level} in every position of S.`

describe('a change-over contact, whichever of its legs is read', () => {
  it.each<[string, Short, string[]]>([
    ['pole to ground, read when pushed', { parts: { S: 'limit-switch' }, wires: 'S.C MCU.GND, S.NO MCU.D8' }, []],
    ['pole to ground, read at rest', { parts: { S: 'limit-switch' }, wires: 'S.C MCU.GND, S.NC MCU.D8' }, []],
    ['pole read, other throw to ground', { parts: { S: 'limit-switch' }, wires: 'S.C MCU.D8, S.NO MCU.GND' }, []],
    ['one pole, two pins', { parts: { S: 'slide-switch' }, wires: 'S.C MCU.GND, S.1 MCU.D7, S.3 MCU.D8' }, []],
    ['pole between both rails', { parts: { S: 'slide-switch' }, wires: 'S.C MCU.D8, S.1 MCU.GND, S.3 MCU.5V' }, []],
    [
      'to the supply, held low by a resistor',
      { parts: { S: 'limit-switch', R }, wires: 'S.C MCU.5V, S.NO MCU.D8, R.1 MCU.D8, R.2 MCU.GND' },
      [],
    ],
    ['pole to the supply', { parts: { S: 'limit-switch' }, wires: 'S.C MCU.5V, S.NO MCU.D8' }, [held('MCU.D8')]],
    ['throw to the supply', { parts: { S: 'slide-switch' }, wires: 'S.C MCU.D8, S.1 MCU.5V' }, [held('MCU.D8')]],
    [
      'one pole on the supply, two pins',
      { parts: { S: 'slide-switch' }, wires: 'S.C MCU.5V, S.1 MCU.D7, S.3 MCU.D8' },
      [held('MCU.D7'), held('MCU.D8')],
    ],
    [
      'to the supply, held high by a resistor',
      { parts: { S: 'limit-switch', R }, wires: 'S.C MCU.D8, S.NO MCU.5V, R.1 MCU.D8, R.2 MCU.5V' },
      [stands('MCU.D8', 'high')],
    ],
    [
      'to ground, held low by a resistor',
      { parts: { S: 'limit-switch', R }, wires: 'S.C MCU.GND, S.NO MCU.D8, R.1 MCU.D8, R.2 MCU.GND' },
      [stands('MCU.D8', 'low')],
    ],
    [
      'both throws on ground',
      { parts: { S: 'slide-switch' }, wires: 'S.C MCU.D8, S.1 MCU.GND, S.3 MCU.GND' },
      [stands('MCU.D8', 'low')],
    ],
    [
      'a pole that nothing leads on',
      { parts: { S: 'slide-switch' }, wires: 'S.C MCU.GND' },
      ['caution pin-unplaced: S: 1 has no wire yet.'],
    ],
  ])('%s', (_, short, says) => {
    expect(said({ mcu: 'uno-r3', ...short }).sort()).toEqual(says)
  })

  it.each<[string, string, string[]]>([
    ['from rail to rail needs no pull', 'S.C MCU.34, S.1 MCU.GND, S.3 MCU.3V3', []],
    ['to ground needs one', 'S.C MCU.34, S.1 MCU.GND', ['fault pin-pull']],
    ['to the supply needs one down', 'S.C MCU.34, S.1 MCU.3V3', ['fault input-floating']],
    ['to the supply on a pin that has one', 'S.C MCU.25, S.1 MCU.3V3', ['caution input-floating']],
  ])('on a pin that may lack a pull: %s', (_, wires, says) => {
    expect(said({ parts: { S: 'slide-switch' }, wires }).map((one) => one.split(':')[0])).toEqual(says)
  })

  it('says of the leg that is read what it means there', () => {
    const text = (wires: string): (string | undefined)[] =>
      wiringOf({ mcu: 'uno-r3', parts: { S: 'limit-switch' }, wires }).signals.map(({ facts }) => facts.text)
    expect(text('S.C MCU.D8, S.NC MCU.GND')).toEqual(['high while the lever is pushed, or the wire broken'])
    expect(text('S.C MCU.D8, S.NC MCU.GND, S.NO MCU.5V')).toEqual([
      'high while the lever is pushed, or the wire broken',
    ])
    expect(text('S.C MCU.GND, S.NO MCU.D8')).toEqual(['joined to C while the lever is pushed'])
  })

  it('leads a supply on, which is no signal', () => {
    const wires = 'S.C PACK.+, S.1 M.+, M.- PACK.-'
    expect(
      said({ mcu: 'uno-r3', supplies: { PACK: { volts: 12 } }, parts: { S: 'slide-switch', M: 'lamp' }, wires }),
    ).toEqual([])
  })
})
