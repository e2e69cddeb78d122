import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, fed, type planOf, type Short, wiringOf } from '../testing/plans.ts'
import { randomWiring } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { rearrange } from './rearrange.ts'

const faults = (plan: ReturnType<typeof planOf>): string[] =>
  check(resolve(plan, catalog)).flatMap((one) =>
    one.severity === 'fault' || one.rule === 'pin-shared' ? [one.message] : [],
  )

const echoes = {
  parts: { A: 'hc-sr04p', B: 'hc-sr04p' },
  wires: `${fed('A', 'B')}, A.TRIG MCU.25, B.TRIG MCU.33, A.ECHO MCU.27`,
}

describe('rearrange', () => {
  it.each<[string, Short, string[]]>([
    [
      'two outputs on one pin: one of them moves, and what stands well stays',
      { ...echoes, wires: `${echoes.wires}, B.ECHO MCU.27` },
      ['B.ECHO'],
    ],
    ['a locked one stays, so the other moves', { ...echoes, wires: `${echoes.wires}, !B.ECHO MCU.27` }, ['A.ECHO']],
    [
      'a lamp on a pin that only reads moves, its resistor with it',
      { parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1, R.2 MCU.34, L.K MCU.GND' },
      ['L.A'],
    ],
  ])('%s', (_, short, ends) => {
    const wiring = wiringOf(short)
    const found = rearrange(wiring)!
    expect(found.moved.map(({ end }) => end)).toEqual(ends)
    expect(found.left).toEqual([])
    expect(faults(applyEdits(wiring.plan, found.edits))).toEqual([])
  })
  it('has nothing to say where nothing is wrong, or moving does not help', () => {
    expect(rearrange(wiringOf({ parts: { A: 'button' }, wires: 'A.1 MCU.27, A.2 MCU.GND' }))).toBeUndefined()
    const shorted = wiringOf({ parts: { B: 'bme280' }, wires: `${fed('B')}, B.VCC MCU.GND` })
    expect(rearrange(shorted)).toBeUndefined()
  })
  it('brings no new fault, mends some, and keeps locked wires, on any board', () => {
    let mended = 0
    fc.assert(
      fc.property(randomWiring, (plan) => {
        const wiring = resolve(plan, catalog)
        const found = rearrange(wiring)
        if (!found) return
        mended += 1
        const after = applyEdits(plan, found.edits)
        const before = faults(plan)
        const now = faults(after)
        expect(now.length).toBeLessThan(before.length)
        expect(now.filter((one) => !before.includes(one))).toEqual([])
        const locked = plan.wires.filter((wire) => wire[2]?.locked)
        for (const wire of locked) expect(after.wires).toContainEqual(wire)
      }),
      { numRuns: times(120) },
    )
    expect(mended).toBeGreaterThan(5)
  }, 60_000)
})
