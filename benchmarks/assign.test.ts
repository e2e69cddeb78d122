import loadHighs from 'highs'
import { expect, it } from 'vitest'
import { assign, openSignals, prepare } from '../core/assign/assign.ts'
import { Problem } from '../core/assign/problem.ts'
import { search } from '../core/assign/search.ts'
import { seeded } from '../core/breadboard/random.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { catalog } from '../core/testing/plans.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { generatedKit } from './assignKits.ts'
import { asIntegerProgram } from './assignModel.ts'

const boards = ['uno-r3', 'esp32-devkit-30', 'pico', 'nucleo-f446re', 'stm32f103-bluepill', 'teensy-4-1'] as const

it.each(boards)('on %s a kit half wired by hand is finished at the cost of a general solver', async (board) => {
  for (const kind of ['tight', 'impossible'] as const) {
    const kit = generatedKit(catalog, board, 14, kind, 7)
    const random = seeded(11)
    const whole = applyEdits(kit, assign(resolve(kit, catalog)).edits)
    const half = { ...whole, wires: whole.wires.filter(() => random() < 0.6) }
    const { wiring } = prepare(resolve(half, catalog))
    const problem = new Problem(wiring, openSignals(wiring))
    const { best, proven } = search(problem)
    const highs = await loadHighs()
    const general = highs.solve(asIntegerProgram(problem), { mip_rel_gap: 0, mip_abs_gap: 0 })
    expect(general.Status).toBe('Optimal')
    expect(proven).toBe(true)
    expect(best.extra).toBeCloseTo(general.ObjectiveValue, 1)
  }
})
