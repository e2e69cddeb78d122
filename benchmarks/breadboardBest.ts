/**
 * Small kits laid out, beside the best of all places: every spot of everything that has a body, but of the board, is tried
 * with every spot of the rest, all wires led each time. Numbers only. Run with `npm run bench:best`.
 */
import fc from 'fast-check'
import { assign } from '../core/assign/assign.ts'
import { layOut } from '../core/breadboard/layout.ts'
import { Placement } from '../core/breadboard/placing.ts'
import type { Movable } from '../core/breadboard/settle.ts'
import { priceOf, Workbench } from '../core/breadboard/workbench.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { addParts } from '../core/plan/kit.ts'
import { emptyPlan, type Plan } from '../core/plan/planSchema.ts'
import { catalog } from '../core/testing/plans.ts'
import { resolve } from '../core/wiring/resolve.ts'

const KITS = 12
/** Kits with more places than that to be tried are left out. */
const MOST = 16_000
/** A price that only a wire that finds no hole comes to. */
const NOT_WIRED = 1500

const small = [...catalog.parts.values()].filter(({ footprint }) => {
  const pins = 'pins' in footprint ? footprint.pins.length : 99
  return footprint.kind === 'in-line' && pins >= 3 && pins <= 8
})
const legged = ['led', 'resistor', 'button', 'capacitor'].flatMap((id) => catalog.parts.get(id) ?? [])
const kit = fc.record({
  board: fc.constantFrom('nano-v3', 'pico', 'esp32-c3-supermini', 'xiao-esp32c3'),
  bodies: fc.array(fc.constantFrom(...small), { minLength: 2, maxLength: 2 }),
  others: fc.array(fc.constantFrom(...legged), { minLength: 0, maxLength: 3 }),
})

/** The best price of all spots of the movables from one on, none of which stands anywhere. */
function bestFrom(movables: readonly Movable<unknown>[], at: number, price: () => number): number {
  const one = movables[at]
  if (!one) return price()
  let best = Number.POSITIVE_INFINITY
  for (const spot of one.all()) {
    if (!one.isFree(spot)) continue
    one.stand(spot)
    best = Math.min(best, bestFrom(movables, at + 1, price))
    one.leave()
  }
  return best
}

const ratios: number[] = []
for (const { board, bodies, others } of fc.sample(kit, { seed: 20261127, numRuns: 200 })) {
  if (ratios.length === KITS) break
  let plan: Plan = { ...emptyPlan('small'), boards: { MCU: { board } } }
  for (const part of [...bodies, ...others]) plan = applyEdits(plan, addParts(plan, catalog, part, 1))
  plan = applyEdits(plan, assign(resolve(plan, catalog)).edits)
  if (Object.keys(plan.parts).length > 6) continue
  plan = { ...plan, bench: { breadboards: { BB1: { kind: 'half' } }, places: {}, done: [] } }
  const wiring = resolve(plan, catalog)
  const bench = new Workbench(wiring)
  const placement = new Placement(bench.room(), 0)
  const movables = placement.movables.filter(
    // A board keeps its place at the end where its socket is.
    (one) => one.pins.length > 0 && !('body' in one && one.body.kind === 'straddle' && one.body.isBoard),
  ) as Movable<unknown>[]
  const places = movables.reduce((product, one) => product * (one.all().length || 1), 1)
  if (places > MOST || movables.length < 2) continue
  const ours = priceOf(layOut(wiring))
  for (const one of movables) one.leave()
  const best = bestFrom(movables, 0, () => priceOf(bench.complete((room) => placement.placeIn(room))))
  if (best <= 0 || best > NOT_WIRED) continue
  ratios.push(ours / best)
  console.log(
    `${board}, ${Object.values(plan.parts)
      .map(({ part }) => part)
      .join(
        ' ',
      )}: ${places} places, ours ${ours.toFixed(0)}, best ${best.toFixed(0)}, ${((ours / best - 1) * 100).toFixed(1)} % above`,
  )
}
const sorted = [...ratios].sort((a, b) => a - b)
const percent = (ratio: number): string => `${((ratio - 1) * 100).toFixed(1)} %`
console.log(
  `\n${ratios.length} kits: above the best of all places by ${percent(sorted[Math.floor(sorted.length / 2)]!)} in the middle, ${percent(sorted.at(-1)!)} at most`,
)
