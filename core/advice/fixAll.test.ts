import { expect, it } from 'vitest'
import { applyEdits, type Edit } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { mistaken } from '../testing/wiringSuite.ts'
import { type Step, withoutIdle } from './fixAll.ts'
import { fixesFor } from './fixes.ts'

it('a step that adds a part is left out when nobody needs the part, and stays when it mends or a later one builds on it', () => {
  const wiring = wiringOf({ parts: { T: 'ds18b20' }, wires: 'T.VDD MCU.3V3, T.GND MCU.GND, T.DQ MCU.GPIO4' })
  const findings = check(wiring)
  const [finding] = findings
  const [fix] = fixesFor(wiring, finding!, findings)
  const step = (name: string, ...edits: readonly Edit[]): Step => ({ rule: name, message: name, fix: name, edits })
  const needed = step('pull-up', ...fix!.edits)
  const idle = step('idle', { do: 'add-part', ref: 'C9', entry: { part: 'led' } })
  const base = step('base', { do: 'add-part', ref: 'C9', entry: { part: 'button' } })
  const wired = step(
    'wired',
    { do: 'connect', from: 'C9.1', to: 'MCU.GPIO13' },
    { do: 'connect', from: 'C9.2', to: 'MCU.GND' },
  )
  expect(check(wiringOf({})).length).toBe(0)
  expect(withoutIdle(wiring.plan, catalog, [needed])).toEqual([needed])
  expect(withoutIdle(wiring.plan, catalog, [idle, needed])).toEqual([needed])
  expect(withoutIdle(wiring.plan, catalog, [base, wired, needed])).toEqual([base, wired, needed])
  expect(() => applyEdits(wiring.plan, wired.edits)).toThrow()
})

it('a fix says which caution it brings, and one that brings none says none', () => {
  const { title: _, rule, ...short } = mistaken.find(({ title }) => title === 'switch puts 5 V on a Pico pin')!
  const wiring = wiringOf(short)
  const findings = check(wiring)
  const fixes = fixesFor(wiring, findings.find((one) => one.rule === rule)!, findings)
  const brings = new Map(fixes.map((fix) => [fix.title, fix.brings]))
  expect(brings.get('Take out the wire S.C to MCU.GP15')).toEqual(['S: C has no wire yet.'])
  const line = wiringOf({ parts: { T: 'ds18b20' }, wires: 'T.VDD MCU.3V3, T.GND MCU.GND, T.DQ MCU.GPIO4' })
  const all = check(line)
  expect(fixesFor(line, all[0]!, all)[0]?.brings).toEqual([])
})
