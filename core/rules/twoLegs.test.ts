import { describe, expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { check } from './index.ts'

const said = (short: Short): string[] =>
  check(wiringOf({ mcu: 'uno-r3', ...short }))
    .filter(({ severity, rule }) => severity !== 'tip' && rule !== 'reset-glitch')
    .map(({ severity, rule, message }) => `${severity} ${rule}: ${message}`)
    .sort()
const wired = (short: Short): string[] => {
  const plan = planOf(short)
  return applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits).wires.map(([from, to]) => `${from} ${to}`)
}

describe('a load of two legs may be switched at either', () => {
  const loads = [
    ['laser-diode', 'S', 'laser'],
    ['buzzer-active', '+', 'buzzer'],
    ['ssr', '+', 'solid-state relay'],
  ] as const
  it.each(loads)('%s: by a transistor or a button in its minus', (part, plus) => {
    const parts = { L: part, Q: 'nmos', B: 'button' }
    expect(
      said({ parts: { L: part, Q: 'nmos' }, wires: `L.${plus} MCU.5V, L.- Q.D, Q.S MCU.GND, Q.G MCU.D5` }),
    ).toEqual([])
    expect(said({ parts: { L: parts.L, B: parts.B }, wires: `L.${plus} MCU.5V, L.- B.1, B.2 MCU.GND` })).toEqual([])
  })
  it.each(loads)('%s: not turned round', (part, plus) => {
    const turned = `fault polarity: L is the wrong way round: its plus L.${plus} is on ground.`
    expect(said({ parts: { L: part }, wires: `L.- MCU.D8, L.${plus} MCU.GND` })).toEqual([turned])
  })
  it.each(loads)('%s: its minus wants a wire', (part, plus) => {
    expect(said({ parts: { L: part }, wires: `L.${plus} MCU.5V` })).toContain(
      'caution pin-unplaced: L: - has no wire yet.',
    )
  })
  it.each([
    // 30 mA at 5 V are 167 Ω, and the pin has 25 Ω: 5 V / 192 Ω.
    ['buzzer-active', '+', ['caution pin-current: MCU.D8 takes 26 mA for L; 20 mA is recommended.']],
    ['laser-diode', 'S', ['caution pin-current: MCU.D8 takes 35 mA for L; 20 mA is recommended.']],
    ['ssr', '+', []],
  ])('%s: its current goes into the pin at its minus', (part, plus, says) => {
    expect(said({ parts: { L: part }, wires: `L.- MCU.D8, L.${plus} MCU.5V` })).toEqual(says)
  })
  it.each([
    ['3v', 33],
    ['5v', 20],
  ])('takes at 3.3 V what its kind makes of it: %s', (kind, milliamps) => {
    const parts = { L: { part: 'buzzer-active', options: { kind } }, D: 'diode' }
    const wires = 'L.+ MCU.GP5, L.- MCU.GND, D.A MCU.GND, D.K MCU.GP5'
    expect(said({ mcu: 'pico', parts, wires })).toEqual([
      `fault pin-current: MCU.GP5 gives ${milliamps} mA for L; 12 mA is the limit.`,
    ])
  })
  it('is no way for a pin to let go of a supply above its own', () => {
    const wires = (plus: string): Short => ({ mcu: 'pico', parts: { L: 'ssr' }, wires: `L.- MCU.GP5, L.+ MCU.${plus}` })
    const damage = 'fault level-damage: Through L MCU.VBUS brings 5.0 V to MCU.GP5, which bears 3.63 V.'
    expect(said(wires('VBUS'))).toContain(damage)
    expect(said(wires('3V3')).filter((one) => one.includes('level-damage'))).toEqual([])
  })
  it('is off for good with both legs on ground, on or off as it likes on a supply', () => {
    const off = 'fault pin-on-rail: L.S is on ground: it keeps the part from its work for good (lights while high).'
    expect(said({ parts: { L: 'laser-diode' }, wires: 'L.S MCU.GND, L.- MCU.GND' })).toEqual([off])
    expect(said({ parts: { L: 'laser-diode' }, wires: 'L.S MCU.5V, L.- MCU.GND' })).toEqual([])
  })
  it('takes a transistor only where it is more than a pin gives', () => {
    expect(wired({ mcu: 'uno-r3', parts: { L: 'ssr', Q: 'nmos' } })).toEqual(['L.- MCU.GND', 'L.+ MCU.D8'])
    expect(wired({ mcu: 'pico', parts: { L: 'ssr', Q: 'nmos' } })).toContain('L.- Q.D')
    expect(wired({ mcu: 'uno-r3', parts: { L: 'buzzer-active', Q: 'nmos' } })).toContain('L.- Q.D')
  })
})

describe('a sensor that is a resistance', () => {
  const R = { part: 'resistor', options: { ohms: 10_000 } }
  it.each([
    [
      'between two supplies',
      'L.1 MCU.5V, L.2 MCU.3V3, R.1 L.2, R.2 MCU.GND',
      'fault pin-on-rail: L.2 is on 3.3 V (MCU.3V3): nobody reads it there.',
    ],
    [
      'straight from supply to ground',
      'L.1 MCU.5V, L.2 MCU.GND',
      'fault pin-on-rail: L.2 is on ground: nobody reads it there.',
    ],
  ])('%s is read by nobody', (_, wires, says) => {
    expect(said({ parts: { L: 'ldr', R }, wires })).toContain(says)
  })
  it('in a divider is read', () => {
    expect(said({ parts: { L: 'ldr', R }, wires: 'L.1 MCU.5V, L.2 MCU.A0, R.1 L.2, R.2 MCU.GND' })).toEqual([])
  })
})

describe('what holds a strap high is as high as its own supply', () => {
  const expander = (reset: string): Short => ({
    parts: {
      X: 'mcp23017',
      R: { part: 'resistor', options: { ohms: 4700 } },
      T: { part: 'resistor', options: { ohms: 4700 } },
    },
    wires: `X.VDD MCU.5V, X.VSS MCU.GND, X.RESET MCU.${reset}, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, X.SDA MCU.A4, X.SCL MCU.A5, R.1 X.SDA, R.2 MCU.5V, T.1 X.SCL, T.2 MCU.5V`,
  })
  it.each([
    ['5V', []],
    ['3V3', ['caution level-logic: X.RESET wants 4.0 V for a high and gets 3.3 V from MCU.3V3.']],
  ])('the reset of an expander at 5 V on %s', (rail, says) => {
    expect(said(expander(rail))).toEqual(says)
  })
  it('but a reference may be lower', () => {
    const wires =
      'X.VDD MCU.5V, X.AGND MCU.GND, X.DGND MCU.GND, X.VREF MCU.3V3, X.CS MCU.10, X.DIN MCU.11, X.DOUT MCU.12, X.CLK MCU.13'
    expect(said({ parts: { X: 'mcp3008' }, wires })).toEqual([])
  })
  it('counts for an input that is tied as well', () => {
    const shift = (rail: string): Short => ({
      parts: { X: 'cd4017' },
      wires: `X.VDD MCU.5V, X.VSS MCU.GND, X.INH MCU.GND, X.RST MCU.${rail}, X.CLK MCU.6`,
    })
    expect(said(shift('GND'))).toEqual([])
    expect(said(shift('5V'))).toEqual([
      'fault pin-on-rail: X.RST is on 5 V (MCU.5V): it keeps the part from its work for good (high goes back to Q0).',
    ])
  })
})
