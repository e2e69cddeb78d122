import { expect } from 'vitest'
import { applyEdits, type Fix } from '../plan/edit.ts'
import { bindPlan } from '../plan/readPlan.ts'
import type { Finding } from '../rules/finding.ts'
import type { Wiring } from '../wiring/model.ts'
import { catalog } from './plans.ts'

/** What holds for every finding: it is about something of the plan, says so in words, and names what was compared. */
export function expectSound(wiring: Wiring, finding: Finding): void {
  const { rule, at, message, why } = finding
  expect(at.length, `${rule} is about nothing`).toBeGreaterThan(0)
  expect([...new Set(at)], `${rule} names a place twice`).toEqual([...at])
  expect(
    at.filter((place) => !isPlace(wiring, place)),
    `${rule} names what the plan does not have`,
  ).toEqual([])
  expect(`${message} ${why}`).not.toMatch(/undefined|NaN|Infinity|\[object|\{\w+\}/)
}

/** An end, a reference, a hole or rail of the bench, or the whole board that it belongs to. */
function isPlace({ plan, terminal, boards, supplies, parts }: Wiring, place: string): boolean {
  const breadboards = Object.keys(plan.bench?.breadboards ?? {})
  return (
    terminal(place) !== undefined ||
    [...boards, ...supplies, ...parts].some(({ ref }) => ref === place) ||
    breadboards.some((ref) => place === ref || place.startsWith(`${ref}.`))
  )
}

/** A plan after a fix is still well-formed: every end is there, every option a value of its part. */
export function expectBound(wiring: Wiring, fix: Fix): void {
  const bound = bindPlan(applyEdits(wiring.plan, fix.edits), catalog)
  expect(bound.ok ? [] : bound.problems, fix.title).toEqual([])
}
