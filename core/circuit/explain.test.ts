import { describe, expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { explainEnd, explanationText } from './explain.ts'

const said = (short: Short, end: string): string => {
  const explanation = explainEnd(wiringOf(short), end)
  if (!explanation) throw new Error(`nothing is said of ${end}`)
  return explanationText(explanation)
}
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })

describe('the explanation of a pin', () => {
  const lamp: Short = {
    mcu: 'uno-r3',
    parts: { L: 'led', R: ohms(330) },
    wires: 'L.A R.1, R.2 MCU.3, L.K MCU.GND',
  }
  it('tells the current of a lamp with its arithmetic', () => {
    const text = said(lamp, 'MCU.D3')
    expect(text).toContain('puts out a level')
    expect(text).toContain('When MCU.D3 is high:')
    expect(text).toContain('(4.77 V − 2.0 V) / 330 Ω = 8.4 mA')
    expect(text).toContain('All 4 states')
  })
  it('counts only what is joined by metal as joined', () => {
    expect(said(lamp, 'L.A')).toContain('On the same piece of metal: R.1.')
    expect(said({ mcu: 'uno-r3' }, 'MCU.D3')).toContain('Nothing is joined to it.')
  })
  it('says what is not known', () => {
    expect(said(lamp, 'L.A')).toContain('Not known: what it bears')
  })
  it('tells a divider, and each position of the pin', () => {
    const text = said(
      {
        mcu: 'uno-r3',
        supplies: { PACK: { volts: 12 } },
        parts: { R: ohms(33_000), S: ohms(10_000) },
        wires: 'PACK.- MCU.GND, R.1 PACK.+, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND',
      },
      'MCU.A0',
    )
    expect(text).toContain('When nothing drives:\n    It lies at 2.79 V.')
    expect(text).toContain('R leads to PACK.+ (12.0 V): (12.0 V − 2.79 V) / 33 kΩ = 279 µA comes in.')
    expect(text).toContain('S leads to ground')
  })
  it('tells a contact, and the pull-up that the program may switch on', () => {
    const text = said({ mcu: 'uno-r3', parts: { B: 'button' }, wires: 'B.1 MCU.4, B.2 MCU.GND' }, 'MCU.D4')
    expect(text).toContain('floats, unless the program switches on the pull-up inside MCU.D4')
    expect(text).toContain('When B is closed:\n    It lies at 0.0 V.')
  })
  it('tells the levels of a bare line with their margin', () => {
    const text = said(
      { mcu: 'pico', parts: { E: 'hc-sr04p' }, wires: 'E.VCC MCU.3V3, E.GND MCU.GND, E.TRIG MCU.GP2, E.ECHO MCU.GP3' },
      'MCU.GP3',
    )
    expect(text).toContain('When E.ECHO is high:')
    expect(text).toMatch(/MCU\.GP3 takes from [\d.]+ V for high: margin [\d.]+ V/)
  })
  it('tells what a boot-strap pin comes to while the board starts', () => {
    const text = said(
      { parts: { B: 'button', R: ohms(10_000) }, wires: 'B.1 MCU.12, B.2 MCU.GND, R.1 MCU.12, R.2 MCU.3V3' },
      'MCU.GPIO12',
    )
    expect(text).toContain('When the board starts:')
    expect(text).toContain('must be low then')
    expect(text).toContain('With what is wired it comes to 2.7 V.')
  })
  it('tells a rail as what holds it', () => {
    expect(said({ mcu: 'uno-r3' }, 'MCU.5V')).toContain('MCU.5V holds it at 5.0 V.')
    expect(said({ mcu: 'uno-r3' }, 'MCU.GND')).toContain('It is ground.')
  })
  it('knows no end that the plan does not have', () => {
    expect(explainEnd(wiringOf(lamp), 'MCU.D99')).toBeUndefined()
  })
})
