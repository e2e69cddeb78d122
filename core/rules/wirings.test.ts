import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fixesFor } from '../advice/fixes.ts'
import { applyEdits } from '../plan/edit.ts'
import { findingKey } from '../plan/findingKey.ts'
import type { Plan } from '../plan/planSchema.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { randomWiring, wiringOn } from '../testing/randomPlans.ts'
import { ruleReference } from '../testing/ruleReference.ts'
import { expectBound, expectSound } from '../testing/soundFinding.ts'
import { times } from '../testing/times.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import { resolve } from '../wiring/resolve.ts'
import { allRules, check } from './index.ts'

const faults = (short: Parameters<typeof wiringOf>[0]): string[] =>
  check(wiringOf(short), allRules)
    .filter((one) => one.severity === 'fault')
    .map((one) => `${one.rule}: ${one.message}`)

describe('sound wirings stay free of faults', () => {
  it.each(sound)('$title', (short) => {
    expect(faults(short)).toEqual([])
  })
})

describe('mistakes are found by the rule that is there for them', () => {
  it.each(mistaken)('$rule: $title', ({ rule, ...short }) => {
    const wiring = wiringOf(short)
    const found = check(wiring, allRules)
    for (const finding of found) expectSound(wiring, finding)
    expect(found.map((one) => one.rule)).toContain(rule)
    // No other rule cries fault at it.
    expect([...new Set(faults(short).map((one) => one.split(':')[0]))].filter((one) => one !== rule)).toEqual([])
  })
})

describe('no rule throws or says nonsense', () => {
  it.each([...catalog.boards.keys()])('on random wirings of %s', (board) => {
    fc.assert(
      fc.property(wiringOn(board), (plan) => {
        const wiring = resolve(plan, catalog)
        const found = check(wiring, allRules)
        for (const finding of found) expectSound(wiring, finding)
        // The list tells findings apart by rule and places.
        const keys = found.map(({ rule, at }) => `${rule} ${at.join(' ')}`)
        expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([])
      }),
      { numRuns: times(40) },
    )
  })
})

describe('every fix mends its finding and brings no new fault', () => {
  const holds = (plan: Plan): void => {
    const wiring = resolve(plan, catalog)
    const findings = check(wiring)
    const before = new Set(findings.filter((one) => one.severity === 'fault').map(findingKey))
    for (const finding of findings)
      for (const fix of fixesFor(wiring, finding, findings)) {
        expectBound(wiring, fix)
        const after = check(resolve(applyEdits(plan, fix.edits), catalog))
        expect(after.map(findingKey), fix.title).not.toContain(findingKey(finding))
        expect(
          after.filter((one) => one.severity === 'fault' && !before.has(findingKey(one))).map((one) => one.message),
          fix.title,
        ).toEqual([])
        const locked = plan.wires.filter((wire) => wire[2]?.locked).map(String)
        expect(applyEdits(plan, fix.edits).wires.map(String)).toEqual(expect.arrayContaining(locked))
      }
  }
  it.each(mistaken)('$rule: $title', ({ rule: _, ...short }) => holds(planOf(short)))
  it('on random wirings', () => {
    fc.assert(fc.property(randomWiring, holds), { numRuns: times(25) })
  }, 120_000)
})

it('the rule reference in the documentation is that of these rules', () => {
  expect(readFileSync('docs/rules.md', 'utf8')).toBe(ruleReference())
})
