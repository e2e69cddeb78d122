import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { assignChoosing } from './choosing.ts'

describe('choosing modes and addresses', () => {
  // A board with one I2C controller.
  const choose = (short: Short) => {
    const plan = planOf({ mcu: 'esp32-c3-supermini', ...short })
    const result = assignChoosing(resolve(plan, catalog))
    return { result, plan: applyEdits(plan, result.edits) }
  }
  it('moves one of two sensors with one address, and wires its strap', () => {
    const { result, plan } = choose({ parts: { A: 'bme280', B: 'bme280' } })
    expect(result).toMatchObject({ status: 'placed', optimal: true, unplaced: [] })
    expect(result.choices).toEqual([{ ref: 'B', title: 'address 0x77' }])
    expect(check(resolve(plan, catalog))).toEqual([])
  })
  it('turns a jumper that the plan leaves open, and none that it names', () => {
    const robot = (volts: number, options = {}): Short => ({
      mcu: 'uno-r3',
      supplies: { PACK: { volts, limitMilliamps: 3000 } },
      parts: { D: { part: 'l298n', options }, L: 'dc-motor' },
    })
    const turned = choose(robot(12.6)).result
    expect(turned.choices).toEqual([{ ref: 'D', title: 'Jumper of the 5 V regulator: off' }])
    expect(turned.unplaced).toEqual([])
    expect(choose(robot(12)).result.choices).toEqual([])
    const { supplies: _, ...bare } = robot(12)
    expect(choose(bare).result.choices).toEqual([])
    expect(choose(bare).result.unplaced.map(({ end }) => end)).toContain('D.12V')
    const named = choose(robot(12.6, { jumper: 'set' })).result
    expect(named.choices).toEqual([])
    expect(named.unplaced.map(({ end }) => end)).toContain('D.12V')
  })
  it('takes another mode for the third, since there are two addresses', () => {
    const { result, plan } = choose({ parts: { A: 'bme280', B: 'bme280', C: 'bme280' } })
    expect(result).toMatchObject({ status: 'placed', unplaced: [] })
    expect(result.choices.map((one) => one.title).sort()).toEqual(['Four-wire bus (SPI)', 'address 0x77'])
    expect(check(resolve(plan, catalog)).filter((one) => one.severity === 'fault')).toEqual([])
  })
  it('mends what a choice can mend, also beside what none can', () => {
    // A light too many for the converters, whatever one does; and three sensors for two addresses, of which one can leave.
    const lights = Object.fromEntries([1, 2, 3, 4, 5, 6, 7].map((at) => [`L${at}`, 'ldr']))
    const both = choose({ parts: { ...lights, A: 'bme280', B: 'bme280', C: 'bme280' } })
    const left = [...new Set(both.result.unplaced.map(({ end }) => end.split('.')[0]))]
    expect(left.every((ref) => ref?.startsWith('L'))).toBe(true)
    expect(both.result.choices.map(({ title }) => title)).toContain('Four-wire bus (SPI)')
    const alone = choose({ parts: lights })
    expect(alone.result).toMatchObject({ status: 'partial', choices: [] })
    expect(alone.result.unplaced).toHaveLength(3)
  })
  it('takes another bus for one of two whose address nothing moves', () => {
    const { result } = choose({ parts: { A: 'pn532', B: 'pn532' } })
    expect(result).toMatchObject({ status: 'placed', unplaced: [] })
    expect(result.choices).toHaveLength(1)
  })
  it('mends what a choice can mend, also beside clocks of which one is too many', () => {
    // A clock has an address that it shares with its like, and one of its memory, which alone can change.
    const clocks = { A: 'ds3231', B: 'ds3231', X: 'bme280', Y: 'bme280', Z: 'bme280' }
    const { result } = choose({ parts: clocks })
    const left = new Set(result.unplaced.map(({ end }) => end.split('.')[0]))
    expect([...left]).toEqual([expect.stringMatching(/[AB]/)])
    expect(result.choices.map(({ title }) => title)).toContain('Four-wire bus (SPI)')
    expect(result.optimal).toBe(true)
  })
  it('leaves what is usual when everything fits', () => {
    expect(choose({ parts: { A: 'bme280', B: 'ds3231' } }).result.choices).toEqual([])
  })
  it('leaves what a part does as it is, though polling would free an edge pin', () => {
    const sensors = { A: 'hall-a3144', B: 'hall-a3144', C: 'hall-a3144' }
    expect(choose({ mcu: 'uno-r3', parts: sensors }).result).toMatchObject({ status: 'partial', choices: [] })
  })
  it('keeps what the plan names, and what is wired', () => {
    const named = { part: 'bme280', mode: 'i2c', options: { address: 0x76 } }
    expect(choose({ parts: { A: named, B: named } }).result).toMatchObject({ status: 'partial', choices: [] })
    const wired = choose({ parts: { A: 'bme280', B: named }, wires: 'A.SDO MCU.GND, A.SDI MCU.5' })
    expect(wired.result.choices).toEqual([])
  })
  it('never places less than with what is usual, and says the same twice', () => {
    fc.assert(
      fc.property(randomKit, (plan) => {
        const wiring = resolve(plan, catalog)
        const chosen = assignChoosing(wiring)
        expect(chosen.unplaced.length).toBeLessThanOrEqual(assign(wiring).unplaced.length)
        expect(assignChoosing(wiring).edits).toEqual(chosen.edits)
      }),
      { numRuns: times(25) },
    )
  })
})
