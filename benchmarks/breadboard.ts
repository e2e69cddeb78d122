/**
 * Lays out the sample plans and fifty random kits, ours beside a plain placing into the next free rows; both get their
 * wires from the same router. Numbers only. Run with `npm run bench:breadboard`.
 */
import fc from 'fast-check'
import { assign } from '../core/assign/assign.ts'
import { holeAt } from '../core/breadboard/grid.ts'
import { layOut } from '../core/breadboard/layout.ts'
import type { Placer } from '../core/breadboard/placing.ts'
import { legsSeat, rowSeat, type Seat, straddleSeat, straddles } from '../core/breadboard/seats.ts'
import { suggestBreadboards } from '../core/breadboard/suggest.ts'
import type { Unit } from '../core/breadboard/units.ts'
import { Workbench } from '../core/breadboard/workbench.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { addParts } from '../core/plan/kit.ts'
import { emptyPlan, type Plan } from '../core/plan/planSchema.ts'
import { catalog } from '../core/testing/plans.ts'
import { randomKit } from '../core/testing/randomPlans.ts'
import { samplePlans } from '../core/testing/samples.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { postsOfBoards, postsOfOthers } from './plainPosts.ts'

/** Everything in plan order, each into the first rows that are free from the top, left half first. */
const nextFreeRow: Placer = ({ wiring, grid, occupancy, open, seated, rails, boardsFor, holeOf }) => {
  const seats: Seat[] = []
  const unplaced: Unit[] = []
  const wired = (pins: readonly (string | null)[], ref: string): number =>
    pins.filter((pin) => pin !== null && wiring.netOf(`${ref}.${pin}`).wired).length
  for (const unit of open) {
    if (unit.kind !== 'straddle' && unit.kind !== 'row' && unit.kind !== 'legs') continue
    const seat = boardsFor(unit.ref)
      .flatMap((board) =>
        Array.from({ length: grid.boards[board]!.rows }, (_, at) => at + 1).flatMap((row): (Seat | undefined)[] => {
          if (unit.kind === 'row') return [0, 9].map((column) => rowSeat(grid, unit, holeAt(board, row, column), false))
          if (unit.kind === 'legs')
            return [2, 7].map((column) =>
              row + Math.ceil(unit.least) > grid.boards[board]!.rows
                ? undefined
                : legsSeat(grid, unit, holeAt(board, row, column), holeAt(board, row + Math.ceil(unit.least), column)),
            )
          return straddles(grid, board, unit.rowsApart)
            .sort(
              (a, b) =>
                Math.min(b.freeRight, wired(unit.right, unit.ref)) +
                Math.min(b.freeLeft, wired(unit.left, unit.ref)) -
                Math.min(a.freeRight, wired(unit.right, unit.ref)) -
                Math.min(a.freeLeft, wired(unit.left, unit.ref)),
            )
            .slice(0, 1)
            .map((columns) => straddleSeat(grid, unit, board, columns, row, false))
        }),
      )
      .find(
        (one) =>
          one !== undefined &&
          !occupancy.refusal(one) &&
          one.legs.every(({ hole }) => occupancy.isEmpty(grid.node(hole))),
      )
    if (!seat) {
      unplaced.push(unit)
      continue
    }
    occupancy.take(seat)
    for (const { pin, hole } of seat.legs) holeOf.set(`${seat.ref}.${pin}`, hole)
    seats.push(seat)
  }
  const units = [...seated, ...open]
  const boardPosts = postsOfBoards(units)
  const others = postsOfOthers(wiring, grid, units, boardPosts, rails, holeOf)
  return { seats, posts: new Map([...boardPosts, ...others]), asides: new Map(), unplaced }
}

const table: string[][] = [
  [
    'plan',
    'parts',
    'breadboards',
    'ms',
    'wires',
    'pitches',
    'crossings',
    'next free row: wires',
    'pitches',
    'crossings',
  ],
]
const totals = { ours: [0, 0, 0], plain: [0, 0, 0] }
const times: { parts: number; ms: number }[] = []

function compare(title: string, wired: Plan): void {
  const plan = applyEdits(wired, suggestBreadboards(wired, catalog))
  const runs = [1, 2, 3].map(() => {
    const wiring = resolve(plan, catalog)
    const start = performance.now()
    layOut(wiring)
    return performance.now() - start
  })
  const ms = runs.sort((a, b) => a - b)[1]!
  const wiring = resolve(plan, catalog)
  const ours = layOut(wiring)
  const plain = new Workbench(wiring).complete(nextFreeRow, false)
  times.push({ parts: wiring.parts.length, ms })
  // Compared only where both find a place for everything.
  const both = [ours, plain].every((one) => one.stray.length + one.blocked.length === 0)
  const figures = (one: typeof ours): number[] => [one.wires.length, Math.round(one.stats.pitches), one.stats.crossings]
  if (both) {
    for (const [at, value] of figures(ours).entries()) totals.ours[at]! += value
    for (const [at, value] of figures(plain).entries()) totals.plain[at]! += value
  }
  table.push([
    title,
    `${wiring.parts.length}`,
    Object.values(plan.bench?.breadboards ?? {})
      .map(({ kind, joined }) => (joined ? `+${kind}` : kind))
      .join(' '),
    ms.toFixed(0),
    ...figures(ours).map(String),
    ...(both ? figures(plain).map(String) : ['does not fit', '', '']),
  ])
}

const assigned = (kit: Plan): Plan => applyEdits(kit, assign(resolve(kit, catalog)).edits)

for (const { plan } of samplePlans) compare(plan.title, plan)
for (const [index, kit] of fc.sample(randomKit, { seed: 20261125, numRuns: 50 }).entries())
  compare(`random ${index + 1}, ${kit.boards.MCU!.board}`, assigned(kit))

console.log(table.map((row) => `| ${row.join(' | ')} |`).join('\n'))
console.log(
  `\nwhere both fit: wires, pitches, crossings: ours ${totals.ours.join(', ')}; next free row ${totals.plain.join(', ')}`,
)

console.log('\nTime by number of parts, one board and parts drawn from the catalogue:')
for (const count of [10, 20, 30, 40]) {
  const small = [...catalog.parts.values()].filter((part) => part.pins.length <= 10)
  const samples = fc
    .sample(fc.array(fc.constantFrom(...small), { minLength: count, maxLength: count }), { seed: count, numRuns: 12 })
    .map((kit) => {
      let plan: Plan = { ...emptyPlan('sized'), boards: { MCU: { board: 'mega-2560-r3' } } }
      for (const part of kit)
        if (Object.keys(plan.parts).length < count) plan = applyEdits(plan, addParts(plan, catalog, part, 1))
      plan = assigned(plan)
      plan = applyEdits(plan, suggestBreadboards(plan, catalog))
      const wiring = resolve(plan, catalog)
      const start = performance.now()
      layOut(wiring)
      return performance.now() - start
    })
    .sort((a, b) => a - b)
  console.log(`${count} parts: median ${samples[6]!.toFixed(0)} ms, slowest ${samples.at(-1)!.toFixed(0)} ms`)
}
