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

describe('a lamp or a buzzer that a pin may switch at either leg', () => {
  const lamp = { L: 'led', R: ohms(470), P: ohms(470) }
  const state = (parts: Short['parts'], wires: string): string => {
    const { signals, ties } = wiringOf({ mcu: 'uno-r3', parts, wires })
    const [use] = signals
    const [tie] = ties
    const lacks = use?.lacksSeries ? ', lacks its resistor' : ''
    return `${use?.end} ${use?.state} ${use?.facts.activeLevel}${lacks}; ${tie?.end} to ${tie?.to} ${tie?.state}`
  }
  it.each([
    ['its plus on the supply', 'L.A MCU.5V', 'L.K open low, lacks its resistor; L.A to supply right'],
    ['and its resistor at a pin', 'L.A MCU.5V, L.K R.1, R.2 MCU.D5', 'L.K placed low; L.A to supply right'],
    ['a resistor between', 'R.1 MCU.5V, R.2 L.A', 'L.K open low; L.A to supply right'],
    ['its minus at a pin', 'L.K MCU.D5', 'L.K placed low; L.A to supply open'],
    ['its minus behind a resistor at a pin', 'L.K R.1, R.2 MCU.D5', 'L.K placed low; L.A to supply open'],
    ['its plus behind a loose resistor', 'L.K MCU.D5, L.A R.1', 'L.K placed low; L.A to supply right'],
    ['its plus at a pin', 'L.A R.1, R.2 MCU.D5', 'L.A placed high; L.K to ground open'],
    ['both at pins', 'L.A R.1, R.2 MCU.D5, L.K MCU.D6', 'L.A placed high; L.K to ground right'],
    ['a resistor at its minus', 'L.K R.1, R.2 MCU.GND', 'L.A open high; L.K to ground right'],
    ['a loose resistor at its minus', 'L.K R.1', 'L.A open high; L.K to ground right'],
    [
      'its minus behind a resistor on ground, its plus on the supply',
      'L.A MCU.5V, L.K R.1, R.2 MCU.GND',
      'L.A tied high; L.K to ground right',
    ],
    [
      'at a pin, behind a resistor that pulls it up',
      'R.1 MCU.5V, R.2 MCU.D5, L.A MCU.D5',
      'L.A placed high, lacks its resistor; L.K to ground open',
    ],
    [
      'behind a resistor on the supply and one at a pin',
      'R.1 MCU.5V, R.2 L.A, P.1 L.A, P.2 MCU.D5',
      'L.A placed high; L.K to ground open',
    ],
    ['both on rails', 'L.A MCU.5V, L.K MCU.GND', 'L.A tied high, lacks its resistor; L.K to ground right'],
    ['turned round', 'L.A MCU.GND, L.K MCU.D5', 'L.A tied high, lacks its resistor; L.K to ground right'],
  ])('%s', (_, wires, says) => {
    expect(state(lamp, wires)).toBe(says)
  })
  it('works the same for a buzzer, and not for what has a supply of its own', () => {
    expect(state({ B: 'buzzer-active' }, 'B.+ MCU.5V')).toBe('B.- open low; B.+ to supply right')
    expect(state({ B: 'buzzer-active' }, 'B.- MCU.D5')).toBe('B.- placed low; B.+ to supply open')
    expect(state({ B: 'buzzer-active' }, 'B.+ MCU.D5')).toBe('B.+ placed high; B.- to ground open')
  })
})
