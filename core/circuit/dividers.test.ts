import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { ohms } from '../testing/short.ts'
import { dividersOf } from './dividers.ts'

const found = (wires: string, parts = {}) =>
  dividersOf(wiringOf({ parts: { E: 'hc-sr04', T: ohms(1000), B: ohms(2000), ...parts }, wires })).map(
    ({ top, bottom, volts, host, out }) => [
      top.ref,
      bottom.ref,
      volts,
      host?.logicVolts,
      out && Math.round(out * 100) / 100,
    ],
  )
const fed = 'E.VCC MCU.VIN, E.GND MCU.GND'

describe('dividers', () => {
  it('are a resistor from an output to the middle and one from there to ground, whichever leg is which', () => {
    // 5 V · 2 kΩ / 3 kΩ = 3.33 V
    const divider = [['T', 'B', 5, 3.3, 3.33]]
    expect(found(`${fed}, E.ECHO T.1, T.2 MCU.27, MCU.27 B.1, B.2 MCU.GND`)).toEqual(divider)
    expect(found(`${fed}, E.ECHO T.2, T.1 MCU.27, MCU.27 B.2, B.1 MCU.GND`)).toEqual(divider)
  })
  it('may hang on a source, and wait for a pin', () => {
    expect(found('MCU.3V3 T.1, T.2 B.1, B.2 MCU.GND')).toEqual([['T', 'B', 3.3, undefined, 2.2]])
  })
  it('are none without a ground, without anything above, or between two grounds', () => {
    expect(found(`${fed}, E.ECHO T.1, T.2 MCU.27, MCU.27 B.1`)).toEqual([])
    expect(found('T.2 MCU.27, MCU.27 B.1, B.2 MCU.GND')).toEqual([])
    expect(found('T.1 MCU.GND, T.2 MCU.27, MCU.27 B.1, B.2 MCU.GND')).toEqual([])
    expect(found('MCU.3V3 T.1, T.2 MCU.GND, B.1 MCU.GND, B.2 MCU.GND')).toEqual([])
  })
  it('are two when two lie above one middle', () => {
    expect(
      found('MCU.3V3 T.1, T.2 B.1, B.2 MCU.GND, MCU.3V3 U.1, U.2 B.1', { U: ohms(1000) }).map(([top]) => top),
    ).toEqual(['T', 'U'])
  })
})
