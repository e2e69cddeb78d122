import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { check } from './index.ts'

describe('acceptances that name places as earlier versions did', () => {
  const weak = {
    mcu: 'uno-r3',
    parts: {
      X: 'mcp23017',
      U1: { part: 'resistor', options: { ohms: 330 } },
      U2: { part: 'resistor', options: { ohms: 330 } },
    },
    wires:
      'X.VDD MCU.5V, X.VSS MCU.GND, X.SDA MCU.A4, X.SCL MCU.A5, U1.1 MCU.A4, U1.2 MCU.5V, U2.1 MCU.A5, U2.2 MCU.5V',
  }
  const found = (accepted: { rule: string; at: string[]; because: string }[]) =>
    check(wiringOf({ ...weak, accepted })).filter(({ rule }) => rule === 'i2c-pullup')

  it('are now about pins of the plan', () => {
    expect(found([]).map(({ at }) => at)).toEqual([['MCU.A4', 'MCU.A5', 'X']])
  })
  it('still count, and are taken back by what they name', () => {
    const old = { rule: 'i2c-pullup', at: ['SDA', 'SCL', 'X'], because: 'measured' }
    const [finding] = found([old])
    expect(finding).toMatchObject({ accepted: 'measured', at: old.at })
    const plan = applyEdits(planOf({ ...weak, accepted: [old] }), [{ do: 'withdraw', rule: old.rule, at: finding!.at }])
    expect(plan.accepted).toEqual([])
    expect(check(resolve(plan, catalog)).find(({ rule }) => rule === 'i2c-pullup')).not.toHaveProperty('accepted')
  })
  it('of other places do not', () => {
    const [finding] = found([{ rule: 'i2c-pullup', at: ['SDA', 'X'], because: 'measured' }])
    expect(finding).not.toHaveProperty('accepted')
  })
})
