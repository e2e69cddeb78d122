import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fixesFor } from '../advice/fixes.ts'
import { assign } from '../assign/assign.ts'
import { UnionFind } from '../base/unionFind.ts'
import { applyEdit, applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { randomKit } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { columnOf, isRail, rowOf } from './grid.ts'
import { layOut } from './layout.ts'
import { suggestBreadboards } from './suggest.ts'
import { mainEnds, touching } from './touch.ts'
import type { Layout } from './workbench.ts'

const benched = (kit: Plan): Plan => {
  const plan = applyEdits(kit, assign(resolve(kit, catalog)).edits)
  return applyEdits(plan, suggestBreadboards(plan, catalog))
}

/** Ends of nets that hang together in the layout only with some of their own, by metal, wires and inner joints. */
function torn(plan: Plan, layout: Layout): string[] {
  const wiring = resolve(plan, catalog)
  const joined = new UnionFind()
  const touch = touching(wiring)
  const metal = (hole: number): string => `metal ${layout.grid.node(hole)}`
  for (const [end, hole] of layout.holeOf) joined.join(end, metal(hole))
  for (const { a, b, holeA, holeB } of layout.wires)
    joined.join(holeA === undefined ? a.end! : metal(holeA), holeB === undefined ? b.end! : metal(holeB))
  return wiring.nets.flatMap((net) => {
    if (!net.wired) return []
    const ends = mainEnds(wiring, net.index)
    for (const end of ends) for (const name of touch(end)) joined.join(end, name)
    return ends.filter((end) => joined.find(end) !== joined.find(ends[0]!))
  })
}

describe('a wire that the maker leads over a hole', () => {
  it('goes there, and its net stays whole', () => {
    let led = 0
    fc.assert(
      fc.property(randomKit, fc.nat(), fc.nat(), (kit, which, where) => {
        const plan = benched(kit)
        const before = layOut(resolve(plan, catalog))
        fc.pre(before.stray.length + before.blocked.length === 0 && before.wires.length > 0)
        const wire = before.wires[which % before.wires.length]!
        const end = wire.a.end ?? wire.b.end!
        // A hole of the rail of its own net, or one of a row in which nothing is.
        const { grid } = before
        const rails = [...before.rails].filter(([, net]) => net === wire.net).flatMap(([node]) => grid.holes(node))
        const used = new Set(before.nodes.keys())
        const free = grid.boards.flatMap((board, index) =>
          Array.from({ length: board.rows }, (_, at) => grid.parse(`${grid.boards[index]!.ref}.a${at + 1}`)!).filter(
            (hole) => !used.has(grid.node(hole)),
          ),
        )
        const choice = [...rails, ...free]
        fc.pre(choice.length > 0)
        const hole = grid.name(choice[where % choice.length]!)
        const way = applyEdit(plan, { do: 'lead-over', end, hole })
        const after = layOut(resolve(way, catalog))
        fc.pre(after.stray.length + after.blocked.length === 0)
        if (after.refused.length > 0) return
        led += 1
        expect(torn(way, after)).toEqual([])
        const at = after.wires.filter(({ holeA, holeB }) =>
          [holeA, holeB].some((one) => one !== undefined && grid.name(one) === hole),
        )
        const own = after.holeOf.get(end)
        const stands = own !== undefined && grid.node(own) === grid.node(grid.parse(hole)!)
        if (!stands) expect(at).toHaveLength(1)
      }),
      { numRuns: times(12), seed: 7 },
    )
    expect(led).toBeGreaterThan(6)
  }, 120_000)

  const plan = planOf({
    mcu: 'nano-v3',
    parts: { LAMP: 'led', R1: 'resistor', KEY: 'button' },
    wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND, KEY.1 MCU.D2, KEY.2 MCU.GND',
    bench: {
      breadboards: { BB1: { kind: 'full' } },
      places: { MCU: { at: 'BB1.c1' }, LAMP: { legs: { A: 'BB1.a40', K: 'BB1.a42' } }, KEY: { at: 'BB1.e50' } },
    },
  })
  const over = (end: string, hole: string): Layout =>
    layOut(resolve(applyEdit(plan, { do: 'lead-over', end, hole }), catalog))

  it('passes an empty row, and from there goes on', () => {
    const layout = over('KEY.1', 'BB1.a30')
    expect(layout.refused).toEqual([])
    const through = layout.wires.filter(({ holeA, holeB }) =>
      [holeA, holeB].some((hole) => hole !== undefined && rowOf(hole) === 30 && columnOf(hole) < 5),
    )
    expect(through).toHaveLength(2)
  })
  it.each([
    ['KEY.1', 'BB1.a40', /a40 holds LAMP.A already|row 40 a–e carries/],
    ['KEY.1', 'BB1.e3', /row 3 a–e carries the net/],
    ['KEY.1', 'BB1.L+3', /left \+ rail carries no net/],
    ['KEY.1', 'BB1.a63', undefined],
  ])('of %s over %s is refused with %s', (end, hole, text) => {
    const { refused } = over(end, hole)
    if (text === undefined) expect(refused).toEqual([])
    else expect(refused).toEqual([{ end, hole, text: expect.stringMatching(text) }])
  })
  it('is said as a fault where that cannot be, with a way out', () => {
    const wiring = resolve(applyEdit(plan, { do: 'lead-over', end: 'KEY.1', hole: 'BB1.b40' }), catalog)
    const found = check(wiring, allRules)
    const finding = found.find(({ rule }) => rule === 'hole-clash')!
    expect(finding.message).toMatch(/^The wire of KEY\.1 cannot be led over BB1\.b40/)
    expect(fixesFor(wiring, finding, found)[0]?.edits).toEqual([{ do: 'lead-over', end: 'KEY.1', hole: null }])
  })
})

it('rows that are kept free hold nothing, but what the maker puts there', () => {
  const plan = planOf({
    mcu: 'nano-v3',
    parts: { LAMP: 'led', R1: 'resistor', LAMP2: 'led', R2: 'resistor', KEY: 'button' },
    wires:
      'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND, LAMP2.A R2.1, R2.2 MCU.D6, LAMP2.K MCU.GND, KEY.1 MCU.D2, KEY.2 MCU.GND',
    bench: { breadboards: { BB1: { kind: 'full', reserved: [[20, 40]] } }, places: {} },
  })
  const within = ({ holeOf, wires }: Layout): number[] =>
    [...holeOf.values(), ...wires.flatMap(({ holeA, holeB }) => [holeA, holeB])]
      .filter((hole) => hole !== undefined && !isRail(hole))
      .map((hole) => rowOf(hole!))
      .filter((row) => row >= 20 && row <= 40)
  const layout = layOut(resolve(plan, catalog))
  expect(layout.stray).toEqual([])
  expect(within(layout)).toEqual([])
  const put = applyEdit(plan, { do: 'place', ref: 'R1', place: { legs: { '1': 'BB1.a25', '2': 'BB1.a29' } } })
  const after = layOut(resolve(put, catalog))
  expect(after.clashes).toEqual([])
  expect(new Set(within(after))).toEqual(new Set([25, 29]))
})
