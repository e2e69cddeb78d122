import { describe, expect, it } from 'vitest'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { budgets } from './budget.ts'

it('loads pass through regulators and boards to what feeds them', () => {
  const wiring = wiringOf({
    supplies: { PACK: { volts: 12 } },
    parts: { K: 'buck', S: { part: 'ws2812-strip', options: { pixels: 10 } }, A: 'hc-sr04' },
    wires:
      'K.IN+ PACK.+, K.IN- PACK.-, K.OUT- MCU.GND, K.OUT+ MCU.VIN, S.5V K.OUT+, S.GND K.OUT-, A.VCC MCU.VIN, A.GND MCU.GND',
  })
  const at = (end: string) => budgets(wiring).find((one) => one.source.end === end)
  const out = at('K.OUT+')!
  // The strip, the sensor, and what the board takes itself.
  expect(out.peakMilliamps).toBeCloseTo(600 + 20 + 100, 0)
  const factor = 5 / 12 / (wiring.parts[0]!.part.rails[0]!.efficiency as number)
  expect(at('PACK.+')!.peakMilliamps).toBeCloseTo(out.peakMilliamps * factor + 10, 0)
})

describe('what a board takes itself', () => {
  const peak = (short: Parameters<typeof wiringOf>[0], end: string) =>
    budgets(wiringOf(short)).find((one) => one.source.end === end)?.peakMilliamps
  const fed = { supplies: { PACK: { volts: 5 } }, wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND' }
  it('comes from what feeds it at a pin, and more while its radio is in use', () => {
    expect(peak(fed, 'PACK.+')).toBe(100)
    expect(peak({ ...fed, uses: ['wifi'] }, 'PACK.+')).toBe(500)
  })
  it('is left out at its socket, where the limits of its rails are less for it', () => {
    expect(peak({}, 'MCU.VIN')).toBe(0)
  })
  it('comes from another board that feeds it', () => {
    const boards = { A: { board: 'uno-r3' }, B: { board: 'pico' } }
    expect(peak({ boards, wires: 'A.5V B.VSYS, A.GND B.GND' }, 'A.5V')).toBe(100)
  })
  it('is not known of a board that does not say so', () => {
    const own = { id: 'my-board', own: undefined }
    const board = { ...catalog.boards.get('uno-r3')!, ...own }
    const plan = planOf({ mcu: 'uno-r3', supplies: { PACK: { volts: 9 } }, wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND' })
    const wiring = resolve(
      { ...plan, boards: { MCU: { board: 'my-board' } } },
      { ...catalog, boards: new Map([...catalog.boards, ['my-board', board]]) },
    )
    expect(budgets(wiring).find((one) => one.source.end === 'PACK.+')).toMatchObject({
      peakMilliamps: 0,
      unknown: ['MCU'],
    })
  })
})
