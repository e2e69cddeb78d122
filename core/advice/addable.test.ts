import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { sample } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { addableParts } from './addable.ts'

describe('what can still be added', () => {
  const full = sample('Branch-line crossing')
  const found = addableParts(full, catalog)
  it('tries every part of the catalogue but passive ones', () => {
    expect(found).toHaveLength([...catalog.parts.values()].filter((part) => part.category !== 'passive').length)
  })
  it('says what goes, with everything wired and no new fault, and leaves what is wired', () => {
    const goes = found.filter((one) => one.why === undefined)
    expect(goes.length).toBeGreaterThan(5)
    for (const { edits } of goes) {
      expect(edits.every((edit) => edit.do === 'add-part' || edit.do === 'connect')).toBe(true)
      const findings = check(resolve(applyEdits(full, edits), catalog))
      expect(findings.filter((one) => one.severity === 'fault').map((one) => one.message)).toEqual([])
    }
  })
  it('says in a sentence why something does not go', () => {
    const why = found.filter((one) => one.why !== undefined).map((one) => one.why)
    expect(why.length).toBeGreaterThan(5)
    for (const text of why) expect(text).not.toMatch(/undefined|NaN/)
  })
  it('stops when it is told to', () => {
    expect(addableParts(planOf({ mcu: 'pico' }), catalog, (done) => done >= 3)).toHaveLength(3)
  })
})
