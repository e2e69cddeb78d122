import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fixesFor } from '../advice/fixes.ts'
import { applyEdits } from '../plan/edit.ts'
import { findingKey } from '../plan/findingKey.ts'
import type { Plan } from '../plan/planSchema.ts'
import { editWords } from '../testing/editWords.ts'
import { once } from '../testing/once.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { randomWiring, wiringOn } from '../testing/randomPlans.ts'
import { recordOf } from '../testing/record.ts'
import { ruleReference } from '../testing/ruleReference.ts'
import { expectBound, expectSound } from '../testing/soundFinding.ts'
import { times } from '../testing/times.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import { resolve } from '../wiring/resolve.ts'
import type { Finding } from './finding.ts'
import { allRules, check } from './index.ts'
import { sift } from './waiting.ts'

const faultsOf = (found: readonly Finding[]): Finding[] => found.filter(({ severity }) => severity === 'fault')

/** A wiring of the suites with all that is said of it, worked out once for all that is asked of it. */
function judged(short: Short) {
  const plan = planOf(short)
  const wiring = resolve(plan, catalog)
  const found = check(wiring, allRules)
  return { plan, wiring, found, fixes: new Map(found.map((one) => [one, fixesFor(wiring, one, found)])) }
}
type Judged = ReturnType<typeof judged>

/** What is said, with reasons, figures, and fixes with their edits. */
function findingLines({ wiring, found, fixes }: Judged): string[] {
  const waits = new Set(sift(wiring, found).waiting)
  return found.flatMap((one) => {
    const numbers = Object.entries(one.numbers).map(([name, value]) => `${name} ${value}`)
    return [
      `${one.severity} ${one.rule}: ${one.message}${waits.has(one) ? ' (waits)' : ''}`,
      ...[
        `at ${one.at.join(', ')}${numbers.length > 0 ? `; ${numbers.join(', ')}` : ''}`,
        one.why,
        ...(fixes.get(one) ?? []).flatMap(({ title, edits, brings }) => [
          `→ ${title}: ${edits.map(editWords).join('; ')}`,
          ...brings.map((message) => `  brings: ${message}`),
        ]),
      ].map((line) => `  ${line}`),
    ]
  })
}

/** Every fix takes its finding away, brings no new fault and leaves locked wires. */
function expectMended({ plan, wiring, found, fixes }: Judged): void {
  const before = new Set(faultsOf(found).map(findingKey))
  for (const [finding, ways] of fixes)
    for (const fix of ways) {
      expectBound(wiring, fix)
      const edited = applyEdits(plan, fix.edits)
      const after = check(resolve(edited, catalog), allRules)
      expect(after.map(findingKey), fix.title).not.toContain(findingKey(finding))
      expect(
        faultsOf(after)
          .filter((one) => !before.has(findingKey(one)))
          .map((one) => one.message),
        fix.title,
      ).toEqual([])
      const locked = plan.wires.filter((wire) => wire[2]?.locked).map(String)
      expect(edited.wires.map(String)).toEqual(expect.arrayContaining(locked))
    }
}

const record = recordOf('findings.txt')

describe.each(sound)('$title', (short) => {
  const all = once(() => judged(short))
  it('stays free of faults', () => {
    expect(faultsOf(all().found).map(({ rule, message }) => `${rule}: ${message}`)).toEqual([])
  })
  it('is as on record', () => record(short.title, findingLines(all())))
})

describe.each(mistaken)('$rule: $title', ({ rule, ...short }) => {
  const all = once(() => judged(short))
  it('is found by the rule that is there for it, and no other cries fault', () => {
    const { wiring, found } = all()
    for (const finding of found) expectSound(wiring, finding)
    expect(found.map((one) => one.rule)).toContain(rule)
    expect([...new Set(faultsOf(found).map((one) => one.rule))].filter((one) => one !== rule)).toEqual([])
  })
  it('is mended by each fix, which brings no new fault', () => expectMended(all()))
  it('is as on record', () => record(short.title, findingLines(all())))
})

it('every fix mends its finding and brings no new fault, on random wirings', () => {
  const holds = (plan: Plan): void => {
    const wiring = resolve(plan, catalog)
    const found = check(wiring)
    expectMended({ plan, wiring, found, fixes: new Map(found.map((one) => [one, fixesFor(wiring, one, found)])) })
  }
  fc.assert(fc.property(randomWiring, holds), { numRuns: times(25) })
}, 120_000)

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

it('the rule reference in the documentation is that of these rules', () => {
  expect(readFileSync('docs/rules.md', 'utf8')).toBe(ruleReference())
})
