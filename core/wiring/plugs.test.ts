import { describe, expect, it } from 'vitest'
import { makeSheet } from '../sheets/sheet.ts'
import { wiringOf } from '../testing/plans.ts'
import { coveredPosts, plugsOf } from './plugs.ts'

const servos = (wires: string, bench = {}) =>
  plugsOf(
    wiringOf({
      mcu: 'uno-r3',
      parts: { D: 'pca9685', A: 'servo-sg90', B: 'servo-sg90' },
      supplies: { PACK: { volts: 5 } },
      wires: `D.VCC MCU.5V, D.GND MCU.GND, PACK.- MCU.GND, D.V+ PACK.+, ${wires}`,
      ...bench,
    }),
  )

describe('what plugs on as a whole', () => {
  it('a servo on its channel of a driver board, whichever way supply and ground were drawn', () => {
    const drawn = servos('A.SIG D.PWM0, A.VCC D.V+, A.GND D.GND, B.SIG D.PWM5, B.VCC PACK.+, B.GND MCU.GND')
    expect(drawn.map(({ ref, pairs }) => [ref, ...pairs.map(([, post]) => post)])).toEqual([
      ['A', 'D.GND', 'D.V+', 'D.PWM0'],
      ['B', 'D.GND', 'D.V+', 'D.PWM5'],
    ])
  })
  it('not where a wire goes elsewhere, and one plug a channel', () => {
    // Fed from the board instead of the pack: the middle post has another supply.
    expect(servos('A.SIG D.PWM0, A.VCC MCU.5V, A.GND D.GND')).toEqual([])
    expect(servos('A.SIG MCU.D9, A.VCC D.V+, A.GND D.GND')).toEqual([])
    expect(servos('A.SIG D.PWM0, A.VCC D.V+, A.GND D.GND, B.SIG D.PWM0, B.VCC D.V+, B.GND D.GND')).toHaveLength(1)
  })
  it('a motor in the socket of its driver board, and not with two coils changed over', () => {
    const motor = (coils: string) =>
      plugsOf(
        wiringOf({
          mcu: 'uno-r3',
          parts: { D: 'uln2003-board', M: 'stepper-28byj48' },
          wires: `M.RED D.PLUS, ${coils}`,
        }),
      ).length
    expect(motor('M.BLU D.A, M.PNK D.B, M.YEL D.C, M.ORG D.D')).toBe(1)
    expect(motor('M.BLU D.B, M.PNK D.A, M.YEL D.C, M.ORG D.D')).toBe(0)
    // The whole order turned round: the plug goes in either way.
    expect(motor('M.BLU D.D, M.PNK D.C, M.YEL D.B, M.ORG D.A')).toBe(0)
  })
  it('a keypad on neighbouring posts of a board beside the breadboard, in either direction', () => {
    const pad = (pins: readonly string[], beside: boolean) =>
      plugsOf(
        wiringOf({
          mcu: 'esp32-devkit-38',
          parts: { K: 'keypad-4x3' },
          wires: ['R1', 'R2', 'R3', 'R4', 'C1', 'C2', 'C3'].map((pin, at) => `K.${pin} MCU.${pins[at]}`).join(', '),
          ...(beside ? { bench: { breadboards: {}, places: { MCU: { beside: true } } } } : {}),
        }),
      ).length
    const row = ['GPIO32', 'GPIO33', 'GPIO25', 'GPIO26', 'GPIO27', 'GPIO14', 'GPIO12']
    expect(pad(row, true)).toBe(1)
    expect(pad([...row].reverse(), true)).toBe(1)
    expect(pad(row, false)).toBe(0)
    expect(pad(['GPIO33', 'GPIO32', ...row.slice(2)], true)).toBe(0)
  })
  it('a breakout covers the posts of the board that it is on, and no second one does', () => {
    const wiring = wiringOf({
      boards: { ONE: { board: 'pi-40' }, TWO: { board: 'pi-40' } },
      parts: { X: 'breakout-40', Y: { part: 'breakout-40', on: 'ONE' }, Z: { part: 'breakout-26', on: 'TWO' } },
    })
    expect(plugsOf(wiring).map(({ ref, onto }) => [ref, onto])).toEqual([
      ['X', 'ONE'],
      ['Z', 'TWO'],
    ])
    expect(coveredPosts(wiring).has('TWO.GPIO11')).toBe(true)
    expect(coveredPosts(wiring).has('TWO.GPIO21')).toBe(false)
  })
  it('the sheet without a breadboard leads wires to what the plug brings out', () => {
    const sheet = makeSheet(
      wiringOf({
        mcu: 'pi-40',
        parts: { X: 'breakout-40', S: 'button' },
        wires: 'S.1 MCU.GPIO17, S.2 X.GND, S.1 X.GPIO17',
      }),
    )
    expect(sheet.wiring.map(({ from, to }) => `${from.ref}.${from.pin} ${to.ref}.${to.pin}`).sort()).toEqual([
      'S.1 X.GPIO17',
      'S.2 X.GND',
    ])
    expect(sheet.steps.at(-1)?.title).toBe('Over the header')
  })
})
