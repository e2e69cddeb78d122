import loadHighs from 'highs'
import { expect, it } from 'vitest'
import { assign } from '../core/assign/assign.ts'
import { conflictOf } from '../core/assign/conflict.ts'
import { openSignals, prepare } from '../core/assign/preparing.ts'
import { search } from '../core/assign/search.ts'
import { NO_PIN, SearchProblem } from '../core/assign/searchProblem.ts'
import { seeded } from '../core/base/random.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { catalog } from '../core/testing/plans.ts'
import { busNeed } from '../core/wiring/buses.ts'
import type { SignalUse } from '../core/wiring/model.ts'
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
    const problem = new SearchProblem(wiring, openSignals(wiring))
    const { best, proven } = search(problem)
    const highs = await loadHighs()
    const general = highs.solve(asIntegerProgram(problem), { mip_rel_gap: 0, mip_abs_gap: 0 })
    expect(general.Status).toBe('Optimal')
    expect(proven).toBe(true)
    expect(best.extra).toBeCloseTo(general.ObjectiveValue, 1)
  }
})

// The last board has more UARTs than such a kit asks for.
it.each(boards.slice(0, -1))(
  'on %s what is said to collide does, and nothing less, by a general solver',
  async (board) => {
    const { wiring } = prepare(resolve(generatedKit(catalog, board, 14, 'impossible', 3), catalog))
    const open = openSignals(wiring)
    const needs = conflictOf(wiring, open)?.needs ?? []
    expect(needs.length).toBeGreaterThan(0)
    const uses = open.filter((use) => needs.includes(use.end))
    const allPlaced = async (some: readonly SignalUse[]): Promise<boolean> => {
      const highs = await loadHighs()
      return (
        highs.solve(asIntegerProgram(new SearchProblem(wiring, some)), { mip_rel_gap: 0 }).ObjectiveValue < NO_PIN / 2
      )
    }
    expect(await allPlaced(uses)).toBe(false)
    // Bus lines of a part are placed together, everything else by itself.
    const unit = (use: SignalUse): string => {
      const need = busNeed(use.facts.needs)
      return need && need.signal !== 'cs' ? `${use.part.ref} ${need.kind}` : use.end
    }
    for (const one of new Set(uses.map(unit))) {
      const rest = uses.filter((use) => unit(use) !== one)
      if (rest.length > 0) expect(await allPlaced(rest), `without ${one}`).toBe(true)
    }
  },
)

it.each(boards)('on %s every signal is placed or left, no pin carries two lines, and points agree', (board) => {
  for (const kind of ['loose', 'tight', 'impossible'] as const) {
    const { wiring } = prepare(resolve(generatedKit(catalog, board, 45, kind, 5), catalog))
    const open = openSignals(wiring)
    const { best } = search(new SearchProblem(wiring, open), (steps) => steps > 2000)
    const ends = [...best.placed.map(({ use }) => use.end), ...best.left.map((use) => use.end)]
    expect(ends.sort()).toEqual(open.map((use) => use.end).sort())
    const lines = new Map<string, string>()
    for (const { use, host, lane } of best.placed) {
      const line = lane ? `${lane.key} ${use.facts.needs}` : use.end
      expect(lines.get(host.end) ?? line).toBe(line)
      lines.set(host.end, line)
    }
    expect(best.extra / NO_PIN).toBeCloseTo(best.left.length, 0)
  }
})

it('that one part must be lost where a bus and a UART want the same pins is soon proven', () => {
  // Ten times as many steps and more before what was left out had its price: 26,816.
  const { wiring } = prepare(resolve(generatedKit(catalog, 'teensy-4-1', 60, 'impossible', 7_220_011), catalog))
  const { best, proven, steps } = search(new SearchProblem(wiring, openSignals(wiring)))
  expect(proven).toBe(true)
  expect(best.left.length).toBe(1)
  expect(steps).toBeLessThan(2000)
})
