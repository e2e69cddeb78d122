import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { layOut } from '../breadboard/layout.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { continuityTouches, everyJoint, type Touch } from './continuity.ts'
import { joinedBy, type Metal, metalOf } from './metal.ts'

/** What a meter hears on metal with these joints, by a way of its own: sets of pieces. */
const hears = (metal: Metal, joints: Metal['joints'], touch: Touch): boolean => {
  const sets = joinedBy(metal, joints)
  const at = (id: string): string => sets.find(String(metal.pieces.find(({ spot }) => spot.id === id)!.index))
  return at(touch.a.id) === at(touch.b.id)
}

/** Joints whose loss parts something: of two ways to the same place neither can be missed by a meter. */
const partsSomething = (metal: Metal, at: number): boolean => {
  const without = metal.joints.filter((_, index) => index !== at)
  const { a, b } = metal.joints[at]!
  const sets = joinedBy(metal, without)
  return sets.find(String(a)) !== sets.find(String(b))
}

function prove(wiring: Wiring, laid: boolean): { touches: number; each: number } {
  const metal = metalOf(wiring, laid ? layOut(wiring) : undefined)
  const touches = continuityTouches(wiring, metal)
  const sounding = touches.filter(({ hears: what }) => what === 'sounds')
  for (const touch of touches) expect(hears(metal, metal.joints, touch), touch.id).toBe(touch.hears === 'sounds')
  metal.joints.forEach((joint, at) => {
    if (joint.kind === 'inside' || !partsSomething(metal, at)) return
    const left = metal.joints.filter((_, index) => index !== at)
    expect(
      sounding.some((touch) => !hears(metal, left, touch)),
      `${joint.words} loose is heard`,
    ).toBe(true)
  })
  for (const [a, b] of metal.neighbours) {
    const shorted = [...metal.joints, { kind: 'wire' as const, a, b, words: 'slip' }]
    const names = `${metal.pieces[a]!.spot.id} against ${metal.pieces[b]!.spot.id}`
    expect(
      touches.some((touch) => touch.hears === 'silent' && hears(metal, shorted, touch)),
      names,
    ).toBe(true)
  }
  expect(new Set(touches.map(({ id }) => id)).size).toBe(touches.length)
  return { touches: touches.length, each: everyJoint(metal) }
}

const withBench = (wiring: Wiring): Wiring =>
  wiring.plan.bench
    ? wiring
    : resolve(
        {
          ...wiring.plan,
          bench: { breadboards: { BB1: { kind: 'full' }, BB2: { kind: 'full' } }, places: {}, done: [] },
        },
        catalog,
      )

describe('touches before power', () => {
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))(
    '%s: every open and every short is heard, with few touches',
    (_, plan) => {
      const { touches, each } = prove(withBench(resolve(plan, catalog)), true)
      expect(touches).toBeLessThanOrEqual(each * 0.6)
      prove(resolve(plan, catalog), false)
    },
  )

  it('of random kits, wired and laid out', () => {
    let all = 0
    let naive = 0
    fc.assert(
      fc.property(randomKit, (plan) => {
        const wired = applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)
        const { touches, each } = prove(withBench(resolve(wired, catalog)), true)
        all += touches
        naive += each
      }),
      { numRuns: times(12) },
    )
    expect(all).toBeLessThanOrEqual(naive * 0.6)
  }, 120_000)

  it('a wire between two ends is one touch; three in a row on one net are two', () => {
    const wiring = wiringOf({ mcu: 'uno-r3', parts: { B: 'button' }, wires: 'B.1 MCU.D2, B.2 MCU.GND' })
    const touches = continuityTouches(wiring, metalOf(wiring, undefined))
    expect(touches.filter(({ hears: what }) => what === 'sounds').map(({ id }) => id)).toEqual([
      'continuity:B.1-MCU.D2',
      'continuity:B.2-MCU.GND',
    ])
  })

  it('says what lies between two that are apart, where the meter reads it', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10 } } },
      wires: 'B.1 MCU.D2, B.2 MCU.D3, R.1 MCU.D4, R.2 MCU.D5',
    })
    const silent = continuityTouches(wiring, metalOf(wiring, undefined)).filter(({ hears: what }) => what === 'silent')
    const between = (ref: string): string | undefined => silent.find(({ through }) => through?.includes(ref))?.through
    expect(between('B')).toBe('B lies between: silent only while it is not pressed')
    expect(between('R')).toBe('R lies between: 10 Ω is right')
    expect(silent.some(({ through }) => through === undefined)).toBe(true)
  })
})
