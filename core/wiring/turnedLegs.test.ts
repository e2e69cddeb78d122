import { describe, expect, it } from 'vitest'
import { check } from '../rules/index.ts'
import { type Short, wiringOf } from '../testing/plans.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const said = (short: Short): string[] =>
  check(wiringOf(short))
    .filter(({ severity }) => severity !== 'tip')
    .map(({ rule }) => rule)

/** Both ways round: the entry's first leg at the pin, and at the rail. */
const both = (
  wires: (pin: string, rail: string) => string,
  [one, two]: readonly [string, string],
): [string, string] => [wires(one, two), wires(two, one)]

describe('a part with two legs that are alike', () => {
  const legs = ['B.1', 'B.2'] as const
  it.each<[string, string[], Omit<Short, 'wires'>, [string, string]]>([
    [
      'a button to ground',
      [],
      { mcu: 'uno-r3', parts: { B: 'button' } },
      both((pin, rail) => `${pin} MCU.3, ${rail} MCU.GND`, legs),
    ],
    [
      'a button on a pin without a pull',
      ['pin-pull'],
      { parts: { B: 'button' } },
      both((pin, rail) => `${pin} MCU.34, ${rail} MCU.GND`, legs),
    ],
    [
      'a reed contact to the supply that nothing pulls down',
      ['input-floating'],
      { mcu: 'uno-r3', parts: { B: 'reed-switch' } },
      both((pin, rail) => `${pin} MCU.3, ${rail} MCU.5V`, legs),
    ],
    [
      'a button and its resistor on one side',
      ['level-logic'],
      { mcu: 'uno-r3', parts: { B: 'button', R: ohms(10_000) } },
      both((pin, rail) => `${pin} MCU.3, ${rail} MCU.5V, R.1 MCU.3, R.2 MCU.5V`, legs),
    ],
    [
      'a light sensor with its resistor',
      [],
      { mcu: 'uno-r3', parts: { B: 'ldr', R: ohms(10_000) } },
      both((pin, rail) => `${pin} MCU.A0, ${rail} MCU.5V, R.1 MCU.A0, R.2 MCU.GND`, legs),
    ],
    [
      'a light sensor on a pin that reads no volts',
      ['pin-function'],
      { mcu: 'uno-r3', parts: { B: 'ldr', R: ohms(10_000) } },
      both((pin, rail) => `${pin} MCU.4, ${rail} MCU.5V, R.1 MCU.4, R.2 MCU.GND`, legs),
    ],
  ])('%s says the same both ways round', (_, rules, short, wires) => {
    for (const one of wires) expect(said({ ...short, wires: one }), one).toEqual(rules)
  })

  it('carries its signal at the leg that is not on a rail', () => {
    const ends = (wires: string): string[] =>
      wiringOf({ mcu: 'uno-r3', parts: { B: 'button' }, wires }).signals.map(({ end, state }) => `${end} ${state}`)
    expect(ends('B.1 MCU.3, B.2 MCU.GND')).toEqual(['B.1 placed'])
    expect(ends('B.2 MCU.3, B.1 MCU.GND')).toEqual(['B.2 placed'])
    expect(ends('B.1 MCU.GND')).toEqual(['B.2 open'])
    // Both on a rail, or none: as the entry says.
    expect(ends('B.1 MCU.GND, B.2 MCU.5V')).toEqual(['B.1 tied'])
    expect(ends('B.1 MCU.3, B.2 MCU.4')).toEqual(['B.1 placed'])
  })
})
