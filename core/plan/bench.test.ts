import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatProblem } from '../base/problem.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { sample } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { describeDifference } from './difference.ts'
import { applyEdit, applyEdits, type Edit, EditError } from './edit.ts'
import { mergePlans } from './merge.ts'
import { piecesOf, planOfPieces } from './pieces.ts'
import type { Plan } from './planSchema.ts'
import { readPlan } from './readPlan.ts'
import { freshRef } from './refs.ts'
import { samePlan } from './samePlan.ts'
import { writePlan } from './writePlan.ts'

const laid = planOf({
  mcu: 'nano-v3',
  parts: { LAMP: 'led', R1: 'resistor' },
  wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND',
  bench: {
    breadboards: { BB1: { kind: 'full', rails: 'split', for: 'MCU' }, BB2: { kind: 'half' } },
    places: { MCU: { at: 'BB1.b1' }, R1: { legs: { '1': 'BB2.a4', '2': 'BB2.a8' } } },
    spareRows: 2,
    done: ['MCU BB1.b1', 'LAMP.K BB1.L-7'],
  },
})

const text = (bench: string): string => `markpost: 1
title: Bench
boards: { MCU: { board: nano-v3 } }
parts: { R1: { part: resistor } }
bench:
  ${bench}
`

it('a breadboard that goes takes along what stood on it and what was ticked off there, and no more', () => {
  const bench = applyEdit(laid, { do: 'set-breadboard', ref: 'BB1', entry: null }).bench!
  expect(bench.done).toEqual([])
  expect(bench.places).toEqual({ R1: { legs: { '1': 'BB2.a4', '2': 'BB2.a8' } } })
  expect(applyEdit(laid, { do: 'set-breadboard', ref: 'BB2', entry: null }).bench!.done).toEqual(laid.bench!.done)
})

describe('what the maker wants of the bench', () => {
  const wishes = applyEdits(laid, [
    { do: 'lead-over', end: 'LAMP.K', hole: 'BB1.L-9' },
    { do: 'lead-over', end: 'R1.2', hole: 'BB2.a20' },
    { do: 'house-colour', what: 'ground', colour: 'blue' },
    { do: 'set-breadboard', ref: 'BB2', entry: { kind: 'half', reserved: [[3, 9]] } },
  ])
  it('is written and read back as it was, and joined piece by piece', () => {
    const written = writePlan(wishes, catalog)
    expect(readPlan(written, 'x', catalog)).toEqual({ ok: true, value: wishes })
    expect(planOfPieces(piecesOf(wishes))).toEqual(wishes)
  })
  it('follows a part that is renamed, and goes with one that is removed or with its breadboard', () => {
    expect(applyEdit(wishes, { do: 'rename', ref: 'LAMP', to: 'EYE' }).bench?.via).toEqual({
      'EYE.K': 'BB1.L-9',
      'R1.2': 'BB2.a20',
    })
    expect(applyEdit(wishes, { do: 'remove', ref: 'LAMP' }).bench?.via).toEqual({ 'R1.2': 'BB2.a20' })
    expect(applyEdit(wishes, { do: 'set-breadboard', ref: 'BB2', entry: null }).bench?.via).toEqual({
      'LAMP.K': 'BB1.L-9',
    })
  })
  it('is taken back without leaving a trace', () => {
    const back = applyEdits(wishes, [
      { do: 'lead-over', end: 'LAMP.K', hole: null },
      { do: 'lead-over', end: 'R1.2', hole: null },
      { do: 'house-colour', what: 'ground', colour: null },
      { do: 'set-breadboard', ref: 'BB2', entry: { kind: 'half' } },
    ])
    expect(back).toEqual(laid)
  })
  it('is said in words', () => {
    expect(describeDifference(laid, wishes, catalog)).toEqual([
      'wires for ground: blue',
      'BB2: rows kept free: 3-9',
      'the wire of LAMP.K is led over BB1.L-9',
      'the wire of R1.2 is led over BB2.a20',
    ])
  })
  it('lays breadboards in another order, and none that is not there', () => {
    const turned = applyEdit(laid, { do: 'order-breadboards', refs: ['BB2', 'BB1'] })
    expect(Object.keys(turned.bench!.breadboards)).toEqual(['BB2', 'BB1'])
    expect(describeDifference(laid, turned, catalog)).toEqual(['breadboards from the left: BB2, BB1'])
    expect(samePlan(laid, turned)).toBe(false)
    const written = readPlan(writePlan(turned, catalog, writePlan(laid, catalog)), 'x', catalog)
    expect(written.ok && Object.keys(written.value.bench!.breadboards)).toEqual(['BB2', 'BB1'])
    const named = applyEdit(laid, { do: 'set-title', title: 'Other' })
    for (const [mine, theirs] of [
      [turned, named],
      [named, turned],
    ] as const) {
      const merged = mergePlans(laid, mine, theirs).plan(new Map())
      expect([merged.title, Object.keys(merged.bench!.breadboards)]).toEqual(['Other', ['BB2', 'BB1']])
    }
    for (const refs of [['BB1'], ['BB1', 'BB3'], ['BB1', 'BB1']])
      expect(() => applyEdit(laid, { do: 'order-breadboards', refs })).toThrow(EditError)
  })
  it.each([
    ['breadboards: { BB1: { kind: half, reserved: [[9, 3]] } }', /the first row before the last/],
    ['breadboards: { BB1: { kind: half, reserved: [[0, 3]] } }', /x:6/],
    ['via: { R1.1: BB1.a4 }', /the bench has no breadboard BB1/],
    ['breadboards: { BB1: { kind: half } }\n  via: { R1.9: BB1.a4 }', /R1/],
  ])('is refused where it says nothing: %s', (bench, message) => {
    const read = readPlan(text(bench), 'x', catalog)
    expect(read.ok ? '' : read.problems.map(formatProblem).join('\n')).toMatch(message)
  })
})

it('a new name is none of a breadboard', () => {
  expect(freshRef(laid, 'BB', 2)).toEqual(['BB3', 'BB4'])
})

describe('a bench in the plan file', () => {
  it('is written and read back as it was', () => {
    const written = writePlan(laid, catalog)
    expect(written).toContain('BB1: { kind: full, rails: split, for: MCU }')
    const read = readPlan(written, 'x', catalog)
    expect(read).toEqual({ ok: true, value: laid })
  })
  it('gives a leg its id, by whatever name it was written', () => {
    const read = readPlan(
      text("breadboards: { BB1: { kind: half } }\n  places: { R1: { legs: { '1': BB1.a4, '2': BB1.a8 } } }"),
      'x',
      catalog,
    )
    expect(read.ok && read.value.bench?.places.R1).toEqual({ legs: { '1': 'BB1.a4', '2': 'BB1.a8' } })
  })
  it.each([
    ['breadboards: { BB1: { kind: huge } }', /x:6:\d+.*"full".*"half".*"mini"/],
    ['breadboards: { MCU: { kind: half } }', /the reference MCU stands twice, in boards and in bench/],
    ['breadboards: { BB1: { kind: half, for: POST } }', /"POST" is no board of this plan/],
    ['breadboards: { __proto__: { kind: half } }', /"__proto__" is a reserved word/],
    ['places: { R1: { at: BB1.a3 } }', /"BB1.a3": the bench has no breadboard BB1; it has none/],
    ['breadboards: { BB1: { kind: half } }\n  places: { R1: { at: BB2.a3 } }', /expected one of BB1/],
    [
      'breadboards: { BB1: { kind: half } }\n  places: { R9: { at: BB1.a3 } }',
      /"R9" is no board, supply or part of this plan/,
    ],
    ['breadboards: { BB1: { kind: half } }\n  places: { R1: { at: a3 } }', /expected a hole such as BB1.c12/],
    ['breadboards: { BB1: { kind: half } }\n  places: { R1: { legs: { Q: BB1.a3 } } }', /R1 has no leg "Q"/],
    ['spareRows: 2.5', /expected a whole number/],
  ])('%s is refused in one clear message', (bench, message) => {
    const read = readPlan(text(bench), 'x', catalog)
    expect(read.ok ? 'read' : read.problems.map(formatProblem).join('\n')).toMatch(message)
  })
})

describe('edits of a bench', () => {
  it.each<[string, Edit[], string[]]>([
    [
      'a breadboard more',
      [{ do: 'set-breadboard', ref: 'BB3', entry: { kind: 'mini' } }],
      ['breadboard BB3 added (mini)'],
    ],
    [
      'a breadboard taken away, with what stood on it let go',
      [{ do: 'set-breadboard', ref: 'BB2', entry: null }],
      ['breadboard BB2 removed', 'R1 stands where the program puts it'],
    ],
    [
      'a part moved, one laid beside',
      [
        { do: 'place', ref: 'R1', place: { legs: { '1': 'BB1.a40', '2': 'BB1.a44' } } },
        { do: 'place', ref: 'MCU', place: { beside: true } },
      ],
      ['MCU stands beside, on jumper wires', 'R1 stands in BB1.a40 and BB1.a44'],
    ],
    [
      'things beside, on a side and from a row',
      [
        { do: 'place', ref: 'R1', place: { side: 'right', row: -2, turned: true } },
        { do: 'place', ref: 'MCU', place: { beside: true, side: 'left', row: 4 } },
      ],
      ['MCU lies to the left, from row 4, on jumper wires', 'R1 lies to the right, from row -2, turned'],
    ],
    [
      'ticks and room',
      [
        { do: 'tick', wires: ['R1 BB2.a4'], done: true },
        { do: 'tick', wires: ['LAMP.K BB1.L-7'], done: false },
        { do: 'spare-rows', rows: 0 },
      ],
      [
        'rows left free between parts: 0',
        "1 of the bench's wires ticked off",
        "1 of the bench's wires no longer ticked off",
      ],
    ],
  ])('%s', (_, edits, words) => {
    expect(describeDifference(laid, applyEdits(laid, edits), catalog).sort()).toEqual([...words].sort())
  })
  it('follow a name, in places, ticks and the board of a breadboard', () => {
    const { bench } = applyEdit(laid, { do: 'rename', ref: 'MCU', to: 'POST' })
    expect(bench?.places).toHaveProperty('POST')
    expect(bench?.breadboards.BB1).toMatchObject({ for: 'POST' })
    expect(bench?.done[0]).toBe('POST BB1.b1')
    expect(applyEdit(laid, { do: 'rename', ref: 'LAMP', to: 'GLOW' }).bench?.done[1]).toBe('GLOW.K BB1.L-7')
  })
  it('let go of what is removed', () => {
    const { bench } = applyEdit(laid, { do: 'remove', ref: 'MCU' })
    expect(bench?.places).toEqual({ R1: laid.bench!.places.R1 })
    expect(bench?.breadboards.BB1).toEqual({ kind: 'full', rails: 'split' })
    expect(bench?.done).toEqual(['LAMP.K BB1.L-7'])
  })
  it.each<[Edit, RegExp]>([
    [{ do: 'set-breadboard', ref: 'R1', entry: { kind: 'half' } }, /the reference R1 is taken/],
    [{ do: 'set-breadboard', ref: '1', entry: { kind: 'half' } }, /expected a reference/],
    [{ do: 'set-breadboard', ref: 'BB9', entry: null }, /the bench has no BB9/],
    [{ do: 'place', ref: 'R9', place: null }, /the plan has no R9/],
    [{ do: 'add-part', ref: 'bb1', entry: { part: 'led' } }, /the reference bb1 is taken/],
  ])('%o does not fit', (edit, message) => {
    expect(() => applyEdit(laid, edit)).toThrow(EditError)
    expect(() => applyEdit(laid, edit)).toThrow(message)
  })
  it('leave a plan that can be saved and read again, in whatever order', () => {
    const refs = fc.constantFrom('MCU', 'LAMP', 'R1')
    const hole = fc.constantFrom('BB1.a5', 'BB1.j60', 'BB1.L+9', 'BB2.c3', 'BB2.R-12')
    const edit: fc.Arbitrary<Edit> = fc.oneof(
      fc.record({
        do: fc.constant('set-breadboard' as const),
        ref: fc.constantFrom('BB1', 'BB2', 'BB3'),
        entry: fc.constantFrom({ kind: 'full' as const }, { kind: 'mini' as const, joined: true }, null),
      }),
      fc.record({
        do: fc.constant('place' as const),
        ref: refs,
        place: fc.oneof(
          hole.map((at) => ({ at })),
          fc.constant({ beside: true }),
          fc.constant({ side: 'left' as const, row: 3 }),
          fc.constant(null),
        ),
      }),
      fc.record({ do: fc.constant('tick' as const), wires: fc.array(hole, { maxLength: 2 }), done: fc.boolean() }),
      fc.record({ do: fc.constant('rename' as const), ref: refs, to: fc.constantFrom('MCU', 'LAMP', 'R1', 'NEW') }),
      fc.record({ do: fc.constant('remove' as const), ref: refs }),
    )
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
        let plan: Plan = laid
        for (const one of edits) {
          try {
            const next = applyEdit(plan, one)
            // A place on a breadboard that is not there is the file's to refuse.
            const boards = Object.keys(next.bench?.breadboards ?? {})
            const stands = Object.values(next.bench?.places ?? {}).every(
              ({ at }) => !at || boards.includes(at.split('.')[0]!),
            )
            if (stands) plan = next
          } catch (error) {
            if (!(error instanceof EditError)) throw error
          }
        }
        const read = readPlan(writePlan(plan, catalog), 'x', catalog)
        expect(read.ok ? [] : read.problems.map(formatProblem)).toEqual([])
        expect(read.ok && read.value.bench).toEqual(plan.bench)
      }),
      { numRuns: times(200) },
    )
  })
  it('keep the rest of a file as it was written', () => {
    const plan = sample('Kiln logger')
    const before = writePlan(plan, catalog)
    const after = writePlan(applyEdit(plan, { do: 'place', ref: 'CLOCK', place: { at: 'BB1.j3' } }), catalog, before)
    const bench = '  breadboards:\n    BB1: { kind: half }\n'
    expect(after).toBe(before.replace(bench, `${bench}  places:\n    CLOCK: { at: BB1.j3 }\n`))
    expect(after).toContain('CLOCK: { at: BB1.j3 }')
  })
})
