import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import type { Plan } from '../plan/planSchema.ts'
import { readPlan } from '../plan/readPlan.ts'
import { catalog } from '../testing/plans.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { keptPrograms, keptScript } from './kept.ts'
import { type RunResult, rehearse } from './run.ts'
import type { Script } from './script.ts'

const sample = (name: string): { readonly plan: Plan; readonly wiring: Wiring } => {
  const read = readPlan(readFileSync(`demo/${name}.markpost.yaml`, 'utf8'), name, catalog)
  if (!read.ok) throw new Error(name)
  return { plan: read.value, wiring: resolve(read.value, catalog) }
}
const boardOf = (wiring: Wiring, ref: string): BoardInstance => wiring.boards.find((one) => one.ref === ref)!
const said = ({ findings }: RunResult): string[] => findings.map(({ kind, line }) => `${kind} ${line}`)
const missed = ({ expectations }: RunResult): string[] =>
  expectations.flatMap(({ came, what, found }) => (came ? [] : [`${what}: ${found}`]))

/** Sample plans keep their programs, and what is expected of them. */
it.each([
  ['1-orchard-hive-watch', 'MCU', 6, []],
  ['2-branch-line-crossing', 'MCU', 13, []],
  ['3-kiln-logger', 'PI', 5, []],
  ['4-two-post-rain-gauge', 'GAUGE', 1, []],
  ['5-mended-by-monday', 'MCU', 0, ['not-able 13', 'read-floating 17', 'not-able 23', 'over-budget 28']],
] as const)('%s runs its program', (name, ref, expected, finds) => {
  const { plan, wiring } = sample(name)
  const programs = keptPrograms(plan)
  expect(Object.keys(programs)).toEqual([ref])
  const result = rehearse(wiring, boardOf(wiring, ref), programs[ref] ?? [], { script: keptScript(plan) })
  expect(said(result)).toEqual(finds)
  expect([result.expectations.length, missed(result)]).toEqual([expected, []])
})

/** The same in the other languages that the board takes: what is expected of it, and what is found. An Uno takes C++ only. */
const others = [
  { name: '1-orchard-hive-watch', ref: 'MCU', file: 'hive_micropython', expected: 6, finds: [] },
  { name: '1-orchard-hive-watch', ref: 'MCU', file: 'hive_circuitpython', expected: 6, finds: [] },
  { name: '3-kiln-logger', ref: 'PI', file: 'kiln_pins', expected: 5, finds: [] },
  { name: '3-kiln-logger', ref: 'PI', file: 'kiln_circuitpython', expected: 5, finds: [] },
  {
    name: '5-mended-by-monday',
    ref: 'MCU',
    file: 'weather_micropython',
    expected: 0,
    finds: ['read-floating 16', 'not-able 17', 'not-able 25', 'over-budget 30'],
  },
  {
    name: '5-mended-by-monday',
    ref: 'MCU',
    file: 'weather_circuitpython',
    expected: 0,
    finds: ['not-able 12', 'read-floating 20', 'read-floating 24', 'not-able 30', 'over-budget 34'],
  },
] as const
it.each(others)('$name with $file', ({ name, ref, file, expected, finds }) => {
  const { plan, wiring } = sample(name)
  const files = [{ name: `${file}.py`, text: readFileSync(`demo/programs/${file}.py`, 'utf8') }]
  const script = keptScript(plan) ?? { rehearsal: 1, seconds: 6, steps: [] }
  const result = rehearse(wiring, boardOf(wiring, ref), files, { script })
  expect(said(result)).toEqual(finds)
  expect([result.expectations.length, missed(result)]).toEqual([expected, []])
})

/** The same day in the meadow, whatever the post is programmed in. */
it.each(['micropython', 'circuitpython'])('the rain gauge in %s', (language) => {
  const { plan, wiring } = sample('4-two-post-rain-gauge')
  const name = `gauge_${language}.py`
  const script: Script = { rehearsal: 1, seconds: 6, steps: [] }
  for (const step of keptScript(plan)?.steps ?? [])
    script.steps.push(step.expect ? { at: step.at, expect: { serial: '0.6 mm' } } : step)
  const files = [{ name, text: readFileSync(`demo/programs/${name}`, 'utf8') }]
  const result = rehearse(wiring, boardOf(wiring, 'GAUGE'), files, { script })
  expect([said(result), missed(result)]).toEqual([[], []])
  expect(result.printed.some(({ text }) => text === 'no climate')).toBe(false)
})
