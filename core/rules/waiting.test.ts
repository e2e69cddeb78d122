import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short, wiringOf } from '../testing/plans.ts'
import { sound } from '../testing/wiringSuite.ts'
import { resolve } from '../wiring/resolve.ts'
import { allRules, check } from './index.ts'
import { sift } from './waiting.ts'

const sifted = (short: Short): { standing: string[]; waiting: string[] } => {
  const wiring = wiringOf(short)
  const { standing, waiting } = sift(wiring, check(wiring))
  const rules = (list: typeof standing): string[] => list.map(({ rule, says }) => `${rule} ${says}`)
  return { standing: rules(standing), waiting: rules(waiting) }
}

describe('what is not entered yet is counted and not scolded', () => {
  const parts = { S: 'hc-sr04', B: 'button' }
  it('a bare kit waits, and nothing of it stands', () => {
    expect(sifted({ mcu: 'uno-r3', parts })).toEqual({
      standing: [],
      waiting: ['pin-unplaced open', 'pin-unplaced open'],
    })
  })
  it('a ground that is lacking waits while its part has open pins', () => {
    expect(sifted({ mcu: 'uno-r3', parts: { S: 'hc-sr04' }, wires: 'S.VCC MCU.5V, S.TRIG MCU.D9' }).waiting).toContain(
      'supply-missing noGround',
    )
  })
  it('and stands once only the ground is open', () => {
    const wires = 'S.VCC MCU.5V, S.TRIG MCU.D9, S.ECHO MCU.D2'
    expect(sifted({ mcu: 'uno-r3', parts: { S: 'hc-sr04' }, wires })).toEqual({
      standing: ['supply-missing noGround'],
      waiting: [],
    })
  })
  it('an open pin waits while other parts have some, and stands as the last one', () => {
    const wires = 'S.VCC MCU.5V, S.TRIG MCU.D9, S.GND MCU.GND, B.1 MCU.D4'
    expect(sifted({ mcu: 'uno-r3', parts, wires }).standing).toEqual([])
    expect(sifted({ mcu: 'uno-r3', parts, wires: `${wires}, B.2 MCU.GND` })).toEqual({
      standing: ['pin-unplaced open'],
      waiting: [],
    })
  })
  it('a pull-up that is lacking waits while a resistor lies loose, and stands without one', () => {
    const wires = 'T.VDD MCU.3V3, T.GND MCU.GND, T.DQ MCU.GPIO4'
    expect(sifted({ parts: { T: 'ds18b20', R: 'resistor' }, wires }).waiting).toContain('onewire-pullup none')
    expect(sifted({ parts: { T: 'ds18b20' }, wires }).standing).toEqual(['onewire-pullup none'])
  })
  it('a mistake in what is wired stands at once', () => {
    expect(sifted({ parts, wires: 'S.VCC MCU.VIN, S.ECHO MCU.GPIO4' }).standing).toContain('level-damage driven')
  })
  it('what is accepted stays accepted', () => {
    const accepted = [{ rule: 'pin-unplaced', at: ['B.1', 'B.2'], because: 'later' }]
    const wiring = wiringOf({ mcu: 'uno-r3', parts: { B: 'button' }, accepted })
    expect(sift(wiring, check(wiring)).waiting).toEqual([])
  })
})

it('what a rule calls lacking is something that it can say', () => {
  for (const { meta } of allRules)
    for (const id of meta.lacking ?? []) expect(Object.keys(meta.messages), meta.id).toContain(id)
})

it('half-way through a sound wiring few faults are said, and at its end the same as ever', () => {
  let faults = 0
  let halves = 0
  for (const short of sound) {
    const plan = planOf(short)
    const whole = resolve(plan, catalog)
    expect(
      sift(whole, check(whole)).standing.filter(({ severity }) => severity === 'fault'),
      short.title,
    ).toEqual([])
    for (const share of [0.25, 0.5, 0.75]) {
      const wires = plan.wires.slice(0, Math.round(plan.wires.length * share))
      const half = resolve({ ...plan, wires }, catalog)
      halves += 1
      faults += sift(half, check(half)).standing.filter(
        ({ severity, accepted }) => severity === 'fault' && accepted === undefined,
      ).length
    }
  }
  // What is left are true of what is wired: a divider with one resistor, a relay without its diode.
  expect(faults / halves).toBeLessThan(0.12)
})
