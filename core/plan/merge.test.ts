import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalog, planOf } from '../testing/plans.ts'
import { randomWiring } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { describeDifference } from './difference.ts'
import { applyEdits, type Edit, EditError } from './edit.ts'
import { mergePlans, type Side } from './merge.ts'
import { piecesOf, planOfPieces } from './pieces.ts'
import type { Plan } from './planSchema.ts'
import { bindPlan } from './readPlan.ts'
import { samePlan } from './samePlan.ts'

const base = planOf({
  parts: { LAMP: 'led', R1: 'resistor', CLIMATE: { part: 'bme280', options: { address: 0x76 } } },
  wires: 'LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND, CLIMATE.SDA MCU.GPIO21, CLIMATE.SCL MCU.GPIO22',
  bench: { breadboards: { BB1: { kind: 'full' } }, places: { LAMP: { legs: { A: 'BB1.a5', K: 'BB1.a6' } } } },
})
const side = (...edits: Edit[]): Plan => applyEdits(base, edits)
const words = (before: Plan, after: Plan): string[] => describeDifference(before, after, catalog)

describe('what does not touch is joined', () => {
  it.each<[string, Edit[], Edit[]]>([
    [
      'title and part',
      [{ do: 'set-title', title: 'Mine' }],
      [{ do: 'add-part', ref: 'B1', entry: { part: 'button' } }],
    ],
    [
      'two fields of one part',
      [{ do: 'change-part', ref: 'CLIMATE', entry: { title: 'Brood' } }],
      [{ do: 'change-part', ref: 'CLIMATE', entry: { options: { address: 0x77 } } }],
    ],
    [
      'two signals moved',
      [
        { do: 'disconnect', from: 'R1.2', to: 'MCU.GPIO23' },
        { do: 'connect', from: 'R1.2', to: 'MCU.GPIO18' },
      ],
      [
        { do: 'disconnect', from: 'CLIMATE.SDA', to: 'MCU.GPIO21' },
        { do: 'connect', from: 'CLIMATE.SDA', to: 'MCU.GPIO19' },
      ],
    ],
    [
      'two things on one ground',
      [{ do: 'connect', from: 'CLIMATE.GND', to: 'MCU.GND' }],
      [{ do: 'connect', from: 'R1.1', to: 'MCU.GND' }],
    ],
    [
      'a part taken away, another changed',
      [{ do: 'remove', ref: 'LAMP' }],
      [{ do: 'change-part', ref: 'CLIMATE', entry: { title: 'x' } }],
    ],
    [
      'ticks and places',
      [{ do: 'tick', wires: ['BB1.a5 BB1.L+7'], done: true }],
      [{ do: 'place', ref: 'R1', place: { beside: true } }],
    ],
    ['the same on both sides', [{ do: 'remove', ref: 'R1' }], [{ do: 'remove', ref: 'R1' }]],
    ['a note of open ends', [{ do: 'leave-open', end: 'CLIMATE.SDO' }], [{ do: 'leave-open', end: 'CLIMATE.CSB' }]],
  ])('%s', (_, mine, theirs) => {
    const merge = mergePlans(base, side(...mine), side(...theirs))
    expect(merge.clashes).toEqual([])
    const joined = merge.plan(new Map())
    expect(words(base, joined).sort()).toEqual(
      [...new Set([...words(base, side(...mine)), ...words(base, side(...theirs))])].sort(),
    )
    expect(bindPlan(joined, catalog).ok).toBe(true)
  })
})

describe('what touches is asked', () => {
  it.each<[string, Edit[], Edit[], string[]]>([
    ['the same field', [{ do: 'set-title', title: 'Mine' }], [{ do: 'set-title', title: 'Theirs' }], []],
    [
      'the same pin of a part',
      [
        { do: 'disconnect', from: 'CLIMATE.SDA', to: 'MCU.GPIO21' },
        { do: 'connect', from: 'CLIMATE.SDA', to: 'MCU.GPIO4' },
      ],
      [
        { do: 'disconnect', from: 'CLIMATE.SDA', to: 'MCU.GPIO21' },
        { do: 'connect', from: 'CLIMATE.SDA', to: 'MCU.GPIO19' },
      ],
      ['CLIMATE.SDA'],
    ],
    [
      'one removes what the other builds on',
      [{ do: 'remove', ref: 'R1' }],
      [{ do: 'connect', from: 'R1.1', to: 'CLIMATE.SDO' }],
      ['R1'],
    ],
    [
      'one removes what the other changes',
      [{ do: 'change-part', ref: 'LAMP', entry: { title: 'Ready' } }],
      [{ do: 'remove', ref: 'LAMP' }],
      ['LAMP'],
    ],
    [
      'two things of one name',
      [
        { do: 'add-part', ref: 'L2', entry: { part: 'led' } },
        { do: 'connect', from: 'L2.A', to: 'MCU.GPIO5' },
      ],
      [
        { do: 'add-part', ref: 'L2', entry: { part: 'led' } },
        { do: 'connect', from: 'L2.A', to: 'MCU.GPIO18' },
      ],
      ['L2', 'L2.A'],
    ],
  ])('%s: either side can be taken, whole', (_, mine, theirs, at) => {
    const [my, their] = [side(...mine), side(...theirs)]
    const merge = mergePlans(base, my, their)
    expect(merge.clashes).toHaveLength(1)
    const [clash] = merge.clashes
    expect([...clash!.at].sort()).toEqual(at)
    for (const [which, plan] of [
      ['mine', my],
      ['theirs', their],
    ] as [Side, Plan][]) {
      const joined = merge.plan(new Map([[clash!.key, which]]))
      expect(words(plan, joined), which).toEqual([])
      expect(words(base, clash!.only[which])).toEqual(words(base, plan))
    }
    expect(words(their, merge.plan(new Map()))).toEqual([])
  })
})

/** Edits that fit the plan at hand; those that do not are passed over. */
const someEdits = fc.array(
  fc.oneof(
    fc.record({ do: fc.constant('set-title' as const), title: fc.constantFrom('x', 'y', 'z') }),
    fc.nat(30).map((n): Edit => ({ do: 'add-part', ref: `N${n % 4}`, entry: { part: n % 2 ? 'led' : 'button' } })),
    fc.nat(30).map((n): Edit & { pick: number } => ({ do: 'remove', ref: '', pick: n })),
    fc.nat(900).map((n): Edit & { pick: number } => ({ do: 'disconnect', from: '', to: '', pick: n })),
    fc.nat(900).map((n): Edit & { pick: number } => ({ do: 'connect', from: '', to: '', pick: n })),
    fc
      .nat(30)
      .map((n): Edit & { pick: number } => ({ do: 'change-part', ref: '', entry: { title: `t${n % 3}` }, pick: n })),
  ),
  { maxLength: 6 },
)
function apply(plan: Plan, edits: readonly (Edit & { pick?: number })[]): Plan {
  let now = plan
  for (const { pick = 0, ...edit } of edits) {
    const refs = Object.keys(now.parts)
    const ends = now.wires.flatMap((wire) => [wire[0], wire[1]])
    const fitted =
      edit.do === 'remove' || edit.do === 'change-part'
        ? { ...edit, ref: refs[pick % refs.length] ?? '' }
        : edit.do === 'disconnect'
          ? {
              ...edit,
              from: now.wires[pick % now.wires.length]?.[0] ?? '',
              to: now.wires[pick % now.wires.length]?.[1] ?? '',
            }
          : edit.do === 'connect'
            ? { ...edit, from: ends[pick % ends.length] ?? '', to: ends[(pick * 7 + 3) % ends.length] ?? '' }
            : edit
    try {
      now = applyEdits(now, [fitted as Edit])
    } catch (error) {
      if (!(error instanceof EditError)) throw error
    }
  }
  return now
}

describe('joining holds for all plans', () => {
  it('a plan is the plan of its pieces', () => {
    fc.assert(
      fc.property(randomWiring, (plan) => {
        expect(samePlan(planOfPieces(piecesOf(plan)), plan)).toBe(true)
      }),
    )
    expect(samePlan(planOfPieces(piecesOf(base)), base)).toBe(true)
  })

  it('with an unchanged side it is the other; every change of both is there or asked about; choices hold', () => {
    fc.assert(
      fc.property(randomWiring, someEdits, someEdits, (plan, first, second) => {
        const [mine, theirs] = [apply(plan, first), apply(plan, second)]
        expect(samePlan(mergePlans(plan, mine, plan).plan(new Map()), mine)).toBe(true)
        expect(samePlan(mergePlans(plan, plan, theirs).plan(new Map()), theirs)).toBe(true)
        expect(samePlan(mergePlans(plan, mine, mine).plan(new Map()), mine)).toBe(true)
        const merge = mergePlans(plan, mine, theirs)
        for (const which of ['mine', 'theirs'] as const) {
          const choices = new Map(merge.clashes.map((one) => [one.key, which]))
          const joined = merge.plan(choices)
          const [was, chosen, has] = [plan, which === 'mine' ? mine : theirs, joined].map(piecesOf)
          // Every change of the side that was chosen is in the joined plan.
          for (const key of new Set([...was!.keys(), ...chosen!.keys()]))
            if (JSON.stringify(was!.get(key)) !== JSON.stringify(chosen!.get(key)))
              expect(JSON.stringify(has!.get(key)), key).toBe(JSON.stringify(chosen!.get(key)))
          expect(bindPlan(joined, catalog).ok).toBe(true)
        }
      }),
      { numRuns: times(150) },
    )
  })
})
