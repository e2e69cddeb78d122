import { describe, expect, it } from 'vitest'
import { formatProblem } from '../base/problem.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { describeDifference } from './difference.ts'
import { applyEdits, type Edit, EditError } from './edit.ts'
import { mergePlans } from './merge.ts'
import { piecesOf, planOfPieces } from './pieces.ts'
import type { Plan } from './planSchema.ts'
import { readPlan } from './readPlan.ts'
import { samePlan } from './samePlan.ts'
import { writePlan } from './writePlan.ts'

const base = planOf({
  parts: { LAMP: 'led', R1: 'resistor', GATE: 'button' },
  wires: 'LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND, GATE.1 MCU.GPIO32, GATE.2 MCU.GND',
})
const edited = (...edits: Edit[]): Plan => applyEdits(base, edits)
const seen = { at: '2026-11-25T18:40:00Z', value: '0.2 ohm' }
const text = (names: string): string =>
  `markpost: 1\ntitle: T\nboards:\n  MCU: { board: esp32-devkit-30 }\nparts:\n  LAMP: { part: led }\n${names}`
const says = (names: string): string[] => {
  const plan = readPlan(text(names), 'p.yaml', catalog)
  return plan.ok ? [] : plan.problems.map(formatProblem)
}

describe('names in the program and steps of bring-up', () => {
  it('follow a rename, go with a part that is removed, and come back from pieces and text', () => {
    const named = edited(
      { do: 'set-name', end: 'LAMP.A', name: 'READY_LAMP' },
      { do: 'set-name', end: 'GATE.1', name: 'lidSwitch' },
      { do: 'prove', steps: { 'out:LAMP.A': seen }, stage: 'wired' },
    )
    expect(applyEdits(named, [{ do: 'rename', ref: 'LAMP', to: 'GLOW' }]).names).toEqual({
      'GLOW.A': 'READY_LAMP',
      'GATE.1': 'lidSwitch',
    })
    expect(applyEdits(named, [{ do: 'remove', ref: 'LAMP' }]).names).toEqual({ 'GATE.1': 'lidSwitch' })
    expect(applyEdits(named, [{ do: 'set-name', end: 'LAMP.A', name: null }]).names).toEqual({ 'GATE.1': 'lidSwitch' })
    expect(planOfPieces(piecesOf(named))).toEqual(named)
    const read = readPlan(writePlan(named, catalog), 'p.yaml', catalog)
    expect(read.ok && samePlan(read.value, named)).toBe(true)
    expect(describeDifference(base, named, catalog)).toEqual([
      'LAMP.A is called READY_LAMP in the program',
      'GATE.1 is called lidSwitch in the program',
      '1 step of bring-up written down or taken back',
      'the build is wired',
    ])
    const back = applyEdits(named, [
      { do: 'set-name', end: 'LAMP.A', name: null },
      { do: 'set-name', end: 'GATE.1', name: null },
      { do: 'prove', steps: { 'out:LAMP.A': null }, stage: 'planned' },
    ])
    expect(back).toEqual(base)
  })

  it('a build whose wires change is no longer as far as it was; a name or a title takes nothing back', () => {
    const proven = edited({ do: 'prove', steps: { 'out:LAMP.A': seen }, stage: 'proven' })
    const [from, to] = proven.wires[0]!
    expect(applyEdits(proven, [{ do: 'disconnect', from, to }]).bringup).toEqual({ done: { 'out:LAMP.A': seen } })
    expect(applyEdits(proven, [{ do: 'set-title', title: 'Other' }]).bringup?.stage).toBe('proven')
    expect(applyEdits(proven, [{ do: 'rename', ref: 'LAMP', to: 'GLOW' }]).bringup?.stage).toBe('proven')
    const change = (entry: { title?: string; options?: Record<string, string> }): string | undefined =>
      applyEdits(proven, [{ do: 'change-part', ref: 'LAMP', entry }]).bringup?.stage
    expect(change({ title: 'Glow' })).toBe('proven')
    expect(change({ options: { colour: 'red' } })).toBeUndefined()
  })

  it('are bound to canonical ends, whatever name of the pin was written', () => {
    const read = readPlan(text('names: { LAMP.anode: READY }\n'), 'p.yaml', catalog)
    expect(read.ok && read.value.names).toEqual({ 'LAMP.A': 'READY' })
  })

  it.each([
    ['names: { LAMP.A: 2nd }\n', /names\.LAMP\.A: expected a name of letters/],
    ['names: { LAMP.A: class }\n', /expected a name that is no word of C\+\+ or Python/],
    ['names: { LAMP.Q: X }\n', /led has no pin "Q"/],
    ['names: { LAMP: X }\n', /REF\.PIN/],
    ['bringup: { done: { a: { at: yesterday } } }\n', /expected a time such as/],
  ])('%s is refused with one message', (names, message) => {
    const said = says(names)
    expect(said).toHaveLength(1)
    expect(said[0]).toMatch(message)
  })

  it('refuses a name that no language takes, and one for a part that is not there', () => {
    expect(() => edited({ do: 'set-name', end: 'LAMP.A', name: 'while' })).toThrow(EditError)
    expect(() => edited({ do: 'set-name', end: 'NOBODY.A', name: 'X' })).toThrow('the plan has no NOBODY')
  })

  it('of two makers are joined; a name of a part that the other removed goes', () => {
    const merged = mergePlans(
      base,
      edited({ do: 'set-name', end: 'LAMP.A', name: 'A1' }),
      edited({ do: 'set-name', end: 'GATE.1', name: 'B1' }, { do: 'remove', ref: 'R1' }),
    )
    expect(merged.plan(new Map()).names).toEqual({ 'LAMP.A': 'A1', 'GATE.1': 'B1' })
    const gone = mergePlans(
      base,
      edited({ do: 'set-name', end: 'LAMP.A', name: 'A1' }),
      edited({ do: 'remove', ref: 'LAMP' }),
    )
    const theirs = gone.plan(new Map(gone.clashes.map((one) => [one.key, 'theirs' as const])))
    expect(theirs.names).toBeUndefined()
  })
})
