import { expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { analogUnitOf } from './analog.ts'

it('what lies at the reference pin is full scale where it is less than that of the board', () => {
  const unitAt = (wires: string) => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      supplies: { REF: { volts: 2.5 } },
      parts: { K: 'potentiometer' },
      wires: `K.1 MCU.GND, K.3 MCU.5V, K.W MCU.A0${wires}`,
    })
    return analogUnitOf(wiring, wiring.signal('K.W')!.hosts[0]!.host)!
  }
  expect(unitAt('')).toMatchObject({ most: 5 })
  // Full scale itself changes nothing, and there is nothing to say of it.
  expect(unitAt(', MCU.AREF MCU.5V')).toEqual(unitAt(''))
  expect(unitAt(', MCU.AREF REF.+, REF.- MCU.GND')).toMatchObject({
    most: 2.5,
    note: 'MCU.AREF is wired: what lies there is full scale, once the program takes it.',
  })
})
